"""Load the demo scenario: an invented workshop, its members' machines, catalogue, circuits and duties."""

from __future__ import annotations

import datetime as dt
import json
from importlib import resources
from typing import Any

from django.contrib.auth import get_user_model
from django.db import transaction

from thermaxis import __version__
from thermaxis.apps.accounts.demo_sign_in import DEMO_USER
from thermaxis.apps.accounts.models import Membership, Role, Workshop
from thermaxis.apps.accounts.scope import Scope, scope_of_owner
from thermaxis.apps.catalogue.models import Fluid, MuPoint, Pad, PadVariant, PartMeasure, Rotor
from thermaxis.apps.fit.actions.intend import count_box, intend
from thermaxis.apps.fitted.actions import mount
from thermaxis.apps.fitted.models import Hose, PadMounting, PadReading
from thermaxis.apps.fitted.offering import choices_of
from thermaxis.apps.fitted.parts import AXLES, offered, sold
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.garage import mapping
from thermaxis.apps.garage.models import Axle, Circuit, CircuitElement, Duty, DutyPart, Machine, Owner
from thermaxis.apps.inspect.actions.inspect import Entry, enter_cells, finish, start_inspection
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import Action
from thermaxis.apps.workshop.actions.demo_bedding import load_bedding
from thermaxis.apps.workshop.actions.demo_jobs import load_fasteners, load_job
from thermaxis.apps.workshop.actions.demo_season import load_season
from thermaxis.core.errors import FieldError

ADD_DEMO_MACHINE = Action("add_demo_machine", "Demo machine added", kind="machine")

# The duties the first machine is shown with: its own, and two that ask more of it.
SHOWN = ("Street mix", "Relay stint, Tarn loop", "Relay stint, fast group")


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
    Membership.objects.create(user=user, workshop=workshop, role=Role.OWNER, read_news_of=__version__)
    loading = _Loading(scope_of_owner(workshop), today)
    loading.catalogue(catalogue)
    for row in garage["circuits"]:
        loading.circuit(row)
    for row in garage["duties"]:
        loading.duty(row)
    for row in garage["machines"]:
        loading.machine(row)
    return workshop


def add_demo_machine(scope: Scope, today: dt.date) -> Machine:
    """The first machine of the demo, its duties and the demo's catalogue, into a workshop that has no machine yet.

    A part whose name the catalogue has already stays as it is. FieldError where there is a machine, or where such a
    part is not the one the machine was given.
    """
    catalogue, garage = _read("catalogue.json"), _read("garage.json")
    with act(scope, ADD_DEMO_MACHINE) as entry:
        if Machine.objects.of(scope.workshop).there().exists():
            raise FieldError("workshop", None, "a workshop without a machine")
        loading = _Loading(scope, today)
        loading.catalogue(catalogue)
        # Where the machine was here before and is out again, its duties are here still.
        loading.duties = {row.name: row for row in Duty.objects.of(scope.workshop).there().filter(name__in=SHOWN)}
        duties = [row for row in garage["duties"] if row["name"] in SHOWN and row["name"] not in loading.duties]
        for row in garage["circuits"]:
            if row["name"] in {duty.get("circuit") for duty in duties}:
                loading.circuit(row)
        for row in duties:
            loading.duty(row)
        machine = loading.machine(garage["machines"][0])
        entry.on(machine)
        entry.about(machine)
    return machine


class _Loading:
    """What has been loaded into one workshop so far, by its name: what comes later refers to it."""

    def __init__(self, scope: Scope, today: dt.date) -> None:
        self.scope, self.workshop, self.today = scope, scope.workshop, today
        self.circuits: dict[str, Circuit] = {}
        self.season = _read("season.json")
        self.duties: dict[str, Duty] = {}

    def catalogue(self, data: dict[str, Any]) -> None:
        fluids, rotors, pads = (
            set(kind.objects.of(self.workshop).values_list(*names))
            for kind, names in ((Fluid, ("name",)), (Rotor, ("name", "mount")), (Pad, ("name",)))
        )
        Fluid.objects.bulk_create(
            Fluid(workshop=self.workshop, **row) for row in data["fluids"] if (row["name"],) not in fluids
        )
        Rotor.objects.bulk_create(
            # What all rings of a mount and all pads of a shape have in common is written once.
            Rotor(workshop=self.workshop, **(data["mounts"][row["mount"]] | row))
            for row in data["rotors"]
            if (row["name"], row["mount"]) not in rotors
        )
        for row in data["pads"]:
            points, variants = row.pop("mu"), row.pop("variants")
            if (row["name"],) not in pads:
                pad = Pad.objects.create(workshop=self.workshop, **row)
                MuPoint.objects.bulk_create(MuPoint(pad=pad, **point) for point in points)
                PadVariant.objects.bulk_create(
                    PadVariant(pad=pad, **(data["shapes"][variant["shape"]] | variant)) for variant in variants
                )
        for row in data["measures"]:
            rotor = Rotor.objects.of(self.workshop).get(name=row["rotor"], mount=row["mount"])
            if not rotor.measures.there().exists():
                PartMeasure.objects.create(
                    workshop=self.workshop,
                    rotor=rotor,
                    name=row["name"],
                    value=row["value"],
                    measured_on=self.today - dt.timedelta(days=row["days"]),
                )

    def circuit(self, row: dict[str, Any]) -> None:
        elements = row.pop("elements")
        circuit = Circuit.objects.create(workshop=self.workshop, **row)
        CircuitElement.objects.bulk_create(
            CircuitElement(circuit=circuit, order=i, **element) for i, element in enumerate(elements)
        )
        self.circuits[circuit.name] = circuit

    def duty(self, row: dict[str, Any]) -> None:
        name, parts = row.pop("circuit", None), row.pop("parts", [])
        duty = Duty.objects.create(workshop=self.workshop, circuit=self.circuits[name] if name else None, **row)
        DutyPart.objects.bulk_create(
            DutyPart(duty=duty, order=i, part=self.duties[part["part"]], times=part["times"], gap_s=part["gap_s"])
            for i, part in enumerate(parts)
        )
        self.duties[duty.name] = duty

    def machine(self, row: dict[str, Any]) -> Machine:
        axles = {position: row.pop(position) for position in ("front", "rear")}
        fitted, inspected = row.pop("set"), row.pop("inspections")
        fluid, months = Fluid.objects.of(self.workshop).get(name=row.pop("fluid")), row.pop("fluid_age_months")
        hoses, intended = row.pop("hoses", []), row.pop("intended", None)
        fasteners, jobs = row.pop("fasteners", {}), row.pop("jobs", [])
        bedding = row.pop("bedding", {})
        owner, _ = Owner.objects.get_or_create(workshop=self.workshop, name=row.pop("owner"))
        duty = self.duties[row.pop("duty")]
        machine = Machine.objects.create(workshop=self.workshop, owner=owner, duty=duty, **row)
        for position, axle in axles.items():
            Axle.objects.create(machine=machine, position=position, **axle)
        mapping.check(machine)
        mounted = self._fit(machine, fitted)
        mount.pour(machine, fluid.pk, self.today, months)
        for axle, kind, age in hoses:
            Hose.objects.create(
                workshop=self.workshop,
                machine=machine,
                axle=axle,
                kind=kind,
                age_months=age,
                fitted_on=self.today,
                fitted_km=machine.odometer_km,
            )
        for axle, thickness, days, km in fitted["measure"]:
            pads = mounted[axle].pad_set
            PadReading.objects.create(
                workshop=self.workshop,
                pad_set=pads,
                mounting=mounted[axle],
                size=pads.size,
                measured_on=self.today - dt.timedelta(days=days),
                odometer_km=km,
                thickness_m=thickness / 1e3,
            )
        for inspection in inspected:
            self._inspection(machine, inspection)
        if intended is not None:
            self._intend(machine, intended)
        load_fasteners(machine, self.scope, fasteners)
        for job in jobs:
            load_job(machine, self.scope, job, self.today)
        load_bedding(machine, self.scope, bedding, self.today)
        load_season(machine, self.scope, self.season.get(machine.name, {}), self.duties, self.today)
        return machine

    def _intend(self, machine: Machine, row: dict[str, Any]) -> None:
        """The set that is to go on, with what is in its boxes."""
        choices = choices_of(standing_of(machine))
        pads = [
            str(next(pk for pk, part in choices.pads[axle].items() if part.pad.name == row[f"{axle}_pad"]))
            for axle in AXLES
        ]
        rotors = [
            next(part.key for part in choices.rotors[axle] if part.name == row[f"{axle}_rotor"]) for axle in AXLES
        ]
        intend(self.scope, machine, "-".join((*pads, *rotors)))
        for axle, items in row["box"].items():
            count_box(self.scope, machine, axle, items, {})

    def _fit(self, machine: Machine, fitted: dict[str, Any]) -> dict[str, PadMounting]:
        """The set as it went on, at the odometer of that day."""
        duty = self.duties[fitted["duty"]]
        on = self.today - dt.timedelta(days=fitted["days"])
        now_km, machine.odometer_km = machine.odometer_km, fitted["km"]
        mounted: dict[str, PadMounting] = {}
        for axle in machine.axles.all():
            place = axle.position
            pad, rotor_name = fitted[f"{place}_pad"], fitted[f"{place}_rotor"]
            variant = PadVariant.objects.filter(
                pad__workshop=self.workshop, pad__name=pad, shape=axle.pad_shape
            ).first()
            if variant is None:
                raise FieldError("catalogue", pad, "the demo's compound of this name: the catalogue has another")
            rotor = Rotor.objects.of(self.workshop).get(name=rotor_name, mount=axle.rotor_mount)
            pads = mount.new_pads(machine, sold(variant, axle))
            pair = mount.new_rotors(machine, axle, offered(rotor))
            mounted[place] = mount.put_pads_on(machine, place, pads, on, duty=duty, entry=None)
            mount.put_rotors_on(machine, place, pair, on, duty=duty, entry=None)
        machine.odometer_km = now_km
        return mounted

    def _inspection(self, machine: Machine, row: dict[str, Any]) -> None:
        """An inspection as it was entered, lengths in mm."""
        on = self.today - dt.timedelta(days=row["days"])
        inspection = start_inspection(self.scope, machine, on, row["km"])
        entries = {}
        for name, value in row["cells"].items():
            length = isinstance(value, float | int) and not isinstance(value, bool) and name != "fluid_age"
            entries[name] = Entry(
                value=round(value / 1e3, 8) if length else value, source="gauge" if length else "hand"
            )
        outcome = enter_cells(self.scope, inspection, entries)
        if outcome.asks or outcome.refused:
            raise ValueError(f"{machine.name}: {outcome}")
        finish(self.scope, inspection)
