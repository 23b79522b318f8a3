"""Core records and rows to the API's schemas."""

from __future__ import annotations

import dataclasses
import math
from typing import cast

from thermaxis.apps.garage.models import Machine
from thermaxis.apps.work import compute
from thermaxis.apps.work.actions.fit_set import has_history
from thermaxis.apps.work.api import schemas
from thermaxis.apps.work.models import BeddingRecord, FittedSet, Measurement
from thermaxis.apps.work.querysets import driven_km, mountings_of
from thermaxis.core.physics.simulate import history
from thermaxis.core.planning.bedding.plan import BeddingOrder, BeddingPlan
from thermaxis.core.planning.life.intervals import P90, SCHOOLS
from thermaxis.core.planning.verdict.readings import life_state
from thermaxis.core.planning.verdict.uncertainty import Band
from thermaxis.core.records import Case


def set_name(fitted: FittedSet) -> str:
    return f"{fitted.front_pad.pad.name} on {fitted.front_rotor.name}"


def set_out(fitted: FittedSet) -> schemas.SetOut:
    before = fitted.machine.sets.exclude(removed_on=None).exists()
    return schemas.SetOut(
        id=fitted.pk, name=set_name(fitted), front_rotor=fitted.front_rotor.name, rear_rotor=fitted.rear_rotor.name,
        fitted_on=fitted.fitted_on, fitted_km=fitted.fitted_km, can_undo=before and not has_history(fitted),
    )  # fmt: skip


def influences_out(band: Band) -> list[schemas.InfluenceOut]:
    return [schemas.InfluenceOut(field=entry.field, variance_share=entry.share) for entry in band.influences]


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
        parts=[_part_life(row, entry) for entry in row.parts],
        now_mm=left.thickness_mm,
        limit_mm=left.limit_mm, wear_per_event_mm=left.wear_per_event_mm,
        computed_per_event_mm=row.computed_per_event_mm, wear_scale=row.scale.median, measured=row.measured,
        events=left.events, events_p10=left.events_p10, events_p90=left.events_p90, due_km=row.due_km,
        due_hours=row.due_hours, due_on=row.due_on, state=cast(schemas.State, life_state(row.due_events, pace)),
    )  # fmt: skip


def _part_life(row: compute.LifeRow, entry: compute.PartLife) -> schemas.PartLifeOut:
    part, left = entry.part, entry.remaining
    per_1000km = 1000.0 * left.wear_per_event_mm / row.event_km
    spread = math.exp(P90 * part.scale.sigma)
    return schemas.PartLifeOut(
        position=part.position, now_mm=part.thickness_mm, events=left.events, events_p10=left.events_p10,
        events_p90=left.events_p90, measurements=part.measurements, wear_per_1000km_mm=per_1000km,
        wear_per_1000km_low_mm=per_1000km / spread, wear_per_1000km_high_mm=per_1000km * spread,
        wear_per_100MJ_mm=1e8 * left.wear_per_event_mm / row.event_energy_J if row.event_energy_J > 0 else 0.0,
    )  # fmt: skip


def shelf_out(fitted: FittedSet, odometer_km: float) -> schemas.ShelfSet:
    """A set with its labels: the last reading of every pad that was told apart."""
    last = {(row.axle, row.position): row for row in fitted.measurements.filter(removed_at=None).exclude(position="")}
    return schemas.ShelfSet(
        id=fitted.pk, name=set_name(fitted), rear_name=fitted.rear_pad.pad.name, front_rotor=fitted.front_rotor.name,
        rear_rotor=fitted.rear_rotor.name, on_machine=fitted.removed_on is None, fitted_on=fitted.fitted_on,
        removed_on=fitted.removed_on, driven_km=driven_km(mountings_of(fitted), odometer_km),
        parts=[
            schemas.ShelfPart(
                axle=cast(schemas.AxleName, row.axle), position=row.position, thickness_mm=1e3 * row.thickness_m,
                measured_on=row.measured_on,
            )
            for row in last.values()
        ],
    )  # fmt: skip


def measurement_out(row: Measurement) -> schemas.MeasurementOut:
    return schemas.MeasurementOut(
        id=row.pk, axle=cast(schemas.AxleName, row.axle), position=row.position, inspection_id=row.inspection_id,
        measured_on=row.measured_on, odometer_km=row.odometer_km,
        thickness_mm=row.thickness_m * 1e3, removed=row.removed_at is not None,
    )  # fmt: skip
