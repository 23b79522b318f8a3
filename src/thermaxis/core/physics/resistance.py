"""Forces along the road: what friction brakes must give after drag, rolling, engine, regeneration and grade."""

from __future__ import annotations

import math

from thermaxis.core.physics.compiled import compiled

GRAVITY = 9.80665


@compiled
def air_drag(speed: float, density: float, drag_area: float) -> float:
    """Air drag in N, `0.5 rho CdA v^2`.

    >>> air_drag(10.0, 1.2, 0.5)
    30.0
    """
    return 0.5 * density * drag_area * speed * speed


@compiled
def regen_force(speed: float, mass: float, max_power: float, max_decel: float, fade_out: float) -> float:
    """Greatest regenerative force in N at a speed in m/s: `min(a_max m, P_max/v)`, full above `fade_out`.

    Below `fade_out` (m/s) it falls linearly to zero at half of it (case format).
    """
    if speed <= 0.0 or speed <= 0.5 * fade_out:
        return 0.0
    force = min(max_decel * mass, max_power / speed)
    if speed < fade_out:
        force *= (speed - 0.5 * fade_out) / (0.5 * fade_out)
    return force


def friction_force(
    *, inertia_kg: float, grade_mass_kg: float, rolling_mass_kg: float, decel_mps2: float, drag_N: float,
    rolling_coefficient: float, engine_N: float, regen_N: float, angle_rad: float,
) -> float:  # fmt: skip
    """Road force in N wanted from the friction brakes, never below zero (physics.md section 4).

    `F = k m a - drag - C_rr m g cos(theta) - F_engine - F_regen - m g sin(theta)`.

    >>> friction_force(inertia_kg=1000, grade_mass_kg=1000, rolling_mass_kg=1000, decel_mps2=5, drag_N=0,
    ...     rolling_coefficient=0, engine_N=0, regen_N=0, angle_rad=0)
    5000.0
    """
    rolling = rolling_coefficient * rolling_mass_kg * GRAVITY * math.cos(angle_rad)
    climb = grade_mass_kg * GRAVITY * math.sin(angle_rad)
    return float(max(0.0, inertia_kg * decel_mps2 - drag_N - rolling - engine_N - regen_N - climb))


def stop_energy(mass_kg: float, rotating_mass_factor: float, from_mps: float, to_mps: float) -> float:
    """Energy in J of a stop on the brakes alone, `0.5 k m (v1^2 - v2^2)` (Limpert 1999, ch. 3).

    >>> stop_energy(1000.0, 1.0, 20.0, 0.0)
    200000.0
    """
    return 0.5 * rotating_mass_factor * mass_kg * (from_mps**2 - to_mps**2)
