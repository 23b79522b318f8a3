"""What the work app reads, always within one workshop."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass
from itertools import product
from typing import TypeVar

from django.db.models import Model, Q, QuerySet

from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.catalogue.models import PadVariant, Rotor
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.garage.querysets import OF_A_DUTY
from thermaxis.apps.work.mapping import Parts
from thermaxis.apps.work.models import FittedSet, Inspection

Row = TypeVar("Row", bound=Model)
AXLES = ("front", "rear")
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
        both = [pad for pad in self.pads["front"] if pad in self.pads["rear"]]
        rotors = self._rotors(as_it_stands=len(both) * len(self._pairs) > self.most)
        return [self._set(pad, pad, *pair) for pad in both for pair in rotors][: self.most]

    def mixed(self, compounds: Collection[int] | None, *, as_it_stands: bool) -> list[Parts]:
        """Every two compounds, or two of these, that are not the same; `as_it_stands`: on the rotors that are on."""
        rotors = self._rotors(as_it_stands=as_it_stands)
        return [
            self._set(front, rear, *pair)
            for front in self.pads["front"] if compounds is None or front in compounds
            for rear in self.pads["rear"] if rear != front and (compounds is None or rear in compounds)
            for pair in rotors
        ]  # fmt: skip

    @property
    def _pairs(self) -> list[tuple[Rotor, Rotor]]:
        return list(product(self.rotors["front"], self.rotors["rear"]))

    def _rotors(self, *, as_it_stands: bool) -> list[tuple[Rotor, Rotor]]:
        """Every pair of rotors, or the one that is on the machine, the first where there is none."""
        if not as_it_stands:
            return self._pairs
        front, rear = (_with_pk(self.rotors[axle], self.on_it.get(axle)) for axle in AXLES)
        return [(front, rear)] if front and rear else self._pairs[:1]

    @property
    def count(self) -> tuple[int, int]:
        """How many sets there are in all: with the same compound on both axles, and with different ones."""
        rotors = len(self._pairs)
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
    wanted = [int(number) for number in numbers]
    front_pad, rear_pad = (
        _with_pk(choices.pads[axle].values(), pk) for axle, pk in zip(AXLES, wanted[:2], strict=True)
    )
    front, rear = (_with_pk(choices.rotors[axle], pk) for axle, pk in zip(AXLES, wanted[2:], strict=True))
    if front_pad is None or rear_pad is None or front is None or rear is None:
        return None
    return Parts(front_pad=front_pad, rear_pad=rear_pad, front_rotor=front, rear_rotor=rear)


def _with_pk(rows: Iterable[Row], pk: int | None) -> Row | None:
    return next((row for row in rows if row.pk == pk), None)


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
