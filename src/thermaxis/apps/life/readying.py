"""Is a machine ready for an event: what speaks against it, and what to take along."""

from __future__ import annotations

from dataclasses import dataclass

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.fitted.parts import AXLES
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.life.advising import part_words
from thermaxis.apps.season.models import Event
from thermaxis.apps.solving.following import state_of
from thermaxis.apps.solving.forecasting import Outlook, outlook
from thermaxis.apps.solving.in_force import InForce
from thermaxis.apps.solving.mapping import CaseBuilder
from thermaxis.apps.solving.season import Asked, parts_of
from thermaxis.apps.solving.solver import fluid_peaks, solve
from thermaxis.core.errors import SolveError
from thermaxis.core.messages import life as say
from thermaxis.core.planning.choice.outcome import outcome
from thermaxis.core.planning.life.ready import Along, Part, Readiness, Reason, fluid_reason, part_reason, readiness
from thermaxis.core.planning.verdict.readings import five_readings

# Pads are judged by their own likelihood here: the strip's word on them is left out.
PLENTY = 1e4


@dataclass(frozen=True, kw_only=True)
class Ready:
    """An event with its readiness, and the air it was judged in."""

    event: Event
    found: Readiness
    air_C: float


def ready_for(scope: Scope, event: Event, air_C: float | None) -> Ready:
    """Judge a machine for an event ahead, in other air where that is given. SolveError for one gone by."""
    state = state_of(scope, event.machine_id)
    season = outlook(state, None if air_C is None else (event.pk, air_C))
    place = next(
        (k for k, asked in enumerate(season.asked) if asked.event.row and asked.event.row.pk == event.pk), None
    )
    if place is None:
        raise SolveError("This event is over, taken out, or too far ahead: there is nothing to be ready for.")
    asked, margin = season.asked[place], season.margins_K[place]
    parts = _parts(season, place)
    reasons = [part_reason(part) for part in parts]
    reasons.append(fluid_reason(margin[0], asked.air_C))
    reasons += [_duty(state, asked), *_sets(state, asked), *_bedded(state, asked), *_work(state.machine)]
    reasons += [Reason(state="over", text=remark.text, stage="inspect") for remark in state.standing.worn_out()]
    found = readiness(reasons, parts, fluid=state.standing.fill.fluid.name, tools=_tools(state.machine))
    return Ready(event=event, found=found, air_C=asked.air_C)


def _parts(season: Outlook, place: int) -> list[Part]:
    """What is used at the event, by its likelihood to hold through it; the fluid is judged by its margin."""
    return [
        Part(
            name=f"{part_words(forecast)}, {forecast.name}",
            chance=forecast.ahead.chances[place],
            sound=forecast.sound[place] if forecast.sound else 1.0,
            spare=f"{forecast.name}, {forecast.axle} {forecast.kind}" if forecast.kind in ("pads", "rings") else "",
        )
        for forecast in season.forecasts
        if forecast.used[place] and forecast.kind != "fluid"
    ]


def _duty(state: InForce, asked: Asked) -> Reason:
    """Whether the sets of the event bear its own duty, as the strip would say it."""
    facts = state.driving.facts(state.machine, asked.event.duty.pk)
    builder = CaseBuilder(state.standing, facts.duty, facts.conditions)
    parts = parts_of(state, asked.pads)
    # What it costs and how long it lasts are not asked here.
    candidate = builder.candidate(parts, asked.event.duty.use, currency="")
    case = candidate.setup.case
    result = solve([case])[0]
    five = five_readings(candidate.setup, result, dict.fromkeys(AXLES, PLENTY), 1.0)
    found = outcome(candidate, result, facts.event_hours, five, fluid_peaks([case])[0])
    return Reason(state=found.state, text=found.text, stage="choose")


def _sets(state: InForce, asked: Asked) -> list[Reason]:
    """Sets that are meant for the event and not on yet."""
    return [
        Reason(state="close", text=say.OTHER_SET(name=str(asked.pads[axle]), axle=axle), stage="life")
        for axle in AXLES
        if asked.pads[axle].pk != state.standing.pads(axle).pk
    ]


def _bedded(state: InForce, asked: Asked) -> list[Reason]:
    """Pads that are on for the event and do not bite as their curve says."""
    found = [
        Reason(state="close", text=say.NOT_BEDDED(axle=axle, state=state.bedded[axle].why), stage="bed")
        for axle in AXLES
        if asked.pads[axle].pk == state.standing.pads(axle).pk and not state.bedded[axle].bites
    ]
    on_it = all(asked.pads[axle].pk == state.standing.pads(axle).pk for axle in AXLES)
    return found or ([Reason(state="fine", text=say.BEDDED(), stage="bed")] if on_it else [])


def _work(machine: Machine) -> list[Reason]:
    """Jobs that are open, and wheel bolts that wait for their second look."""
    jobs = list(machine.jobs.filter(abandoned_at=None))
    found = [
        Reason(state="over", text=say.JOB_OPEN(work=job.work_words, axle=job.axle), stage="job")
        for job in jobs
        if job.closed_at is None
    ]
    found = found or [Reason(state="fine", text=say.NO_JOB(), stage="job")]
    bolts = {job.axle for job in jobs if job.bolts_due_km is not None and job.bolts_done_at is None}
    return found + [Reason(state="close", text=say.BOLTS_OPEN(axle=axle), stage="job") for axle in sorted(bolts)]


def _tools(machine: Machine) -> tuple[Along, ...]:
    """What its fasteners are turned with, as somebody wrote down."""
    rows = machine.fasteners.exclude(size_m=None).order_by("drive", "size_m")
    return tuple(dict.fromkeys(Along(name=row.drive, size_m=row.size_m) for row in rows))
