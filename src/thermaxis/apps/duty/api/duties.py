"""Duties and circuits: list, add, change, remove."""

from __future__ import annotations

from django.http import HttpResponse
from ninja import Path, Router, Status

from thermaxis.apps.accounts.api.fields import Removed, RowId
from thermaxis.apps.accounts.api.kept_answers import kept_answer
from thermaxis.apps.accounts.api.signed_in import SIGNED_IN, ScopedRequest
from thermaxis.apps.duty.actions.keep_duty import keep_duty
from thermaxis.apps.duty.api import schemas
from thermaxis.apps.garage import duty_mapping, querysets
from thermaxis.apps.garage.actions import save_duty as saving
from thermaxis.apps.garage.models import Circuit, Duty
from thermaxis.apps.garage.shapes import Day, elements_from

router = Router(auth=SIGNED_IN)


def duty_out(duty: Duty) -> schemas.DutyOut:
    shape = {**duty.shape}
    if duty.circuit:
        shape["circuit_id"] = duty.circuit.pk
    if duty.run:
        shape["run_id"] = duty.run.pk
    if duty.kind == Day.kind:
        shape["parts"] = [schemas.PartIO.of(part, duty_id=part.part.pk) for part in duty.parts.all()]
    return schemas.DutyOut.of(
        duty,
        conditions=duty_mapping.conditions_of(duty),
        shape=shape,
        circuit=duty.circuit.name if duty.circuit else None,
        run=duty.run.name if duty.run else None,
    )


def _kept(request: ScopedRequest, duty: Duty | None, payload: schemas.DutyIn) -> schemas.DutyOut:
    row = keep_duty(request.auth, duty, payload.model_dump(), payload.version)
    return duty_out(querysets.duties(request.auth.workshop).get(pk=row.pk))


@router.get("/duties", response=list[schemas.DutyOut], operation_id="duties")
def duties(request: ScopedRequest) -> HttpResponse:
    def build() -> list[schemas.DutyOut]:
        return [duty_out(duty) for duty in querysets.duties(request.auth.workshop)]

    return kept_answer(request, list[schemas.DutyOut], build)


@router.post("/duties", response={201: schemas.DutyOut}, operation_id="add_duty")
def add_duty(request: ScopedRequest, payload: schemas.DutyIn) -> Status[schemas.DutyOut]:
    return Status(201, _kept(request, None, payload))


@router.put("/duties/{duty_id}", response=schemas.DutyOut, operation_id="change_duty")
def change_duty(request: ScopedRequest, duty_id: Path[RowId], payload: schemas.DutyIn) -> schemas.DutyOut:
    duty = request.auth.one(querysets.duties(request.auth.workshop), duty_id)
    return _kept(request, duty, payload)


@router.put("/duties/{duty_id}/removed", response={204: None}, operation_id="remove_duty")
def remove_duty(request: ScopedRequest, duty_id: Path[RowId], payload: Removed) -> Status[None]:
    duty = request.auth.one(Duty.objects.of(request.auth.workshop), duty_id)
    saving.set_duty_removed(request.auth, duty, payload.removed)
    return Status(204, None)


def circuit_out(circuit: Circuit) -> schemas.CircuitOut:
    elements = [schemas.ElementIO.of(element) for element in duty_mapping.elements_of(circuit)]
    return schemas.CircuitOut.of(circuit, elements=elements)


@router.get("/circuits", response=list[schemas.CircuitOut], operation_id="circuits")
def circuits(request: ScopedRequest) -> list[schemas.CircuitOut]:
    return [circuit_out(circuit) for circuit in querysets.circuits(request.auth.workshop)]


def _kept_circuit(request: ScopedRequest, circuit: Circuit | None, payload: schemas.CircuitIn) -> schemas.CircuitOut:
    elements = elements_from([element.model_dump() for element in payload.elements])
    row = saving.save_circuit(request.auth, circuit, payload.name, payload.closed, elements, payload.version)
    return circuit_out(querysets.circuits(request.auth.workshop).get(pk=row.pk))


@router.post("/circuits", response={201: schemas.CircuitOut}, operation_id="add_circuit")
def add_circuit(request: ScopedRequest, payload: schemas.CircuitIn) -> Status[schemas.CircuitOut]:
    return Status(201, _kept_circuit(request, None, payload))


@router.put("/circuits/{circuit_id}", response=schemas.CircuitOut, operation_id="change_circuit")
def change_circuit(request: ScopedRequest, circuit_id: Path[RowId], payload: schemas.CircuitIn) -> schemas.CircuitOut:
    circuit = request.auth.one(querysets.circuits(request.auth.workshop), circuit_id)
    return _kept_circuit(request, circuit, payload)
