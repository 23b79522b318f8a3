"""What a set costs at the parts counter, and when all of it can be there."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass

from thermaxis.apps.fitted.parts import Parts
from thermaxis.apps.fitted.standing import Standing
from thermaxis.devices.parts_counter import Offered, PartsCounter, StandInCounter


@dataclass(frozen=True, kw_only=True)
class Line:
    """One part of a set: how many are needed, and what catalogue and counter say of one."""

    name: str
    kind: str
    count: int
    list_price: float
    price: float
    in_stock: int
    lead_days: int
    note: str


def lines_of(standing: Standing, parts: Parts, counter: PartsCounter) -> list[Line]:
    """The parts of a set that are not on the machine already; pads always, as they are what wears."""
    on_it, found = standing.parts, []
    for axle in standing.machine.axles.all():
        position = axle.position
        pads, rotors = parts.pads(position), parts.rotors(position)
        name = f"{pads.pad.name}, {pads.shape or 'its own size'}"
        counted = counter.ask(name, pads.price)
        found.append(_line(name, f"pads, {position} axle", 1, pads.price, counted, "a set for the axle"))
        if on_it.rotors(position).key == rotors.key:
            continue
        counted = counter.ask(rotors.name, rotors.price)
        note = "one left and one right: the vanes lean backwards" if rotors.directional else "both sides alike"
        found.append(_line(rotors.name, f"rotors, {position}", axle.rotors, rotors.price, counted, note))
    return found


def _line(name: str, kind: str, count: int, list_price: float, counted: Offered, note: str) -> Line:
    return Line(
        name=name,
        kind=kind,
        count=count,
        list_price=list_price,
        price=counted.price,
        in_stock=counted.in_stock,
        lead_days=counted.lead_days,
        note=note,
    )


def counter() -> PartsCounter:
    """Who is asked for prices, stock and lead times: the stand-in, as no shop is connected."""
    return StandInCounter()


def ready_on(lines: list[Line], today: dt.date) -> dt.date:
    """The day the last part can be there: at once where enough are in stock."""
    waits = [line.lead_days for line in lines if line.in_stock < line.count]
    return today + dt.timedelta(days=max(waits, default=0))
