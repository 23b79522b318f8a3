"""The compiled engine: N candidates through one duty, both axles coupled through the line pressure.

`stepping` takes one step; this module leads it through the duty's segments: short steps while braking, growing ones
while cooling, none across a segment's end.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.physics.braking import brake, renew_films, wanted_force
from thermaxis.core.physics.compiled import compiled
from thermaxis.core.physics.conduction import bulk_temperature, lay_out, pad_temperature, settle_face, stored_in_caliper
from thermaxis.core.physics.schedule import CRUISE, IMPOSED, STOP
from thermaxis.core.physics.stepping import account, evaluate, finish, go_to_middle, put_to_end

Array = NDArray[np.float64]
# A force-limited stop is given up after this many times its wanted duration (and a minute): it is no stop.
STOP_PATIENCE = 20.0
# From one segment of a trace to the next the force may change by this factor and still count as the same braking.
JUMP = 1.5
HISTORY_COLUMNS = 13


@compiled
def power_ramp(dt: float, middle: float, decel: float, sine: float, cosine: float, vehicle: Any, motion: Any) -> float:
    """Relative rise of friction power over the step's first half in 1/s; 0 where none is wanted at its start.

    `motion` is the step's start, `middle` the speed half a step on.
    """
    if motion.power <= 0.0:
        return 0.0
    if motion.decel < decel:
        ratio = middle / motion.speed
    else:
        ratio = wanted_force(middle, decel, sine, cosine, vehicle) * middle / motion.power
    return 2.0 * (ratio - 1.0) / dt


@compiled
def note_peaks(time: float, discs: Any, results: Any) -> None:
    """Raise both axles' peaks to the present state where it is higher."""
    for i in range(2):
        result, disc = results[i], discs[i]
        surface, bulk = disc.surface, bulk_temperature(disc)
        if surface > result.peak_surface:
            result.peak_surface = surface
            result.peak_surface_s = time
        if disc.nodes[0] > result.peak_fluid:
            result.peak_fluid = disc.nodes[0]
            result.peak_fluid_s = time
        result.peak_bulk = max(result.peak_bulk, bulk)
        result.peak_pad = max(result.peak_pad, pad_temperature(disc))
        result.peak_excess = max(result.peak_excess, surface - bulk)
        result.end_bulk = bulk


@compiled
def note_limits(kind: int, time: float, seconds: float, vehicle: Any, discs: Any, motion: Any, run: Any) -> None:
    """Keep the greatest pressure and, over the `seconds` it stands for, what pedal, tyres and motor cannot give."""
    if motion.pressure > run.peak_pressure:
        run.peak_pressure = motion.pressure
        run.peak_pressure_s = time
        for i in range(2):
            run.peak_pressure_mu[i] = discs[i].mu
    if seconds <= 0.0 or motion.power + motion.regen_beyond <= 0.0:
        return
    at_most = motion.pressure > vehicle.max_pressure * (1.0 - 1e-9)
    if kind == STOP:
        if motion.short > 0 and at_most:
            run.limited_s += seconds
            if run.first_limited_s < 0.0:
                run.first_limited_s = time
                for i in range(2):
                    run.limited_C[i], run.limited_mu[i] = discs[i].surface, discs[i].mu
        if motion.short > 0 and motion.at_grip > 0:
            run.grip_limited_s += seconds
            if run.first_grip_s < 0.0:
                run.first_grip_s = time
    else:
        if at_most:
            run.overasked_s += seconds
            if run.first_overasked_s < 0.0:
                run.first_overasked_s = time
        if motion.at_grip > 0:
            run.beyond_grip_s += seconds
            if run.first_beyond_s < 0.0:
                run.first_beyond_s = time
    if motion.regen_beyond > 0:
        run.regen_beyond_s += seconds
        if run.first_regen_s < 0.0:
            run.first_regen_s = time


@compiled
def write_sample(time: float, axles: Any, discs: Any, motion: Any, results: Any, run: Any, history: Array) -> None:
    """Write one row of history: t, v, pressure, power, then surface, bulk, pad, fluid of front and rear."""
    index = run.samples
    run.samples += 1
    if index >= history.shape[0]:
        return
    history[index, 0], history[index, 1], history[index, 2] = time, motion.speed, motion.pressure
    for i in range(2):
        history[index, 3 + i] = discs[i].force * motion.speed / axles[i].rotors
        column = 5 + 4 * i
        history[index, column] = discs[i].surface
        history[index, column + 1] = results[i].end_bulk
        history[index, column + 2] = pad_temperature(discs[i])
        history[index, column + 3] = discs[i].nodes[0]


@compiled
def next_step(step: float, longest: float, remaining: float) -> float:
    """Length of the next time step in s: no longer than `longest`, and leaving no sliver at the end."""
    step = min(step, longest)
    if step >= 0.999 * remaining:
        return remaining
    return min(step, 0.5 * remaining) if 2.0 * step > remaining else step


@compiled
def wanted_in(segment: Any, speed: float, vehicle: Any) -> float:
    """Road force in N that a segment wants of the brakes at one of its speeds."""
    if segment.kind == CRUISE:
        return 0.0
    return wanted_force(speed, segment.decel, segment.sine, segment.cosine, vehicle)


@compiled
def brakes_in(segment: Any, vehicle: Any) -> bool:
    """Whether a segment starts or ends with the brakes on: regeneration may fade out, or drag fall, on the way."""
    return wanted_in(segment, segment.v0, vehicle) > 0.0 or wanted_in(segment, segment.v1, vehicle) > 0.0


@compiled
def goes_on(before: Any, after: Any, vehicle: Any) -> bool:
    """Whether braking goes on from one segment to the next without a jump in force: one zone, one ramp to follow."""
    if after.kind != IMPOSED:
        return False
    left, right = wanted_in(before, before.v1, vehicle), wanted_in(after, after.v0, vehicle)
    return left > 0.0 and right > 0.0 and left < JUMP * right and right < JUMP * left


@compiled
def braking_zone(first: int, segments: Any, vehicle: Any) -> float:
    """Length in s of the braking that starts with a segment, over all segments in which it goes on."""
    seconds = segments[first].duration
    s = first + 1
    while s < len(segments) and goes_on(segments[s - 1], segments[s], vehicle):
        seconds += segments[s].duration
        s += 1
    return seconds


@compiled
def drive_segment(
    time: float,
    step: float,
    longest: float,
    limits: Array,
    segment: Any,
    axles: Any,
    vehicle: Any,
    discs: Any,
    motion: Any,
    results: Any,
    run: Any,
    history: Array,
) -> tuple[float, float]:
    """Take both discs through one segment in steps up to `longest`; return the s it took and the next step."""
    kind, duration, decel = segment.kind, segment.duration, segment.decel
    sine, cosine = segment.sine, segment.cosine
    elapsed, remaining = 0.0, duration
    rise = (segment.v1 - segment.v0) / duration
    brake(kind, segment.v0, decel, sine, cosine, 2, axles, vehicle, discs, motion)
    while remaining > 1e-9:
        note_limits(kind, time + elapsed, 0.0, vehicle, discs, motion, run)
        evaluate(axles, vehicle, discs)
        dt = next_step(step, longest, remaining)
        step = dt * limits[3] if dt >= 0.5 * step else step
        if kind == STOP:
            start = motion.speed
            middle = max(0.0, start - 0.5 * dt * motion.decel)
        else:
            middle = segment.v0 + rise * (elapsed + 0.5 * dt)
        ramp = power_ramp(dt, middle, decel, sine, cosine, vehicle, motion)
        go_to_middle(dt, ramp, axles, discs)
        renew_films(middle, axles, vehicle, discs)
        brake(kind, middle, decel, sine, cosine, 2, axles, vehicle, discs, motion)
        note_limits(kind, time + elapsed + 0.5 * dt, dt, vehicle, discs, motion, run)
        if motion.power > 0.0:
            run.braking_s += dt
        evaluate(axles, vehicle, discs)
        finish(dt, discs)
        account(dt, middle, axles, vehicle, discs, results)
        put_to_end(dt, axles, discs)
        elapsed += dt
        end = max(0.0, start - dt * motion.decel) if kind == STOP else segment.v0 + rise * elapsed
        brake(kind, end, decel, sine, cosine, 1, axles, vehicle, discs, motion)
        if kind == STOP:
            # What is left at the deceleration there is now; a fading brake never counts as stronger than asked.
            remaining = (end - segment.v1) / max(motion.decel, 1e-9)
            if motion.decel <= 0.0 or elapsed > STOP_PATIENCE * duration + 60.0:
                run.stopped = 0
                remaining = 0.0
        else:
            remaining = duration - elapsed
        for i in range(2):
            settle_face(vehicle.air_C, axles[i], discs[i])
        note_peaks(time + elapsed, discs, results)
        write_sample(time + elapsed, axles, discs, motion, results, run, history)
    note_limits(kind, time + elapsed, 0.0, vehicle, discs, motion, run)
    return elapsed, step


@compiled
def run_candidate(
    axles: Any,
    vehicle: Any,
    segments: Any,
    ring_cells: Array,
    pad_cells: Array,
    limits: Array,
    discs: Any,
    motion: Any,
    results: Any,
    run: Any,
    stops: Array,
    history: Array,
) -> None:
    """Take one candidate through the duty, filling `results` (2 AXLE_RESULT), `run`, `stops` (S x 5), `history`.

    `limits` = first, least braking, longest cooling step (s), growth, share of a braking segment. `discs` (2) and
    `motion` are working room. `stops` columns: duration, front and rear bulk at the end of braking, front and rear
    energy.
    """
    for i in range(2):
        discs[i].force, discs[i].inflow = 0.0, 0.0
        lay_out(ring_cells, pad_cells, vehicle.start_C, axles[i], discs[i])
        results[i].least_mu = np.inf
        results[i].peak_surface = -np.inf
        results[i].peak_fluid = -np.inf
        results[i].peak_bulk = -np.inf
        results[i].peak_pad = -np.inf
    run.stopped = 1
    run.first_limited_s, run.first_grip_s, run.first_overasked_s = -1.0, -1.0, -1.0
    run.first_beyond_s, run.first_regen_s = -1.0, -1.0
    motion.speed, motion.pressure = segments[0].v0, 0.0
    note_peaks(0.0, discs, results)
    write_sample(0.0, axles, discs, motion, results, run, history)
    time, step, ramp_step = 0.0, limits[0], limits[2]
    was_braking = False
    for s in range(len(segments)):
        segment = segments[s]
        braking = brakes_in(segment, vehicle)
        fresh = s == 0 or not goes_on(segments[s - 1], segment, vehicle)
        if braking and fresh:
            # A ramp is followed by a fixed number of steps: its shape, not its length, sets the error.
            ramp_step = min(limits[2], max(limits[1], limits[4] * braking_zone(s, segments, vehicle)))
        if (braking and fresh) or braking != was_braking:
            step = limits[0]
        was_braking = braking
        # Steady braking (a descent) has no ramp to follow, so its step may grow as if cooling.
        longest = ramp_step if braking and segment.decel != 0.0 else limits[2]
        if s == 0 or abs(segment.v0 - motion.speed) > 1e-6:
            renew_films(segment.v0, axles, vehicle, discs)
        before_front, before_rear = results[0].friction_energy, results[1].friction_energy
        elapsed, step = drive_segment(
            time, step, longest, limits, segment, axles, vehicle, discs, motion, results, run, history
        )
        time += elapsed
        if segment.stop >= 0:
            row = stops[segment.stop]
            row[0] = elapsed
            row[1], row[2] = results[0].end_bulk, results[1].end_bulk
            row[3] = results[0].friction_energy - before_front
            row[4] = results[1].friction_energy - before_rear
    run.duration = time
    for i in range(2):
        ring, disc = axles[i], discs[i]
        results[i].end_surface, results[i].end_fluid = disc.surface, disc.nodes[0]
        stored = -disc.heat_start
        for j in range(disc.first, disc.last + 1):
            stored += disc.heat[j]
        results[i].stored_ring = 2.0 * ring.ring_area * stored
        results[i].stored_caliper = 2.0 * ring.ring_area * stored_in_caliper(vehicle.start_C, disc)


@compiled
def run_batch(
    axles: Any,
    vehicles: Any,
    segments: Any,
    ring_cells: Array,
    pad_cells: Array,
    limits: Array,
    discs: Any,
    motion: Any,
    results: Any,
    runs: Any,
    stops: Array,
) -> None:
    """Take every candidate of the arrays through the same duty, one after the other, in the same working room."""
    no_history = np.empty((0, HISTORY_COLUMNS))
    for n in range(len(vehicles)):
        run_candidate(
            axles[n],
            vehicles[n],
            segments,
            ring_cells,
            pad_cells,
            limits,
            discs,
            motion[0],
            results[n],
            runs[n],
            stops[n],
            no_history,
        )
