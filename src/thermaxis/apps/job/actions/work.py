"""Begin a job, tick its steps, write down readings, choose schools, say what it costs, give it up."""

from __future__ import annotations

import dataclasses
import datetime as dt
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from django.utils import timezone

from thermaxis.apps.accounts.models import Reach
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.fitted.models import Intended, PadSet
from thermaxis.apps.fitted.offering import parts_of
from thermaxis.apps.fitted.parts import AXLES
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.job.building import Worked, tick_of, worked
from thermaxis.apps.job.models import Job, JobTick, JobValue
from thermaxis.apps.log.act import Entry, act, must_be
from thermaxis.apps.log.action import DRIVERS, Action
from thermaxis.core.checked import check_text
from thermaxis.core.errors import Bounds, FieldError, SolveError
from thermaxis.core.messages import job as say
from thermaxis.core.planning.job import schools
from thermaxis.core.planning.job.fasteners import MOST_NM
from thermaxis.core.planning.job.library import WORKS
from thermaxis.core.planning.job.ticking import why_blocked, why_not_reached, why_not_rechecked
from thermaxis.core.said import Said

START_JOB = Action("start_job", "Job begun", kind="job", roles=DRIVERS)
MARK_STEPS = Action("mark_steps", "Steps ticked", kind="job", roles=DRIVERS, nearby=True, quiet=True)
WRITE_JOB_VALUES = Action(
    "write_job_values",
    "Readings of a job written",
    kind="job",
    roles=DRIVERS,
    keys=Reach.READINGS,
    nearby=True,
    quiet=True,
)
CHOOSE_OPTION = Action("choose_option", "Way of a job chosen", kind="job", roles=DRIVERS, nearby=True)
SAY_COST = Action("say_cost", "Cost of a job said", kind="job", roles=DRIVERS)
WRITE_JOB_NOTE = Action("write_job_note", "Note of a job written", kind="job", roles=DRIVERS, nearby=True)
ABANDON_JOB = Action("abandon_job", "Job given up", kind="job", roles=DRIVERS, begun_by_self=True)

KINDS = ("done", "words", "open", "recheck")
SOURCES = ("hand", "wrench")
LONGEST_WORDS, LONGEST_NOTE = 200, 4000
MOST_MONEY = 1e6
# Readings by the beginning of their names: bounds in SI.
VALUES: dict[str, tuple[float, float]] = {
    "level": (0.0, 1.25),
    "strokes": (0.0, 2000.0),
    "clicks": (0.0, 60.0),
    "pad": (0.0, 0.05),
    "ring": (0.0, 0.1),
    "ring_C": (-40.0, 1200.0),
}
# How far a device's clock may go before the server's.
AHEAD = dt.timedelta(minutes=2)


@dataclass(frozen=True, kw_only=True)
class Mark:
    """One thing said of a step: done, in words, open again, or checked again; `at` by the device's clock."""

    key: str
    kind: str
    words: str = ""
    torque_Nm: float | None = None
    source: str = "hand"
    at: dt.datetime | None = None


@dataclass(frozen=True, kw_only=True)
class Marked:
    """Marks that were not taken, by the place they came in, with why."""

    refused: dict[int, Said] = field(default_factory=dict)


def start_job(scope: Scope, machine: Machine, axle: str, work: str, pad_set: PadSet | None = None) -> Job:
    """Begin a job on an axle; where one is open there it is gone on with, so that a repeated request makes no second.

    What goes on is the set somebody said under Fit; a swap takes `pad_set` off the shelf. FieldError for a work or an
    axle there is not, SolveError where nothing was said to go on.
    """
    with act(scope, START_JOB, machine) as entry:
        if axle not in AXLES:
            raise FieldError("axle", axle, "front or rear")
        if work not in WORKS:
            raise FieldError("work", work, "one of " + ", ".join(WORKS))
        open_one = Job.objects.open().filter(machine=machine, axle=axle).first()
        if open_one is not None:
            if open_one.work != work:
                raise SolveError("Another job is open on this axle: close it or give it up first.")
            entry.nothing = True
            return open_one
        job = Job(
            workshop=scope.workshop,
            machine=machine,
            axle=axle,
            work=work,
            key=_key(machine, work),
            pad_set=pad_set,
            started_at=timezone.now(),
            started_by=scope.user.get_username(),
        )
        if work == "swap" and pad_set is None:
            raise FieldError("pad_set_id", None, "a pad set of the shelf")
        job.save()
        entry.about(job)
    return job


def _key(machine: Machine, work: str) -> str:
    """The set that goes on: what was said under Fit for pads and rotors, else what is on."""
    if work not in ("pads", "pads_rotors"):
        return ""
    standing = standing_of(machine)
    row = Intended.objects.filter(machine=machine).first()
    if row is None:
        raise SolveError("Say under Fit first which parts are to go on.")
    parts = parts_of(standing, row.key)
    if parts is None:
        raise SolveError("The set that was to go on is offered no more: say under Fit which is.")
    if work == "pads":
        # Only pads go on: the rings stay.
        on_it = standing.parts
        parts = parts.with_rotors("front", on_it.front_rotor).with_rotors("rear", on_it.rear_rotor)
    return parts.key


def mark(scope: Scope, job: Job, marks: Sequence[Mark]) -> Marked:
    """Take what is said of steps, in the order given; what is blocked is refused with why, without holding up the rest.

    Said again it changes nothing, so a device may repeat what it does not know to have arrived.
    """
    found = Marked()
    with act(scope, MARK_STEPS, job) as entry:
        must_be_open(job)
        now, sheet = worked(job), _Ticks(job)
        now = dataclasses.replace(now, state=dataclasses.replace(now.state, ticks=sheet.said))
        for place, one in enumerate(marks):
            # Each sees what the one before has changed.
            refused = _mark(scope, now, sheet, one, entry)
            if refused is not None:
                found.refused[place] = refused
        getattr(job, "_prefetched_objects_cache", {}).pop("ticks", None)
        entry.about(job)
    return found


class _Ticks:
    """The ticks of a job while marks come in: its rows, and what they say, kept alike."""

    def __init__(self, job: Job) -> None:
        self.job = job
        self.rows = {row.key: row for row in JobTick.objects.filter(job=job)}
        self.said = {key: tick_of(row) for key, row in self.rows.items()}

    def keep(self, row: JobTick) -> None:
        """Write a row down in the place of the one before."""
        row.save()
        self.rows[row.key], self.said[row.key] = row, tick_of(row)

    def drop(self, key: str) -> None:
        """Take back what was said of a step."""
        row = self.rows.pop(key, None)
        self.said.pop(key, None)
        if row is not None:
            row.delete()


def _mark(scope: Scope, now: Worked, ticks: _Ticks, one: Mark, entry: Entry) -> Said | None:
    job = now.job
    if one.kind not in KINDS:
        raise FieldError("kind", one.kind, "one of " + ", ".join(KINDS))
    if one.source not in SOURCES:
        raise FieldError("source", one.source, "one of " + ", ".join(SOURCES))
    if one.torque_Nm is not None and not 0 < one.torque_Nm <= MOST_NM:
        raise FieldError.outside("torque_Nm", one.torque_Nm, Bounds(least=0, above=True, most=MOST_NM))
    step = now.sheet.step(one.key)
    if step is None:
        return say.NOT_A_STEP()
    words = _words("words", one.words, LONGEST_WORDS)
    row = ticks.rows.get(one.key)
    at = _when(job, one.at)
    who = scope.user.get_username()
    if one.kind == "open":
        if row is not None:
            ticks.drop(one.key)
            entry.changed(f"step.{one.key}", "done" if row.done else row.words, None)
        return None
    if one.kind == "recheck":
        refused = why_not_rechecked(step, now.state)
        if refused is not None:
            return refused
        if row is not None and row.rechecked_at is None:
            row.rechecked_at, row.rechecked_by = at, who
            ticks.keep(row)
            entry.changed(f"step.{one.key}.rechecked", None, who)
        return None
    if one.kind == "words" and not words:
        raise FieldError("words", one.words, "why it is not done, in words")
    done = one.kind == "done"
    torque = one.torque_Nm
    fastener = now.state.fasteners.get(step.step.fastener)
    if done and step.step.tighten and torque is None and fastener is not None:
        torque = fastener.torque_Nm
    refused = why_blocked(now.sheet, step, now.state, words="" if done else words)
    refused = refused or (why_not_reached(step, now.state, torque) if done else None)
    if refused is not None:
        return refused
    if row is not None and (row.done, row.words, row.torque_Nm) == (done, words, torque):
        return None
    before = None if row is None else "done" if row.done else row.words
    entry.changed(f"step.{one.key}", before, "done" if done else words)
    ticks.drop(one.key)
    ticks.keep(
        JobTick(
            job=job,
            key=one.key,
            done=done,
            words=words,
            torque_Nm=torque if done else None,
            source=one.source,
            user=scope.user,
            by=who,
            at=at,
        )
    )
    return None


def _when(job: Job, at: dt.datetime | None) -> dt.datetime:
    """When something was done by the device's clock, within the job; else now."""
    now = timezone.now()
    if at is None or at.tzinfo is None or not job.started_at <= at <= now + AHEAD:
        return now
    return min(at, now)


def _words(name: str, text: str, most: int) -> str:
    text = text.strip()
    if len(text) > most:
        raise FieldError(name, text[:40], f"at most {most} characters")
    check_text(name, text)
    return text


def must_be_open(job: Job) -> None:
    """SolveError where a job is closed or given up."""
    if job.closed_at is not None:
        raise SolveError("This job is closed: reopen it first.")
    if job.abandoned_at is not None:
        raise SolveError("This job was given up: take it up again first.")


def write_values(scope: Scope, job: Job, values: Mapping[str, float | None], seen: Mapping[str, float | None]) -> Job:
    """Write readings down by their names, SI; None takes one back. All or none.

    FieldError for a name or a value there is not, Clash where one is not as it was `seen`.
    """
    with act(scope, WRITE_JOB_VALUES, job) as entry:
        must_be_open(job)
        kept = {row.name: row.value for row in job.values.all()}
        must_be({name: kept.get(name) for name in values}, seen, values)
        for name, value in values.items():
            low, high = bounds_of(job, name)
            if value is not None and not (math.isfinite(value) and low <= value <= high):
                raise FieldError.outside(f"values.{name}", value, Bounds(least=low, most=high))
            entry.changed(f"value.{name}", kept.get(name), value)
            if value is None:
                job.values.filter(name=name).delete()
            else:
                JobValue.objects.update_or_create(job=job, name=name, defaults={"value": value})
        entry.about(job)
    getattr(job, "_prefetched_objects_cache", {}).pop("values", None)
    return job


def bounds_of(job: Job, name: str) -> tuple[float, float]:
    """Between what a reading lies, in SI. FieldError for one no job has."""
    corners = ["", "left", "right", *(f"{axle}_{side}" for axle in AXLES for side in ("left", "right")), *AXLES]
    kind, _, rest = name.partition(".")
    places = {
        "level": ("",),
        "clicks": ("",),
        "strokes": corners,
        "ring": corners,
        "ring_C": corners,
        "pad": [f"{corner}.{pad}".strip(".") for corner in corners for pad in ("inner", "outer")],
    }
    if kind not in VALUES or rest not in places[kind]:
        raise FieldError(f"values.{name}"[:80], None, "a reading of a job: " + ", ".join(VALUES))
    return VALUES[kind]


def choose_option(scope: Scope, job: Job, point: str, option: str) -> Job:
    """Take another school on a point; empty is the default again. FieldError for a point or option there is not."""
    with act(scope, CHOOSE_OPTION, job) as entry:
        must_be_open(job)
        if option:
            schools.checked(point, option)
        elif point not in schools.options():
            raise FieldError("point", point, "one of " + ", ".join(schools.options()))
        before = job.schools.get(point, "")
        entry.changed(f"school.{point}", before, option)
        rest = {name: kept for name, kept in job.schools.items() if name != point}
        job.schools = {**rest, point: option} if option else rest
        job.save(update_fields=["schools"])
        entry.about(job)
    return job


COSTS = ("rate_per_hour", "quote", "parts_price", "consumables_price")


def say_cost(scope: Scope, job: Job, costs: Mapping[str, float | None], seen: Mapping[str, float | None]) -> Job:
    """Say what an hour, the shop, parts and consumables cost; None where nobody knows. FieldError, Clash."""
    with act(scope, SAY_COST, job) as entry:
        kept = {name: getattr(job, name) for name in COSTS}
        for name, value in costs.items():
            if name not in COSTS:
                raise FieldError(f"costs.{name}"[:60], value, "one of " + ", ".join(COSTS))
            if value is not None and not (math.isfinite(value) and 0 <= value <= MOST_MONEY):
                raise FieldError.outside(f"costs.{name}", value, Bounds(least=0, most=MOST_MONEY))
        must_be({name: kept[name] for name in costs}, seen, costs)
        for name, value in costs.items():
            entry.changed(f"cost.{name}", kept[name], value)
        job.rate_per_hour = costs.get("rate_per_hour", job.rate_per_hour)
        job.quote = costs.get("quote", job.quote)
        job.parts_price = costs.get("parts_price", job.parts_price)
        job.consumables_price = costs.get("consumables_price", job.consumables_price)
        job.save(update_fields=list(COSTS))
        entry.about(job)
    return job


def write_note(scope: Scope, job: Job, note: str, seen: str) -> Job:
    """Write a note; Clash where somebody else has written another since it was `seen`."""
    with act(scope, WRITE_JOB_NOTE, job) as entry:
        note = _words("note", note, LONGEST_NOTE)
        must_be({"note": job.note}, {"note": seen}, {"note": note})
        entry.changed("note", job.note, note)
        job.note = note
        job.save(update_fields=["note"])
        entry.about(job)
    return job


def set_abandoned(scope: Scope, job: Job, abandoned: bool) -> Job:
    """Give a job up, or take it up again: nothing of the machine changes. SolveError for a closed one."""
    with act(scope, ABANDON_JOB, job) as entry:
        if job.closed_at is not None:
            raise SolveError("This job is closed: reopen it first.")
        others = Job.objects.open().filter(machine=job.machine, axle=job.axle).exclude(pk=job.pk)
        if not abandoned and others.exists():
            raise SolveError("Another job is open on this axle by now.")
        entry.changed("abandoned", job.abandoned_at is not None, abandoned)
        if abandoned != (job.abandoned_at is not None):
            job.abandoned_at = timezone.now() if abandoned else None
            job.save(update_fields=["abandoned_at"])
        entry.about(job)
    return job
