"""Forces along the road: what friction brakes must give after drag, rolling, engine, regeneration and grade."""

from __future__ import annotations

import math

from thermaxis.core.physics.compiled import compiled

GRAVITY = 9.80665


@compiled
def air_drag(speed: float, density: float, drag_area: float) -> float:
    """Air drag in N, `0.5 rho CdA v^2` (physics.md section 4).

    >>> air_drag(10.0, 1.2, 0.5)
    30.0
    """
    return 0.5 * density * drag_area * speed * speed


@compiled
def regen_force(speed: float, mass: float, max_power: float, max_decel: float, fade_out: float) -> float:
    """Greatest regenerative force in N at a speed in m/s: `min(a_max m, P_max/v)`, full above `fade_out`.

    Below `fade_out` (m/s) it falls linearly to zero at half of it (case format).

    >>> regen_force(30.0, 1000.0, 50000.0, 2.0, 4.0) == 50000.0 / 30.0
    True
    """
    if max_power <= 0.0 or speed <= 0.0 or speed <= 0.5 * fade_out:
        return 0.0
    force = min(max_decel * mass, max_power / speed)
    if speed < fade_out:
        force *= (speed - 0.5 * fade_out) / (0.5 * fade_out)
    return force


@compiled
def resisting_on(
    drag: float, rolling: float, engine: float, regen: float, grade_mass: float, sine: float, cosine: float
) -> float:
    """Road force in N that slows the vehicle without its friction brakes, by sine and cosine of the slope's angle.

    Source: physics.md section 4.

    >>> resisting_on(30.0, 100.0, 50.0, 0.0, 1000.0, 0.0, 1.0)
    180.0
    """
    return drag + rolling * cosine + engine + regen + grade_mass * GRAVITY * sine


@compiled
def resisting_force(drag: float, rolling: float, engine: float, regen: float, grade_mass: float, angle: float) -> float:
    """Road force in N that slows the vehicle without its friction brakes (physics.md section 4).

    `drag + C_rr m g cos(theta) + F_engine + F_regen + m g sin(theta)`: forces in N, `rolling` = C_rr m g on the flat,
    `grade_mass` in kg, `angle` theta in rad, positive uphill. Negative where a hill pushes more than all else holds.

    >>> resisting_force(30.0, 100.0, 50.0, 0.0, 1000.0, 0.0)
    180.0
    """
    return resisting_on(drag, rolling, engine, regen, grade_mass, math.sin(angle), math.cos(angle))


@compiled
def friction_force(inertia: float, decel: float, resisting: float) -> float:
    """Road force in N wanted from the friction brakes, never below zero: `F = k m a - resisting`.

    `inertia` k m in kg, `decel` a in m/s2, `resisting` as `resisting_force` gives it (physics.md section 4).

    >>> friction_force(1050.0, 5.0, 250.0)
    5000.0
    """
    return max(0.0, inertia * decel - resisting)


def stop_energy(mass_kg: float, rotating_mass_factor: float, from_mps: float, to_mps: float) -> float:
    """Energy in J of a stop on the brakes alone, `0.5 k m (v1^2 - v2^2)` (Limpert 1999, ch. 3).

    >>> stop_energy(1000.0, 1.0, 20.0, 0.0)
    200000.0
    """
    return 0.5 * rotating_mass_factor * mass_kg * (from_mps**2 - to_mps**2)
