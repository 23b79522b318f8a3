"""One time step of both axles together.

Method: the linearly implicit two-stage W-method of order 2, L-stable with d = 1 - 1/sqrt(2) (Shampine and Reichelt,
SIAM J. Sci. Comput. 18, 1997): with `W = I - d dt J` and a ramp `F_t` of the flux

    k1 = W^-1 (F(y) + d dt F_t),  k2 = k1 + W^-1 (F(y + dt/2 k1) - k1),  y' = y + dt k2.

One factorisation, two solutions and two evaluations a step, and no iteration. Its order does not rest on J being
exact, so friction and air films stay out of J. State: stored heat (J/m2), so that the account, which takes every flux
as the step does (the middle's and `d dt J (k2 - k1)`), closes to rounding.
"""

from __future__ import annotations

import math
from typing import Any

from thermaxis.core.physics.compiled import compiled
from thermaxis.core.physics.conduction import factorise, net_fluxes, settle, solve_factorised
from thermaxis.core.physics.packing import HEAT_BIN_K, HEAT_BINS
from thermaxis.core.physics.radiation import radiated_flux
from thermaxis.core.physics.wear import specific_wear

D = 1.0 - 1.0 / math.sqrt(2.0)


@compiled
def evaluate(axles: Any, vehicle: Any, discs: Any) -> None:
    """Right-hand side of both axles: net heat of every node in W/m2 of swept face."""
    for i in range(2):
        net_fluxes(vehicle.air_C, axles[i], discs[i])


@compiled
def go_to_middle(dt: float, ramp: float, axles: Any, discs: Any) -> None:
    """First half of the step: solve k1 and put the state to `y + dt/2 k1`. `ramp`: relative rise of power in 1/s."""
    tau, half = D * dt, 0.5 * dt
    for i in range(2):
        ring, disc = axles[i], discs[i]
        factorise(tau, ring, disc)
        first = disc.first
        disc.net[first] += tau * disc.held_share * ramp * disc.inflow
        disc.net[first - 1] += tau * disc.held_pad_share * ramp * disc.inflow
        solve_factorised(disc.last, disc.net, disc.lower, disc.pivots, disc.upper, disc.rates)
        disc.surface += half * (disc.held_share * disc.rates[first] + disc.held_pad_share * disc.rates[first - 1])
        for j in range(disc.last + 1):
            disc.start[j] = disc.nodes[j]
            disc.nodes[j] += half * disc.rates[j]


@compiled
def finish(dt: float, discs: Any) -> None:
    """Second half: solve k2 from the middle's right-hand side; `change` keeps k2 - k1 for the account."""
    for i in range(2):
        disc = discs[i]
        for j in range(disc.last + 1):
            disc.net[j] -= disc.capacities[j] * disc.rates[j]
        solve_factorised(disc.last, disc.net, disc.lower, disc.pivots, disc.upper, disc.change)


@compiled
def account(dt: float, speed: float, axles: Any, vehicle: Any, discs: Any, results: Any) -> None:
    """Add the step's energies, wear and losses to both axles' results, each flux as the step took it."""
    tau = D * dt
    for i in range(2):
        ring, result, disc = axles[i], results[i], discs[i]
        surface, first, last = disc.surface, disc.first, disc.last
        both_faces = 2.0 * ring.ring_area * dt
        late = tau * (disc.held_share * disc.change[first] + disc.held_pad_share * disc.change[first - 1])
        uncovered = both_faces * ring.open_share
        result.lost_face += uncovered * (disc.face_film * (surface - vehicle.air_C) + disc.held_face * late)
        radiated = radiated_flux(surface, vehicle.air_C, ring.emissivity)
        result.lost_radiation += uncovered * (radiated + disc.held_radiation * late)
        changing = last if ring.vane_mass_per_area > 0.0 else last - 1
        late = tau * disc.held_back_share * disc.change[changing]
        over = disc.nodes[last] - vehicle.air_C
        result.lost_hub += both_faces * ring.hub_per_area * (over + late)
        result.lost_vanes += both_faces * ring.wetted_ratio * (disc.vane_film * over + disc.held_vane * late)
        late = tau * disc.change[0]
        over = disc.nodes[0] - vehicle.air_C
        result.lost_caliper += both_faces * (disc.caliper_film * over + disc.held_caliper * late)
        if disc.force > 0.0:
            energy = dt * disc.force * speed / ring.rotors
            result.friction_energy += energy
            result.wear_work += energy * specific_wear(surface, ring.wear, ring.wear_knee, ring.wear_scale)
            result.heat_bins[min(HEAT_BINS - 1, max(0, int(surface / HEAT_BIN_K)))] += energy
            result.least_mu = min(result.least_mu, disc.mu)


@compiled
def put_to_end(dt: float, axles: Any, discs: Any) -> None:
    """Add the step to stored heat and cold side, set temperatures from them; the face keeps its lead for a guess."""
    for i in range(2):
        disc = discs[i]
        first = disc.first
        lead = disc.surface - disc.nodes[first]
        for j in range(first):
            disc.nodes[j] = disc.start[j] + dt * (disc.rates[j] + disc.change[j])
        for j in range(first, disc.last + 1):
            disc.heat[j] += dt * disc.capacities[j] * (disc.rates[j] + disc.change[j])
        settle(axles[i], disc)
        disc.surface = disc.nodes[first] + lead
