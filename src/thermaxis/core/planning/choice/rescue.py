"""What would have to change for a rejected set to pass: each lever alone, solved on the engine itself."""

from __future__ import annotations

import dataclasses
from collections.abc import Callable, Mapping, Sequence

import numpy as np

from thermaxis.core.messages import answers as say
from thermaxis.core.physics.balance import lock_up
from thermaxis.core.physics.batch import Watch
from thermaxis.core.physics.simulate import simulate, simulate_one
from thermaxis.core.planning.choice.figures import LOCK_CHECK_C, Candidate
from thermaxis.core.planning.duty.answers import ROUNDS, TRIED, Answer, section
from thermaxis.core.planning.explain.why import scaled
from thermaxis.core.planning.verdict.limits import worst_crossed
from thermaxis.core.planning.verdict.readings import Setup
from thermaxis.core.planning.verdict.worn import fluid_peaks, with_material, worn_margin
from thermaxis.core.records import Case, Duty
from thermaxis.core.results import Result
from thermaxis.core.said import Said, verbatim

MOST_COOLING = 6.0
LEAST_MASS = 0.5
LEAST_FRICTION = 0.3


def trouble(setup: Setup, result: Result) -> Said | None:
    """What rejects a result: a crossed limit's clause, or that the vehicle does not slow down; else None."""
    if not result.stopped:
        return say.NOT_STOPPED()
    crossed = worst_crossed(setup, result)
    return None if crossed is None else crossed.sentence


def cooling_to_pass(setup: Setup, watch: Watch | None = None) -> Answer:
    """The least factor on both axles' cooling, 1 to 6, at which no limit is crossed; an answer record."""

    def case_at(factor: float) -> Case:
        return dataclasses.replace(
            setup.case,
            front=dataclasses.replace(setup.case.front, cooling_factor=setup.case.front.cooling_factor * factor),
            rear=dataclasses.replace(setup.case.rear, cooling_factor=setup.case.rear.cooling_factor * factor),
        )

    value, reason = _turn(setup, case_at, 1.0, MOST_COOLING, rising=False, watch=watch)
    text = say.NOT_BY_COOLING(most=MOST_COOLING, reason=reason) if value is None else say.BY_COOLING(value=value)
    return _answer("cooling_to_pass", value, "", 1.0, MOST_COOLING, text)


def mass_to_pass(setup: Setup, watch: Watch | None = None) -> Answer:
    """The greatest mass, from half the present one up, at which no limit is crossed on the same speeds; a record."""
    mass = setup.case.vehicle.mass_kg

    def case_at(value: float) -> Case:
        return dataclasses.replace(setup.case, vehicle=dataclasses.replace(setup.case.vehicle, mass_kg=value))

    low = LEAST_MASS * mass
    value, reason = _turn(setup, case_at, low, mass, rising=True, watch=watch)
    text = say.NOT_BY_MASS(low=low, reason=reason) if value is None else say.BY_MASS(value=value)
    return _answer("mass_to_pass", value, "kg", low, mass, text)


def speed_to_pass(setup: Setup, *, low_mps: float, high_mps: float, case_at: Callable[[float], Case]) -> Answer:
    """The greatest speed in m/s, `case_at` building the case of each, at which no limit is crossed; a record."""
    value, reason = _turn(setup, case_at, low_mps, high_mps, rising=True, together=False)
    text = say.NOT_BY_SPEED(low=low_mps, reason=reason) if value is None else say.BY_SPEED(value=value)
    return _answer("speed_to_pass", value, "m/s", low_mps, high_mps, text)


def driver_to_pass(setup: Setup, duties: Mapping[str, Duty]) -> Answer:
    """The quickest of slower ways to drive, `duties` by name from quickest to slowest, that crosses no limit."""
    text = say.NO_SLOWER_LEVEL()
    for place, (name, duty) in enumerate(duties.items()):
        case = dataclasses.replace(setup.case, duty=duty)
        found = trouble(setup, simulate_one(case))
        if found is None:
            return _answer("driver_to_pass", float(place), "", 0, len(duties) - 1, say.BY_DRIVER(level=name))
        text = say.NOT_BY_DRIVER(level=name, reason=found)
    return _answer("driver_to_pass", None, "", 0, max(0, len(duties) - 1), text)


def fluid_to_pass(setup: Setup, result: Result, fresh_C: float) -> Answer:
    """Whether the same fluid, fresh, would not boil at `fresh_C` in degC; a record."""
    peak = max(result.front.peak_fluid_C, result.rear.peak_fluid_C)
    left = fresh_C - peak
    if left > 0:
        text = say.BY_FRESH_FLUID(fresh=fresh_C, left=left, peak=peak)
    else:
        text = say.NOT_BY_FRESH_FLUID(fresh=fresh_C, peak=peak)
    return _answer("fluid_to_pass", fresh_C if left > 0 else None, "°C", setup.boiling_C, fresh_C, text)


def change_to_pass(candidate: Candidate) -> Answer:
    """The least friction material, in mm, both axles' pads may be worn down to before the fluid boils; a record."""
    low, high = 0.0, 1.0

    def case_at(share: float) -> Case:
        """Pads worn from new (1) down to where they are changed (0), both axles alike."""
        pads = candidate.setup.case.front.pad.thickness_m, candidate.setup.case.rear.pad.thickness_m
        changes = candidate.front_change_m, candidate.rear_change_m
        return with_material(
            candidate.setup.case, *(c + share * (new - c) for new, c in zip(pads, changes, strict=True))
        )

    def holds(values: Sequence[float]) -> list[bool]:
        peaks = fluid_peaks([case_at(value) for value in values])
        return [worn_margin(candidate.setup, peak) >= 0 for peak in peaks]

    value = section(holds, np.linspace(low, high, TRIED).tolist(), rising=False)
    if value is None:
        return _answer("change_to_pass", None, "mm", low, high, say.NOT_BY_CHANGE())
    there = case_at(value)
    front, rear = there.front.pad.thickness_m, there.rear.pad.thickness_m
    return _answer("change_to_pass", 1e3 * front, "mm", low, high, say.BY_CHANGE(front=front, rear=rear))


def room_to_pass(missing_m: float) -> Answer:
    """What a caliper that does not clear the wheel asks for, `missing_m` being short of it in m; a record."""
    return _answer("room_to_pass", missing_m, "m", 0.0, missing_m, say.ROOM(missing=missing_m))


def rear_friction_to_pass(setup: Setup) -> Answer:
    """The greatest factor on the rear pads' friction at which the front axle locks first; a record.

    Found on the balance at 200 degC, where the choice checks it.
    """

    def holds(values: Sequence[float]) -> list[bool]:
        return [
            lock_up(scaled(setup.case, "rear.pad.mu", value), LOCK_CHECK_C).first_axle != "rear" for value in values
        ]

    value = section(holds, np.linspace(LEAST_FRICTION, 1.0, TRIED).tolist(), rising=True)
    text = say.NOT_BY_REAR_PADS(least=LEAST_FRICTION) if value is None else say.BY_REAR_PADS(most=value)
    return _answer("rear_friction_to_pass", value, "", LEAST_FRICTION, 1.0, text)


def _turn(
    setup: Setup,
    case_at: Callable[[float], Case],
    low: float,
    high: float,
    *,
    rising: bool,
    together: bool = True,
    watch: Watch | None = None,
) -> tuple[float | None, Said]:
    """The last value from the passing end that passes, and what is wrong at that end where none does.

    `together`: all values share one duty and are solved at once.
    """
    rounds = 0

    def holds(values: Sequence[float]) -> list[bool]:
        nonlocal rounds
        cases = [case_at(value) for value in values]
        results = simulate(cases) if together else [simulate_one(case) for case in cases]
        rounds += 1
        if watch is not None:
            watch(min(0.99, rounds / ROUNDS))
        return [trouble(setup, result) is None for result in results]

    value = section(holds, np.linspace(low, high, TRIED).tolist(), rising=rising)
    if value is not None:
        return value, verbatim("")
    return None, trouble(setup, simulate_one(case_at(low if rising else high))) or verbatim("")


def _answer(question: str, value: float | None, unit: str, low: float, high: float, text: Said) -> Answer:
    outcome = "none" if value is None else "value"
    return Answer(question=question, outcome=outcome, value=value, unit=unit, low=low, high=high, text=text)
