"""A bedding plan as rows: brakings alike, each followed by driving on; what they take in time and way."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass

from thermaxis.core.checked import Checked, choice, number
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.resistance import GRAVITY
from thermaxis.core.records import Stop, StopsDuty

PHASES = ("easy", "moderate", "hard", "fade", "half", "lap", "leaflet")
MOST_ROWS, MOST_BRAKINGS = 120, 600
# Rolling, never standing: what a braking ends at is at least this (5 km/h).
ROLLING_MPS = 1.4
LONGEST_S = 3600.0


@dataclass(frozen=True, kw_only=True)
class Row(Checked):
    """`times` brakings from one speed to another at `decel_g`, each followed by `then_s` at `then_mps`.

    After the last of them it is `last_s` where that is given: a cool-down. Rows of one `stretch` (from 1) are one thing
    to do, a lap or a long way; with 0 each braking is one.
    """

    phase: str = choice(*PHASES)
    times: int = number(1, ge=1, le=MOST_BRAKINGS, whole=True)
    from_mps: float = number(gt=0, le=150)
    to_mps: float = number(ge=0, le=150)
    decel_g: float = number(gt=0, le=1.5)
    then_s: float = number(ge=0, le=LONGEST_S)
    then_mps: float = number(ge=0, le=150)
    last_s: float | None = number(None, ge=0, le=LONGEST_S, optional=True)
    stretch: int = number(0, ge=0, le=99, whole=True)

    def check(self) -> None:
        if self.to_mps >= self.from_mps:
            raise FieldError("to_mps", self.to_mps, f"less than from_mps {self.from_mps}")

    @property
    def stops(self) -> tuple[Stop, ...]:
        """Its brakings one by one."""
        one = self._stop(self.then_s)
        return (one,) * (self.times - 1) + (one if self.last_s is None else self._stop(self.last_s),)

    def _stop(self, then_s: float) -> Stop:
        return Stop(
            from_mps=self.from_mps,
            to_mps=self.to_mps,
            decel_mps2=self.decel_g * GRAVITY,
            then_s=then_s,
            then_speed_mps=self.then_mps,
        )


@dataclass(frozen=True, kw_only=True)
class Item:
    """One thing to do: a braking, or a stretch of `stops` of them; `first` is the place of its first, from 0.

    Speeds and deceleration are of its hardest braking; `then_s`, `then_mps` how it goes on; way in m, time in s.
    """

    phase: str
    first: int
    stops: int
    from_mps: float
    to_mps: float
    decel_g: float
    then_s: float
    then_mps: float
    way_m: float
    time_s: float


# Up to so many g, and how it feels in a car and on two wheels.
FEELS = (
    (0.24, "light, nobody leans forward", "light, one finger"),
    (0.36, "moderate, you lean a little", "moderate, two fingers"),
    (0.5, "firm, belts hold you", "firm, arms braced"),
    (0.7, "hard, belts bite", "hard, knees on the tank"),
)
MOST = ("very hard, near what tyres give", "very hard, near what tyres give")


def how_hard(decel_g: float, *, rider: bool) -> str:
    """A deceleration in g in the words of whoever sits in it (estimate)."""
    for most, car, cycle in FEELS:
        if decel_g <= most + 1e-9:
            return cycle if rider else car
    return MOST[rider]


def check_rows(rows: Sequence[Row], path: str = "rows") -> None:
    """FieldError where rows are none, or more than anybody drives."""
    if not 1 <= len(rows) <= MOST_ROWS:
        raise FieldError(path, len(rows), f"1 to {MOST_ROWS} rows")
    brakings = sum(row.times for row in rows)
    if brakings > MOST_BRAKINGS:
        raise FieldError(path, brakings, f"at most {MOST_BRAKINGS} brakings in all")


def stops_of(rows: Sequence[Row]) -> tuple[Stop, ...]:
    """Every braking of rows in order."""
    return tuple(itertools.chain.from_iterable(row.stops for row in rows))


def duty_of(rows: Sequence[Row]) -> StopsDuty:
    """Rows as a duty."""
    return StopsDuty(kind="stops", stops=stops_of(rows))


def way_of(stop: Stop) -> tuple[float, float]:
    """Way in m and time in s of a braking and the driving after it: `(v1^2 - v2^2)/(2a) + t v3`, `(v1 - v2)/a + t`."""
    braking_m = (stop.from_mps**2 - stop.to_mps**2) / (2.0 * stop.decel_mps2)
    braking_s = (stop.from_mps - stop.to_mps) / stop.decel_mps2
    return braking_m + stop.then_s * stop.then_speed_mps, braking_s + stop.then_s


def items_of(rows: Sequence[Row]) -> tuple[Item, ...]:
    """What a passenger reads out one after the other."""
    found: list[Item] = []
    first = 0
    for stretch, group in itertools.groupby(rows, key=lambda row: row.stretch):
        members = list(group)
        if stretch > 0:
            found.append(_item(members, stops_of(members), first))
            first += found[-1].stops
            continue
        for row in members:
            for stop in row.stops:
                found.append(_item([row], (stop,), first))
                first += 1
    return tuple(found)


def _item(rows: Sequence[Row], stops: Sequence[Stop], first: int) -> Item:
    hardest = max(rows, key=lambda row: (row.decel_g, row.from_mps))
    ways = [way_of(stop) for stop in stops]
    return Item(
        phase=rows[0].phase,
        first=first,
        stops=len(stops),
        from_mps=max(row.from_mps for row in rows),
        to_mps=hardest.to_mps,
        decel_g=hardest.decel_g,
        then_s=stops[-1].then_s,
        then_mps=stops[-1].then_speed_mps,
        way_m=math.fsum(way for way, _ in ways),
        time_s=math.fsum(time for _, time in ways),
    )
