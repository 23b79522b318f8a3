"""Heat flow from the caliper through pad and ring to the vane wall: one chain of finite volumes per axle.

Nodes: 0 caliper, 1 backing plate, then the pad's cells towards its friction face, the ring's cells from its face
inwards, and last the back (the vanes' capacity, none in a solid rotor). Between the pad's last cell and the ring's
first, `disc.first`, lies the interface, which stores nothing. Equation of cells: `rho c(T) dT/dt = d/dx(k(T) dT/dx)`
(Carslaw and Jaeger 1959; physics.md sections 5, 6, 8). One face, one pad and half a caliper: every flux and capacity is
per unit swept area of one face. `ring` is one record of `packing.AXLE`, `disc` one of `packing.DISC`.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.physics.compiled import compiled
from thermaxis.core.physics.materials import conductivity, specific_enthalpy, specific_heat, temperature_of_enthalpy
from thermaxis.core.physics.radiation import radiated_flux, radiation_slope

Array = NDArray[np.float64]


@compiled
def lay_out(ring_cells: Array, pad_cells: Array, start_C: float, ring: Any, disc: Any) -> None:
    """Put a disc to `start_C` (degC) and lay out what does not change in a run; cells as ladders of `layers`.

    Source: physics.md sections 6 and 8.

    Capacities in J/(m2 K) of caliper, plate and pad cells, masses in kg/m2 of ring cells and vanes; links in W/(m2 K)
    of the cold side, 1/distance in 1/m of the ring's: link i joins nodes i and i + 1, the one before `first` is only
    the pad's half of the interface and `face_spread` the ring's.
    """
    count, inside = ring_cells.shape[1] - 1, pad_cells.shape[1] - 1
    first = inside + 2
    disc.first, disc.last = first, first + count
    disc.heat_start = 0.0
    for i in range(first + count + 1):
        disc.nodes[i] = start_C
    disc.capacities[0], disc.capacities[1] = ring.caliper_capacity, ring.backing_capacity
    disc.links[0] = ring.backing_to_caliper
    for i in range(inside + 1):
        # The pad's cells are numbered from its face, the nodes from the caliper.
        disc.links[first - 1 - i] = ring.pad_conductivity / (pad_cells[1, i] * ring.pad_thickness)
        if i < inside:
            disc.capacities[first - 1 - i] = ring.pad_heat * pad_cells[0, i] * ring.pad_thickness
    disc.face_spread = 1.0 / (ring.cheek * ring_cells[1, 0])
    for i in range(count + 1):
        node = first + i
        disc.masses[node] = ring.density * ring_cells[0, i] * ring.cheek if i < count else ring.vane_mass_per_area
        disc.heat[node] = disc.masses[node] * specific_enthalpy(start_C, ring.c0, ring.c1, ring.c_max)
        disc.heat_start += disc.heat[node]
        if i < count:
            disc.spreads[node] = 1.0 / (ring.cheek * ring_cells[1, i + 1])
    disc.held_tau = -1.0
    disc.surface = start_C
    disc.face_link = conductivity(start_C, ring.k0, ring.k1, ring.k_min) * disc.face_spread
    press(ring, disc)


@compiled
def press(ring: Any, disc: Any) -> None:
    """Set the conductance from the ring's face to the pad's last cell, in W/(m2 K) of swept area.

    Pressed (a friction force above 0): the pad's half cell alone, for both faces are one. Released: that in series
    with the air gap, `G_gap` per pad (physics.md section 5).
    """
    half_cell = disc.links[disc.first - 1]
    disc.contact = half_cell
    if disc.force <= 0.0:
        disc.contact = half_cell * ring.gap_conductance / (half_cell + ring.gap_conductance)


@compiled
def back_conductance(vane_h: float, ring: Any) -> float:
    """Heat leaving the back node per kelvin over the air in W/(m2 K): vane convection and the hub's share.

    Source: physics.md section 6.
    """
    return ring.wetted_ratio * vane_h + ring.hub_per_area


@compiled
def settle_face(air_C: float, ring: Any, disc: Any) -> None:
    """Bring the massless interface into balance between friction, rotor, pad, air and radiation (physics.md section 5).

    `q = link (T_i - T_ring) + contact (T_i - T_pad) + open (h (T_i - T_a) + eps sigma (T_i^4 - T_a^4))`, `open` the
    share of the face no pad covers; radiation is linearised about the face's present temperature: with the link a
    thousand times the radiation slope, a guess 10 K off leaves 1e-4 K.
    """
    guess, link, contact, first = disc.surface, disc.face_link, disc.contact, disc.first
    slope = radiation_slope(guess, ring.emissivity)
    loss = ring.open_share * (disc.face_film + slope)
    right = link * disc.nodes[first] + contact * disc.nodes[first - 1] + disc.inflow
    right += ring.open_share * (disc.face_film * air_C + slope * guess - radiated_flux(guess, air_C, ring.emissivity))
    disc.surface = right / (link + contact + loss)


@compiled
def net_fluxes(air_C: float, ring: Any, disc: Any) -> None:
    """Settle the massless nodes, then write the ring's links (W/m2K) and the net inflow (W/m2) of every node.

    Source: physics.md section 6.

    k is taken at the mean of both nodes: exact where k is linear in T. What one node loses the next gains, so a
    step that adds these fluxes conserves energy to rounding.
    """
    first, last, nodes, links, net = disc.first, disc.last, disc.nodes, disc.links, disc.net
    disc.face_link = disc.face_spread * conductivity(0.5 * (disc.surface + nodes[first]), ring.k0, ring.k1, ring.k_min)
    settle_face(air_C, ring, disc)
    surface = disc.surface
    entering = -disc.caliper_film * (nodes[0] - air_C)
    for i in range(first - 1):
        leaving = links[i] * (nodes[i] - nodes[i + 1])
        net[i] = entering - leaving
        entering = leaving
    into_pad = disc.contact * (surface - nodes[first - 1])
    net[first - 1] = entering + into_pad
    lost = disc.face_film * (surface - air_C) + radiated_flux(surface, air_C, ring.emissivity)
    entering = disc.inflow - into_pad - ring.open_share * lost
    for i in range(first, last - 1):
        links[i] = conductivity(0.5 * (nodes[i] + nodes[i + 1]), ring.k0, ring.k1, ring.k_min) * disc.spreads[i]
        leaving = links[i] * (nodes[i] - nodes[i + 1])
        net[i] = entering - leaving
        entering = leaving
    back = last - 1
    links[back] = disc.spreads[back] * conductivity(0.5 * (nodes[back] + nodes[last]), ring.k0, ring.k1, ring.k_min)
    outside = back_conductance(disc.vane_film, ring)
    if ring.vane_mass_per_area <= 0.0:
        nodes[last] = (links[back] * nodes[back] + outside * air_C) / (links[back] + outside)
        leaving = outside * (nodes[last] - air_C)
    else:
        leaving = links[back] * (nodes[back] - nodes[last])
    net[back] = entering - leaving
    net[last] = leaving - outside * (nodes[last] - air_C)


@compiled
def _factorise_cold(tau: float, disc: Any) -> None:
    """Eliminate from the caliper up to the pad's last cell but one: nothing of it changes but the caliper's film.

    The scheme's order does not rest on an exact matrix, so a film that is a few steps old will do; the account takes
    the one that is held.
    """
    disc.held_tau, disc.held_caliper = tau, disc.caliper_film
    left, before, lower = disc.held_caliper, 0.0, 0.0
    for i in range(disc.first - 1):
        right = disc.links[i]
        pivot = 1.0 / (disc.capacities[i] + tau * (left + right) - lower * before)
        disc.pivots[i], disc.lower[i] = pivot, lower * pivot
        left = right
        lower = tau * left
        before = lower * pivot
        disc.upper[i] = before


@compiled
def factorise(tau: float, ring: Any, disc: Any) -> None:
    """Factorise `C - tau dq/dT` of the whole chain (tridiagonal), keeping the slopes it holds (physics.md section 6).

    The massless interface and (solid rotor) back are eliminated: they follow fixed shares of their neighbours'
    changes.
    """
    first, last, links = disc.first, disc.last, disc.links
    disc.held_face, disc.held_vane = disc.face_film, disc.vane_film
    disc.held_radiation = radiation_slope(disc.surface, ring.emissivity)
    loss = ring.open_share * (disc.held_face + disc.held_radiation)
    whole = 1.0 / (disc.face_link + disc.contact + loss)
    disc.held_share, disc.held_pad_share = disc.face_link * whole, disc.contact * whole
    outside = back_conductance(disc.vane_film, ring)
    massive = ring.vane_mass_per_area > 0.0
    disc.held_back_share = 1.0 if massive else links[last - 1] / (links[last - 1] + outside)
    across = disc.held_share * disc.contact
    if tau != disc.held_tau:
        _factorise_cold(tau, disc)
    edge = first - 1
    before, lower = disc.upper[edge - 1], tau * links[edge - 1]
    pivot = 1.0 / (
        disc.capacities[edge] + tau * (links[edge - 1] + across + disc.held_pad_share * loss) - lower * before
    )
    disc.pivots[edge], disc.lower[edge] = pivot, lower * pivot
    left = across
    lower = tau * left
    before = lower * pivot
    disc.upper[edge] = before
    left += disc.held_share * loss
    for i in range(first, last):
        capacity = disc.masses[i] * specific_heat(disc.nodes[i], ring.c0, ring.c1, ring.c_max)
        right = links[i]
        if i == last - 1 and not massive:
            right = disc.held_back_share * outside
        pivot = 1.0 / (capacity + tau * (left + right) - lower * before)
        disc.capacities[i], disc.pivots[i], disc.lower[i] = capacity, pivot, lower * pivot
        left = links[i]
        lower = tau * left
        before = lower * pivot
        disc.upper[i] = before
    disc.capacities[last], disc.pivots[last], disc.lower[last] = 0.0, 0.0, 0.0
    if massive:
        capacity = disc.masses[last] * specific_heat(disc.nodes[last], ring.c0, ring.c1, ring.c_max)
        pivot = 1.0 / (capacity + tau * (left + outside) - lower * before)
        disc.capacities[last], disc.pivots[last], disc.lower[last] = capacity, pivot, lower * pivot


@compiled
def solve_factorised(last: int, right: Array, lower: Array, pivots: Array, upper: Array, out: Array) -> None:
    """Solve the factorised system for the rates of change in K/s of nodes 0 to `last`, written to `out`.

    Source: physics.md section 6.
    """
    out[0] = right[0] * pivots[0]
    for i in range(1, last + 1):
        out[i] = right[i] * pivots[i] + lower[i] * out[i - 1]
    for i in range(last - 1, -1, -1):
        out[i] += upper[i] * out[i + 1]


@compiled
def settle(ring: Any, disc: Any) -> None:
    """Set the temperatures of the rotor's cells (and massive back) from their stored heat (physics.md section 6)."""
    for i in range(disc.first, disc.last + 1):
        if disc.masses[i] > 0.0:
            disc.nodes[i] = temperature_of_enthalpy(disc.heat[i] / disc.masses[i], ring.c0, ring.c1, ring.c_max)


@compiled
def bulk_temperature(disc: Any) -> float:
    """Mass mean of the ring in degC, vanes included."""
    total, mass = 0.0, 0.0
    for i in range(disc.first, disc.last + 1):
        total += disc.masses[i] * disc.nodes[i]
        mass += disc.masses[i]
    return total / mass


@compiled
def pad_temperature(disc: Any) -> float:
    """Mean of the friction material in degC."""
    total, capacity = 0.0, 0.0
    for i in range(2, disc.first):
        total += disc.capacities[i] * disc.nodes[i]
        capacity += disc.capacities[i]
    return total / capacity


@compiled
def stored_in_caliper(start_C: float, disc: Any) -> float:
    """Heat in J/m2 stored over `start_C` in caliper, plate and pad."""
    total = 0.0
    for i in range(disc.first):
        total += disc.capacities[i] * (disc.nodes[i] - start_C)
    return total
