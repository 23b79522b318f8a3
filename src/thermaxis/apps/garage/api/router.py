"""Machines, the classes they are estimated by, and the duty in force."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Path, Router, Status

from thermaxis.apps.accounts.api.router import workshop_of
from thermaxis.apps.catalogue.models import Fluid
from thermaxis.apps.garage import mapping, querysets
from thermaxis.apps.garage.actions import change_machine as changing
from thermaxis.apps.garage.actions.choose_duty import choose_duty
from thermaxis.apps.garage.api import duties, schemas
from thermaxis.apps.garage.api.duty_schemas import Removed, RowId
from thermaxis.apps.garage.models import Machine
from thermaxis.core.planning.machine import measuring
from thermaxis.core.planning.machine.classes import CLASSES, MassPart, estimates

router = Router()
router.add_router("", duties.router)


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
        vehicle_class=machine.vehicle_class, driven=machine.driven, regen_axle=machine.regen_axle,
        towing=machine.towing and machine.trailer_mass_kg is not None, masses=machine.masses,
        values={path: getattr(row, column) for path, (row, column) in mapping.paths(machine).items()},
        estimates=machine.estimates,
    )  # fmt: skip


@router.get("/machines", response=list[schemas.MachineRow], operation_id="machines")
def machines(request: HttpRequest) -> Any:
    return [schemas.MachineRow(**machine_row(machine)) for machine in querysets.machines(workshop_of(request))]


@router.get("/machines/{machine_id}", response=schemas.MachineOut, operation_id="machine")
def machine(request: HttpRequest, machine_id: Path[RowId]) -> Any:
    return machine_out(machine_of(request, machine_id))


@router.patch("/machines/{machine_id}", response=schemas.MachineOut, operation_id="change_machine")
def patch_machine(request: HttpRequest, machine_id: Path[RowId], payload: schemas.Changes) -> Any:
    machine = machine_of(request, machine_id)
    return machine_out(changing.change_machine(machine, payload.changes, payload.left_open))


@router.put("/machines/{machine_id}/words", response=schemas.MachineOut, operation_id="change_words")
def put_words(request: HttpRequest, machine_id: Path[RowId], payload: schemas.Words) -> Any:
    return machine_out(changing.change_words(machine_of(request, machine_id), payload.words))


@router.put("/machines/{machine_id}/masses", response=schemas.MachineOut, operation_id="set_masses")
def put_masses(request: HttpRequest, machine_id: Path[RowId], payload: schemas.Masses) -> Any:
    parts = [MassPart(**part.dict()) for part in payload.parts]
    return machine_out(changing.set_masses(machine_of(request, machine_id), parts))


@router.put("/machines/{machine_id}/removed", response={204: None}, operation_id="remove_machine")
def put_removed(request: HttpRequest, machine_id: Path[RowId], payload: Removed) -> Any:
    machine = get_object_or_404(Machine.objects.of(workshop_of(request)), pk=machine_id)
    changing.set_removed(machine, payload.removed)
    return Status(204, None)


@router.get("/fluids", response=list[schemas.FluidOut], operation_id="fluids")
def fluids(request: HttpRequest) -> Any:
    return list(Fluid.objects.of(workshop_of(request)).order_by("dry_C"))


@router.get("/classes", response=list[schemas.ClassOut], operation_id="classes")
def classes(request: HttpRequest) -> Any:
    return [
        schemas.ClassOut(
            name=entry.name, label=entry.label, kind=entry.kind, driven=entry.driven, front_caliper=entry.front_caliper,
            rear_caliper=entry.rear_caliper,
        )
        for entry in CLASSES.values()
    ]  # fmt: skip


@router.post("/classes/{name}/estimates", response=dict[str, schemas.EstimateOut], operation_id="class_estimates")
def class_estimates(request: HttpRequest, name: str, payload: schemas.Known) -> Any:
    return {path: schemas.EstimateOut(**asdict(entry)) for path, entry in estimates(name, payload.known).items()}


@router.put("/machines/{machine_id}/duty", response=schemas.MachineOut, operation_id="choose_duty")
def put_duty(request: HttpRequest, machine_id: Path[RowId], payload: schemas.DutyChoice) -> Any:
    duty = get_object_or_404(querysets.duties(workshop_of(request)), pk=payload.duty_id)
    return machine_out(choose_duty(machine_of(request, machine_id), duty))


@router.post("/measure/{method}", response=schemas.WorkedOut, operation_id="work_out")
def work_out(request: HttpRequest, method: str, payload: schemas.Measured) -> Any:
    return schemas.WorkedOut(values=measuring.work_out(method, payload.numbers))
