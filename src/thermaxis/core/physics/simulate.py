"""Solve cases: records in, records out. The engine itself is `engine`, the layout `packing`."""

from __future__ import annotations

import itertools
import os
from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.errors import FieldError
from thermaxis.core.physics import schedule
from thermaxis.core.physics.balance import statics
from thermaxis.core.physics.conduction import cell_fractions
from thermaxis.core.physics.engine import HISTORY_COLUMNS, run_batch, run_candidate
from thermaxis.core.physics.hydraulics import line_pressure, pedal_force
from thermaxis.core.physics.packing import AXLE_RESULT, DISC, MOTION, RUN_RESULT, Records, pack
from thermaxis.core.physics.stress import thermal_stress
from thermaxis.core.physics.wear import worn_depth
from thermaxis.core.records import Axle, Case, TraceDuty
from thermaxis.core.results import AxleResult, EnergyAccount, Remark, Result, StopResult

Array = NDArray[np.float64]
WORKERS = os.cpu_count() or 1


@dataclass(frozen=True, kw_only=True)
class Grid:
    """How finely the engine computes; the defaults keep peaks within 0.5 K of half the step (see docs/physics.md)."""

    cells: int = 12
    first_step_s: float = 0.03
    braking_step_s: float = 0.12
    cooling_step_s: float = 4.0
    growth: float = 1.6
    braking_share: float = 1 / 14

    def steps(self) -> Array:
        """Steps as the engine takes them."""
        return np.array([self.first_step_s, self.braking_step_s, self.cooling_step_s, self.growth, self.braking_share])

    def halved(self) -> Grid:
        """The same grid with every time step halved, for convergence checks."""
        return Grid(
            cells=self.cells,
            first_step_s=self.first_step_s / 2,
            braking_step_s=self.braking_step_s / 2,
            cooling_step_s=self.cooling_step_s / 2,
            growth=self.growth**0.5,
            braking_share=self.braking_share / 2,
        )


DEFAULT_GRID = Grid()
ASSUMPTIONS = (
    "hub conductance, face patterns, pad gap, caliper convection and backing conductance are estimates (physics.md)",
    "pads are bedded: friction acts at the mean radius of the swept band",
    "both calipers of an axle are equal; the gap warms the pads but does not cool the ring",
    "fluid temperature is that of the caliper behind the pistons",
)


def simulate(cases: Sequence[Case], grid: Grid = DEFAULT_GRID) -> list[Result]:
    """Take N machines (or candidates) through the same duty in one call.

    All cases must carry the same duty; vehicle, brakes and air may differ. Raises FieldError otherwise. Cost is
    linear in cases and in the duty's length.
    """
    if not cases:
        return []
    if any(case.duty != cases[0].duty for case in cases[1:]):
        raise FieldError("duty", "different duties", "the same in every case of a batch")
    axles, vehicles = pack(list(cases))
    results = np.zeros((len(cases), 2), dtype=AXLE_RESULT)
    runs = np.zeros(len(cases), dtype=RUN_RESULT)
    stops = np.zeros((len(cases), schedule.stop_count(cases[0].duty), 5))
    segments = schedule.segments(cases[0].duty)
    fractions, steps = cell_fractions(grid.cells), grid.steps()

    def run(part: slice) -> None:
        discs, motion = np.zeros(2, dtype=DISC), np.zeros(1, dtype=MOTION)
        run_batch(
            axles[part],
            vehicles[part],
            segments,
            fractions,
            steps,
            discs,
            motion,
            results[part],
            runs[part],
            stops[part],
        )

    # The kernel lets go of the interpreter, so threads use every core; candidates do not touch each other.
    edges = np.linspace(0, len(cases), min(WORKERS, len(cases)) + 1).astype(int).tolist()
    parts = [slice(low, high) for low, high in itertools.pairwise(edges)]
    if len(parts) == 1:
        run(parts[0])
    else:
        with ThreadPoolExecutor(len(parts)) as pool:
            list(pool.map(run, parts))
    return [_result(case, results[i], runs[i], stops[i]) for i, case in enumerate(cases)]


def simulate_one(case: Case, grid: Grid = DEFAULT_GRID) -> Result:
    """Solve one case."""
    return simulate([case], grid)[0]


def history(case: Case, grid: Grid = DEFAULT_GRID) -> Array:
    """Time history of one case, one row per time step, columns as `results.HISTORY_FIELDS`."""
    axles, vehicles = pack([case])
    segments = schedule.segments(case.duty)
    stops = np.zeros((schedule.stop_count(case.duty), 5))
    run: Records = np.zeros(1, dtype=RUN_RESULT)
    room = 4096
    while True:
        rows = np.zeros((room, HISTORY_COLUMNS))
        results = np.zeros(2, dtype=AXLE_RESULT)
        run = np.zeros(1, dtype=RUN_RESULT)
        run_candidate(
            axles[0],
            vehicles[0],
            segments,
            cell_fractions(grid.cells),
            grid.steps(),
            np.zeros(2, dtype=DISC),
            np.zeros(1, dtype=MOTION)[0],
            results,
            run[0],
            stops,
            rows,
        )
        needed = int(run["samples"][0])
        if needed <= room:
            return rows[:needed]
        room = needed


def _result(case: Case, axles: Records, run: np.void, stops: Array) -> Result:
    names = ("duration_s", "front_bulk_C", "rear_bulk_C", "front_energy_J", "rear_energy_J")
    return Result(
        front=_axle_result(case.front, axles[0]),
        rear=_axle_result(case.rear, axles[1]),
        stops=tuple(StopResult(**dict(zip(names, map(float, row), strict=True))) for row in stops),
        duration_s=float(run["duration"]),
        braking_s=float(run["braking_s"]),
        peak_pedal_force_N=pedal_force(float(run["peak_pressure"]), case.hydraulics),
        peak_pedal_s=float(run["peak_pressure_s"]),
        force_limited_s=float(run["limited_s"]),
        stopped=bool(run["stopped"]),
        energy_account=_account(case, axles),
        warnings=_warnings(case, run),
        assumptions=ASSUMPTIONS,
        statics=statics(case, case.statics) if case.statics else None,
    )


def _axle_result(axle: Axle, row: np.void) -> AxleResult:
    energy = float(row["friction_energy"])
    mean_wear = float(row["wear_work"]) / energy if energy > 0 else 0.0
    excess = float(row["peak_excess"])
    return AxleResult(
        peak_surface_C=float(row["peak_surface"]),
        peak_bulk_C=float(row["peak_bulk"]),
        end_bulk_C=float(row["end_bulk"]),
        peak_pad_C=float(row["peak_pad"]),
        peak_fluid_C=float(row["peak_fluid"]),
        friction_energy_J=energy,
        pad_wear_mm=worn_depth(mean_wear, energy, axle.pad.area_m2),
        peak_surface_s=float(row["peak_surface_s"]),
        peak_fluid_s=float(row["peak_fluid_s"]),
        peak_face_excess_K=excess,
        thermal_stress_Pa=thermal_stress(excess, axle.rotor),
        least_mu=float(row["least_mu"]) if energy > 0 else float(axle.pad.mu[0][1]),
        energy_by_temperature_J=tuple(float(value) for value in row["heat_bins"]),
    )


def _account(case: Case, axles: Records) -> EnergyAccount:
    counts = np.array([case.front.rotors, case.rear.rotors], dtype=float)

    def total(name: str) -> float:
        return float((axles[name] * counts).sum())

    entering = total("friction_energy") + total("gap_heat")
    stored = total("stored_ring") + total("stored_caliper")
    lost = sum(total(f"lost_{name}") for name in ("face", "radiation", "vanes", "hub", "caliper"))
    scale = max(abs(entering), abs(lost), 1.0)
    return EnergyAccount(
        friction_J=total("friction_energy"),
        gap_J=total("gap_heat"),
        in_J=entering,
        stored_rotors_J=total("stored_ring"),
        stored_pads_and_calipers_J=total("stored_caliper"),
        lost_faces_J=total("lost_face"),
        lost_radiation_J=total("lost_radiation"),
        lost_vanes_J=total("lost_vanes"),
        lost_hubs_J=total("lost_hub"),
        lost_calipers_J=total("lost_caliper"),
        imbalance=(entering - stored - lost) / scale,
    )


def _warnings(case: Case, run: np.void) -> tuple[Remark, ...]:
    found = []
    if not run["stopped"]:
        found.append(Remark(code="cannot_stop", text="the brakes could not slow the vehicle to the wanted speed"))
    if run["limited_s"] > 0:
        greatest = case.hydraulics.max_pedal_force_N
        when = float(run["first_limited_s"])
        if isinstance(case.duty, TraceDuty) or case.duty.kind == "descent":
            wanted = pedal_force(float(run["peak_pressure"]), case.hydraulics)
            text = (
                f"the speed asked for {wanted:.0f} N at the pedal, more than {greatest:.0f} N, from {when:.1f} s on, "
                f"for {float(run['limited_s']):.1f} s in all: the brakes could not have given it"
            )
        else:
            text = f"at {greatest:.0f} N on the pedal the brakes gave less than wanted from {when:.1f} s on: fade"
        found.append(Remark(code="force_limited", text=text))
    if (
        case.vehicle.rider_front_share is None
        and line_pressure(case.hydraulics.max_pedal_force_N, case.hydraulics) > 2e7
    ):
        found.append(Remark(code="pressure", text="line pressure above 20 MPa at the greatest pedal force"))
    return tuple(found)
