"""Close a job: what came off, what went on, what was read, all at once or not at all; and open it again."""

from __future__ import annotations

import dataclasses
import datetime as dt
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from django.db.models import QuerySet
from django.utils import timezone

from thermaxis import __version__
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.fitted.actions.date_fitting import check_day
from thermaxis.apps.fitted.actions.fit_hoses import fit_hoses
from thermaxis.apps.fitted.actions.measure import MOST_KM, move_on
from thermaxis.apps.fitted.actions.mount import new_pads, new_rotors, pour, put_pads_on, put_rotors_on, take_back
from thermaxis.apps.fitted.models import FluidFill, Hose, PadReading, PadSet, RotorPair, RotorReading
from thermaxis.apps.garage.duty_mapping import duty_or_error
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.job.building import PUTS_ON, Worked, worked
from thermaxis.apps.job.models import Job
from thermaxis.apps.log.act import Entry, act
from thermaxis.apps.log.action import DRIVERS, Action
from thermaxis.apps.log.models import LogEntry
from thermaxis.core.errors import Bounds, FieldError, SolveError
from thermaxis.core.planning.job.ticking import against_closing

CLOSE_JOB = Action(
    "close_job",
    "Job closed",
    kind="job",
    roles=DRIVERS,
    begun_by_self=True,
    taken_back_with="A job put this set on: reopen the job to take it back.",
)
REOPEN_JOB = Action("reopen_job", "Job opened again", kind="job", roles=DRIVERS, begun_by_self=True)
BOLTS_DONE = Action("bolts_done", "Wheel bolts checked again", kind="job", roles=DRIVERS)

BOLTS_AGAIN_KM = 100.0
"""After so far wheel bolts are tightened once more (estimate)."""
WHERE = ("shelf", "scrap")
LONGEST_REASON = 200


@dataclass(frozen=True, kw_only=True)
class Off:
    """What becomes of what came off: pads and rings to the shelf, or to scrap for a reason."""

    pads: str = "shelf"
    pads_reason: str = ""
    rotors: str = "shelf"
    rotors_reason: str = ""


def close_job(scope: Scope, job: Job, on: dt.date, odometer_km: float, off: Off, content: Mapping[str, Any]) -> Job:
    """Close a job on a day at an odometer; `content` is the sheet as it reads then. Closing twice changes nothing.

    Parts off go to the shelf or to scrap with what was read of them, parts on go on, fluid and hoses are new where
    they were changed, wheel bolts are due again. FieldError where something stands against it.
    """
    with act(scope, CLOSE_JOB, job) as entry:
        if job.closed_at is not None:
            entry.nothing = True
            return job
        if job.abandoned_at is not None:
            raise SolveError("This job was given up: take it up again first.")
        found = worked(job)
        against = against_closing(found.sheet, found.state)
        if against:
            raise FieldError("closed", True, "closed once nothing stands against it", against[0])
        _check(found, on, odometer_km, off)
        machine = job.machine
        move_on(machine, odometer_km)
        job.off = {"pads": off.pads, "rotors": off.rotors, **_read(found, on, odometer_km)}
        if job.work in PUTS_ON:
            job.fitting = _put_on(entry, found, on, odometer_km, off)
        if job.work == "flush":
            fill = pour(machine, found.standing.fill.fluid_id, on, 0.0)
            job.off["fill"] = fill.pk
            entry.about(fill)
        if job.work == "hose":
            before = Hose.objects.filter(machine=machine, axle=job.axle, what="hoses", until_on=None).first()
            hoses = fit_hoses(scope, machine, job.axle, before.kind if before else "rubber", 0.0, on)
            # Hoses said the same day are the same row: there it is their age that is to come back.
            same = before is not None and before.pk == hoses.pk
            job.off["hoses_age" if same else "hoses"] = before.age_months if before and same else hoses.pk
        if machine.kind != "motorcycle" and any(step.step.id == "wheel_on" for step in found.sheet.steps):
            job.bolts_due_km = odometer_km + BOLTS_AGAIN_KM
        job.closed_at, job.closed_on, job.closed_km = timezone.now(), on, odometer_km
        job.content, job.engine_version = dict(content), __version__
        job.save()
        entry.changed("closed", False, True)
        known = [money for money in (job.parts_price, job.consumables_price) if money is not None]
        entry.costs(sum(known) if known else None)
        entry.about(job)
    return job


def _check(found: Worked, on: dt.date, odometer_km: float, off: Off) -> None:
    check_day(found.standing.day, on)
    if not 0 <= odometer_km <= MOST_KM:
        raise FieldError.outside("odometer_km", odometer_km, Bounds(least=0, most=MOST_KM))
    if on < timezone.localdate(found.job.started_at):
        raise FieldError("on", on.isoformat(), "a day not before the job began")
    for name in ("pads", "rotors"):
        where, reason = getattr(off, name), getattr(off, f"{name}_reason")
        if where not in WHERE:
            raise FieldError(f"off.{name}", where, "shelf or scrap")
        if where == "scrap" and not reason.strip():
            raise FieldError(f"off.{name}_reason", reason, "a reason, so that nobody looks for them")
        if len(reason) > LONGEST_REASON:
            raise FieldError(f"off.{name}_reason", reason[:40], f"at most {LONGEST_REASON} characters")


def _read(found: Worked, on: dt.date, km: float) -> dict[str, list[int]]:
    """What was measured of the parts that came off, as their last readings; their numbers, to take them back by."""
    job, mounted = found.job, found.standing.axles[found.job.axle]
    pads, rotors = mounted.pads, mounted.rotors
    made: dict[str, list[int]] = {"pad_readings": [], "rotor_readings": []}
    for row in job.values.all():
        kind, _, rest = row.name.partition(".")
        if kind == "pad":
            reading = PadReading.objects.create(
                workshop=job.workshop,
                pad_set=pads.pad_set,
                mounting=pads,
                size=pads.pad_set.size,
                position=rest,
                measured_on=on,
                odometer_km=km,
                thickness_m=row.value,
            )
            made["pad_readings"].append(reading.pk)
        disc = next((disc for disc in rotors.rotor_pair.discs.all() if disc.side == rest), None)
        if kind == "ring" and disc is not None:
            ring = RotorReading.objects.create(
                workshop=job.workshop,
                disc=disc,
                mounting=rotors,
                size=rotors.rotor_pair.size,
                measured_on=on,
                odometer_km=km,
                thickness_m=row.value,
            )
            made["rotor_readings"].append(ring.pk)
    return made


def _put_on(entry: Entry, found: Worked, on: dt.date, km: float, off: Off) -> LogEntry:
    """Parts off and on, in the size that was measured of those at hand."""
    job, machine, axle = found.job, found.job.machine, found.job.axle
    duty, row = duty_or_error(machine), entry.saved()
    mounted = found.standing.axles[axle]
    fitter = found.fitter
    pads = job.pad_set
    if pads is None:
        part = found.parts.pads(axle)
        measured = fitter.measured_pad(part)
        size = {name: measured[name] for name in ("thickness_m", "backing_m") if name in measured}
        pads = new_pads(machine, dataclasses.replace(part, **size))  # type: ignore[arg-type]
    elif pads.mountings.filter(until_on=None).exists():
        raise SolveError("The set that was to go on is on a machine by now.")
    put_pads_on(machine, axle, pads, on, duty=duty, entry=row, km=km)
    entry.changed(f"{axle}.pads", str(mounted.pads.pad_set), str(pads))
    entry.about(pads)
    _scrap(mounted.pads.pad_set, off.pads, off.pads_reason)
    if job.work == "pads_rotors" and found.check.new_rotors:
        rotors = found.parts.rotors(axle)
        pair = new_rotors(machine, fitter.axles[axle], rotors)
        thick = fitter.measured_rotor(rotors).get("thickness_m")
        if thick is not None:
            pair.size.thickness_m = thick
            pair.size.save(update_fields=["thickness_m"])
        put_rotors_on(machine, axle, pair, on, duty=duty, entry=row, km=km)
        entry.changed(f"{axle}.rotors", str(mounted.rotors.rotor_pair), str(pair))
        entry.about(pair)
        _scrap(mounted.rotors.rotor_pair, off.rotors, off.rotors_reason)
    return row


def _scrap(thing: PadSet | RotorPair, where: str, reason: str) -> None:
    if where == "scrap":
        thing.scrapped_for = reason.strip()
        thing.save(update_fields=["scrapped_for"])


def reopen_job(scope: Scope, job: Job) -> Job:
    """Take everything back that closing did, and go on. SolveError says what stands against it."""
    with act(scope, REOPEN_JOB, job) as entry:
        if job.closed_at is None:
            entry.nothing = True
            return job
        machine = job.machine
        if Job.objects.open().filter(machine=machine, axle=job.axle).exists():
            raise SolveError("Another job is open on this axle: close it or give it up first.")
        if job.fitting is not None:
            PadSet.objects.filter(mountings__ended_by=job.fitting).update(scrapped_for="")
            RotorPair.objects.filter(mountings__ended_by=job.fitting).update(scrapped_for="")
            take_back(entry, machine, of_job=job.fitting)
        _fluid_back(job, machine)
        PadReading.objects.filter(pk__in=job.off.get("pad_readings", [])).delete()
        RotorReading.objects.filter(pk__in=job.off.get("rotor_readings", [])).delete()
        job.closed_at, job.closed_on, job.closed_km = None, None, None
        job.off, job.content, job.fitting = {}, {}, None
        job.bolts_due_km, job.bolts_done_at = None, None
        job.save()
        entry.changed("closed", True, False)
        entry.about(job)
    return job


def _fluid_back(job: Job, machine: Machine) -> None:
    """The fluid and the hoses that were in before; SolveError where others have gone in since."""
    if "fill" in job.off:
        _earlier_back(FluidFill.objects.filter(machine=machine), job.off["fill"])
    if "hoses" in job.off:
        _earlier_back(Hose.objects.filter(machine=machine, axle=job.axle, what="hoses"), job.off["hoses"])
    if "hoses_age" in job.off:
        hoses = Hose.objects.filter(machine=machine, axle=job.axle, what="hoses", until_on=None)
        hoses.update(age_months=job.off["hoses_age"])


def _earlier_back(rows: QuerySet[Any], pk: int) -> None:
    """Take one of these out again, so that the one before it is in; SolveError where another has gone in since."""
    put_in = rows.filter(pk=pk, until_on=None).first()
    if put_in is None:
        raise SolveError("Fluid or hoses were changed again since this job: it stays closed.")
    put_in.delete()
    earlier = rows.order_by("-until_on", "-pk").first()
    if earlier is not None:
        earlier.until_on, earlier.until_km = None, None
        earlier.save(update_fields=["until_on", "until_km"])


def bolts_done(scope: Scope, job: Job, done: bool) -> Job:
    """Say that the wheel bolts were tightened once more after the first drive, or take that back."""
    with act(scope, BOLTS_DONE, job) as entry:
        if job.bolts_due_km is None:
            raise SolveError("No wheel bolts are due again for this job.")
        entry.changed("bolts_done", job.bolts_done_at is not None, done)
        if done != (job.bolts_done_at is not None):
            job.bolts_done_at = timezone.now() if done else None
            job.save(update_fields=["bolts_done_at"])
        entry.about(job)
    return job
