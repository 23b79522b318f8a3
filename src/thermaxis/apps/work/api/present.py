"""Core records and rows to the API's schemas."""

from __future__ import annotations

import dataclasses
from typing import cast

import numpy as np

from thermaxis.apps.catalogue.models import Provenance
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.work import compute
from thermaxis.apps.work.api import schemas
from thermaxis.apps.work.mapping import Parts
from thermaxis.apps.work.models import BeddingRecord, FittedSet, Measurement
from thermaxis.core.physics.simulate import history
from thermaxis.core.planning.bedding import BeddingOrder, BeddingPlan
from thermaxis.core.planning.choose import Judged
from thermaxis.core.planning.intervals import SCHOOLS
from thermaxis.core.planning.readings import life_state, rotor_limit_C
from thermaxis.core.records import Case
from thermaxis.core.results import AxleResult

# Two of the engine's 10 K bins: what the ladder draws as one.
BINS_PER_STEP = 2


def set_name(fitted: FittedSet) -> str:
    return f"{fitted.front_pad.pad.name} on {fitted.front_rotor.name}"


def set_out(fitted: FittedSet) -> schemas.SetOut:
    before = fitted.machine.sets.exclude(removed_on=None).exists()
    history_of_its_own = fitted.measurements.exists() or fitted.bedding.exists()
    return schemas.SetOut(
        id=fitted.pk, name=set_name(fitted), front_rotor=fitted.front_rotor.name, rear_rotor=fitted.rear_rotor.name,
        fitted_on=fitted.fitted_on, fitted_km=fitted.fitted_km, can_undo=before and not history_of_its_own,
    )  # fmt: skip


def _ladder(judged: Judged, axle: str) -> schemas.LadderAxle:
    setup, result = judged.candidate.setup, getattr(judged.result, axle)
    limits = getattr(setup, f"{axle}_limits")
    return schemas.LadderAxle(
        peak_C=round(result.peak_surface_C, 1), window_low_C=limits.window_low_C, window_high_C=limits.window_high_C,
        pad_limit_C=limits.limit_C, rotor_limit_C=rotor_limit_C(setup, axle), profile=_profile(result),
    )  # fmt: skip


def _profile(result: AxleResult) -> list[float]:
    energy = np.asarray(result.energy_by_temperature_J).reshape(-1, BINS_PER_STEP).sum(axis=1)
    total = float(energy.sum()) or 1.0
    used = np.flatnonzero(energy)
    return [round(float(value) / total, 4) for value in energy[: int(used[-1]) + 1]] if len(used) else []


def candidate_out(judged: Judged, parts: Parts, fitted_key: str | None) -> schemas.CandidateOut:
    figures = judged.figures
    return schemas.CandidateOut(
        key=judged.candidate.key, pad=judged.candidate.pad, family=parts.front_pad.pad.family,
        # A compound nobody has said to be sold in this shape is no better than an estimate.
        provenance=Provenance.ESTIMATE
        if Provenance.ESTIMATE in (parts.front_pad.provenance, parts.rear_pad.provenance)
        else parts.front_pad.pad.provenance,
        front_rotor=judged.candidate.front_rotor, rear_rotor=judged.candidate.rear_rotor, score=round(judged.score, 1),
        rejected_for=judged.rejected_for, reason=judged.reason, front=_ladder(judged, "front"),
        rear=_ladder(judged, "rear"), window_share=figures.window_share, pedal_worst_N=figures.pedal_worst_N,
        fluid_peak_C=figures.fluid_peak_C, fluid_margin_K=figures.fluid_margin_K, life_events=figures.life_events,
        life_hours=figures.life_hours, cost_per_hour=figures.cost_per_hour, pads_price=judged.candidate.pads_price,
        fitted=judged.candidate.key == fitted_key,
    )  # fmt: skip


def bedding_out(pad: str, plan: BeddingPlan, order: BeddingOrder, case: Case) -> schemas.BeddingOut:
    curve = compute.thinned(history(case), case)
    return schemas.BeddingOut(
        pad=pad, window_low_C=order.window_low_C, window_high_C=order.window_high_C, reached=plan.reached,
        rear_reached=plan.rear_reached, peak_front_C=plan.peak_front_C, peak_rear_C=plan.peak_rear_C,
        cool_down_s=plan.cool_down_s, gap_s=plan.gap_s, text=plan.text,
        stops=[schemas.BeddingStopOut(**dataclasses.asdict(stop)) for stop in plan.stops],
        curve=schemas.CurveOut(
            t_s=curve["t_s"], front_surface_C=curve["front_surface_C"], rear_surface_C=curve["rear_surface_C"]
        ),
    )  # fmt: skip


def plan_record_out(record: BeddingRecord) -> schemas.PlanRecordOut:
    return schemas.PlanRecordOut(
        id=record.pk, made_at=record.made_at, done_on=record.done_on, top_speed_mps=record.order["top_speed_mps"],
        hard_g=record.order["hard_g"], stops=len(record.plan["stops"]),
    )  # fmt: skip


def life_out(machine: Machine, state: compute.InForce, school: str) -> schemas.LifeOut:
    fitted = state.fitted
    duty = compute.duty_or_error(machine)
    return schemas.LifeOut(
        school=school, schools=list(SCHOOLS), duty=duty.name, event_km=state.facts.event_km,
        events_per_month=duty.events_per_month, odometer_km=machine.odometer_km, fitted_on=fitted.fitted_on,
        fitted_km=fitted.fitted_km, rows=[_life_row(row, fitted,
        duty.events_per_month) for row in compute.life_rows(state, school)],
        measurements=[measurement_out(row) for row in fitted.measurements.order_by("-measured_on", "-pk")],
    )  # fmt: skip


def _life_row(row: compute.LifeRow, fitted: FittedSet, pace: float) -> schemas.LifeRowOut:
    left = row.remaining
    return schemas.LifeRowOut(
        axle=cast(schemas.AxleName, row.axle), pad=getattr(fitted, f"{row.axle}_pad").pad.name, new_mm=row.new_mm,
        now_mm=left.thickness_mm,
        limit_mm=left.limit_mm, wear_per_event_mm=left.wear_per_event_mm,
        computed_per_event_mm=row.computed_per_event_mm, wear_scale=row.scale.median, measured=row.measured,
        events=left.events, events_p10=left.events_p10, events_p90=left.events_p90, due_km=row.due_km,
        due_hours=row.due_hours, due_on=row.due_on, state=cast(schemas.State, life_state(row.due_events, pace)),
    )  # fmt: skip


def measurement_out(row: Measurement) -> schemas.MeasurementOut:
    return schemas.MeasurementOut(
        id=row.pk, axle=cast(schemas.AxleName, row.axle), measured_on=row.measured_on, odometer_km=row.odometer_km,
        thickness_mm=row.thickness_m * 1e3, removed=row.removed_at is not None,
    )  # fmt: skip
