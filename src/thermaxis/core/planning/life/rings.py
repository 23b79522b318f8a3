"""How fast a ring wears thin under a compound."""

from __future__ import annotations

from thermaxis.core.errors import FieldError
from thermaxis.core.records import Pad

# What of a set is used up over its life, as a share of its friction material (estimate): the table's wear of a ring is
# what one such set takes off it.
USED_SHARE = 0.7


def ring_wear_m(set_takes_m: float, friction_energy_J: float, pad: Pad) -> float:
    """Thickness in m that braking takes off one ring, both faces together.

    `dt = dt_set E/E_set`, `E_set = 2 A_pad 0.7 t_pad/w_0` the friction energy of one rotor that uses up a set at its
    plain wear rate; `dt_set` (m) what its family takes in that time (data/rotor_wear.csv, estimate). Raises FieldError
    for an energy below 0.

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> round(1e9 * ring_wear_m(0.0004, 1e8, small_case().front.pad))
    28571
    """
    if not friction_energy_J >= 0:
        raise FieldError("friction_energy_J", friction_energy_J, "a number >= 0")
    per_J = pad.wear_mm3_per_MJ * 1e-9 * 1e-6
    life_J = 2.0 * pad.area_m2 * USED_SHARE * pad.thickness_m / per_J if per_J > 0 else float("inf")
    return set_takes_m * friction_energy_J / life_J
