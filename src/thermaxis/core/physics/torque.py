"""Brake torque of one rotor and the road force it gives."""

from __future__ import annotations

from thermaxis.core.records import Axle, Rotor


def effective_radius(rotor: Rotor, *, bedded: bool = True) -> float:
    """Radius in m at which friction acts: uniform wear `(r_o + r_i)/2` when bedded, uniform pressure when new.

    Uniform pressure: `2/3 (r_o^3 - r_i^3)/(r_o^2 - r_i^2)` (Limpert 1999, ch. 2).

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> round(effective_radius(small_case().front.rotor), 4)
    0.1075
    """
    outer, inner = rotor.outer_radius_m, rotor.inner_radius_m
    if bedded:
        return (outer + inner) / 2.0
    return 2.0 / 3.0 * (outer**3 - inner**3) / (outer**2 - inner**2)


def torque_per_pressure(axle: Axle) -> float:
    """Torque of one rotor per pressure and friction coefficient, `2 A_p eta_c r_e`, in N m per Pa.

    Source: physics.md section 2.

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> round(1e6 * torque_per_pressure(small_case().front), 1)
    421.4
    """
    return 2.0 * axle.piston_area_m2 * axle.caliper_efficiency * effective_radius(axle.rotor)


def brake_torque(mu: float, pressure_Pa: float, axle: Axle) -> float:
    """Brake torque of one rotor in N m: `T = 2 mu p A_p eta_c r_e` (Limpert 1999, ch. 2; physics.md section 2).

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> round(brake_torque(0.4, 5e6, small_case().front))
    843
    """
    return mu * pressure_Pa * torque_per_pressure(axle)
