"""Inverse questions: each answer is checked by running the engine on both sides of it."""

from __future__ import annotations

import dataclasses
import math
import re

import pytest

from tests.cases_data import changed, load
from tests.said import metric
from thermaxis.core.errors import FieldError, Stopped
from thermaxis.core.physics.simulate import simulate_one
from thermaxis.core.planning.duty import answers
from thermaxis.core.planning.verdict.limits import worst_crossed
from thermaxis.core.planning.verdict.readings import CompoundLimits, Setup, fluid_margin, window_shares
from thermaxis.core.records import Case, DescentDuty, Duty, StopsDuty, TraceDuty, Trailer
from thermaxis.formats.units import said_text


def setup(case: Case, limit: float = 700.0, low: float = 100.0, high: float = 600.0, boiling: float = 230.0) -> Setup:
    limits = CompoundLimits(window_low_C=low, window_high_C=high, limit_C=limit)
    return Setup(case=case, front_limits=limits, rear_limits=limits, boiling_C=boiling)


def repeats(case: Case, count: int) -> Duty:
    assert isinstance(case.duty, StopsDuty)
    return dataclasses.replace(case.duty, repeat=count)


# --- most runs --------------------------------------------------------------------------------------------------


def test_most_runs_hold_and_one_more_does_not() -> None:
    question = setup(load("twin-repeated-stops"), limit=400.0, high=380.0)

    def crossed(count: int) -> bool:
        case = dataclasses.replace(question.case, duty=repeats(question.case, count))
        return worst_crossed(question, simulate_one(case)) is not None

    found = answers.most_repeats(question, lambda n: repeats(question.case, n), most=60, noun="run")
    assert found.outcome == "value"
    assert found.value is not None
    assert found.value > 1
    assert not crossed(int(found.value))
    assert crossed(int(found.value) + 1)
    assert f"with {int(found.value) + 1}, the front ring reaches" in metric(found.text)


def test_all_runs_or_not_one_are_honest_answers() -> None:
    case = load("twin-repeated-stops")
    endless = answers.most_repeats(setup(case, limit=1300.0), lambda n: repeats(case, n), most=9, noun="run")
    assert (endless.outcome, endless.value) == ("all", 9)
    never = answers.most_repeats(setup(case, limit=120.0, high=110.0), lambda n: repeats(case, n), most=9, noun="run")
    assert (never.outcome, never.value) == ("none", None)
    assert metric(never.text).startswith("Not one run: the front ring reaches")


# --- descents ---------------------------------------------------------------------------------------------------


def margin_of(question: Setup, case: Case) -> float:
    return fluid_margin(question, simulate_one(case))


def test_the_greatest_trailer_keeps_just_fifty_kelvin() -> None:
    question = setup(load("hauler-descent"), boiling=112.0)
    found = answers.greatest_trailer(question, high_kg=6000.0)
    trailer = question.case.trailer
    assert found.value is not None
    assert isinstance(trailer, Trailer)

    def at(mass: float) -> float:
        return margin_of(
            question, dataclasses.replace(question.case, trailer=dataclasses.replace(trailer, mass_kg=mass))
        )

    assert found.outcome == "value"
    assert at(found.value) >= 50.0 > at(found.value + 10.0)
    assert "K of fluid margin are left, under 50 K" in metric(found.text)
    light = answers.greatest_trailer(setup(load("hauler-descent")), high_kg=100.0)
    assert (light.outcome, light.value) == ("all", 100.0)
    boiled = answers.greatest_trailer(setup(load("hauler-descent"), boiling=60.0), high_kg=4000.0)
    assert (boiled.outcome, boiled.value) == ("none", None)


def test_the_greatest_speed_keeps_the_hill_as_long_as_it_is() -> None:
    question = setup(load("hauler-descent"), limit=260.0, high=250.0)
    duty = question.case.duty
    assert isinstance(duty, DescentDuty)
    length = duty.speed_mps * duty.duration_s
    found = answers.greatest_speed(question, low_mps=2.0, high_mps=30.0)
    assert found.value is not None

    def crossed(speed: float) -> bool:
        faster = dataclasses.replace(duty, speed_mps=speed, duration_s=length / speed)
        return worst_crossed(question, simulate_one(dataclasses.replace(question.case, duty=faster))) is not None

    assert not crossed(found.value)
    assert crossed(found.value * 1.02)
    # A bound is rounded to the side on which it still holds.
    assert said_text(found.text, "metric").startswith(f"Up to {math.floor(3.6 * found.value + 1e-6)} km/h; over that ")
    assert " mph; over that " in said_text(found.text, "imperial")


def test_questions_that_do_not_fit_the_case_are_refused() -> None:
    with pytest.raises(FieldError, match="descent"):
        answers.greatest_speed(setup(load("roadster-circuit")), low_mps=1.0, high_mps=20.0)
    with pytest.raises(FieldError, match="trailer"):
        answers.greatest_trailer(setup(load("roadster-circuit")), high_kg=100.0)
    with pytest.raises(FieldError, match="low"):
        answers.greatest_speed(setup(load("hauler-descent")), low_mps=30.0, high_mps=20.0)


# --- cooling and cool-down --------------------------------------------------------------------------------------


def in_window(question: Setup, factor: float) -> bool:
    case = changed(
        question.case,
        front__cooling_factor=question.case.front.cooling_factor * factor,
        rear__cooling_factor=question.case.rear.cooling_factor * factor,
    )
    result = simulate_one(case)
    shares = [window_shares(result.front, question.front_limits), window_shares(result.rear, question.rear_limits)]
    return min(share.working for share in shares) >= 0.8 and worst_crossed(question, result) is None


def test_the_cooling_needed_is_just_enough() -> None:
    question = setup(load("roadster-circuit"), limit=650.0, high=600.0)
    found = answers.cooling_needed(question)
    assert found.outcome == "value"
    assert found.value is not None
    assert found.value > 1.0
    assert in_window(question, found.value)
    assert not in_window(question, found.value * 0.99)
    # The sentence rounds to the side on which it still holds.
    said = re.search(r"× ([\d.]*\d)", metric(found.text))
    assert said
    assert found.value <= float(said[1]) <= found.value * 1.1


def test_a_pad_that_no_cooling_helps_is_told_so() -> None:
    found = answers.cooling_needed(setup(load("roadster-circuit"), limit=60.0, low=40.0, high=50.0))
    assert (found.outcome, found.value) == ("none", None)
    assert "do not go together" in metric(found.text)
    wide = answers.cooling_needed(setup(load("roadster-single-stop"), low=0.0, high=690.0))
    assert (wide.outcome, wide.value) == ("all", 0.25)


def with_cool_down(case: Case, minutes: int) -> Duty:
    """A minute of cool-down more for each: slow driving before the standing soak of the duty."""
    duty = case.duty
    assert isinstance(duty, TraceDuty)
    end = duty.t_s[-1]
    extra = [end + 5.0 + 60.0 * n for n in range(minutes + 1)] if minutes else []
    return dataclasses.replace(
        duty,
        t_s=(*duty.t_s, *extra),
        v_mps=(*duty.v_mps, *([12.0] * len(extra))),
        grade=None,
        then_s=600.0,
        then_speed_mps=0.0,
    )


def test_cool_down_minutes_bring_the_ring_under_what_may_park() -> None:
    case = load("roadster-circuit")
    question = setup(case, limit=1000.0, high=900.0)
    found = answers.cool_down_needed(question, lambda n: with_cool_down(case, n), most=20, noun="minute")
    assert found.outcome == "value"
    assert found.value is not None
    assert found.value >= 2
    assert "parked at" in metric(found.text)
    short = answers.cool_down_needed(question, lambda n: with_cool_down(case, n), most=1, noun="minute")
    assert (short.outcome, short.value) == ("none", None)
    cold = setup(load("roadster-single-stop"), limit=1000.0, high=900.0)
    none_needed = answers.cool_down_needed(cold, lambda n: repeats(cold.case, 1), most=3, noun="lap")
    assert (none_needed.outcome, none_needed.value) == ("all", 0)


def test_a_question_can_be_stopped() -> None:
    def enough(share: float) -> None:
        assert 0.0 <= share <= 1.0
        raise Stopped("enough")

    case = load("twin-repeated-stops")
    with pytest.raises(Stopped):
        answers.most_repeats(setup(case), lambda n: repeats(case, n), most=50, noun="run", watch=enough)
    with pytest.raises(Stopped):
        answers.cooling_needed(setup(load("roadster-single-stop")), watch=enough)
    with pytest.raises(Stopped):
        answers.greatest_trailer(setup(load("hauler-descent")), high_kg=3000.0, watch=enough)
    with pytest.raises(Stopped):
        answers.cool_down_needed(setup(case), lambda n: repeats(case, 1), most=3, noun="lap", watch=enough)
