"""The compiled engine: N candidates through one duty, both axles coupled through the line pressure.

Time: SDIRK2 (Alexander, SIAM J. Numer. Anal. 14, 1977), two implicit stages with gamma = 1 - 1/sqrt(2); second order
and L-stable, so the stiff thin cells do not ring. Both stages add the same fluxes to state and account, so
energy closes to rounding. Steps are short while braking and grow while cooling; they never cross a segment's end.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.physics import schedule
from thermaxis.core.physics.caliper import chain_rates, solve_chain
from thermaxis.core.physics.compiled import compiled
from thermaxis.core.physics.conduction import (
    back_loss,
    bulk_temperature,
    enthalpies,
    net_fluxes,
    newton_step,
    settle,
)
from thermaxis.core.physics.convection import caliper_coefficient, face_coefficient, vane_coefficient
from thermaxis.core.physics.friction import mu_at
from thermaxis.core.physics.hydraulics import pressure_for_force, rear_pressure
from thermaxis.core.physics.packing import HEAT_BIN_K, HEAT_BINS
from thermaxis.core.physics.radiation import radiated_flux
from thermaxis.core.physics.resistance import GRAVITY, air_drag, regen_force
from thermaxis.core.physics.wear import specific_wear

Array = NDArray[np.float64]
GAMMA = 1.0 - 1.0 / math.sqrt(2.0)
NEWTON_TOLERANCE_K = 2e-4
NEWTON_STEPS = 25
FILM_RENEWAL_K = 2.0
STOP = schedule.STOP
CRUISE = schedule.CRUISE
# A force-limited stop is given up after this many times its wanted duration (and a minute): it is no stop.
STOP_PATIENCE = 20.0
HISTORY_COLUMNS = 13


@compiled
def resisting_force(speed: float, angle: float, vehicle: Any) -> float:
    """Drag, rolling, engine, regeneration and grade in N: what slows the vehicle without friction brakes."""
    regen = regen_force(speed, vehicle.mass, vehicle.regen_power, vehicle.regen_decel, vehicle.regen_fade)
    drag = air_drag(speed, vehicle.air_density, vehicle.drag_area)
    rolling = vehicle.rolling * math.cos(angle)
    climb = vehicle.grade_mass * GRAVITY * math.sin(angle)
    return drag + rolling + vehicle.engine + regen + climb


@compiled
def axle_forces(
    wanted: float, front_C: float, rear_C: float, axles: Any, vehicle: Any, limited: bool, out: Array
) -> float:
    """Split a road force over the axles by the friction each has now; write front and rear N, return the pressure.

    One circuit: the common pressure that gives the force. Separate circuits: the rider's share, each at its own
    pressure (the greater is returned). `limited` caps the pressure at the greatest pedal force.
    """
    front, rear = axles[0], axles[1]
    f = front.force_per_pressure * mu_at(front_C, front.mu_C, front.mu_value, front.mu_slope, front.mu_count)
    r = rear.force_per_pressure * mu_at(rear_C, rear.mu_C, rear.mu_value, rear.mu_slope, rear.mu_count)
    if vehicle.rider_share >= 0.0:
        pressure_front = wanted * vehicle.rider_share / f
        pressure_rear = wanted * (1.0 - vehicle.rider_share) / r
        if limited:
            pressure_front = min(pressure_front, vehicle.max_pressure)
            pressure_rear = min(pressure_rear, vehicle.max_pressure)
        out[0], out[1] = f * pressure_front, r * pressure_rear
        return max(pressure_front, pressure_rear)
    pressure = pressure_for_force(wanted, f, r, vehicle.knee, vehicle.slope)
    if limited:
        pressure = min(pressure, vehicle.max_pressure)
    out[0] = f * pressure
    out[1] = r * rear_pressure(pressure, vehicle.knee, vehicle.slope)
    return pressure


@compiled
def film_coefficients(speed: float, face_C: float, back_C: float, axle: Any, vehicle: Any, out: Array) -> None:
    """Convection of faces, vanes (W/m2K) and caliper (W/K) at this speed, written to `out`."""
    face = face_coefficient(speed, 2.0 * axle.outer_radius, face_C, vehicle.air_C, vehicle.pressure_Pa)
    out[0] = face * axle.face_factor * axle.cooling_factor
    out[1] = 0.0
    if axle.gap > 0.0:
        vane = vane_coefficient(
            speed, axle.wheel_radius, axle.outer_radius, axle.inner_radius, axle.gap, axle.vanes,
            axle.vane_thickness, back_C, vehicle.air_C, vehicle.pressure_Pa,
        )  # fmt: skip
        out[1] = vane * axle.cooling_factor
    out[2] = caliper_coefficient(speed) * axle.caliper_area


@compiled
def solve_stage(
    kind: int, tau: float, speed: float, decel: float, angle: float, axles: Any, vehicle: Any, fractions: Array,
    nodes: Array, heat: Array, lumps: Array, lump_target: Array, heat_rate: Array, lump_rate: Array, force: Array,
    films: Array, scratch: Array, motion: Array,
) -> float:  # fmt: skip
    """Solve one implicit stage of both axles together; return the pressure.

    `speed` is the stage's speed, or for a stop the speed it would start from (`motion` gets speed and deceleration).
    Friction, force split and motion are renewed in every Newton iteration, so all are at the stage's own state.
    """
    limited = kind == STOP
    pressure = 0.0
    v, a = speed, decel
    film_speed = max(0.0, speed - tau * decel) if limited else speed
    change = np.inf
    for iteration in range(NEWTON_STEPS):
        # Films follow the walls; after the first iteration only where the walls moved enough to matter.
        if iteration == 0 or (iteration == 1 and change > FILM_RENEWAL_K):
            for axle in range(2):
                film_coefficients(film_speed, nodes[axle, 0], nodes[axle, -1], axles[axle], vehicle, films[axle])
        force[0] = 0.0
        force[1] = 0.0
        if kind != CRUISE:
            if limited:
                v = max(0.0, speed - tau * a)
            resist = resisting_force(v, angle, vehicle)
            wanted = max(0.0, vehicle.inertia * decel - resist)
            pressure = 0.0
            if wanted > 0.0:
                pressure = axle_forces(wanted, nodes[0, 0], nodes[1, 0], axles, vehicle, limited, force)
            if limited:
                a = min(decel, (force[0] + force[1] + resist) / vehicle.inertia) if wanted > 0.0 else decel
        change = 0.0
        for axle in range(2):
            ring = axles[axle]
            inflow = ring.heat_share * force[axle] * v / (ring.rotors * 2.0 * ring.ring_area)
            step = newton_step(
                nodes[axle], heat[axle], tau, inflow, films[axle, 0], films[axle, 1], vehicle.air_C, fractions, ring,
                scratch[0], scratch[1],
            )  # fmt: skip
            change = max(change, step)
        if change < NEWTON_TOLERANCE_K:
            break
    motion[0], motion[1] = v, a
    for axle in range(2):
        ring = axles[axle]
        power = force[axle] * v / ring.rotors
        inflow = ring.heat_share * power / (2.0 * ring.ring_area)
        net_fluxes(nodes[axle], inflow, films[axle, 0], films[axle, 1], vehicle.air_C, fractions, ring, heat_rate[axle])
        gap = 0.0 if power > 0.0 else ring.gap_conductance
        into_pads = (1.0 - ring.heat_share) * power
        surface = nodes[axle, 0]
        solve_chain(lumps[axle], lump_target[axle], tau, into_pads, gap, surface, films[axle, 2], vehicle.air_C, ring)
        chain_rates(lumps[axle], into_pads, gap, surface, films[axle, 2], vehicle.air_C, ring, lump_rate[axle])
    return pressure


@compiled
def account_stage(
    weight: float, speed: float, nodes: Array, lumps: Array, force: Array, films: Array, axles: Any, vehicle: Any,
    results: Any,
) -> None:  # fmt: skip
    """Add one stage's energies, wear and losses, over `weight` seconds, to both axles' results."""
    for i in range(2):
        ring, result = axles[i], results[i]
        surface, back = nodes[i, 0], nodes[i, -1]
        power = force[i] * speed / ring.rotors
        energy = weight * power
        both_faces = 2.0 * ring.ring_area * weight
        result.friction_energy += energy
        result.lost_face += both_faces * films[i, 0] * (surface - vehicle.air_C)
        result.lost_radiation += both_faces * radiated_flux(surface, vehicle.air_C, ring.emissivity)
        through_hub = both_faces * ring.hub_per_area * (back - vehicle.air_C)
        result.lost_hub += through_hub
        result.lost_vanes += both_faces * back_loss(back, films[i, 1], vehicle.air_C, ring) - through_hub
        result.lost_caliper += weight * films[i, 2] * (lumps[i, 2] - vehicle.air_C)
        if power > 0.0:
            result.wear_work += energy * specific_wear(surface, ring.wear, ring.wear_knee, ring.wear_scale)
            bin_index = min(HEAT_BINS - 1, max(0, int(surface / HEAT_BIN_K)))
            result.heat_bins[bin_index] += energy
            mu = mu_at(surface, ring.mu_C, ring.mu_value, ring.mu_slope, ring.mu_count)
            result.least_mu = min(result.least_mu, mu)
        else:
            result.gap_heat += weight * ring.gap_conductance * (surface - lumps[i, 0])


@compiled
def note_peaks(time: float, nodes: Array, lumps: Array, fractions: Array, axles: Any, results: Any) -> None:
    """Raise both axles' peaks to the present state where it is higher."""
    for i in range(2):
        result = results[i]
        surface = nodes[i, 0]
        bulk = bulk_temperature(nodes[i], fractions, axles[i])
        if surface > result.peak_surface:
            result.peak_surface = surface
            result.peak_surface_s = time
        if lumps[i, 2] > result.peak_fluid:
            result.peak_fluid = lumps[i, 2]
            result.peak_fluid_s = time
        result.peak_bulk = max(result.peak_bulk, bulk)
        result.peak_pad = max(result.peak_pad, lumps[i, 0])
        result.peak_excess = max(result.peak_excess, surface - bulk)
        result.end_bulk = bulk


@compiled
def write_sample(
    index: int, time: float, speed: float, pressure: float, force: Array, nodes: Array, lumps: Array, results: Any,
    axles: Any, history: Array,
) -> None:  # fmt: skip
    """Write one row of history: t, v, pressure, power, then surface, bulk, pad, fluid of front and rear."""
    if index >= history.shape[0]:
        return
    history[index, 0], history[index, 1], history[index, 2] = time, speed, pressure
    for i in range(2):
        history[index, 3 + i] = force[i] * speed / axles[i].rotors
        column = 5 + 4 * i
        history[index, column] = nodes[i, 0]
        history[index, column + 1] = results[i].end_bulk
        history[index, column + 2] = lumps[i, 0]
        history[index, column + 3] = lumps[i, 2]


@compiled
def next_step(step: float, longest: float, remaining: float) -> float:
    """Length of the next time step in s: no longer than `longest`, and leaving no sliver at the end."""
    step = min(step, longest)
    if step >= 0.999 * remaining:
        return remaining
    return min(step, 0.5 * remaining) if 2.0 * step > remaining else step


@compiled
def run_candidate(
    axles: Any, vehicle: Any, segments: Any, fractions: Array, steps: Array, results: Any, run: Any, stops: Array,
    history: Array,
) -> None:  # fmt: skip
    """Take one candidate through the duty, filling `results` (2 AXLE_RESULT), `run`, `stops` (S x 5), `history`.

    `steps` = first, least braking, longest cooling (s), growth,
    share of a braking segment. `stops` columns: duration, front and rear bulk
    at the end of braking, front and rear energy.
    """
    cells = len(fractions)
    nodes = np.full((2, cells + 2), vehicle.start_C)
    lumps = np.full((2, 3), vehicle.start_C)
    heat = np.empty((2, cells + 1))
    heat_start = np.empty((2, cells + 1))
    stage_heat = np.empty((2, cells + 1))
    stage_lumps = np.empty((2, 3))
    heat_rates = np.zeros((2, 2, cells + 1))
    lump_rates = np.zeros((2, 2, 3))
    lump_start = np.empty((2, 3))
    scratch = np.empty((2, cells + 2))
    films = np.zeros((2, 3))
    force = np.zeros(2)
    motion = np.zeros(2)
    for i in range(2):
        enthalpies(nodes[i], fractions, axles[i], heat[i])
        results[i].least_mu = np.inf
        results[i].peak_surface = -np.inf
        results[i].peak_fluid = -np.inf
        results[i].peak_bulk = -np.inf
        results[i].peak_pad = -np.inf
    heat_start[:] = heat
    run.stopped = 1
    run.first_limited_s = -1.0
    note_peaks(0.0, nodes, lumps, fractions, axles, results)
    time = 0.0
    step = steps[0]
    was_braking = False
    samples = 0
    write_sample(samples, 0.0, segments[0].v0, 0.0, force, nodes, lumps, results, axles, history)
    samples += 1
    for s in range(len(segments)):
        segment = segments[s]
        kind, duration, angle = segment.kind, segment.duration, segment.angle
        speed, decel = segment.v0, segment.decel
        elapsed = 0.0
        braking = kind != CRUISE and vehicle.inertia * decel > resisting_force(speed, angle, vehicle)
        if braking != was_braking:
            step = steps[0]
            was_braking = braking
        # Steady braking (a descent) has no ramp to follow, so its step may grow as if cooling.
        # A ramp is followed by a fixed number of steps: its shape, not its length, sets the error.
        longest = min(steps[2], max(steps[1], duration * steps[4])) if braking and decel != 0.0 else steps[2]
        energy_before_front = results[0].friction_energy
        energy_before_rear = results[1].friction_energy
        remaining = duration
        while remaining > 1e-9:
            dt = next_step(step, longest, remaining)
            step = dt * steps[3] if dt >= 0.5 * step else step
            tau = GAMMA * dt
            speed_rate = 0.0
            lump_start[:] = lumps
            pressure = 0.0
            for stage in range(2):
                share = GAMMA if stage == 0 else 1.0
                if kind == STOP:
                    stage_speed = speed - (dt - tau) * speed_rate if stage == 1 else speed
                else:
                    stage_speed = segment.v0 + (segment.v1 - segment.v0) * (elapsed + share * dt) / duration
                for i in range(2):
                    for j in range(cells + 1):
                        stage_heat[i, j] = heat[i, j]
                        if stage == 1:
                            stage_heat[i, j] += (dt - tau) * heat_rates[0, i, j]
                    for j in range(3):
                        stage_lumps[i, j] = lump_start[i, j]
                        if stage == 1:
                            stage_lumps[i, j] += (dt - tau) * lump_rates[0, i, j]
                pressure = solve_stage(
                    kind, tau, stage_speed, decel, angle, axles, vehicle, fractions, nodes, stage_heat, lumps,
                    stage_lumps, heat_rates[stage], lump_rates[stage], force, films, scratch, motion,
                )  # fmt: skip
                speed_rate = motion[1]
                weight = dt - tau if stage == 0 else tau
                account_stage(weight, motion[0], nodes, lumps, force, films, axles, vehicle, results)
                if force[0] + force[1] > 0.0:
                    run.braking_s += weight
                    if pressure > run.peak_pressure:
                        run.peak_pressure = pressure
                        run.peak_pressure_s = time + share * dt
                    if pressure > vehicle.max_pressure * (1.0 - 1e-9):
                        run.limited_s += weight
                        if run.first_limited_s < 0.0:
                            run.first_limited_s = time + share * dt
            for i in range(2):
                for j in range(cells + 1):
                    heat[i, j] = stage_heat[i, j] + tau * heat_rates[1, i, j]
                settle(nodes[i], heat[i], fractions, axles[i])
            elapsed += dt
            time += dt
            if kind == STOP:
                speed = motion[0]
                # What is left at the deceleration there is now; a fading brake never counts as stronger than asked.
                remaining = (speed - segment.v1) / max(motion[1], 1e-9)
                if motion[1] <= 0.0 or elapsed > STOP_PATIENCE * duration + 60.0:
                    run.stopped = 0
                    remaining = 0.0
            else:
                speed = stage_speed
                remaining = duration - elapsed
            note_peaks(time, nodes, lumps, fractions, axles, results)
            write_sample(samples, time, speed, pressure, force, nodes, lumps, results, axles, history)
            samples += 1
        if segment.stop >= 0:
            row = stops[segment.stop]
            row[0] = elapsed
            row[1], row[2] = results[0].end_bulk, results[1].end_bulk
            row[3] = results[0].friction_energy - energy_before_front
            row[4] = results[1].friction_energy - energy_before_rear
    run.duration = time
    run.samples = samples
    for i in range(2):
        ring = axles[i]
        results[i].stored_ring = 2.0 * ring.ring_area * (heat[i] - heat_start[i]).sum()
        results[i].stored_caliper = (
            ring.pad_capacity * (lumps[i, 0] - vehicle.start_C)
            + ring.backing_capacity * (lumps[i, 1] - vehicle.start_C)
            + ring.caliper_capacity * (lumps[i, 2] - vehicle.start_C)
        )


@compiled
def run_batch(
    axles: Any, vehicles: Any, segments: Any, fractions: Array, steps: Array, results: Any, runs: Any, stops: Array
) -> None:
    """Take every candidate of the arrays through the same duty, one after the other."""
    no_history = np.empty((0, HISTORY_COLUMNS))
    for n in range(len(vehicles)):
        run_candidate(axles[n], vehicles[n], segments, fractions, steps, results[n], runs[n], stops[n], no_history)
