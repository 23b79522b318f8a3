"""Events, forecasts, changes and orders as the API gives them."""

from __future__ import annotations

from typing import Any, cast

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.catalogue.models import PadVariant
from thermaxis.apps.fitted.models import FluidReading, PadSet, RotorPair
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.life.advising import Advice, advice, bought_as, part_words
from thermaxis.apps.life.api import season_schemas as schemas
from thermaxis.apps.life.explaining import explained
from thermaxis.apps.life.readying import Ready
from thermaxis.apps.season.actions.feed import SET_FEED
from thermaxis.apps.season.models import CalendarFeed, Event, Order
from thermaxis.apps.season.querysets import events, orders
from thermaxis.apps.solving.following import state_of
from thermaxis.apps.solving.forecasting import Forecast, Outlook, outlook
from thermaxis.apps.solving.in_force import InForce
from thermaxis.core.planning.life.changing import Terms
from thermaxis.core.planning.life.forecast import SPARES, SURVIVES
from thermaxis.formats.calendar_file import CalendarEntry

# Of what is over, so much is shown; the log has the rest.
MOST_OVER = 40


def season_out(scope: Scope, machine: Machine) -> schemas.SeasonOut:
    state = state_of(scope, machine.pk)
    found, today = outlook(state), state.standing.day
    rows = list(events(scope.workshop).there().filter(machine=machine))
    feed = CalendarFeed.objects.filter(machine=machine).first()
    asked = found.asked
    return schemas.SeasonOut(
        usual=bool(asked) and asked[0].event.row is None,
        currency=scope.workshop.currency,
        odometer_km=machine.odometer_km,
        axis=[
            schemas.AheadOut.of(
                entry.event,
                event_id=entry.event.row.pk if entry.event.row else None,
                duty=entry.event.duty.name,
                margin_low_K=low,
                margin_K=middle,
                margin_high_K=high,
            )
            for entry, (low, middle, high) in zip(asked, found.margins_K, strict=True)
        ],
        planned=[event_out(row) for row in rows if row.state == "planned" and row.on >= today],
        waiting=[event_out(row) for row in rows if row.state == "planned" and row.on < today],
        over=[event_out(row) for row in reversed(rows) if row.state != "planned"][:MOST_OVER],
        forecasts=[forecast_out(state, found, forecast) for forecast in found.forecasts],
        changes=[
            _change_out(machine, found, entry)
            for entry in advice(machine, found, today, Terms(currency=scope.workshop.currency))
        ],
        orders=[order_out(row) for row in orders(scope.workshop).there().filter(machine=machine)],
        fluid_readings=[fluid_reading_out(row) for row in state.standing.fill.readings.all()],
        readings=found.readings,
        inside=found.inside,
        # Anybody who knows the address reads along: only those who may give it out are told.
        feed=feed.token if feed and SET_FEED.open_to(scope.role, scope.reach) else None,
    )


def forecast_out(state: InForce, found: Outlook, forecast: Forecast) -> schemas.ForecastOut:
    opened, through = explained(state, found, forecast), forecast.ahead
    thick = forecast.kind in ("pads", "rings")
    used = [chance for chance, on in zip(through.chances, forecast.used, strict=True) if on]
    least, soundest = min(used, default=1.0), min(forecast.sound, default=1.0)
    state_word = "over" if least < SPARES or (forecast.due is not None and forecast.due <= 1) else "close"
    if least > SURVIVES and soundest > SURVIVES and forecast.due is None:
        state_word = "fine"
    return schemas.ForecastOut.of(
        forecast,
        axle=forecast.axle or None,
        thing_id=forecast.thing.pk,
        now_m=forecast.now if thick else None,
        new_m=forecast.new if thick else None,
        limit_m=forecast.limit if thick else None,
        age_months=None if thick else forecast.now,
        chances=[_lasts(forecast, k) for k in range(len(found.asked))],
        until_low=through.until[0],
        until=through.until[1],
        until_high=through.until[2],
        readings=sum(part.measurements for part in forecast.parts),
        state=state_word,
        notes=forecast.note,
        explained=opened,
    )


def _lasts(forecast: Forecast, k: int) -> schemas.LastsOut:
    left = forecast.fraction_left[k]
    if not forecast.used[k]:
        return schemas.LastsOut(chance=None, word=None, left=left)
    chance, word = forecast.ahead.chances[k], forecast.ahead.words[k]
    if forecast.due is not None and k >= forecast.due:
        word = "change before"
    elif forecast.sound and chance > SURVIVES and forecast.sound[k] <= SURVIVES:
        chance, word = forecast.sound[k], "look"
    return schemas.LastsOut(chance=chance, word=cast(Any, word), left=left)


def _change_out(machine: Machine, found: Outlook, entry: Advice) -> schemas.ChangeOut:
    change, event = entry.change, found.asked[entry.change.before].event
    return schemas.ChangeOut.of(
        change,
        event=event.name,
        on=event.on,
        draft=_draft(machine, entry, event.row) if change.order_by is not None and entry.order is None else None,
        ordered=order_out(entry.order) if entry.order is not None else None,
    )


def _draft(machine: Machine, entry: Advice, event: Event | None) -> schemas.OrderAsk:
    """The order a change asks for, ready to be written down."""
    forecast = entry.forecast
    bought, thing = bought_as(machine, forecast), forecast.thing
    variant = None
    if isinstance(thing, PadSet):
        variant = PadVariant.objects.filter(pad=thing.pad, shape=thing.shape).exclude(shape="").first()
    return schemas.OrderAsk.of(
        bought,
        name=part_words(forecast) if bought.kind == "other" else forecast.name,
        machine_id=machine.pk,
        event_id=event.pk if event else None,
        axle=forecast.axle or None,
        variant_id=variant.pk if variant else None,
        rotor_id=thing.rotor_id if isinstance(thing, RotorPair) else None,
        order_by=entry.change.order_by,
        supplier="",
        lead_days=None,
        note="",
        version=0,
    )


def event_out(row: Event) -> schemas.EventOut:
    return schemas.EventOut.of(
        row,
        machine=row.machine.name,
        duty=row.duty.name,
        front_pads=str(row.front_pads) if row.front_pads else None,
        rear_pads=str(row.rear_pads) if row.rear_pads else None,
        fluid=row.fluid.name if row.fluid else None,
    )


def order_out(row: Order) -> schemas.OrderOut:
    return schemas.OrderOut.of(
        row,
        axle=row.axle or None,
        machine=row.machine.name if row.machine else None,
        event=row.event.name if row.event else None,
        on_shelf=str(row.pad_set or row.rotor_pair or ""),
    )


def fluid_reading_out(row: FluidReading) -> schemas.FluidReadingOut:
    return schemas.FluidReadingOut.of(row, water_share=None if row.water_percent is None else row.water_percent / 100.0)


def ready_out(ready: Ready) -> schemas.ReadyOut:
    event = ready.event
    return schemas.ReadyOut.of(
        ready.found,
        event_id=event.pk,
        name=event.name,
        machine=event.machine.name,
        on=event.on,
        duty=event.duty.name,
        air_C=ready.air_C,
    )


def entry_of(row: Event) -> CalendarEntry:
    """An event as a calendar has it."""
    sets = " and ".join(str(pads) for pads in (row.front_pads, row.rear_pads) if pads)
    about = f"{row.duty.name}, {row.sessions:g} times" if row.sessions != 1 else row.duty.name
    return CalendarEntry(
        uid=row.uid,
        name=row.name,
        on=row.on,
        until_on=row.until_on or row.on,
        starts_at=row.starts_at,
        ends_at=row.ends_at,
        note=row.note or (f"{about} on {sets}" if sets and row.source == "hand" else ""),
        sequence=row.sequence,
        cancelled=row.removed_at is not None or row.state == "left out",
        changed_at=row.changed_at,
    )
