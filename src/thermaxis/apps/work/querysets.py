"""What the work app reads, always within one workshop."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import product

from django.db.models import Q, QuerySet

from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.catalogue.models import PadVariant, Rotor
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.garage.querysets import OF_A_DUTY
from thermaxis.apps.work.mapping import Parts
from thermaxis.apps.work.models import FittedSet, Inspection

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


def candidate_parts(machine: Machine, workshop: Workshop, *, mixed: bool = False) -> list[Parts]:
    """Every set the machine takes: the same compound in both shapes (any two where `mixed`), each rotor of the right
    mount, both axles.
    """
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
        Parts(front_pad=front_pad, rear_pad=rear_pad, front_rotor=front, rear_rotor=rear)
        for pad_id, front_pad in by_axle["front"].items()
        for behind, rear_pad in by_axle["rear"].items()
        if mixed or behind == pad_id
        for front, rear in product(rotors["front"], rotors["rear"])
    ]


Mountings = Sequence[tuple[float, float | None]]


def mountings_of(fitted: FittedSet) -> Mountings:
    """Between which odometer readings a set was on; the last ends with None while it is on still."""
    return [*((row.mounted_km, row.removed_km) for row in fitted.earlier.all()), (fitted.fitted_km, fitted.removed_km)]


def driven_km(mountings: Mountings, odometer_km: float) -> float:
    """How far a set had been driven when the machine's odometer stood there; km it was off do not count."""
    return sum(
        max(0.0, (odometer_km if until is None else min(odometer_km, until)) - since) for since, until in mountings
    )


def inspections(workshop: Workshop) -> QuerySet[Inspection]:
    """Inspections with what belongs to them."""
    return Inspection.objects.of(workshop).select_related(
        "machine__duty", "machine__owner", *(f"fitted_set__{name}" for name in PARTS)
    )


def inspection_before(inspection: Inspection) -> Inspection | None:
    """The last finished inspection of the machine before this one."""
    return (
        inspection.machine.inspections.filter(
            finished_at__isnull=False, removed_at=None, measured_on__lte=inspection.measured_on
        )
        .exclude(pk=inspection.pk)
        .filter(Q(measured_on__lt=inspection.measured_on) | Q(pk__lt=inspection.pk))
        .select_related("fitted_set")
        .first()
    )
