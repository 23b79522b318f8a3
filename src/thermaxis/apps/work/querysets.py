"""What the work app reads, always within one workshop."""

from __future__ import annotations

from itertools import product

from django.db.models import Q

from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.catalogue.models import PadVariant, Rotor
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.garage.querysets import OF_A_DUTY
from thermaxis.apps.work.mapping import Parts
from thermaxis.apps.work.models import FittedSet

PARTS = ("front_pad__pad", "rear_pad__pad", "front_rotor", "rear_rotor", "duty__circuit", "duty__run")
MU = (
    "front_pad__pad__mu_points", "rear_pad__pad__mu_points", *(f"duty__{name}" for name in OF_A_DUTY),
)  # fmt: skip


def set_in_force(machine: Machine) -> FittedSet | None:
    """The set that is on the machine now."""
    return (
        machine.sets.filter(removed_on=None)
        .select_related(*PARTS)
        .defer("duty__run__content")
        .prefetch_related(*MU)
        .first()
    )


def parts_of(fitted: FittedSet) -> Parts:
    return Parts(
        front_pad=fitted.front_pad,
        rear_pad=fitted.rear_pad,
        front_rotor=fitted.front_rotor,
        rear_rotor=fitted.rear_rotor,
    )


def candidate_parts(machine: Machine, workshop: Workshop) -> list[Parts]:
    """Every set the machine takes: the same compound in both shapes, each rotor of the right mount, both axles."""
    axles = {axle.position: axle for axle in machine.axles.all()}
    variants = (
        PadVariant.objects.filter(pad__workshop=workshop).select_related("pad").prefetch_related("pad__mu_points")
    )
    by_axle = {
        position: {variant.pad_id: variant for variant in variants.filter(shape=axle.pad_shape)}
        for position, axle in axles.items()
    }
    fitted = set_in_force(machine)
    mine = [fitted.front_rotor_id, fitted.rear_rotor_id] if fitted else []
    rotors = {
        position: list(
            Rotor.objects.of(workshop).filter(Q(own=False) | Q(pk__in=mine), mount=axle.rotor_mount).order_by("pk")
        )
        for position, axle in axles.items()
    }
    return [
        Parts(front_pad=variant, rear_pad=by_axle["rear"][pad_id], front_rotor=front, rear_rotor=rear)
        for pad_id, variant in by_axle["front"].items()
        if pad_id in by_axle["rear"]
        for front, rear in product(rotors["front"], rotors["rear"])
    ]
