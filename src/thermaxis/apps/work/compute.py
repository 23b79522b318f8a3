"""Stateless answers about a machine: nothing here writes."""

from __future__ import annotations

import dataclasses
import datetime as dt
import functools
import itertools
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from thermaxis.apps.garage import duty_mapping as duties
from thermaxis.apps.garage.models import Duty, Machine
from thermaxis.apps.work import querysets
from thermaxis.apps.work.mapping import CaseBuilder, change_mm
from thermaxis.apps.work.models import FittedSet
from thermaxis.apps.work.solver import solve
from thermaxis.apps.work.trying import NOTHING, WhatIf, changed, setup_under
from thermaxis.apps.work.wearing import PartWear, parts_worn
from thermaxis.core.errors import FieldError, SolveError
from thermaxis.core.physics.simulate import history
from thermaxis.core.planning.bedding.plan import BeddingOrder, BeddingPlan, plan_bedding
from thermaxis.core.planning.duty.calibrate import AxleFit
from thermaxis.core.planning.explain import why
from thermaxis.core.planning.life import intervals
from thermaxis.core.planning.verdict import readings
from thermaxis.core.records import Case, DescentDuty
from thermaxis.core.results import HISTORY_FIELDS, Result

TRACE_POINTS = 600
SHORTEST = DescentDuty(kind="descent", grade=0.0, speed_mps=10.0, duration_s=1.0, then_s=0.0, then_speed_mps=0.0)


@dataclass(frozen=True, kw_only=True)
class InForce:
    """A machine with its set and duty, solved; `worn` and `fits` (its calibration) by axle. Never changed.

    `past_mm_per_km` is the wear computed for the duty the set was fitted for, by axle.
    """

    machine: Machine
    fitted: FittedSet
    plan: duties.Plan
    facts: duties.DutyFacts
    setup: readings.Setup
    result: Result
    worn: dict[str, tuple[PartWear, ...]]
    past_mm_per_km: dict[str, float]
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
    plan = duties.plan_of(duty)
    facts = duties.facts_of(machine, plan)
    builder = CaseBuilder(machine, facts.duty, facts.conditions)
    setup = builder.setup(querysets.parts_of(fitted))
    result = solve([setup.case])[0]
    past = result
    past_facts = facts
    if fitted.duty != duty:
        past_facts = duties.duty_facts(machine, fitted.duty)
        before = CaseBuilder(machine, past_facts.duty, past_facts.conditions)
        past = solve([before.case(querysets.parts_of(fitted))])[0]
    per_km = {axle: getattr(past, axle).pad_wear_mm / past_facts.event_km for axle in ("front", "rear")}
    worn = {axle: parts_worn(machine, fitted, axle, per_km[axle]) for axle in per_km}
    return InForce(
        machine=machine, fitted=fitted, plan=plan, facts=facts, setup=setup, result=result, worn=worn,
        past_mm_per_km=per_km, fits=builder.fits,
    )  # fmt: skip


def tried(state: InForce, what_if: WhatIf) -> InForce:
    """The same machine and set under a what-if; past wear stays as it is."""
    if what_if == NOTHING:
        return state
    machine, plan = changed(state.machine, state.plan, what_if)
    facts = duties.facts_of(machine, plan) if what_if.drives else state.facts
    setup = setup_under(state.setup, what_if, machine, facts)
    return dataclasses.replace(
        state, machine=machine, plan=plan, facts=facts, setup=setup, result=solve([setup.case])[0]
    )


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
class PartLife:
    """One pad: what is left of it, and how fast it wears."""

    part: PartWear
    remaining: intervals.Remaining


@dataclass(frozen=True, kw_only=True)
class LifeRow:
    """One axle's pads: what is left of the one due first, when that is, and what it rests on; `parts` are all of them.

    `event_energy_J` is the friction energy of one rotor per event.
    """

    axle: str
    new_mm: float
    remaining: intervals.Remaining
    scale: intervals.WearScale
    measured: bool
    parts: tuple[PartLife, ...]
    computed_per_event_mm: float
    event_energy_J: float
    event_km: float
    due_km: float
    due_hours: float
    due_on: dt.date | None

    @property
    def due_events(self) -> float:
        """Events left until the change."""
        return self.remaining.events


def life_rows(state: InForce, school: str | None) -> tuple[LifeRow, ...]:
    """Remaining life of both axles' pads, by simulated energy, corrected by everything measured on them."""
    duty = duty_or_error(state.machine)
    school = school or intervals.default_school(duty.use, state.machine.kind)
    return tuple(_life_row(state, axle, duty, school) for axle in ("front", "rear"))


def _life_row(state: InForce, axle: str, duty: Duty, school: str) -> LifeRow:
    facts, result = state.facts, getattr(state.result, axle)
    variant = getattr(state.fitted, f"{axle}_pad")
    limit = change_mm(school, state.machine.kind, variant)
    parts = tuple(
        PartLife(
            part=part, remaining=intervals.remaining(part.thickness_mm, limit, result.pad_wear_mm, part.scale)
        )
        for part in state.worn[axle]
    )  # fmt: skip
    # The thinner of two that wear out in the same event is the first to look at.
    first = min(parts, key=lambda entry: (entry.remaining.events, entry.part.thickness_mm))
    left = first.remaining
    return LifeRow(
        axle=axle, new_mm=variant.thickness_m * 1e3, remaining=left, scale=first.part.scale,
        measured=first.part.measurements > 0, parts=parts, computed_per_event_mm=result.pad_wear_mm,
        event_energy_J=result.friction_energy_J, event_km=facts.event_km, due_km=left.events * facts.event_km,
        due_hours=left.events * facts.event_hours, due_on=_due_date(left.events, duty.events_per_month),
    )  # fmt: skip


def _due_date(events: float, per_month: float) -> dt.date | None:
    """The day the pads are due at the usual pace; None where that is more than ten years away."""
    days = 30.44 * events / per_month if per_month > 0 else float("inf")
    return dt.date.today() + dt.timedelta(days=days) if days < 3653 else None
