"""Duties and circuits: list, add, change, remove."""

from __future__ import annotations

import dataclasses
from typing import Any

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Path, Router, Status

from thermaxis.apps.accounts.api.router import workshop_of
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.garage import duty_mapping, querysets
from thermaxis.apps.garage.actions import save_duty as saving
from thermaxis.apps.garage.api import duty_schemas as schemas
from thermaxis.apps.garage.models import Circuit, Duty, RecordedRun
from thermaxis.core.errors import FieldError

router = Router()
WORDS = ("name", "use", "note", "events_per_month")
ROWS = ("kind", "event_km", "then_s", "then_speed_mps", "laps", "driver_level", "traffic", "cool_down_laps", "pause_s",
        "grade", "speed_mps", "duration_s", "sections", "stops", "repeat")  # fmt: skip


def duty_out(duty: Duty) -> schemas.DutyOut:
    plan = dataclasses.asdict(duty_mapping.typed_plan_of(duty))
    return schemas.DutyOut(
        id=duty.pk, **{name: getattr(duty, name) for name in WORDS}, **{name: plan[name] for name in ROWS},
        conditions=schemas.ConditionsIO(**plan["conditions"]),
        week=schemas.WeekIO(**plan["week"]) if plan["week"] else None,
        circuit_id=duty.circuit.pk if duty.circuit else None, circuit=duty.circuit.name if duty.circuit else None,
        run_id=duty.run.pk if duty.run else None, run=duty.run.name if duty.run else None,
        parts=[
            schemas.PartIO(duty_id=part.part.pk, times=part.times, gap_s=part.gap_s) for part in duty.parts.all()
        ],
    )  # fmt: skip


@dataclasses.dataclass(frozen=True)
class Asked:
    """A duty as it was sent, with the rows it names."""

    plan: duty_mapping.Plan
    circuit: Circuit | None
    run: RecordedRun | None
    parts: list[Duty]


def asked(workshop: Workshop, payload: schemas.DutyIn) -> Asked:
    """Find the rows a payload names, in this workshop, and make its plan. FieldError for one that is not there."""
    circuit = _found("circuit_id", querysets.circuits(workshop), payload.circuit_id)
    run = _found("run_id", RecordedRun.objects.of(workshop).defer("content"), payload.run_id)
    rows = {duty.pk: duty for duty in querysets.duties(workshop)}
    parts = []
    for index, part in enumerate(payload.parts):
        if part.duty_id not in rows:
            raise FieldError(f"parts[{index}].duty_id", part.duty_id, "a duty of this workshop")
        parts.append((rows[part.duty_id], part.times, part.gap_s))
    fields = payload.dict()
    return Asked(duty_mapping.plan_from(fields, circuit, run, parts), circuit, run, [row for row, _, _ in parts])


def _found(name: str, rows: Any, key: int | None) -> Any:
    if key is None:
        return None
    found = rows.filter(pk=key).first()
    if found is None:
        raise FieldError(name, key, "one of this workshop")
    return found


def _saved(request: HttpRequest, duty: Duty | None, payload: schemas.DutyIn) -> schemas.DutyOut:
    workshop = workshop_of(request)
    found = asked(workshop, payload)
    machine = querysets.machines(workshop).first()
    if machine is not None:
        # Driven once before it is written, by the first machine there is: what cannot be driven is not kept.
        duty_mapping.facts_of(machine, found.plan)
    row = saving.save_duty(
        workshop, duty, found.plan, {name: getattr(payload, name) for name in WORDS}, circuit=found.circuit,
        run=found.run, parts=found.parts,
    )  # fmt: skip
    return duty_out(querysets.duties(workshop).get(pk=row.pk))


@router.get("/duties", response=list[schemas.DutyOut], operation_id="duties")
def duties(request: HttpRequest) -> Any:
    return [duty_out(duty) for duty in querysets.duties(workshop_of(request))]


@router.post("/duties", response={201: schemas.DutyOut}, operation_id="add_duty")
def add_duty(request: HttpRequest, payload: schemas.DutyIn) -> Any:
    return Status(201, _saved(request, None, payload))


@router.put("/duties/{duty_id}", response=schemas.DutyOut, operation_id="change_duty")
def change_duty(request: HttpRequest, duty_id: Path[schemas.RowId], payload: schemas.DutyIn) -> Any:
    duty = get_object_or_404(querysets.duties(workshop_of(request)), pk=duty_id)
    return _saved(request, duty, payload)


@router.put("/duties/{duty_id}/removed", response={204: None}, operation_id="remove_duty")
def remove_duty(request: HttpRequest, duty_id: Path[schemas.RowId], payload: schemas.Removed) -> Any:
    duty = get_object_or_404(Duty.objects.of(workshop_of(request)), pk=duty_id)
    saving.set_duty_removed(duty, payload.removed)
    return Status(204, None)


def circuit_out(circuit: Circuit) -> schemas.CircuitOut:
    elements = [schemas.ElementIO(**dataclasses.asdict(element)) for element in duty_mapping.elements_of(circuit)]
    return schemas.CircuitOut(id=circuit.pk, name=circuit.name, closed=circuit.closed, elements=elements)


@router.get("/circuits", response=list[schemas.CircuitOut], operation_id="circuits")
def circuits(request: HttpRequest) -> Any:
    return [circuit_out(circuit) for circuit in querysets.circuits(workshop_of(request))]


def _saved_circuit(request: HttpRequest, circuit: Circuit | None, payload: schemas.CircuitIn) -> schemas.CircuitOut:
    elements = duty_mapping.checked_elements([element.dict() for element in payload.elements])
    row = saving.save_circuit(workshop_of(request), circuit, payload.name, payload.closed, elements)
    return circuit_out(querysets.circuits(workshop_of(request)).get(pk=row.pk))


@router.post("/circuits", response={201: schemas.CircuitOut}, operation_id="add_circuit")
def add_circuit(request: HttpRequest, payload: schemas.CircuitIn) -> Any:
    return Status(201, _saved_circuit(request, None, payload))


@router.put("/circuits/{circuit_id}", response=schemas.CircuitOut, operation_id="change_circuit")
def change_circuit(request: HttpRequest, circuit_id: Path[schemas.RowId], payload: schemas.CircuitIn) -> Any:
    circuit = get_object_or_404(querysets.circuits(workshop_of(request)), pk=circuit_id)
    return _saved_circuit(request, circuit, payload)
