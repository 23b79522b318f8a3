"""A set that is to go on a machine, checked on paper: room, old against new, boxes, fluid, ways out; nothing writes."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from thermaxis.apps.catalogue.models import Provenance
from thermaxis.apps.fitted.models import BoxItem, Intended
from thermaxis.apps.fitted.offering import Choices, parts_of
from thermaxis.apps.fitted.parts import AXLES, ON, Parts, RotorPart
from thermaxis.apps.fitted.standing import Standing
from thermaxis.apps.garage.mapping import room_of
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.solving.fitting import Fitter
from thermaxis.apps.solving.pushing import push_back_of
from thermaxis.apps.solving.ways import Way, ways_of
from thermaxis.core.messages import fit as say
from thermaxis.core.planning.fit import comparing, kit
from thermaxis.core.planning.fit.pushback import PushBack
from thermaxis.core.planning.fit.stack import EndOfLife, Length, Room, Stack, end_of_life, room
from thermaxis.core.said import Said

# The hub's measures by the name a rotor has for what goes on them.
OF_THE_HUB = {
    "hat_height_m": "hat_height_m",
    "bore_m": "hub_bore_m",
    "holes": "stud_holes",
    "pitch_circle_m": "pitch_circle_m",
    "fixing_screws": "fixing_screws",
    "drum_m": "drum_m",
}
# The bracket's by that of a pad.
OF_THE_BRACKET = {"height_m": "pad_height_m", "pin_hole_m": "pin_hole_m", "pin_spacing_m": "pin_spacing_m"}
SIDES = ("left", "right")


@dataclass(frozen=True, kw_only=True)
class AxleCheck:
    """One axle of the set: its stack with the room, the end of its life, rows, boxes, fluid and ways out.

    `counted` are the items of the boxes somebody counted, the rest are the catalogue's; `is_on`: both are in there;
    `measured` what was measured of the parts at hand, by part and name.
    """

    axle: str
    parts: Parts
    is_on: bool
    new_rotors: bool
    stack: Stack
    room: Room
    end: EndOfLife
    headline: Said
    rows: tuple[comparing.Row, ...]
    needs: kit.Axle
    box: Mapping[str, float | str]
    counted: frozenset[str]
    lines: tuple[kit.Line, ...]
    push: PushBack
    measured: Mapping[tuple[str, str], float]
    ways: tuple[Way, ...]

    @property
    def verdict(self) -> str:
        """The room's verdict, or that of the rows where they are graver; "look" for anything a person has to settle."""
        if self.is_on:
            return "fits"
        rows = comparing.gravest(list(self.rows))
        if self.room.verdict == "does not fit" or rows == "does not fit":
            return "does not fit"
        if any(line.verdict in ("stop", "swap") for line in self.lines):
            return "does not fit" if any(line.verdict == "stop" for line in self.lines) else "look"
        if self.room.verdict in ("tight", "not known") or rows == "look":
            return "look"
        return "fits"


@dataclass(frozen=True, kw_only=True)
class FitCheck:
    """A set checked on both axles; `said`: somebody said it is to go on, else it is what is on.

    `gone`: the set that was said is offered no more.
    """

    fitter: Fitter
    key: str
    said: bool
    gone: bool
    parts: Parts
    axles: Mapping[str, AxleCheck]

    @property
    def verdict(self) -> str:
        """The graver of both axles that change."""
        order = ("does not fit", "look", "fits")
        return min((check.verdict for check in self.axles.values() if not check.is_on), key=order.index, default="fits")


def intended_of(machine: Machine) -> Intended | None:
    """The set that is to go on, if somebody said so."""
    found: Intended | None = Intended.objects.filter(machine=machine).prefetch_related("items").first()
    return found


def check_of(standing: Standing, key: str | None = None, choices: Choices | None = None) -> FitCheck:
    """Check the set that is to go on, or the one with this key; what is on where there is neither.

    Ways out are looked for among `choices`, where they are given.
    """
    row = intended_of(standing.machine)
    wanted = key or (row.key if row else "")
    parts = parts_of(standing, wanted) if wanted else None
    fitter = Fitter(standing)
    items = list(row.items.all()) if row and parts and row.key == wanted else []
    chosen = parts or standing.parts
    axles = {
        axle: _axle(fitter, choices, axle, chosen, [item for item in items if item.axle == axle]) for axle in AXLES
    }
    return FitCheck(
        fitter=fitter,
        key=chosen.key,
        said=parts is not None,
        gone=bool(wanted) and parts is None,
        parts=chosen,
        axles=axles,
    )


def _axle(fitter: Fitter, choices: Choices | None, place: str, parts: Parts, items: list[BoxItem]) -> AxleCheck:
    pads, rotors = parts.pads(place), parts.rotors(place)
    stack = fitter.stack(place, pads, rotors)
    found = room(stack)
    on_it = fitter.standing.parts
    new_rotors = rotors.key != on_it.rotors(place).key
    push = push_back_of(fitter, place, stack)
    counted = {item.name: item.value for item in items}
    box = _box(fitter, place, parts, new_rotors) | counted
    needs = _needs(fitter, place, parts, new_rotors, push)
    is_on = fitter.is_on(place, parts)
    return AxleCheck(
        axle=place,
        parts=parts,
        is_on=is_on,
        new_rotors=new_rotors,
        stack=stack,
        room=found,
        end=end_of_life(stack),
        headline=_headline(fitter, place, parts, stack, found),
        rows=tuple(_rows(fitter, place, parts, new_rotors)),
        needs=needs,
        box=box,
        counted=frozenset(counted),
        lines=tuple(kit.check_kit(needs, box)),
        push=push,
        measured={("rotor", name): value for name, value in fitter.measured_rotor(rotors).items()}
        | {("pad", name): value for name, value in fitter.measured_pad(pads).items()},
        ways=()
        if choices is None or is_on or found.verdict in ("fits", "not known")
        else tuple(ways_of(fitter, choices, place, parts)),
    )


def _headline(fitter: Fitter, place: str, parts: Parts, stack: Stack, found: Room) -> Said:
    """Whether it goes in, in a sentence; where a part at hand differs from its number, that too."""
    left, off = found.room_m, found.spread_m
    if fitter.is_on(place, parts):
        return say.STAYS(axle=place)
    if left is None:
        return say.CANNOT_SAY_AT_ALL(axle=place)
    if found.verdict == "not known":
        return say.CANNOT_SAY(axle=place, over=max(0.0, -left))
    if found.verdict == "does not fit":
        return say.DOES_NOT_GO_IN(axle=place, over=-left, spread=off, measured=_differs(fitter, place, parts, stack))
    if found.verdict == "tight" and found.at_least:
        return say.IS_AS_BEFORE(axle=place)
    if found.verdict == "tight":
        return (
            say.IS_TIGHT_OVER(axle=place, over=-left, spread=off)
            if left < 0
            else say.IS_TIGHT(axle=place, room=left, spread=off)
        )
    if found.at_least:
        return say.GOES_IN_BOUND(axle=place, room=left)
    return say.GOES_IN(axle=place, room=left, spread=off)


def _differs(fitter: Fitter, place: str, parts: Parts, stack: Stack) -> Said:
    rotors, pads = parts.rotors(place), parts.pads(place)
    if "thickness_m" in fitter.measured_rotor(rotors) and rotors.rotor:
        return say.RING_MEASURES(ring=stack.rotor.value_m, number=rotors.rotor.thickness_m)
    if "thickness_m" in fitter.measured_pad(pads):
        return say.PAD_MEASURES(pad=stack.inner.friction.value_m, number=pads.thickness_m)
    return say.NOTHING()


def old_rotor(fitter: Fitter, place: str) -> dict[str, Length | None]:
    """Measures of what a new rotor replaces: the hub's own where somebody took them, else the part's."""
    found = fitter.rotor_lengths(fitter.standing.parts.rotors(place))
    for name, hub in OF_THE_HUB.items():
        measured = fitter.of_caliper(place, hub)
        found[name] = measured or found[name]
    return found


def old_pad(fitter: Fitter, place: str) -> dict[str, Length | None]:
    """Measures of the pads that are on, as new; the bracket's and its pins' where somebody took them."""
    found = fitter.pad_lengths(fitter.standing.parts.pads(place))
    for name, bracket in OF_THE_BRACKET.items():
        found[name] = fitter.of_caliper(place, bracket) or found[name]
    return found


def _rows(fitter: Fitter, place: str, parts: Parts, new_rotors: bool) -> list[comparing.Row]:
    axle, caliper = fitter.axles[place], fitter.caliper(place)
    pads, rotors = parts.pads(place), parts.rotors(place)
    rows: list[comparing.Row] = []
    new_pad, before = fitter.pad_lengths(pads), old_pad(fitter, place)
    if new_rotors:
        reach = room_of(axle)
        known = reach.rim_radius_m is not None and reach.caliper_reach_m is not None
        rim = None
        if known:
            assert reach.rim_radius_m is not None
            assert reach.caliper_reach_m is not None
            rim = reach.rim_radius_m - rotors.size.outer_radius_m - reach.caliper_reach_m
        rows = comparing.compare_rotors(
            old_rotor(fitter, place),
            fitter.rotor_lengths(rotors),
            sliding=not caliper.opposed,
            band_m=(rotors.size.inner_radius_m, rotors.size.outer_radius_m),
            pad_height=new_pad["height_m"] or before["height_m"],
            bracket_radius=fitter.of_caliper(place, "bracket_radius_m"),
            rim_room_m=rim,
            spoke_room=fitter.of_caliper(place, "spoke_room_m"),
            drum=caliper.parking == "drum",
        )
    shape = None if not axle.pad_shape or not pads.shape else axle.pad_shape == pads.shape
    hangs = retention_of(fitter, place) == "pins"
    rows += comparing.compare_pads(
        before, new_pad, same_shape=shape, abutment=fitter.of_caliper(place, "abutment_m"), pins=hangs
    )
    return rows


def retention_of(fitter: Fitter, place: str) -> str:
    """What holds the pads: as somebody said, else pins in an opposed caliper and the bracket of a sliding one."""
    said: str = fitter.axles[place].retention
    return said or ("pins" if fitter.caliper(place).opposed else "bracket")


def handed(rotors: RotorPart) -> str:
    """What of rotors is made for one side."""
    if rotors.directional:
        return "vanes"
    return "face" if rotors.rotor is not None and rotors.rotor.handed_face else "none"


def _needs(fitter: Fitter, place: str, parts: Parts, new_rotors: bool, push: PushBack) -> kit.Axle:
    axle, rotors = fitter.axles[place], parts.rotors(place)
    variant = fitter.variant(parts.pads(place))
    screws = fitter.rotor_lengths(rotors)["fixing_screws"]
    return kit.Axle(
        caliper=fitter.caliper(place),
        wheels=len(axle.sides),
        retention=retention_of(fitter, place),
        sensor=axle.wear_sensor or "none",
        handed=handed(rotors) if rotors.key != ON else "none",
        new_rotors=new_rotors,
        new_hoses=False,
        fixing_screws=int(screws.value_m) if screws else 0,
        piston_clips=variant.piston_clips if variant else False,
        lost_m3=push.total_m3 if push.school == "bleed screw" else 0.0,
    )


def _box(fitter: Fitter, place: str, parts: Parts, new_rotors: bool) -> dict[str, float | str]:
    """What the catalogue says is in the boxes; of two pads with a tab, one is for each wheel."""
    variant, wheels = fitter.variant(parts.pads(place)), len(fitter.axles[place].sides)
    found: dict[str, float | str] = {}
    if variant is not None and variant.provenance != Provenance.ESTIMATE:
        found |= {name: float(count) for name, count in variant.kit.items() if name in kit.COUNTED}
        found["pads"] = 2.0 * wheels
        if variant.piston_clips:
            found["piston_clips"] = float(wheels)
        tabs = float(variant.wear_tabs or 0)
        found |= {f"tabs.{side}": tabs / wheels for side in SIDES[:wheels]}
    rotors = parts.rotors(place).rotor
    if new_rotors and rotors is not None and rotors.fixing_screws:
        found["fixing_screws"] = 0.0
    return found
