"""Inverse questions: which value of one thing keeps the rest within its limits. Solved on the engine itself."""

from __future__ import annotations

import dataclasses
import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from thermaxis.core.errors import FieldError
from thermaxis.core.physics.batch import Watch
from thermaxis.core.physics.schedule import After
from thermaxis.core.physics.simulate import simulate, simulate_one
from thermaxis.core.planning.verdict.limits import Margin, worst_crossed
from thermaxis.core.planning.verdict.readings import (
    CLOSE_FLUID_K,
    CLOSE_WINDOW_SHARE,
    Setup,
    fluid_margin,
    window_shares,
)
from thermaxis.core.records import Case, DescentDuty, Duty
from thermaxis.core.results import Result

# Values tried side by side in one round, and rounds: each round looks between two neighbours of the one before.
TRIED = 16
ROUNDS = 3
# A ring hotter than this marks the face under a pad that stands on it (estimate).
PARKING_C = 250.0
COOLING_RANGE = (0.25, 6.0)


@dataclass(frozen=True, kw_only=True)
class Answer:
    """The value asked for, or why there is none.

    `outcome`: "value" (up to, or from, this value it holds and beyond it does not), "all" (every value tried holds),
    "none" (no value does). `low` and `high` are the bounds that were tried; `value` is None only for "none". `text` may
    hold `{value}`, `{low}` and `{high}`: whoever shows it puts them in the reader's unit.
    """

    question: str
    outcome: str
    value: float | None
    unit: str
    low: float
    high: float
    text: str


def section(holds: Callable[[Sequence[float]], list[bool]], grid: Sequence[float], *, rising: bool) -> float | None:
    """The last value that holds before the first that does not, walking up the grid (down where not `rising`); a float.

    Each round puts TRIED values between the two neighbours it lies between. None where the first value fails.
    """
    values = list(grid) if rising else list(grid)[::-1]
    for _ in range(ROUNDS):
        kept = holds(values)
        if not kept[0]:
            return None
        if all(kept):
            return values[-1]
        first = kept.index(False)
        values = np.linspace(values[first - 1], values[first], TRIED).tolist()
    return float(values[0])


def most_repeats(
    setup: Setup, duty_of: Callable[[int], Duty], *, most: int, noun: str, watch: Watch | None = None
) -> Answer:
    """The most laps (runs, stops) before the first limit is crossed; `duty_of` builds the duty of n of them.

    Heat only gathers, so the count is found by halving; the sentence names what breaks first on the next one.
    """
    question = f"most_{noun}s"

    def crossed(count: int) -> Margin | None:
        case = dataclasses.replace(setup.case, duty=duty_of(count))
        return worst_crossed(setup, simulate_one(case))

    def answer(outcome: str, value: float | None, text: str) -> Answer:
        return Answer(question=question, outcome=outcome, value=value, unit=f"{noun}s", low=1, high=most, text=text)

    first = crossed(1)
    if first is not None:
        return answer("none", None, f"Not one {noun}: {first.sentence}.")
    good, bad, breaking = 1, most + 1, None
    while bad - good > 1:
        if watch is not None:
            watch(1.0 - np.log2(bad - good) / np.log2(most + 1))
        middle = (good + bad) // 2 if bad <= most else most
        found = crossed(middle)
        if found is None:
            good = middle
            if middle == most:
                break
        else:
            bad, breaking = middle, found
    if breaking is None:
        return answer("all", most, f"All {most} {noun}s that were tried: no limit is crossed.")
    return answer("value", good, f"{good} {noun}{'s' if good > 1 else ''}; with {bad}, {breaking.sentence}.")


def greatest_speed(setup: Setup, *, low_mps: float, high_mps: float, watch: Watch | None = None) -> Answer:
    """The greatest steady speed down the setup's descent that keeps 50 K of fluid margin and every limit.

    The hill stays as long as it is: a faster descent is a shorter one. Speeds are m/s.
    """
    duty = setup.case.duty
    if not isinstance(duty, DescentDuty):
        raise FieldError("duty", duty.kind, "a descent")
    length = duty.speed_mps * duty.duration_s

    def case_at(speed: float) -> Case:
        faster = dataclasses.replace(duty, speed_mps=speed, duration_s=length / speed)
        return dataclasses.replace(setup.case, duty=faster)

    def results(values: Sequence[float]) -> list[Result]:
        return [simulate_one(case_at(value)) for value in values]

    return _greatest(setup, "greatest_speed", "m/s", results, low_mps, high_mps, watch)


def greatest_trailer(setup: Setup, *, high_kg: float, watch: Watch | None = None) -> Answer:
    """The heaviest trailer (its brakes doing their present share) that keeps 50 K of fluid margin and every limit."""
    trailer = setup.case.trailer
    if trailer is None:
        raise FieldError("trailer", None, "a trailer on the machine")

    def results(values: Sequence[float]) -> list[Result]:
        return simulate(
            [dataclasses.replace(setup.case, trailer=dataclasses.replace(trailer, mass_kg=value)) for value in values]
        )

    return _greatest(setup, "greatest_trailer", "kg", results, 0.0, high_kg, watch)


def _greatest(
    setup: Setup,
    question: str,
    unit: str,
    results: Callable[[Sequence[float]], list[Result]],
    low: float,
    high: float,
    watch: Watch | None,
) -> Answer:
    if not 0 <= low < high:
        raise FieldError("low", low, f"a number >= 0 and less than {high:g}")
    rounds = 0

    def holds(values: Sequence[float]) -> list[bool]:
        nonlocal rounds
        kept = [_too_little(setup, result) is None for result in results(values)]
        rounds += 1
        if watch is not None:
            watch(rounds / ROUNDS)
        return kept

    value = section(holds, np.linspace(low, high, TRIED).tolist(), rising=True)
    if value is None:
        reason = _too_little(setup, results([low])[0])
        outcome, text = "none", f"None from {{low}} to {{high}}: already at {{low}} {reason}."
    elif value >= high:
        outcome, text = "all", "Every value from {low} to {high} holds."
    else:
        beyond = min(high, value + (high - low) / 50.0)
        reason = _too_little(setup, results([beyond])[0])
        outcome, text = "value", f"Up to {{value}}; over that {reason}."
    return Answer(question=question, outcome=outcome, value=value, unit=unit, low=low, high=high, text=text)


def _too_little(setup: Setup, result: Result) -> str | None:
    """Which limit is crossed, or that fluid margin is under 50 K, as a clause; None where all is well."""
    crossed = worst_crossed(setup, result)
    if crossed is not None:
        return crossed.sentence
    left = fluid_margin(setup, result).value
    return f"{left:.0f} K of fluid margin are left, under {CLOSE_FLUID_K:.0f} K" if left < CLOSE_FLUID_K else None


def cooling_needed(setup: Setup, watch: Watch | None = None) -> Answer:
    """The least factor on both axles' cooling at which every pad works 80 % in its window and under its limits.

    Tried from a quarter to six times the present cooling; too much of it makes a pad too cold, so a range of
    factors may work: the text gives both ends.
    """
    low, high = COOLING_RANGE
    rounds = 0

    def judge(values: Sequence[float]) -> list[tuple[bool, float]]:
        nonlocal rounds
        cases = [
            dataclasses.replace(
                setup.case,
                front=dataclasses.replace(setup.case.front, cooling_factor=setup.case.front.cooling_factor * value),
                rear=dataclasses.replace(setup.case.rear, cooling_factor=setup.case.rear.cooling_factor * value),
            )
            for value in values
        ]
        found = []
        for result in simulate(cases):
            shares = (
                window_shares(result.front, setup.front_limits).working,
                window_shares(result.rear, setup.rear_limits).working,
            )
            inside = min(shares) >= CLOSE_WINDOW_SHARE and worst_crossed(setup, result) is None
            found.append((inside, min(shares)))
        rounds += 1
        if watch is not None:
            watch(min(0.95, rounds / (2 * ROUNDS)))
        return found

    def answer(outcome: str, value: float | None, text: str) -> Answer:
        return Answer(question="cooling_needed", outcome=outcome, value=value, unit="", low=low, high=high, text=text)

    grid = np.geomspace(low, high, 2 * TRIED).tolist()
    judged = judge(grid)
    inside = [index for index, (holds, _) in enumerate(judged) if holds]
    if not inside:
        best = max(range(len(grid)), key=lambda index: judged[index][1])
        return answer(
            "none",
            None,
            f"No factor from {low:g} to {high:g} does: the most is {100 * judged[best][1]:.0f} % of braking in the "
            f"window, at × {grid[best]:.2g}. This pad and this duty do not go together.",
        )

    def holds(values: Sequence[float]) -> list[bool]:
        return [kept for kept, _ in judge(values)]

    first, last = inside[0], inside[-1]
    least = grid[first]
    if first > 0:
        least = section(holds, np.linspace(grid[first - 1], grid[first], TRIED).tolist(), rising=False) or least
    most = grid[last]
    if last < len(grid) - 1:
        most = section(holds, np.linspace(grid[last], grid[last + 1], TRIED).tolist(), rising=True) or most
    upper = "" if last == len(grid) - 1 else f"; beyond × {two_figures(most, up=False)} it is too cold"
    if first == 0:
        return answer("all", low, f"Even × {low:g} is enough{upper}.")
    than = "The present cooling is enough: it takes" if least <= 1.0 else "It takes"
    return answer("value", least, f"{than} × {two_figures(least, up=True)}{upper}.")


def two_figures(value: float, *, up: bool) -> str:
    """A bound as text to two figures, rounded to the side on which it still holds."""
    scale = 10.0 ** (math.floor(math.log10(value)) - 1)
    return f"{(math.ceil if up else math.floor)(round(value / scale, 6)) * scale:.2g}"


def cool_down_needed(
    setup: Setup, duty_of: Callable[[int], Duty], *, most: int, noun: str, watch: Watch | None = None
) -> Answer:
    """How many gentle laps (or minutes) before parking keep the hot soak harmless; `duty_of` builds n of them.

    Harmless: 50 K of fluid margin through the soak, and no ring over 250 degC when it stops (estimate: under a
    standing pad a hotter face is marked). The soak is the duty's own standing time.
    """
    question = "cool_down"

    def trouble(count: int) -> str | None:
        case = dataclasses.replace(setup.case, duty=duty_of(count))
        left = fluid_margin(setup, simulate_one(case)).value
        if left < CLOSE_FLUID_K:
            return f"{left:.0f} K of fluid margin are left in the soak, under {CLOSE_FLUID_K:.0f} K"
        parked = simulate_one(case, after=After(0.0, 0.0))
        hottest = max(parked.front.end_surface_C, parked.rear.end_surface_C)
        return f"a ring is parked at {hottest:.0f} °C, over {PARKING_C:.0f} °C" if hottest > PARKING_C else None

    reason = ""
    for count in range(most + 1):
        if watch is not None:
            watch(count / (most + 1))
        found = trouble(count)
        if found is None:
            text = f"{count} {noun}{'' if count == 1 else 's'}" if count else f"No {noun} is needed before parking"
            text += f"; with {count - 1}, {reason}." if reason else "."
            outcome = "value" if count else "all"
            return Answer(question=question, outcome=outcome, value=count, unit=f"{noun}s", low=0, high=most, text=text)
        reason = found
    return Answer(
        question=question,
        outcome="none",
        value=None,
        unit=f"{noun}s",
        low=0,
        high=most,
        text=f"Even {most} {noun}s are not enough: {reason}.",
    )
