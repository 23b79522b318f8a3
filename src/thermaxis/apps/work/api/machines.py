"""Add and copy machines, their parts and set-ups, what estimates move, and how a duty is driven."""

from __future__ import annotations

import dataclasses
import datetime as dt
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.utils.text import slugify
from ninja import Body, Path, Query, Router, Status

from thermaxis.apps.accounts.api.router import workshop_of
from thermaxis.apps.garage import duty_mapping
from thermaxis.apps.garage.api.duties import asked
from thermaxis.apps.garage.api.duty_schemas import DutyIn, Removed, RowId
from thermaxis.apps.garage.api.router import machine_of, machine_out
from thermaxis.apps.garage.api.schemas import MachineOut
from thermaxis.apps.garage.models import SetUp
from thermaxis.apps.garage.querysets import duties
from thermaxis.apps.work import compute, whatif
from thermaxis.apps.work.actions import add_machine as adding
from thermaxis.apps.work.actions import change_parts as parts
from thermaxis.apps.work.actions import import_case as importing
from thermaxis.apps.work.actions import set_ups as setting
from thermaxis.apps.work.api import estimates
from thermaxis.apps.work.api import machine_schemas as schemas
from thermaxis.apps.work.models import FittedSet
from thermaxis.formats.case_file import write_case

router = Router()


@router.post("/workshop/machines", response={201: MachineOut}, operation_id="add_machine")
def add_machine(request: HttpRequest, payload: schemas.MachineIn) -> Any:
    workshop = workshop_of(request)
    duty = get_object_or_404(duties(workshop), pk=payload.duty_id) if payload.duty_id else None
    machine = adding.add_machine(
        workshop, name=payload.name, owner=payload.owner, note=payload.note, class_name=payload.vehicle_class,
        known=payload.known, duty=duty, on=dt.date.today(),
    )  # fmt: skip
    return Status(201, machine_out(machine_of(request, machine.pk)))


@router.post("/machines/{machine_id}/copy", response={201: MachineOut}, operation_id="copy_machine")
def copy_machine(request: HttpRequest, machine_id: Path[RowId], payload: schemas.CopyIn) -> Any:
    copy = adding.copy_machine(machine_of(request, machine_id), payload.name, dt.date.today())
    return Status(201, machine_out(machine_of(request, copy.pk)))


@router.post("/cases", response={201: MachineOut}, operation_id="import_case")
def import_case(request: HttpRequest, payload: Body[dict[str, Any]]) -> Any:
    machine = importing.import_case(workshop_of(request), payload, dt.date.today())
    return Status(201, machine_out(machine_of(request, machine.pk)))


@router.get("/machines/{machine_id}/case", response=dict[str, Any], operation_id="case_file")
def case_file(request: HttpRequest, machine_id: Path[RowId]) -> Any:
    case = estimates.state_of(request, machine_id).setup.case
    response = HttpResponse(write_case(case), content_type="application/json")
    response["Content-Disposition"] = f'attachment; filename="{slugify(case.name) or "machine"}.case.json"'
    return response


def _parts_out(fitted: FittedSet) -> schemas.PartsOut:
    own = [f"{position}.rotor" for position in parts.POSITIONS if getattr(fitted, f"{position}_rotor").own]
    own += [
        f"{position}.pad" for position in parts.POSITIONS
        if getattr(fitted, f"{position}_pad").shape == parts.own_shape(fitted.machine, position)
    ]  # fmt: skip
    return schemas.PartsOut(
        values=parts.part_values(fitted), own=own, front_rotor=fitted.front_rotor.name,
        rear_rotor=fitted.rear_rotor.name, front_pad=fitted.front_pad.pad.name, rear_pad=fitted.rear_pad.pad.name,
    )  # fmt: skip


@router.get("/machines/{machine_id}/parts", response=schemas.PartsOut, operation_id="parts")
def fitted_parts(request: HttpRequest, machine_id: Path[RowId]) -> Any:
    return _parts_out(compute.set_or_error(machine_of(request, machine_id)))


@router.patch("/machines/{machine_id}/parts", response=schemas.PartsOut, operation_id="change_parts")
def change_parts(request: HttpRequest, machine_id: Path[RowId], payload: schemas.PartChanges) -> Any:
    return _parts_out(parts.change_parts(machine_of(request, machine_id), payload.changes))


@router.get("/machines/{machine_id}/moves", response=list[schemas.MoveOut], operation_id="moves")
def moves(request: HttpRequest, machine_id: Path[RowId]) -> Any:
    state = estimates.state_of(request, machine_id)
    with estimates.followed(request, "Trying both ends of every estimate") as watch:
        return [dataclasses.asdict(move) for move in whatif.moves(state, watch)]


@router.post("/machines/{machine_id}/compare", response=schemas.CompareOut, operation_id="compare")
def compare(request: HttpRequest, machine_id: Path[RowId], payload: schemas.CompareAsk) -> Any:
    found = whatif.compare(
        estimates.state_of(request, machine_id), payload.changes, payload.pedal_force_N, payload.rotor_C
    )

    def side(figures: Any, result: Any, left: float) -> dict[str, Any]:
        peaks = {"front_peak_C": result.front.peak_surface_C, "rear_peak_C": result.rear.peak_surface_C}
        return {**dataclasses.asdict(figures), **peaks, "pedal_left_N": left}

    return {
        "before": side(found.before, found.before_result, found.before_pedal_left),
        "after": side(found.after, found.after_result, found.after_pedal_left),
        "remarks": [dataclasses.asdict(remark) for remark in found.remarks],
    }


@router.get("/machines/{machine_id}/set-ups", response=list[schemas.SetUpOut], operation_id="set_ups")
def set_ups(request: HttpRequest, machine_id: Path[RowId]) -> Any:
    return list(machine_of(request, machine_id).set_ups.filter(removed_at=None))


@router.post("/machines/{machine_id}/set-ups", response={201: schemas.SetUpOut}, operation_id="keep_set_up")
def keep_set_up(request: HttpRequest, machine_id: Path[RowId], payload: schemas.SetUpIn) -> Any:
    state = estimates.state_of(request, machine_id)
    return Status(201, setting.keep_set_up(state, payload.name, payload.changes, payload.price))


@router.post("/set-ups/{set_up_id}/use", response=MachineOut, operation_id="use_set_up")
def use_set_up(request: HttpRequest, set_up_id: Path[RowId]) -> Any:
    row = get_object_or_404(SetUp.objects.of(workshop_of(request)).filter(removed_at=None), pk=set_up_id)
    setting.use_set_up(machine_of(request, row.machine.pk), row)
    return machine_out(machine_of(request, row.machine.pk))


@router.put("/set-ups/{set_up_id}/removed", response={204: None}, operation_id="remove_set_up")
def remove_set_up(request: HttpRequest, set_up_id: Path[RowId], payload: Removed) -> Any:
    setting.set_removed(get_object_or_404(SetUp.objects.of(workshop_of(request)), pk=set_up_id), payload.removed)
    return Status(204, None)


@router.get("/machines/{machine_id}/duties/{duty_id}/trace", response=schemas.TraceOut, operation_id="duty_trace")
def duty_trace(
    request: HttpRequest, machine_id: Path[RowId], duty_id: Path[RowId], query: Query[schemas.TraceQuery]
) -> Any:
    duty = get_object_or_404(duties(workshop_of(request)), pk=duty_id)
    return _trace_out(compute.duty_trace(machine_of(request, machine_id), duty_mapping.plan_of(duty), query.until_s))


@router.post("/machines/{machine_id}/drive", response=schemas.TraceOut, operation_id="drive")
def drive(request: HttpRequest, machine_id: Path[RowId], payload: DutyIn) -> Any:
    plan = asked(workshop_of(request), payload).plan
    return _trace_out(compute.duty_trace(machine_of(request, machine_id), plan, None))


def _trace_out(found: tuple[duty_mapping.DutyFacts, dict[str, list[float]], Any]) -> schemas.TraceOut:
    facts, columns, result = found
    energy = result.energy_account.friction_J
    return schemas.TraceOut(
        event_km=facts.event_km, event_hours=facts.event_hours, lap_km=facts.lap_km, lap_s=facts.lap_s,
        energy_per_event_J=energy, energy_per_km_J=energy / facts.event_km,
        braking_share=result.braking_s / result.duration_s, warnings=[w.text for w in result.warnings], **columns,
    )  # fmt: skip
