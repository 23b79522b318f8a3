"""What the work app reads, always within one workshop."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass
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


# What is weighed at once, at most: some seconds of computing, and a list somebody can still read.
MOST_SETS = 1200
# Every stop of every set is kept while they are weighed: of a duty of very many stops fewer sets are.
FEWEST_SETS, MOST_STOPS = 24, 1_000_000


def most_sets(stops: int) -> int:
    """How many sets are weighed at once on a duty of so many stops."""
    return max(FEWEST_SETS, min(MOST_SETS, MOST_STOPS // max(1, stops)))


@dataclass(frozen=True, kw_only=True)
class Choices:
    """What fits a machine: compounds by axle and their number, rotors by axle, and the rotors that are on now.

    `most` is how many sets are weighed at once.
    """

    pads: dict[str, dict[int, PadVariant]]
    rotors: dict[str, list[Rotor]]
    on_it: dict[str, int]
    most: int

    def alike(self) -> list[Parts]:
        """Every set with the same compound on both axles, on every pair of rotors."""
        rotors = [(front, rear) for front, rear in product(self.rotors["front"], self.rotors["rear"])]
        both = [pad for pad in self.pads["front"] if pad in self.pads["rear"]]
        if len(both) * len(rotors) > self.most:
            rotors = self.rotors_on_it() or rotors[:1]
        return [self._set(pad, pad, *pair) for pad in both for pair in rotors][: self.most]

    def mixed(self, compounds: Collection[int] | None, *, as_it_stands: bool) -> list[Parts]:
        """Every two compounds, or two of these, that are not the same; `as_it_stands`: on the rotors that are on."""
        pairs = list(product(self.rotors["front"], self.rotors["rear"]))
        return [
            self._set(front, rear, *pair)
            for front in self.pads["front"] if compounds is None or front in compounds
            for rear in self.pads["rear"] if rear != front and (compounds is None or rear in compounds)
            for pair in ((self.rotors_on_it() or pairs[:1]) if as_it_stands else pairs)
        ]  # fmt: skip

    def rotors_on_it(self) -> list[tuple[Rotor, Rotor]]:
        """The pair of rotors that is on the machine, where there is one."""
        rows = [
            next((rotor for rotor in self.rotors[axle] if rotor.pk == self.on_it.get(axle)), None)
            for axle in ("front", "rear")
        ]
        return [(rows[0], rows[1])] if rows[0] and rows[1] else []

    @property
    def count(self) -> tuple[int, int]:
        """How many sets there are in all: with the same compound on both axles, and with different ones."""
        rotors = len(self.rotors["front"]) * len(self.rotors["rear"])
        alike = len(set(self.pads["front"]) & set(self.pads["rear"]))
        return alike * rotors, (len(self.pads["front"]) * len(self.pads["rear"]) - alike) * rotors

    def _set(self, front_pad: int, rear_pad: int, front: Rotor, rear: Rotor) -> Parts:
        return Parts(
            front_pad=self.pads["front"][front_pad], rear_pad=self.pads["rear"][rear_pad], front_rotor=front,
            rear_rotor=rear,
        )  # fmt: skip


def _pads_of(workshop: Workshop, shape: str) -> QuerySet[PadVariant]:
    rows = PadVariant.objects.filter(pad__workshop=workshop, shape=shape)
    return rows.select_related("pad").prefetch_related("pad__mu_points")


def _rotors_of(workshop: Workshop, mount: str, mine: Collection[int]) -> QuerySet[Rotor]:
    """Rotors of a mount: the catalogue's, and those of the machine's own that are on it."""
    return Rotor.objects.of(workshop).filter(Q(own=False) | Q(pk__in=mine), mount=mount).order_by("pk")


def choices_of(machine: Machine, workshop: Workshop, most: int = MOST_SETS) -> Choices:
    """Everything the catalogue has that the machine's axles take."""
    axles = {axle.position: axle for axle in machine.axles.all()}
    fitted = set_in_force(machine)
    on_it = {"front": fitted.front_rotor_id, "rear": fitted.rear_rotor_id} if fitted else {}
    mine = tuple(on_it.values())
    return Choices(
        pads={place: {row.pad_id: row for row in _pads_of(workshop, axle.pad_shape)} for place, axle in axles.items()},
        rotors={place: list(_rotors_of(workshop, axle.rotor_mount, mine)) for place, axle in axles.items()},
        on_it=on_it, most=most,
    )  # fmt: skip


def parts_with(machine: Machine, workshop: Workshop, key: str) -> Parts | None:
    """The set with a key, if the machine takes it."""
    numbers = key.split("-")
    if len(numbers) != 4 or not all(number.isascii() and number.isdigit() and len(number) < 16 for number in numbers):
        return None
    choices = choices_of(machine, workshop)
    front_pad, rear_pad, front_rotor, rear_rotor = map(int, numbers)
    pads = [
        next((row for row in choices.pads[axle].values() if row.pk == pk), None)
        for axle, pk in (("front", front_pad), ("rear", rear_pad))
    ]
    rotors = [
        next((row for row in choices.rotors[axle] if row.pk == pk), None)
        for axle, pk in (("front", front_rotor), ("rear", rear_rotor))
    ]
    if pads[0] is None or pads[1] is None or rotors[0] is None or rotors[1] is None:
        return None
    return Parts(front_pad=pads[0], rear_pad=pads[1], front_rotor=rotors[0], rear_rotor=rotors[1])


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
