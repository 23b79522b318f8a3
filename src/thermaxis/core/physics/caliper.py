"""Pads, backing plates and caliper as three lumped nodes in a chain (physics.md section 8)."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.physics.compiled import compiled
from thermaxis.core.records import Axle

Array = NDArray[np.float64]
STEEL_DENSITY = 7850.0
STEEL_HEAT = 480.0


def pad_capacity(axle: Axle) -> float:
    """Heat capacity of both pads' friction material in J/K, `2 rho_p c_p A_pad t_pad`."""
    pad = axle.pad
    return 2.0 * pad.density_kg_per_m3 * pad.specific_heat_J_per_kgK * pad.area_m2 * pad.thickness_m


def pad_conductance(axle: Axle) -> float:
    """Conductance of both pads from mid-thickness to the backing in W/K, `2 k_p A_pad/(t_pad/2)`."""
    return 2.0 * axle.pad.conductivity_W_per_mK * axle.pad.area_m2 / (axle.pad.thickness_m / 2.0)


def backing_capacity(axle: Axle) -> float:
    """Heat capacity of both steel backing plates in J/K, `2 x 7850 x 480 A_pad t_back`."""
    return 2.0 * STEEL_DENSITY * STEEL_HEAT * axle.pad.area_m2 * axle.pad.backing_m


@compiled
def chain_flows(
    lumps: Array, power: float, gap: float, surface_C: float, loss: float, air_C: float, axle: Any, out: Array
) -> None:
    """Net heat in W into `lumps` = pads, backings, caliper (degC), written to `out`.

    `power`: heat into the pads in W; `gap`: conductance from the ring's face in W/K (0 while braking);
    `loss`: caliper convection in W/K.
    """
    into_backing = axle.pad_to_backing * (lumps[0] - lumps[1])
    into_caliper = axle.backing_to_caliper * (lumps[1] - lumps[2])
    out[0] = power + gap * (surface_C - lumps[0]) - into_backing
    out[1] = into_backing - into_caliper
    out[2] = into_caliper - loss * (lumps[2] - air_C)


@compiled
def solve_chain(right: Array, tau: float, gap: float, loss: float, axle: Any, out: Array) -> None:
    """Solve `(C - tau dq/dT) rate = right` (W) for the rates of the three nodes in K/s, written to `out`; exact."""
    upper_a = tau * axle.pad_to_backing
    upper_b = tau * axle.backing_to_caliper
    a = 1.0 / (axle.pad_capacity + tau * gap + upper_a)
    b = 1.0 / (axle.backing_capacity + upper_a + upper_b - upper_a * upper_a * a)
    c = axle.caliper_capacity + upper_b + tau * loss - upper_b * upper_b * b
    right_b = right[1] + upper_a * a * right[0]
    out[2] = (right[2] + upper_b * b * right_b) / c
    out[1] = (right_b + upper_b * out[2]) * b
    out[0] = (right[0] + upper_a * out[1]) * a
