"""What fits a machine: every set of compounds and rotors its axles take."""

from __future__ import annotations

from collections.abc import Collection, Iterable
from dataclasses import dataclass
from itertools import product

from thermaxis.apps.catalogue.models import Rotor
from thermaxis.apps.fitted.parts import AXLES, ON, PadPart, Parts, RotorPart, offered, pads_on, rotors_on
from thermaxis.apps.fitted.querysets import pads_for
from thermaxis.apps.fitted.standing import Standing
from thermaxis.apps.garage.models import Axle

# What is weighed at once, at most: some seconds of computing, and a list somebody can still read.
MOST_SETS = 1200
# Every stop of every set is kept while they are weighed: of a duty of very many stops fewer sets are.
FEWEST_SETS, MOST_STOPS = 24, 1_000_000


def most_sets(stops: int) -> int:
    """How many sets are weighed at once on a duty of so many stops."""
    return max(FEWEST_SETS, min(MOST_SETS, MOST_STOPS // max(1, stops)))


@dataclass(frozen=True, kw_only=True)
class Choices:
    """What fits a machine: compounds by axle and their number, rotors by axle, and the key of those that are on now.

    `most` is how many sets are weighed at once.
    """

    pads: dict[str, dict[int, PadPart]]
    rotors: dict[str, list[RotorPart]]
    on_it: dict[str, str]
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
            for front in self.pads["front"]
            if compounds is None or front in compounds
            for rear in self.pads["rear"]
            if rear != front and (compounds is None or rear in compounds)
            for pair in rotors
        ]

    @property
    def _pairs(self) -> list[tuple[RotorPart, RotorPart]]:
        return list(product(self.rotors["front"], self.rotors["rear"]))

    def _rotors(self, *, as_it_stands: bool) -> list[tuple[RotorPart, RotorPart]]:
        """Every pair of rotors, or those that are on the machine."""
        if not as_it_stands:
            return self._pairs
        front, rear = (_with_key(self.rotors[axle], self.on_it[axle]) for axle in AXLES)
        return [(front, rear)] if front and rear else self._pairs[:1]

    @property
    def count(self) -> tuple[int, int]:
        """How many sets there are in all: with the same compound on both axles, and with different ones."""
        rotors = len(self._pairs)
        alike = len(set(self.pads["front"]) & set(self.pads["rear"]))
        return alike * rotors, (len(self.pads["front"]) * len(self.pads["rear"]) - alike) * rotors

    def with_key(self, key: str) -> Parts | None:
        """The set with a key, if the machine takes it."""
        numbers = key.split("-")
        if len(numbers) != 4 or not all(_is_number(number) for number in numbers[:2]):
            return None
        front_pad, rear_pad = (self.pads[axle].get(int(pk)) for axle, pk in zip(AXLES, numbers[:2], strict=True))
        front, rear = (_with_key(self.rotors[axle], wanted) for axle, wanted in zip(AXLES, numbers[2:], strict=True))
        if front_pad is None or rear_pad is None or front is None or rear is None:
            return None
        return Parts(front_pad=front_pad, rear_pad=rear_pad, front_rotor=front, rear_rotor=rear)

    def _set(self, front_pad: int, rear_pad: int, front: RotorPart, rear: RotorPart) -> Parts:
        return Parts(
            front_pad=self.pads["front"][front_pad],
            rear_pad=self.pads["rear"][rear_pad],
            front_rotor=front,
            rear_rotor=rear,
        )


def choices_of(standing: Standing, most: int = MOST_SETS) -> Choices:
    """Everything the catalogue has that the machine's axles take, and what is on them."""
    axles = {axle.position: axle for axle in standing.machine.axles.all()}
    return Choices(
        pads={place: _pads(standing, axle) for place, axle in axles.items()},
        rotors={place: _rotors(standing, axle) for place, axle in axles.items()},
        on_it={place: rotors_on(standing.rotors(place)).key for place in AXLES},
        most=most,
    )


def parts_of(standing: Standing, key: str) -> Parts | None:
    """The set with a key, if the machine takes it, without reading everything else it takes."""
    numbers = key.split("-")
    if len(numbers) != 4 or not all(_is_number(number) for number in numbers[:2]):
        return None
    axles = {axle.position: axle for axle in standing.machine.axles.all()}
    named = dict(zip(AXLES, zip(numbers[:2], numbers[2:], strict=True), strict=True))
    chosen = Choices(
        pads={place: _pads(standing, axles[place], only=int(pad)) for place, (pad, _) in named.items()},
        rotors={place: _rotors(standing, axles[place], only=rotor) for place, (_, rotor) in named.items()},
        on_it={},
        most=MOST_SETS,
    )
    return chosen.with_key(key)


def _pads(standing: Standing, axle: Axle, only: int | None = None) -> dict[int, PadPart]:
    mine = pads_on(standing.pads(axle.position))
    if only == mine.pad.pk and axle.pad_shape == mine.shape:
        return {mine.pad.pk: mine}
    found = {part.pad.pk: part for part in pads_for(standing.machine, axle, only)}
    # The compound that is on is weighed in the size of the set that is on.
    before = found.get(mine.pad.pk)
    if before is None or (before.area_m2, before.thickness_m, before.backing_m) != (
        mine.area_m2,
        mine.thickness_m,
        mine.backing_m,
    ):
        found[mine.pad.pk] = mine
    return found


def _rotors(standing: Standing, axle: Axle, only: str | None = None) -> list[RotorPart]:
    """Rotors of the axle's mount, and those that are on it where they are not as the catalogue has them."""
    found = []
    mine = rotors_on(standing.rotors(axle.position))
    if only == mine.key:
        return [mine]
    if axle.rotor_mount and (only is None or _is_number(only)):
        rows = Rotor.objects.of(standing.machine.workshop).filter(mount=axle.rotor_mount).order_by("pk")
        found = [offered(row) for row in (rows if only is None else rows.filter(pk=int(only)))]
    return [mine, *found] if mine.key == ON or mine.key not in {part.key for part in found} else found


def _with_key(parts: Iterable[RotorPart], key: str) -> RotorPart | None:
    return next((part for part in parts if part.key == key), None)


def _is_number(text: str) -> bool:
    return text.isascii() and text.isdigit() and len(text) < 16
