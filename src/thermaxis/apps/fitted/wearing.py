"""How worn each pad of a set is, from everything measured on it."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from thermaxis.apps.fitted.models import BeddingResult, PadMounting, PadReading
from thermaxis.core.planning.life import intervals


@dataclass(frozen=True, kw_only=True)
class PartWear:
    """One pad as it is now, and how fast it really wears against what is computed.

    `position` is `left.inner` and so on; empty for the thinnest of an axle nobody has inspected pad by pad.
    """

    position: str
    thickness_mm: float
    scale: intervals.WearScale
    measurements: int


@dataclass(frozen=True, kw_only=True)
class Past:
    """What a pad set has done: its mountings in order, wear computed in each in mm per km of its duty, its bedding."""

    mountings: Sequence[PadMounting]
    mm_per_km: Mapping[int, float]
    bedded: Sequence[BeddingResult] = ()

    def worn_mm(self, mounting_id: int, odometer_km: float) -> float:
        """Wear computed until an odometer reading within one of the mountings, in mm."""
        total = 0.0
        for row in self.mountings:
            here = row.pk == mounting_id
            until = row.until_km
            if here:
                until = odometer_km if until is None else min(odometer_km, until)
            to_km = row.from_km if until is None else until
            total += max(0.0, to_km - row.from_km) * self.mm_per_km[row.pk]
            total += sum(
                1e3 * one.wear_m
                for one in self.bedded
                if one.machine_id == row.machine_id and row.from_km <= one.odometer_km <= to_km
            )
            if here:
                break
        return total


def parts_worn(
    mounting: PadMounting, odometer_km: float, past: Past, unsaved: Sequence[PadReading] = ()
) -> tuple[PartWear, ...]:
    """Each pad of the set that is on, corrected by its own measurements.

    An axle's thinnest, measured without saying which, is counted to the pad that was thinnest when they were last
    told apart (docs/decisions/0010). `unsaved` are readings of an open inspection, the latest there are.
    """
    pads = mounting.pad_set
    new_mm = pads.size.thickness_m * 1e3
    by_position: dict[str, list[PadReading]] = defaultdict(list)
    for row in [*pads.readings.there(), *(row for row in unsaved if row.pad_set_id == pads.pk)]:
        by_position[row.position].append(row)
    unnamed = by_position.pop("", [])
    if not by_position:
        by_position[""] = unnamed
    elif unnamed:
        thinnest = min(by_position, key=lambda position: by_position[position][-1].thickness_m)
        by_position[thinnest] = sorted(by_position[thinnest] + unnamed, key=lambda row: row.measured_on)
    now_mm = past.worn_mm(mounting.pk, odometer_km)
    return tuple(
        _part(position, rows, [past.worn_mm(row.mounting_id, row.odometer_km) for row in rows], now_mm, new_mm)
        for position, rows in sorted(by_position.items())
    )


def _part(
    position: str, rows: Sequence[PadReading], computed: Sequence[float], now_mm: float, new_mm: float
) -> PartWear:
    thickness = [row.thickness_m * 1e3 for row in rows]
    scale = intervals.wear_scale(list(computed), thickness, new_mm)
    last_mm, last_worn = (thickness[-1], computed[-1]) if rows else (new_mm, 0.0)
    left = last_mm - max(0.0, now_mm - last_worn) * scale.median
    return PartWear(position=position, thickness_mm=max(0.0, left), scale=scale, measurements=len(rows))
