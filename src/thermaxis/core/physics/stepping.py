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

from thermaxis.core.physics.braking import axle_forces, resistance_at
from thermaxis.core.physics.caliper import chain_flows, solve_chain
from thermaxis.core.physics.compiled import compiled
from thermaxis.core.physics.conduction import factorise, net_fluxes, settle, settle_face, solve_factorised
from thermaxis.core.physics.packing import HEAT_BIN_K, HEAT_BINS
from thermaxis.core.physics.radiation import radiated_flux
from thermaxis.core.physics.resistance import friction_force
from thermaxis.core.physics.schedule import CRUISE, STOP
from thermaxis.core.physics.wear import specific_wear

D = 1.0 - 1.0 / math.sqrt(2.0)


@compiled
def brake(
    kind: int, speed: float, decel: float, angle: float, passes: int, axles: Any, vehicle: Any, discs: Any, motion: Any
) -> None:
    """Find both axles' forces at their own face temperatures and what the vehicle really does at `speed` (m/s).

    Friction and face temperature are found in turn, `passes` times: a face leads its first cell by a few kelvin,
    so each pass gains two digits.
    """
    motion.speed, motion.decel, motion.power, motion.pressure = speed, decel, 0.0, 0.0
    discs[0].force, discs[1].force = 0.0, 0.0
    discs[0].inflow, discs[1].inflow = 0.0, 0.0
    if kind == CRUISE:
        return
    resisting = resistance_at(speed, angle, vehicle)
    wanted = friction_force(vehicle.inertia, decel, resisting)
    if wanted <= 0.0:
        return
    for _ in range(passes):
        motion.pressure = axle_forces(wanted, axles, vehicle, kind == STOP, discs)
        for i in range(2):
            ring, disc = axles[i], discs[i]
            disc.inflow = ring.heat_share * disc.force * speed / (ring.rotors * 2.0 * ring.ring_area)
            settle_face(vehicle.air_C, ring, disc)
    given = discs[0].force + discs[1].force
    if kind == STOP:
        motion.decel = min(decel, (given + resisting) / vehicle.inertia)
    motion.power = given * speed


@compiled
def evaluate(axles: Any, vehicle: Any, discs: Any, motion: Any) -> None:
    """Right-hand side of both axles: net heat of every cell (W/m2) and of pads, backings, caliper (W)."""
    for i in range(2):
        ring, disc = axles[i], discs[i]
        net_fluxes(vehicle.air_C, ring, disc)
        gap = 0.0 if disc.force > 0.0 else ring.gap_conductance
        into_pads = (1.0 - ring.heat_share) * disc.force * motion.speed / ring.rotors
        chain_flows(disc.lumps, into_pads, gap, disc.nodes[0], disc.caliper_film, vehicle.air_C, ring, disc.flows)


@compiled
def go_to_middle(dt: float, ramp: float, axles: Any, discs: Any) -> None:
    """First half of the step: solve k1 and put the state to `y + dt/2 k1`. `ramp`: relative rise of power in 1/s."""
    tau, half = D * dt, 0.5 * dt
    for i in range(2):
        ring, disc = axles[i], discs[i]
        factorise(tau, ring, disc)
        disc.held_caliper = disc.caliper_film
        disc.held_gap = 0.0 if disc.force > 0.0 else ring.gap_conductance
        disc.net[0] += tau * disc.held_share * ramp * disc.inflow
        solve_factorised(disc.cells, disc.net, disc.lower, disc.pivots, disc.upper, disc.rates)
        disc.nodes[0] += half * disc.rates[0]
        for j in range(disc.cells + 1):
            disc.nodes[j + 1] += half * disc.rates[j]
        solve_chain(disc.flows, tau, disc.held_gap, disc.held_caliper, ring, disc.lump_rates)
        for j in range(3):
            disc.lump_start[j] = disc.lumps[j]
            disc.lumps[j] += half * disc.lump_rates[j]


@compiled
def finish(dt: float, axles: Any, discs: Any) -> None:
    """Second half: solve k2 from the middle's right-hand side; `change` keeps k2 - k1 for the account."""
    tau = D * dt
    for i in range(2):
        ring, disc = axles[i], discs[i]
        for j in range(disc.cells + 1):
            disc.net[j] -= disc.capacities[j] * disc.rates[j]
        solve_factorised(disc.cells, disc.net, disc.lower, disc.pivots, disc.upper, disc.change)
        disc.flows[0] -= ring.pad_capacity * disc.lump_rates[0]
        disc.flows[1] -= ring.backing_capacity * disc.lump_rates[1]
        disc.flows[2] -= ring.caliper_capacity * disc.lump_rates[2]
        solve_chain(disc.flows, tau, disc.held_gap, disc.held_caliper, ring, disc.lump_change)


@compiled
def account(dt: float, speed: float, axles: Any, vehicle: Any, discs: Any, results: Any) -> None:
    """Add the step's energies, wear and losses to both axles' results, each flux as the step took it."""
    tau = D * dt
    for i in range(2):
        ring, result, disc = axles[i], results[i], discs[i]
        surface, back = disc.nodes[0], disc.nodes[disc.cells + 1]
        both_faces = 2.0 * ring.ring_area * dt
        late = tau * disc.held_share * disc.change[0]
        result.lost_face += both_faces * (disc.face_film * (surface - vehicle.air_C) + disc.held_face * late)
        radiated = radiated_flux(surface, vehicle.air_C, ring.emissivity)
        result.lost_radiation += both_faces * (radiated + disc.held_radiation * late)
        last = disc.cells if ring.vane_mass_per_area > 0.0 else disc.cells - 1
        late = tau * disc.held_back_share * disc.change[last]
        over = back - vehicle.air_C
        result.lost_hub += both_faces * ring.hub_per_area * (over + late)
        result.lost_vanes += both_faces * ring.wetted_ratio * (disc.vane_film * over + disc.held_vane * late)
        late = tau * disc.lump_change[2]
        result.lost_caliper += dt * (disc.caliper_film * (disc.lumps[2] - vehicle.air_C) + disc.held_caliper * late)
        result.gap_heat -= dt * disc.held_gap * tau * disc.lump_change[0]
        if disc.force > 0.0:
            energy = dt * disc.force * speed / ring.rotors
            result.friction_energy += energy
            result.wear_work += energy * specific_wear(surface, ring.wear, ring.wear_knee, ring.wear_scale)
            result.heat_bins[min(HEAT_BINS - 1, max(0, int(surface / HEAT_BIN_K)))] += energy
            result.least_mu = min(result.least_mu, disc.mu)
        else:
            result.gap_heat += dt * ring.gap_conductance * (surface - disc.lumps[0])


@compiled
def put_to_end(dt: float, axles: Any, discs: Any) -> None:
    """Add the step to stored heat and lumps and set temperatures from them; the face keeps its lead for a guess."""
    for i in range(2):
        disc = discs[i]
        lead = disc.nodes[0] - disc.nodes[1]
        for j in range(disc.cells + 1):
            disc.heat[j] += dt * disc.capacities[j] * (disc.rates[j] + disc.change[j])
        for j in range(3):
            disc.lumps[j] = disc.lump_start[j] + dt * (disc.lump_rates[j] + disc.lump_change[j])
        settle(axles[i], disc)
        disc.nodes[0] = disc.nodes[1] + lead
