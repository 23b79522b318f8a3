"""Whether a set goes on, as the API gives it. SI, the unit in the name."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.fields import AxleName, Finite
from thermaxis.apps.accounts.api.said import SaidOut

RoomVerdict = Literal["fits", "tight", "does not fit", "not known"]
Key = str


class LengthOut(Wire):
    """A length in m with its standard deviation and where it is from."""

    value_m: float
    spread_m: float
    source: Literal["measured", "maker", "estimate"]


class PadStackOut(Wire):
    friction: LengthOut
    backing_m: float
    shim_m: float
    change_m: float


class StackOut(Wire):
    """What stands in one caliper; `opening` null where nothing is known, `opening_bound`: it is at least that."""

    opening: LengthOut | None
    opening_bound: bool
    rotor: LengthOut
    discard_m: float
    pad: PadStackOut
    sides: int
    clearance_m: float
    needed_m: float
    room_m: float | None
    spread_m: float
    verdict: RoomVerdict


class EndOut(Wire):
    """Rotor at discard, pads at change; null where it is not known."""

    depth_m: float | None
    depth_estimated: bool
    hold_m: float
    travel_m: float | None
    behind_m: float | None
    thinnest_m: float | None
    verdict: RoomVerdict
    text: SaidOut


class RowOut(Wire):
    """One measure, old against new; `quantity` says what the values are, `measured`: the new one was measured."""

    name: str
    part: Literal["rotor", "pad"]
    label: str
    quantity: str
    old: float | None
    new: float | None
    may_differ: float | None
    verdict: Literal["fits", "look", "does not fit", "measure"]
    text: SaidOut
    how: str
    # Where each is entered: a path of the machine for what is on it, a measure of the part for the new one.
    old_path: str
    new_name: str
    # Room is not entered, but what it follows from.
    room_path: str
    room_label: str
    measured: float | None


class LineOut(Wire):
    """One item of the boxes; `counted`: somebody counted it, else the catalogue says so."""

    name: str
    label: str
    quantity: Literal["count", "fluidVolume"]
    need: float
    have: float
    word: str
    choices: list[str]
    verdict: Literal["there", "look", "order", "swap", "send back", "stop"]
    text: SaidOut
    check: str
    counted: bool


class CornerOut(Wire):
    wheel: str
    volume_m3: float


class PushOut(Wire):
    """Fluid pushed back, corner by corner, against the room in the reservoir."""

    corners: list[CornerOut]
    total_m3: float
    room_m3: float
    over_m3: float
    marks_m3: float
    level: float | None
    estimated: bool
    # The path of the machine's that level and volume are entered under.
    path: str
    after: int
    school: Literal["watch", "draw off", "bleed screw"]
    reason: SaidOut
    remarks: list[SaidOut]


class WayOut(Wire):
    """One way out; `key` is the set it leads to, empty where it is no other set."""

    kind: Literal["rotor", "send_back", "pad", "shims", "caliper"]
    title: str
    text: SaidOut
    key: str


class SensorOut(Wire):
    """The wear sensor of a corner: whole, cut in, or empty where nobody looked."""

    side: Literal["left", "right"]
    state: Literal["", "whole", "cut"]


class AxleCheckOut(Wire):
    axle: AxleName
    pads: str
    rotors: str
    pad_shape: str
    caliper: str
    opposed: bool
    is_on: bool
    new_rotors: bool
    # What was measured of the parts at hand, beside what their numbers say.
    ring_measured_m: float | None
    ring_stated_m: float
    pad_measured_m: float | None
    pad_stated_m: float
    sensors: list[SensorOut]
    verdict: Literal["fits", "look", "does not fit"]
    headline: SaidOut
    stack: StackOut
    end: EndOut
    rows: list[RowOut]
    lines: list[LineOut]
    push: PushOut
    ways: list[WayOut]
    film: FilmOfOut | None


class FilmOfOut(Wire):
    """Another compound's film on the rings that stay, and both schools of what to do about it."""

    same: bool
    text: SaidOut
    schools: list[str]


class ChoiceOut(Wire):
    """A part an axle can take, by what a set's key names it."""

    key: str
    name: str


class AxleChoices(Wire):
    axle: AxleName
    pads: list[ChoiceOut]
    rotors: list[ChoiceOut]
    pad: str
    rotor: str


class FitOut(Wire):
    """The set that is to go on, checked; `said` is false where nobody has said one and what is on is shown."""

    key: str
    said: bool
    gone: bool
    verdict: Literal["fits", "look", "does not fit"]
    axles: list[AxleCheckOut]
    choices: list[AxleChoices]


class IntendAsk(Wire):
    """The key of a set; empty: none."""

    key: str = Field(max_length=80)


class IntendPartAsk(Wire):
    """The number of a part of the catalogue, or what rotors that are on the machine go by."""

    part: str = Field(max_length=20)


Item = str | Finite | None


class BoxAsk(Wire):
    """Counts and words of the boxes of one axle, by item; null takes one back."""

    axle: AxleName
    items: dict[str, Item] = Field(min_length=1, max_length=40)
    seen: dict[str, Item] = Field(default={}, max_length=40)


class PartMeasureAsk(Wire):
    """What was measured of a part of a set; null takes it back. `seen`: as the page knows it."""

    key: str = Field(max_length=80)
    axle: AxleName
    part: Literal["rotor", "pad"]
    name: str = Field(max_length=24)
    value: Finite | None
    seen: Finite | None = None


class LastResortOut(Wire):
    """What taking friction material off would cost; null where parts go in, or nothing would be left."""

    text: SaidOut | None
    caution: SaidOut
