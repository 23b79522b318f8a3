"""Do the parts go in: the stack by hand with its spread, the end of its life, old against new."""

from __future__ import annotations

import dataclasses
from collections.abc import Mapping

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.said import metric
from thermaxis.core.planning.fit import comparing
from thermaxis.core.planning.fit.caliper import caliper_of
from thermaxis.core.planning.fit.stack import (
    Length,
    Opening,
    Stack,
    StackPad,
    end_of_life,
    gravest,
    last_resort,
    length,
    room,
    was_in_there,
    without_shims,
)

MM = 1e-3


def pad(
    friction: float, backing: float = 5.5, source: str = "maker", shim: float = 0.0, change: float = 3.0
) -> StackPad:
    return StackPad(
        friction=length(friction * MM, source), backing_m=backing * MM, shim_m=shim * MM, change_m=change * MM
    )


def stack(
    opening: float | None, rotor: Length, one: StackPad, sides: int = 1, discard: float = 18.0, **more: object
) -> Stack:
    at = None if opening is None else Opening(at=length(opening * MM, "measured"))
    return Stack(opening=at, rotor=rotor, discard_m=discard * MM, inner=one, outer=one, sides=sides, **more)  # type: ignore[arg-type]


# Worked by hand: needed = ring + 2 (friction + plate + shim) + 0.5; spread = root of the sum of squares.
BY_HAND = (
    # ring measured, pads the maker's, opening measured: sqrt(0.05^2 + 2 x 0.15^2 + 0.05^2) = 0.2236.
    (52.6, length(22.2 * MM, "measured"), pad(10.5), -2.1, 0.2236, "does not fit"),
    # all measured: sqrt(4 x 0.05^2) = 0.1.
    (53.0, length(20.0 * MM, "measured"), pad(10.5, source="measured"), 0.5, 0.1, "fits"),
    (52.6, length(20.0 * MM, "measured"), pad(10.5, source="measured"), 0.1, 0.1, "tight"),
    # 0.2 too thick within 2 x 0.3482: sqrt(0.3^2 + 2 x 0.05^2 + ... nobody's ring) = sqrt(0.09 + 0.045 + 0.0025).
    (52.3, length(20.0 * MM, "estimate"), pad(10.5), -0.2, 0.3708, "tight"),
    # a shim of 0.6 on each pad, a maker who states 0.02 of his ring: sqrt(0.02^2 + 2 x 0.15^2 + 0.05^2).
    (55.0, length(20.0 * MM, "maker", 0.02 * MM), pad(10.5, shim=0.6), 1.3, 0.2189, "fits"),
)


@pytest.mark.parametrize(("opening", "ring", "one", "left", "spread", "verdict"), BY_HAND)
def test_the_stack_by_hand(
    opening: float, ring: Length, one: StackPad, left: float, spread: float, verdict: str
) -> None:
    found = room(stack(opening, ring, one))
    assert found.room_m == pytest.approx(left * MM, abs=1e-9)
    assert found.spread_m == pytest.approx(spread * MM, abs=5e-8)
    assert (found.verdict, found.at_least) == (verdict, False)


def test_a_bound_shows_that_parts_fit_and_never_that_they_do_not() -> None:
    old = pad(10.5)
    bound = was_in_there(22.0 * MM, old, old)
    assert bound.at.value_m == pytest.approx(54.5 * MM)
    thinner = dataclasses.replace(stack(None, length(20.0 * MM, "maker"), old), opening=bound)
    found = room(thinner)
    assert (found.verdict, found.at_least) == ("fits", True)
    assert found.room_m == pytest.approx(2.0 * MM)
    assert metric(found.text) == "at least 2.0 mm to spare"
    # As thick as what ran in there: it goes in as that did, and nobody knows what is to spare.
    same = dataclasses.replace(thinner, rotor=length(22.0 * MM, "maker"))
    assert (room(same).verdict, metric(room(same).text)) == ("tight", "as thick as what was in there")
    thicker = dataclasses.replace(thinner, rotor=length(24.0 * MM, "maker"))
    assert (room(thicker).verdict, metric(room(thicker).text)) == ("not known", "caliper opening not known")
    assert room(stack(None, length(0.02, "maker"), old)).room_m is None
    # Wrong to the unsafe side there: a wider opening lets the pistons out further.
    assert end_of_life(dataclasses.replace(thinner, depth=length(0.03, "maker"))).verdict == "not known"


lengths = st.floats(0.005, 0.06)


@given(lengths, st.floats(0.005, 0.03), st.floats(0.004, 0.015), st.floats(0.0, 0.002))
def test_what_is_added_to_a_part_is_taken_from_the_room(
    opening: float, ring: float, friction: float, more: float
) -> None:
    one = StackPad(friction=length(friction, "maker"), backing_m=0.005, change_m=0.003)
    before = room(stack(opening / MM, length(ring, "maker"), one))
    thicker = room(stack(opening / MM, length(ring + more, "maker"), one))
    pads = StackPad(friction=length(friction + more, "maker"), backing_m=0.005, change_m=0.003)
    both = room(stack(opening / MM, length(ring, "maker"), pads))
    assert before.room_m is not None
    assert thicker.room_m == pytest.approx(before.room_m - more, abs=1e-12)
    assert both.room_m == pytest.approx(before.room_m - 2 * more, abs=1e-12)
    assert (before.verdict == "fits") == (before.room_m > 2 * before.spread_m)
    off = last_resort(stack(opening / MM, length(ring, "maker"), one), 40.0)
    if off is not None:
        # Half of the excess from each pad, and then it just goes in.
        cut = StackPad(friction=length(friction - off.each_m, "maker"), backing_m=0.005, change_m=0.003)
        assert room(stack(opening / MM, length(ring, "maker"), cut)).room_m == pytest.approx(0.0, abs=1e-12)
        assert 0 < off.share < 1
        assert off.events == pytest.approx(40.0 * off.share)


def test_the_last_resort_costs_life() -> None:
    # 1.6 too thick, 10.5 of friction changed at 3: 0.8 of 7.5 is 10.7 %, of 55 events 5.9.
    thick = stack(52.6 - 0.5, length(21.2 * MM, "measured"), pad(10.5, 5.5))
    found = last_resort(dataclasses.replace(thick, clearance_m=0.5 * MM), 55.0)
    assert found is not None
    assert [found.each_m / MM, found.share, found.events] == pytest.approx([0.8, 0.10667, 5.867], rel=1e-4)
    assert last_resort(stack(70.0, length(20.0 * MM, "maker"), pad(10.5)), 10.0) is None
    # Nothing would be left of the pad above its change thickness.
    assert last_resort(stack(30.0, length(20.0 * MM, "maker"), pad(10.5)), 10.0) is None
    assert without_shims(stack(55.0, length(0.02, "maker"), pad(10.5, shim=0.6))).needed_m == pytest.approx(52.5 * MM)


def test_the_end_of_its_life_by_hand() -> None:
    # Opposed, both sides move: (52.6 - (18 + 2 x 3 + 2 x 5.5)) / 2 = 8.8; of 17 in the bore 8.2 stay behind.
    opposed = stack(52.6, length(0.02, "maker"), pad(10.5), sides=2, depth=length(17 * MM, "measured"))
    end = end_of_life(opposed)
    assert [end.travel_m, end.behind_m, end.thinnest_m] == pytest.approx([8.8 * MM, 8.2 * MM, 0.8 * MM])
    assert end.verdict == "fits"
    # A sliding caliper's piston goes the whole way: 17.6 of 17, out of its bore.
    sliding = end_of_life(dataclasses.replace(opposed, sides=1))
    assert sliding.travel_m == pytest.approx(17.6 * MM)
    assert sliding.verdict == "does not fit"
    # (52.6 - (17 - 6) - 18 - 11) / 2
    assert sliding.thinnest_m == pytest.approx(6.3 * MM)
    assert metric(sliding.text).endswith("it may leave its seal. With such a rotor change pads at 6.3 mm.")
    near = end_of_life(dataclasses.replace(opposed, sides=1, depth=length(23.6 * MM, "measured")))
    assert near.verdict == "tight"
    always = end_of_life(dataclasses.replace(opposed, depth=length(30 * MM, "measured")))
    assert (always.thinnest_m, "Even pads without" in metric(always.text)) == (0.0, True)
    # What is held at its thinnest stays held by exactly what must stay.
    worn = dataclasses.replace(opposed, sides=1, inner=pad(10.5, change=6.3), outer=pad(10.5, change=6.3))
    assert end_of_life(worn).behind_m == pytest.approx(6 * MM)


def test_which_axle_has_less_room() -> None:
    fits, tight = (room(stack(x, length(0.02, "measured"), pad(10.5))) for x in (55.0, 52.6))
    unknown = room(stack(None, length(0.02, "measured"), pad(10.5)))
    assert gravest({"front": fits, "rear": tight}) == ("rear", tight)
    assert gravest({"front": unknown, "rear": fits}) == ("front", unknown)
    assert gravest({"front": None, "rear": None}) is None


@pytest.mark.parametrize(
    ("kind", "opposed", "pistons", "parking"),
    [
        ("sliding", False, 1, "none"),
        ("sliding, 2 pistons", False, 2, "none"),
        ("opposed, 4 pistons, two discs", True, 4, "none"),
        ("opposed", True, 2, "none"),
        ("sliding, screw-in", False, 1, "lever"),
        ("sliding, electric parking brake", False, 1, "electric"),
        ("sliding, drum in hat", False, 1, "drum"),
    ],
)
def test_a_caliper_by_its_kind(kind: str, opposed: bool, pistons: int, parking: str) -> None:
    found = caliper_of(kind)
    assert (found.opposed, found.pistons, found.parking, found.sides) == (
        opposed,
        pistons,
        parking,
        2 if opposed else 1,
    )
    assert found.screw_in == (parking == "lever")


OLD = {
    "diameter_m": 0.26,
    "hat_height_m": 0.0412,
    "bore_m": 0.0581,
    "holes": 4.0,
    "pitch_circle_m": 0.098,
    "fixing_screws": 1.0,
    "drum_m": 0.19,
}


def rotor_rows(
    sliding: bool = True, height: float | None = 0.043, new: Mapping[str, float | None] = {}
) -> dict[str, comparing.Row]:
    old = {name: length(value, "measured") for name, value in OLD.items()}
    there = {name: value if value is None else length(value, "maker") for name, value in {**OLD, **new}.items()}
    rows = comparing.compare_rotors(
        old,
        there,
        sliding=sliding,
        band_m=(0.086, 0.13),
        pad_height=None if height is None else length(height, "measured"),
        bracket_radius=length(0.1345, "measured"),
        rim_room_m=0.004,
        spoke_room=None,
        drum=True,
    )
    return {row.name: row for row in rows}


def test_old_against_new() -> None:
    same = rotor_rows()
    assert {row.verdict for name, row in same.items() if name != "spokes"} == {"fits"}
    assert (same["spokes"].verdict, same["spokes"].how.startswith("clay")) == ("measure", True)
    for name, off, verdict in (
        ("diameter_m", 0.001, "fits"),
        ("diameter_m", 0.0015, "does not fit"),
        ("hat_height_m", 0.0002, "fits"),
        ("hat_height_m", -0.0003, "look"),
        ("bore_m", 0.0001, "fits"),
        ("bore_m", 0.0003, "does not fit"),
        ("bore_m", -0.00005, "does not fit"),
        ("holes", 1.0, "does not fit"),
        ("fixing_screws", 1.0, "fits"),
        ("fixing_screws", -1.0, "does not fit"),
        ("drum_m", 0.0005, "fits"),
        ("drum_m", -0.0006, "does not fit"),
    ):
        row = rotor_rows(new={name: OLD[name] + off})[name]
        assert row.verdict == verdict, (name, off, metric(row.text))
    # What centres the ring: a sliding caliper follows, an opposed one does not.
    fixed = rotor_rows(sliding=False, new={"hat_height_m": 0.0415})["hat_height_m"]
    assert (fixed.verdict, metric(fixed.text)) == (
        "does not fit",
        "0.30 mm off centre, and nothing slides: one side's pistons stand out further",
    )
    # A larger ring reaches the bracket; a taller pad stays unswept at the edge.
    larger = rotor_rows(new={"diameter_m": 0.2672})["edge"]
    assert (larger.verdict, metric(larger.text)) == ("look", "only 0.90 mm; at least 2.0 mm")
    assert rotor_rows(new={"diameter_m": 0.272})["edge"].verdict == "does not fit"
    assert rotor_rows(height=0.0452)["band"].verdict == "look"
    unknown = rotor_rows(new={"hat_height_m": None})["hat_height_m"]
    assert (unknown.verdict, metric(unknown.text)) == ("measure", "measure the new one")
    assert comparing.gravest([*same.values(), fixed]) == "does not fit"
    assert comparing.gravest(list(same.values())) == "measure"


def test_pads_in_their_bracket() -> None:
    def rows(length_m: float, pin: float = 0.005, shape: bool | None = True) -> dict[str, comparing.Row]:
        new = {"backing_m": 0.0055, "length_m": length_m, "pin_hole_m": pin, "pin_spacing_m": 0.058}
        old = {"backing_m": 0.0055, "length_m": None, "pin_hole_m": 0.005, "pin_spacing_m": 0.058}
        found = comparing.compare_pads(
            {name: value if value is None else length(value, "measured") for name, value in old.items()},
            {name: length(value, "maker") for name, value in new.items()},
            same_shape=shape,
            abutment=length(0.09, "measured"),
            pins=True,
        )
        return {row.name: row for row in found}

    for play, verdict in (
        (0.00005, "look"),
        (0.0001, "fits"),
        (0.0004, "fits"),
        (0.0006, "look"),
        (-0.0001, "does not fit"),
    ):
        assert rows(0.09 - play)["length_m"].verdict == verdict, play
    assert [rows(0.0898, pin)["pin_hole_m"].verdict for pin in (0.0049, 0.0052, 0.0056)] == [
        "does not fit",
        "fits",
        "look",
    ]
    assert [rows(0.0898, shape=shape)["outline"].verdict for shape in (True, False, None)] == [
        "fits",
        "does not fit",
        "measure",
    ]
