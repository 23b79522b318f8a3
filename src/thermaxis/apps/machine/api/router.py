"""Machines as such: their numbers, words and masses, and the classes they are estimated by."""

from __future__ import annotations

from django.http import HttpResponse
from ninja import Path, Router, Status

from thermaxis.apps.accounts.api.fields import Removed, RowId
from thermaxis.apps.accounts.api.kept_answers import kept_answer
from thermaxis.apps.accounts.api.signed_in import SIGNED_IN, ScopedRequest
from thermaxis.apps.catalogue.models import Fluid
from thermaxis.apps.fitted.standing import machine_of
from thermaxis.apps.garage import querysets
from thermaxis.apps.garage.actions.choose_duty import choose_duty
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.actions import set_removed
from thermaxis.apps.machine.actions import change_machine as changing
from thermaxis.apps.machine.actions.change_machine import REMOVE_MACHINE
from thermaxis.apps.machine.api import schemas
from thermaxis.apps.machine.api.present import machine_out, machine_row
from thermaxis.core.planning.machine import measuring
from thermaxis.core.planning.machine.classes import CLASSES, MassPart, estimates

router = Router(auth=SIGNED_IN)


@router.get("/machines", response=list[schemas.MachineRow], operation_id="machines")
def machines(request: ScopedRequest) -> list[schemas.MachineRow]:
    rows = request.auth.machines_seen(querysets.machine_rows(request.auth.workshop))
    return [schemas.MachineRow(**machine_row(machine)) for machine in rows]


@router.get("/machines/{machine_id}", response=schemas.MachineOut, operation_id="machine")
def machine(request: ScopedRequest, machine_id: Path[RowId]) -> HttpResponse:
    def build() -> schemas.MachineOut:
        return machine_out(machine_of(request.auth, machine_id))

    return kept_answer(request, schemas.MachineOut, build, machine_id)


@router.patch("/machines/{machine_id}", response=schemas.MachineOut, operation_id="change_machine")
def patch_machine(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.Changes) -> schemas.MachineOut:
    machine = machine_of(request.auth, machine_id)
    return machine_out(changing.change_machine(request.auth, machine, payload.changes, payload.left_open, payload.seen))


@router.put("/machines/{machine_id}/words", response=schemas.MachineOut, operation_id="change_words")
def put_words(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.Words) -> schemas.MachineOut:
    return machine_out(
        changing.change_words(request.auth, machine_of(request.auth, machine_id), payload.words, payload.seen)
    )


@router.put("/machines/{machine_id}/masses", response=schemas.MachineOut, operation_id="set_masses")
def put_masses(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.Masses) -> schemas.MachineOut:
    parts = [MassPart(**part.model_dump()) for part in payload.parts]
    return machine_out(changing.set_masses(request.auth, machine_of(request.auth, machine_id), parts))


@router.put("/machines/{machine_id}/removed", response={204: None}, operation_id="remove_machine")
def put_removed(request: ScopedRequest, machine_id: Path[RowId], payload: Removed) -> Status[None]:
    machine = request.auth.one(Machine.objects.of(request.auth.workshop), machine_id)
    set_removed(request.auth, REMOVE_MACHINE, machine, payload.removed)
    return Status(204, None)


@router.get("/fluids", response=list[schemas.FluidOut], operation_id="fluids")
def fluids(request: ScopedRequest) -> list[schemas.FluidOut]:
    rows = Fluid.objects.of(request.auth.workshop).order_by("dry_C")
    return [schemas.FluidOut.of(row) for row in rows]


@router.get("/classes", response=list[schemas.ClassOut], operation_id="classes")
def classes(request: ScopedRequest) -> list[schemas.ClassOut]:
    return [schemas.ClassOut.of(entry) for entry in CLASSES.values()]


@router.post("/classes/{name}/estimates", response=dict[str, schemas.EstimateOut], operation_id="class_estimates")
def class_estimates(request: ScopedRequest, name: str, payload: schemas.Known) -> dict[str, schemas.EstimateOut]:
    return {path: schemas.EstimateOut.of(entry) for path, entry in estimates(name, payload.known).items()}


@router.put("/machines/{machine_id}/duty", response=schemas.MachineOut, operation_id="choose_duty")
def put_duty(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.DutyChoice) -> schemas.MachineOut:
    duty = request.auth.one(querysets.duties(request.auth.workshop), payload.duty_id)
    return machine_out(choose_duty(request.auth, machine_of(request.auth, machine_id), duty))


@router.post("/measure/{method}", response=schemas.WorkedOut, operation_id="work_out")
def work_out(request: ScopedRequest, method: str, payload: schemas.Measured) -> schemas.WorkedOut:
    return schemas.WorkedOut(values=measuring.work_out(method, payload.numbers))
