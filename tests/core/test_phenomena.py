"""Each phenomenon on its own: published and hand values, limits, inverses."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.interpolate import PchipInterpolator

from tests.cases_data import changed, load, plain_case
from thermaxis.core.errors import FieldError
from thermaxis.core.physics import caliper, convection, fluid, friction, materials, partition, radiation, stress, torque
from thermaxis.core.physics.hydraulics import line_pressure, pedal_force, pressure_for_force, rear_pressure
from thermaxis.core.physics.packing import pack
from thermaxis.core.physics.resistance import air_drag, friction_force, regen_force, resisting_force
from thermaxis.core.physics.wear import specific_wear, worn_depth
from thermaxis.core.records import MATERIALS, PATTERNS

# Plausible bounds per column of the materials table: a value 1000 times off must not get through.
BOUNDS = {
    "density_kg_per_m3": (1500, 9000),
    "k0_W_per_mK": (15, 80),
    "k1_W_per_mK2": (0, 0.1),
    "k_min_W_per_mK": (15, 60),
    "c0_J_per_kgK": (400, 1000),
    "c1_J_per_kgK2": (0, 1),
    "c_max_J_per_kgK": (500, 1500),
    "emissivity": (0.2, 0.95),
    "youngs_Pa": (2e10, 2.3e11),
    "expansion_per_K": (1e-6, 2e-5),
    "poisson": (0.1, 0.35),
    "limit_C": (500, 1300),
}


@pytest.mark.parametrize("name", MATERIALS)
def test_every_material_row_is_plausible_and_sourced(name: str) -> None:
    row = materials.materials()[name]
    for column, (low, high) in BOUNDS.items():
        assert low <= getattr(row, column) <= high, column
    assert row.source


def test_every_pattern_has_its_own_factors() -> None:
    assert set(materials.PATTERN_FACTORS) == set(PATTERNS)
    rows = {(p.area, p.mass, p.face_convection) for p in materials.PATTERN_FACTORS.values()}
    assert len(rows) == len(PATTERNS)
    assert materials.PATTERN_FACTORS["drilled"].stress == 3.0  # published: Kirsch


@given(temperature=st.floats(-60.0, 1400.0), name=st.sampled_from(MATERIALS))
def test_enthalpy_and_temperature_are_each_others_inverse(temperature: float, name: str) -> None:
    row = materials.materials()[name]
    law = (row.c0_J_per_kgK, row.c1_J_per_kgK2, row.c_max_J_per_kgK)
    enthalpy = materials.specific_enthalpy(temperature, *law)
    assert materials.temperature_of_enthalpy(enthalpy, *law) == pytest.approx(temperature, abs=1e-6)


@given(low=st.floats(-50.0, 900.0), width=st.floats(1.0, 400.0))
def test_enthalpy_is_the_integral_of_specific_heat(low: float, width: float) -> None:
    law = (480.0, 0.30, 690.0)
    grid = np.linspace(low, low + width, 2001)
    integral = np.trapezoid([materials.specific_heat(t, *law) for t in grid], grid)
    difference = materials.specific_enthalpy(low + width, *law) - materials.specific_enthalpy(low, *law)
    assert difference == pytest.approx(float(integral), rel=1e-5)


# --- air ------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("kelvin", "viscosity", "conductivity"),
    # Published: Incropera, Fundamentals of Heat and Mass Transfer, table A.4 (air at 1 atm).
    [(300, 184.6e-7, 26.3e-3), (400, 230.1e-7, 33.8e-3), (600, 305.8e-7, 46.9e-3), (800, 369.8e-7, 57.3e-3)],
)
def test_air_properties_against_the_table(kelvin: float, viscosity: float, conductivity: float) -> None:
    assert convection.air_viscosity(kelvin) == pytest.approx(viscosity, rel=0.025)
    assert convection.air_conductivity(kelvin) == pytest.approx(conductivity, rel=0.03)


@pytest.mark.parametrize(("altitude", "pascal"), [(0, 101325), (1000, 89875), (2000, 79495), (5000, 54020)])
def test_pressure_against_the_standard_atmosphere(altitude: float, pascal: float) -> None:
    # Published: ISO 2533 standard atmosphere.
    assert convection.standard_pressure(altitude) == pytest.approx(pascal, rel=5e-4)


def test_face_convection_by_hand_on_both_sides_of_the_transition() -> None:
    # Hand: film 20 degC, so nu = mu/rho; D = 0.26 m.
    nu = convection.air_viscosity(293.15) / convection.air_density(293.15, 101325)
    k = convection.air_conductivity(293.15)
    slow, fast = 1.0e5 * nu / 0.26, 5.0e5 * nu / 0.26
    assert convection.face_coefficient(slow, 0.26, 20, 20, 101325) == pytest.approx(0.70 * k / 0.26 * 1e5**0.55)
    assert convection.face_coefficient(fast, 0.26, 20, 20, 101325) == pytest.approx(0.04 * k / 0.26 * 5e5**0.8)


@given(speed=st.floats(0.0, 90.0), wall=st.floats(0.0, 800.0))
def test_face_convection_is_continuous_and_never_below_its_floor(speed: float, wall: float) -> None:
    here = convection.face_coefficient(speed, 0.26, wall, 20, 101325)
    there = convection.face_coefficient(speed + 1e-3, 0.26, wall, 20, 101325)
    assert here >= 7.0
    assert there == pytest.approx(here, rel=2e-3)
    assert there >= here - 1e-9


@given(speed=st.floats(0.0, 90.0), wall=st.floats(20.0, 700.0))
def test_vane_convection_is_continuous_and_rises_with_speed(speed: float, wall: float) -> None:
    rotor = load("roadster-circuit").front.rotor

    def vane(v: float) -> float:
        return convection.vane_coefficient(v, *convection.vane_passage(rotor, 0.3), wall, 20, 101325)

    assert vane(speed) >= 5.0
    assert vane(speed + 1e-4) == pytest.approx(vane(speed), rel=1e-3)
    assert vane(speed + 1.0) >= vane(speed) - 1e-9


def test_vane_convection_by_hand() -> None:
    # Hand: straight from section 7 at 60 m/s, film 20 degC, fully turbulent.
    ro, ri, w, n, b = 0.16, 0.104, 0.012, 36, 0.006
    turns = 60 / (2 * math.pi * 0.392)
    v_in = math.pi * turns * math.sqrt((2 * ro) ** 2 - (2 * ri) ** 2)
    a_in, a_out = w * (2 * math.pi * ri - n * b), w * (2 * math.pi * ro - n * b)
    v = (v_in + v_in * a_in / a_out) / 2
    s = 2 * math.pi * (ro + ri) / 2 / n - b
    dh = 2 * s * w / (s + w)
    reynolds = v * dh * convection.air_density(293.15, 101325) / convection.air_viscosity(293.15)
    wanted = (
        0.023 * (1 + (dh / (ro - ri)) ** 0.67) * reynolds**0.8 * 0.70**0.33 * convection.air_conductivity(293.15) / dh
    )
    assert reynolds > 1e4
    edits = {"outer_radius_m": ro, "inner_radius_m": ri, "gap_m": w, "vanes": n, "vane_thickness_m": b}
    rotor = changed(plain_case(), **{f"front__rotor__{name}": value for name, value in edits.items()}).front.rotor
    passage = convection.vane_passage(rotor, 0.392)
    assert convection.vane_coefficient(60, *passage, 20, 20, 101325) == pytest.approx(wanted, rel=1e-9)


def test_radiation_of_a_red_hot_face() -> None:
    # Hand: 0.55 sigma (973.15^4 - 293.15^4) = 27.74 kW/m2.
    assert radiation.radiated_flux(700.0, 20.0, 0.55) == pytest.approx(27740, rel=1e-3)
    slope = (radiation.radiated_flux(700.01, 20, 0.55) - radiation.radiated_flux(699.99, 20, 0.55)) / 0.02
    assert radiation.radiation_slope(700.0, 0.55) == pytest.approx(slope, rel=1e-6)


# --- friction, wear, stress, fluid ------------------------------------------------------------------------------------


@given(
    values=st.lists(st.floats(0.1, 0.7), min_size=2, max_size=8),
    steps=st.lists(st.floats(20.0, 200.0), min_size=8, max_size=8),
    at=st.floats(-100.0, 1800.0),
)
def test_mu_follows_pchip_and_is_flat_outside(values: list[float], steps: list[float], at: float) -> None:
    # Independent: scipy's own interpolator.
    temperatures = np.cumsum(steps[: len(values)])
    points = tuple((float(t), v) for t, v in zip(temperatures, values, strict=True))
    wanted = PchipInterpolator(temperatures, values)(np.clip(at, temperatures[0], temperatures[-1]))
    found = friction.friction_coefficient(at, points)
    assert found == pytest.approx(float(wanted), abs=1e-9)
    assert min(values) - 1e-9 <= found <= max(values) + 1e-9


def test_one_point_is_a_constant() -> None:
    assert friction.friction_coefficient(500.0, ((20.0, 0.42),)) == 0.42


def test_wear_rises_exponentially_over_the_knee() -> None:
    assert specific_wear(400, 40, 450, 150) == 40
    assert specific_wear(600, 40, 450, 150) == pytest.approx(40 * math.e)
    assert specific_wear(1e6, 40, 450, 150) == pytest.approx(40 * math.exp(20))
    # Hand: 48 mm3/MJ, 2 MJ, half to each pad of 36 cm2: 48/3600 mm.
    assert worn_depth(48, 2e6, 0.0036) == pytest.approx(48e-3 / 3600)


def test_thermal_stress_by_hand_and_at_holes() -> None:
    rotor = plain_case().front.rotor
    wanted = 1.05e11 * 1.15e-5 * 100 / (1 - 0.26)
    assert stress.thermal_stress(100, rotor) == pytest.approx(wanted)
    drilled = changed(plain_case(), front__rotor__pattern="drilled").front.rotor
    assert stress.thermal_stress(100, drilled) == pytest.approx(3 * wanted)


@pytest.mark.parametrize(
    ("standard", "dry", "wet"), [("DOT 3", 205, 140), ("DOT 4", 230, 155), ("DOT 5", 260, 180), ("DOT 5.1", 260, 180)]
)
def test_fluid_classes_are_those_of_the_standard(standard: str, dry: float, wet: float) -> None:
    # Published: FMVSS 116.
    assert fluid.CLASS_MINIMUM_C[standard] == (dry, wet)


def test_fluid_ages_from_dry_to_wet_and_stops_there() -> None:
    assert fluid.boiling_point(230, 155, 0) == 230
    assert fluid.boiling_point(230, 155, 12) == pytest.approx(230 - 75 * 2.0 / 3.7)
    assert fluid.boiling_point(230, 155, 22.2) == pytest.approx(155)
    assert fluid.boiling_point(230, 155, 400) == 155
    for dry, wet, age, path in ((230, 155, -1, "age_months"), (150, 160, 3, "wet_C")):
        with pytest.raises(FieldError) as caught:
            fluid.boiling_point(dry, wet, age)
        assert caught.value.path == path


def test_silicone_is_dated_and_thin_air_lowers_every_boiling_point() -> None:
    # FMVSS 116 S6.1: 0.04 degC per mm of mercury, 0.30 K per kPa; at 2000 m some 22 kPa are missing.
    assert fluid.boiling_point(260, 180, 400, takes_up=fluid.takes_water("DOT 5")) == 260
    assert fluid.takes_water("DOT 5.1")
    assert fluid.altitude_drop(convection.standard_pressure(2000.0)) == pytest.approx(0.30 * 21.83, rel=0.01)
    assert fluid.altitude_drop(103000.0) == 0.0
    with pytest.raises(FieldError, match="age_months"):
        fluid.boiling_point(230, 155, math.nan)


# --- hydraulics, torque, partition --------------------------------------------------------------------------------


@given(force=st.floats(0.0, 2500.0))
def test_pedal_and_pressure_are_each_others_inverse_past_the_run_out(force: float) -> None:
    hydraulics = load("hauler-descent").hydraulics
    assert pedal_force(line_pressure(force, hydraulics), hydraulics) == pytest.approx(force, abs=1e-6)


def test_pressure_by_hand_below_and_above_the_run_out() -> None:
    hydraulics = load("hauler-descent").hydraulics
    area = math.pi / 4 * 0.0254**2
    assert line_pressure(100, hydraulics) == pytest.approx(4.6 * 360 / area)
    assert line_pressure(400, hydraulics) == pytest.approx((4.6 * 1150 + 1440 - 1150) / area)


@given(
    pressure=st.floats(0.0, 2e7),
    front=st.floats(1e-4, 1e-2),
    rear=st.floats(1e-4, 1e-2),
    knee=st.floats(1e5, 1e7),
    slope=st.floats(0.0, 1.0),
)
def test_pressure_for_force_inverts_the_split(
    pressure: float, front: float, rear: float, knee: float, slope: float
) -> None:
    force = front * pressure + rear * rear_pressure(pressure, knee, slope)
    assert pressure_for_force(force, front, rear, knee, slope) == pytest.approx(pressure, rel=1e-9, abs=1e-3)


def test_effective_radius_new_and_bedded() -> None:
    rotor = plain_case().front.rotor
    assert torque.effective_radius(rotor) == pytest.approx(0.1075)
    new = 2 / 3 * (0.13**3 - 0.085**3) / (0.13**2 - 0.085**2)
    assert torque.effective_radius(rotor, bedded=False) == pytest.approx(new)
    # A narrow band: the two conventions meet.
    narrow = changed(plain_case(), front__pad__area_m2=1e-5, front__rotor__inner_radius_m=0.1299).front.rotor
    assert torque.effective_radius(narrow) == pytest.approx(torque.effective_radius(narrow, bedded=False), rel=1e-6)


def test_heat_partition_limits() -> None:
    case = plain_case()
    insulating = changed(case, front__pad__conductivity_W_per_mK=1e-6).front
    assert partition.rotor_heat_share(insulating.rotor, insulating.pad) == pytest.approx(1.0, abs=1e-3)
    share = partition.rotor_heat_share(case.front.rotor, case.front.pad)
    conducting = changed(case, front__pad__conductivity_W_per_mK=100.0).front
    assert partition.rotor_heat_share(conducting.rotor, conducting.pad) < share < 1.0


def test_caliper_chain_by_hand() -> None:
    axle = plain_case().front
    assert caliper.pad_heat(axle.pad) == pytest.approx(2600 * 950)
    assert caliper.backing_capacity(axle) == pytest.approx(2 * 7850 * 480 * 0.004 * 0.005)
    assert caliper.caliper_capacity(axle) == pytest.approx(3.0 * 500)
    # Packed: one pad and half a caliper, all per swept area of one face.
    ring, area = pack([plain_case()])[0][0, 0], math.pi * (0.13**2 - 0.085**2)
    assert ring["open_share"] == pytest.approx(1 - 0.004 / area)
    assert ring["pad_conductivity"] == pytest.approx(1.6 * 0.004 / area)
    assert ring["backing_to_caliper"] == pytest.approx(6.0 / (2 * area))
    assert ring["gap_conductance"] == pytest.approx(0.5 / area)


@settings(max_examples=60)
@given(speed=st.floats(0.0, 90.0), wall=st.floats(-40.0, 1200.0), air=st.floats(-30.0, 45.0))
def test_tabled_films_are_the_laws_own(speed: float, wall: float, air: float) -> None:
    case = load("van-city-drag")
    ring, rotor = pack([case])[0][0, 0], case.front.rotor
    powers = convection.powers_at(speed, 96500.0)
    face = convection.face_coefficient(speed, 2 * rotor.outer_radius_m, wall, air, 96500.0)
    assert convection.face_film(powers, wall, air, ring) == pytest.approx(face, rel=5e-5)
    passage = convection.vane_passage(rotor, case.vehicle.wheel_radius_front_m)
    vane = convection.vane_coefficient(speed, *passage, wall, air, 96500.0)
    assert convection.vane_film(powers, wall, air, ring) == pytest.approx(vane, rel=5e-5)


# --- resistance --------------------------------------------------------------------------------------------------------


def test_friction_force_by_hand_and_never_pulling() -> None:
    # Hand: half of 1.2 kg/m3 on 0.5 m2 at 10 m/s.
    assert air_drag(10.0, 1.2, 0.5) == pytest.approx(30.0)
    # Hand: 1000 kg at 5 m/s2 less 30 N drag, 1 % rolling, 50 N engine and the weight's part along a 10 % climb.
    angle = math.atan(0.1)
    held = resisting_force(30.0, 0.01 * 1000 * 9.80665, 50.0, 0.0, 1000.0, angle)
    assert held == pytest.approx(80.0 + 98.0665 * math.cos(angle) + 9806.65 * 0.1 / math.sqrt(1.01))
    assert friction_force(1000.0, 5.0, held) == pytest.approx(5000.0 - held)
    assert friction_force(1000.0, 0.1, 500.0) == 0.0


@pytest.mark.parametrize(
    ("speed", "force"),
    [(0.0, 0.0), (1.0, 0.0), (2.0, 0.0), (3.0, 1000.0), (4.0, 2000.0), (10.0, 2000.0), (50.0, 1000.0)],
)
def test_regeneration_fades_in_between_half_and_full_speed_and_is_power_limited(speed: float, force: float) -> None:
    assert regen_force(speed, 1000.0, 50000.0, 2.0, 4.0) == pytest.approx(force)
