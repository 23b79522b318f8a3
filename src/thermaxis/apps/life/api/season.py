"""A machine's season: events, forecasts, orders, its calendar as a file and at a secret address."""

from __future__ import annotations

import datetime as dt

from django.http import HttpResponse
from django.utils import timezone
from ninja import File, Form, Path, Query, Router, Status
from ninja.files import UploadedFile

from thermaxis.apps.accounts.api.fields import Removed, RowId
from thermaxis.apps.accounts.api.files import file_response
from thermaxis.apps.accounts.api.signed_in import SIGNED_IN, ScopedRequest
from thermaxis.apps.accounts.errors import NotThere
from thermaxis.apps.catalogue.models import Fluid, PadVariant, Rotor
from thermaxis.apps.fitted.actions.read_fluid import REMOVE_FLUID_READING, read_fluid
from thermaxis.apps.fitted.models import FluidReading, PadSet
from thermaxis.apps.fitted.standing import machine_of
from thermaxis.apps.garage.models import Duty, Machine
from thermaxis.apps.life.api import present_season as present
from thermaxis.apps.life.api import season_schemas as schemas
from thermaxis.apps.life.readying import ready_for
from thermaxis.apps.log.actions import set_removed
from thermaxis.apps.season.actions import events as event_acts
from thermaxis.apps.season.actions import orders as order_acts
from thermaxis.apps.season.actions.feed import set_feed
from thermaxis.apps.season.actions.orders import REMOVE_ORDER
from thermaxis.apps.season.actions.take_in import Coming, compared, take_in
from thermaxis.apps.season.models import CalendarFeed, Event
from thermaxis.apps.season.querysets import events, orders
from thermaxis.core.errors import FieldError
from thermaxis.formats.calendar_file import CalendarEntry, read_calendar, write_calendar
from thermaxis.formats.event_table import read_events
from thermaxis.formats.ready_pdf import ready_sheet
from thermaxis.formats.table import read_table

router = Router(auth=SIGNED_IN)
CALENDAR = "text/calendar; charset=utf-8"
# A file's events from a month ago to two years ahead: what was before is the log's.
BEFORE, AHEAD = dt.timedelta(days=31), dt.timedelta(days=731)


def _event(request: ScopedRequest, event_id: int) -> Event:
    return request.auth.one(events(request.auth.workshop), event_id)


def _duty(request: ScopedRequest, duty_id: int) -> Duty:
    duty = Duty.objects.of(request.auth.workshop).there().filter(pk=duty_id).first()
    if duty is None:
        raise FieldError("duty_id", duty_id, "a duty of this workshop")
    return duty


def _wanted(request: ScopedRequest, payload: schemas.EventAsk) -> event_acts.Wanted:
    workshop = request.auth.workshop

    def pads(name: str, number: int | None) -> PadSet | None:
        found = PadSet.objects.of(workshop).filter(pk=number).first() if number is not None else None
        if number is not None and found is None:
            raise FieldError(name, number, "a pad set of this workshop")
        return found

    fluid = Fluid.objects.of(workshop).filter(pk=payload.fluid_id).first() if payload.fluid_id else None
    if payload.fluid_id is not None and fluid is None:
        raise FieldError("fluid_id", payload.fluid_id, "a fluid of the catalogue")
    return event_acts.Wanted(
        name=payload.name,
        on=payload.on,
        until_on=payload.until_on,
        starts_at=payload.starts_at,
        ends_at=payload.ends_at,
        duty=_duty(request, payload.duty_id),
        sessions=payload.sessions,
        front_pads=pads("front_pads_id", payload.front_pads_id),
        rear_pads=pads("rear_pads_id", payload.rear_pads_id),
        fluid=fluid,
        road_km=payload.road_km,
        air_C=payload.air_C,
        note=payload.note,
    )


@router.get("/machines/{machine_id}/season", response=schemas.SeasonOut, operation_id="season")
def season(request: ScopedRequest, machine_id: Path[RowId]) -> schemas.SeasonOut:
    return present.season_out(request.auth, machine_of(request.auth, machine_id))


@router.post("/machines/{machine_id}/events", response={201: list[schemas.EventOut]}, operation_id="plan_event")
def plan(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.PlanAsk) -> Status[list[schemas.EventOut]]:
    machine = machine_of(request.auth, machine_id)
    found = event_acts.plan_event(
        request.auth, machine, _wanted(request, payload), every_days=payload.every_days, times=payload.times
    )
    return Status(201, [present.event_out(row) for row in found])


@router.put("/events/{event_id}", response=schemas.EventOut, operation_id="change_event")
def change(request: ScopedRequest, event_id: Path[RowId], payload: schemas.ChangeAsk) -> schemas.EventOut:
    row = _event(request, event_id)
    return present.event_out(event_acts.change_event(request.auth, row, _wanted(request, payload), payload.version))


@router.put("/events/{event_id}/removed", response=schemas.EventOut, operation_id="remove_event")
def remove(request: ScopedRequest, event_id: Path[RowId], payload: Removed) -> schemas.EventOut:
    return present.event_out(event_acts.remove_event(request.auth, _event(request, event_id), payload.removed))


@router.put("/events/{event_id}/driven", response=schemas.EventOut, operation_id="say_driven")
def driven(request: ScopedRequest, event_id: Path[RowId], payload: schemas.DrivenAsk) -> schemas.EventOut:
    drove = event_acts.Drove(
        sessions=payload.sessions, odometer_km=payload.odometer_km, left_out=payload.left_out, back_on=payload.back_on
    )
    return present.event_out(event_acts.say_driven(request.auth, _event(request, event_id), drove))


@router.put("/events/{event_id}/planned", response=schemas.EventOut, operation_id="take_back_driven")
def planned_again(request: ScopedRequest, event_id: Path[RowId]) -> schemas.EventOut:
    return present.event_out(event_acts.take_back_driven(request.auth, _event(request, event_id)))


@router.get("/events/{event_id}/ready", response=schemas.ReadyOut, operation_id="ready")
def ready(request: ScopedRequest, event_id: Path[RowId], query: Query[schemas.ReadyQuery]) -> schemas.ReadyOut:
    return present.ready_out(ready_for(request.auth, _event(request, event_id), query.air_C))


@router.get("/events/{event_id}/ready/pdf", response=bytes, operation_id="ready_pdf")
def ready_pdf(request: ScopedRequest, event_id: Path[RowId], query: Query[schemas.ReadyPdfQuery]) -> HttpResponse:
    found = present.ready_out(ready_for(request.auth, _event(request, event_id), query.air_C))
    content = ready_sheet(found.model_dump(), query.system)
    return file_response(content, f"ready-{found.on.isoformat()}.pdf", "application/pdf", shown=True)


def _entries(file: UploadedFile, zone: str) -> tuple[CalendarEntry, ...]:
    """Events of a calendar, or of a table, by what the file is."""
    content, today = file.read(), timezone.localdate()
    if content.lstrip(b"\xef\xbb\xbf \r\n\t")[:15].upper() == b"BEGIN:VCALENDAR":
        return read_calendar(content, zone, today - BEFORE, today + AHEAD)
    return read_events(read_table(content))


def _coming_out(rows: list[Coming]) -> list[schemas.ComingOut]:
    return [
        schemas.ComingOut(
            name=row.entry.name,
            on=row.entry.on,
            until_on=row.entry.until_on,
            starts_at=row.entry.starts_at,
            what=row.what,  # type: ignore[arg-type]
        )
        for row in rows
    ]


@router.post("/machines/{machine_id}/events/read", response=list[schemas.ComingOut], operation_id="read_events")
def read(
    request: ScopedRequest, machine_id: Path[RowId], file: File[UploadedFile], form: Form[schemas.ZoneForm]
) -> list[schemas.ComingOut]:
    """What is in a calendar or a table, and what would become of it; nothing is kept."""
    machine = machine_of(request.auth, machine_id)
    return _coming_out(compared(machine, _entries(file, form.zone)))


@router.post("/machines/{machine_id}/events/take-in", response=list[schemas.ComingOut], operation_id="take_in_events")
def bring_in(
    request: ScopedRequest, machine_id: Path[RowId], file: File[UploadedFile], form: Form[schemas.TakeInForm]
) -> list[schemas.ComingOut]:
    machine = machine_of(request.auth, machine_id)
    entries = _entries(file, form.zone)
    source = "ics" if (file.name or "").lower().endswith(".ics") else "csv"
    return _coming_out(take_in(request.auth, machine, entries, _duty(request, form.duty_id), source))


def _calendar(machine: Machine) -> bytes:
    rows = events(machine.workshop).filter(machine=machine)
    return write_calendar(machine.name, [present.entry_of(row) for row in rows])


@router.get("/machines/{machine_id}/events.ics", response=bytes, operation_id="calendar_file")
def calendar_file(request: ScopedRequest, machine_id: Path[RowId]) -> HttpResponse:
    return file_response(_calendar(machine_of(request.auth, machine_id)), "events.ics", CALENDAR)


@router.put("/machines/{machine_id}/feed", response=schemas.FeedOut, operation_id="set_feed")
def feed(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.FeedAsk) -> schemas.FeedOut:
    row = set_feed(request.auth, machine_of(request.auth, machine_id), payload.shared)
    return schemas.FeedOut(token=row.token if row else None)


@router.get("/feeds/{token}.ics", response=bytes, operation_id="calendar_feed", auth=None)
def calendar_feed(request: ScopedRequest, token: str) -> HttpResponse:
    """A machine's events, to whoever has the address."""
    row = CalendarFeed.objects.select_related("machine__workshop").filter(token=token[:64]).first()
    if row is None or row.machine.removed_at is not None:
        raise NotThere
    return file_response(_calendar(row.machine), "events.ics", CALENDAR, shown=True)


@router.post(
    "/machines/{machine_id}/fluid-readings", response={201: schemas.FluidReadingOut}, operation_id="read_fluid"
)
def fluid_reading(
    request: ScopedRequest, machine_id: Path[RowId], payload: schemas.FluidReadingAsk
) -> Status[schemas.FluidReadingOut]:
    water = payload.water_share
    row = read_fluid(
        request.auth,
        machine_of(request.auth, machine_id),
        payload.measured_on,
        boiling_C=payload.boiling_C,
        water_percent=None if water is None else 100.0 * water,
        colour=payload.colour,
        overheated=payload.overheated,
    )
    return Status(201, present.fluid_reading_out(row))


@router.put(
    "/fluid-readings/{fluid_reading_id}/removed", response=schemas.FluidReadingOut, operation_id="remove_fluid_reading"
)
def remove_fluid_reading(
    request: ScopedRequest, fluid_reading_id: Path[RowId], payload: Removed
) -> schemas.FluidReadingOut:
    row = request.auth.one(FluidReading.objects.of(request.auth.workshop), fluid_reading_id)
    return present.fluid_reading_out(set_removed(request.auth, REMOVE_FLUID_READING, row, payload.removed))


def _to_buy(request: ScopedRequest, payload: schemas.OrderAsk) -> order_acts.ToBuy:
    workshop = request.auth.workshop
    machine = machine_of(request.auth, payload.machine_id) if payload.machine_id is not None else None
    variants = PadVariant.objects.filter(pad__workshop=workshop).select_related("pad")
    variant = variants.filter(pk=payload.variant_id or 0).first()
    rotor = Rotor.objects.of(workshop).filter(pk=payload.rotor_id or 0).first()
    for path, number, row in (("variant_id", payload.variant_id, variant), ("rotor_id", payload.rotor_id, rotor)):
        if number is not None and row is None:
            raise FieldError(path, number, "a part of the catalogue")
    return order_acts.ToBuy(
        name=payload.name,
        kind=payload.kind,
        machine=machine,
        event=_event(request, payload.event_id) if payload.event_id is not None else None,
        axle=payload.axle or "",
        variant=variant,
        rotor=rotor,
        supplier=payload.supplier,
        quantity=payload.quantity,
        price=payload.price,
        lead_days=payload.lead_days,
        order_by=payload.order_by,
        note=payload.note,
    )


@router.get("/orders", response=list[schemas.OrderOut], operation_id="orders")
def order_list(request: ScopedRequest) -> list[schemas.OrderOut]:
    """Every line of the workshop's order list, the most urgent first."""
    return [present.order_out(row) for row in request.auth.seen(orders(request.auth.workshop).there())]


@router.post("/orders", response={201: schemas.OrderOut}, operation_id="add_order")
def add_order(request: ScopedRequest, payload: schemas.OrderAsk) -> Status[schemas.OrderOut]:
    return Status(201, present.order_out(order_acts.save_order(request.auth, None, _to_buy(request, payload))))


@router.put("/orders/{order_id}", response=schemas.OrderOut, operation_id="change_order")
def change_order(request: ScopedRequest, order_id: Path[RowId], payload: schemas.OrderAsk) -> schemas.OrderOut:
    row = request.auth.one(orders(request.auth.workshop), order_id)
    return present.order_out(order_acts.save_order(request.auth, row, _to_buy(request, payload), payload.version))


@router.put("/orders/{order_id}/ticked", response=schemas.OrderOut, operation_id="tick_order")
def tick_order(request: ScopedRequest, order_id: Path[RowId], payload: schemas.TickAsk) -> schemas.OrderOut:
    row = request.auth.one(orders(request.auth.workshop), order_id)
    return present.order_out(order_acts.tick_order(request.auth, row, payload.ordered_on, payload.arrived_on))


@router.put("/orders/{order_id}/removed", response=schemas.OrderOut, operation_id="remove_order")
def remove_order(request: ScopedRequest, order_id: Path[RowId], payload: Removed) -> schemas.OrderOut:
    row = request.auth.one(orders(request.auth.workshop), order_id)
    return present.order_out(set_removed(request.auth, REMOVE_ORDER, row, payload.removed))
