"""Solve cases: records in, records out. The engine itself is `engine`, the layout `packing`."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.breath import breathing
from thermaxis.core.errors import FieldError
from thermaxis.core.messages import physics as say
from thermaxis.core.physics import schedule
from thermaxis.core.physics.balance import statics
from thermaxis.core.physics.batch import DEFAULT_GRID, Grid, Watch, history_packed, run_packed
from thermaxis.core.physics.hydraulics import line_pressure, pedal_force
from thermaxis.core.physics.packing import AXLE_RESULT, Records, pack
from thermaxis.core.physics.stress import thermal_stress
from thermaxis.core.physics.wear import worn_depth
from thermaxis.core.records import Axle, Case
from thermaxis.core.results import AxleResult, EnergyAccount, Remark, Result, ShortOfForce, StopResult

Array = NDArray[np.float64]
HIGH_PRESSURE_PA = 2e7
# Under this share of its best a friction is worth naming where the pedal was not enough.
LOST_FRICTION = 0.9
ASSUMPTIONS = (
    "hub conductance, face patterns, pad gap, caliper convection and backing conductance are estimates (physics.md)",
    "pads are bedded: friction acts at the mean radius of the swept band",
    "pressed pads and the ring share one face temperature; both calipers of an axle are equal",
    "pads are as thick as the case says, all along: what the duty itself wears off is not taken off",
    "fluid temperature is that of the caliper behind the pistons",
)

FORCE_LIMITED = {"fade": say.FORCE_LIMITED_FADE, "cold": say.FORCE_LIMITED_COLD, "pedal": say.FORCE_LIMITED}
ASSUMED = "{} is assumed: the file is of an edition that did not know it"


def simulate(
    cases: Sequence[Case], grid: Grid = DEFAULT_GRID, *, after: schedule.After | None = None, watch: Watch | None = None
) -> list[Result]:
    """Take N machines (or candidates) through the same duty in one call.

    All cases must carry the same duty; vehicle, brakes and air may differ. Raises FieldError otherwise. `after`
    replaces what the duty says about the time after its last braking. `watch` is told the share done and may raise to
    stop the work. Cost is linear in cases and in the duty's length.

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> [round(result.front.peak_surface_C) for result in simulate([small_case()])]
    [107]
    """
    if not cases:
        return []
    if any(case.duty != cases[0].duty for case in cases[1:]):
        raise FieldError("duty", "different duties", "the same in every case of a batch")
    outcome = run_packed(*pack(list(cases)), cases[0].duty, grid, after=after, watch=watch)
    rows = enumerate(breathing(cases))
    return [result_of(case, outcome.axles[i], outcome.runs[i], outcome.stops[i]) for i, case in rows]


def simulate_one(case: Case, grid: Grid = DEFAULT_GRID, *, after: schedule.After | None = None) -> Result:
    """Solve one case.

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> round(simulate_one(small_case()).front.peak_surface_C)
    107
    """
    return simulate([case], grid, after=after)[0]


def history(case: Case, grid: Grid = DEFAULT_GRID, after: schedule.After | None = None) -> Array:
    """Time history of one case, one row per time step, columns as `results.HISTORY_FIELDS`.

    `after` replaces what the duty says about the time after its last braking.

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> rows = history(small_case())
    >>> round(float(rows[-1, 0]), 2)
    24.67
    """
    axles, vehicles = pack([case])
    return history_packed(axles[0], vehicles[0], case.duty, grid, after)


def result_of(case: Case, axles: Records, run: np.void, stops: Array) -> Result:
    """One candidate's raw results as a record; `case` gives areas, hydraulics and limits, which draws do not change."""
    values = dict(zip(run.dtype.names or (), run.item(), strict=True))
    short = _short_of_force(case, values)
    rows = [dict(zip(AXLE_RESULT.names or (), row.item(), strict=True)) for row in axles]
    return Result(
        front=_axle_result(case.front, rows[0], values["peak_pressure_mu"][0]),
        rear=_axle_result(case.rear, rows[1], values["peak_pressure_mu"][1]),
        stops=tuple(
            StopResult(
                duration_s=row[0], front_bulk_C=row[1], rear_bulk_C=row[2], front_energy_J=row[3], rear_energy_J=row[4]
            )
            for row in stops.tolist()
        ),
        duration_s=values["duration"],
        braking_s=values["braking_s"],
        peak_pedal_force_N=pedal_force(values["peak_pressure"], case.hydraulics),
        peak_pedal_s=values["peak_pressure_s"],
        force_limited_s=values["limited_s"],
        grip_limited_s=values["grip_limited_s"],
        stopped=bool(values["stopped"]),
        energy_account=_account(case, rows),
        warnings=_warnings(case, values, short, braked=sum(row["friction_energy"] for row in rows) > 0.0),
        assumptions=(*ASSUMPTIONS, *(ASSUMED.format(name) for name in case.assumed)),
        statics=statics(case, case.statics) if case.statics else None,
        short_of_force=short,
    )


def _axle_result(axle: Axle, row: dict[str, Any], pedal_mu: float) -> AxleResult:
    energy = row["friction_energy"]
    mean_wear = row["wear_work"] / energy if energy > 0 else 0.0
    return AxleResult(
        peak_surface_C=row["peak_surface"],
        peak_bulk_C=row["peak_bulk"],
        end_bulk_C=row["end_bulk"],
        end_surface_C=row["end_surface"],
        peak_pad_C=row["peak_pad"],
        peak_fluid_C=row["peak_fluid"],
        friction_energy_J=energy,
        pad_wear_m=worn_depth(mean_wear, energy, axle.pad.area_m2),
        peak_surface_s=row["peak_surface_s"],
        peak_fluid_s=row["peak_fluid_s"],
        peak_face_excess_K=row["peak_excess"],
        thermal_stress_Pa=thermal_stress(row["peak_excess"], axle.rotor),
        least_mu=row["least_mu"] if energy > 0 else axle.pad.mu[0][1],
        pedal_mu=float(pedal_mu) if energy > 0 else axle.pad.mu[0][1],
        energy_by_temperature_J=tuple(row["heat_bins"].tolist()),
    )


def _account(case: Case, rows: list[dict[str, Any]]) -> EnergyAccount:
    def total(name: str) -> float:
        return float(rows[0][name] * case.front.rotors + rows[1][name] * case.rear.rotors)

    entering = total("friction_energy")
    stored = total("stored_ring") + total("stored_caliper")
    lost = sum(total(f"lost_{name}") for name in ("face", "radiation", "vanes", "hub", "caliper"))
    scale = max(abs(entering), abs(lost), 1.0)
    return EnergyAccount(
        friction_J=total("friction_energy"),
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


def _warnings(case: Case, run: dict[str, Any], short: ShortOfForce | None, *, braked: bool) -> tuple[Remark, ...]:
    found = []
    if not braked:
        found.append(Remark(code="not_braked", text=say.NOT_BRAKED()))
    if not run["stopped"]:
        found.append(Remark(code="cannot_stop", text=say.CANNOT_STOP()))
    greatest = case.hydraulics.max_pedal_force_N
    if short is not None:
        text = FORCE_LIMITED[short.cause](
            greatest=greatest, when=short.when_s, axle=short.axle, mu=short.mu, at=short.at_C
        )
        found.append(Remark(code="force_limited", text=text))
    if run["overasked_s"] > 0:
        wanted = pedal_force(run["peak_pressure"], case.hydraulics)
        when, lasting = run["first_overasked_s"], run["overasked_s"]
        text = say.FORCE_ASKED_FOR(wanted=wanted, greatest=greatest, when=when, limited=lasting)
        found.append(Remark(code="force_limited", text=text))
    grip = case.vehicle.tyre_grip
    beyond = say.BEYOND_GRIP if case.vehicle.rider_front_share is None else say.BEYOND_GRIP_RIDER
    for code, sentence, lasting, when in (
        ("grip_limited", say.GRIP_LIMITED, run["grip_limited_s"], run["first_grip_s"]),
        ("beyond_grip", beyond, run["beyond_grip_s"], run["first_beyond_s"]),
        ("regen_beyond_grip", say.REGEN_BEYOND_GRIP, run["regen_beyond_s"], run["first_regen_s"]),
    ):
        if lasting > 0:
            found.append(Remark(code=code, text=sentence(grip=grip, when=when, lasting=lasting)))
    if (
        case.vehicle.rider_front_share is None
        and line_pressure(case.hydraulics.max_pedal_force_N, case.hydraulics) > HIGH_PRESSURE_PA
    ):
        found.append(Remark(code="pressure", text=say.PRESSURE(limit=HIGH_PRESSURE_PA)))
    return tuple(found)


def _short_of_force(case: Case, run: dict[str, Any]) -> ShortOfForce | None:
    if run["limited_s"] <= 0:
        return None
    kept, colder, axle, i = math.inf, False, "front", 0
    for number, name in enumerate(("front", "rear")):
        best_C, best = max(getattr(case, name).pad.mu, key=lambda point: point[1])
        share = run["limited_mu"][number] / best
        if share < kept:
            kept, colder, axle, i = share, run["limited_C"][number] < best_C, name, number
    cause = "pedal" if kept > LOST_FRICTION else "cold" if colder else "fade"
    return ShortOfForce(
        cause=cause,
        axle=axle,
        mu=float(run["limited_mu"][i]),
        at_C=float(run["limited_C"][i]),
        when_s=run["first_limited_s"],
        seconds=run["limited_s"],
    )
