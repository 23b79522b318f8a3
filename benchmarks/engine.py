"""How fast the engine is against a general stiff solver, side by side in one run: `make bench`."""

from __future__ import annotations

import dataclasses
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from scipy.integrate import solve_ivp

from thermaxis.core.physics import partition
from thermaxis.core.physics.convection import face_coefficient, vane_coefficient
from thermaxis.core.physics.materials import materials
from thermaxis.core.physics.simulate import simulate, simulate_one
from thermaxis.core.records import Axle, Case, StopsDuty
from thermaxis.formats.case_file import read_case

CASE = Path(__file__).parents[1] / "tests" / "cases" / "roadster-single-stop.case.json"
CELLS = 48
Array = NDArray[np.float64]


def reference_peak(case: Case, axle: Axle, share: float) -> float:
    """Peak surface of one axle through one stop by scipy's BDF on 48 equal cells; friction is `share` of the force."""
    assert isinstance(case.duty, StopsDuty)
    stop, rotor, vehicle = case.duty.stops[0], axle.rotor, case.vehicle
    material = materials()[rotor.material]
    width = (rotor.thickness_m - rotor.gap_m) / 2 / CELLS
    area = partition.ring_area(rotor)
    heat_share = partition.rotor_heat_share(rotor, axle.pad)
    air, pressure = case.environment.air_C, case.environment.pressure_Pa
    end = (stop.from_mps - stop.to_mps) / stop.decel_mps2
    force = share * vehicle.rotating_mass_factor * vehicle.mass_kg * stop.decel_mps2 / axle.rotors

    def slopes(time_s: float, cells: Array) -> Array:
        speed = stop.from_mps - stop.decel_mps2 * time_s if time_s < end else stop.then_speed_mps
        power = force * speed if time_s < end else 0.0
        film = face_coefficient(speed, 2 * rotor.outer_radius_m, float(cells[0]), air, pressure)
        conductivity = np.maximum(material.k_min_W_per_mK, material.k0_W_per_mK - material.k1_W_per_mK2 * cells)
        heat = np.minimum(material.c_max_J_per_kgK, material.c0_J_per_kgK + material.c1_J_per_kgK2 * cells)
        flux = np.empty(CELLS + 1)
        flux[0] = heat_share * power / (2 * area) - film * (cells[0] - air)
        flux[1:-1] = 0.5 * (conductivity[1:] + conductivity[:-1]) * (cells[:-1] - cells[1:]) / width
        flux[-1] = 0.0
        if rotor.gap_m > 0:
            vane = vane_coefficient(
                speed, vehicle.wheel_radius_front_m, rotor.outer_radius_m, rotor.inner_radius_m, rotor.gap_m,
                rotor.vanes, rotor.vane_thickness_m, float(cells[-1]), air, pressure,
            )  # fmt: skip
            flux[-1] = vane * (cells[-1] - air)
        slope: Array = (flux[:-1] - flux[1:]) / (material.density_kg_per_m3 * heat * width)
        return slope

    whole = end + stop.then_s
    solution = solve_ivp(slopes, (0.0, whole), np.full(CELLS, air), method="BDF", rtol=1e-5, atol=1e-3, max_step=0.5)
    return float(solution.y[0].max())


def seconds(work: Callable[[], object], rounds: int = 3) -> float:
    """Best time of several rounds: the one the machine disturbed least."""
    best = float("inf")
    for _ in range(rounds):
        start = time.perf_counter()
        work()
        best = min(best, time.perf_counter() - start)
    return best


def main() -> None:
    """Print the ratios."""
    case = read_case(CASE.read_text("utf-8"))
    result = simulate_one(case)
    total = result.front.friction_energy_J + result.rear.friction_energy_J
    share = result.front.friction_energy_J / total

    def both_axles() -> tuple[float, float]:
        return reference_peak(case, case.front, share), reference_peak(case, case.rear, 1 - share)

    front, _ = both_axles()
    slow = seconds(both_axles)
    print(f"one stop and 20 s of cooling, both axles; peak {result.front.peak_surface_C:.1f} against {front:.1f} degC")
    print(f"{'candidates':>10} {'engine, ms each':>16} {'BDF, ms each':>13} {'ratio':>7}")
    for count in (1, 10, 100, 1000):
        fast = seconds(lambda count=count: simulate([case] * count)) / count  # type: ignore[misc]
        print(f"{count:10} {1e3 * fast:16.3f} {1e3 * slow:13.1f} {slow / fast:7.0f}")
    assert isinstance(case.duty, StopsDuty)
    repeated = dataclasses.replace(case, duty=dataclasses.replace(case.duty, repeat=48))
    lengthened = seconds(lambda: simulate([repeated] * 20)) / 20
    print(f"48 such stops, 20 minutes: {1e3 * lengthened:.1f} ms each, batch of 20")


if __name__ == "__main__":
    main()
