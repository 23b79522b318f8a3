"""What tyres, driver and motor let each axle give: closed forms, and every branch of who gets what."""

from __future__ import annotations

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.cases_data import changed, load, plain_case
from tests.said import metric
from thermaxis.core.physics.balance import axle_loads
from thermaxis.core.physics.grip import decel_of, dynamic_loads, needed_force
from thermaxis.core.physics.packing import pack
from thermaxis.core.physics.resistance import GRAVITY
from thermaxis.core.physics.simulate import simulate_one
from thermaxis.core.records import Case, DescentDuty, Regen, Stop, StopsDuty, TraceDuty, Trailer


def stop(decel: float, from_mps: float = 30.0, to_mps: float = 5.0, grade: float = 0.0) -> StopsDuty:
    one = Stop(from_mps=from_mps, to_mps=to_mps, decel_mps2=decel, grade=grade, then_s=0.0, then_speed_mps=0.0)
    return StopsDuty(kind="stops", stops=(one,))


def bare(**changes: object) -> Case:
    """A car that only its brakes slow, with constant friction and no valve."""
    still = {"vehicle__drag_area_m2": 0.0, "vehicle__rolling_coefficient": 0.0, "hydraulics__rear_knee_Pa": None}
    return plain_case(**{**still, **changes})


def front_share(case: Case) -> float:
    """Share of the braking on the front axle at one pressure, friction being equal."""
    front = case.front.piston_area_m2 * (case.front.rotor.outer_radius_m + case.front.rotor.inner_radius_m)
    rear = case.rear.piston_area_m2 * (case.rear.rotor.outer_radius_m + case.rear.rotor.inner_radius_m)
    return front / (front + rear)


def test_without_anti_lock_the_axle_that_locks_first_sets_the_deceleration() -> None:
    # Hand: share r of the force F = k m a on the front, which holds mu (phi m g + m a h/L).
    case = bare(duty=stop(9.0), vehicle__tyre_grip=0.5, vehicle__anti_lock=False, rear__piston_area_m2=0.0008)
    vehicle, share = case.vehicle, front_share(case)
    ratio = vehicle.cg_height_m / vehicle.wheelbase_m
    decel = 0.5 * 0.6 * GRAVITY / (share * 1.05 - 0.5 * ratio)
    result = simulate_one(case)
    assert result.stops[0].duration_s == pytest.approx(25.0 / decel, rel=1e-3)
    assert result.grip_limited_s == pytest.approx(result.duration_s, rel=1e-6)
    assert result.force_limited_s == 0.0
    assert [remark.code for remark in result.warnings] == ["grip_limited"]
    assert "grip 0.5" in metric(result.warnings[0].text)


def test_with_anti_lock_both_axles_reach_their_grip() -> None:
    # Hand: F = mu m g whatever the loads, so a = mu g/k.
    case = bare(duty=stop(9.0), vehicle__tyre_grip=0.5, rear__piston_area_m2=0.0005)
    result = simulate_one(case)
    assert result.stops[0].duration_s == pytest.approx(25.0 / (0.5 * GRAVITY / 1.05), rel=1e-3)
    slower = simulate_one(changed(case, vehicle__anti_lock=False))
    assert slower.duration_s > 1.05 * result.duration_s
    # And where the pedal runs out before the other axle's grip does, both limits run.
    weak = simulate_one(changed(case, hydraulics__max_pedal_force_N=170.0, rear__piston_area_m2=0.0002))
    assert weak.grip_limited_s == pytest.approx(weak.duration_s, rel=1e-6)
    assert weak.force_limited_s == pytest.approx(weak.duration_s, rel=1e-6)


def test_an_anti_lock_axle_hands_the_rest_to_the_other() -> None:
    # Asked for less than both can hold: no stop is short, but the front stays at its grip.
    case = bare(duty=stop(4.4), vehicle__tyre_grip=0.5, rear__piston_area_m2=0.0005)
    result = simulate_one(case)
    assert result.stops[0].duration_s == pytest.approx(25.0 / 4.4, rel=1e-6)
    assert result.grip_limited_s == 0.0
    held = 0.5 * axle_loads(case, 4.4 / GRAVITY)[0] * (30.0**2 - 5.0**2) / (2 * 4.4)
    assert 2 * result.front.friction_energy_J == pytest.approx(held, rel=1e-3)
    assert 2 * result.rear.friction_energy_J == pytest.approx(1.05 * 1100 * (900 - 25) / 2 - held, rel=1e-3)


def test_a_motorcycle_stops_short_of_turning_over_its_front_wheel() -> None:
    # Hand: at rear lift a = g (1 - phi) L/h, all of it from the front.
    twin = load("twin-repeated-stops")
    vehicle = twin.vehicle
    lift = GRAVITY * (1 - vehicle.front_fraction) * vehicle.wheelbase_m / vehicle.cg_height_m
    case = changed(
        twin,
        duty=stop(14.0),
        vehicle__tyre_grip=2.0,
        vehicle__rear_lift_area_m2=0.0,
        vehicle__front_lift_area_m2=0.0,
        hydraulics__max_pedal_force_N=3000.0,
    )
    result = simulate_one(case)
    assert result.stops[0].duration_s == pytest.approx(25.0 / lift, rel=1e-3)
    assert result.grip_limited_s == pytest.approx(result.duration_s, rel=1e-6)
    assert result.rear.friction_energy_J < 0.01 * result.front.friction_energy_J
    # A car on the same duty is not held back: its rear wheels may lift.
    car = bare(duty=stop(14.0), vehicle__tyre_grip=2.0, vehicle__cg_height_m=1.2, hydraulics__max_pedal_force_N=3000.0)
    assert simulate_one(car).grip_limited_s == 0.0


def test_a_ride_that_lifts_the_rear_wheel_is_kept_and_said() -> None:
    trace = TraceDuty(kind="trace", t_s=(0.0, 2.0, 4.0), v_mps=(40.0, 40.0, 15.0))
    case = changed(load("twin-repeated-stops"), duty=trace, vehicle__tyre_grip=2.0)
    (text,) = [metric(remark.text) for remark in simulate_one(case).warnings if remark.code == "beyond_grip"]
    assert "rear wheel on the ground" in text
    assert "for 2.0 s" in text
    gentle = changed(case, duty=TraceDuty(kind="trace", t_s=(0.0, 2.0, 6.0), v_mps=(40.0, 40.0, 15.0)))
    assert "beyond_grip" not in [remark.code for remark in simulate_one(gentle).warnings]


def test_the_front_takes_what_the_rear_wheel_cannot_hold() -> None:
    # Asked to give half of a hard stop behind, the rear gives its grip; the front makes up the rest.
    twin = changed(load("twin-repeated-stops"), duty=stop(6.0), vehicle__rider_front_share=0.5)
    twin = changed(twin, vehicle__drag_area_m2=0.0, vehicle__rolling_coefficient=0.0, vehicle__engine_braking_N=0.0)
    result = simulate_one(changed(twin, hydraulics__max_pedal_force_N=3000.0))
    rear_load = axle_loads(twin, 6.0 / GRAVITY)[1]
    vehicle = twin.vehicle
    held = vehicle.tyre_grip * rear_load * (30.0**2 - 5.0**2) / (2 * 6.0)
    whole = vehicle.rotating_mass_factor * vehicle.mass_kg * (30.0**2 - 5.0**2) / 2
    assert held < 0.5 * whole
    assert twin.rear.rotors * result.rear.friction_energy_J == pytest.approx(held, rel=1e-2)
    front = twin.front.rotors * result.front.friction_energy_J
    assert front + twin.rear.rotors * result.rear.friction_energy_J == pytest.approx(whole, rel=1e-3)


def test_regeneration_uses_up_the_grip_of_its_own_axle_and_says_when_it_asks_for_more() -> None:
    # Hand: the rear holds mu N_r; what the motor takes of it friction cannot have, and past it friction has none.
    duty = stop(5.0, 25.0, 10.0)
    regen = Regen(axle="rear", max_power_W=1e6, max_decel_mps2=2.0, fade_out_mps=3.0)
    icy = bare(duty=duty, vehicle__tyre_grip=0.56, vehicle__regen=regen, rear__piston_area_m2=0.004)
    result = simulate_one(icy)
    left = 0.56 * axle_loads(icy, 5.0 / GRAVITY)[1] - 2.0 * 1100
    assert left < 0.0
    assert result.rear.friction_energy_J == 0.0
    assert "regen_beyond_grip" in [remark.code for remark in result.warnings]
    # On the front axle the same motor leaves the rear's friction alone.
    other = simulate_one(changed(icy, vehicle__regen=Regen(**{**regen.__dict__, "axle": "front"})))
    assert other.rear.friction_energy_J > 0.0
    assert "regen_beyond_grip" not in [remark.code for remark in other.warnings]


def test_an_imposed_speed_beyond_grip_is_shared_by_the_limits_and_says_where() -> None:
    trace = TraceDuty(kind="trace", t_s=(0.0, 4.0, 7.0, 10.0), v_mps=(30.0, 30.0, 9.0, 9.0))
    case = bare(duty=trace, vehicle__tyre_grip=0.5, vehicle__anti_lock=False)
    result = simulate_one(case)
    # The speed is kept: all of k m a v goes through the brakes.
    assert result.energy_account.friction_J == pytest.approx(1.05 * 1100 * (900 - 81) / 2, rel=1e-4)
    front, rear = axle_loads(case, 7.0 / GRAVITY)
    assert result.front.friction_energy_J / result.rear.friction_energy_J == pytest.approx(front / rear, rel=1e-3)
    text = next(metric(remark.text) for remark in result.warnings if remark.code == "beyond_grip")
    assert "from 4." in text
    assert "for 3.0 s" in text
    assert result.grip_limited_s == 0.0


def test_a_trailer_downhill_pushes_at_steady_speed_and_never_pulls() -> None:
    # Hand: descent: (m + (1 - s) m_t) g sin(theta) less rolling of the vehicle; uphill braking: no push below 0.
    down = DescentDuty(kind="descent", grade=0.08, speed_mps=12.0, duration_s=50.0, then_s=0.0, then_speed_mps=0.0)
    case = bare(duty=down, trailer=Trailer(mass_kg=900.0, brake_share=0.5, nose_load_N=500.0))
    force = (1100 + 450) * GRAVITY * math.sin(math.atan(0.08))
    assert simulate_one(case).energy_account.friction_J == pytest.approx(force * 12.0 * 50.0, rel=1e-6)
    gentle = changed(case, duty=stop(0.5, 20.0, 10.0, grade=0.1))
    alone = changed(gentle, trailer=None)
    assert simulate_one(gentle).energy_account.friction_J == simulate_one(alone).energy_account.friction_J


@settings(max_examples=60)
@given(
    decel=st.floats(0.0, 12.0),
    speed=st.floats(0.0, 60.0),
    grade=st.floats(-0.2, 0.2),
    nose=st.floats(0.0, 2000.0),
    mass=st.floats(0.0, 3000.0),
)
def test_loads_add_up_on_any_slope_and_force_and_deceleration_are_inverse(
    decel: float, speed: float, grade: float, nose: float, mass: float
) -> None:
    trailer = Trailer(mass_kg=mass, brake_share=0.2, nose_load_N=nose)
    case = plain_case(trailer=trailer, vehicle__front_lift_area_m2=-0.1, vehicle__rear_lift_area_m2=0.2)
    vehicle, angle = pack([case])[1][0], math.atan(grade)
    front, rear = dynamic_loads(speed, decel, math.sin(angle), math.cos(angle), vehicle)
    lift = 0.5 * 101325 / (287.05 * 293.15) * speed**2 * 0.1
    assert front + rear == pytest.approx(1100 * GRAVITY * math.cos(angle) + nose + lift)
    assert rear >= 0.0
    if grade == 0.0:
        assert axle_loads(case, decel / GRAVITY, speed) == pytest.approx((front, rear))
    force = needed_force(decel, math.sin(angle), -5000.0, vehicle)
    if force > 0.0:
        assert decel_of(force, math.sin(angle), -5000.0, vehicle) == pytest.approx(decel, abs=1e-9)
