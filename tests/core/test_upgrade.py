"""The chain from foot to pads, two set-ups side by side, and the mistakes that are named."""

from __future__ import annotations

import dataclasses
import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.cases_data import plain_case
from tests.said import metric
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.balance import lock_up, statics
from thermaxis.core.physics.chain import PAD_CLEARANCE_M, chain
from thermaxis.core.planning.machine.upgrade import (
    Room,
    SetupFigures,
    as_hot,
    balance_warnings,
    changed,
    differences,
    pedal_for,
    setup_figures,
    wet,
)
from thermaxis.core.records import Case, Statics

ROOM = Room(rim_radius_m=0.19, caliper_reach_m=0.027)


def front_first() -> Case:
    """The plain case with rear calipers small enough for the front to lock first, and a strong leg."""
    smaller = plain_case().rear.piston_area_m2 * 0.28
    return changed(plain_case(), {"rear.piston_area_m2": smaller, "hydraulics.max_pedal_force_N": 2500.0})


def figures(case: Case) -> SetupFigures:
    return setup_figures(case, 200.0, 100.0, ROOM, Room(rim_radius_m=None, caliper_reach_m=None))


def codes(before: Case, after: Case) -> list[str]:
    return [entry.code for entry in differences(figures(before), figures(after), rider=False)]


def test_the_chain_against_hand_worked_numbers() -> None:
    case = changed(
        plain_case(),
        {
            "hydraulics.pedal_ratio": 4.0,
            "hydraulics.pedal_efficiency": 0.9,
            "hydraulics.booster_gain": 4.0,
            "hydraulics.booster_runout_N": 600.0,
            "hydraulics.master_bore_m": 0.02,
            "hydraulics.rear_knee_Pa": 3e6,
            "hydraulics.rear_slope": 0.4,
        },
    )
    # Hand: 200 N * 4 * 0.9 = 720 N; booster 4 * 600 + 120 = 2520 N; over 314.16 mm2 that is 8.021 MPa; rear 3 + 0.4 * 5.021.
    link = chain(case, 200.0)
    assert link.pushrod_N == pytest.approx(720)
    assert link.master_N == pytest.approx(2520)
    assert link.booster_adds_N == pytest.approx(1800)
    assert link.booster_ran_out
    assert link.front_pressure_Pa == pytest.approx(8.0214e6, rel=1e-4)
    assert link.rear_pressure_Pa == pytest.approx(5.0086e6, rel=1e-4)
    assert link.front_clamp_N == pytest.approx(
        8.0214e6 * case.front.piston_area_m2 * case.front.caliper_efficiency, rel=1e-4
    )
    assert 0.00008 <= PAD_CLEARANCE_M <= 0.00012
    volume = 2 * PAD_CLEARANCE_M * (2 * case.front.piston_area_m2 + 2 * case.rear.piston_area_m2)
    assert link.fluid_m3 == pytest.approx(volume)
    assert link.pedal_travel_m == pytest.approx(volume / (math.pi * 1e-4) * 4)
    assert not chain(case, 150.0).booster_ran_out


@given(wanted=st.floats(0.05, 0.5))
def test_the_pedal_for_a_deceleration_gives_it(wanted: float) -> None:
    case = plain_case()
    force = pedal_for(case, wanted, 100.0)
    assert force is not None
    assert statics(case, Statics(pedal_force_N=force, rotor_C=100.0)).decel_g == pytest.approx(wanted, rel=1e-9)


def test_a_bigger_front_brake_alone_moves_balance_forward_and_lengthens_the_pedal() -> None:
    before = plain_case()
    bigger = changed(before, {"front.piston_area_m2": before.front.piston_area_m2 * 1.3})
    old, new = figures(before), figures(bigger)
    assert new.front_torque_Nm == pytest.approx(1.3 * old.front_torque_Nm)
    assert new.rear_torque_Nm == pytest.approx(old.rear_torque_Nm)
    assert new.front_share > old.front_share
    assert new.pedal_travel_m > old.pedal_travel_m
    said = differences(old, new, rider=False)
    assert {"balance", "longer"} <= {entry.code for entry in said}
    assert "forward" in next(metric(entry.text) for entry in said if entry.code == "balance")
    # A bigger rotor changes torque by its mean radius and no fluid at all.
    rotor = changed(before, {"front.rotor.outer_radius_m": 0.15, "front.rotor.inner_radius_m": 0.1})
    mean = (before.front.rotor.outer_radius_m + before.front.rotor.inner_radius_m) / 2
    assert figures(rotor).front_torque_Nm == pytest.approx(old.front_torque_Nm * 0.125 / mean)
    assert figures(rotor).pedal_travel_m == old.pedal_travel_m


def test_a_bigger_master_cylinder_gives_a_shorter_harder_pedal() -> None:
    before = plain_case()
    after = changed(before, {"hydraulics.master_bore_m": before.hydraulics.master_bore_m * 1.2})
    assert "shorter" in codes(before, after)
    old, new = figures(before), figures(after)
    assert new.pedal_travel_m == pytest.approx(old.pedal_travel_m / 1.44)
    assert new.decel_g < old.decel_g
    assert old.pedal_for_wanted_N is not None
    weak = changed(before, {"hydraulics.master_bore_m": before.hydraulics.master_bore_m * 3})
    assert "weak" in codes(before, weak)
    assert codes(before, before) == []


def test_a_caliper_that_hits_the_wheel_is_told_to_the_millimetre() -> None:
    before = plain_case()
    after = changed(before, {"front.rotor.outer_radius_m": 0.168})
    said = differences(figures(before), figures(after), rider=False)
    assert said[0].code == "does_not_fit"
    assert "5 mm too big" in metric(said[0].text)
    assert ROOM.left(after.front) == pytest.approx(-0.005)


def test_a_rear_that_now_locks_first_is_named_unless_hands_decide() -> None:
    before = front_first()
    after = changed(before, {"rear.piston_area_m2": before.front.piston_area_m2 * 1.5})
    assert figures(before).dry.first_axle == "front"
    assert "rear_first" in codes(before, after)
    assert "rear_first" not in [entry.code for entry in differences(figures(before), figures(after), rider=True)]
    words = {entry.code: metric(entry.text) for entry in balance_warnings(after, 100.0, None, None)}
    assert words["rear_first_dry"].startswith(f"rear locks first at {lock_up(after, 100.0).decel_g:.2f} g dry")


def test_wet_and_hot_show_in_words_and_in_the_lock_points() -> None:
    case = front_first()
    assert wet(case).vehicle.tyre_grip == pytest.approx(0.6 * case.vehicle.tyre_grip)
    pad = dataclasses.replace(case.front.pad, mu=((0.0, 0.4), (600.0, 0.15)))
    fading = dataclasses.replace(case, front=dataclasses.replace(case.front, pad=pad))
    hot = as_hot(fading, 600.0, 100.0)
    assert [value for _, value in hot.front.pad.mu] == pytest.approx([0.15])
    said = {entry.code: metric(entry.text) for entry in balance_warnings(fading, 100.0, 600.0, 100.0)}
    assert "600 °C in front" in said["fade"]
    assert lock_up(fading, 100.0).first_axle == "front"
    assert said["rear_first_hot"].startswith(f"hot, the rear locks first at {lock_up(hot, 100.0).decel_g:.2f} g")
    assert "fade" not in {entry.code for entry in balance_warnings(case, 100.0, 100.0, 100.0)}
    tall = changed(case, {"vehicle.cg_height_m": 1.4})
    assert "lift" in {entry.code for entry in balance_warnings(tall, 100.0, None, None)}


@pytest.mark.parametrize(
    ("changes", "path"),
    [
        ({"front.rotor.thickness_m": -1.0}, "front.rotor.thickness_m"),
        ({"front.rotor.colour": 1.0}, "front.rotor.colour"),
        ({"trailer.mass_kg": 1.0}, "trailer"),
        ({"vehicle.mass_kg.x": 1.0}, "vehicle.mass_kg.x"),
    ],
)
def test_a_change_that_cannot_be_is_named(changes: dict[str, float | None], path: str) -> None:
    with pytest.raises(FieldError) as caught:
        changed(plain_case(), changes)
    assert caught.value.path == path


def test_two_numbers_that_only_go_together_change_together() -> None:
    both = {"front.rotor.inner_radius_m": 0.14, "front.rotor.outer_radius_m": 0.18}
    assert changed(plain_case(), both).front.rotor.inner_radius_m == 0.14
