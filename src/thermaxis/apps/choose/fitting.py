"""Which of the catalogue's parts a machine is known to take, and why it is offered few; nothing here writes."""

from __future__ import annotations

from dataclasses import dataclass

from thermaxis.apps.catalogue.models import PadVariant, Rotor
from thermaxis.apps.fitted.querysets import pads_for
from thermaxis.apps.garage.models import Axle, Machine
from thermaxis.core.messages import catalogue as say
from thermaxis.core.said import Said


@dataclass(frozen=True, kw_only=True)
class Choice:
    """A pad shape or a rotor mount of the catalogue, with what is sold in it."""

    name: str
    example: Said
    count: int


@dataclass(frozen=True, kw_only=True)
class Fits:
    """One axle: the shape and the mount it is known by, how many parts that leaves, and what stands in the way."""

    axle: str
    pad_shape: str
    rotor_mount: str
    compounds: int
    rotors: int
    why: tuple[Said, ...]


def fits_of(machine: Machine) -> list[Fits]:
    """What each axle is offered, and why no more."""
    return [_fits(machine, axle) for axle in machine.axles.all()]


def _fits(machine: Machine, axle: Axle) -> Fits:
    place = axle.position
    compounds = len(pads_for(machine, axle))
    rotors = Rotor.objects.of(machine.workshop).filter(mount=axle.rotor_mount).count() if axle.rotor_mount else 0
    why = []
    if not axle.pad_shape:
        why.append(say.NO_SHAPE(axle=place))
    elif compounds == 0:
        why.append(say.NO_PAD(axle=place, shape=axle.pad_shape))
    if not axle.rotor_mount:
        why.append(say.NO_MOUNT(axle=place))
    elif rotors == 0:
        why.append(say.NO_ROTOR(axle=place, mount=axle.rotor_mount))
    return Fits(
        axle=place,
        pad_shape=axle.pad_shape,
        rotor_mount=axle.rotor_mount,
        compounds=compounds,
        rotors=rotors,
        why=tuple(why),
    )


def shapes_of(machine: Machine) -> list[Choice]:
    """Every pad shape of the catalogue, with its measures."""
    rows = PadVariant.objects.filter(pad__workshop=machine.workshop, pad__machine=None).order_by("shape", "pk")
    found: dict[str, Choice] = {}
    for row in rows:
        before = found.get(row.shape)
        size = say.PAD_SIZE(area=row.area_m2, thick=row.thickness_m)
        found[row.shape] = Choice(name=row.shape, example=size, count=1 + (before.count if before else 0))
    return list(found.values())


def mounts_of(machine: Machine) -> list[Choice]:
    """Every rotor mount of the catalogue, with a rotor that has it."""
    found: dict[str, Choice] = {}
    for row in Rotor.objects.of(machine.workshop).order_by("mount", "pk"):
        before = found.get(row.mount)
        example = before.example if before else say.RING_NAMED(name=row.name)
        found[row.mount] = Choice(name=row.mount, example=example, count=1 + (before.count if before else 0))
    return list(found.values())
