"""What is to be bought: write it down, say that it is ordered, and put on the shelf what has come."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass

from thermaxis.apps.accounts.models import put
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.catalogue.models import PadVariant, Rotor
from thermaxis.apps.fitted.actions.mount import new_pads, new_rotors
from thermaxis.apps.fitted.parts import offered, sold
from thermaxis.apps.garage.mapping import axle_of
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.act import Entry, act, must_be_version
from thermaxis.apps.log.action import Action
from thermaxis.apps.season.models import Event, Order
from thermaxis.core.errors import Bounds, FieldError, SolveError

SAVE_ORDER = Action("save_order", "Order written down", kind="order")
TICK_ORDER = Action("tick_order", "Order ticked", kind="order")
REMOVE_ORDER = Action("remove_order", "Order taken off or brought back", kind="order")

KINDS = ("pads", "rotors", "fluid", "other")
MOST_OF = 50
COLUMNS = (
    "machine",
    "event",
    "kind",
    "axle",
    "variant",
    "rotor",
    "name",
    "supplier",
    "quantity",
    "price",
    "lead_days",
    "order_by",
    "note",
)


@dataclass(frozen=True, kw_only=True)
class ToBuy:
    """A line of the order list as it is to be; rows are the workshop's own."""

    name: str
    kind: str = "other"
    machine: Machine | None = None
    event: Event | None = None
    axle: str = ""
    variant: PadVariant | None = None
    rotor: Rotor | None = None
    supplier: str = ""
    quantity: int = 1
    price: float | None = None
    lead_days: int | None = None
    order_by: dt.date | None = None
    note: str = ""


def _check(wanted: ToBuy) -> None:
    if not wanted.name.strip():
        raise FieldError("name", wanted.name, "what is to be bought")
    if wanted.kind not in KINDS:
        raise FieldError("kind", wanted.kind, "one of " + ", ".join(KINDS))
    if not 1 <= wanted.quantity <= MOST_OF:
        raise FieldError.outside("quantity", wanted.quantity, Bounds(least=1, most=MOST_OF))
    if wanted.price is not None and not 0 <= wanted.price <= 1e6:
        raise FieldError.outside("price", wanted.price, Bounds(least=0, most=1e6))
    if wanted.lead_days is not None and not 0 <= wanted.lead_days <= 365:
        raise FieldError.outside("lead_days", wanted.lead_days, Bounds(least=0, most=365))
    if wanted.event is not None and wanted.machine is not None and wanted.event.machine_id != wanted.machine.pk:
        raise FieldError("event_id", wanted.event.pk, "an event of this machine")


def save_order(scope: Scope, order: Order | None, wanted: ToBuy, version: int | None = None) -> Order:
    """Write a line of the order list, or over one. FieldError names what cannot be, Clash for another version."""
    rows = [row for row in (order, wanted.machine) if row is not None]
    with act(scope, SAVE_ORDER, *rows) as entry:
        _check(wanted)
        if order is not None:
            must_be_version(order.version, version or 0, order.name)
            if order.arrived_on is not None:
                raise SolveError("This has come already: take that back first.")
            order.version += 1
        row = order or Order(workshop=scope.workshop)
        for name in COLUMNS:
            entry.changed(name, getattr(row, name, None) if order else None, getattr(wanted, name))
        put(row, COLUMNS, {name: getattr(wanted, name) for name in COLUMNS})
        row.save()
        entry.about(row)
    return row


def tick_order(scope: Scope, order: Order, ordered_on: dt.date | None, arrived_on: dt.date | None) -> Order:
    """Say that it is ordered, or has come; what has come goes on the shelf, and what is taken back leaves it again.

    SolveError where what came has been on a machine since.
    """
    with act(scope, TICK_ORDER, order) as entry:
        entry.changed("ordered_on", order.ordered_on, ordered_on)
        entry.changed("arrived_on", order.arrived_on, arrived_on)
        if arrived_on is not None and order.arrived_on is None:
            _on_the_shelf(order, arrived_on, entry)
        if arrived_on is None and order.arrived_on is not None:
            _off_the_shelf(order)
        order.ordered_on, order.arrived_on = ordered_on or arrived_on, arrived_on
        order.version += 1
        order.save()
        entry.about(order)
    return order


def _on_the_shelf(order: Order, on: dt.date, entry: Entry) -> None:
    """A new thing for a line that names a part of the catalogue; whatever else came is only ticked."""
    machine = order.machine
    if machine is None or order.axle == "":
        return
    axle = axle_of(machine, order.axle)
    if order.variant is not None:
        order.pad_set = new_pads(machine, sold(order.variant, axle))
        order.pad_set.arrived_on = on
        order.pad_set.save(update_fields=["arrived_on"])
        entry.about(order.pad_set)
    if order.rotor is not None:
        order.rotor_pair = new_rotors(machine, axle, offered(order.rotor))
        order.rotor_pair.arrived_on = on
        order.rotor_pair.save(update_fields=["arrived_on"])
        entry.about(order.rotor_pair)


def _off_the_shelf(order: Order) -> None:
    for thing in (order.pad_set, order.rotor_pair):
        if thing is None:
            continue
        if thing.mountings.exists():
            raise SolveError(f"{thing} has been on a machine since: it stays.")
        thing.delete()
    order.pad_set = order.rotor_pair = None
