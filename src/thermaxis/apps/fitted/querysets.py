"""What the fitted app reads, always within one workshop."""

from __future__ import annotations

from django.db.models import Q, QuerySet

from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.catalogue.models import Pad, PadVariant
from thermaxis.apps.fitted.models import PadMounting, PadSet, RotorMounting, RotorPair
from thermaxis.apps.fitted.parts import PAD_NUMBERS, PadPart, sold
from thermaxis.apps.garage.models import Axle, Machine


def pads_for(machine: Machine, axle: Axle, only: int | None = None) -> list[PadPart]:
    """Every compound an axle can have: those sold in its shape, or where nobody has said which shape that is, all
    that are made for its kind of vehicle, in the size that was measured on it. `only`: the compound of this number.
    """
    pads = Pad.objects.of(machine.workshop).filter(Q(machine=None) | Q(machine=machine), as_found=False)
    if only is not None:
        pads = pads.filter(pk=only)
    if axle.pad_shape:
        variants = PadVariant.objects.filter(pad__in=pads, shape=axle.pad_shape).select_related("pad")
        if only is None:
            # Of one alone they are read when somebody asks how it grips.
            variants = variants.prefetch_related("pad__mu_points", "pad__own_mu")
        variants = variants.order_by("pad_id")
        return [sold(variant, axle) for variant in variants]
    pads = pads.prefetch_related("mu_points", "own_mu", "variants").order_by("pk")
    kinds = ["motorcycle"] if machine.kind == "motorcycle" else ["car", "truck"]
    shapes = set(
        Axle.objects.filter(machine__workshop=machine.workshop, machine__kind__in=kinds)
        .exclude(pad_shape="")
        .values_list("pad_shape", flat=True)
    )
    made_for = [
        pad for pad in pads if pad.machine_id is not None or any(row.shape in shapes for row in pad.variants.all())
    ]
    return [sold(_nearest(pad, axle), axle) for pad in made_for or pads]


def _nearest(pad: Pad, axle: Axle) -> PadVariant:
    """What a compound costs in the size nearest to an axle's; it is not sold in that one as far as anybody knows."""
    area = axle.pad_area_m2 or 0.0
    near = min(pad.variants.all(), key=lambda row: abs(row.area_m2 - area), default=None)
    variant = PadVariant(pad=pad, shape="", price=near.price if near else 0.0)
    for name in PAD_NUMBERS:
        setattr(variant, name, getattr(axle, f"pad_{name}") or (getattr(near, name) if near else 0.0))
    return variant


def pad_sets(workshop: Workshop) -> QuerySet[PadSet]:
    """Pad sets with everything they were on and everything that was read of them."""
    return (
        PadSet.objects.of(workshop)
        .select_related("pad", "size")
        .prefetch_related("mountings__machine", "readings")
        .order_by("-pk")
    )


def rotor_pairs(workshop: Workshop) -> QuerySet[RotorPair]:
    """Rotor pairs with everything they were on and everything that was read of them."""
    return (
        RotorPair.objects.of(workshop)
        .select_related("size", "rotor")
        .prefetch_related("mountings__machine", "discs__readings")
        .order_by("-pk")
    )


def driven_km(mountings: list[PadMounting] | list[RotorMounting]) -> float:
    """How far a thing has been driven; distance counts while it is on. Expects their machines to be fetched."""
    return sum(
        max(0.0, (row.machine.odometer_km if row.until_km is None else row.until_km) - row.from_km) for row in mountings
    )
