"""What to change before which event, from what is on the shelf or by when to order it."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass

from thermaxis.apps.fitted.models import FluidFill, PadSet, RotorPair
from thermaxis.apps.garage.mapping import axle_of
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.season.models import Order
from thermaxis.apps.solving.forecasting import Forecast, Outlook
from thermaxis.core.planning.life.changing import Change, Coming, Due, Terms, changes
from thermaxis.devices.parts_counter import StandInCounter

WORDS = {"pads": "pads", "rings": "rings", "fluid": "fluid", "hoses": "hoses", "seals": "seals and boots"}
# What lies at the counter is here the day after tomorrow.
IN_STOCK_DAYS = 2


@dataclass(frozen=True, kw_only=True)
class Advice:
    """A change with the part it is of, and the order that is under way for it, if any."""

    change: Change
    forecast: Forecast
    order: Order | None


def part_words(forecast: Forecast) -> str:
    """The part as a sentence names it: front pads, fluid."""
    words = WORDS[forecast.kind]
    return f"{forecast.axle} {words}" if forecast.axle else words


@dataclass(frozen=True, kw_only=True)
class Bought:
    """A part as it is bought anew: its kind, what it is asked for as, the price of one where it is known, how many."""

    kind: str
    asked_for: str
    price: float | None = None
    quantity: int = 1


def advice(machine: Machine, outlook: Outlook, today: dt.date, terms: Terms) -> tuple[Advice, ...]:
    """What to change before which of the events, soonest first."""
    events = [Coming(name=asked.event.name, on=asked.event.on) for asked in outlook.asked]
    if not events:
        return ()
    orders = list(Order.objects.there().filter(machine=machine, arrived_on=None).order_by("pk"))
    by_part = {forecast.key: forecast for forecast in outlook.forecasts if any(forecast.used)}
    found = changes([_due(machine, forecast) for forecast in by_part.values()], events, today, terms)
    return tuple(
        Advice(change=change, forecast=by_part[change.key], order=_order_of(machine, by_part[change.key], orders))
        for change in found
    )


def _due(machine: Machine, forecast: Forecast) -> Due:
    bought = bought_as(machine, forecast)
    price = (bought.price or 0.0) * bought.quantity
    counted = StandInCounter().ask(bought.asked_for, price)
    return Due(
        key=forecast.key,
        part=part_words(forecast) if forecast.on_it else f"{forecast.name}, {forecast.axle}",
        job=forecast.axle or forecast.kind,
        chances=forecast.ahead.chances,
        left=forecast.fraction_left,
        price=price,
        shelf=_shelf(machine, forecast),
        lead_days=IN_STOCK_DAYS if counted.in_stock else counted.lead_days,
        due=forecast.due,
        why=forecast.note[0] if forecast.due is not None and forecast.note else None,
    )


def bought_as(machine: Machine, forecast: Forecast) -> Bought:
    """What goes on the order list for a part."""
    thing = forecast.thing
    if isinstance(thing, PadSet):
        return Bought(kind="pads", asked_for=f"{thing}, {thing.shape or 'its own size'}", price=thing.price)
    if isinstance(thing, RotorPair):
        count = axle_of(machine, forecast.axle).rotors
        return Bought(kind="rotors", asked_for=str(thing), price=thing.price, quantity=count)
    if isinstance(thing, FluidFill):
        return Bought(kind="fluid", asked_for=str(thing.fluid), price=thing.fluid.price)
    return Bought(kind="other", asked_for=part_words(forecast))


def _shelf(machine: Machine, forecast: Forecast) -> str:
    """Another such set that lies ready: of its shape, not thrown away, on no machine, and hardly worn."""
    if forecast.kind not in ("pads", "rings"):
        return ""
    axle = axle_of(machine, forecast.axle)
    if forecast.kind == "pads":
        rows = PadSet.objects.of(machine.workshop).filter(scrapped_for="", shape=axle.pad_shape).exclude(shape="")
        # A set that has run is somebody's other set, not a spare.
        fresh = rows.exclude(pk=forecast.thing.pk).filter(mountings=None).select_related("pad").first()
        return str(fresh) if fresh else ""
    pairs = RotorPair.objects.of(machine.workshop).filter(scrapped_for="", mount=axle.rotor_mount).exclude(mount="")
    pair = pairs.exclude(pk=forecast.thing.pk).filter(mountings=None).first()
    return str(pair) if pair else ""


def _order_of(machine: Machine, forecast: Forecast, orders: list[Order]) -> Order | None:
    kind = bought_as(machine, forecast).kind
    return next((row for row in orders if row.kind == kind and row.axle == forecast.axle), None)
