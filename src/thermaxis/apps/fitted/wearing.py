"""How worn each pad of a set is, from everything driven on it and everything measured."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from thermaxis.apps.fitted.models import BeddingResult, PadMounting, PadReading, RotorMounting
from thermaxis.core.planning.life import intervals
from thermaxis.core.planning.life.scoring import Scored, score
from thermaxis.core.planning.life.wear import PADS, WearPrior, WearState, Worn, wear_state

# The duty of distance by road to an event and back: no duty's number.
ROAD = 0
# Thicknesses to a tenth of a nanometre: sums come out another way in the last places each time.
PLACES_M = 10


@dataclass(frozen=True, kw_only=True)
class Drive:
    """An event that was driven: on which machine, until which odometer, how far in all, and what it took off.

    `wear_m` is the wear computed of its duty, `road_m` of the road there and back; both 0 for a thing that was not on.
    """

    machine_id: int
    km: float
    total_km: float
    duty_id: int
    wear_m: float
    events: float
    road_m: float = 0.0


@dataclass(frozen=True, kw_only=True)
class Past:
    """What a thing has done: its mountings in order, wear computed in m per km of the duty of each, events, bedding.

    What an event logged counts as its own duty; the rest of the odometer's distance counts as the mounting's.
    """

    mountings: Sequence[PadMounting] | Sequence[RotorMounting]
    per_km: Mapping[int, float]
    event_km: Mapping[int, float]
    drives: Sequence[Drive] = ()
    bedded: Sequence[BeddingResult] = ()

    def worn(self, mounting_id: int, odometer_km: float) -> dict[int, tuple[float, float]]:
        """Wear until an odometer reading within one of the mountings: by duty in m, and its events' squares."""
        total: dict[int, tuple[float, float]] = defaultdict(lambda: (0.0, 0.0))

        def add(duty: int, worn: float, events: float) -> None:
            before, squares = total[duty]
            total[duty] = (before + worn, squares + (worn * worn / events if events > 0 else 0.0))

        for row in self.mountings:
            here = row.pk == mounting_id
            until = row.until_km
            if here:
                until = odometer_km if until is None else min(odometer_km, until)
            to_km = row.from_km if until is None else until
            logged = [one for one in self.drives if one.machine_id == row.machine_id and row.from_km < one.km <= to_km]
            rest_km = max(0.0, to_km - row.from_km - sum(one.total_km for one in logged))
            add(row.duty_id, rest_km * self.per_km[row.pk], rest_km / self.event_km[row.pk])
            for one in logged:
                add(one.duty_id, one.wear_m, one.events)
                add(ROAD, one.road_m, 1.0)
            bedding = sum(
                one.wear_m
                for one in self.bedded
                if one.machine_id == row.machine_id and row.from_km <= one.odometer_km <= to_km
            )
            add(row.duty_id, bedding, 1.0)
            if here:
                break
        return dict(total)

    def worn_in_all(self, mounting_id: int, odometer_km: float) -> float:
        """Wear computed until an odometer reading within one of the mountings, in m."""
        return sum(worn for worn, _ in self.worn(mounting_id, odometer_km).values())


@dataclass(frozen=True, kw_only=True)
class PartWear:
    """One part as it is now, and how fast it really wears on the duty in force against what is computed.

    `position` is `left.inner` and so on, empty for the thinnest of an axle nobody has inspected pad by pad. `duties`
    are those of `state`, by number, `duty` the one in force; readings and the wear computed up to each are kept to hold
    the forecast against.
    """

    position: str
    thickness_m: float
    scale: intervals.WearScale
    measurements: int
    state: WearState
    duties: tuple[int, ...]
    duty: int
    readings_m: tuple[float, ...]
    at: tuple[Worn, ...]
    new_m: float
    prior: WearPrior

    @property
    def scores(self) -> tuple[Scored, ...]:
        """Its readings against what was foretold of each from those before it."""
        return score(self.readings_m, self.at, self.new_m, self.prior)


def parts_worn(
    mounting: PadMounting, odometer_km: float, past: Past, duty_id: int, unsaved: Sequence[PadReading] = ()
) -> tuple[PartWear, ...]:
    """Each pad of the set that is on, corrected by its own measurements.

    An axle's thinnest, measured without saying which, is counted to the pad that was thinnest when they were last
    told apart (docs/decisions/0010). `unsaved` are readings of an open inspection, the latest there are.
    """
    pads = mounting.pad_set
    by_position: dict[str, list[PadReading]] = defaultdict(list)
    for row in [*pads.readings.there(), *(row for row in unsaved if row.pad_set_id == pads.pk)]:
        by_position[row.position].append(row)
    unnamed = by_position.pop("", [])
    if not by_position:
        by_position[""] = unnamed
    elif unnamed:
        thinnest = min(by_position, key=lambda position: by_position[position][-1].thickness_m)
        by_position[thinnest] = sorted(by_position[thinnest] + unnamed, key=lambda row: row.measured_on)
    now = past.worn(mounting.pk, odometer_km)
    return tuple(
        part_worn(
            position,
            [row.thickness_m for row in rows],
            [past.worn(row.mounting_id, row.odometer_km) for row in rows],
            now,
            pads.size.thickness_m,
            duty_id,
            PADS,
        )
        for position, rows in sorted(by_position.items())
    )


def part_worn(
    position: str,
    readings_m: list[float],
    worn: list[dict[int, tuple[float, float]]],
    now: dict[int, tuple[float, float]],
    new_m: float,
    duty_id: int,
    prior: WearPrior,
) -> PartWear:
    """One part by its readings and the wear computed up to each of them, and up to now."""
    duties = tuple(sorted({ROAD, duty_id, *now, *(duty for entry in worn for duty in entry)}))
    at, here = [_worn(entry, duties) for entry in worn], _worn(now, duties)
    state = wear_state(readings_m, at, here, new_m, prior)
    median, sigma = state.scale(duties.index(duty_id))
    last_m, last = (readings_m[-1], at[-1].by_duty_m) if at else (new_m, (0.0,) * len(duties))
    since = sum(
        max(0.0, after - before) * state.scale(i)[0]
        for i, (before, after) in enumerate(zip(last, here.by_duty_m, strict=True))
        if after > before
    )
    return PartWear(
        position=position,
        thickness_m=round(max(0.0, last_m - since), PLACES_M),
        # Weak evidence must not seem to widen what is taken before there is any.
        scale=intervals.WearScale(median=median, sigma=min(prior.sigma, sigma)),
        measurements=len(readings_m),
        state=state,
        duties=duties,
        duty=duty_id,
        readings_m=tuple(readings_m),
        at=tuple(at),
        new_m=new_m,
        prior=prior,
    )


def _worn(entry: dict[int, tuple[float, float]], duties: tuple[int, ...]) -> Worn:
    found = [entry.get(duty, (0.0, 0.0)) for duty in duties]
    return Worn(by_duty_m=tuple(worn for worn, _ in found), squares_m2=sum(squares for _, squares in found))
