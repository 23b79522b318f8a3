"""Thermal stress at the friction face: a crack index, not a life."""

from __future__ import annotations

from thermaxis.core.physics.materials import PATTERN_FACTORS, materials
from thermaxis.core.records import Rotor


def thermal_stress(excess_K: float, rotor: Rotor) -> float:
    """Compressive stress in Pa at the face for a surface `excess_K` hotter than the ring's mean.

    `sigma = E alpha (T_s - T_bulk)/(1 - nu)` of a plate held flat (Limpert 1999, ch. 3), times 3 at holes (Kirsch)
    and 1.5 at slots (estimate).

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> round(thermal_stress(100.0, small_case().front.rotor) / 1e6)
    163
    """
    material = materials()[rotor.material]
    plain = material.youngs_Pa * material.expansion_per_K * excess_K / (1.0 - material.poisson)
    return plain * PATTERN_FACTORS[rotor.pattern].stress
