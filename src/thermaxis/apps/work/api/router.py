"""Readings, balance, duty traces, the choice, fitted sets, bedding and life of a machine."""

from __future__ import annotations

import dataclasses
import datetime as dt
from typing import Any

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Path, Query, Router

from thermaxis.apps.accounts.api.router import workshop_of
from thermaxis.apps.garage.api.duty_schemas import RowId
from thermaxis.apps.garage.api.router import machine_of
from thermaxis.apps.work import compute, whatif
from thermaxis.apps.work.actions import fit_set as fitting
from thermaxis.apps.work.actions import keep_plan as plans
from thermaxis.apps.work.actions import measure as measuring
from thermaxis.apps.work.api import estimates, machine_schemas, machines, present, runs, schemas
from thermaxis.apps.work.api.why import why_out
from thermaxis.apps.work.models import BeddingRecord, Measurement
from thermaxis.core.planning import intervals
from thermaxis.core.planning.choose import Weights

router = Router()
router.add_router("", estimates.router)
router.add_router("", machines.router)
router.add_router("", runs.router)


@router.post("/machines/{machine_id}/verdict", response=schemas.VerdictOut, operation_id="verdict")
def verdict(request: HttpRequest, machine_id: Path[RowId], payload: schemas.WhatIf) -> Any:
    state = estimates.state_of(request, machine_id)
    readings = compute.verdict(compute.tried(state, payload.cooling_factor, payload.air_C))
    return schemas.VerdictOut(
        set_name=present.set_name(state.fitted), duty=compute.duty_or_error(state.machine).name,
        readings=[schemas.ReadingOut(**dataclasses.asdict(reading)) for reading in readings],
        stages=[schemas.StageOut(**dataclasses.asdict(stage)) for stage in compute.stages(state.machine, state)],
    )  # fmt: skip


@router.post("/machines/{machine_id}/why/{reading}", response=schemas.WhyOut, operation_id="why")
def why(request: HttpRequest, machine_id: Path[RowId], reading: str, payload: schemas.WhatIf) -> Any:
    state = estimates.state_of(request, machine_id)
    return why_out(compute.tried(state, payload.cooling_factor, payload.air_C), reading)


@router.post("/machines/{machine_id}/balance", response=machine_schemas.BalanceOut, operation_id="balance")
def balance(request: HttpRequest, machine_id: Path[RowId], payload: machine_schemas.BalanceAsk) -> Any:
    machine = machine_of(request, machine_id)
    state = estimates.state_of(request, machine_id) if machine.duty else None
    found = whatif.balance_of(machine, payload.pedal_force_N, payload.rotor_C, payload.changes, state)
    return dataclasses.asdict(found)


@router.post("/machines/{machine_id}/candidates", response=schemas.ChooseOut, operation_id="candidates")
def candidates(request: HttpRequest, machine_id: Path[RowId], payload: schemas.ChooseAsk) -> Any:
    asked = Weights(**payload.weights.dict()) if payload.weights else None
    offer = estimates.offer_to(request, machine_id)
    with estimates.followed(request, "Simulating every pad and rotor this machine takes") as watch:
        judged, weights = compute.judged_candidates(
            offer, asked, payload.cooling_factor, payload.air_C, payload.only, watch
        )
    out = [present.candidate_out(entry, offer.parts[entry.candidate.key], offer.fitted_key) for entry in judged]
    fluid = offer.machine.fluid
    return schemas.ChooseOut(
        weights=schemas.WeightsIO(**dataclasses.asdict(weights)),
        boiling_C=judged[0].candidate.setup.boiling_C if judged else 0.0,
        fluid_dry_C=fluid.dry_C, fluid_wet_C=fluid.wet_C, total=len(out),
        ranked=[entry for entry in out if entry.rejected_for is None],
        rejected=[entry for entry in out if entry.rejected_for is not None],
    )  # fmt: skip


@router.get("/machines/{machine_id}/set", response=schemas.SetOut, operation_id="fitted_set")
def fitted_set(request: HttpRequest, machine_id: Path[RowId]) -> Any:
    return present.set_out(compute.set_or_error(machine_of(request, machine_id)))


@router.post("/machines/{machine_id}/set", response=schemas.SetOut, operation_id="fit_set")
def fit_set(request: HttpRequest, machine_id: Path[RowId], payload: schemas.FitAsk) -> Any:
    machine, workshop = machine_of(request, machine_id), workshop_of(request)
    return present.set_out(fitting.fit_set(machine, workshop, payload.key, payload.reason, dt.date.today()))


@router.delete("/machines/{machine_id}/set", response=schemas.SetOut, operation_id="undo_fit")
def undo_fit(request: HttpRequest, machine_id: Path[RowId]) -> Any:
    return present.set_out(fitting.undo_fit(machine_of(request, machine_id)))


@router.post("/machines/{machine_id}/bedding", response=schemas.BeddingOut, operation_id="bedding")
def bedding(request: HttpRequest, machine_id: Path[RowId], payload: schemas.BeddingAsk) -> Any:
    machine = machine_of(request, machine_id)
    plan, order, case = compute.bedding_plan(machine, payload.top_speed_mps, payload.hard_g)
    return present.bedding_out(compute.set_or_error(machine).front_pad.pad.name, plan, order, case)


@router.get("/machines/{machine_id}/plans", response=list[schemas.PlanRecordOut], operation_id="plans")
def kept_plans(request: HttpRequest, machine_id: Path[RowId]) -> Any:
    fitted = compute.set_or_error(machine_of(request, machine_id))
    return [present.plan_record_out(record) for record in fitted.bedding.all()]


@router.post("/machines/{machine_id}/plans", response=schemas.PlanRecordOut, operation_id="keep_plan")
def keep_plan(request: HttpRequest, machine_id: Path[RowId], payload: schemas.BeddingAsk) -> Any:
    machine = machine_of(request, machine_id)
    return present.plan_record_out(plans.keep_plan(machine, payload.top_speed_mps, payload.hard_g))


@router.put("/plans/{plan_id}/done", response=schemas.PlanRecordOut, operation_id="mark_plan_done")
def mark_plan_done(request: HttpRequest, plan_id: Path[RowId], payload: schemas.DoneAsk) -> Any:
    record = get_object_or_404(BeddingRecord.objects.of(workshop_of(request)), pk=plan_id)
    return present.plan_record_out(plans.mark_done(record, dt.date.today() if payload.done else None))


@router.get("/machines/{machine_id}/life", response=schemas.LifeOut, operation_id="life")
def life(request: HttpRequest, machine_id: Path[RowId], query: Query[schemas.LifeQuery]) -> Any:
    machine = machine_of(request, machine_id)
    default = intervals.default_school(compute.duty_or_error(machine).use, machine.kind)
    return present.life_out(machine, compute.in_force(machine), query.school or default)


@router.post("/machines/{machine_id}/measurements", response=schemas.MeasurementOut, operation_id="measure")
def measure(request: HttpRequest, machine_id: Path[RowId], payload: schemas.MeasureAsk) -> Any:
    machine = machine_of(request, machine_id)
    return present.measurement_out(
        measuring.measure(machine, payload.axle, payload.thickness_m, payload.odometer_km, payload.measured_on)
    )


@router.put(
    "/measurements/{measurement_id}/removed", response=schemas.MeasurementOut, operation_id="remove_measurement"
)
def remove_measurement(request: HttpRequest, measurement_id: Path[RowId], payload: schemas.RemovedAsk) -> Any:
    row = get_object_or_404(Measurement.objects.of(workshop_of(request)), pk=measurement_id)
    return present.measurement_out(measuring.set_removed(row, payload.removed))
