"""Friction measured on the own vehicle: from one braking to a coefficient, and beside a maker's curve."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from thermaxis.core.checked import Checked, number
from thermaxis.core.errors import Bounds, FieldError
from thermaxis.core.physics.balance import axle_road_forces
from thermaxis.core.physics.convection import KELVIN, air_density
from thermaxis.core.physics.friction import friction_coefficient
from thermaxis.core.physics.hydraulics import line_pressure
from thermaxis.core.physics.resistance import GRAVITY, air_drag, friction_force, resisting_force
from thermaxis.core.records import Case
from thermaxis.core.said import verbatim

# One reading may be off by this much of itself (pedal gauge, accelerometer, ring temperature: estimate).
READING_SIGMA = 0.06


@dataclass(frozen=True, kw_only=True)
class Braking(Checked):
    """One steady braking on the flat: pedal force in N, deceleration in m/s2 and the speed at it in m/s."""

    pedal_N: float = number(gt=0, le=3000)
    decel_mps2: float = number(gt=0.3, le=15)
    speed_mps: float = number(gt=0, le=100)


def friction_from_braking(case: Case, braking: Braking) -> float:
    """Friction coefficient that gives a measured deceleration at a measured pedal force, both axles alike.

    Road forces are proportional to mu at one pressure, so `mu = F/(F_f + F_r at mu = 1)` with `F = k m a` (and a
    trailer's push) less drag, rolling and engine braking (physics.md sections 1, 2 and 4); regeneration must be off.
    Raises FieldError where the braking is weaker than what slows the vehicle anyway. Valid while no wheel locks.
    """
    vehicle = case.vehicle
    density = air_density(case.environment.air_C + KELVIN, case.environment.pressure_Pa)
    resisting = resisting_force(
        air_drag(braking.speed_mps, density, vehicle.drag_area_m2),
        vehicle.rolling_coefficient * vehicle.mass_kg * GRAVITY,
        vehicle.engine_braking_N,
        0.0,
        vehicle.mass_kg,
        0.0,
    )
    inertia = vehicle.rotating_mass_factor * vehicle.mass_kg
    if case.trailer is not None:
        inertia += case.trailer.pushed_mass_kg
    wanted = friction_force(inertia, braking.decel_mps2, resisting)
    if wanted <= 0:
        least = resisting / inertia
        bounds = Bounds(least=least, above=True, why=verbatim("drag and engine do that alone"))
        raise FieldError.outside("decel_mps2", braking.decel_mps2, bounds, ", which drag and engine do alone")
    pressure = line_pressure(braking.pedal_N, case.hydraulics)
    reference = 200.0
    front, rear = axle_road_forces(case, pressure, reference)
    front /= friction_coefficient(reference, case.front.pad.mu)
    rear /= friction_coefficient(reference, case.rear.pad.mu)
    return wanted / (front + rear)


@dataclass(frozen=True, kw_only=True)
class OwnFriction:
    """How own readings lie to a curve: their geometric mean over it, and how far that may be off (sigma of its log)."""

    ratio: float
    sigma: float
    count: int


def own_friction(readings: Sequence[tuple[float, float]], curve: tuple[tuple[float, float], ...]) -> OwnFriction:
    """Compare own readings (ring temperature in degC, mu) with a curve of the same; ratio 1 without any; a record.

    `ratio = exp(mean ln(mu_i/mu(T_i)))`; its sigma is the greater of scatter and `READING_SIGMA`, over sqrt(n).
    Raises FieldError for a reading that is not above 0.
    """
    logs = []
    for index, (temperature, mu) in enumerate(readings):
        if not mu > 0:
            raise FieldError(f"readings[{index}]", mu, "a friction above 0")
        logs.append(math.log(mu / friction_coefficient(temperature, curve)))
    if not logs:
        return OwnFriction(ratio=1.0, sigma=0.0, count=0)
    mean = math.fsum(logs) / len(logs)
    scatter = math.sqrt(math.fsum((entry - mean) ** 2 for entry in logs) / max(1, len(logs) - 1))
    return OwnFriction(ratio=math.exp(mean), sigma=max(scatter, READING_SIGMA) / math.sqrt(len(logs)), count=len(logs))
