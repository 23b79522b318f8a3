"""Machines and duties."""

from __future__ import annotations

from typing import Annotated, Any

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Path, Router
from pydantic import Field

from thermaxis.apps.accounts.api.router import workshop_of
from thermaxis.apps.garage import mapping, querysets
from thermaxis.apps.garage.actions.change_machine import change_machine
from thermaxis.apps.garage.actions.choose_duty import choose_duty
from thermaxis.apps.garage.api import schemas
from thermaxis.apps.garage.models import Duty, Machine
from thermaxis.core.planning import measuring

router = Router()
RowId = Annotated[int, Field(ge=1, le=2**53)]


def machine_of(request: HttpRequest, machine_id: int) -> Machine:
    """A machine of the user's workshop, or 404."""
    return get_object_or_404(querysets.machines(workshop_of(request)), pk=machine_id)


def machine_row(machine: Machine) -> dict[str, Any]:
    return {
        "id": machine.pk, "name": machine.name, "note": machine.note, "owner": machine.owner.name, "kind": machine.kind,
        "odometer_km": machine.odometer_km, "duty": machine.duty.name if machine.duty else None,
    }  # fmt: skip


def machine_out(machine: Machine) -> schemas.MachineOut:
    axles = {axle.position: axle for axle in machine.axles.all()}
    return schemas.MachineOut(
        **machine_row(machine),
        fluid=machine.fluid.name, fluid_standard=machine.fluid.standard,
        duty_id=machine.duty.pk if machine.duty else None,
        front_caliper=axles["front"].caliper_kind, rear_caliper=axles["rear"].caliper_kind,
        values={path: getattr(row, column) for path, (row, column) in mapping.paths(machine).items()},
        estimates=machine.estimates,
    )  # fmt: skip


def duty_out(duty: Duty) -> schemas.DutyOut:
    return schemas.DutyOut(
        id=duty.pk, name=duty.name, kind=duty.kind, use=duty.use, note=duty.note,
        events_per_month=duty.events_per_month,
        circuit=duty.circuit.name if duty.circuit else None, laps=duty.laps, cool_down_laps=duty.cool_down_laps,
        driver_level=duty.driver_level,
    )  # fmt: skip


@router.get("/machines", response=list[schemas.MachineRow], operation_id="machines")
def machines(request: HttpRequest) -> Any:
    return [schemas.MachineRow(**machine_row(machine)) for machine in querysets.machines(workshop_of(request))]


@router.get("/machines/{machine_id}", response=schemas.MachineOut, operation_id="machine")
def machine(request: HttpRequest, machine_id: Path[RowId]) -> Any:
    return machine_out(machine_of(request, machine_id))


@router.patch("/machines/{machine_id}", response=schemas.MachineOut, operation_id="change_machine")
def patch_machine(request: HttpRequest, machine_id: Path[RowId], payload: schemas.Changes) -> Any:
    return machine_out(change_machine(machine_of(request, machine_id), payload.changes))


@router.get("/duties", response=list[schemas.DutyOut], operation_id="duties")
def duties(request: HttpRequest) -> Any:
    return [duty_out(duty) for duty in querysets.duties(workshop_of(request))]


@router.put("/machines/{machine_id}/duty", response=schemas.MachineOut, operation_id="choose_duty")
def put_duty(request: HttpRequest, machine_id: Path[RowId], payload: schemas.DutyChoice) -> Any:
    duty = get_object_or_404(querysets.duties(workshop_of(request)), pk=payload.duty_id)
    return machine_out(choose_duty(machine_of(request, machine_id), duty))


@router.post("/measure/{method}", response=schemas.WorkedOut, operation_id="work_out")
def work_out(request: HttpRequest, method: str, payload: schemas.Measured) -> Any:
    return schemas.WorkedOut(values=measuring.work_out(method, payload.numbers))
