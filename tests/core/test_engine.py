"""The engine as a whole: conservation, monotony, limits, and the three kinds of duty."""

from __future__ import annotations

import dataclasses
import math
import re

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.cases_data import NAMES, changed, load, plain_case
from tests.said import metric
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.friction import friction_coefficient
from thermaxis.core.physics.hydraulics import line_pressure
from thermaxis.core.physics.resistance import GRAVITY, stop_energy
from thermaxis.core.physics.schedule import After
from thermaxis.core.physics.simulate import history, simulate, simulate_one
from thermaxis.core.records import Case, DescentDuty, Regen, Stop, StopsDuty, TraceDuty, Trailer

speeds = st.floats(15.0, 55.0)
quick = settings(max_examples=25)


def stops(*entries: Stop, repeat: int = 1) -> StopsDuty:
    return StopsDuty(kind="stops", stops=entries, repeat=repeat)


def one_stop(from_mps: float = 30.0, to_mps: float = 0.0, decel: float = 6.0, **rest: float) -> StopsDuty:
    given_rest = {"then_s": 0.0, "then_speed_mps": 0.0, **rest}
    return stops(Stop(from_mps=from_mps, to_mps=to_mps, decel_mps2=decel, **given_rest))


def frictionless(**changes: object) -> Case:
    """No drag, no rolling: every joule goes through the brakes."""
    return plain_case(vehicle__drag_area_m2=0.0, vehicle__rolling_coefficient=0.0, **changes)


@quick
@given(
    speed=speeds,
    decel=st.floats(1.0, 9.0),
    grade=st.floats(-0.12, 0.12),
    pause=st.floats(0.0, 200.0),
    cooling=st.floats(0.3, 3.0),
    material=st.sampled_from(["grey_iron", "high_carbon_iron", "stainless", "carbon_ceramic"]),
    pattern=st.sampled_from(["plain", "slotted", "drilled", "drilled_slotted"]),
    vented=st.booleans(),
    air=st.floats(-20.0, 40.0),
    start=st.floats(-20.0, 500.0),
)
def test_energy_closes_whatever_the_machine(
    speed: float,
    decel: float,
    grade: float,
    pause: float,
    cooling: float,
    material: str,
    pattern: str,
    vented: bool,
    air: float,
    start: float,
) -> None:
    stop = Stop(from_mps=speed, to_mps=3.0, decel_mps2=decel, grade=grade, then_s=pause, then_speed_mps=20.0)
    case = plain_case(
        duty=stops(stop, repeat=3),
        front__cooling_factor=cooling,
        front__rotor__material=material,
        front__rotor__pattern=pattern,
        rear__rotor__gap_m=0.008 if vented else 0.0,
        environment__air_C=air,
        environment__start_C=start,
    )
    account = simulate_one(case).energy_account
    lost = (
        account.lost_faces_J
        + account.lost_radiation_J
        + account.lost_vanes_J
        + account.lost_hubs_J
        + account.lost_calipers_J
    )
    stored = account.stored_rotors_J + account.stored_pads_and_calipers_J
    scale = max(account.friction_J, abs(stored), abs(lost), 1.0)
    assert abs(account.in_J - stored - lost) / scale < 1e-6
    assert abs(account.imbalance) < 1e-6


@quick
@given(speed=speeds, to=st.floats(0.0, 10.0), decel=st.floats(1.0, 8.0), mass=st.floats(500.0, 3000.0))
def test_a_stop_on_the_brakes_alone_takes_its_kinetic_energy(
    speed: float, to: float, decel: float, mass: float
) -> None:
    case = frictionless(duty=one_stop(speed, to, decel), vehicle__mass_kg=mass, hydraulics__max_pedal_force_N=3000.0)
    result = simulate_one(case)
    wanted = stop_energy(mass, case.vehicle.rotating_mass_factor, speed, to)
    assert result.energy_account.friction_J == pytest.approx(wanted, rel=1e-4)
    assert result.stops[0].duration_s == pytest.approx((speed - to) / decel, rel=1e-4)


@quick
@given(extra=st.floats(1.0, 25.0))
def test_hotter_air_never_cools_anything(extra: float) -> None:
    case = load("twin-repeated-stops")
    warm, hot = simulate([case, changed(case, environment__air_C=case.environment.air_C + extra)])
    for axle in ("front", "rear"):
        for field in ("peak_surface_C", "peak_bulk_C", "end_bulk_C", "peak_pad_C", "peak_fluid_C"):
            assert getattr(getattr(hot, axle), field) > getattr(getattr(warm, axle), field)


@quick
@given(factor=st.floats(1.01, 2.5))
def test_more_duct_never_raises_the_ring_and_more_mass_never_lowers_it(factor: float) -> None:
    case = load("roadster-circuit")
    base, ducted, heavy = simulate(
        [
            case,
            changed(case, front__cooling_factor=factor, rear__cooling_factor=factor),
            changed(case, vehicle__mass_kg=case.vehicle.mass_kg * factor),
        ]
    )
    assert ducted.front.peak_surface_C < base.front.peak_surface_C < heavy.front.peak_surface_C
    assert ducted.rear.end_bulk_C < base.rear.end_bulk_C < heavy.rear.end_bulk_C


@quick
@given(grade=st.floats(0.05, 0.15), steeper=st.floats(0.005, 0.05))
def test_a_steeper_descent_is_never_cooler(grade: float, steeper: float) -> None:
    case = load("hauler-descent")
    gentle = simulate_one(changed(case, duty__grade=grade))
    steep = simulate_one(changed(case, duty__grade=grade + steeper))
    assert steep.front.peak_surface_C >= gentle.front.peak_surface_C
    assert steep.energy_account.friction_J >= gentle.energy_account.friction_J


@quick
@given(faster=st.floats(1.01, 1.5))
def test_the_same_road_driven_faster_never_lowers_a_peak(faster: float) -> None:
    # The same speeds times a factor, over the same distance: every braking is harder and the rests are shorter.
    t, v = (0.0, 20.0, 24.0, 30.0, 45.0, 48.0), (30.0, 30.0, 8.0, 8.0, 26.0, 10.0)
    trace = TraceDuty(kind="trace", t_s=t, v_mps=v)
    quick_trace = TraceDuty(kind="trace", t_s=tuple(x / faster for x in t), v_mps=tuple(x * faster for x in v))
    slow, fast = (simulate_one(frictionless(duty=entry, vehicle__tyre_grip=3.0)) for entry in (trace, quick_trace))
    for axle in ("front", "rear"):
        # Not the pads: in a shorter braking less of the heat gets into them.
        for field in ("peak_surface_C", "peak_bulk_C"):
            assert getattr(getattr(fast, axle), field) > getattr(getattr(slow, axle), field)


def test_scaling_every_rotor_quantity_leaves_the_temperature() -> None:
    # Hand: four discs a corner each taking a quarter of the energy of one: only the energy per rotor counts.
    duty = one_stop(30.0, 5.0, 5.0, then_s=30.0, then_speed_mps=15.0)
    single = plain_case(duty=duty, front__rotors=2, rear__rotors=2)
    double = changed(single, front__rotors=4, rear__rotors=4)
    double = changed(double, vehicle__mass_kg=2 * single.vehicle.mass_kg, vehicle__drag_area_m2=2 * 0.65)
    assert simulate_one(double).front.peak_surface_C == pytest.approx(
        simulate_one(single).front.peak_surface_C, rel=1e-9
    )


# --- force-limited stops and fade ---------------------------------------------------------------------------------


def test_a_force_limited_stop_takes_as_long_as_the_force_allows() -> None:
    # Hand: constant friction and no drag: a = F/(k m), t = v/a.
    case = frictionless(duty=one_stop(30.0, 0.0, 9.0), hydraulics__max_pedal_force_N=60.0)
    pressure = line_pressure(60.0, case.hydraulics)
    knee, slope = case.hydraulics.rear_knee_Pa or math.inf, case.hydraulics.rear_slope
    behind = pressure if pressure < knee else knee + slope * (pressure - knee)
    per_pascal = 2 * 0.4 * case.front.piston_area_m2 * 0.98 * (0.13 + 0.085) / 2 / 0.3 * 2
    decel = per_pascal * (pressure + behind) / (case.vehicle.mass_kg * case.vehicle.rotating_mass_factor)
    result = simulate_one(case)
    assert decel < 9.0
    assert result.stops[0].duration_s == pytest.approx(30.0 / decel, rel=2e-3)
    assert result.force_limited_s == pytest.approx(result.stops[0].duration_s, rel=1e-3)
    assert [remark.code for remark in result.warnings] == ["force_limited"]
    assert result.peak_pedal_force_N == pytest.approx(60.0)


def test_fade_lengthens_later_stops_and_says_so() -> None:
    fading = ((0.0, 0.45), (150.0, 0.45), (350.0, 0.08))
    case = changed(plain_case(), front__pad__mu=fading, rear__pad__mu=fading, hydraulics__max_pedal_force_N=180.0)
    stop = Stop(from_mps=40.0, to_mps=5.0, decel_mps2=7.0, then_s=10.0, then_speed_mps=35.0)
    result = simulate_one(changed(case, duty=stops(stop, repeat=8)))
    assert result.stops[0].duration_s == pytest.approx(5.0, rel=1e-3)
    assert result.stops[7].duration_s > 1.1 * result.stops[0].duration_s
    assert result.stopped
    # The friction it names is that of the moment, of the axle that lost most, and neither the best nor the cold one.
    text = metric(result.warnings[0].text)
    found = re.search(r"friction of the (front|rear) pads down to (0\.\d+) at (\d+) °C: fade", text)
    assert found, text
    at = float(found[3])
    assert 150.0 < at < 350.0
    assert float(found[2]) == pytest.approx(friction_coefficient(at, fading), abs=0.003)


def test_cold_pads_are_told_apart_from_fade() -> None:
    biting = ((0.0, 0.15), (300.0, 0.5), (700.0, 0.5))
    case = changed(plain_case(), front__pad__mu=biting, rear__pad__mu=biting, hydraulics__max_pedal_force_N=200.0)
    text = metric(simulate_one(changed(case, duty=one_stop(30.0, 5.0, 7.0))).warnings[0].text)
    assert "cold" in text
    assert "fade" not in text
    assert re.search(r"only 0\.[12]\d+ at [23]\d °C", text), text


def test_a_hill_too_steep_for_the_brakes_is_reported_not_looped_over() -> None:
    stop = Stop(from_mps=30.0, to_mps=0.0, decel_mps2=3.0, grade=-0.4, then_s=5.0, then_speed_mps=0.0)
    result = simulate_one(plain_case(duty=stops(stop), hydraulics__max_pedal_force_N=20.0))
    assert not result.stopped
    assert result.warnings[0].code == "cannot_stop"
    assert math.isfinite(result.front.peak_surface_C)


def test_a_trace_that_asks_too_much_keeps_its_speed_and_says_where() -> None:
    trace = TraceDuty(kind="trace", t_s=(0.0, 5.0, 8.0, 12.0), v_mps=(40.0, 40.0, 10.0, 10.0))
    case = plain_case(duty=trace, hydraulics__max_pedal_force_N=50.0)
    result = simulate_one(case)
    assert result.duration_s == pytest.approx(12.0)
    assert result.peak_pedal_force_N > 50.0
    assert "from 5.0 s on" in metric(result.warnings[0].text)


# --- descent, trailer, regeneration, motorcycle ---------------------------------------------------------------------


def test_descent_power_by_hand() -> None:
    # Hand: F = m g sin(theta) - Crr m g cos(theta) - drag - engine.
    duty = DescentDuty(kind="descent", grade=0.08, speed_mps=12.0, duration_s=100.0, then_s=0.0, then_speed_mps=0.0)
    case = plain_case(duty=duty, vehicle__engine_braking_N=150.0)
    angle = math.atan(0.08)
    density = 101325 / (287.05 * 293.15)
    force = 1100 * GRAVITY * (math.sin(angle) - 0.013 * math.cos(angle)) - 0.5 * density * 0.65 * 12.0**2 - 150.0
    assert simulate_one(case).energy_account.friction_J == pytest.approx(force * 12.0 * 100.0, rel=1e-6)


def test_the_trailer_pushes_with_what_it_does_not_brake() -> None:
    duty = one_stop(20.0, 0.0, 3.0)
    case = frictionless(duty=duty)
    for share, pushed in ((0.0, 800.0), (0.6, 320.0), (1.0, 0.0)):
        towing = changed(case, trailer=Trailer(mass_kg=800.0, brake_share=share, nose_load_N=600.0))
        wanted = 0.5 * (1100 * 1.05 + pushed) * 20.0**2
        assert simulate_one(towing).energy_account.friction_J == pytest.approx(wanted, rel=1e-4)


def test_regeneration_takes_its_share_above_the_fade_out_speed() -> None:
    # Hand: with 2 m/s2 of 5 regenerated at every speed the brakes keep (k a - 2)/(k a) of the energy.
    case = frictionless(duty=one_stop(25.0, 5.0, 5.0))
    regen = Regen(axle="front", max_power_W=1e6, max_decel_mps2=2.0, fade_out_mps=4.0)
    with_regen = simulate_one(changed(case, vehicle__regen=regen)).energy_account.friction_J
    without = simulate_one(case).energy_account.friction_J
    assert with_regen / without == pytest.approx((1.05 * 5.0 - 2.0) / (1.05 * 5.0), rel=1e-3)
    weak = changed(case, vehicle__regen=Regen(axle="front", max_power_W=1.0, max_decel_mps2=2.0, fade_out_mps=4.0))
    assert simulate_one(weak).energy_account.friction_J == pytest.approx(without, rel=1e-3)


def test_the_rider_divides_the_force_not_the_pressure() -> None:
    case = load("twin-repeated-stops")
    result = simulate_one(case)
    front = result.front.friction_energy_J * case.front.rotors
    rear = result.rear.friction_energy_J * case.rear.rotors
    assert front / (front + rear) == pytest.approx(0.88, rel=1e-6)


def test_the_common_pressure_divides_by_torque_and_valve() -> None:
    case = plain_case(duty=one_stop(30.0, 5.0, 6.0), hydraulics__rear_knee_Pa=None, vehicle__tyre_grip=3.0)
    equal = simulate_one(case)
    assert equal.front.friction_energy_J == pytest.approx(equal.rear.friction_energy_J, rel=1e-9)
    held = simulate_one(changed(case, hydraulics__rear_knee_Pa=1e5, hydraulics__rear_slope=0.0))
    assert held.rear.friction_energy_J < 0.2 * held.front.friction_energy_J
    fading_front = simulate_one(changed(case, front__pad__mu=((0.0, 0.4), (60.0, 0.4), (200.0, 0.2))))
    assert fading_front.rear.friction_energy_J > equal.rear.friction_energy_J


# --- heat soak, wear, batches ----------------------------------------------------------------------------------------


def test_the_fluid_is_hottest_after_the_stop_in_the_soak() -> None:
    case = load("hauler-descent")
    result = simulate_one(case)
    assert result.front.peak_fluid_s > 480.0
    rows = history(case)
    fluid = rows[:, 8]
    assert rows[int(fluid.argmax()), 0] == pytest.approx(result.front.peak_fluid_s, abs=1e-6)
    assert fluid.max() == pytest.approx(result.front.peak_fluid_C)


def test_insulating_shims_keep_the_fluid_cooler() -> None:
    case = load("hauler-descent")
    shimmed = simulate_one(changed(case, front__backing_conductance_W_per_K=1.0))
    assert shimmed.front.peak_fluid_C < simulate_one(case).front.peak_fluid_C - 5.0
    # What does not get into the fluid stays where it was.
    assert shimmed.front.peak_pad_C > simulate_one(case).front.peak_pad_C
    assert shimmed.front.peak_surface_C > simulate_one(case).front.peak_surface_C


def test_worn_pads_let_more_through_to_the_fluid() -> None:
    case = load("van-city-drag")
    new = changed(case, front__pad__thickness_m=0.012, rear__pad__thickness_m=0.012)
    thin, thick = simulate_one(case), simulate_one(new)
    assert thin.front.peak_fluid_C > thick.front.peak_fluid_C + 10.0
    assert thin.rear.peak_fluid_C > thick.rear.peak_fluid_C + 10.0


def test_wear_is_energy_times_rate_below_the_knee_and_more_above() -> None:
    case = load("roadster-single-stop")
    result = simulate_one(case)
    cold = 48.0 * result.front.friction_energy_J / 1e6 / 2 / (0.0036 * 1e6) / 1e3
    assert result.front.pad_wear_m == pytest.approx(cold, rel=1e-9)
    low_knee = simulate_one(changed(case, front__pad__wear_knee_C=50.0, front__pad__wear_scale_C=60.0))
    assert low_knee.front.pad_wear_m > 1.5 * cold


def test_energy_by_temperature_adds_up_to_the_energy() -> None:
    for name in NAMES:
        result = simulate_one(load(name))
        for axle in (result.front, result.rear):
            assert sum(axle.energy_by_temperature_J) == pytest.approx(axle.friction_energy_J, rel=1e-9)


def test_a_batch_takes_one_duty_only() -> None:
    case = plain_case()
    with pytest.raises(FieldError, match="duty"):
        simulate([case, changed(case, duty=one_stop(20.0))])
    assert simulate([]) == []


def test_a_candidate_does_not_feel_its_neighbours() -> None:
    # Different candidates, so that anything left over from one would show in the next.
    case = load("roadster-circuit")
    many = [changed(case, front__cooling_factor=0.4 + 0.1 * i, environment__start_C=20.0 + 9.0 * i) for i in range(23)]
    for alone, among in zip([simulate_one(entry) for entry in many], simulate(many), strict=True):
        assert among == alone


def test_what_follows_the_duty_can_be_replaced() -> None:
    case = load("roadster-single-stop")
    assert isinstance(case.duty, StopsDuty)
    stop = dataclasses.replace(case.duty.stops[0], then_s=90.0, then_speed_mps=4.0)
    longer = changed(case, duty=stops(stop))
    assert simulate_one(case, after=After(90.0, 4.0)) == simulate_one(longer)
    parked = simulate_one(case, after=After(0.0, 0.0))
    assert parked.duration_s == pytest.approx(parked.stops[0].duration_s)
    assert parked.front.end_surface_C > simulate_one(case).front.end_surface_C
    assert history(case, after=After(90.0, 4.0))[-1, 0] == pytest.approx(parked.duration_s + 90.0)


def test_nothing_asked_of_the_brakes_leaves_everything_at_the_air() -> None:
    trace = TraceDuty(kind="trace", t_s=(0.0, 60.0), v_mps=(20.0, 20.0))
    result = simulate_one(plain_case(duty=trace))
    assert result.energy_account.friction_J == 0.0
    assert result.front.peak_surface_C == pytest.approx(20.0)
    assert result.peak_pedal_force_N == 0.0
