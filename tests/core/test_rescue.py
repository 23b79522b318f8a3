"""Ways out of a rejection and the choice of fluid: every bound holds on its own side and fails on the other."""

from __future__ import annotations

import dataclasses

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.cases_data import changed
from tests.core.test_planning import HOT_STOPS, STREET, TRACK, field, setup_of
from tests.said import metric
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.balance import lock_up
from thermaxis.core.physics.fluid import boiling_point
from thermaxis.core.physics.simulate import simulate_one
from thermaxis.core.planning.choice import rescue
from thermaxis.core.planning.choice.fluids import LONGEST_MONTHS, judge_fluid, months_until
from thermaxis.core.planning.duty.duties import GEARS, grade_in_gear
from thermaxis.core.planning.explain.why import scaled
from thermaxis.core.planning.verdict.readings import Setup
from thermaxis.core.records import Case, Stop, StopsDuty


@pytest.fixture(scope="module")
def fading() -> Setup:
    """A street pad on hot stops: rejected, but not by much."""
    setup = field(HOT_STOPS)[0].setup
    peak = simulate_one(setup.case).front.peak_surface_C
    limits = dataclasses.replace(STREET, window_high_C=peak - 90, limit_C=peak - 60)
    return dataclasses.replace(setup, front_limits=limits, rear_limits=limits)


def passes(setup: Setup, case: Case) -> bool:
    return rescue.trouble(setup, simulate_one(case)) is None


def test_the_least_cooling_passes_and_a_little_less_does_not(fading: Setup) -> None:
    many = dataclasses.replace(fading, case=changed(fading.case, duty=dataclasses.replace(HOT_STOPS, repeat=30)))
    peak = simulate_one(many.case).front.peak_surface_C
    limits = dataclasses.replace(STREET, window_high_C=peak - 70, limit_C=peak - 40)
    setup = dataclasses.replace(many, front_limits=limits, rear_limits=limits)
    found = rescue.cooling_to_pass(setup)
    assert found.value is not None
    assert 1.0 < found.value < rescue.MOST_COOLING

    def cooled(factor: float) -> Case:
        return scaled(scaled(setup.case, "front.cooling_factor", factor), "rear.cooling_factor", factor)

    assert passes(setup, cooled(found.value))
    assert not passes(setup, cooled(0.99 * found.value))
    shown = float(metric(found.text).split("× ")[1].split(" ")[0])
    assert found.value <= shown <= 1.1 * found.value


def test_the_greatest_mass_passes_and_a_little_more_does_not(fading: Setup) -> None:
    found = rescue.mass_to_pass(fading)
    assert found.value is not None
    assert found.high == fading.case.vehicle.mass_kg
    assert passes(fading, changed(fading.case, vehicle__mass_kg=found.value))
    assert not passes(fading, changed(fading.case, vehicle__mass_kg=1.01 * found.value))


def test_speed_and_pace_are_tried_one_by_one(fading: Setup) -> None:
    def at(speed: float) -> StopsDuty:
        return StopsDuty(
            kind="stops",
            repeat=4,
            stops=(Stop(from_mps=speed, to_mps=12, decel_mps2=8, then_s=14, then_speed_mps=speed),),
        )

    found = rescue.speed_to_pass(
        fading, low_mps=14, high_mps=40, case_at=lambda speed: dataclasses.replace(fading.case, duty=at(speed))
    )
    assert found.value is not None
    assert passes(fading, dataclasses.replace(fading.case, duty=at(found.value)))
    assert not passes(fading, dataclasses.replace(fading.case, duty=at(found.value + 0.5)))

    pace = rescue.driver_to_pass(fading, {"quick": HOT_STOPS, "slow": at(15)})
    assert (pace.outcome, pace.value) == ("value", 1.0)
    assert "level slow" in metric(pace.text)
    never = rescue.driver_to_pass(fading, {"quick": HOT_STOPS})
    assert never.value is None
    assert "the front ring reaches" in metric(never.text)


def test_what_cannot_help_says_what_is_wrong_even_then(fading: Setup) -> None:
    hopeless = dataclasses.replace(
        fading, front_limits=dataclasses.replace(STREET, window_low_C=0, window_high_C=20, limit_C=25)
    )
    for found in (rescue.cooling_to_pass(hopeless), rescue.mass_to_pass(hopeless)):
        assert found.outcome == "none"
        assert "25 °C" in metric(found.text)


def test_fresh_fluid_helps_only_above_the_peak(fading: Setup) -> None:
    result = simulate_one(fading.case)
    peak = max(result.front.peak_fluid_C, result.rear.peak_fluid_C)
    assert metric(rescue.fluid_to_pass(fading, result, peak + 12).text).count("12 K over") == 1
    assert rescue.fluid_to_pass(fading, result, peak - 1).outcome == "none"


def test_rear_friction_is_held_back_until_the_front_locks_first() -> None:
    case = changed(field(HOT_STOPS)[1].setup.case, hydraulics__rear_knee_Pa=None, rear__piston_area_m2=0.0014)
    found = rescue.rear_friction_to_pass(setup_of(case, TRACK))
    assert found.value is not None
    assert lock_up(scaled(case, "rear.pad.mu", found.value), 200.0).first_axle == "front"
    assert lock_up(scaled(case, "rear.pad.mu", 1.02 * found.value), 200.0).first_axle == "rear"
    lost = changed(case, rear__piston_area_m2=0.03)
    assert rescue.rear_friction_to_pass(setup_of(lost, TRACK)).outcome == "none"


# --- fluids ------------------------------------------------------------------------------------------------------------


@given(st.floats(180, 330), st.floats(10, 120), st.floats(0, 22))
def test_the_age_of_a_boiling_point_is_the_inverse_of_boiling_at_an_age(dry: float, drop: float, age: float) -> None:
    wet = dry - drop
    assert months_until(dry, wet, boiling_point(dry, wet, age)) == pytest.approx(age, abs=1e-6)
    assert months_until(dry, wet, wet - 1) is None
    assert months_until(dry, wet, dry + 1) == 0.0


def test_a_fluid_by_hand() -> None:
    # DOT 4 at 230/155 over 150 degC: 50 K left at 200 degC, 30/75 of the way to wet, 1.48 % water, 8.88 months.
    found = judge_fluid(230.0, 155.0, 150.0)
    assert found.change_months == pytest.approx(8.88)
    assert (found.fresh_K, found.wet_K, found.limited_by) == (80.0, 5.0, "heat")
    assert found.boils_months is None
    cool = judge_fluid(230.0, 155.0, 90.0)
    assert (cool.change_months, cool.limited_by) == (LONGEST_MONTHS, "age")
    # Silicone bears the same to the end; on a pass all boil sooner.
    silicone = judge_fluid(230.0, 155.0, 150.0, takes_up=False)
    assert (silicone.wet_K, silicone.boils_months, silicone.change_months) == (80.0, None, LONGEST_MONTHS)
    assert silicone.limited_by == "age"
    assert judge_fluid(230.0, 155.0, 150.0, drop_K=6.0).fresh_K == pytest.approx(74.0)
    hot = judge_fluid(230.0, 155.0, 192.5)
    assert hot.change_months == 0.0
    assert hot.boils_months == pytest.approx(11.1)
    with pytest.raises(FieldError, match="peak_C"):
        judge_fluid(230.0, 155.0, -100.0)


# --- a lower gear ------------------------------------------------------------------------------------------------------


def test_a_lower_gear_takes_the_same_force_off_the_brakes() -> None:
    vehicle = changed(field(HOT_STOPS)[0].setup.case, vehicle__engine_braking_N=300.0).vehicle
    weight = vehicle.mass_kg * 9.80665
    for gear, factor in GEARS.items():
        eased = grade_in_gear(-0.10, gear, vehicle, None)
        sine = eased / (1 + eased**2) ** 0.5
        assert weight * (sine - -0.10 / 1.01**0.5) == pytest.approx((factor - 1) * 300.0, abs=1e-6)
    with pytest.raises(FieldError, match="gear"):
        grade_in_gear(-0.1, "reverse", vehicle, None)
