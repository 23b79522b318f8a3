"""Heat flow through one cheek of a rotor: finite volumes from the friction face to the mid-plane or vane wall.

Nodes: 0 the face (no capacity), 1..n the cells, n+1 the back (the vanes' capacity, none in a solid rotor).
Equation: `rho c(T) dT/dt = d/dx(k(T) dT/dx)` (Carslaw and Jaeger 1959; physics.md section 6). Every flux is per
unit area of one face. `ring` is one record of `packing.AXLE`, `disc` one of `packing.DISC`.
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
def lay_out(fractions: Array, start_C: float, ring: Any, disc: Any) -> None:
    """Put a disc to `start_C` (degC) and lay out what does not change in a run.

    Masses in kg/m2 of cells and vanes; 1/distance in 1/m of links: 0 joins face and first cell, i cells i and i+1,
    n the last cell and the back.
    """
    count = len(fractions)
    disc.cells = count
    disc.heat_start = 0.0
    disc.nodes[0] = start_C
    disc.spreads[0] = 2.0 / (ring.cheek * fractions[0])
    for i in range(count + 1):
        disc.nodes[i + 1] = start_C
        disc.masses[i] = ring.density * fractions[i] * ring.cheek if i < count else ring.vane_mass_per_area
        disc.heat[i] = disc.masses[i] * specific_enthalpy(start_C, ring.c0, ring.c1, ring.c_max)
        disc.heat_start += disc.heat[i]
        if i < count:
            ahead = fractions[i + 1] if i + 1 < count else 0.0
            disc.spreads[i + 1] = 2.0 / (ring.cheek * (fractions[i] + ahead))
    disc.links[0] = conductivity(start_C, ring.k0, ring.k1, ring.k_min) * disc.spreads[0]


@compiled
def back_conductance(vane_h: float, ring: Any) -> float:
    """Heat leaving the back node per kelvin over the air in W/(m2 K): vane convection and the hub's share."""
    return ring.wetted_ratio * vane_h + ring.hub_per_area


@compiled
def settle_face(air_C: float, ring: Any, disc: Any) -> None:
    """Bring the massless face into balance between friction, first cell, air and radiation.

    `link (T_s - T_1) + h (T_s - T_a) + eps sigma (T_s^4 - T_a^4) = q`, radiation linearised about the face's present
    temperature: with the link a thousand times the radiation slope, a guess 10 K off leaves 1e-4 K.
    """
    guess, link = disc.nodes[0], disc.links[0]
    slope = radiation_slope(guess, ring.emissivity)
    right = link * disc.nodes[1] + disc.inflow + disc.face_film * air_C
    right += slope * guess - radiated_flux(guess, air_C, ring.emissivity)
    disc.nodes[0] = right / (link + disc.face_film + slope)


@compiled
def net_fluxes(air_C: float, ring: Any, disc: Any) -> None:
    """Settle the massless nodes, then write link conductances (W/m2K) and net inflow (W/m2) of cells and back.

    k is taken at the mean of both nodes: exact where k is linear in T. What one node loses the next gains, so a
    step that adds these fluxes conserves energy to rounding.
    """
    count, nodes, links, net = disc.cells, disc.nodes, disc.links, disc.net
    for i in range(count + 1):
        links[i] = conductivity(0.5 * (nodes[i] + nodes[i + 1]), ring.k0, ring.k1, ring.k_min) * disc.spreads[i]
    settle_face(air_C, ring, disc)
    surface = nodes[0]
    entering = disc.inflow - disc.face_film * (surface - air_C) - radiated_flux(surface, air_C, ring.emissivity)
    for i in range(1, count):
        leaving = links[i] * (nodes[i] - nodes[i + 1])
        net[i - 1] = entering - leaving
        entering = leaving
    outside = back_conductance(disc.vane_film, ring)
    if ring.vane_mass_per_area <= 0.0:
        nodes[count + 1] = (links[count] * nodes[count] + outside * air_C) / (links[count] + outside)
        leaving = outside * (nodes[count + 1] - air_C)
    else:
        leaving = links[count] * (nodes[count] - nodes[count + 1])
    net[count - 1] = entering - leaving
    net[count] = leaving - outside * (nodes[count + 1] - air_C)


@compiled
def factorise(tau: float, ring: Any, disc: Any) -> None:
    """Factorise `C - tau dq/dT` of cells and back (tridiagonal), keeping the slopes it holds.

    The massless face and (solid rotor) back are eliminated: they follow a fixed share of their neighbour's change.
    """
    count, links = disc.cells, disc.links
    disc.held_face, disc.held_vane = disc.face_film, disc.vane_film
    disc.held_radiation = radiation_slope(disc.nodes[0], ring.emissivity)
    loss = disc.held_face + disc.held_radiation
    disc.held_share = links[0] / (links[0] + loss)
    outside = back_conductance(disc.vane_film, ring)
    massive = ring.vane_mass_per_area > 0.0
    disc.held_back_share = 1.0 if massive else links[count] / (links[count] + outside)
    left, before = disc.held_share * loss, 0.0
    for i in range(count):
        capacity = disc.masses[i] * specific_heat(disc.nodes[i + 1], ring.c0, ring.c1, ring.c_max)
        right = links[i + 1]
        if i == count - 1 and not massive:
            right = disc.held_back_share * outside
        pivot = 1.0 / (capacity + tau * (left + right) - tau * links[i] * before)
        disc.capacities[i], disc.pivots[i] = capacity, pivot
        disc.lower[i] = tau * links[i] * pivot
        before = tau * links[i + 1] * pivot
        disc.upper[i] = before
        left = links[i + 1]
    disc.lower[0] = 0.0
    disc.capacities[count], disc.pivots[count], disc.lower[count] = 0.0, 0.0, 0.0
    if massive:
        capacity = disc.masses[count] * specific_heat(disc.nodes[count + 1], ring.c0, ring.c1, ring.c_max)
        pivot = 1.0 / (capacity + tau * (left + outside) - tau * left * before)
        disc.capacities[count], disc.pivots[count], disc.lower[count] = capacity, pivot, tau * left * pivot


@compiled
def solve_factorised(count: int, right: Array, lower: Array, pivots: Array, upper: Array, out: Array) -> None:
    """Solve the factorised system for the rates of change in K/s of `count` cells and the back, written to `out`."""
    out[0] = right[0] * pivots[0]
    for i in range(1, count + 1):
        out[i] = right[i] * pivots[i] + lower[i] * out[i - 1]
    for i in range(count - 1, -1, -1):
        out[i] += upper[i] * out[i + 1]


@compiled
def settle(ring: Any, disc: Any) -> None:
    """Set the cells' (and massive back node's) temperatures from their stored heat."""
    for i in range(disc.cells + 1):
        if disc.masses[i] > 0.0:
            disc.nodes[i + 1] = temperature_of_enthalpy(disc.heat[i] / disc.masses[i], ring.c0, ring.c1, ring.c_max)


@compiled
def bulk_temperature(disc: Any) -> float:
    """Mass mean of the ring in degC, vanes included."""
    total, mass = 0.0, 0.0
    for i in range(disc.cells + 1):
        total += disc.masses[i] * disc.nodes[i + 1]
        mass += disc.masses[i]
    return total / mass
