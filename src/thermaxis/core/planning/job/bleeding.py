"""Bleeding: in which order, how many strokes, when to refill and how much to buy (fit-and-job 8)."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from thermaxis.core.checked import Checked, number
from thermaxis.core.errors import FieldError

EXCHANGES = 1.5
"""How many times a corner's volume is let through."""
LOW_SHARE = 1.0 / 3.0
"""The reservoir never falls below this share of what lies between its marks."""
LINE_AREA_M2 = 8.0e-6
"""Bore of the usual brake pipe, 4.75 mm outside, 3.2 mm inside (SAE J527)."""
DEAD_M3 = 8e-6
"""Fluid in a caliper's drillings and behind its pistons when home (estimate)."""
STROKE_M = {"car": 0.020, "truck": 0.022, "motorcycle": 0.010}
"""Useful stroke of the master cylinder, short of the floor (estimate)."""
SPARE_M3 = 0.0001
"""What is bought over (estimate)."""
CORNERS = ("front_left", "front_right", "rear_left", "rear_right")


@dataclass(frozen=True, kw_only=True)
class Corner(Checked):
    """One corner to be bled: its line in m, its pistons' area on one pad in m2, and how far they stand out in m."""

    name: str
    line_m: float = number(gt=0, le=20)
    piston_area_m2: float = number(gt=0, le=0.1)
    out_m: float = number(ge=0, le=0.1)

    @property
    def volume_m3(self) -> float:
        """Fluid in line and caliper in m3: `A_line L + A_pistons x_out + dead`."""
        return LINE_AREA_M2 * self.line_m + self.piston_area_m2 * self.out_m + DEAD_M3


@dataclass(frozen=True, kw_only=True)
class Bled:
    """One corner's share: its volume in m3, strokes to exchange it, and after how many strokes to refill."""

    name: str
    volume_m3: float
    strokes: int


@dataclass(frozen=True, kw_only=True)
class Bleeding:
    """The whole of it: volume of one stroke, corners in order, refill after so many strokes, fluid to buy, in m3."""

    stroke_m3: float
    corners: tuple[Bled, ...]
    refill_after: int
    buy_m3: float


def bleeding(corners: Sequence[Corner], *, master_bore_m: float, stroke_m: float, reservoir_m3: float) -> Bleeding:
    """Strokes and refills of corners in the order given, as a record.

    `V_stroke = pi/4 d^2 s`; strokes `ceil(1.5 V_corner / V_stroke)`; refilled before two thirds of the reservoir are
    used: `floor((1 - 1/3) V_res / V_stroke)`, never less than 1. Raises FieldError where one stroke takes more than
    that: the reservoir would be empty before anybody sees it.
    """
    stroke = math.pi / 4.0 * master_bore_m**2 * stroke_m
    refill = math.floor((1.0 - LOW_SHARE) * reservoir_m3 / stroke + 1e-9)
    if refill < 1:
        raise FieldError("reservoir_m3", reservoir_m3, "more than one stroke of the master cylinder takes")
    found = tuple(
        Bled(
            name=corner.name,
            volume_m3=corner.volume_m3,
            strokes=math.ceil(EXCHANGES * corner.volume_m3 / stroke - 1e-9),
        )
        for corner in corners
    )
    used = sum(entry.strokes for entry in found) * stroke
    return Bleeding(stroke_m3=stroke, corners=found, refill_after=refill, buy_m3=used + SPARE_M3)


def order_of(places: Sequence[str], *, said: Sequence[str], driver_right: bool, motorcycle: bool) -> tuple[str, ...]:
    """Corners in the order they are bled, as names: as the maker has it where somebody said, else farthest line first.

    The master cylinder sits on the driver's side: rear before front, the far side before the near one. On a motorcycle
    each lever has its own line, and the front's corners come in their own order.
    """
    if said:
        return tuple(name for name in said if name in places)
    near = "right" if driver_right else "left"

    def far(name: str) -> tuple[bool, bool]:
        return (name.startswith("front") != motorcycle, name.endswith(near))

    return tuple(sorted(places, key=far))


def line_length_m(name: str, wheelbase_m: float, *, driver_right: bool) -> float:
    """Length of the line to a corner in m (estimate): from the driver's bulkhead along the vehicle and across it.

    >>> round(line_length_m("rear_left", 2.6, driver_right=True), 2)
    4.9
    """
    across = 1.2 if name.endswith("left") == driver_right else 0.3
    along = wheelbase_m + 1.1 if name.startswith("rear") else 0.8
    return along + across
