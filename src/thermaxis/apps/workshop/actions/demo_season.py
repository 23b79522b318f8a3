"""The demo's season: what was driven on the second set, what is planned, the fluid's test, and what is on order."""

from __future__ import annotations

import datetime as dt
from typing import Any

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.catalogue.models import PadVariant
from thermaxis.apps.fitted.actions import mount
from thermaxis.apps.fitted.actions.read_fluid import read_fluid
from thermaxis.apps.fitted.models import Hose, PadMounting, PadReading, PadSet
from thermaxis.apps.fitted.parts import sold
from thermaxis.apps.garage.mapping import axle_of
from thermaxis.apps.garage.models import Duty, Machine
from thermaxis.apps.logbook.actions.write import write_note
from thermaxis.apps.season.actions.events import DOMAIN, Wanted, plan_event
from thermaxis.apps.season.actions.orders import ToBuy, save_order, tick_order
from thermaxis.apps.season.models import DRIVEN, Event
from thermaxis.core.constants import DAYS_A_MONTH

DAYS_IN = 300


def load_season(machine: Machine, scope: Scope, row: dict[str, Any], duties: dict[str, Duty], today: dt.date) -> None:
    """What the demo says of a machine's season; events whose duty was not loaded are left out."""
    sets = {one["name"]: _set(machine, one, duties, today) for one in row.get("sets", []) if one["duty"] in duties}
    for one in row.get("driven", []):
        if one["duty"] in duties:
            _driven(machine, one, duties, sets, today)
    for name, thickness_m, days, km in row.get("readings", []):
        if name in sets:
            pads = sets[name]
            PadReading.objects.create(
                workshop=scope.workshop,
                pad_set=pads,
                mounting=pads.mountings.get(),
                size=pads.size,
                measured_on=today - dt.timedelta(days=days),
                odometer_km=km,
                thickness_m=thickness_m,
            )
    for axle, months in row.get("seals", {}).items():
        Hose.objects.create(
            workshop=scope.workshop,
            machine=machine,
            axle=axle,
            what="seals",
            kind="seals",
            age_months=months,
            fitted_on=today,
            fitted_km=machine.odometer_km,
        )
    for one in row.get("fluid", []):
        # As old as it is said to be, and in long enough to have been read.
        fill = machine.fills.get(until_on=None)
        fill.filled_on, months = today - dt.timedelta(days=DAYS_IN), DAYS_IN / DAYS_A_MONTH
        fill.age_months = max(0.0, fill.age_months - months)
        fill.save(update_fields=["filled_on", "age_months"])
        read_fluid(
            scope,
            machine,
            today - dt.timedelta(days=one["days"]),
            boiling_C=one["boiling_C"],
            water_percent=None,
            colour=one["colour"],
            overheated=False,
        )
    for text, days, km, cost in row.get("notes", []):
        write_note(scope, machine, on=today - dt.timedelta(days=days), text=text, odometer_km=km, cost=cost)
    for one in row.get("events", []):
        if one["duty"] in duties:
            _planned(machine, scope, one, duties, sets, today)
    for one in row.get("orders", []):
        _order(machine, scope, one, today)


def _set(machine: Machine, row: dict[str, Any], duties: dict[str, Duty], today: dt.date) -> PadSet:
    """A set that was on before what is on now, and lies on the shelf since."""
    axle = axle_of(machine, row["axle"])
    variant = PadVariant.objects.get(pad__workshop=machine.workshop, pad__name=row["pad"], shape=axle.pad_shape)
    pads = mount.new_pads(machine, sold(variant, axle))
    (from_days, from_km), (until_days, until_km) = row["from"], row["until"]
    PadMounting.objects.create(
        workshop=machine.workshop,
        machine=machine,
        axle=row["axle"],
        pad_set=pads,
        duty=duties[row["duty"]],
        from_on=today - dt.timedelta(days=from_days),
        from_km=from_km,
        until_on=today - dt.timedelta(days=until_days),
        until_km=until_km,
    )
    return pads


def _driven(
    machine: Machine, row: dict[str, Any], duties: dict[str, Duty], sets: dict[str, PadSet], today: dt.date
) -> None:
    Event.objects.create(
        workshop=machine.workshop,
        machine=machine,
        name=row["name"],
        on=today - dt.timedelta(days=row["days"]),
        duty=duties[row["duty"]],
        sessions=row["sessions"],
        front_pads=sets.get(row["front"]),
        rear_pads=sets.get(row["rear"]),
        uid=f"demo-{machine.pk}-{row['days']}@{DOMAIN}",
        state=DRIVEN,
        driven_sessions=row["sessions"],
        driven_km=row["km"],
        driven_front=sets.get(row["front"]),
        driven_rear=sets.get(row["rear"]),
    )


def _planned(
    machine: Machine,
    scope: Scope,
    row: dict[str, Any],
    duties: dict[str, Duty],
    sets: dict[str, PadSet],
    today: dt.date,
) -> None:
    def time(name: str) -> dt.time | None:
        return dt.time.fromisoformat(row[name]) if name in row else None

    wanted = Wanted(
        name=row["name"],
        on=today + dt.timedelta(days=row["in"]),
        until_on=today + dt.timedelta(days=row["until"]) if "until" in row else None,
        starts_at=time("starts"),
        ends_at=time("ends"),
        duty=duties[row["duty"]],
        sessions=row.get("sessions", 1),
        front_pads=sets.get(row.get("front", "")),
        rear_pads=sets.get(row.get("rear", "")),
        road_km=row.get("road_km", 0.0),
        air_C=row.get("air_C"),
        note=row.get("note", ""),
    )
    plan_event(scope, machine, wanted)


def _order(machine: Machine, scope: Scope, row: dict[str, Any], today: dt.date) -> None:
    variant = None
    if "pad" in row:
        shape = axle_of(machine, row["axle"]).pad_shape
        variant = PadVariant.objects.get(pad__workshop=machine.workshop, pad__name=row["pad"], shape=shape)
    wanted = ToBuy(
        name=row["name"],
        kind=row["kind"],
        machine=machine,
        event=Event.objects.filter(machine=machine, name=row.get("event", "")).first(),
        axle=row.get("axle", ""),
        variant=variant,
        supplier=row["supplier"],
        price=row["price"],
        order_by=today + dt.timedelta(days=row["order_by_in"]) if "order_by_in" in row else None,
    )
    order = save_order(scope, None, wanted)
    if "ordered" in row:
        ordered, arrived = (
            today - dt.timedelta(days=row[name]) if name in row else None for name in ("ordered", "arrived")
        )
        tick_order(scope, order, ordered, arrived)
