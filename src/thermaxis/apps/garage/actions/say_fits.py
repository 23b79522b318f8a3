"""Say which of the catalogue's parts an axle takes: its pads' shape, its rotors' mount."""

from __future__ import annotations

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.catalogue.models import PadVariant, Rotor
from thermaxis.apps.garage.mapping import axle_of
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import Action
from thermaxis.core.errors import FieldError

SAY_FITS = Action("say_fits", "Said which parts fit", kind="machine")

NAMES = ("pad_shape", "rotor_mount")


def say_fits(scope: Scope, machine: Machine, position: str, name: str, value: str) -> Machine:
    """Set the pad shape or the rotor mount of an axle; empty where nobody knows. FieldError for one no part has."""
    if name not in NAMES:
        raise FieldError("name", name, "one of " + ", ".join(NAMES))
    with act(scope, SAY_FITS, machine) as entry:
        axle = axle_of(machine, position)
        known = (
            PadVariant.objects.filter(pad__workshop=scope.workshop, shape=value).exists()
            if name == "pad_shape"
            else Rotor.objects.of(scope.workshop).filter(mount=value).exists()
        )
        if value and not known:
            raise FieldError("value", value, "a shape or mount of the catalogue, or nothing")
        entry.changed(f"{position}.{name}", getattr(axle, name), value)
        if name == "pad_shape":
            axle.pad_shape = value
        else:
            axle.rotor_mount = value
        axle.save(update_fields=[name])
    return machine
