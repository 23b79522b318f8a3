"""Convection from the rotor's faces, its vane passages and the caliper; air by Sutherland's law."""

from __future__ import annotations

import math
from typing import Any, NamedTuple

import numpy as np

from thermaxis.core.constants import SEA_LEVEL_PA
from thermaxis.core.physics.compiled import compiled, interpreted
from thermaxis.core.records import Rotor

PRANDTL = 0.70
GAS_CONSTANT = 287.05
KELVIN = 273.15
FACE_FLOOR = 7.0
VANE_FLOOR = 5.0
CALIPER_STILL, CALIPER_MOVING = 10.0, 3.5


@compiled
def air_viscosity(temperature_K: float) -> float:
    """Dynamic viscosity of air in Pa s, Sutherland; 200 to 1500 K.

    `mu = 1.716e-5 (T/273.15)^1.5 383.55/(T + 110.4)` (Incropera, app. A; physics.md section 7).

    >>> round(1e6 * air_viscosity(293.15), 2)
    18.13
    """
    ratio = temperature_K / KELVIN
    return 1.716e-5 * ratio * math.sqrt(ratio) * 383.55 / (temperature_K + 110.4)


@compiled
def air_conductivity(temperature_K: float) -> float:
    """Thermal conductivity of air in W/(m K), Sutherland; 200 to 1500 K.

    `k = 0.0241 (T/273.15)^1.5 467.15/(T + 194)` (physics.md section 7).

    >>> round(air_conductivity(293.15), 4)
    0.0257
    """
    ratio = temperature_K / KELVIN
    return 0.0241 * ratio * math.sqrt(ratio) * 467.15 / (temperature_K + 194.0)


@compiled
def air_density(temperature_K: float, pressure_Pa: float) -> float:
    """Density of air in kg/m3 as an ideal gas, `rho = p/(287.05 T)` (physics.md section 7).

    >>> round(air_density(293.15, 101325.0), 3)
    1.204
    """
    return pressure_Pa / (GAS_CONSTANT * temperature_K)


def standard_pressure(altitude_m: float) -> float:
    """Ambient pressure in Pa at an altitude, ISA troposphere: `101325 (1 - 2.25577e-5 h)^5.25588`, -500 to 11000 m.

    Source: ISO 2533.

    >>> round(standard_pressure(1000.0))
    89875
    """
    return float(SEA_LEVEL_PA * (1.0 - 2.25577e-5 * altitude_m) ** 5.25588)


def altitude_of(pressure_Pa: float) -> float:
    """Altitude in m at which the ISA troposphere has a pressure in Pa: the inverse of `standard_pressure` (ISO 2533).

    >>> round(altitude_of(standard_pressure(1000.0)), 6)
    1000.0
    """
    return float((1.0 - (pressure_Pa / SEA_LEVEL_PA) ** (1.0 / 5.25588)) / 2.25577e-5)


@compiled
def blend(value: float, low: float, high: float, below: float, above: float) -> float:
    """Blend from `below` to `above` linearly in the logarithm of `value` between `low` and `high`.

    Source: physics.md section 7.

    >>> blend(1e5, 1e4, 1e6, 0.0, 1.0)
    0.5
    """
    if value <= low:
        return below
    if value >= high:
        return above
    share = math.log(value / low) / math.log(high / low)
    return below + share * (above - below)


@compiled
def face_coefficient(speed: float, diameter: float, wall_C: float, air_C: float, pressure: float) -> float:
    """Convection of one rotor face in W/(m2 K) at road speed `speed` (m/s), never below 7.

    `Re = v D/nu`; laminar `0.70 (k/D) Re^0.55`, turbulent `0.04 (k/D) Re^0.8`, blended in ln Re from 1.8e5 to
    3.2e5; properties at the film temperature (Limpert 1999, ch. 3). Valid 0 to 90 m/s, D 0.1 to 0.5 m.

    >>> round(face_coefficient(30.0, 0.28, 300.0, 20.0, 101325.0), 1)
    111.7
    """
    film = 0.5 * (wall_C + air_C) + KELVIN
    conductivity = air_conductivity(film)
    reynolds = speed * diameter * air_density(film, pressure) / air_viscosity(film)
    scale = conductivity / diameter
    # Each branch is evaluated only where it counts: the powers are the costliest lines of the engine.
    if reynolds <= 1.8e5:
        coefficient = 0.70 * scale * reynolds**0.55
    elif reynolds >= 3.2e5:
        coefficient = 0.04 * scale * reynolds**0.8
    else:
        coefficient = blend(reynolds, 1.8e5, 3.2e5, 0.70 * scale * reynolds**0.55, 0.04 * scale * reynolds**0.8)
    return max(FACE_FLOOR, coefficient)


class VanePassage(NamedTuple):
    """What of a vane passage does not change with speed or temperature."""

    air_per_road: float  # speed of the pumped air per road speed
    diameter: float  # hydraulic, m
    laminar: float  # Nu over Re^(1/3)
    turbulent: float  # Nu over Re^0.8


def vane_passage(rotor: Rotor, wheel_radius_m: float) -> VanePassage:
    """Geometry of the passages of a vented rotor; lengths in m.

    Pumped air `V = (V_in + V_out)/2`, `V_in = pi n sqrt(D^2 - d^2)`, `V_out = V_in A_i/A_o`; `d_h = 2 s w/(s + w)` at
    the mean radius (Limpert 1999, ch. 3; physics.md section 7). Valid for 20 to 60 straight vanes.
    """
    outer, inner, gap = rotor.outer_radius_m, rotor.inner_radius_m, rotor.gap_m
    inlet = math.sqrt(outer**2 - inner**2) / wheel_radius_m
    area_in = gap * (2.0 * math.pi * inner - rotor.vanes * rotor.vane_thickness_m)
    area_out = gap * (2.0 * math.pi * outer - rotor.vanes * rotor.vane_thickness_m)
    width = math.pi * (outer + inner) / rotor.vanes - rotor.vane_thickness_m
    diameter = 2.0 * width * gap / (width + gap)
    slenderness = diameter / (outer - inner)
    return VanePassage(
        air_per_road=0.5 * inlet * (1.0 + area_in / area_out),
        diameter=diameter,
        laminar=1.86 * PRANDTL ** (1.0 / 3.0) * slenderness**0.33,
        turbulent=0.023 * (1.0 + slenderness**0.67) * PRANDTL**0.33,
    )


@compiled
def vane_coefficient(
    speed: float,
    air_per_road: float,
    diameter: float,
    laminar: float,
    turbulent: float,
    wall_C: float,
    air_C: float,
    pressure: float,
) -> float:
    """Convection inside the vane passages in W/(m2 K), never below 5, from the numbers of `vane_passage`.

    Turbulent (Re >= 1e4) `0.023 (1 + (d_h/l)^0.67) Re^0.8 Pr^0.33 k/d_h`, laminar (Re <= 2300)
    `1.86 (Re Pr)^(1/3) (d_h/l)^0.33 k/d_h`, blended in ln Re between (Limpert 1999, ch. 3).
    """
    film = 0.5 * (wall_C + air_C) + KELVIN
    reynolds = speed * air_per_road * diameter * air_density(film, pressure) / air_viscosity(film)
    scale = air_conductivity(film) / diameter
    slow, fast = 0.0, 0.0
    if reynolds < 1e4:
        slow = laminar * reynolds ** (1.0 / 3.0) * scale
    if reynolds > 2300.0:
        fast = turbulent * reynolds**0.8 * scale
    return max(VANE_FLOOR, blend(reynolds, 2300.0, 1e4, slow, fast))


@compiled
def caliper_coefficient(speed: float) -> float:
    """Convection of the caliper body in W/(m2 K), `h = 10 + 3.5 v^0.8` (estimate, physics.md section 8).

    >>> caliper_coefficient(0.0)
    10.0
    """
    return CALIPER_STILL + CALIPER_MOVING * speed**0.8


# What of the films hangs on the film temperature alone, every 4 K from 200 to 1800 K: reckoned once, for the powers are
# the costliest lines of the engine. Rows: nu at 1 Pa, then k nu^-0.8, k nu^-0.55 and k nu^(-1/3) at 1 Pa.
TABLE_FROM_K, TABLE_STEP_K = 200.0, 4.0


def _air_table() -> Any:
    kelvin = TABLE_FROM_K + TABLE_STEP_K * np.arange(401)
    density, conductivity, rows = interpreted(air_density), interpreted(air_conductivity), []
    for film in kelvin.tolist():
        viscosity = interpreted(air_viscosity)(film) / density(film, 1.0)
        k = conductivity(film)
        rows.append((viscosity, k * viscosity**-0.8, k * viscosity**-0.55, k * viscosity ** (-1.0 / 3.0)))
    return np.ascontiguousarray(np.array(rows))


AIR_TABLE = _air_table()


@compiled
def air_at(film_C: float) -> tuple[float, float, float, float]:
    """One row of `AIR_TABLE` at a film temperature in degC, linear between its rows (within 3e-5), held at its ends."""
    place = (film_C + KELVIN - TABLE_FROM_K) / TABLE_STEP_K
    place = min(max(place, 0.0), len(AIR_TABLE) - 1.000001)
    i = int(place)
    right = place - i
    left = 1.0 - right
    low, high = AIR_TABLE[i], AIR_TABLE[i + 1]
    return (
        left * low[0] + right * high[0],
        left * low[1] + right * high[1],
        left * low[2] + right * high[2],
        left * low[3] + right * high[3],
    )


class Powers(NamedTuple):
    """Powers of speed (m/s) and pressure (Pa) that all films of an instant share, `(v p)^n`."""

    plain: float
    turbulent: float
    laminar: float
    root: float
    speed: float


@compiled
def powers_at(speed: float, pressure: float) -> Powers:
    """Speed (m/s) times pressure (Pa), its powers 0.8, 0.55 and 1/3, and `v^0.8`."""
    if speed <= 0.0:
        return Powers(0.0, 0.0, 0.0, 0.0, 0.0)
    both, alone = math.log(speed * pressure), math.log(speed)
    turbulent, laminar, root = math.exp(0.8 * both), math.exp(0.55 * both), math.exp(both / 3.0)
    return Powers(speed * pressure, turbulent, laminar, root, math.exp(0.8 * alone))


@compiled
def face_film(powers: Powers, wall_C: float, air_C: float, axle: Any) -> float:
    """Face film in W/m2K: `face_coefficient` from the table and shared powers, `D` and its powers packed in `axle`."""
    viscosity, turbulent, laminar, _ = air_at(0.5 * (wall_C + air_C))
    reynolds = powers.plain * axle.face_diameter / viscosity
    slow, fast = 0.0, 0.0
    if reynolds < 3.2e5:
        slow = axle.face_laminar * powers.laminar * laminar
    if reynolds > 1.8e5:
        fast = axle.face_turbulent * powers.turbulent * turbulent
    return max(FACE_FLOOR, blend(reynolds, 1.8e5, 3.2e5, slow, fast))


@compiled
def vane_film(powers: Powers, wall_C: float, air_C: float, axle: Any) -> float:
    """Vane film in W/m2K: `vane_coefficient` from the table and shared powers, its passage packed in `axle`."""
    viscosity, turbulent, _, root = air_at(0.5 * (wall_C + air_C))
    reynolds = powers.plain * axle.passage_length / viscosity
    slow, fast = 0.0, 0.0
    if reynolds < 1e4:
        slow = axle.passage_laminar * powers.root * root
    if reynolds > 2300.0:
        fast = axle.passage_turbulent * powers.turbulent * turbulent
    return max(VANE_FLOOR, blend(reynolds, 2300.0, 1e4, slow, fast))
