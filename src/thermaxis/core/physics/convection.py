"""Convection from the rotor's faces, its vane passages and the caliper; air by Sutherland's law."""

from __future__ import annotations

import math

from thermaxis.core.physics.compiled import compiled

PRANDTL = 0.70
GAS_CONSTANT = 287.05
KELVIN = 273.15
FACE_FLOOR = 7.0
VANE_FLOOR = 5.0


@compiled
def air_viscosity(temperature_K: float) -> float:
    """Dynamic viscosity of air in Pa s, Sutherland; 200 to 1500 K.

    `mu = 1.716e-5 (T/273.15)^1.5 383.55/(T + 110.4)` (Incropera, app. A; physics.md section 7).
    """
    ratio = temperature_K / KELVIN
    return 1.716e-5 * ratio * math.sqrt(ratio) * 383.55 / (temperature_K + 110.4)


@compiled
def air_conductivity(temperature_K: float) -> float:
    """Thermal conductivity of air in W/(m K), Sutherland; 200 to 1500 K.

    `k = 0.0241 (T/273.15)^1.5 467.15/(T + 194)` (physics.md section 7).
    """
    ratio = temperature_K / KELVIN
    return 0.0241 * ratio * math.sqrt(ratio) * 467.15 / (temperature_K + 194.0)


@compiled
def air_density(temperature_K: float, pressure_Pa: float) -> float:
    """Density of air in kg/m3 as an ideal gas, `rho = p/(287.05 T)`."""
    return pressure_Pa / (GAS_CONSTANT * temperature_K)


def standard_pressure(altitude_m: float) -> float:
    """Ambient pressure in Pa at an altitude, ISA troposphere: `101325 (1 - 2.25577e-5 h)^5.25588`, -500 to 11000 m.

    >>> round(standard_pressure(1000.0))
    89875
    """
    return float(101325.0 * (1.0 - 2.25577e-5 * altitude_m) ** 5.25588)


@compiled
def blend(value: float, low: float, high: float, below: float, above: float) -> float:
    """Blend from `below` to `above` linearly in the logarithm of `value` between `low` and `high`."""
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


@compiled
def vane_coefficient(
    speed: float,
    wheel_radius: float,
    outer_radius: float,
    inner_radius: float,
    gap: float,
    vanes: float,
    vane_thickness: float,
    wall_C: float,
    air_C: float,
    pressure: float,
) -> float:
    """Convection inside the vane passages in W/(m2 K), never below 5; lengths in m, speed in m/s.

    Pumped air `V = (V_in + V_out)/2` with `V_in = pi n sqrt(D^2 - d^2)`; turbulent (Re >= 1e4)
    `0.023 (1 + (d_h/l)^0.67) Re^0.8 Pr^0.33 k/d_h`, laminar (Re <= 2300) `1.86 (Re Pr)^(1/3) (d_h/l)^0.33 k/d_h`,
    blended in ln Re between (Limpert 1999, ch. 3). Valid for vented rotors of 20 to 60 straight vanes.
    """
    film = 0.5 * (wall_C + air_C) + KELVIN
    turns = speed / (2.0 * math.pi * wheel_radius)
    inlet = 2.0 * math.pi * turns * math.sqrt(outer_radius**2 - inner_radius**2)
    area_in = gap * (2.0 * math.pi * inner_radius - vanes * vane_thickness)
    area_out = gap * (2.0 * math.pi * outer_radius - vanes * vane_thickness)
    velocity = 0.5 * inlet * (1.0 + area_in / area_out)
    width = math.pi * (outer_radius + inner_radius) / vanes - vane_thickness
    hydraulic = 2.0 * width * gap / (width + gap)
    length = outer_radius - inner_radius
    conductivity = air_conductivity(film)
    reynolds = velocity * hydraulic * air_density(film, pressure) / air_viscosity(film)
    scale = conductivity / hydraulic
    laminar = 0.0
    turbulent = 0.0
    if reynolds < 1e4:
        laminar = 1.86 * (reynolds * PRANDTL) ** (1.0 / 3.0) * (hydraulic / length) ** 0.33 * scale
    if reynolds > 2300.0:
        turbulent = 0.023 * (1.0 + (hydraulic / length) ** 0.67) * reynolds**0.8 * PRANDTL**0.33 * scale
    return max(VANE_FLOOR, blend(reynolds, 2300.0, 1e4, laminar, turbulent))


@compiled
def caliper_coefficient(speed: float) -> float:
    """Convection of the caliper body in W/(m2 K), `h = 10 + 3.5 v^0.8` (estimate, physics.md section 8).

    >>> caliper_coefficient(0.0)
    10.0
    """
    return 10.0 + 3.5 * speed**0.8
