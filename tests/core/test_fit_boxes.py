"""What is in the boxes, fluid pushed back, measures that are bounded."""

from __future__ import annotations

import dataclasses
import math

import pytest

from tests.said import metric
from thermaxis.core.errors import FieldError
from thermaxis.core.planning.fit.caliper import caliper_of
from thermaxis.core.planning.fit.kit import Axle, Line, check_kit, read_item, sums
from thermaxis.core.planning.fit.measures import CALIPER, PAD, ROTOR
from thermaxis.core.planning.fit.pushback import Pushed, Reservoir, push_back, pushed_back

SLIDING = Axle(
    caliper=caliper_of("sliding"),
    wheels=2,
    retention="bracket",
    sensor="left",
    handed="vanes",
    new_rotors=True,
    new_hoses=False,
    fixing_screws=1,
    piston_clips=False,
)
ALL: dict[str, float | str] = {
    "pads": 4,
    "tabs.left": 1,
    "tabs.right": 1,
    "sensor.left": "whole",
    "rotor.left": "left",
    "rotor.right": "right",
}
ALL |= {
    "clips": 1,
    "guide_bolts": 4,
    "springs": 2,
    "grease": 1,
    "bracket_bolts": 4,
    "threadlocker": 1,
    "fixing_screws": 2,
}


def lines(axle: Axle = SLIDING, **box: float | str) -> dict[str, Line]:
    return {
        line.name: line
        for line in check_kit(axle, {**ALL, **{name.replace("_of_", "."): v for name, v in box.items()}})
    }


def test_what_is_in_the_boxes() -> None:
    assert {line.verdict for line in lines().values()} == {"there"}
    # Two and two, both put on one wheel.
    wrong = lines(tabs_of_left=2, tabs_of_right=0)
    assert (wrong["tabs.left"].verdict, wrong["tabs.right"].verdict) == ("swap", "swap")
    assert metric(wrong["tabs.left"].text).startswith("two on the left wheel and none for the other")
    assert {line.verdict for line in lines(tabs_of_left=2, tabs_of_right=2).values()} == {"there"}
    assert lines(tabs_of_left=1, tabs_of_right=0)["tabs.right"].verdict == "order"
    assert lines(tabs_of_left=3, tabs_of_right=1)["tabs.left"].verdict == "swap"
    without = lines(dataclasses.replace(SLIDING, sensor="none"), tabs_of_left=0, tabs_of_right=0)
    assert without["tabs.left"].verdict == "look"
    # A left rotor on the right stops the work, with the check that shows it.
    two_left = lines(rotor_of_right="left")
    assert (two_left["rotor.left"].verdict, two_left["rotor.right"].verdict) == ("there", "stop")
    assert two_left["rotor.right"].check.startswith("look at the vanes from the outside")
    assert "both lean the same way" in metric(two_left["rotor.right"].text)
    crossed = lines(rotor_of_left="right", rotor_of_right="left")
    assert [crossed[f"rotor.{side}"].verdict for side in ("left", "right")] == ["swap", "swap"]
    assert lines(rotor_of_left="none")["rotor.left"].verdict == "look"
    faces = lines(dataclasses.replace(SLIDING, handed="face"), rotor_of_left="right", rotor_of_right="right")
    assert faces["rotor.left"].check.startswith("the maker's label")
    assert "rotor.left" not in lines(dataclasses.replace(SLIDING, handed="none"))
    # A sensor works once.
    cut = lines(sensor_of_left="cut")
    assert (cut["sensors"].verdict, cut["sensors"].need) == ("order", 1.0)
    assert lines(sensor_of_left="cut", sensors=1)["sensors"].verdict == "there"
    unseen = {name: value for name, value in ALL.items() if name != "sensor.left"}
    assert next(line for line in check_kit(SLIDING, unseen) if line.name == "sensors").verdict == "look"
    missing = lines(clips=0, bracket_bolts=2, fluid_m3=0.0)
    assert sums(list(missing.values()))["order"] == [
        "Abutment clips, kit for an axle",
        "Bracket or caliper bolts, used once",
    ]


def test_each_caliper_needs_its_own() -> None:
    opposed = dataclasses.replace(SLIDING, caliper=caliper_of("opposed, 4 pistons"), retention="pins", sensor="none")
    need = {line.name: line.need for line in check_kit(opposed, {})}
    assert (need["pins"], need["springs"], need["bracket_bolts"]) == (4, 2, 4)
    assert not {"clips", "guide_bolts", "grease"} & set(need)
    single = dataclasses.replace(SLIDING, wheels=1, new_rotors=False, handed="none", lost_m3=2e-5)
    need = {line.name: line.need for line in check_kit(single, {})}
    assert (need["pads"], need["guide_bolts"], need["fluid_m3"]) == (2, 2, 2e-5)
    assert not {"tabs.right", "bracket_bolts", "fixing_screws"} & set(need)
    for name, value in (
        ("wheels", 2),
        ("pads", 2.5),
        ("pads", -1),
        ("pads", 400),
        ("rotor.left", "up"),
        ("pads", True),
    ):
        with pytest.raises(FieldError):
            read_item(name, value)
    assert read_item("fluid_m3", 2.5e-4) == 2.5e-4


def test_fluid_pushed_back_against_the_room() -> None:
    # 25.52 cm2 and 12 mm of wear: 30.6 ml a corner.
    corner = pushed_back("left", 25.52e-4, 0.046, 0.058)
    assert corner.volume_m3 == pytest.approx(30.624e-6)
    assert pushed_back("left", 25.52e-4, 0.06, 0.058).volume_m3 == 0.0
    corners = [corner, Pushed(wheel="right", volume_m3=30e-6)]
    half = Reservoir(marks_m3=80e-6, level=0.5)
    calm = {"fluid_months": 10.0, "valves": False, "motorcycle": False, "worn_share": 0.6}
    # 0.75 of 80 ml is 60: the second corner takes it over the brim by 0.6.
    found = push_back(corners, half, **calm)  # type: ignore[arg-type]
    assert (found.school, found.after) == ("draw off", 2)
    assert [found.total_m3, found.room_m3, found.over_m3] == pytest.approx([60.624e-6, 60e-6, 0.624e-6])
    assert metric(found.reason) == "Draw off 0.63 ml first: 61 ml come back and there is room for 60 ml."
    low = push_back(corners, Reservoir(marks_m3=80e-6, level=0.1), **calm)  # type: ignore[arg-type]
    assert (low.school, low.after) == ("watch", 0)
    for change in ({"valves": True}, {"fluid_months": 25.0}, {"motorcycle": True}):
        school = push_back(corners, half, **{**calm, **change})  # type: ignore[arg-type]
        assert school.school == "bleed screw"
        assert any("would run over" in metric(text) for text in school.remarks)
    # A level nobody has read is the one that runs over; a full reservoir over thin pads was topped up.
    unread = push_back(corners, Reservoir(marks_m3=80e-6, estimated=True), **calm)  # type: ignore[arg-type]
    assert unread.room_m3 == pytest.approx(20e-6)
    assert "Nobody has read the level" in metric(unread.remarks[0])
    full = push_back(corners, Reservoir(marks_m3=80e-6, level=0.9), **calm)  # type: ignore[arg-type]
    assert any("topped up" in metric(text) for text in full.remarks)


def test_measures_are_bounded() -> None:
    for table in (CALIPER, ROTOR, PAD):
        for measure in table.values():
            measure.check(None)
            measure.check(measure.least)
            for wrong in (measure.most * 1.01, -1.0, math.nan, math.inf):
                with pytest.raises(FieldError):
                    measure.check(wrong)
    with pytest.raises(FieldError, match="whole"):
        ROTOR["holes"].check(4.5)
