"""How worn each pad of a fitted set is, from everything measured on it."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass

from thermaxis.apps.garage.models import Machine
from thermaxis.apps.work.models import FittedSet, Measurement
from thermaxis.apps.work.querysets import driven_km, mountings_of
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


def parts_worn(
    machine: Machine, fitted: FittedSet, axle: str, per_km: float, unsaved: Sequence[Measurement] = ()
) -> tuple[PartWear, ...]:
    """Each pad of an axle at `per_km` mm of the duty the set was fitted for, corrected by its own measurements.

    An axle's thinnest, measured without saying which, is counted to the pad that was thinnest when they were last
    told apart (docs/decisions/0010). `unsaved` are readings of an open inspection, the latest there are.
    """
    new_mm = getattr(fitted, f"{axle}_pad").thickness_m * 1e3
    by_position: dict[str, list[Measurement]] = defaultdict(list)
    for row in [*fitted.measurements.filter(axle=axle, removed_at=None), *(row for row in unsaved if row.axle == axle)]:
        by_position[row.position].append(row)
    unnamed = by_position.pop("", [])
    if not by_position:
        by_position[""] = unnamed
    elif unnamed:
        thinnest = min(by_position, key=lambda position: by_position[position][-1].thickness_m)
        by_position[thinnest] = sorted(by_position[thinnest] + unnamed, key=lambda row: row.measured_on)
    mountings = mountings_of(fitted)
    now_km = driven_km(mountings, machine.odometer_km)
    return tuple(
        _part(position, rows, [driven_km(mountings, row.odometer_km) for row in rows], now_km, new_mm, per_km)
        for position, rows in sorted(by_position.items())
    )


def _part(
    position: str, rows: Sequence[Measurement], driven: Sequence[float], now_km: float, new_mm: float, per_km: float
) -> PartWear:
    thickness = [row.thickness_m * 1e3 for row in rows]
    scale = intervals.wear_scale([per_km * km for km in driven], thickness, new_mm)
    last_mm, last_km = (thickness[-1], driven[-1]) if rows else (new_mm, 0.0)
    left = last_mm - max(0.0, now_km - last_km) * per_km * scale.median
    return PartWear(position=position, thickness_mm=max(0.0, left), scale=scale, measurements=len(rows))
