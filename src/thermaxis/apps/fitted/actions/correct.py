"""Correct the size of what is on a machine: a new version of it; what was read against the old one keeps that."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.catalogue import mapping as catalogue
from thermaxis.apps.fitted.models import PadSet, PadSize, RotorPair, RotorSize
from thermaxis.apps.fitted.parts import AXLES, DISCARD, PAD_NUMBERS, ROTOR_SIZE
from thermaxis.apps.fitted.standing import Standing, standing_of
from thermaxis.apps.garage.mapping import axle_record, under
from thermaxis.apps.garage.models import Axle, Machine
from thermaxis.apps.log.act import act, must_be
from thermaxis.apps.log.action import Action
from thermaxis.core.errors import Bounds, FieldError

CHANGE_PARTS = Action("change_parts", "Numbers of parts changed", kind="machine")

MOST_DISCARD_M = 0.1
Value = float | str


def part_values(standing: Standing) -> dict[str, Value]:
    """Every number and word of the rotors and pads that are on, by its path."""
    found: dict[str, Value] = {}
    for axle in AXLES:
        rotors, pads = standing.rotors(axle).size, standing.pads(axle).size
        found |= {f"{axle}.rotor.{name}": getattr(rotors, name) for name in ROTOR_SIZE}
        found |= {f"{axle}.pad.{name}": getattr(pads, name) for name in PAD_NUMBERS}
    return found


def change_parts(
    scope: Scope, machine: Machine, changes: Mapping[str, Value], seen: Mapping[str, Value] = {}
) -> Standing:
    """Change numbers of the rotors and pads that are on, by their paths; all or none. FieldError names what is not
    allowed, Clash what is not as it was `seen`.

    The catalogue stays as it is. Pads of any other compound would be of the measured size too, as that is what the
    axle's calipers take.
    """
    with act(scope, CHANGE_PARTS, machine) as entry:
        standing = standing_of(machine)
        known = part_values(standing)
        must_be(known, seen, changes)
        for path, value in changes.items():
            if path not in known:
                raise FieldError(path, value, "one of " + ", ".join(known))
            if isinstance(value, str) != isinstance(known[path], str):
                raise FieldError(path, value, "a word" if isinstance(known[path], str) else "a number")
            entry.changed(path, known[path], value)
        for axle in machine.axles.all():
            pads, rotors = standing.pads(axle.position), standing.rotors(axle.position)
            rotor_changes = _of(changes, f"{axle.position}.rotor.")
            if rotor_changes:
                _correct_rotors(axle, rotors, rotor_changes)
                entry.about(rotors)
            pad_changes = _of(changes, f"{axle.position}.pad.")
            if pad_changes:
                _correct_pads(axle, pads, pad_changes)
                entry.about(pads)
            with under(axle.position):
                axle_record(axle, catalogue.rotor_record(rotors.size), _pad_record(pads))
        machine.estimates = [path for path in machine.estimates if path not in changes]
        machine.save(update_fields=["estimates"])
    return standing


def _of(changes: Mapping[str, Value], prefix: str) -> dict[str, Value]:
    return {path.removeprefix(prefix): value for path, value in changes.items() if path.startswith(prefix)}


def _correct_rotors(axle: Axle, pair: RotorPair, changes: Mapping[str, Value]) -> None:
    values: dict[str, Any] = {name: getattr(pair.size, name) for name in ROTOR_SIZE} | dict(changes)
    vanes = values["vanes"]
    if isinstance(vanes, float) and vanes == int(vanes):
        values["vanes"] = int(vanes)
    size = RotorSize(**{name: values[name] for name in ROTOR_SIZE}, replaces=pair.size)
    with under(f"{axle.position}.rotor"):
        catalogue.rotor_record(size)
        if not 0 < size.discard_thickness_m <= MOST_DISCARD_M:
            raise FieldError.outside(
                DISCARD, size.discard_thickness_m, Bounds(least=0, above=True, most=MOST_DISCARD_M)
            )
    size.save()
    pair.size = size
    pair.save(update_fields=["size"])


def _correct_pads(axle: Axle, pads: PadSet, changes: Mapping[str, Value]) -> None:
    values: dict[str, Any] = {name: getattr(pads.size, name) for name in PAD_NUMBERS} | dict(changes)
    size = PadSize(**{name: values[name] for name in PAD_NUMBERS}, replaces=pads.size)
    pads.size = size
    with under(f"{axle.position}.pad"):
        _pad_record(pads)
    size.save()
    pads.save(update_fields=["size"])
    for name, value in changes.items():
        setattr(axle, f"pad_{name}", value)
    axle.save(update_fields=[f"pad_{name}" for name in PAD_NUMBERS])


def _pad_record(pads: PadSet) -> Any:
    size = pads.size
    return catalogue.pad_record(pads.pad, area_m2=size.area_m2, thickness_m=size.thickness_m, backing_m=size.backing_m)
