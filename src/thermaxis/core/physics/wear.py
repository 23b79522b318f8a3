"""Pad wear from friction energy and temperature."""

from __future__ import annotations

import math

from thermaxis.core.physics.compiled import compiled


@compiled
def specific_wear(surface_C: float, base: float, knee_C: float, scale_C: float) -> float:
    """Specific wear in mm3/MJ: `w0` up to the knee, then `w0 exp((T - T_w)/T_e)`.

    Archard's linear law (J. Appl. Phys. 24, 1953) written in energy, with an exponential rise over the knee
    (physics.md section 9). The exponent is held at 20 so that an absurd temperature stays a number.

    >>> specific_wear(400.0, 40.0, 450.0, 150.0)
    40.0
    """
    if surface_C <= knee_C:
        return base
    return base * math.exp(min(20.0, (surface_C - knee_C) / scale_C))


@compiled
def worn_depth(wear_mm3_per_MJ: float, energy_J: float, pad_area_m2: float) -> float:
    """Depth worn from one pad in m by the friction energy of its rotor: `V = w E/2`, `depth = V/A_pad`.

    Source: physics.md section 9.

    >>> worn_depth(40.0, 1e6, 0.004)
    5e-06
    """
    return 1e-9 * wear_mm3_per_MJ * energy_J / 1e6 / 2.0 / pad_area_m2
