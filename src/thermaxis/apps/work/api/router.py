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
from thermaxis.apps.work.api import (
    choosing,
    decisions,
    estimates,
    inspections,
    machine_schemas,
    machines,
    present,
    runs,
    schemas,
)  # fmt: skip
from thermaxis.apps.work.kept import kept
from thermaxis.apps.work.models import BeddingRecord, Measurement
from thermaxis.apps.work.stages import stages
from thermaxis.core.planning.life import intervals

router = Router()
router.add_router("", estimates.router)
router.add_router("", machines.router)
router.add_router("", runs.router)
router.add_router("", inspections.router)
router.add_router("", choosing.router)
router.add_router("", decisions.router)


@router.post("/machines/{machine_id}/verdict", response=schemas.VerdictOut, operation_id="verdict")
def verdict(request: HttpRequest, machine_id: Path[RowId], payload: schemas.WhatIf) -> Any:
    state = estimates.state_of(request, machine_id)
    readings = compute.verdict(compute.tried(state, payload.record()))
    # A slider asks for the strip ten times a second: where the stages stand does not depend on it.
    rail = kept(("stages", workshop_of(request).pk, machine_id), lambda: stages(state.machine, state))
    return schemas.VerdictOut(
        set_name=present.set_name(state.fitted), duty=compute.duty_or_error(state.machine).name,
        readings=[schemas.ReadingOut(**dataclasses.asdict(reading)) for reading in readings],
        stages=[schemas.StageOut(**dataclasses.asdict(stage)) for stage in rail],
    )  # fmt: skip


@router.post("/machines/{machine_id}/balance", response=machine_schemas.BalanceOut, operation_id="balance")
def balance(request: HttpRequest, machine_id: Path[RowId], payload: machine_schemas.BalanceAsk) -> Any:
    machine = machine_of(request, machine_id)
    state = estimates.state_of(request, machine_id) if machine.duty else None
    found = whatif.balance_of(machine, payload.pedal_force_N, payload.rotor_C, payload.changes, state)
    return dataclasses.asdict(found)


@router.get("/machines/{machine_id}/sets", response=list[schemas.ShelfSet], operation_id="sets")
def sets(request: HttpRequest, machine_id: Path[RowId]) -> Any:
    machine = machine_of(request, machine_id)
    rows = machine.sets.select_related("front_pad__pad", "rear_pad__pad", "front_rotor", "rear_rotor")
    return [present.shelf_out(row, machine.odometer_km) for row in rows.order_by("-pk")]


@router.post("/machines/{machine_id}/sets/{set_id}/mount", response=schemas.SetOut, operation_id="mount_set")
def mount_set(request: HttpRequest, machine_id: Path[RowId], set_id: Path[RowId]) -> Any:
    machine = machine_of(request, machine_id)
    fitted = get_object_or_404(machine.sets, pk=set_id)
    return present.set_out(fitting.mount_set(machine, fitted, dt.date.today()))


@router.post("/machines/{machine_id}/bedding", response=schemas.BeddingOut, operation_id="bedding")
def bedding(request: HttpRequest, machine_id: Path[RowId], payload: schemas.BeddingAsk) -> Any:
    machine = machine_of(request, machine_id)
    with estimates.followed(request, "Planning the bedding-in"):
        plan, order, case = compute.bedding_plan(machine, payload.top_speed_mps, payload.hard_g)
    return present.bedding_out(compute.set_or_error(machine).front_pad.pad.name, plan, order, case)


@router.get("/machines/{machine_id}/plans", response=list[schemas.PlanRecordOut], operation_id="plans")
def kept_plans(request: HttpRequest, machine_id: Path[RowId]) -> Any:
    fitted = compute.set_or_error(machine_of(request, machine_id))
    return [present.plan_record_out(record) for record in fitted.bedding.all()]


@router.post("/machines/{machine_id}/plans", response=schemas.PlanRecordOut, operation_id="keep_plan")
def keep_plan(request: HttpRequest, machine_id: Path[RowId], payload: schemas.BeddingAsk) -> Any:
    machine = machine_of(request, machine_id)
    with estimates.followed(request, "Planning the bedding-in"):
        kept_plan = plans.keep_plan(machine, payload.top_speed_mps, payload.hard_g)
    return present.plan_record_out(kept_plan)


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
