"""Give a machine parts of its own: what was measured on it, beside the catalogue's rows that others use as well."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from thermaxis.apps.accounts.changes import change
from thermaxis.apps.catalogue import mapping as catalogue
from thermaxis.apps.catalogue.models import PadVariant, Provenance, Rotor
from thermaxis.apps.garage.mapping import axle_record, under
from thermaxis.apps.garage.models import Axle, Machine
from thermaxis.apps.work.compute import set_or_error
from thermaxis.apps.work.models import FittedSet
from thermaxis.core.errors import FieldError

ROTOR_NUMBERS = (
    "outer_radius_m", "inner_radius_m", "thickness_m", "gap_m", "vanes", "vane_thickness_m", "hub_conductance_W_per_K",
)  # fmt: skip
ROTOR_WORDS = ("material", "pattern")
# Cast in the hat: a number of its own, which no other one moves.
DISCARD, MOST_DISCARD_M = "discard_thickness_m", 0.1
PAD_NUMBERS = ("area_m2", "thickness_m", "backing_m")
POSITIONS = ("front", "rear")
Value = float | str


def part_values(fitted: FittedSet) -> dict[str, Value]:
    """Every number and word of the fitted rotors and pads, by its path."""
    found: dict[str, Value] = {}
    for position in POSITIONS:
        rotor, pad = getattr(fitted, f"{position}_rotor"), getattr(fitted, f"{position}_pad")
        found |= {f"{position}.rotor.{name}": getattr(rotor, name) for name in (*ROTOR_NUMBERS, DISCARD, *ROTOR_WORDS)}
        found |= {f"{position}.pad.{name}": getattr(pad, name) for name in PAD_NUMBERS}
    return found


def change_parts(machine: Machine, changes: Mapping[str, Value], *, estimate: bool = False) -> FittedSet:
    """Change numbers of the fitted rotors and pads by their paths; all or none. FieldError names what is not allowed.

    A catalogue row stays as it is: the machine gets a rotor, or a pad shape, of its own that differs. `estimate`
    marks what was changed as guessed instead of measured.
    """
    with change():
        machine.refresh_from_db()
        fitted = set_or_error(machine)
        known = part_values(fitted)
        for path, value in changes.items():
            if path not in known:
                raise FieldError(path, value, "one of " + ", ".join(known))
            if isinstance(value, str) != isinstance(known[path], str):
                raise FieldError(path, value, "a word" if isinstance(known[path], str) else "a number")
        for axle in machine.axles.all():
            rotor = _of(changes, f"{axle.position}.rotor.")
            pad = _of(changes, f"{axle.position}.pad.")
            if rotor:
                setattr(fitted, f"{axle.position}_rotor", _own_rotor(fitted, axle, rotor))
            if pad:
                setattr(fitted, f"{axle.position}_pad", _own_shape(machine, axle, fitted, pad))
            with under(axle.position):
                axle_record(
                    axle, catalogue.rotor_record(getattr(fitted, f"{axle.position}_rotor")),
                    catalogue.pad_record(getattr(fitted, f"{axle.position}_pad")),
                )  # fmt: skip
        fitted.save()
        others = [path for path in machine.estimates if path not in changes]
        machine.estimates = [*others, *changes] if estimate else others
        machine.save(update_fields=["estimates"])
    return fitted


def _of(changes: Mapping[str, Value], prefix: str) -> dict[str, Value]:
    return {path.removeprefix(prefix): value for path, value in changes.items() if path.startswith(prefix)}


def _own_rotor(fitted: FittedSet, axle: Axle, changes: dict[str, Value]) -> Rotor:
    rotor: Rotor = getattr(fitted, f"{axle.position}_rotor")
    if not rotor.own or _used_elsewhere(rotor, fitted.machine):
        rotor.name = f"{rotor.name}, as on {fitted.machine.name}"[:120]
        rotor.pk, rotor.own, rotor._state.adding = None, True, True
    rotor.provenance = Provenance.MEASURED
    _set(rotor, changes)
    with under(f"{axle.position}.rotor"):
        catalogue.rotor_record(rotor)
        if not 0 < rotor.discard_thickness_m <= MOST_DISCARD_M:
            raise FieldError(DISCARD, rotor.discard_thickness_m, f"a number > 0 and <= {MOST_DISCARD_M:g}")
    rotor.save()
    return rotor


def _used_elsewhere(rotor: Rotor, machine: Machine) -> bool:
    sets = FittedSet.objects.exclude(machine=machine)
    return sets.filter(front_rotor=rotor).exists() or sets.filter(rear_rotor=rotor).exists()


def own_shape(machine: Machine, position: str) -> str:
    """Name of the pad shape that is this machine's alone."""
    return f"M{machine.pk}-{position}"


def _own_shape(machine: Machine, axle: Axle, fitted: FittedSet, changes: dict[str, Value]) -> PadVariant:
    """The fitted compound in the machine's own shape; every compound of the old shape comes along."""
    name, current = own_shape(machine, axle.position), getattr(fitted, f"{axle.position}_pad")
    variants = list(
        PadVariant.objects.filter(pad__workshop=machine.workshop, shape=axle.pad_shape).select_related("pad")
    )
    found: PadVariant = current
    for variant in variants:
        mine = variant.pad_id == current.pad_id
        if axle.pad_shape != name:
            variant.pk, variant._state.adding, variant.shape = None, True, name
            variant.provenance = Provenance.ESTIMATE
        _set(variant, changes)
        with under(f"{axle.position}.pad"):
            catalogue.pad_record(variant)
        variant.save()
        found = variant if mine else found
    if axle.pad_shape != name:
        axle.pad_shape = name
        axle.save(update_fields=["pad_shape"])
    return found


def _set(row: Any, changes: dict[str, Value]) -> None:
    for name, value in changes.items():
        setattr(
            row, name, int(value) if name == "vanes" and isinstance(value, float) and value == int(value) else value
        )
