"""Numbers opened: what a formula says with its numbers in it is the value itself."""

from __future__ import annotations

import dataclasses
import re

import pytest

from tests.cases_data import changed
from tests.core.test_planning import HOT_STOPS, field
from tests.said import metric
from thermaxis.core.physics.balance import statics
from thermaxis.core.physics.simulate import simulate_one
from thermaxis.core.planning.choice.choose import DEFAULT_WEIGHTS, judge_candidates
from thermaxis.core.planning.explain.explain import TOPICS
from thermaxis.core.planning.explain.topic import Subject
from thermaxis.core.planning.explain.why import scaled
from thermaxis.core.planning.verdict.worn import fluid_peaks
from thermaxis.core.records import Statics


@pytest.fixture(scope="module")
def subject() -> Subject:
    candidate = field(HOT_STOPS)[1]
    return Subject(
        candidate=candidate,
        result=simulate_one(candidate.setup.case),
        event_hours=0.5,
        events_per_month=2.0,
        weights=DEFAULT_WEIGHTS["track"],
        pedal_N=200.0,
        ring_C=300.0,
        worn=fluid_peaks([candidate.worn_case])[0],
        stop=3,
    )


def last_number(text: str) -> float:
    """The number behind the last sign of equality."""
    return float(re.findall(r"-?\d+(?:\.\d+)?", text.rsplit("=", 1)[1])[0])


# Topics whose sentence ends in "= value unit", with what the shown digits leave open.
ENDS = {
    "wear_front": 0.06,
    "wear_rear": 0.06,
    "pressure_front": 0.006,
    "pressure_rear": 0.006,
    "clamp_front": 0.6,
    "clamp_rear": 0.6,
    "torque_front": 0.6,
    "torque_rear": 0.6,
    "fluid_margin": 0.6,
    "cost_per_hour": 0.006,
    "cost_per_year": 0.6,
    "front_share": 0.6,
    "score": 0.06,
    "decel": 0.0006,
    "pushrod": 0.6,
    "master": 0.6,
    "travel": 0.6,
    "energy": 0.006,
    "stop_front": 0.6,
    "stop_rear": 0.6,
}


@pytest.mark.parametrize("name", ENDS)
def test_the_sentence_ends_in_the_value(subject: Subject, name: str) -> None:
    topic = TOPICS[name]
    assert last_number(metric(topic.numbers(subject))) == pytest.approx(topic.value(subject), abs=ENDS[name])


def evaluated(text: str) -> float:
    """What a sentence's left side comes to: its numbers and signs, units dropped."""
    left = text.rsplit("=", 1)[0].replace("×", "*").replace("−", "-").replace("£", "")
    left = re.sub(r"[a-zA-Zμ°²³/]+(?=[ )]|$)", lambda found: "/" if found.group() == "/" else "", left)
    return float(eval(re.sub(r"[^0-9.+*/()\- ]", "", left)))


@pytest.mark.parametrize(
    ("name", "scale", "close"),
    [
        ("decel", 9.80665 / 9.81, 0.01),
        ("pushrod", 1.0, 0.001),
        ("energy", 1.0, 0.002),
        ("master", 1.0, 0.002),
        ("clamp_front", 1e2, 0.01),
        ("torque_front", 1.0, 0.01),
        ("cost_per_hour", 1.0, 0.03),
        ("front_share", 100.0, 0.02),
        ("fluid_margin", 1.0, 0.02),
    ],
)
def test_the_arithmetic_shown_comes_to_the_value(subject: Subject, name: str, scale: float, close: float) -> None:
    """Only what stands in the sentence is used: a reader with a calculator gets the same."""
    topic = TOPICS[name]
    assert scale * evaluated(metric(topic.numbers(subject))) == pytest.approx(topic.value(subject), rel=close)


def test_the_stops_of_a_series_are_opened_one_by_one(subject: Subject) -> None:
    for number, stop in enumerate(subject.result.stops, start=1):
        one = dataclasses.replace(subject, stop=number)
        assert TOPICS["stop_front"].value(one) == stop.front_bulk_C
        text = metric(TOPICS["stop_rear"].numbers(one))
        assert f"{stop.rear_energy_J / 1e6:.3f} MJ into one rear rotor" in text
        assert (f"after stop {number - 1}," in text) == (number > 1)


def test_the_hydraulics_are_those_of_the_statics(subject: Subject) -> None:
    found = statics(subject.case, Statics(pedal_force_N=200.0, rotor_C=300.0))
    values = {name: TOPICS[name].value(subject) for name in ("torque_front", "torque_rear", "pressure_front", "decel")}
    assert values["torque_front"] == pytest.approx(found.front_torque_Nm)
    assert values["torque_rear"] == pytest.approx(found.rear_torque_Nm)
    assert values["pressure_front"] == pytest.approx(found.pressure_Pa / 1e6)
    assert values["decel"] == pytest.approx(found.decel_g)


def test_the_choice_s_numbers_are_the_judgement_s(subject: Subject) -> None:
    judged = judge_candidates([subject.candidate], subject.weights, 0.5, [subject.result])[0]
    f = judged.figures
    for name, value in {
        "margin": f.lowest_margin_K,
        "window_share": 100 * f.window_share,
        "pedal_worst": f.pedal_worst_N,
        "life_events": f.life_events,
        "stress": f.stress_MPa,
        "lock": f.lock_g,
        "score": judged.score,
        "peak_front": f.front_peak_C,
        "peak_rear": f.rear_peak_C,
        "cold_mu": f.cold_mu,
    }.items():
        assert TOPICS[name].value(subject) == pytest.approx(value)


def test_every_topic_says_something_about_any_set(subject: Subject) -> None:
    rigid = changed(subject.case, hydraulics__rear_knee_Pa=2.0e6, hydraulics__booster_gain=1.0)
    other = subject.moved(rigid, simulate_one(rigid))
    for name, topic in TOPICS.items():
        for one in (subject, other):
            assert re.search(r"\d", metric(topic.numbers(one))), name
            assert "nan" not in metric(topic.numbers(one)), name
        assert topic.formula
        assert topic.source
    assert "valve from 2.00 MPa" in metric(TOPICS["pressure_rear"].numbers(other))


def test_a_moved_subject_is_the_same_question_of_another_case(subject: Subject) -> None:
    heavier = scaled(subject.case, "vehicle.mass_kg", 1.1)
    moved = subject.moved(heavier, simulate_one(heavier))
    assert TOPICS["peak_front"].value(moved) > TOPICS["peak_front"].value(subject)
    assert TOPICS["decel"].value(moved) == pytest.approx(TOPICS["decel"].value(subject) / 1.1)
    assert moved.candidate.key == subject.candidate.key
