"""Heat capacity and geometry of pads, backing plates and caliper (physics.md section 8)."""

from __future__ import annotations

from thermaxis.core.records import Axle, Pad

STEEL_DENSITY = 7850.0
STEEL_HEAT = 480.0


def pad_heat(pad: Pad) -> float:
    """Heat capacity of the friction material in J/(m3 K), `rho_p c_p`.

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> round(pad_heat(small_case().front.pad))
    2470000
    """
    return pad.density_kg_per_m3 * pad.specific_heat_J_per_kgK


def backing_capacity(axle: Axle) -> float:
    """Heat capacity of both steel backing plates in J/K, `2 x 7850 x 480 A_pad t_back`.

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> round(backing_capacity(small_case().front), 1)
    150.7
    """
    return 2.0 * STEEL_DENSITY * STEEL_HEAT * axle.pad.area_m2 * axle.pad.backing_m


def caliper_capacity(axle: Axle) -> float:
    """Heat capacity in J/K of one caliper with the fluid behind its pistons, `m c`.

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> caliper_capacity(small_case().front)
    1500.0
    """
    return axle.caliper_mass_kg * axle.caliper_specific_heat_J_per_kgK
