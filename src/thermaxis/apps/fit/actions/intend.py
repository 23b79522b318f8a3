"""Say which set is to go on, what is in its boxes, and what was measured of its parts."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.catalogue.models import PadVariant, PartMeasure, Rotor
from thermaxis.apps.fitted.models import BoxItem, Intended
from thermaxis.apps.fitted.offering import parts_of
from thermaxis.apps.fitted.parts import AXLES, ON, Parts
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.act import act, must_be
from thermaxis.apps.log.action import DRIVERS, Action
from thermaxis.core.errors import FieldError, SolveError
from thermaxis.core.planning.fit.kit import read_item
from thermaxis.core.planning.fit.measures import PAD, ROTOR

INTEND = Action("intend", "Set chosen to go on", kind="parts", roles=DRIVERS)
COUNT_BOX = Action("count_box", "Boxes counted", kind="parts", roles=DRIVERS, quiet=True)
MEASURE_PART = Action("measure_part", "Part measured before it goes on", kind="reading")

# In the order in which a set's key names its parts.
PLACES = ("front_pads", "rear_pads", "front_rotors", "rear_rotors")
# What a set is keyed by when nobody has said what goes on.
NOTHING = ""


def intend(scope: Scope, machine: Machine, key: str) -> Intended | None:
    """Say which set is to go on, by its key; empty takes that back. What is in the boxes stays with the same set.

    FieldError for a set the machine does not take.
    """
    with act(scope, INTEND, machine) as entry:
        row = Intended.objects.filter(machine=machine).first()
        before = row.key if row else NOTHING
        if key != NOTHING and parts_of(standing_of(machine), key) is None:
            raise FieldError("key", key, "a set of the catalogue this machine takes")
        entry.changed("intended", before, key)
        if key == NOTHING:
            Intended.objects.filter(machine=machine).delete()
            return None
        if row is None:
            row = Intended(workshop=scope.workshop, machine=machine)
        elif row.key != key:
            row.items.all().delete()
        row.key = key
        row.save()
        entry.about(row)
    return row


def intend_part(scope: Scope, machine: Machine, place: str, part: str) -> Intended | None:
    """Say which part is to go on in one place; the others stay as they were said, or as they are on the machine.

    FieldError for another place, and for a part the machine does not take there.
    """
    if place not in PLACES:
        raise FieldError("place", place, "one of " + ", ".join(PLACES))
    with act(scope, INTEND, machine):
        row = Intended.objects.filter(machine=machine).first()
        standing = standing_of(machine)
        # What was said and is offered no more is no ground to stand on.
        said = parts_of(standing, row.key) if row is not None else None
        keys = (said or standing.parts).key.split("-")
        keys[PLACES.index(place)] = part
        key = "-".join(keys)
        if parts_of(standing, key) is None:
            raise FieldError("part", part, "a part of the catalogue this machine takes there")
        return intend(scope, machine, key)


def count_box(
    scope: Scope,
    machine: Machine,
    axle: str,
    items: Mapping[str, float | str | None],
    seen: Mapping[str, float | str | None],
) -> Intended:
    """Write down what is in the boxes for an axle; None takes a count back. All or none.

    FieldError for an unknown item or count, Clash for one that is not as it was `seen`; SolveError where no set is
    said.
    """
    with act(scope, COUNT_BOX, machine) as entry:
        row = Intended.objects.filter(machine=machine).first()
        if row is None:
            raise SolveError("Say which set is to go on first: its boxes are what is counted.")
        if axle not in AXLES:
            raise FieldError("axle", axle, "front or rear")
        values = {name: None if value is None else read_item(name, value) for name, value in items.items()}
        kept = {item.name: item.value for item in row.items.filter(axle=axle)}
        must_be({name: kept.get(name) for name in values}, seen, values)
        for name, value in values.items():
            entry.changed(f"{axle}.box.{name}", kept.get(name), value)
            if value is None:
                row.items.filter(axle=axle, name=name).delete()
            else:
                BoxItem.objects.update_or_create(intended=row, axle=axle, name=name, defaults={"value": value})
        entry.about(row)
    return row


def measure_part(
    scope: Scope,
    machine: Machine,
    key: str,
    axle: str,
    part: str,
    name: str,
    value: float | None,
    *,
    on: dt.date,
    seen: float | None,
) -> None:
    """Keep what was measured of the rotor or pad of a set, for every machine that is offered it; None takes it back.

    FieldError for another measure or a value outside its bounds, Clash where it is not as it was `seen`.
    """
    with act(scope, MEASURE_PART, machine) as entry:
        if axle not in AXLES:
            raise FieldError("axle", axle, "front or rear")
        measures = ROTOR if part == "rotor" else PAD if part == "pad" else None
        if measures is None:
            raise FieldError("part", part, "rotor or pad")
        if name not in measures:
            raise FieldError("name", name, "one of " + ", ".join(measures))
        try:
            measures[name].check(value)
        except FieldError as error:
            raise FieldError("value", value, error.allowed, error.said, error.bounds) from None
        parts = parts_of(standing_of(machine), key)
        if parts is None:
            raise FieldError("key", key, "a set of the catalogue this machine takes")
        rotor, variant = _row_of(parts, axle, part)
        rows = PartMeasure.objects.of(scope.workshop).there().filter(rotor=rotor, variant=variant, name=name)
        before = rows.first()
        must_be({name: before.value if before else None}, {name: seen}, {name: value})
        entry.changed(f"{axle}.{part}.{name}", before.value if before else None, value)
        rows.delete()
        if value is not None:
            row = PartMeasure.objects.create(
                workshop=scope.workshop, rotor=rotor, variant=variant, name=name, value=value, measured_on=on
            )
            entry.about(row)


def _row_of(parts: Parts, axle: str, part: str) -> tuple[Rotor | None, PadVariant | None]:
    """The catalogue's row of a part of a set. FieldError where it has none."""
    if part == "rotor":
        rotors = parts.rotors(axle)
        if rotors.key == ON or rotors.rotor is None:
            raise FieldError("part", part, "a rotor of the catalogue: what is on the machine is measured there")
        return rotors.rotor, None
    pads = parts.pads(axle)
    found = PadVariant.objects.filter(pad=pads.pad, shape=pads.shape).first()
    if found is None:
        raise FieldError("part", part, "pads the catalogue has in this axle's shape")
    return None, found
