"""How fast the engine is against a general stiff solver, side by side in one run: `make bench`."""

from __future__ import annotations

import dataclasses
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from scipy.integrate import solve_ivp

from thermaxis.core.physics.batch import DEFAULT_GRID
from thermaxis.core.physics.braking import wanted_force
from thermaxis.core.physics.caliper import backing_capacity, caliper_capacity, pad_heat
from thermaxis.core.physics.convection import caliper_coefficient, face_coefficient, vane_coefficient, vane_passage
from thermaxis.core.physics.packing import pack
from thermaxis.core.physics.radiation import radiated_flux, radiation_slope
from thermaxis.core.physics.simulate import history, simulate, simulate_one
from thermaxis.core.records import Case, StopsDuty
from thermaxis.formats.case_file import read_case

CASE = Path(__file__).parents[1] / "tests" / "cases" / "roadster-single-stop.case.json"
RING_CELLS, PAD_CELLS = 48, 32
Array = NDArray[np.float64]
# Stops of 25.5 s each: minutes of the session, and how often each batch is timed.
DUTIES = ((5, 12), (20, 48), (60, 144))
BATCHES = ((1, 5), (10, 5), (100, 3), (1000, 2), (4000, 1))


def reference_peak(case: Case, number: int, share: float) -> float:
    """Peak face temperature of one axle (0 front, 1 rear) by scipy's BDF on equal cells, same physics and constants.

    The chain of edition 2 in W per face: half a caliper, a plate, the pad's cells, one face temperature while pressed
    and the gap when released, the ring's cells, the vane wall. Friction takes a fixed `share` of the road force; the
    engine solves the split as well.
    """
    assert isinstance(case.duty, StopsDuty)
    axles, vehicles = pack([case])
    ring, vehicle, stop = axles[0, number], vehicles[0], case.duty.stops[0]
    axle = case.front if number == 0 else case.rear
    wheel = case.vehicle.wheel_radius_front_m if number == 0 else case.vehicle.wheel_radius_rear_m
    pad, rotor = axle.pad, axle.rotor
    area, covered = float(ring["ring_area"]), pad.area_m2
    air, pressure = case.environment.air_C, case.environment.pressure_Pa
    width, thick = float(ring["cheek"]) / RING_CELLS, pad.thickness_m / PAD_CELLS
    passage = vane_passage(rotor, wheel) if rotor.gap_m > 0 else None
    braking = (stop.from_mps - stop.to_mps) / stop.decel_mps2
    period = braking + stop.then_s
    pad_link = pad.conductivity_W_per_mK * covered / thick
    mass = np.full(RING_CELLS, float(ring["density"]) * width * area)
    mass[-1] += float(ring["vane_mass_per_area"]) * area
    cold = np.array(
        [caliper_capacity(axle) / 2, backing_capacity(axle) / 2, *[pad_heat(pad) * covered * thick] * PAD_CELLS]
    )
    first = len(cold)
    links = np.array([axle.backing_conductance_W_per_K / 2, 2 * pad_link, *[pad_link] * (PAD_CELLS - 1)])
    emissivity, factor = float(ring["emissivity"]), float(ring["face_factor"]) * axle.cooling_factor

    def slopes(time_s: float, cells: Array) -> Array:
        inside = time_s % period
        stopping = inside < braking
        speed = stop.from_mps - stop.decel_mps2 * inside if stopping else stop.then_speed_mps
        force = max(0.0, wanted_force(speed, stop.decel_mps2, 0.0, 1.0, vehicle)) * share if stopping else 0.0
        power = force * speed / axle.rotors / 2
        contact = 2 * pad_link if force > 0 else 1 / (1 / (2 * pad_link) + 1 / axle.gap_conductance_W_per_K)
        k = np.maximum(ring["k_min"], ring["k0"] - ring["k1"] * cells[first:])
        heat = np.minimum(ring["c_max"], ring["c0"] + ring["c1"] * cells[first:])
        edge, touching = float(cells[first]), float(cells[first - 1])
        film = (area - covered) * face_coefficient(speed, 2 * rotor.outer_radius_m, edge, air, pressure) * factor
        into = 2 * float(k[0]) * area / width
        face = edge
        for _ in range(3):
            lost = (area - covered) * radiated_flux(face, air, emissivity)
            slope = (area - covered) * radiation_slope(face, emissivity)
            rest = into * (face - edge) + contact * (face - touching) + film * (face - air) + lost - power
            face -= rest / (into + contact + film + slope)
        out = float(ring["hub_per_area"]) * area * (cells[-1] - air)
        if passage is not None:
            vane = vane_coefficient(speed, *passage, float(cells[-1]), air, pressure) * axle.cooling_factor
            out += float(ring["wetted_ratio"]) * area * vane * (cells[-1] - air)
        slope_of = np.empty(len(cells))
        flow = links * (cells[: first - 1] - cells[1:first])
        slope_of[:first] = np.diff(-flow, prepend=0.0, append=0.0)
        slope_of[0] -= caliper_coefficient(speed) * axle.caliper_area_m2 / 2 * (cells[0] - air)
        slope_of[first - 1] += contact * (face - touching)
        slope_of[:first] /= cold
        between = 0.5 * (k[1:] + k[:-1]) * area * (cells[first:-1] - cells[first + 1 :]) / width
        ringwise = np.concatenate([[into * (face - edge)], between, [out]])
        slope_of[first:] = (ringwise[:-1] - ringwise[1:]) / (mass * heat)
        return slope_of

    peak, cells = -np.inf, np.full(first + RING_CELLS, float(vehicle["start_C"]))
    for start in np.arange(case.duty.repeat) * period:
        for low, high in ((start, start + braking), (start + braking, start + period)):
            # Each piece by itself, so that the solver need not find the jumps of the flux.
            inside = (low + 1e-9, high - 1e-9)
            # The solver's own difference table starts uninitialised; its warning about that is not ours.
            with np.errstate(invalid="ignore"):
                solution = solve_ivp(slopes, inside, cells, method="BDF", rtol=1e-4, atol=1e-2)
            peak, cells = max(peak, float(solution.y[first].max())), solution.y[:, -1]
    return float(peak)


def seconds(work: Callable[[], object], rounds: int) -> float:
    """Best time of several rounds: the one the machine disturbed least."""
    best = float("inf")
    for _ in range(rounds):
        start = time.perf_counter()
        work()
        best = min(best, time.perf_counter() - start)
    return best


def main() -> None:
    """Print, for each duty, the time of each candidate in batches of several sizes and its ratio to scipy's."""
    one = read_case(CASE.read_text("utf-8"))
    assert isinstance(one.duty, StopsDuty)
    print(
        f"{'duty':>22} {'candidates':>10} {'engine, s':>10} {'ms each':>9} {'us/step':>8} {'BDF, ms':>9} {'ratio':>7}"
    )
    for minutes, stops in DUTIES:
        case = dataclasses.replace(one, duty=dataclasses.replace(one.duty, repeat=stops))
        result = simulate_one(case)
        fine = simulate_one(case, DEFAULT_GRID.halved())
        energy = result.front.friction_energy_J, result.rear.friction_energy_J
        share = energy[0] / sum(energy)
        start = time.perf_counter()
        front, rear = reference_peak(case, 0, share), reference_peak(case, 1, 1 - share)
        slow = time.perf_counter() - start
        steps = len(history(case)) - 1
        for count, rounds in BATCHES:
            whole = seconds(lambda case=case, count=count: simulate([case] * count), rounds)  # type: ignore[misc]
            each = whole / count
            print(
                f"{stops:4} stops in {minutes:2} min {count:13} {whole:10.3f} {1e3 * each:9.3f} "
                f"{1e6 * each / steps:8.2f} {1e3 * slow:9.0f} {slow / each:7.0f}"
            )
        print(
            f"     {steps} steps; peaks {result.front.peak_surface_C:.1f} and {result.rear.peak_surface_C:.1f} degC, "
            f"BDF {front:.1f} and {rear:.1f} in {RING_CELLS} and {PAD_CELLS} cells; all halved moves them by "
            f"{fine.front.peak_surface_C - result.front.peak_surface_C:+.2f} and "
            f"{fine.rear.peak_surface_C - result.rear.peak_surface_C:+.2f} K"
        )


if __name__ == "__main__":
    main()
