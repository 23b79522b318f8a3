"""Do the parts go in: what stands between the caliper's faces, new and at the end of its life (fit-and-job 1)."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from thermaxis.core.checked import Checked, choice, number
from thermaxis.core.messages import fit as say
from thermaxis.core.said import Said

SOURCES = ("measured", "maker", "estimate")
SPREAD_M = {"measured": 0.00005, "maker": 0.00015, "estimate": 0.0003}
"""One standard deviation of a length by where it is from: a good gauge, a maker's drawing, nobody's (estimate)."""
CLEARANCE_M = 0.0005
"""Running clearance of both pads together (estimate)."""
HOLD_M = 0.006
"""What of a piston must stay behind its seal (estimate)."""
SIGMAS = 2.0
EPSILON_M = 1e-9
VERDICTS = ("fits", "tight", "does not fit", "not known")


@dataclass(frozen=True, kw_only=True)
class Length(Checked):
    """A length in m with its standard deviation and where it is from; holes and screws are counted in it as well."""

    value_m: float = number(ge=0, le=20)
    source: str = choice(*SOURCES)
    spread_m: float = number(ge=0, le=0.05)


def length(value_m: float, source: str, spread_m: float | None = None) -> Length:
    """A length as a record, in m, with the usual spread of its source unless one is given."""
    return Length(value_m=value_m, source=source, spread_m=SPREAD_M[source] if spread_m is None else spread_m)


@dataclass(frozen=True, kw_only=True)
class StackPad(Checked):
    """One pad: friction material and backing plate (together one length with one spread), and a loose shim, in m.

    `change_m` is the friction material left when it is changed.
    """

    friction: Length
    backing_m: float = number(ge=0, le=0.05)
    shim_m: float = number(0.0, ge=0, le=0.01)
    change_m: float = number(ge=0, le=0.05)

    @property
    def thick_m(self) -> float:
        """Friction, backing and shim together, in m."""
        return self.friction.value_m + self.backing_m + self.shim_m


@dataclass(frozen=True, kw_only=True)
class Opening:
    """Between the piston faces fully home and the opposite abutment, in m.

    `bound`: nobody measured it, and it is at least this, for so much was in there.
    """

    at: Length
    bound: bool = False


@dataclass(frozen=True, kw_only=True)
class Stack:
    """What is to stand in one caliper. `discard_m` is the rotor's least thickness, `sides` from how many sides pistons
    move, `depth` how long a piston is in its bore when home, `hold_m` what of it must stay behind the seal.
    """

    opening: Opening | None
    rotor: Length
    discard_m: float
    inner: StackPad
    outer: StackPad
    sides: int
    clearance_m: float = CLEARANCE_M
    depth: Length | None = None
    hold_m: float = HOLD_M

    @property
    def needed_m(self) -> float:
        """Rotor, pads and running clearance, in m: `S = t_rotor + sum(friction + backing + shim) + c`."""
        return self.rotor.value_m + self.inner.thick_m + self.outer.thick_m + self.clearance_m


@dataclass(frozen=True, kw_only=True)
class Room:
    """What is left in m, below 0 what is too much, with its standard deviation; `at_least` where it is a bound.

    None where nothing is known of the opening. `verdict` is one of `VERDICTS`.
    """

    room_m: float | None
    spread_m: float
    at_least: bool
    verdict: str

    @property
    def text(self) -> Said:
        """The room in a few words."""
        if self.room_m is None or self.verdict == "not known":
            return say.OPENING_NOT_KNOWN()
        if self.verdict == "does not fit":
            return say.TOO_THICK(over=-self.room_m)
        if self.at_least and self.verdict == "tight":
            return say.AS_BEFORE()
        if self.at_least:
            return say.AT_LEAST(room=self.room_m)
        # Within its own spread: which side of nothing it lies on is not known.
        if self.room_m < 0:
            return say.TIGHT_OVER(over=-self.room_m, spread=self.spread_m)
        if self.verdict == "fits":
            return say.TO_SPARE(room=self.room_m)
        return say.TIGHT(room=self.room_m, spread=self.spread_m)


def room(stack: Stack) -> Room:
    """What is left of the opening, as a record: `opening - S`, spreads adding in squares.

    fits above two standard deviations, does not fit below minus two, tight between. An opening that is only a bound
    from below can show that the parts fit, never that they do not: parts as thick as what was in there are tight.
    """
    lengths = [stack.rotor, stack.inner.friction, stack.outer.friction]
    if stack.opening is None:
        return Room(room_m=None, spread_m=spread(lengths), at_least=False, verdict="not known")
    lengths.append(stack.opening.at)
    off = spread(lengths)
    left = stack.opening.at.value_m - stack.needed_m
    if left > SIGMAS * off:
        verdict = "fits"
    elif stack.opening.bound:
        verdict = "tight" if left >= -EPSILON_M else "not known"
    else:
        verdict = "does not fit" if left < -SIGMAS * off else "tight"
    return Room(room_m=left, spread_m=off, at_least=stack.opening.bound, verdict=verdict)


def spread(lengths: Sequence[Length]) -> float:
    """Standard deviation in m of a sum of independent lengths: `sqrt(sum s_i^2)`.

    >>> round(spread([length(0.05, "measured"), length(0.02, "maker")]), 6)
    0.000158
    """
    return math.sqrt(sum(entry.spread_m**2 for entry in lengths))


def was_in_there(rotor_m: float, inner: StackPad, outer: StackPad, clearance_m: float = CLEARANCE_M) -> Opening:
    """The opening bounded from below, as a record, by parts in m that ran in it when new, with their clearance."""
    parts = [length(rotor_m, "maker"), inner.friction, outer.friction]
    value = rotor_m + inner.thick_m + outer.thick_m + clearance_m
    return Opening(at=Length(value_m=value, source="estimate", spread_m=spread(parts)), bound=True)


@dataclass(frozen=True, kw_only=True)
class EndOfLife:
    """The caliper with the rotor at discard and the pads at change.

    `travel_m` is how far one piston stands out from home, `behind_m` what of it is left behind the seal, `thinnest_m`
    the least friction material on each pad that is still held with such a rotor; None where it is not known.
    """

    travel_m: float | None
    behind_m: float | None
    spread_m: float
    thinnest_m: float | None
    verdict: str

    @property
    def text(self) -> Said:
        """What a worn pad on a worn rotor does to the pistons."""
        if self.travel_m is None or self.behind_m is None or self.thinnest_m is None:
            return say.END_NOT_KNOWN()
        known = {"travel": self.travel_m, "behind": self.behind_m}
        if self.verdict == "fits" and self.thinnest_m == 0.0:
            return say.PISTON_ALWAYS_HELD(**known)
        if self.verdict == "does not fit":
            return say.PISTON_LEAVES(thinnest=self.thinnest_m, **known)
        if self.verdict == "tight":
            return say.PISTON_NEAR(thinnest=self.thinnest_m, **known)
        return say.PISTON_HELD(thinnest=self.thinnest_m, **known)


def end_of_life(stack: Stack) -> EndOfLife:
    """How far the pistons stand out at the end, as a record.

    `travel = (opening - (t_discard + sum(change + backing + shim))) / sides`; behind the seal stays `depth - travel`,
    which must not be under `hold`. The thinnest friction still held is the same for both pads:
    `(opening - sides (depth - hold) - t_discard - sum(backing + shim)) / 2`. A bound from below on the opening would
    be wrong to the unsafe side here, so with one nothing is said.
    """
    pads = (stack.inner, stack.outer)
    if stack.opening is None or stack.opening.bound or stack.depth is None:
        return EndOfLife(travel_m=None, behind_m=None, spread_m=0.0, thinnest_m=None, verdict="not known")
    opening = stack.opening.at
    plates = sum(pad.backing_m + pad.shim_m for pad in pads)
    worn = stack.discard_m + sum(pad.change_m for pad in pads) + plates
    travel = max(0.0, opening.value_m - worn) / stack.sides
    behind = stack.depth.value_m - travel
    off = math.hypot(opening.spread_m / stack.sides, stack.depth.spread_m)
    reach = stack.sides * (stack.depth.value_m - stack.hold_m)
    spare = behind - stack.hold_m
    verdict = "fits" if spare > SIGMAS * off else "does not fit" if spare < -SIGMAS * off else "tight"
    return EndOfLife(
        travel_m=travel,
        behind_m=behind,
        spread_m=off,
        thinnest_m=max(0.0, (opening.value_m - reach - stack.discard_m - plates) / 2.0),
        verdict=verdict,
    )


@dataclass(frozen=True, kw_only=True)
class TakenOff:
    """The last resort: friction material taken off each pad, in m, and what it costs in share of life and in events."""

    each_m: float
    share: float
    events: float


def last_resort(stack: Stack, life_events: float) -> TakenOff | None:
    """What would have to come off each pad for the parts to just go in, as a record; None where they go in, or where
    nothing would be left above the change thickness.

    Half of the excess from each pad: `cut = -room / 2`, `share = cut / (friction - change)` of the thinner pad's life.
    """
    found = room(stack)
    if found.room_m is None or found.room_m >= 0 or found.at_least:
        return None
    cut = -found.room_m / 2.0
    usable = min(pad.friction.value_m - pad.change_m for pad in (stack.inner, stack.outer))
    if cut >= usable:
        return None
    return TakenOff(each_m=cut, share=cut / usable, events=life_events * cut / usable)


def without_shims(stack: Stack) -> Stack:
    """The same stack with its loose shims left off, as a record."""
    return replace(stack, inner=replace(stack.inner, shim_m=0.0), outer=replace(stack.outer, shim_m=0.0))


def gravest(rooms: Mapping[str, Room | None]) -> tuple[str, Room] | None:
    """The axle that has least room by verdict, then by length, with its record; None where nothing is to go in."""
    there = [(axle, found) for axle, found in rooms.items() if found is not None]
    order = ("does not fit", "tight", "not known", "fits")
    return min(
        there,
        key=lambda entry: (order.index(entry[1].verdict), math.inf if entry[1].room_m is None else entry[1].room_m),
        default=None,
    )
