"""Inspection of a wheel: pad states, differences and their causes, rotors over washers, cuts and cracks by hand."""

from __future__ import annotations

import dataclasses

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.said import metric
from thermaxis.core.errors import FieldError
from thermaxis.core.planning.inspection.wheel import (
    MOST_RUNOUT_M,
    PAD_STATES,
    SCHOOLS,
    CornerPads,
    PadLimits,
    RotorLimits,
    RotorSeen,
    axle_findings,
    corner_findings,
    pad_state,
    rotor_verdict,
    under_discard,
)

PADS = PadLimits(new_m=0.011, change_m=0.003)
ROTOR = RotorLimits(new_m=0.022, discard_m=0.0204)


def corner(inner: tuple[float, ...], outer: tuple[float, ...]) -> CornerPads:
    return CornerPads(inner_m=tuple(mm / 1e3 for mm in inner), outer_m=tuple(mm / 1e3 for mm in outer))


@pytest.mark.parametrize(
    ("mm", "state"),
    [
        (11.0, "fresh"),
        (10.5, "fresh"),
        (8.0, "fine"),
        (4.6, "fine"),
        (4.4, "plan"),
        (3.0, "due"),
        (1.6, "due"),
        (1.5, "at once"),
        (0.0, "at once"),
    ],
)
def test_pad_states_by_hand(mm: float, state: str) -> None:
    # 0.5 mm an event: three events before 3.0 mm are 4.5 mm.
    assert pad_state(mm / 1e3, PADS, 0.0005) == state


@given(thick=st.floats(0, 0.011), less=st.floats(0, 0.011))
def test_a_thinner_pad_is_never_in_a_better_state(thick: float, less: float) -> None:
    thin = max(0.0, thick - less)
    order = PAD_STATES.index
    assert order(pad_state(thin, PADS, 0.0004)) >= order(pad_state(thick, PADS, 0.0004))


def test_an_inner_pad_much_thinner_is_the_slide_pins() -> None:
    (found,) = corner_findings(corner((4.2,), (7.8,)), PADS, sliding=True)
    assert found.rule == "inner and outer"
    assert metric(found.text) == "the inner pad is 3.6 mm thinner than the other"
    assert "slide pins" in found.cause
    (outer,) = corner_findings(corner((7.8,), (4.2,)), PADS, sliding=True)
    assert "outer pad drags" in outer.cause
    (opposed,) = corner_findings(corner((4.2,), (7.8,)), PADS, sliding=False)
    assert "pistons" in opposed.cause
    # Less than 15 % of the new pad, 1.65 mm, is no difference.
    assert corner_findings(corner((6.4,), (7.8,)), PADS, sliding=True) == []


def test_a_taper_is_a_piston_or_a_pin() -> None:
    (found,) = corner_findings(corner((7.0, 5.9), (6.6,)), PADS, sliding=True)
    assert (found.rule, metric(found.text)) == ("taper", "the inner pad is 1.1 mm thinner at one end")


def test_sides_all_thin_and_thick_but_noisy() -> None:
    even = corner((7.0,), (7.1,))
    (side,) = axle_findings(corner((4.9,), (5.0,)), even, PADS)
    assert side.rule == "left and right"
    assert metric(side.text).startswith("the left side is 2.1 mm thinner")
    (thin,) = axle_findings(corner((2.4,), (2.3,)), corner((2.2,), (2.5,)), PADS)
    assert (thin.rule, thin.grave) == ("all thin", True)
    (noisy,) = axle_findings(even, even, PADS, noisy=True)
    assert "do not replace" in metric(noisy.text)
    assert axle_findings(even, even, PADS) == []


def test_over_washers_with_a_worn_lip_at_three_points_by_hand() -> None:
    # Hand: 25.18, 25.20 and 25.17 mm over two washers of 2.00 mm: 21.18, 21.20, 21.17; varies by 30 micrometres.
    seen = RotorSeen(points_m=(0.02518, 0.0252, 0.02517), washer_m=0.002, lip_m=0.0008)
    assert seen.least_m == pytest.approx(0.02117)
    assert seen.variation_m == pytest.approx(30e-6)
    # A cut of 15 + 50 micrometres a face leaves 21.04 mm; discard 20.40 and 0.30 mm of planned wear need 20.70: machine.
    found = rotor_verdict(seen, ROTOR, 0.0003, "compute both")
    assert (found.verdict, found.rule) == ("machine", "cut")
    assert found.after_cut_m == pytest.approx(0.02104)
    assert "a cut leaves 21.04 mm, discard and one pad set's wear need 20.70 mm" in metric(found.reason)
    # With 0.70 mm of planned wear the same cut leaves too little: the verdict turns.
    assert rotor_verdict(seen, ROTOR, 0.0007, "compute both").verdict == "replace"
    assert rotor_verdict(seen, ROTOR, 0.0003, "always replace").verdict == "replace"
    # Without the washers the lip would have been read: 25.2 mm, thicker than new.
    assert min(seen.points_m) > ROTOR.new_m


@pytest.mark.parametrize(
    ("changes", "verdict", "rule"),
    [
        ({}, "keep", "sound"),
        ({"lip_m": 0.0006}, "clean and keep", "surface"),
        ({"rust": "film"}, "clean and keep", "surface"),
        ({"glazed": True}, "clean and keep", "surface"),
        ({"scoring_m": 0.0004}, "keep", "sound"),
        ({"scoring_m": 0.0003, "rust": "pitted"}, "machine", "cut"),
        ({"scoring_m": 0.0006}, "replace", "cut"),
        ({"runout_m": 0.00008}, "machine", "cut"),
        ({"heat_spots": True}, "machine", "cut"),
        ({"crazed": True}, "keep", "sound"),
        ({"crack_m": 0.004}, "keep", "sound"),
        ({"crack_m": 0.012}, "replace", "crack"),
        ({"crack_m": 0.003, "crack_place": "hole"}, "replace", "crack"),
        ({"crack_m": 0.002, "crack_place": "edge"}, "replace", "crack"),
        ({"chamfer_lost": True}, "replace", "chamfer"),
        ({"points_m": (0.0204,)}, "replace", "discard"),
        # One hundredth over discard is not sound: the pads that go on would take it under.
        ({"points_m": (0.02041,)}, "replace", "planned wear"),
        ({"points_m": (0.02069,), "rust": "film"}, "replace", "planned wear"),
        ({"points_m": (0.0207,)}, "keep", "sound"),
    ],
)
def test_conditions_and_their_verdicts(changes: dict[str, object], verdict: str, rule: str) -> None:
    # 21.6 mm all round: 0.6 mm scoring takes 1.3 mm and leaves 20.3, below 20.4 + 0.3.
    seen = dataclasses.replace(RotorSeen(points_m=(0.0216, 0.0216, 0.0216)), **changes)  # type: ignore[arg-type]
    found = rotor_verdict(seen, ROTOR, 0.0003, "compute both")
    assert (found.verdict, found.rule) == (verdict, rule)
    assert found.reason
    assert ([metric(text) for text in found.watch] == ["hairline crazing: watch it"]) == bool(changes.get("crazed"))


@given(thickness=st.floats(0.0195, 0.022), wear=st.floats(0, 0.001), scoring=st.floats(0, 0.0012))
def test_no_verdict_lets_a_rotor_go_below_discard(thickness: float, wear: float, scoring: float) -> None:
    seen = RotorSeen(points_m=(thickness,), scoring_m=scoring)
    for school in SCHOOLS:
        found = rotor_verdict(seen, ROTOR, wear, school)
        if found.verdict != "replace":
            assert seen.least_m - wear >= ROTOR.discard_m - 1e-8
        if found.verdict == "machine":
            assert found.after_cut_m is not None
            assert found.after_cut_m >= ROTOR.discard_m + wear


@pytest.mark.parametrize(
    ("make", "path"),
    [
        (lambda: RotorSeen(points_m=()), "points_m"),
        (lambda: RotorSeen(points_m=(0.02, 0.003), washer_m=0.002), "points_m[1]"),
        (lambda: RotorSeen(points_m=(0.02,), rust="brown"), "rust"),
        (lambda: RotorLimits(new_m=0.02, discard_m=0.0), "discard_m"),
        (lambda: rotor_verdict(RotorSeen(points_m=(0.021,)), ROTOR, 0.0, "mood"), "school"),
        (lambda: PadLimits(new_m=0.0, change_m=0.003), "new_m"),
    ],
)
def test_what_cannot_be_is_named(make: object, path: str) -> None:
    with pytest.raises(FieldError) as caught:
        make()  # type: ignore[operator]
    assert caught.value.path == path


def test_a_motorcycle_s_disc_may_run_out_further() -> None:
    # 0.08 mm: over what a car's manual usually allows, well under a motorcycle's 0.10 to 0.30.
    seen = RotorSeen(points_m=(0.0216,), runout_m=0.00008)
    limits = {kind: dataclasses.replace(ROTOR, most_runout_m=most) for kind, most in MOST_RUNOUT_M.items()}
    assert rotor_verdict(seen, limits["car"], 0.0003, "compute both").verdict == "machine"
    assert rotor_verdict(seen, limits["motorcycle"], 0.0003, "compute both").verdict == "keep"
    assert 0.0001 <= MOST_RUNOUT_M["motorcycle"] <= 0.0003


def test_a_ring_under_its_discard_is_a_finding_and_no_error() -> None:
    worn = RotorLimits(new_m=0.0198, discard_m=0.0204)
    found = rotor_verdict(RotorSeen(points_m=(0.0198,)), worn, 0.0003, "compute both")
    assert (found.verdict, found.rule) == ("replace", "discard")
    remark = under_discard("front", 0.0198, 0.0204, guessed=True)
    assert remark is not None
    assert metric(remark.text).startswith("The front rotor is 19.8 mm thick, discard is 20.4 mm")
    assert "an estimate" in metric(remark.text)
    assert under_discard("front", 0.0205, 0.0204) is None
