"""Axle loads, balance, lock-up: hand-worked numbers and limits."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.cases_data import changed, load, plain_case
from thermaxis.core.physics.balance import axle_loads, axle_road_forces, balance_curve, lock_up, rear_lift_g, statics
from thermaxis.core.physics.hydraulics import line_pressure
from thermaxis.core.physics.resistance import GRAVITY
from thermaxis.core.records import Case, Statics


def test_axle_loads_by_hand() -> None:
    # Hand: 1100 kg, 60 % front, h/L = 0.52/2.5: at 0.5 g 0.104 of the weight moves forward.
    front, rear = axle_loads(plain_case(), 0.5)
    weight = 1100 * GRAVITY
    assert front == pytest.approx(weight * (0.6 + 0.5 * 0.208))
    assert rear == pytest.approx(weight * (0.4 - 0.5 * 0.208))


@given(decel=st.floats(0.0, 1.5), speed=st.floats(0.0, 70.0))
def test_loads_add_up_to_weight_and_lift(decel: float, speed: float) -> None:
    case = changed(plain_case(), vehicle__front_lift_area_m2=0.2, vehicle__rear_lift_area_m2=-0.1)
    front, rear = axle_loads(case, decel, speed)
    density = 101325 / (287.05 * 293.15)
    assert front + rear == pytest.approx(1100 * GRAVITY + 0.5 * density * speed**2 * 0.1)


def test_push_and_nose_load_by_hand_moments() -> None:
    # Hand: moments about the rear contact: L N_f = m g phi L + m a h + F_t h_h - W_n b; about the front: the rest.
    case = load("hauler-descent")
    vehicle, trailer = case.vehicle, case.trailer
    assert trailer is not None
    decel = 0.4 * GRAVITY
    push = (1 - trailer.brake_share) * trailer.mass_kg * decel
    length, mass = vehicle.wheelbase_m, vehicle.mass_kg
    about_rear = mass * GRAVITY * vehicle.front_fraction * length + mass * decel * vehicle.cg_height_m
    about_rear += push * trailer.hitch_height_m - trailer.nose_load_N * trailer.hitch_overhang_m
    about_front = mass * GRAVITY * (1 - vehicle.front_fraction) * length - mass * decel * vehicle.cg_height_m
    about_front += -push * trailer.hitch_height_m + trailer.nose_load_N * (length + trailer.hitch_overhang_m)
    front, rear = axle_loads(case, 0.4)
    assert front == pytest.approx(about_rear / length, rel=1e-12)
    assert rear == pytest.approx(about_front / length, rel=1e-12)
    assert front + rear == pytest.approx(mass * GRAVITY + trailer.nose_load_N, rel=1e-12)
    # At rear lift exactly nothing is left behind; beyond it the front carries all.
    assert axle_loads(case, rear_lift_g(case))[1] == pytest.approx(0.0, abs=1e-6)
    front, rear = axle_loads(case, rear_lift_g(case) + 0.3)
    assert front == pytest.approx(mass * GRAVITY + trailer.nose_load_N)
    assert rear == 0.0


def test_a_pushing_trailer_changes_who_locks_and_how_hard_the_rig_can_stop() -> None:
    towing = load("hauler-descent")
    alone = changed(towing, trailer=None)
    pushed, free = lock_up(towing, 100.0), lock_up(alone, 100.0)
    assert towing.trailer is not None
    # Hand: both axles at their grip carry vehicle and nose load, and slow what the trailer pushes as well.
    weight, nose = towing.vehicle.mass_kg * GRAVITY, towing.trailer.nose_load_N
    whole = weight + 0.65 * 1750 * GRAVITY
    assert 1750 * (1 - towing.trailer.brake_share) == pytest.approx(0.65 * 1750)
    assert pushed.best_possible_g == pytest.approx(towing.vehicle.tyre_grip * (weight + nose) / whole)
    assert pushed.best_possible_g < free.best_possible_g == pytest.approx(towing.vehicle.tyre_grip)
    assert pushed.decel_g < free.decel_g


def test_rear_lift_by_hand() -> None:
    assert rear_lift_g(load("twin-repeated-stops")) == pytest.approx(0.51 * 1.42 / 0.64)


def equal_adhesion_case(rear_share: float) -> Case:
    """Rear pistons sized so that the rear axle gives `rear_share` of the force; no valve."""
    case = changed(plain_case(), hydraulics__rear_knee_Pa=None)
    front = case.front.piston_area_m2
    return changed(case, rear__piston_area_m2=front * rear_share / (1 - rear_share))


def test_lock_deceleration_against_the_closed_form() -> None:
    # Hand: the front locks where z (1 - r) = mu (phi + z h/L), the rear where z r = mu (1 - phi - z h/L).
    ratio, phi, grip = 0.52 / 2.5, 0.6, 0.95
    for share, first in ((0.2, "front"), (0.45, "rear")):
        lock = lock_up(equal_adhesion_case(share), 100.0)
        front = grip * phi / ((1 - share) - grip * ratio)
        rear = grip * (1 - phi) / (share + grip * ratio)
        assert lock.first_axle == first
        assert lock.decel_g == pytest.approx(min(front, rear), rel=0.01)
    assert lock.best_possible_g == pytest.approx(grip)


def test_no_lock_within_the_pedal_force_is_an_honest_answer() -> None:
    lock = lock_up(changed(plain_case(), hydraulics__max_pedal_force_N=20.0), 100.0)
    assert lock.first_axle == "none"
    assert lock.front_lock_g is None
    assert lock.rear_lock_g is None
    assert lock.decel_g < 0.2


def test_a_front_upgrade_alone_moves_the_balance_forward() -> None:
    case = equal_adhesion_case(0.30)
    upgraded = changed(case, front__piston_area_m2=2.0 * case.front.piston_area_m2)
    assert lock_up(case, 100.0).first_axle == "rear"
    assert lock_up(upgraded, 100.0).first_axle == "front"


def test_the_valve_bends_the_installed_line_at_its_knee() -> None:
    case = changed(plain_case(), hydraulics__rear_knee_Pa=2e6, hydraulics__rear_slope=0.0)
    curve = balance_curve(case, 100.0)
    most = max(point.rear_installed for point in curve)
    at_knee = axle_road_forces(case, 2e6, 100.0)[1] / (1100 * GRAVITY)
    assert most == pytest.approx(at_knee, rel=1e-9)
    assert curve[-1].front_installed > curve[10].front_installed > 0


def test_the_curve_ends_at_the_greatest_pedal_force_and_starts_at_nothing() -> None:
    case = load("roadster-single-stop")
    curve = balance_curve(case, 300.0)
    forces = axle_road_forces(case, line_pressure(700, case.hydraulics), 300.0)
    assert curve[0].decel_g == 0.0
    assert curve[-1].decel_g == pytest.approx(sum(forces) / (690 * GRAVITY))
    for point in curve:
        if point.rear_ideal > 0:
            assert point.front_ideal + point.rear_ideal == pytest.approx(point.decel_g)


def test_a_rider_keeps_the_share_until_a_circuit_runs_out() -> None:
    case = load("twin-repeated-stops")
    curve = balance_curve(case, 150.0)
    for point in curve[1:]:
        assert point.front_installed / point.decel_g == pytest.approx(0.88)
    forces = axle_road_forces(case, line_pressure(220, case.hydraulics), 150.0)
    assert curve[-1].decel_g * 272 * GRAVITY == pytest.approx(min(forces[0] / 0.88, forces[1] / 0.12))


def test_statics_know_the_trailer() -> None:
    case = load("hauler-descent")
    assert case.statics is not None
    alone, towing = statics(changed(case, trailer=None), case.statics), statics(case, case.statics)
    # The same pedal, the same forces; more to slow with them, and the nose load holds the rear down.
    assert towing.front_force_N == alone.front_force_N
    assert towing.decel_g == pytest.approx(alone.decel_g * 2480 / (2480 + 0.65 * 1750))
    assert towing.rear_lift_g < alone.rear_lift_g
    assert towing.rear_adhesion is not None
    assert alone.rear_adhesion is not None
    assert towing.rear_adhesion < alone.rear_adhesion
    more = statics(case, Statics(pedal_force_N=300, rotor_C=200))
    assert more.decel_g > towing.decel_g
    # A motorcycle's rear wheel that is in the air uses no adhesion.
    twin = load("twin-repeated-stops")
    assert statics(twin, Statics(pedal_force_N=220, rotor_C=100)).rear_adhesion is None
