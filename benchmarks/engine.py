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
from thermaxis.core.physics.braking import resistance_at
from thermaxis.core.physics.conduction import back_conductance
from thermaxis.core.physics.convection import face_coefficient, vane_coefficient
from thermaxis.core.physics.packing import pack
from thermaxis.core.physics.radiation import radiated_flux
from thermaxis.core.physics.simulate import history, simulate, simulate_one
from thermaxis.core.records import Case, StopsDuty
from thermaxis.formats.case_file import read_case

CASE = Path(__file__).parents[1] / "tests" / "cases" / "roadster-single-stop.case.json"
CELLS = 48
Array = NDArray[np.float64]
# Stops of 25.5 s each: minutes of the session, and how often each batch is timed.
DUTIES = ((5, 12), (20, 48), (60, 144))
BATCHES = ((1, 5), (10, 5), (100, 3), (1000, 2), (4000, 1))


def reference_peak(case: Case, number: int, share: float) -> float:
    """Peak face temperature of one axle (0 front, 1 rear) by scipy's BDF on 48 equal cells, same physics and constants.

    Friction takes a fixed `share` of the road force; the engine solves the split as well, and pads and calipers.
    """
    assert isinstance(case.duty, StopsDuty)
    axles, vehicles = pack([case])
    ring, vehicle, stop = axles[0, number], vehicles[0], case.duty.stops[0]
    width = float(ring["cheek"]) / CELLS
    air, pressure = float(vehicle["air_C"]), float(vehicle["pressure_Pa"])
    pumped, diameter = float(ring["passage_air"]), float(ring["passage_diameter"])
    laminar, turbulent = float(ring["passage_laminar"]), float(ring["passage_turbulent"])
    braking = (stop.from_mps - stop.to_mps) / stop.decel_mps2
    period = braking + stop.then_s
    last_mass = float(ring["density"]) * width + float(ring["vane_mass_per_area"])

    def slopes(time_s: float, cells: Array) -> Array:
        inside = time_s % period
        stopping = inside < braking
        speed = stop.from_mps - stop.decel_mps2 * inside if stopping else stop.then_speed_mps
        force = vehicle["inertia"] * stop.decel_mps2 - resistance_at(speed, 0.0, vehicle) if stopping else 0.0
        power = max(0.0, float(force)) * share * speed / float(ring["rotors"])
        face = face_coefficient(speed, 2 * float(ring["outer_radius"]), float(cells[0]), air, pressure)
        vane = 0.0
        if ring["gap"] > 0:
            vane = vane_coefficient(speed, pumped, diameter, laminar, turbulent, float(cells[-1]), air, pressure)
        cooling = float(ring["cooling_factor"])
        k = np.maximum(ring["k_min"], ring["k0"] - ring["k1"] * cells)
        heat = np.minimum(ring["c_max"], ring["c0"] + ring["c1"] * cells)
        flux = np.empty(CELLS + 1)
        flux[0] = ring["heat_share"] * power / (2 * ring["ring_area"])
        flux[0] -= face * float(ring["face_factor"]) * cooling * (cells[0] - air)
        flux[0] -= radiated_flux(float(cells[0]), air, float(ring["emissivity"]))
        flux[1:-1] = 0.5 * (k[1:] + k[:-1]) * (cells[:-1] - cells[1:]) / width
        flux[-1] = back_conductance(vane * cooling, ring) * (cells[-1] - air)
        mass = np.full(CELLS, float(ring["density"]) * width)
        mass[-1] = last_mass
        slope: Array = (flux[:-1] - flux[1:]) / (mass * heat)
        return slope

    peak, cells = -np.inf, np.full(CELLS, float(vehicle["start_C"]))
    for start in np.arange(case.duty.repeat) * period:
        for low, high in ((start, start + braking), (start + braking, start + period)):
            # Each piece by itself, so that the solver need not find the jumps of the flux.
            inside = (low + 1e-9, high - 1e-9)
            # The solver's own difference table starts uninitialised; its warning about that is not ours.
            with np.errstate(invalid="ignore"):
                solution = solve_ivp(slopes, inside, cells, method="BDF", rtol=1e-4, atol=1e-2)
            peak, cells = max(peak, float(solution.y[0].max())), solution.y[:, -1]
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
            f"BDF {front:.1f} and {rear:.1f} in {CELLS} equal cells; half the step moves them by "
            f"{fine.front.peak_surface_C - result.front.peak_surface_C:+.2f} and "
            f"{fine.rear.peak_surface_C - result.rear.peak_surface_C:+.2f} K"
        )


if __name__ == "__main__":
    main()
