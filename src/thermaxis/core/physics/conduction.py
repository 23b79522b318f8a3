"""Heat flow through one cheek of a rotor: finite volumes from the friction face to the mid-plane or vane wall.

Nodes: 0 the face (no capacity), 1..n the cells, n+1 the back (the vanes' capacity, none in a solid rotor).
Equation: `rho c(T) dT/dt = d/dx(k(T) dT/dx)` (Carslaw and Jaeger 1959; physics.md section 6). Every flux is per
unit area of one face. `ring` is one record of `packing.AXLE`.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.physics.compiled import compiled
from thermaxis.core.physics.materials import conductivity, specific_enthalpy, specific_heat, temperature_of_enthalpy
from thermaxis.core.physics.radiation import radiated_flux, radiation_slope

Array = NDArray[np.float64]


def cell_fractions(cells: int, growth: float = 1.25) -> Array:
    """Widths of the cells as fractions of the cheek, each `growth` times the one nearer the face; they sum to 1."""
    widths = growth ** np.arange(cells)
    return widths / widths.sum()


@compiled
def link(warm_C: float, cold_C: float, distance: float, ring: Any) -> float:
    """Conductance between two nodes in W/(m2 K), k at their mean temperature: exact where k is linear in T."""
    return conductivity(0.5 * (warm_C + cold_C), ring.k0, ring.k1, ring.k_min) / distance


@compiled
def back_loss(back_C: float, vane_h: float, air_C: float, ring: Any) -> float:
    """Heat leaving the back node in W/m2: vane convection on the wetted inside, and the hub's share."""
    return (ring.wetted_ratio * vane_h + ring.hub_per_area) * (back_C - air_C)


@compiled
def enthalpies(nodes: Array, fractions: Array, ring: Any, out: Array) -> None:
    """Stored heat in J/m2 over 0 degC of each cell and of the back node, written to `out` (n+1 values)."""
    count = len(fractions)
    for i in range(count):
        mass = ring.density * fractions[i] * ring.cheek
        out[i] = mass * specific_enthalpy(nodes[i + 1], ring.c0, ring.c1, ring.c_max)
    out[count] = ring.vane_mass_per_area * specific_enthalpy(nodes[count + 1], ring.c0, ring.c1, ring.c_max)


@compiled
def newton_step(
    nodes: Array, target: Array, tau: float, inflow: float, face_h: float, vane_h: float, air_C: float,
    fractions: Array, ring: Any, upper: Array, delta: Array,
) -> float:  # fmt: skip
    """Improve `nodes` (degC) by one Newton step of the implicit stage; return the greatest change in K.

    Residuals: stored heat - `target` - `tau` x net inflow for cells, plain balance for nodes without capacity.
    k is held during a step, so convergence is linear but fast (k varies by 0.05 % per K).
    """
    count = len(fractions)
    last = count + 1
    surface = nodes[0]
    left = link(surface, nodes[1], 0.5 * fractions[0] * ring.cheek, ring)
    residual = (
        left * (surface - nodes[1])
        + face_h * (surface - air_C)
        + radiated_flux(surface, air_C, ring.emissivity)
        - inflow
    )
    pivot = left + face_h + radiation_slope(surface, ring.emissivity)
    upper[0] = -left / pivot
    delta[0] = -residual / pivot
    for i in range(1, last):
        width = fractions[i - 1] * ring.cheek
        ahead = 0.5 * width if i == count else 0.5 * (width + fractions[i] * ring.cheek)
        right = link(nodes[i], nodes[i + 1], ahead, ring)
        mass = ring.density * width
        stored = mass * specific_enthalpy(nodes[i], ring.c0, ring.c1, ring.c_max)
        net = left * (nodes[i - 1] - nodes[i]) - right * (nodes[i] - nodes[i + 1])
        residual = stored - target[i - 1] - tau * net
        pivot = mass * specific_heat(nodes[i], ring.c0, ring.c1, ring.c_max) + tau * (left + right)
        pivot += tau * left * upper[i - 1]
        upper[i] = -tau * right / pivot
        delta[i] = (-residual + tau * left * delta[i - 1]) / pivot
        left = right
    back = nodes[last]
    loss = back_loss(back, vane_h, air_C, ring)
    loss_slope = ring.wetted_ratio * vane_h + ring.hub_per_area
    stored = ring.vane_mass_per_area * specific_enthalpy(back, ring.c0, ring.c1, ring.c_max)
    residual = stored - target[count] - tau * (left * (nodes[count] - back) - loss)
    pivot = ring.vane_mass_per_area * specific_heat(back, ring.c0, ring.c1, ring.c_max)
    pivot += tau * (left + loss_slope) + tau * left * upper[count]
    delta[last] = (-residual + tau * left * delta[count]) / pivot
    for i in range(count, -1, -1):
        delta[i] -= upper[i] * delta[i + 1]
    change = 0.0
    for i in range(last + 1):
        nodes[i] += delta[i]
        change = max(change, abs(delta[i]))
    return change


@compiled
def net_fluxes(
    nodes: Array, inflow: float, face_h: float, vane_h: float, air_C: float, fractions: Array, ring: Any, out: Array
) -> None:
    """Net inflow in W/m2 of each cell and of the back node, written to `out`.

    What one node loses the next gains, and nodes without capacity pass on exactly what they get, so a step that
    adds these fluxes conserves energy to rounding however far Newton's iteration went.
    """
    count = len(fractions)
    surface = nodes[0]
    entering = inflow - face_h * (surface - air_C) - radiated_flux(surface, air_C, ring.emissivity)
    loss = back_loss(nodes[count + 1], vane_h, air_C, ring)
    for i in range(1, count + 1):
        width = fractions[i - 1] * ring.cheek
        if i < count:
            distance = 0.5 * (width + fractions[i] * ring.cheek)
            leaving = link(nodes[i], nodes[i + 1], distance, ring) * (nodes[i] - nodes[i + 1])
        elif ring.vane_mass_per_area > 0.0:
            leaving = link(nodes[i], nodes[i + 1], 0.5 * width, ring) * (nodes[i] - nodes[i + 1])
        else:
            leaving = loss
        out[i - 1] = entering - leaving
        entering = leaving
    out[count] = entering - loss


@compiled
def settle(nodes: Array, stored: Array, fractions: Array, ring: Any) -> None:
    """Set the cells' (and massive back node's) temperatures from their stored heat in J/m2."""
    count = len(fractions)
    for i in range(count):
        mass = ring.density * fractions[i] * ring.cheek
        nodes[i + 1] = temperature_of_enthalpy(stored[i] / mass, ring.c0, ring.c1, ring.c_max)
    if ring.vane_mass_per_area > 0.0:
        nodes[count + 1] = temperature_of_enthalpy(
            stored[count] / ring.vane_mass_per_area, ring.c0, ring.c1, ring.c_max
        )


@compiled
def bulk_temperature(nodes: Array, fractions: Array, ring: Any) -> float:
    """Mass mean of the ring in degC, vanes included."""
    count = len(fractions)
    ring_mass = ring.density * ring.cheek
    total = ring.vane_mass_per_area * nodes[count + 1]
    for i in range(count):
        total += ring_mass * fractions[i] * nodes[i + 1]
    return total / (ring_mass + ring.vane_mass_per_area)
