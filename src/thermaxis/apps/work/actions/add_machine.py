"""Add a machine from what is known of it, or copy one that is there."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from typing import Any

from django.db.models import Model

from thermaxis import __version__
from thermaxis.apps.accounts.changes import change
from thermaxis.apps.accounts.models import Workshop, put
from thermaxis.apps.catalogue import mapping as catalogue
from thermaxis.apps.catalogue.models import Fluid, Pad, PadVariant, Provenance, Rotor
from thermaxis.apps.garage import mapping, querysets
from thermaxis.apps.garage.actions.change_machine import USUAL_TRAILER
from thermaxis.apps.garage.models import Axle, Duty, Machine, Owner
from thermaxis.apps.work import querysets as sets
from thermaxis.apps.work.actions.change_parts import DISCARD, PAD_NUMBERS, POSITIONS, ROTOR_NUMBERS, own_shape
from thermaxis.apps.work.compute import set_or_error
from thermaxis.apps.work.models import FittedSet
from thermaxis.core.errors import FieldError, SolveError
from thermaxis.core.planning.machine.classes import VehicleClass, class_named, estimates, paths

# Where nothing is said: a mild day, near the sea, fluid of middling age. All marked as estimates.
SURROUNDINGS = {"environment.air_C": 20.0, "environment.altitude_m": 100.0, "fluid.fluid_age_months": 24.0}
NUMBERS = {
    "vehicle": mapping.VEHICLE, "hydraulics": mapping.HYDRAULICS, "powertrain": mapping.OTHER["powertrain"],
    "environment": mapping.OTHER["environment"],
}  # fmt: skip
PRICE_OF_OWN_ROTOR = 60.0
DISCARD_SHARE = 0.92


def add_machine(
    workshop: Workshop, *, name: str, owner: str, note: str, class_name: str, known: Mapping[str, float],
    duty: Duty | None, on: dt.date,
) -> Machine:  # fmt: skip
    """Add a machine: what is known, and for all the rest the estimates of its class, each marked.

    Its rotors and pad shapes are its own, so that they can be corrected without touching the catalogue; every
    compound made for its kind of vehicle is offered in its shapes. FieldError names what is not allowed.
    """
    chosen = class_named(class_name)
    guesses = estimates(class_name, known)
    allowed = (*paths(), *SURROUNDINGS, "log.odometer_km", *(f"trailer.{column}" for column in mapping.TRAILER))
    for path, value in known.items():
        if path not in allowed:
            raise FieldError(path, value, "one of " + ", ".join(allowed))
    values: dict[str, float | None] = (
        {path: entry.value for path, entry in guesses.items()} | SURROUNDINGS | dict(known)
    )
    marked = [path for path, entry in guesses.items() if entry.value is not None and entry.high != entry.low]
    marked += [path for path in SURROUNDINGS if path not in known]
    # Nobody is asked for it here: it is cast in the hat, and a guess until somebody has read it there.
    marked += [f"{position}.rotor.{DISCARD}" for position in POSITIONS]
    duty = duty or querysets.duties(workshop).filter(use="street").first() or querysets.duties(workshop).first()
    if duty is None:
        raise SolveError("There is no duty yet: add one on the Duty page first.")
    with change():
        machine = _machine_row(workshop, chosen, name, owner, note, values, duty)
        machine.estimates = marked
        machine.save()
        fitted = FittedSet(
            workshop=workshop, machine=machine, duty=duty, fitted_on=on, fitted_km=machine.odometer_km,
            engine_version=__version__,
        )  # fmt: skip
        for position in POSITIONS:
            axle = _axle_row(machine, chosen, position, values)
            setattr(fitted, f"{position}_rotor", _rotor_row(machine, chosen, position, values))
            setattr(fitted, f"{position}_pad", _pad_rows(machine, axle, values))
        machine = querysets.machines(workshop).get(pk=machine.pk)
        mapping.check(machine)
        fitted.save()
        _check_whole(machine)
    return machine


def _machine_row(
    workshop: Workshop, chosen: VehicleClass, name: str, owner: str, note: str, values: Mapping[str, float | None],
    duty: Duty,
) -> Machine:  # fmt: skip
    fluid = Fluid.objects.of(workshop).filter(standard="DOT 4").order_by("dry_C").first()
    if fluid is None:
        raise SolveError("The catalogue has no DOT 4 fluid yet: add one first.")
    row = Owner.objects.of(workshop).filter(name=owner).first() or Owner.objects.create(workshop=workshop, name=owner)
    power, decel, fade = chosen.regen or (0.0, 0.0, 0.0)
    machine = Machine(
        workshop=workshop, owner=row, name=name, note=note, kind=chosen.kind, vehicle_class=chosen.name,
        driven=chosen.driven, odometer_km=values.get("log.odometer_km") or 0.0, duty=duty, fluid=fluid,
        fluid_age_months=values["fluid.fluid_age_months"] or 0.0, regen_axle=chosen.driven if chosen.regen else "",
        regen_max_power_W=power, regen_max_decel_mps2=decel, regen_fade_out_mps=fade,
    )  # fmt: skip
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
    axle = Axle(
        machine=machine, position=position, caliper_kind=getattr(chosen, f"{position}_caliper"),
        pad_shape=own_shape(machine, position), rotor_mount=own_shape(machine, position),
    )  # fmt: skip
    put(axle, (*mapping.AXLE, *mapping.ROOM), numbers)
    axle.save()
    return axle


def _rotor_row(machine: Machine, chosen: VehicleClass, position: str, values: Mapping[str, float | None]) -> Rotor:
    numbers: dict[str, Any] = {name: values[f"{position}.rotor.{name}"] for name in ROTOR_NUMBERS}
    numbers["vanes"] = round(numbers["vanes"])
    diameter, thickness = 2000 * numbers["outer_radius_m"], 1000 * numbers["thickness_m"]
    rotor = Rotor(
        workshop=machine.workshop, name=f"{machine.name} {position} {diameter:.0f} x {thickness:.1f}"[:120],
        provenance=Provenance.ESTIMATE, mount=own_shape(machine, position), own=True, material=chosen.material,
        pattern=chosen.pattern, two_piece=numbers["hub_conductance_W_per_K"] < 2.0, price=PRICE_OF_OWN_ROTOR,
        discard_thickness_m=DISCARD_SHARE * numbers["thickness_m"],
    )  # fmt: skip
    put(rotor, ROTOR_NUMBERS, numbers)
    rotor.save()
    return rotor


def _pad_rows(machine: Machine, axle: Axle, values: Mapping[str, float | None]) -> PadVariant:
    """Every compound for this kind of vehicle in the machine's shape; the mildest of them is taken to be on it."""
    numbers: dict[str, Any] = {name: values[f"{axle.position}.pad.{name}"] for name in PAD_NUMBERS}
    kinds = ["motorcycle"] if machine.kind == "motorcycle" else ["car", "truck"]
    shapes = Axle.objects.filter(machine__workshop=machine.workshop, machine__kind__in=kinds).exclude(machine=machine)
    pads = Pad.objects.of(machine.workshop).filter(variants__shape__in=shapes.values("pad_shape")).distinct()
    found = list(pads or Pad.objects.of(machine.workshop))
    if not found:
        raise SolveError("The catalogue has no pads yet: add one first.")
    for pad in found:
        near = min(pad.variants.all(), key=lambda row: abs(row.area_m2 - numbers["area_m2"]), default=None)
        variant = PadVariant(
            pad=pad, shape=axle.pad_shape, price=near.price if near else 0.0, provenance=Provenance.ESTIMATE
        )
        put(variant, PAD_NUMBERS, numbers)
        variant.save()
    mildest = min(found, key=lambda pad: (pad.window_high_C, pad.pk))
    return PadVariant.objects.select_related("pad").get(pad=mildest, shape=axle.pad_shape)


def _check_whole(machine: Machine) -> None:
    """Rotors and pads alone and together on their axles, each error under the path it was typed at."""
    fitted = set_or_error(machine)
    for axle in machine.axles.all():
        with mapping.under(f"{axle.position}.rotor"):
            rotor = catalogue.rotor_record(getattr(fitted, f"{axle.position}_rotor"))
        with mapping.under(f"{axle.position}.pad"):
            pad = catalogue.pad_record(getattr(fitted, f"{axle.position}_pad"))
        with mapping.under(axle.position):
            mapping.axle_record(axle, rotor, pad)


def copy_machine(machine: Machine, name: str, on: dt.date) -> Machine:
    """A second machine that starts as the first one is now: its numbers, estimates, set-ups and parts, no history."""
    fitted = sets.set_in_force(machine)
    with change():
        axles, set_ups = list(machine.axles.all()), list(machine.set_ups.filter(removed_at=None))
        copy = querysets.machines(machine.workshop).get(pk=machine.pk)
        _as_new(copy, name=name)
        for row in (*axles, *set_ups):
            _as_new(row, machine=copy)
        if fitted is not None:
            _as_new(
                fitted, machine=copy, fitted_on=on, fitted_km=copy.odometer_km, inputs={}, reason="",
                engine_version=__version__,
            )  # fmt: skip
    return querysets.machines(machine.workshop).get(pk=copy.pk)


def _as_new(row: Model, **changes: Any) -> None:
    row.pk, row._state.adding = None, True
    for name, value in changes.items():
        setattr(row, name, value)
    row.save()
