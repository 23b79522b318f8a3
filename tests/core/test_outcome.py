"""The line over the strip: what is out is named as the choice rejects it, and nothing is fine beside out."""

from __future__ import annotations

import dataclasses

import pytest

from tests.cases_data import changed
from tests.core.test_planning import HOT_STOPS, STREET, TRACK, candidate, field, setup_of
from tests.said import metric
from thermaxis.core.messages import choice as say
from thermaxis.core.messages import verdict
from thermaxis.core.physics.simulate import simulate_one
from thermaxis.core.planning.choice import choose
from thermaxis.core.planning.choice.figures import Candidate
from thermaxis.core.planning.choice.outcome import Outcome, due_text, outcome
from thermaxis.core.planning.verdict import readings
from thermaxis.core.planning.verdict.worn import fluid_peaks


def outcome_of(entry: Candidate, events_left: float = 50.0) -> Outcome:
    result = simulate_one(entry.setup.case)
    five = readings.five_readings(entry.setup, result, {"front": events_left, "rear": 2 * events_left}, 1.0)
    return outcome(entry, result, 0.5, five, fluid_peaks([entry.worn_case])[0])


def test_the_first_limit_that_is_crossed_is_named_as_the_choice_names_it() -> None:
    hot = field(HOT_STOPS)[1]
    worn = dataclasses.replace(hot, front_discard_m=hot.setup.case.front.rotor.thickness_m + 0.001)
    weak = setup_of(changed(hot.setup.case, hydraulics__max_pedal_force_N=70.0), TRACK, boiling_C=260)
    rear_case = changed(hot.setup.case, hydraulics__rear_knee_Pa=None, rear__piston_area_m2=0.004)
    for entry in (
        candidate("street", field(HOT_STOPS)[0].setup.case, dataclasses.replace(STREET, limit_C=300.0)),
        dataclasses.replace(hot, setup=dataclasses.replace(hot.setup, boiling_C=19.0)),
        dataclasses.replace(hot, setup=weak),
        dataclasses.replace(hot, setup=setup_of(rear_case, TRACK, boiling_C=260)),
        dataclasses.replace(hot, front_room_m=-0.002),
        worn,
    ):
        (judged,) = choose.judge_candidates([entry], choose.DEFAULT_WEIGHTS["track"], 0.5)
        found = outcome_of(entry)
        assert (found.state, found.limit, found.rejects) == ("over", judged.rejected_for, True)
        # The same numbers, in a line.
        values = [value for value in found.text.values.values() if isinstance(value, float)]
        assert values
        assert set(values) <= {value for value in judged.reason.values.values() if isinstance(value, float)}


def test_a_pad_over_its_limit_reads_in_a_line_and_is_no_fine_ring() -> None:
    street = field(HOT_STOPS)[0]
    limits = readings.CompoundLimits(window_low_C=0, window_high_C=150, limit_C=200)
    entry = candidate("street", street.setup.case, limits)
    found = outcome_of(entry)
    peak = simulate_one(entry.setup.case).front.peak_surface_C
    assert metric(found.text) == f"Front pads fade: {peak:.0f} °C, limit 200 °C"
    # The ring bears it, its pads do not: the reading is of the nearer limit.
    reading = readings.hottest_ring(entry.setup, simulate_one(entry.setup.case))
    assert (reading.state, reading.limit) == ("over", 200.0)


def test_what_is_near_or_due_is_named_and_else_what_is_left() -> None:
    cool = field(dataclasses.replace(HOT_STOPS, repeat=1))[1]
    wide = readings.CompoundLimits(window_low_C=-50, window_high_C=700, limit_C=900)
    entry = dataclasses.replace(cool, setup=setup_of(cool.setup.case, wide, boiling_C=300.0))
    fine = outcome_of(entry)
    assert (fine.state, fine.rejects) == ("fine", False)
    assert metric(fine.text).startswith("Every limit holds")
    due = outcome_of(entry, events_left=0.4)
    assert (due.state, due.limit, due.rejects) == ("over", "life", False)
    assert metric(due.text) == "Front pads due in 0.4 events"
    result = simulate_one(entry.setup.case)
    close = dataclasses.replace(entry, setup=setup_of(entry.setup.case, wide, result.front.peak_fluid_C + 20.0))
    assert outcome_of(close).state in ("close", "over")
    assert "luid" in metric(outcome_of(close).text)


@pytest.mark.parametrize(
    ("events", "text"),
    [
        (0.0, "Rear pads due now"),
        (1.0, "Rear pads due in 1 event"),
        (8.04, "Rear pads due in 8 events"),
        (2.5, "2.5 events"),
    ],
)
def test_events_are_counted_as_one_says_them(events: float, text: str) -> None:
    assert text in metric(due_text("rear", events))


def test_every_rejection_has_its_line() -> None:
    forces = [sentence for _, sentence in choose.SHORT_OF_FORCE.values()]
    others = [say.PAD_TOO_HOT, say.ROTOR_TOO_HOT, say.DOES_NOT_FIT, say.DOES_NOT_STOP, say.FLUID_BOILS, say.REAR_FIRST]
    worn = [say.FLUID_BOILS_WORN, verdict.UNDER_DISCARD, verdict.UNDER_GUESSED_DISCARD]
    assert {sentence.template for sentence in [*forces, *others, *worn]} == set(say.HEADS)
