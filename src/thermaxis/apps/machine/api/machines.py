"""Add and copy machines, their parts and set-ups, and what estimates move."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse
from django.utils import timezone
from django.utils.text import slugify
from ninja import Body, Path, Router, Status

from thermaxis.apps.accounts.api.fields import Removed, RowId
from thermaxis.apps.accounts.api.files import file_response
from thermaxis.apps.accounts.api.kept_answers import kept_answer
from thermaxis.apps.accounts.api.signed_in import SIGNED_IN, ScopedRequest
from thermaxis.apps.fitted.actions import correct
from thermaxis.apps.fitted.standing import machine_of, standing_of
from thermaxis.apps.garage.models import SetUp
from thermaxis.apps.garage.querysets import duties
from thermaxis.apps.log.actions import set_removed
from thermaxis.apps.machine import whatif
from thermaxis.apps.machine.actions import add_machine as adding
from thermaxis.apps.machine.actions import import_case as importing
from thermaxis.apps.machine.actions import set_ups as setting
from thermaxis.apps.machine.actions.set_ups import REMOVE_SET_UP
from thermaxis.apps.machine.api import schemas
from thermaxis.apps.machine.api.present import compare_out, machine_out, parts_out
from thermaxis.apps.machine.api.schemas import MachineOut
from thermaxis.apps.solving.api.following import followed
from thermaxis.apps.solving.following import state_of
from thermaxis.formats.case_file import write_case

router = Router(auth=SIGNED_IN)


@router.post("/workshop/machines", response={201: MachineOut}, operation_id="add_machine")
def add_machine(request: ScopedRequest, payload: schemas.MachineIn) -> Status[MachineOut]:
    workshop = request.auth.workshop
    duty = request.auth.one(duties(workshop), payload.duty_id) if payload.duty_id else None
    machine = adding.add_machine(
        request.auth,
        name=payload.name,
        owner=payload.owner,
        note=payload.note,
        class_name=payload.vehicle_class,
        known=payload.known,
        duty=duty,
        on=timezone.localdate(),
        pads=payload.pads,
    )
    return Status(201, machine_out(machine_of(request.auth, machine.pk)))


@router.post("/machines/{machine_id}/copy", response={201: MachineOut}, operation_id="copy_machine")
def copy_machine(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.CopyIn) -> Status[MachineOut]:
    copy = adding.copy_machine(request.auth, machine_of(request.auth, machine_id), payload.name, timezone.localdate())
    return Status(201, machine_out(machine_of(request.auth, copy.pk)))


@router.post("/cases", response={201: MachineOut}, operation_id="import_case")
def import_case(request: ScopedRequest, payload: Body[dict[str, Any]]) -> Status[MachineOut]:
    machine = importing.import_case(request.auth, payload, timezone.localdate())
    return Status(201, machine_out(machine_of(request.auth, machine.pk)))


@router.get("/machines/{machine_id}/case", response=dict[str, Any], operation_id="case_file")
def case_file(request: ScopedRequest, machine_id: Path[RowId]) -> HttpResponse:
    case = state_of(request.auth, machine_id).setup.case
    return file_response(write_case(case), f"{slugify(case.name) or 'machine'}.case.json", "application/json")


@router.get("/machines/{machine_id}/parts", response=schemas.PartsOut, operation_id="parts")
def fitted_parts(request: ScopedRequest, machine_id: Path[RowId]) -> HttpResponse:
    def build() -> schemas.PartsOut:
        return parts_out(standing_of(machine_of(request.auth, machine_id)))

    return kept_answer(request, schemas.PartsOut, build, machine_id)


@router.patch("/machines/{machine_id}/parts", response=schemas.PartsOut, operation_id="change_parts")
def change_parts(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.PartChanges) -> schemas.PartsOut:
    return parts_out(
        correct.change_parts(request.auth, machine_of(request.auth, machine_id), payload.changes, payload.seen)
    )


@router.get("/machines/{machine_id}/moves", response=list[schemas.MoveOut], operation_id="moves")
def moves(request: ScopedRequest, machine_id: Path[RowId]) -> list[schemas.MoveOut]:
    state = state_of(request.auth, machine_id)
    with followed(request, "Trying both ends of every estimate") as watch:
        return [schemas.MoveOut.of(move) for move in whatif.moves(state, watch)]


@router.post("/machines/{machine_id}/compare", response=schemas.CompareOut, operation_id="compare")
def compare(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.CompareAsk) -> schemas.CompareOut:
    state = state_of(request.auth, machine_id)
    return compare_out(whatif.compare(state, payload.changes, payload.pedal_force_N, payload.rotor_C))


@router.get("/machines/{machine_id}/set-ups", response=list[schemas.SetUpOut], operation_id="set_ups")
def set_ups(request: ScopedRequest, machine_id: Path[RowId]) -> list[schemas.SetUpOut]:
    rows = machine_of(request.auth, machine_id).set_ups.there()
    return [schemas.SetUpOut.of(row) for row in rows]


@router.post("/machines/{machine_id}/set-ups", response={201: schemas.SetUpOut}, operation_id="keep_set_up")
def keep_set_up(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.SetUpIn) -> Status[schemas.SetUpOut]:
    state = state_of(request.auth, machine_id)
    row = setting.keep_set_up(request.auth, state, payload.name, payload.changes, payload.price)
    return Status(201, schemas.SetUpOut.of(row))


@router.post("/set-ups/{set_up_id}/use", response=MachineOut, operation_id="use_set_up")
def use_set_up(request: ScopedRequest, set_up_id: Path[RowId]) -> MachineOut:
    row = request.auth.one(SetUp.objects.of(request.auth.workshop).there(), set_up_id)
    setting.use_set_up(request.auth, machine_of(request.auth, row.machine_id), row)
    return machine_out(machine_of(request.auth, row.machine_id))


@router.put("/set-ups/{set_up_id}/removed", response={204: None}, operation_id="remove_set_up")
def remove_set_up(request: ScopedRequest, set_up_id: Path[RowId], payload: Removed) -> Status[None]:
    row = request.auth.one(SetUp.objects.of(request.auth.workshop), set_up_id)
    set_removed(request.auth, REMOVE_SET_UP, row, payload.removed)
    return Status(204, None)
