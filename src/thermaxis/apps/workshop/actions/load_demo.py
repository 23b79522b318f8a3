"""Load the demo scenario: an invented workshop, its members' machines, catalogue, circuits and duties."""

from __future__ import annotations

import datetime as dt
import json
from importlib import resources
from typing import Any

from django.contrib.auth import get_user_model
from django.db import transaction

from thermaxis.apps.accounts.demo_sign_in import DEMO_USER
from thermaxis.apps.accounts.models import Membership, Role, Workshop
from thermaxis.apps.accounts.scope import Scope, scope_of_owner
from thermaxis.apps.catalogue.models import Fluid, MuPoint, Pad, PadVariant, Rotor
from thermaxis.apps.fitted.actions import mount
from thermaxis.apps.fitted.models import Hose, PadReading
from thermaxis.apps.fitted.parts import offered, sold
from thermaxis.apps.garage import mapping
from thermaxis.apps.garage.models import (
    Axle,
    Circuit,
    CircuitElement,
    Duty,
    DutyPart,
    DutySection,
    DutyStop,
    Machine,
    Owner,
)
from thermaxis.apps.inspect.actions.inspect import Entry, enter_cells, finish, start_inspection


def _read(name: str) -> dict[str, Any]:
    text = resources.files("thermaxis.demo").joinpath(name).read_text("utf-8")
    data: dict[str, Any] = json.loads(text)
    return data


@transaction.atomic
def load_demo(today: dt.date) -> Workshop:
    """Load everything once; a second call finds the workshop there and changes nothing."""
    catalogue, garage = _read("catalogue.json"), _read("garage.json")
    existing = Workshop.objects.filter(name=catalogue["workshop"]).first()
    if existing is not None:
        return existing
    workshop = Workshop.objects.create(name=catalogue["workshop"], currency=catalogue["currency"])
    # No password can match this one: the demo user comes in through the loopback sign-in only.
    user = get_user_model().objects.create_user(DEMO_USER)
    Membership.objects.create(user=user, workshop=workshop, role=Role.OWNER)
    _load_catalogue(workshop, catalogue)
    for row in garage["circuits"]:
        elements = row.pop("elements")
        circuit = Circuit.objects.create(workshop=workshop, **row)
        CircuitElement.objects.bulk_create(
            CircuitElement(circuit=circuit, order=i, **element) for i, element in enumerate(elements)
        )
    for row in garage["duties"]:
        _load_duty(workshop, row)
    for row in garage["machines"]:
        _load_machine(workshop, row, today)
    return workshop


def _load_duty(workshop: Workshop, row: dict[str, Any]) -> None:
    name = row.pop("circuit")
    stops, sections, parts = row.pop("stops"), row.pop("sections", []), row.pop("parts", [])
    circuit = Circuit.objects.of(workshop).get(name=name) if name else None
    duty = Duty.objects.create(workshop=workshop, circuit=circuit, **row)
    DutyStop.objects.bulk_create(DutyStop(duty=duty, order=i, **stop) for i, stop in enumerate(stops))
    DutySection.objects.bulk_create(DutySection(duty=duty, order=i, **entry) for i, entry in enumerate(sections))
    DutyPart.objects.bulk_create(
        DutyPart(
            duty=duty,
            order=i,
            part=Duty.objects.of(workshop).get(name=part["part"]),
            times=part["times"],
            gap_s=part["gap_s"],
        )
        for i, part in enumerate(parts)
    )


def _load_catalogue(workshop: Workshop, data: dict[str, Any]) -> None:
    Fluid.objects.bulk_create(Fluid(workshop=workshop, **row) for row in data["fluids"])
    Rotor.objects.bulk_create(Rotor(workshop=workshop, **row) for row in data["rotors"])
    for row in data["pads"]:
        points, variants = row.pop("mu"), row.pop("variants")
        pad = Pad.objects.create(workshop=workshop, **row)
        MuPoint.objects.bulk_create(MuPoint(pad=pad, **point) for point in points)
        PadVariant.objects.bulk_create(PadVariant(pad=pad, **variant) for variant in variants)


def _load_machine(workshop: Workshop, row: dict[str, Any], today: dt.date) -> None:
    axles = {position: row.pop(position) for position in ("front", "rear")}
    fitted, inspected = row.pop("set"), row.pop("inspections")
    fluid, months = Fluid.objects.of(workshop).get(name=row.pop("fluid")), row.pop("fluid_age_months")
    hoses = row.pop("hoses", [])
    owner, _ = Owner.objects.get_or_create(workshop=workshop, name=row.pop("owner"))
    machine = Machine.objects.create(
        workshop=workshop, owner=owner, duty=Duty.objects.of(workshop).get(name=row.pop("duty")), **row
    )
    for position, axle in axles.items():
        Axle.objects.create(machine=machine, position=position, **axle)
    mapping.check(machine)
    duty = Duty.objects.of(workshop).get(name=fitted["duty"])
    on = today - dt.timedelta(days=fitted["days"])
    now_km, machine.odometer_km = machine.odometer_km, fitted["km"]
    mounted = {}
    for axle_row in machine.axles.all():
        place = axle_row.position
        variant = PadVariant.objects.get(
            pad__workshop=workshop, pad__name=fitted[f"{place}_pad"], shape=axle_row.pad_shape
        )
        rotor = Rotor.objects.of(workshop).get(name=fitted[f"{place}_rotor"], mount=axle_row.rotor_mount)
        pads = mount.new_pads(machine, sold(variant, axle_row))
        pair = mount.new_rotors(machine, axle_row, offered(rotor))
        mounted[place] = mount.put_pads_on(machine, place, pads, on, duty=duty, entry=None)
        mount.put_rotors_on(machine, place, pair, on, duty=duty, entry=None)
    machine.odometer_km = now_km
    mount.pour(machine, fluid.pk, today, months)
    for axle, kind, age in hoses:
        Hose.objects.create(
            workshop=workshop, machine=machine, axle=axle, kind=kind, age_months=age, fitted_on=today, fitted_km=now_km
        )
    for axle, thickness, days, km in fitted["measure"]:
        pads = mounted[axle].pad_set
        PadReading.objects.create(
            workshop=workshop,
            pad_set=pads,
            mounting=mounted[axle],
            size=pads.size,
            measured_on=today - dt.timedelta(days=days),
            odometer_km=km,
            thickness_m=thickness / 1e3,
        )
    for entry in inspected:
        _load_inspection(scope_of_owner(workshop), machine, entry, today)


def _load_inspection(scope: Scope, machine: Machine, row: dict[str, Any], today: dt.date) -> None:
    """An inspection as it was entered, lengths in mm."""
    inspection = start_inspection(scope, machine, today - dt.timedelta(days=row["days"]), row["km"])
    entries = {}
    for name, value in row["cells"].items():
        length = isinstance(value, float | int) and not isinstance(value, bool) and name != "fluid_age"
        entries[name] = Entry(value=round(value / 1e3, 8) if length else value, source="gauge" if length else "hand")
    outcome = enter_cells(scope, inspection, entries)
    if outcome.asks or outcome.refused:
        raise ValueError(f"{machine.name}: {outcome}")
    finish(scope, inspection)
