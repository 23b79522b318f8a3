"""Parts of a machine, on it or as they could be: compounds in the size its axles take, rotors."""

from __future__ import annotations

from dataclasses import dataclass, replace

from thermaxis.apps.catalogue.models import Pad, PadVariant, Provenance, Rotor
from thermaxis.apps.fitted.models import PadSet, RotorPair, RotorSize
from thermaxis.apps.garage.models import Axle

AXLES = ("front", "rear")
PAD_NUMBERS = ("area_m2", "thickness_m", "backing_m")
ROTOR_NUMBERS = (
    "outer_radius_m",
    "inner_radius_m",
    "thickness_m",
    "gap_m",
    "vanes",
    "vane_thickness_m",
    "hub_conductance_W_per_K",
)
ROTOR_WORDS = ("material", "pattern")
# Cast in the hat: a number of its own, which no other one moves.
DISCARD = "discard_thickness_m"
ROTOR_SIZE = (*ROTOR_NUMBERS, *ROTOR_WORDS, DISCARD)
# The key of rotors that are on a machine and are not as the catalogue has them.
ON = "on"


@dataclass(frozen=True, kw_only=True)
class PadPart:
    """Pads of a compound for one axle; `price` is for the axle."""

    pad: Pad
    shape: str
    area_m2: float
    thickness_m: float
    backing_m: float
    price: float
    provenance: str


@dataclass(frozen=True, kw_only=True)
class RotorPart:
    """Rotors for one axle; `price` is for one, `rotor` the row of the catalogue they are, or would be bought as."""

    key: str
    name: str
    size: Rotor | RotorSize
    rotor: Rotor | None
    price: float
    two_piece: bool
    provenance: str

    @property
    def directional(self) -> bool:
        """Whether left and right are different parts."""
        return self.rotor is not None and self.rotor.vane_shape == "directional"


@dataclass(frozen=True, kw_only=True)
class Parts:
    """The parts of one set: pads and rotors, by axle."""

    front_pad: PadPart
    rear_pad: PadPart
    front_rotor: RotorPart
    rear_rotor: RotorPart

    @property
    def key(self) -> str:
        """Identity of the set: what the page sends back to fit it."""
        pads = f"{self.front_pad.pad.pk}-{self.rear_pad.pad.pk}"
        return f"{pads}-{self.front_rotor.key}-{self.rear_rotor.key}"

    def pads(self, axle: str) -> PadPart:
        """The pads of an axle."""
        return self.front_pad if axle == "front" else self.rear_pad

    def rotors(self, axle: str) -> RotorPart:
        """The rotors of an axle."""
        return self.front_rotor if axle == "front" else self.rear_rotor

    def with_pads(self, axle: str, pads: PadPart) -> Parts:
        """The same with other pads on an axle."""
        return replace(self, front_pad=pads) if axle == "front" else replace(self, rear_pad=pads)

    def with_rotors(self, axle: str, rotors: RotorPart) -> Parts:
        """The same with other rotors on an axle."""
        return replace(self, front_rotor=rotors) if axle == "front" else replace(self, rear_rotor=rotors)


def sold(variant: PadVariant, axle: Axle) -> PadPart:
    """A compound as it is sold for an axle, in the size that was measured there if one was."""
    measured = [getattr(axle, f"pad_{name}") for name in PAD_NUMBERS]
    area, thickness, backing = (
        getattr(variant, name) if value is None else value for name, value in zip(PAD_NUMBERS, measured, strict=True)
    )
    guessed = any(value is not None for value in measured)
    return PadPart(
        pad=variant.pad,
        shape=variant.shape,
        area_m2=area,
        thickness_m=thickness,
        backing_m=backing,
        price=variant.price,
        provenance=Provenance.ESTIMATE if guessed else variant.provenance,
    )


def pads_on(pads: PadSet) -> PadPart:
    """A pad set that is there."""
    size = pads.size
    return PadPart(
        pad=pads.pad,
        shape=pads.shape,
        area_m2=size.area_m2,
        thickness_m=size.thickness_m,
        backing_m=size.backing_m,
        price=pads.price,
        provenance=Provenance.MAKER if pads.shape else Provenance.ESTIMATE,
    )


def offered(rotor: Rotor) -> RotorPart:
    """Rotors of the catalogue."""
    return RotorPart(
        key=str(rotor.pk),
        name=rotor.name,
        size=rotor,
        rotor=rotor,
        price=rotor.price,
        two_piece=rotor.two_piece,
        provenance=rotor.provenance,
    )


def rotors_on(pair: RotorPair) -> RotorPart:
    """Rotors that are there: the catalogue's, where they are still as the catalogue has them."""
    if as_bought(pair):
        assert pair.rotor is not None
        return offered(pair.rotor)
    return RotorPart(
        key=ON,
        # Beside the catalogue's own, which can be bought new.
        name=f"{pair.name}, as measured" if pair.rotor else pair.name,
        size=pair.size,
        rotor=pair.rotor,
        price=pair.price,
        two_piece=pair.two_piece,
        provenance=Provenance.ESTIMATE,
    )


def as_bought(pair: RotorPair) -> bool:
    """Whether nothing about a pair was found to be other than the catalogue says."""
    if pair.rotor is None:
        return False
    return all(getattr(pair.rotor, name) == getattr(pair.size, name) for name in ROTOR_SIZE)
