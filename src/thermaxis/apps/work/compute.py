"""Stateless answers about a machine: nothing here writes."""

from __future__ import annotations

import dataclasses
import datetime as dt
import functools
import itertools
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.garage import duty_mapping as duties
from thermaxis.apps.garage.models import Duty, Machine
from thermaxis.apps.work import querysets
from thermaxis.apps.work.mapping import CaseBuilder, Parts, change_mm, with_what_if
from thermaxis.apps.work.models import FittedSet
from thermaxis.apps.work.solver import solve
from thermaxis.core.errors import FieldError, SolveError
from thermaxis.core.physics.batch import Watch
from thermaxis.core.physics.simulate import history
from thermaxis.core.planning import intervals, readings, why
from thermaxis.core.planning.bedding import BeddingOrder, BeddingPlan, plan_bedding
from thermaxis.core.planning.calibrate import AxleFit
from thermaxis.core.planning.choose import DEFAULT_WEIGHTS, Candidate, Judged, Weights, judge_candidates
from thermaxis.core.records import Case, DescentDuty
from thermaxis.core.results import HISTORY_FIELDS, Result

TRACE_POINTS = 600
SHORTEST = DescentDuty(kind="descent", grade=0.0, speed_mps=10.0, duration_s=1.0, then_s=0.0, then_speed_mps=0.0)


@dataclass(frozen=True, kw_only=True)
class Worn:
    """One axle's pads as they are now, and how fast they really wear against what is computed."""

    thickness_mm: float
    scale: intervals.WearScale
    measured: bool


@dataclass(frozen=True, kw_only=True)
class InForce:
    """A machine with its set and duty, solved; `worn` and `fits` (its calibration) by axle. Never changed."""

    machine: Machine
    fitted: FittedSet
    facts: duties.DutyFacts
    setup: readings.Setup
    result: Result
    worn: dict[str, Worn]
    fits: dict[str, AxleFit]


def duty_or_error(machine: Machine) -> Duty:
    if machine.duty is None:
        raise SolveError("Choose a duty first: nothing can be computed without one.")
    return machine.duty


def set_or_error(machine: Machine) -> FittedSet:
    fitted = querysets.set_in_force(machine)
    if fitted is None:
        raise SolveError("Fit a set first: nothing can be computed without pads and rotors.")
    return fitted


def in_force(machine: Machine) -> InForce:
    """Solve the machine as it stands: its fitted set on its duty."""
    duty, fitted = duty_or_error(machine), set_or_error(machine)
    facts = duties.duty_facts(machine, duty)
    builder = CaseBuilder(machine, facts.duty, facts.conditions)
    setup = builder.setup(querysets.parts_of(fitted))
    result = solve([setup.case])[0]
    past = result
    past_facts = facts
    if fitted.duty != duty:
        past_facts = duties.duty_facts(machine, fitted.duty)
        before = CaseBuilder(machine, past_facts.duty, past_facts.conditions)
        past = solve([before.case(querysets.parts_of(fitted))])[0]
    worn = {
        axle: _worn(machine, fitted, axle, getattr(past, axle).pad_wear_mm / past_facts.event_km)
        for axle in ("front", "rear")
    }
    return InForce(
        machine=machine, fitted=fitted, facts=facts, setup=setup, result=result, worn=worn, fits=builder.fits
    )


def _worn(machine: Machine, fitted: FittedSet, axle: str, per_km: float) -> Worn:
    """Wear up to now at `per_km` mm of the duty the set was fitted for, corrected by the last measurement."""
    new_mm = getattr(fitted, f"{axle}_pad").thickness_m * 1e3
    last = fitted.measurements.filter(axle=axle, removed_at=None).last()
    if last is None:
        scale = intervals.WearScale(median=1.0, sigma=intervals.PRIOR_SIGMA)
        thickness = new_mm - max(0.0, machine.odometer_km - fitted.fitted_km) * per_km
    else:
        computed = max(0.0, last.odometer_km - fitted.fitted_km) * per_km
        scale = intervals.update_scale(computed, new_mm - last.thickness_m * 1e3)
        since = max(0.0, machine.odometer_km - last.odometer_km)
        thickness = last.thickness_m * 1e3 - since * per_km * scale.median
    return Worn(thickness_mm=max(0.0, thickness), scale=scale, measured=last is not None)


def tried(state: InForce, cooling_factor: float, air_C: float | None) -> InForce:
    """The same machine, set and duty with a what-if on cooling and air; lap and past wear stay as they are."""
    if cooling_factor == 1.0 and air_C is None:
        return state
    setup = _with(state.setup, with_what_if(state.setup.case, cooling_factor, air_C))
    return dataclasses.replace(state, setup=setup, result=solve([setup.case])[0])


# --- verdict strip ---------------------------------------------------------------------------------------------


def verdict(state: InForce) -> tuple[readings.Reading, ...]:
    """The five readings of a machine, its set and duty."""
    left = {row.axle: row.due_events for row in life_rows(state, None)}
    pace = duty_or_error(state.machine).events_per_month
    return readings.five_readings(state.setup, state.result, left, pace)


READING_OF: dict[str, Callable[[readings.Setup, Case, Result], float]] = {
    "rotor": lambda setup, case, result: readings.hottest_rotor(_with(setup, case), result).value,
    "window": lambda setup, case, result: readings.braking_in_window(_with(setup, case), result).value,
    "pedal": lambda setup, case, result: readings.pedal_left(_with(setup, case), result).value,
    "fluid": lambda setup, case, result: readings.fluid_margin(_with(setup, case), result).value,
}


def _with(setup: readings.Setup, case: Case) -> readings.Setup:
    return dataclasses.replace(setup, case=case)


def sensitivities_of(state: InForce, name: str) -> tuple[why.Sensitivity, ...]:
    """How far one reading of the strip moves for +10 % of each input; for life, wear of the shortest pad in um."""
    if name == "life":
        axle = min(life_rows(state, None), key=lambda row: row.due_events).axle
        return why.sensitivities(state.setup.case, lambda _, result: 1e3 * float(getattr(result, axle).pad_wear_mm))
    if name not in READING_OF:
        raise FieldError("reading", name, "one of " + ", ".join([*READING_OF, "life"]))
    return why.sensitivities(state.setup.case, functools.partial(READING_OF[name], state.setup))


# --- duty ------------------------------------------------------------------------------------------------------


def duty_trace(
    machine: Machine, plan: duties.Plan, until_s: float | None
) -> tuple[duties.DutyFacts, dict[str, list[float]], Result]:
    """Speed, brake power and ring temperatures of a duty with the fitted set, up to a time, thinned for drawing."""
    facts = duties.facts_of(machine, plan)
    case = CaseBuilder(machine, facts.duty, facts.conditions).case(querysets.parts_of(set_or_error(machine)))
    rows = history(case)
    return facts, thinned(rows if until_s is None else rows[rows[:, 0] <= until_s], case), solve([case])[0]


def thinned(rows: np.ndarray[Any, np.dtype[np.float64]], case: Case) -> dict[str, list[float]]:
    """A history as columns of at most TRACE_POINTS rows: of each bucket the rows of least and greatest power.

    Power of all rotors is added up as `brake_power_W`.
    """
    columns = {name: rows[:, i] for i, name in enumerate(HISTORY_FIELDS)}
    power = columns["front_power_W"] * case.front.rotors + columns["rear_power_W"] * case.rear.rotors
    keep = np.arange(len(rows))
    if len(rows) > TRACE_POINTS:
        # Both ends of each bucket's power, so that thinning hides neither a stop nor the pause before it.
        edges = np.linspace(0, len(rows), TRACE_POINTS // 2 + 1).astype(int)
        found = [
            low + extreme(power[low:high])
            for low, high in itertools.pairwise(edges)
            for extreme in (np.argmin, np.argmax)
        ]
        keep = np.unique(found)
    chosen = ("t_s", "v_mps", "front_surface_C", "rear_surface_C", "front_fluid_C")
    out = {name: [round(float(value), 3) for value in columns[name][keep]] for name in chosen}
    out["brake_power_W"] = [round(float(value)) for value in power[keep]]
    return out


# --- choose ----------------------------------------------------------------------------------------------------


@dataclass(frozen=True, kw_only=True)
class Offer:
    """Every set a machine takes on its duty, translated but not simulated; never changed."""

    machine: Machine
    facts: duties.DutyFacts
    use: str
    candidates: tuple[Candidate, ...]
    parts: dict[str, Parts]
    fitted_key: str | None


def offer_of(machine: Machine, workshop: Workshop) -> Offer:
    duty = duty_or_error(machine)
    facts = duties.duty_facts(machine, duty)
    builder = CaseBuilder(machine, facts.duty, facts.conditions)
    parts = {entry.key: entry for entry in querysets.candidate_parts(machine, workshop)}
    fitted = querysets.set_in_force(machine)
    return Offer(
        machine=machine, facts=facts, use=duty.use, parts=parts,
        candidates=tuple(builder.candidate(entry, duty.use, workshop.currency) for entry in parts.values()),
        fitted_key=querysets.parts_of(fitted).key if fitted else None,
    )  # fmt: skip


def judged_candidates(
    offer: Offer, weights: Weights | None, cooling_factor: float, air_C: float | None,
    only: Sequence[str] | None = None, watch: Watch | None = None,
) -> tuple[list[Judged], Weights]:  # fmt: skip
    """Every set of an offer, or `only` those with these keys, judged on its duty under a what-if."""
    candidates = [
        dataclasses.replace(
            candidate,
            setup=_with(candidate.setup, with_what_if(candidate.setup.case, cooling_factor, air_C)),
        )
        for candidate in offer.candidates
        if only is None or candidate.key in only
    ]
    weights = weights or DEFAULT_WEIGHTS[offer.use]
    results = solve([candidate.setup.case for candidate in candidates], watch)
    return judge_candidates(candidates, weights, offer.facts.event_hours, results), weights


# --- bed -------------------------------------------------------------------------------------------------------


def bedding_plan(machine: Machine, top_speed_mps: float, hard_g: float) -> tuple[BeddingPlan, BeddingOrder, Case]:
    """The hard series with cool-down for the fitted front compound on this machine."""
    fitted = set_or_error(machine)
    pad = fitted.front_pad.pad
    order = BeddingOrder(
        top_speed_mps=top_speed_mps, hard_g=hard_g, window_low_C=pad.bed_low_C, window_high_C=pad.bed_high_C
    )
    # The plan brings its own stops; the shortest duty keeps the case complete.
    case = CaseBuilder(machine, SHORTEST).case(querysets.parts_of(fitted))
    plan = plan_bedding(case, order)
    return plan, order, dataclasses.replace(case, duty=plan.duty)


# --- life ------------------------------------------------------------------------------------------------------


@dataclass(frozen=True, kw_only=True)
class LifeRow:
    """One axle's pads: what is left, when they are due, and what that rests on."""

    axle: str
    new_mm: float
    remaining: intervals.Remaining
    scale: intervals.WearScale
    measured: bool
    computed_per_event_mm: float
    due_km: float
    due_hours: float
    due_on: dt.date | None

    @property
    def due_events(self) -> float:
        """Events left until the change."""
        return self.remaining.events


def life_rows(state: InForce, school: str | None) -> tuple[LifeRow, ...]:
    """Remaining life of both axles' pads, by simulated energy, corrected by the last measurement if there is one."""
    duty = duty_or_error(state.machine)
    school = school or intervals.default_school(duty.use, state.machine.kind)
    return tuple(_life_row(state, axle, duty, school) for axle in ("front", "rear"))


def _life_row(state: InForce, axle: str, duty: Duty, school: str) -> LifeRow:
    worn, facts = state.worn[axle], state.facts
    variant = getattr(state.fitted, f"{axle}_pad")
    per_event = getattr(state.result, axle).pad_wear_mm
    limit = change_mm(school, state.machine.kind, variant)
    left = intervals.remaining(worn.thickness_mm, limit, per_event, worn.scale)
    return LifeRow(
        axle=axle, new_mm=variant.thickness_m * 1e3, remaining=left, scale=worn.scale, measured=worn.measured,
        computed_per_event_mm=per_event, due_km=left.events * facts.event_km, due_hours=left.events * facts.event_hours,
        due_on=_due_date(left.events, duty.events_per_month),
    )  # fmt: skip


def _due_date(events: float, per_month: float) -> dt.date | None:
    """The day the pads are due at the usual pace; None where that is more than ten years away."""
    days = 30.44 * events / per_month if per_month > 0 else float("inf")
    return dt.date.today() + dt.timedelta(days=days) if days < 3653 else None


# --- stages ----------------------------------------------------------------------------------------------------


@dataclass(frozen=True, kw_only=True)
class Stage:
    """State of one stage on the rail, computed from what is there."""

    name: str
    state: str
    note: str


def stages(machine: Machine, state: InForce | None = None) -> tuple[Stage, ...]:
    """The state of every stage of a machine; `state` saves solving it again where it was solved already."""
    fitted = state.fitted if state else querysets.set_in_force(machine)
    estimates = len(machine.estimates)
    machine_stage = Stage(name="machine", state="started" if estimates else "done", note=f"{estimates} estimates")
    duty = Stage(name="duty", state="done" if machine.duty else "empty", note=machine.duty.name if machine.duty else "")
    chosen = fitted is not None and bool(fitted.inputs)
    choose = Stage(name="choose", state="done" if chosen else "empty", note=fitted.front_pad.pad.name if fitted else "")
    record = fitted.bedding.first() if fitted else None
    bed_state = "empty" if record is None else ("done" if record.done_on else "started")
    bed = Stage(name="bed", state=bed_state, note="")
    if fitted is None or machine.duty is None:
        return machine_stage, duty, choose, bed, Stage(name="life", state="empty", note="")
    rows = life_rows(state or in_force(machine), None)
    shortest = min(rows, key=lambda row: row.due_events)
    if readings.life_state(shortest.due_events, machine.duty.events_per_month) != "fine":
        life = Stage(name="life", state="attention", note=f"{shortest.axle} pads in {shortest.due_events:.1f} events")
    else:
        measured = any(row.measured for row in rows)
        life = Stage(name="life", state="done" if measured else "started", note="")
    return machine_stage, duty, choose, bed, life
