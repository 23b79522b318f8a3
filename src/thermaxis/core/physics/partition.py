"""Where friction heat would go in a short stop: by effusivity."""

from __future__ import annotations

import math

from thermaxis.core.physics.materials import PATTERN_FACTORS, conductivity, materials, specific_heat
from thermaxis.core.records import Pad, Rotor

REFERENCE_C = 20.0


def ring_area(rotor: Rotor) -> float:
    """Swept area of one face in m2, `pi (r_o^2 - r_i^2)`, less what slots and holes take (physics.md section 5).

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> round(1e4 * ring_area(small_case().front.rotor), 1)
    303.9
    """
    plain = math.pi * (rotor.outer_radius_m**2 - rotor.inner_radius_m**2)
    return plain * PATTERN_FACTORS[rotor.pattern].area


def rotor_effusivity(rotor: Rotor) -> float:
    """Thermal effusivity `sqrt(k rho c)` of the ring at 20 degC in J/(m2 K s^0.5), pattern's mass included.

    Source: physics.md section 5.

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> round(rotor_effusivity(small_case().front.rotor))
    13424
    """
    material = materials()[rotor.material]
    density = material.density_kg_per_m3 * PATTERN_FACTORS[rotor.pattern].mass
    k = conductivity(REFERENCE_C, material.k0_W_per_mK, material.k1_W_per_mK2, material.k_min_W_per_mK)
    c = specific_heat(REFERENCE_C, material.c0_J_per_kgK, material.c1_J_per_kgK2, material.c_max_J_per_kgK)
    return math.sqrt(k * density * c)


def pad_effusivity(pad: Pad) -> float:
    """Thermal effusivity `sqrt(k rho c)` of the friction material in J/(m2 K s^0.5).

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> round(pad_effusivity(small_case().front.pad))
    1988
    """
    return math.sqrt(pad.conductivity_W_per_mK * pad.density_kg_per_m3 * pad.specific_heat_J_per_kgK)


def rotor_heat_share(rotor: Rotor, pad: Pad) -> float:
    """Share of the friction heat that enters the rotor in the short-time limit, 0 to 1.

    `gamma = 1/(1 + A_pad e_pad/(A_ring e_rotor))` (Charron 1943; physics.md section 5): two half-spaces that share one
    face temperature. Reported and tested, not used: over longer times the engine's own chain splits the heat.

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> axle = small_case().front
    >>> round(rotor_heat_share(axle.rotor, axle.pad), 3)
    0.981
    """
    return 1.0 / (1.0 + pad.area_m2 * pad_effusivity(pad) / (ring_area(rotor) * rotor_effusivity(rotor)))
