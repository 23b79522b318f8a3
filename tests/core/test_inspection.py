"""A whole inspection: the sheet's cells, readings that cannot be, verdicts by hand and from cells to causes."""

from __future__ import annotations

import csv
import dataclasses
from importlib import resources

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.said import metric
from thermaxis.core.errors import FieldError
from thermaxis.core.planning.inspection.cells import WHEEL_CELLS, Value, cell_of, doubt_of, read_value
from thermaxis.core.planning.inspection.look import Wheel
from thermaxis.core.planning.inspection.sheet import Assessment, assess, rotor_wear_m
from thermaxis.core.planning.inspection.wheel import PadLimits, RotorLimits

CAR = tuple(
    Wheel(
        name=f"{axle}_{side}",
        label=f"{axle.capitalize()} {side}",
        axle=axle,
        sliding=True,
        pads=PadLimits(new_m=0.011, change_m=0.003),
        rotor=RotorLimits(new_m=0.022, discard_m=0.0204),
        per_event_m=0.0005,
        planned_wear_m=0.0003,
    )
    for axle in ("front", "rear")
    for side in ("left", "right")
)
NAMES = [wheel.name for wheel in CAR]


def pads(wheel: str, inner: float, outer: float) -> dict[str, Value]:
    return {f"{wheel}.pad_inner_1": inner / 1e3, f"{wheel}.pad_outer_1": outer / 1e3}


def points(wheel: str, *mm: float) -> dict[str, Value]:
    return {f"{wheel}.rotor_{number}": value / 1e3 for number, value in enumerate(mm, start=1)}


def words(found: Assessment) -> dict[str, str]:
    return {ruling.subject: ruling.word for ruling in found.rulings}


# --- the sheet ---------------------------------------------------------------------------------------------------


def test_cells_by_name_and_what_they_may_hold() -> None:
    assert cell_of("front_left.rotor_8", NAMES).kind == "length"
    assert cell_of("rear.discard", NAMES).kind == "length"
    assert cell_of("said.hot_smell", NAMES).kind == "tick"
    # A motorcycle's single rear disc and its axle share a name.
    assert cell_of("rear.pad_inner_1", ["front_left", "front_right", "rear"]).kind == "length"
    for name in ("front_left.rotor_9", "middle.rotor_1", "said.found_crack", "said.nothing", "rotor_1", "", "rear."):
        with pytest.raises(FieldError, match="a cell of this machine"):
            cell_of(name, NAMES)


@pytest.mark.parametrize(
    ("name", "value"),
    [
        ("front_left.pad_inner_1", -0.001),
        ("front_left.pad_inner_1", 0.06),
        ("front_left.pad_inner_1", float("nan")),
        ("front_left.pad_inner_1", True),
        ("front_left.pad_inner_1", "9"),
        ("front_left.glazed", 1),
        ("front_left.pins", "wet"),
        ("note", "x" * 2001),
        ("fluid_age", 500.0),
    ],
)
def test_a_wrong_value_is_refused_with_its_cell(name: str, value: object) -> None:
    with pytest.raises(FieldError) as caught:
        read_value(name, cell_of(name, NAMES), value)
    assert caught.value.path == name


# --- readings that cannot be -------------------------------------------------------------------------------------


def test_doubts_by_hand() -> None:
    assert doubt_of(0.0092, 0.011, 0.0095) is None
    thick = doubt_of(0.0165, 0.011, None, hint="Is the backing plate in it?")
    assert thick is not None
    assert metric(thick.text) == "16.50 mm is thicker than new, 11.00 mm. Is the backing plate in it?"
    grown = doubt_of(0.0101, 0.011, 0.0095)
    assert grown is not None
    assert "thicker than last time, 9.50 mm" in metric(grown.text)
    fallen = doubt_of(0.0042, 0.011, 0.0095)
    assert fallen is not None
    assert "5.3 mm less than last time" in metric(fallen.text)
    # 25.18 over 4.00 mm of washers is 21.18; a point of 23.50 reads 19.50, 1.7 mm away: not yet astray. 23.0 is.
    assert doubt_of(0.0235, 0.022, None, [0.02118, 0.0212], off_m=0.004) is None
    astray = doubt_of(0.0230, 0.022, None, [0.02118, 0.0212], off_m=0.004)
    assert astray is not None
    assert "2.2 mm from the other points" in metric(astray.text)


def test_a_gauge_left_on_inches_is_recognised() -> None:
    # 0.362 in is 9.19 mm; typed as mm it falls by 9 mm.
    found = doubt_of(0.000362, 0.011, 0.0095)
    assert found is not None
    assert found.in_inches_m == pytest.approx(0.362 * 0.0254)
    # 0.9913 in over 4 mm of washers is 21.18 mm.
    rotor = doubt_of(0.0009913, 0.022, 0.0212, off_m=0.004)
    assert rotor is not None
    assert rotor.in_inches_m == pytest.approx(0.02518, abs=1e-5)
    # 12 "in" would be 305 mm: no gauge was on inches there.
    thick = doubt_of(0.012, 0.011, None)
    assert thick is not None
    assert thick.in_inches_m is None


@given(new=st.floats(0.004, 0.03), before=st.floats(0.2, 1.0), worn=st.floats(0, 0.0049))
def test_plausible_wear_never_asks(new: float, before: float, worn: float) -> None:
    last = new * before
    assert doubt_of(max(0.0, last - worn), new, last) is None


# --- verdicts ----------------------------------------------------------------------------------------------------


def test_washers_lip_and_planned_wear_from_the_sheet_by_hand() -> None:
    # Hand: 25.18, 25.20, 25.17 mm over 4.00 mm of washers: least 21.17; cut leaves 21.04; 20.40 + 0.30 needed.
    sheet: dict[str, Value] = {"washers": 0.004, **points("front_left", 25.18, 25.20, 25.17), "front_left.lip": 0.0008}
    found = assess(CAR, sheet)
    report = found.rotors["front_left"]
    assert report.least_m == pytest.approx(0.02117)
    assert report.after_cut_m == pytest.approx(0.02104)
    assert words(found)["front_left.rotor"] == "machine"
    assert words(found)["front.rotors"] == "machine"
    # 0.70 mm of planned wear typed over the estimate: the same cut leaves too little.
    assert words(assess(CAR, {**sheet, "front.planned_wear": 0.0007}))["front_left.rotor"] == "replace"
    assert words(assess(CAR, {**sheet, "school": "always replace"}))["front_left.rotor"] == "replace"
    # The hat says 21.2 mm: it is below that already.
    discard = assess(CAR, {**sheet, "front.discard": 0.0212})
    assert next(metric(ruling.rule) for ruling in discard.rulings if ruling.subject == "front_left.rotor") == "discard"
    # Read plainly, the same numbers are thicker than new and nothing is subtracted.
    plain = assess(CAR, {**sheet, "front_left.plain": True})
    assert plain.rotors["front_left"].least_m == pytest.approx(0.02517)


def test_pads_by_axle_and_the_pair_rule() -> None:
    found = assess(
        CAR, {**pads("front_left", 2.9, 6.2), **pads("front_right", 6.0, 6.4), **pads("rear_left", 9.0, 9.1)}
    )
    assert words(found)["front.pads"] == "due"
    front = next(ruling for ruling in found.rulings if ruling.subject == "front.pads")
    assert front.state == "over"
    assert "Thinnest is front left inner, 2.9 mm; change at 3.0 mm." in metric(front.text)
    assert "Both sides of the axle are changed together." in metric(front.text)
    assert words(found)["rear.pads"] == "fine"
    assert "About 12 events left at 0.5 mm an event." in next(
        metric(ruling.text) for ruling in found.rulings if ruling.subject == "rear.pads"
    )
    assert found.pads == {
        "front_left.inner": "due",
        "front_left.outer": "fine",
        "front_right.inner": "fine",
        "front_right.outer": "fine",
        "rear_left.inner": "fine",
        "rear_left.outer": "fine",
    }
    assert (found.given, found.wanted) == (6, 20)
    # Stuck pins first: 3.3 mm between inner and outer on a sliding caliper.
    assert found.diagnosis is not None
    assert found.diagnosis.causes[0].name == "slide_pins"
    assert [ruling.state for ruling in found.rulings] == sorted(
        (ruling.state for ruling in found.rulings), key=["over", "close", "fine"].index
    )


def test_thick_pads_that_squeal_are_cleaned_not_replaced() -> None:
    sheet = {**pads("front_left", 8.0, 8.1), **pads("front_right", 8.1, 8.1), "said.squeal_braking": True}
    found = assess(CAR, sheet)
    noisy = next(ruling for ruling in found.rulings if ruling.subject == "front.thick but noisy")
    assert (noisy.state, "do not replace" in metric(noisy.headline)) == ("fine", True)
    assert "front.thick but noisy" not in words(assess(CAR, {**sheet, "said.squeal_braking": False}))


def test_conditions_without_a_thickness() -> None:
    found = assess(CAR, {"front_left.crack": 0.004, "front_left.crack_place": "hole"})
    rotor = next(ruling for ruling in found.rulings if ruling.subject == "front_left.rotor")
    assert rotor.word == "replace"
    assert "its thickness was not measured" in metric(rotor.text)
    assert words(found)["front.rotors"] == "replace"
    # Heat spots alone are not weighed against a thickness nobody knows.
    assert assess(CAR, {"front_left.heat_spots": True}).rulings == ()


def test_a_reading_below_the_washers_is_said_and_does_not_count() -> None:
    found = assess(CAR, {"washers": 0.006, **points("rear_left", 5.9, 27.9, 27.9)})
    assert words(found)["rear_left.washers"] == "look"
    assert len(found.rotors["rear_left"].points_m) == 2


def test_every_fault_underneath_is_in_the_sheet_and_says_what_to_do() -> None:
    text = resources.files("thermaxis.core").joinpath("data/underneath.csv").read_text("utf-8")
    for row in csv.DictReader(text.splitlines()):
        cell = WHEEL_CELLS[row["cell"]]
        value: Value = True if cell.kind == "tick" else row["word"]
        assert read_value(row["cell"], cell, value) == value
        (ruling,) = assess(CAR, {f"rear_right.{row['cell']}": value}).rulings
        assert (ruling.state, ruling.check) == (row["state"], row["check"])
        assert row["source"]


def test_findings_become_evidence_with_their_place_and_freedom_needs_all_wheels() -> None:
    stiff = assess(CAR, {"front_left.pins": "seized", **{f"{name}.pins": "free" for name in NAMES[1:]}})
    assert [(entry.evidence, entry.place) for entry in stiff.seen] == [("found_pins_stiff", "front left")]
    free = assess(CAR, {"said.one_wheel_dusty": True, **{f"{name}.under": "sound" for name in NAMES}})
    assert {entry.evidence for entry in free.seen} == {"one_wheel_dusty", "found_pins_free", "found_piston_free"}
    # Nothing but good news: nothing to explain.
    assert assess(CAR, {f"{name}.under": "sound" for name in NAMES}).diagnosis is None
    shake: dict[str, Value] = {"said.shake_in_wheel": True, **points("front_left", 21.5, 21.54, 21.5)}
    uneven = assess(CAR, shake)
    assert uneven.diagnosis is not None
    assert uneven.diagnosis.causes[0].name == "thickness_variation"
    hub = assess(CAR, {"said.clicks_pulling_away": True, "rear_left.bearing": "play"})
    assert hub.diagnosis is not None
    assert hub.diagnosis.causes[0].place == "elsewhere"


@pytest.mark.parametrize(
    ("sliding", "inner", "outer", "evidence", "cause"),
    [
        (True, 4.0, 8.0, "found_inner_thin", "slide_pins"),
        (True, 8.0, 4.0, "found_outer_thin", "dry_hardware"),
        # A fixed caliper has no pins that could stick.
        (False, 4.0, 8.0, "found_opposed_differ", "seized_piston"),
        (False, 8.0, 4.0, "found_opposed_differ", "seized_piston"),
    ],
)
def test_uneven_pads_of_sliding_and_fixed_calipers(
    sliding: bool, inner: float, outer: float, evidence: str, cause: str
) -> None:
    wheels = [dataclasses.replace(wheel, sliding=sliding) for wheel in CAR]
    found = assess(wheels, pads("front_left", inner, outer))
    assert evidence in [entry.evidence for entry in found.seen]
    assert found.diagnosis is not None
    assert found.diagnosis.causes[0].name == cause


def test_fluid_by_age_strip_and_level() -> None:
    assert words(assess(CAR, {"fluid_age": 30.0})) == {"fluid.age": "change"}
    assert words(assess(CAR, {"fluid_age": 12.0, "fluid_strip": "change"})) == {"fluid.age": "change"}
    assert words(assess(CAR, {"fluid_age": 12.0, "fluid_level": "between the marks"})) == {}
    assert words(assess(CAR, {"fluid_level": "below the mark"})) == {"fluid.level": "look"}


def test_planned_rotor_wear_by_family() -> None:
    assert rotor_wear_m("semi-metallic") == pytest.approx(0.0004)
    families = {"organic", "ceramic", "low-metallic", "semi-metallic", "sintered", "race carbon-metallic"}
    assert all(0.0001 <= rotor_wear_m(family) <= 0.001 for family in families)
    with pytest.raises(FieldError, match="family"):
        rotor_wear_m("wood")


LENGTHS = st.dictionaries(
    st.sampled_from(
        [f"{name}.{cell}" for name in NAMES for cell, rule in WHEEL_CELLS.items() if rule.kind == "length"]
    ),
    st.floats(0.0, 0.01),
    max_size=12,
)


@given(lengths=LENGTHS, washers=st.floats(0, 0.01))
def test_no_sheet_breaks_the_rules_and_order_does_not_matter(lengths: dict[str, float], washers: float) -> None:
    sheet: dict[str, Value] = {**lengths, "washers": washers}
    found = assess(CAR, sheet)
    assert found == assess(CAR, dict(reversed(sheet.items())))
    assert all(ruling.headline and ruling.state in ("over", "close", "fine") for ruling in found.rulings)


def test_two_rotors_of_an_axle_never_contradict_each_other() -> None:
    # One is under discard, its mate is sound: by itself it would be kept, and no line may say "keep".
    sheet: dict[str, Value] = {
        "front.discard": 0.0204,
        **{"front_left.plain": True, **points("front_left", 20.3, 20.31, 20.3)},
        **{"front_right.plain": True, **points("front_right", 21.9, 21.9, 21.9)},
    }
    found = assess(CAR, sheet)
    rotors = [ruling for ruling in found.rulings if ruling.subject in ("front_left.rotor", "front_right.rotor")]
    assert [ruling.word for ruling in rotors] == ["replace", "replace"]
    assert {ruling.state for ruling in rotors} == {"over"}
    mate = next(ruling for ruling in rotors if ruling.subject == "front_right.rotor")
    assert metric(mate.headline) == "Front right rotor: replace with its pair, by itself: keep"
    assert "in pairs" in metric(mate.text)


def test_where_a_symptom_is_is_asked_and_said() -> None:
    assert cell_of("where.pulls_hard_braking", NAMES).choices == ("left", "right")
    assert cell_of("where.one_wheel_dusty", NAMES).choices == tuple(NAMES)
    for name in ("where.soft_pedal", "where.found_crack", "where."):
        with pytest.raises(FieldError, match="a cell of this machine"):
            cell_of(name, NAMES)
    said: dict[str, Value] = {"said.pulls_hard_braking": True, "said.one_wheel_dusty": True}
    placed = assess(
        CAR,
        {
            **said,
            "where.pulls_hard_braking": "left",
            "where.one_wheel_dusty": "front_right",
            "where.grinding": "rear_left",
        },
    )
    assert {seen.evidence: seen.place for seen in placed.seen} == {
        "pulls_hard_braking": "to the left",
        "one_wheel_dusty": "front right",
    }
    assert {seen.place for seen in assess(CAR, said).seen} == {""}


def test_the_check_that_tells_most_is_never_one_already_answered() -> None:
    sheet: dict[str, Value] = {"said.one_wheel_dusty": True, "said.pulls_hard_braking": True}
    answers: dict[str, dict[str, Value]] = {
        "slide the caliper": {"pins": "free"},
        "push each piston": {"pistons": "free"},
        "wheel that drags": {"frees_at_bleed_screw": False},
        "look along lines": {"wet": False},
        "wheel off the ground: rock": {"bearing": "tight"},
    }
    asked = []
    for _ in range(12):
        found = assess(CAR, sheet).diagnosis
        assert found is not None
        if not found.next_check:
            break
        assert found.next_check not in asked
        asked.append(found.next_check)
        answer = next((cells for start, cells in answers.items() if found.next_check.startswith(start)), None)
        if answer is None:
            break
        for wheel in ("front_left", "front_right"):
            sheet |= {f"{wheel}.{cell}": value for cell, value in answer.items()}
    assert len(asked) >= 3
    # On one side only, it is not answered; found at fault, it is.
    half = assess(CAR, {"said.one_wheel_dusty": True, "said.pulls_hard_braking": True, "front_left.pins": "free"})
    full = assess(CAR, {"said.one_wheel_dusty": True, "said.pulls_hard_braking": True, "front_left.pins": "seized"})
    assert half.diagnosis is not None
    assert full.diagnosis is not None
    assert not full.diagnosis.next_check.startswith("slide the caliper")


def test_a_gauge_read_as_inches_that_was_on_millimetres_is_recognised() -> None:
    # 9.2 typed by a reader of inches is 233.7 mm; it was 9.2 mm.
    found = doubt_of(9.2 * 0.0254, 0.011, 0.0095)
    assert found is not None
    assert found.in_mm_m == pytest.approx(0.0092)
    assert found.in_inches_m is None
