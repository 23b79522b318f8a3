"""Inverse questions: which value of one thing keeps the rest within its limits. Solved on the engine itself."""

from __future__ import annotations

import dataclasses
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from thermaxis.core.errors import FieldError
from thermaxis.core.messages import answers as say
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
from thermaxis.core.said import Said, Sentence, verbatim

# Values tried side by side in one round, and rounds: each round looks between two neighbours of the one before.
TRIED = 16
ROUNDS = 3
# A ring hotter than this marks the face under a pad that stands on it (estimate).
PARKING_C = 250.0
COOLING_RANGE = (0.25, 6.0)


@dataclass(frozen=True, kw_only=True)
class Words:
    """How the answer about a quantity is said, and its unit on the wire."""

    unit: str
    none: Sentence
    every: Sentence
    up_to: Sentence


SPEED = Words(unit="m/s", none=say.NO_SPEED, every=say.EVERY_SPEED, up_to=say.SPEED_UP_TO)
MASS = Words(unit="kg", none=say.NO_MASS, every=say.EVERY_MASS, up_to=say.MASS_UP_TO)


@dataclass(frozen=True, kw_only=True)
class Answer:
    """The value asked for, or why there is none.

    `outcome`: "value" (up to, or from, this value it holds and beyond it does not), "all" (every value tried holds),
    "none" (no value does). `low` and `high` are the bounds that were tried; `value` is None only for "none".
    """

    question: str
    outcome: str
    value: float | None
    unit: str
    low: float
    high: float
    text: Said


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

    def answer(outcome: str, value: float | None, text: Said) -> Answer:
        return Answer(question=question, outcome=outcome, value=value, unit=f"{noun}s", low=1, high=most, text=text)

    first = crossed(1)
    if first is not None:
        return answer("none", None, say.NOT_ONE(noun=noun, reason=first.sentence))
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
        return answer("all", most, say.ALL_REPEATS(most=most, nouns=f"{noun}s"))
    text = say.MOST_REPEATS(good=good, nouns=_counted(noun, good), bad=bad, reason=breaking.sentence)
    return answer("value", good, text)


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

    return _greatest(setup, "greatest_speed", SPEED, results, low_mps, high_mps, watch)


def greatest_trailer(setup: Setup, *, high_kg: float, watch: Watch | None = None) -> Answer:
    """The heaviest trailer (its brakes doing their present share) that keeps 50 K of fluid margin and every limit."""
    trailer = setup.case.trailer
    if trailer is None:
        raise FieldError("trailer", None, "a trailer on the machine")

    def results(values: Sequence[float]) -> list[Result]:
        return simulate(
            [dataclasses.replace(setup.case, trailer=dataclasses.replace(trailer, mass_kg=value)) for value in values]
        )

    return _greatest(setup, "greatest_trailer", MASS, results, 0.0, high_kg, watch)


def _greatest(
    setup: Setup,
    question: str,
    words: Words,
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
        reason = _too_little(setup, results([low])[0]) or verbatim("")
        outcome, text = "none", words.none(low=low, high=high, reason=reason)
    elif value >= high:
        outcome, text = "all", words.every(low=low, high=high)
    else:
        beyond = min(high, value + (high - low) / 50.0)
        reason = _too_little(setup, results([beyond])[0]) or verbatim("")
        outcome, text = "value", words.up_to(value=value, reason=reason)
    return Answer(question=question, outcome=outcome, value=value, unit=words.unit, low=low, high=high, text=text)


def _too_little(setup: Setup, result: Result) -> Said | None:
    """Which limit is crossed, or that fluid margin is under 50 K, as a clause; None where all is well."""
    crossed = worst_crossed(setup, result)
    if crossed is not None:
        return crossed.sentence
    left = fluid_margin(setup, result)
    return say.CLOSE_FLUID(left=left, wanted=CLOSE_FLUID_K) if left < CLOSE_FLUID_K else None


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

    def answer(outcome: str, value: float | None, text: Said) -> Answer:
        return Answer(question="cooling_needed", outcome=outcome, value=value, unit="", low=low, high=high, text=text)

    grid = np.geomspace(low, high, 2 * TRIED).tolist()
    judged = judge(grid)
    inside = [index for index, (holds, _) in enumerate(judged) if holds]
    if not inside:
        best = max(range(len(grid)), key=lambda index: judged[index][1])
        return answer("none", None, say.NO_COOLING(low=low, high=high, share=judged[best][1], best=grid[best]))

    def holds(values: Sequence[float]) -> list[bool]:
        return [kept for kept, _ in judge(values)]

    first, last = inside[0], inside[-1]
    least = grid[first]
    if first > 0:
        least = section(holds, np.linspace(grid[first - 1], grid[first], TRIED).tolist(), rising=False) or least
    most = grid[last]
    if last < len(grid) - 1:
        most = section(holds, np.linspace(grid[last], grid[last + 1], TRIED).tolist(), rising=True) or most
    ends = last < len(grid) - 1
    if first == 0:
        return answer("all", low, say.COOLING_EVEN_TO(low=low, most=most) if ends else say.COOLING_EVEN(low=low))
    plain, to = (
        (say.COOLING_PRESENT, say.COOLING_PRESENT_TO) if least <= 1.0 else (say.COOLING_TAKES, say.COOLING_TAKES_TO)
    )
    return answer("value", least, to(least=least, most=most) if ends else plain(least=least))


def _counted(noun: str, count: int) -> str:
    return noun if count == 1 else f"{noun}s"


def cool_down_needed(
    setup: Setup, duty_of: Callable[[int], Duty], *, most: int, noun: str, watch: Watch | None = None
) -> Answer:
    """How many gentle laps (or minutes) before parking keep the hot soak harmless; `duty_of` builds n of them.

    Harmless: 50 K of fluid margin through the soak, and no ring over 250 degC when it stops (estimate: under a
    standing pad a hotter face is marked). The soak is the duty's own standing time.
    """
    question = "cool_down"

    def trouble(count: int) -> Said | None:
        case = dataclasses.replace(setup.case, duty=duty_of(count))
        left = fluid_margin(setup, simulate_one(case))
        if left < CLOSE_FLUID_K:
            return say.CLOSE_IN_SOAK(left=left, wanted=CLOSE_FLUID_K)
        parked = simulate_one(case, after=After(0.0, 0.0))
        hottest = max(parked.front.end_surface_C, parked.rear.end_surface_C)
        return say.PARKED_HOT(hottest=hottest, limit=PARKING_C) if hottest > PARKING_C else None

    reason: Said | None = None
    for count in range(most + 1):
        if watch is not None:
            watch(count / (most + 1))
        found = trouble(count)
        if found is None:
            text = say.NO_COOL_DOWN(noun=noun)
            if reason is not None:
                text = say.COOL_DOWN(count=count, nouns=_counted(noun, count), fewer=count - 1, reason=reason)
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
        text=say.COOL_DOWN_NOT_ENOUGH(most=most, nouns=f"{noun}s", reason=reason or verbatim("")),
    )
