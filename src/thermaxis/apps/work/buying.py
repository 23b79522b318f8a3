"""What a set costs at the parts counter, and when all of it can be there."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass

from thermaxis.apps.catalogue.models import Rotor
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.work.mapping import Parts
from thermaxis.devices.parts_counter import PartsCounter


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


def lines_of(machine: Machine, parts: Parts, on_it: Parts | None, counter: PartsCounter) -> list[Line]:
    """The parts of a set that are not on the machine already; pads always, as they are what wears."""
    axles = {axle.position: axle for axle in machine.axles.all()}
    found = []
    for position in ("front", "rear"):
        pad, rotor = getattr(parts, f"{position}_pad"), getattr(parts, f"{position}_rotor")
        name = f"{pad.pad.name}, {pad.shape}"
        offered = counter.ask(name, pad.price)
        found.append(
            Line(
                name=name, kind=f"pads, {position} axle", count=1, list_price=pad.price, price=offered.price,
                in_stock=offered.in_stock, lead_days=offered.lead_days, note="a set for the axle",
            )
        )  # fmt: skip
        if on_it is not None and getattr(on_it, f"{position}_rotor") == rotor:
            continue
        offered = counter.ask(rotor.name, rotor.price)
        found.append(
            Line(
                name=rotor.name, kind=f"rotors, {position}", count=axles[position].rotors, list_price=rotor.price,
                price=offered.price, in_stock=offered.in_stock, lead_days=offered.lead_days, note=_sides(rotor),
            )
        )  # fmt: skip
    return found


def _sides(rotor: Rotor) -> str:
    return (
        "one left and one right: the vanes lean backwards" if rotor.vane_shape == "directional" else "both sides alike"
    )


def ready_on(lines: list[Line], today: dt.date) -> dt.date:
    """The day the last part can be there: at once where enough are in stock."""
    waits = [line.lead_days for line in lines if line.in_stock < line.count]
    return today + dt.timedelta(days=max(waits, default=0))
