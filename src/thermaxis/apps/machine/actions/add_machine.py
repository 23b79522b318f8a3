"""Add a machine from what is known of it, or copy one that is there."""

from __future__ import annotations

import dataclasses
import datetime as dt
import itertools
from collections.abc import Mapping
from typing import Any

from django.db.models import Model

from thermaxis.apps.accounts.models import Workshop, put
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.catalogue import mapping as catalogue
from thermaxis.apps.catalogue.models import Fluid, Pad, Provenance
from thermaxis.apps.fitted.actions.mount import new_pads, new_rotors, pour, put_pads_on, put_rotors_on
from thermaxis.apps.fitted.models import RotorSize
from thermaxis.apps.fitted.parts import AXLES, DISCARD, ON, PAD_NUMBERS, ROTOR_NUMBERS, ROTOR_SIZE, PadPart, RotorPart
from thermaxis.apps.fitted.querysets import pads_for
from thermaxis.apps.fitted.standing import FLUID_AGE, check_fluid_age, standing_of
from thermaxis.apps.garage import mapping, querysets
from thermaxis.apps.garage.duty_mapping import duty_or_error
from thermaxis.apps.garage.models import Axle, Duty, Machine, Owner
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import Action
from thermaxis.apps.machine.actions.change_machine import ANTI_LOCK, USUAL_TRAILER
from thermaxis.apps.solving.mapping import pad_record
from thermaxis.core.checked import less_than
from thermaxis.core.errors import FieldError, SolveError
from thermaxis.core.planning.machine.classes import VehicleClass, class_named, estimates, paths
from thermaxis.core.records import check_value

ADD_MACHINE = Action("add_machine", "Machine added", kind="machine")
COPY_MACHINE = Action("copy_machine", "Machine copied", kind="machine")

# Where nothing is said: a mild day, near the sea, fluid of middling age. All marked as estimates.
SURROUNDINGS = {"environment.air_C": 20.0, "environment.altitude_m": 100.0, "fluid.fluid_age_months": 24.0}
NUMBERS = {
    "vehicle": mapping.VEHICLE,
    "hydraulics": mapping.HYDRAULICS,
    "powertrain": mapping.OTHER["powertrain"],
    "environment": mapping.OTHER["environment"],
}
PRICE_OF_OWN_ROTOR = 60.0
DISCARD_SHARE = 0.92
LONGEST_NAME = 110


def add_machine(
    scope: Scope,
    *,
    name: str,
    owner: str,
    note: str,
    class_name: str,
    known: Mapping[str, float],
    duty: Duty | None,
    on: dt.date,
    pads: str = "",
) -> Machine:
    """Add a machine: what is known, and for all the rest the estimates of its class, each marked.

    Its rotors are its own, and its pads are as found, of the size it has: a compound of the catalogue where `pads` is
    the name of one, else one of its own under that name, which nobody is offered, taken to be like the mildest made
    for its kind of vehicle. FieldError names what is not allowed.
    """
    workshop = scope.workshop
    chosen = class_named(class_name)
    guesses = estimates(class_name, known)
    allowed = (*paths(), *SURROUNDINGS, "log.odometer_km", *(f"trailer.{column}" for column in mapping.TRAILER))
    for path, value in known.items():
        if path not in allowed:
            raise FieldError(path, value, "one of " + ", ".join(allowed))
        check_value(path, value)
    values: dict[str, float | None] = (
        {path: entry.value for path, entry in guesses.items()} | SURROUNDINGS | dict(known)
    )
    for position in AXLES:
        # The pads' area is worked out from both, before there is a rotor that could refuse them.
        inner, outer = (values[f"{position}.rotor.{side}_radius_m"] for side in ("inner", "outer"))
        if inner is not None and outer is not None and inner >= outer:
            raise less_than(f"{position}.rotor.inner_radius_m", inner, "outer_radius_m", outer)
    marked = [path for path, entry in guesses.items() if entry.value is not None and entry.high != entry.low]
    marked += [path for path in SURROUNDINGS if path not in known]
    if chosen.kind != "motorcycle":
        marked.append(ANTI_LOCK)
    # Nobody is asked for it here: it is cast in the hat, and a guess until somebody has read it there.
    marked += [f"{position}.rotor.{DISCARD}" for position in AXLES]
    with act(scope, ADD_MACHINE) as entry:
        duty = duty or querysets.duties(workshop).filter(use="street").first() or querysets.duties(workshop).first()
        if duty is None:
            raise SolveError("There is no duty yet: add one on the Duty page first.")
        fluid = Fluid.objects.of(workshop).filter(standard="DOT 4").order_by("dry_C").first()
        if fluid is None:
            raise SolveError("The catalogue has no DOT 4 fluid yet: add one first.")
        row = _machine_row(workshop, chosen, name, owner, note, values, duty)
        row.estimates = marked
        row.save()
        pour(row, fluid.pk, on, check_fluid_age(values[FLUID_AGE]))
        for position in AXLES:
            axle = _axle_row(row, chosen, position, values)
            rotors = _rotors(chosen, row, position, values)
            put_rotors_on(row, position, new_rotors(row, axle, rotors), on, duty=duty, entry=None)
            found = _pads(row, axle, pads)
            put_pads_on(row, position, new_pads(row, found), on, duty=duty, entry=None)
        machine = querysets.machines(workshop).get(pk=row.pk)
        mapping.check(machine)
        _check_whole(machine)
        entry.on(machine)
        entry.about(machine)
    return machine


def _machine_row(
    workshop: Workshop,
    chosen: VehicleClass,
    name: str,
    owner: str,
    note: str,
    values: Mapping[str, float | None],
    duty: Duty,
) -> Machine:
    row = Owner.objects.of(workshop).filter(name=owner).first() or Owner.objects.create(workshop=workshop, name=owner)
    power, decel, fade = chosen.regen or (0.0, 0.0, 0.0)
    machine = Machine(
        workshop=workshop,
        owner=row,
        name=name,
        note=note,
        kind=chosen.kind,
        vehicle_class=chosen.name,
        driven=chosen.driven,
        anti_lock=chosen.anti_lock,
        odometer_km=values.get("log.odometer_km") or 0.0,
        duty=duty,
        regen_axle=chosen.driven if chosen.regen else "",
        regen_max_power_W=power,
        regen_max_decel_mps2=decel,
        regen_fade_out_mps=fade,
    )
    for prefix, names in NUMBERS.items():
        put(machine, names, {name: values[f"{prefix}.{name}"] for name in names})
    if "trailer.mass_kg" in values:
        paths_of = {column: f"trailer.{column.removeprefix('trailer_')}" for column in USUAL_TRAILER}
        put(machine, USUAL_TRAILER, {name: values.get(paths_of[name], usual) for name, usual in USUAL_TRAILER.items()})
    return machine


def _axle_row(machine: Machine, chosen: VehicleClass, position: str, values: Mapping[str, float | None]) -> Axle:
    numbers: dict[str, Any] = {name: values[f"{position}.{name}"] for name in (*mapping.AXLE, *mapping.ROOM)}
    if numbers["rotors"] != int(numbers["rotors"]):
        raise FieldError(f"{position}.rotors", numbers["rotors"], "a whole number >= 1 and <= 4")
    # No shape and no mount: nobody has said which of the catalogue's go on.
    axle = Axle(machine=machine, position=position, caliper_kind=getattr(chosen, f"{position}_caliper"))
    put(axle, (*mapping.AXLE, *mapping.ROOM), numbers)
    for name in PAD_NUMBERS:
        setattr(axle, f"pad_{name}", values[f"{position}.pad.{name}"])
    axle.save()
    return axle


def _rotors(chosen: VehicleClass, machine: Machine, position: str, values: Mapping[str, float | None]) -> RotorPart:
    numbers: dict[str, Any] = {name: values[f"{position}.rotor.{name}"] for name in ROTOR_NUMBERS}
    numbers["vanes"] = round(numbers["vanes"])
    numbers |= {"material": chosen.material, "pattern": chosen.pattern, DISCARD: DISCARD_SHARE * numbers["thickness_m"]}
    diameter, thickness = 2000 * numbers["outer_radius_m"], 1000 * numbers["thickness_m"]
    return RotorPart(
        key=ON,
        name=f"{machine.name} {position} {diameter:.0f} x {thickness:.1f}"[:120],
        size=RotorSize(**{name: numbers[name] for name in ROTOR_SIZE}),
        rotor=None,
        price=PRICE_OF_OWN_ROTOR,
        two_piece=numbers["hub_conductance_W_per_K"] < 2.0,
        provenance=Provenance.ESTIMATE,
    )


def _pads(machine: Machine, axle: Axle, name: str) -> PadPart:
    """What was found on an axle: the catalogue's compound of that name, else an unknown one of the machine's own."""
    offered = pads_for(machine, axle)
    if not offered:
        raise SolveError("The catalogue has no pads yet: add one first.")
    name = name.strip()
    known = next((part for part in offered if part.pad.name.casefold() == name.casefold()), None)
    if known is not None:
        return dataclasses.replace(known, shape="", price=0.0)
    mildest = min(offered, key=lambda part: (part.pad.window_high_C, part.pad.pk))
    # Front and rear are taken to be the same: nobody has said otherwise.
    pad = machine.own_pads.filter(as_found=True).first() or _as_found(machine, mildest.pad, name)
    return dataclasses.replace(mildest, pad=pad, shape="", price=0.0)


def _as_found(machine: Machine, like: Pad, name: str) -> Pad:
    """A compound nobody knows: the numbers of another, marked as estimates."""
    pad = Pad.objects.get(pk=like.pk)
    points = list(pad.mu_points.all())
    name = free_name(machine.workshop, name or f"As found on {machine.name}"[:LONGEST_NAME])
    _as_new(pad, machine=machine, name=name, as_found=True, provenance=Provenance.ESTIMATE, bedding="", use_own=False)
    for point in points:
        _as_new(point, pad=pad, provenance=Provenance.ESTIMATE)
    return pad


def _check_whole(machine: Machine) -> None:
    """Rotors and pads alone and together on their axles, each error under the path it was typed at."""
    standing = standing_of(machine)
    parts = standing.parts
    for axle in machine.axles.all():
        with mapping.under(f"{axle.position}.rotor"):
            rotor = catalogue.rotor_record(parts.rotors(axle.position).size)
        with mapping.under(f"{axle.position}.pad"):
            pad = pad_record(parts.pads(axle.position))
        with mapping.under(axle.position):
            mapping.axle_record(axle, rotor, pad)


def copy_machine(scope: Scope, machine: Machine, name: str, on: dt.date) -> Machine:
    """A second machine that starts as the first one is now: its numbers, estimates, set-ups and parts, no history.

    What is the first one's own, compounds told from its numbers among it, the second one gets of its own.
    """
    with act(scope, COPY_MACHINE, machine) as entry:
        standing = standing_of(machine)
        own = list(machine.own_pads.prefetch_related("mu_points"))
        axles, set_ups = list(machine.axles.all()), list(machine.set_ups.there())
        copy = querysets.machines(machine.workshop).get(pk=machine.pk)
        _as_new(copy, name=name)
        for row in (*axles, *set_ups):
            _as_new(row, machine=copy)
        pads_of = {pad.pk: _own_pad(pad, copy) for pad in own}
        duty = duty_or_error(copy)
        pour(copy, standing.fill.fluid_id, on, standing.fluid_months)
        for hose in machine.hoses.filter(until_on=None):
            _as_new(hose, machine=copy, age_months=hose.months_on(on), fitted_on=on, fitted_km=copy.odometer_km)
        for axle in axles:
            place = axle.position
            pads = standing.parts.pads(place)
            pads = dataclasses.replace(pads, pad=pads_of.get(pads.pad.pk, pads.pad))
            put_pads_on(copy, place, new_pads(copy, pads), on, duty=duty, entry=None)
            put_rotors_on(copy, place, new_rotors(copy, axle, standing.parts.rotors(place)), on, duty=duty, entry=None)
        entry.about(copy)
    return querysets.machines(machine.workshop).get(pk=copy.pk)


def _own_pad(pad: Pad, machine: Machine) -> Pad:
    """A compound that is one machine's own, once more for another."""
    points = list(pad.mu_points.all())
    _as_new(pad, machine=machine, name=free_name(machine.workshop, pad.name))
    for point in points:
        _as_new(point, pad=pad)
    return pad


def free_name(workshop: Workshop, name: str) -> str:
    """A compound's name nobody has yet: as it is, else with a number behind it."""
    taken = set(Pad.objects.of(workshop).values_list("name", flat=True))
    names = (name if count == 1 else f"{name[:114]} {count}" for count in itertools.count(1))
    return next(entry for entry in names if entry not in taken)


def _as_new(row: Model, **changes: Any) -> None:
    row.pk, row._state.adding = None, True
    for name, value in changes.items():
        setattr(row, name, value)
    row.save()
