"""A thing's own history: where it was on, what was driven on it, what was read, and what it cost."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass
from typing import Any

from django.db.models import Q

from thermaxis.apps.fitted.models import PadReading, PadSet, RotorPair, RotorReading
from thermaxis.apps.fitted.querysets import driven_km
from thermaxis.apps.season.models import Event


@dataclass(frozen=True, kw_only=True)
class Line:
    """One line: a day, an odometer where there is one, what happened, and a thickness where one was read."""

    on: dt.date
    odometer_km: float | None
    what: str
    machine: str
    thickness_m: float | None = None
    position: str = ""


@dataclass(frozen=True, kw_only=True)
class History:
    """Lines in order; how far, at how many events, and what it cost an event and a thousand kilometres."""

    lines: tuple[Line, ...]
    driven_km: float
    events: float
    price: float
    price_per_event: float | None
    price_per_1000km: float | None


def history_of(thing: PadSet | RotorPair) -> History:
    """Everything that is known of a pad set or a pair of rotors."""
    mountings: Any = list(thing.mountings.select_related("machine").order_by("pk"))
    lines = []
    if thing.arrived_on is not None:
        lines.append(Line(on=thing.arrived_on, odometer_km=None, what="came in its box", machine=""))
    for row in mountings:
        where = f"put on, {row.axle}"
        lines.append(Line(on=row.from_on, odometer_km=row.from_km, what=where, machine=row.machine.name))
        if row.until_on is not None:
            lines.append(Line(on=row.until_on, odometer_km=row.until_km, what="taken off", machine=row.machine.name))
    events = _events(thing)
    lines += [
        Line(
            on=row.on, odometer_km=row.driven_km, what=f"driven: {row.name}, {row.duty.name}", machine=row.machine.name
        )
        for row in events
    ]
    lines += _readings(thing)
    if isinstance(thing, PadSet):
        lines += [
            Line(on=row.on, odometer_km=row.odometer_km, what=f"bedding: {row.word}", machine=row.machine.name)
            for row in thing.bedding_results.filter(removed_at=None).select_related("machine")
        ]
    if thing.scrapped_for:
        lines.append(
            Line(
                on=lines[-1].on if lines else dt.date.today(),
                odometer_km=None,
                what=f"thrown away: {thing.scrapped_for}",
                machine="",
            )
        )
    count, km = sum(row.driven_sessions or 0.0 for row in events), driven_km(mountings)
    return History(
        lines=tuple(sorted(lines, key=lambda line: line.on)),
        driven_km=km,
        events=count,
        price=thing.price,
        price_per_event=thing.price / count if count > 0 else None,
        price_per_1000km=1000.0 * thing.price / km if km > 0 else None,
    )


def _events(thing: PadSet | RotorPair) -> list[Event]:
    if isinstance(thing, PadSet):
        on_it = Q(driven_front=thing) | Q(driven_rear=thing)
    else:
        on_it = Q(driven_front_rotors=thing) | Q(driven_rear_rotors=thing)
    return list(Event.objects.driven().filter(on_it).select_related("machine", "duty"))


def _readings(thing: PadSet | RotorPair) -> list[Line]:
    rows: list[tuple[PadReading | RotorReading, str]]
    if isinstance(thing, PadSet):
        rows = [(row, row.position) for row in thing.readings.there().select_related("mounting__machine")]
    else:
        of_pair = RotorReading.objects.there().filter(disc__pair=thing).select_related("mounting__machine", "disc")
        rows = [(row, row.disc.side) for row in of_pair.order_by("disc__side", "measured_on", "pk")]
    return [
        Line(
            on=row.measured_on,
            odometer_km=row.odometer_km,
            what="read",
            machine=row.mounting.machine.name,
            thickness_m=row.thickness_m,
            position=position,
        )
        for row, position in rows
    ]
