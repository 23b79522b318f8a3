"""Plan an event, move it, take it out, and say what became of it."""

from __future__ import annotations

import dataclasses
import datetime as dt
import uuid
from dataclasses import dataclass

from django.utils import timezone

from thermaxis.apps.accounts.models import Reach, put
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.catalogue.models import Fluid
from thermaxis.apps.fitted.actions.measure import MOST_KM, move_on
from thermaxis.apps.fitted.actions.swap import swap_back, swap_for
from thermaxis.apps.fitted.models import PadSet
from thermaxis.apps.fitted.parts import AXLES
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.garage.mapping import axle_of
from thermaxis.apps.garage.models import Duty, Machine
from thermaxis.apps.log.act import Entry, act, must_be_version
from thermaxis.apps.log.action import DRIVERS, Action
from thermaxis.apps.season.models import DRIVEN, LEFT_OUT, PLANNED, Event
from thermaxis.core.errors import Bounds, FieldError, SolveError

PLAN_EVENT = Action("plan_event", "Event planned", kind="event", roles=DRIVERS)
CHANGE_EVENT = Action("change_event", "Event changed", kind="event", roles=DRIVERS)
REMOVE_EVENT = Action("remove_event", "Event taken out or brought back", kind="event", roles=DRIVERS)
SAY_DRIVEN = Action(
    "say_driven",
    "Event driven or left out",
    kind="event",
    roles=DRIVERS,
    keys=Reach.READINGS,
    gives_history=True,
    taken_back_with="This set was swapped for an event: take back what was said of the event.",
)
TAKE_BACK_DRIVEN = Action("take_back_driven", "What became of an event taken back", kind="event", roles=DRIVERS)

MOST_SESSIONS, MOST_ROAD_KM, MOST_AHEAD_YEARS, MOST_REPEATS = 50.0, 5000.0, 10, 52
DOMAIN = "thermaxis.invalid"
COLUMNS = (
    "name",
    "on",
    "until_on",
    "starts_at",
    "ends_at",
    "duty",
    "sessions",
    "front_pads",
    "rear_pads",
    "fluid",
    "road_km",
    "air_C",
    "note",
)


@dataclass(frozen=True, kw_only=True)
class Wanted:
    """An event as it is to be; rows are the workshop's own."""

    name: str
    on: dt.date
    duty: Duty
    until_on: dt.date | None = None
    starts_at: dt.time | None = None
    ends_at: dt.time | None = None
    sessions: float = 1.0
    front_pads: PadSet | None = None
    rear_pads: PadSet | None = None
    fluid: Fluid | None = None
    road_km: float = 0.0
    air_C: float | None = None
    note: str = ""


def check_event(machine: Machine, wanted: Wanted, today: dt.date) -> None:
    """Refuse an event that cannot be; FieldError names the field."""
    if not wanted.name.strip():
        raise FieldError("name", wanted.name, "a name")
    first, last = (dt.date(today.year + years, 1, 1) for years in (-MOST_AHEAD_YEARS, MOST_AHEAD_YEARS))
    if not first <= wanted.on <= last:
        raise FieldError("on", wanted.on.isoformat(), f"a day from {first.isoformat()} to {last.isoformat()}")
    if wanted.until_on is not None and not 0 <= (wanted.until_on - wanted.on).days <= 31:
        raise FieldError("until_on", wanted.until_on.isoformat(), "the day it begins, or up to a month later")
    if wanted.ends_at is not None and wanted.starts_at is None:
        raise FieldError("ends_at", wanted.ends_at.isoformat(), "empty where it has no beginning")
    same_day = wanted.until_on in (None, wanted.on)
    if wanted.starts_at and wanted.ends_at and same_day and wanted.ends_at <= wanted.starts_at:
        raise FieldError("ends_at", wanted.ends_at.isoformat(), "after it begins")
    for path, value, least, most in (
        ("sessions", wanted.sessions, 0.1, MOST_SESSIONS),
        ("road_km", wanted.road_km, 0.0, MOST_ROAD_KM),
        ("air_C", wanted.air_C, -60.0, 70.0),
    ):
        if value is not None and not least <= value <= most:
            raise FieldError.outside(path, value, Bounds(least=least, most=most))
    for axle in AXLES:
        pads: PadSet | None = getattr(wanted, f"{axle}_pads")
        if pads is None:
            continue
        been_here = pads.mountings.filter(machine=machine, axle=axle).exists()
        shape = axle_of(machine, axle).pad_shape
        if pads.scrapped_for or not (been_here or (pads.shape and pads.shape == shape)):
            raise FieldError(f"{axle}_pads_id", pads.pk, f"a set that goes on the {axle} axle of {machine.name}")


def plan_event(
    scope: Scope, machine: Machine, wanted: Wanted, *, every_days: int | None = None, times: int = 1
) -> list[Event]:
    """Plan an event, or a series of them `every_days` apart. FieldError names what cannot be."""
    if not 1 <= times <= MOST_REPEATS:
        raise FieldError.outside("times", times, Bounds(least=1, most=MOST_REPEATS))
    if every_days is not None and not 1 <= every_days <= 366:
        raise FieldError.outside("every_days", every_days, Bounds(least=1, most=366))
    with act(scope, PLAN_EVENT, machine) as entry:
        series = uuid.uuid4().hex if times > 1 else ""
        found = []
        for i in range(times):
            shift = dt.timedelta(days=i * (every_days or 7))
            until_on = wanted.until_on + shift if wanted.until_on else None
            one = dataclasses.replace(wanted, on=wanted.on + shift, until_on=until_on)
            check_event(machine, one, timezone.localdate())
            found.append(_new(machine, one, uid=f"{uuid.uuid4()}@{DOMAIN}", series=series, source="hand"))
        entry.about(*found)
        entry.changed("event", None, f"{wanted.name}, {wanted.on.isoformat()}" + (f", {times} times" if series else ""))
    return found


def _new(machine: Machine, wanted: Wanted, *, uid: str, series: str, source: str) -> Event:
    row = Event(workshop=machine.workshop, machine=machine, uid=uid, series=series, source=source)
    put(row, COLUMNS, {name: getattr(wanted, name) for name in COLUMNS})
    row.save()
    return row


def change_event(scope: Scope, event: Event, wanted: Wanted, version: int) -> Event:
    """Write an event anew; a moved one moves in every calendar that reads it. Clash for another version."""
    with act(scope, CHANGE_EVENT, event) as entry:
        must_be_version(event.version, version, event.name)
        if event.state != PLANNED:
            raise SolveError("This event is over: take back what became of it first.")
        check_event(event.machine, wanted, timezone.localdate())
        for name in COLUMNS:
            entry.changed(name, getattr(event, name), getattr(wanted, name))
        put(event, COLUMNS, {name: getattr(wanted, name) for name in COLUMNS})
        touch(entry, event)
    return event


def touch(entry: Entry, event: Event) -> None:
    """Save an event as a newer one than whoever read it before has."""
    entry.about(event)
    event.version += 1
    event.sequence += 1
    event.changed_at = timezone.now()
    event.save()


def remove_event(scope: Scope, event: Event, removed: bool) -> Event:
    """Take an event out of the calendar, or bring it back; who reads the calendar sees it cancelled."""
    with act(scope, REMOVE_EVENT, event) as entry:
        entry.changed("removed", event.removed_at is not None, removed)
        if removed != (event.removed_at is not None):
            event.removed_at = timezone.now() if removed else None
            touch(entry, event)
    return event


@dataclass(frozen=True, kw_only=True)
class Drove:
    """What became of an event: how much of it was driven, and the odometer once it was over.

    `back_on`: a set that was on for it alone has come off again.
    """

    sessions: float
    odometer_km: float
    left_out: bool = False
    back_on: bool = True


def say_driven(scope: Scope, event: Event, drove: Drove) -> Event:
    """Close the loop: the event's own duty counts from now on for what was on. FieldError where it cannot be.

    The odometer moves on; it lies after every event driven before, and not before what is on was put on.
    """
    with act(scope, SAY_DRIVEN, event) as entry:
        if event.state != PLANNED:
            raise SolveError("This event is over already.")
        if drove.left_out:
            event.state = LEFT_OUT
        else:
            _drive(event, drove, entry)
        entry.changed("state", PLANNED, event.state)
        entry.changed("sessions", event.sessions, event.driven_sessions)
        touch(entry, event)
        entry.about(*(row for row in (event.driven_front, event.driven_rear) if row is not None))
    return event


def _drive(event: Event, drove: Drove, entry: Entry) -> None:
    machine, today = event.machine, timezone.localdate()
    if event.on > today:
        raise FieldError("on", event.on.isoformat(), "a day that has come")
    if not 0 < drove.sessions <= MOST_SESSIONS:
        raise FieldError.outside("sessions", drove.sessions, Bounds(least=0.01, most=MOST_SESSIONS))
    before = Event.objects.driven().filter(machine=machine, on__lte=event.on).last()
    least = before.driven_km or 0.0 if before else 0.0
    if not least <= drove.odometer_km <= MOST_KM:
        raise FieldError.outside("odometer_km", drove.odometer_km, Bounds(least=least, most=MOST_KM))
    move_on(machine, drove.odometer_km)
    total_km = drove.sessions * event.duty.event_km + event.road_km
    for axle in AXLES:
        chosen: PadSet | None = getattr(event, f"{axle}_pads")
        if chosen is not None and _on_at(event, axle, drove.odometer_km) != chosen:
            swap_for(
                machine,
                axle,
                chosen,
                duty=event.duty,
                on=event.on,
                from_km=drove.odometer_km - total_km,
                until_km=drove.odometer_km,
                back_on=drove.back_on,
                entry=entry.saved(),
            )
    standing = standing_of(machine)
    event.driven_by = entry.saved()
    event.state, event.driven_sessions, event.driven_km = DRIVEN, drove.sessions, drove.odometer_km
    event.driven_front = event.front_pads or _on_at(event, "front", drove.odometer_km) or standing.pads("front")
    event.driven_rear = event.rear_pads or _on_at(event, "rear", drove.odometer_km) or standing.pads("rear")
    event.driven_front_rotors, event.driven_rear_rotors = standing.rotors("front"), standing.rotors("rear")


def _on_at(event: Event, axle: str, km: float) -> PadSet | None:
    """The set that was on an axle when the odometer stood so."""
    for row in event.machine.padmountings.filter(axle=axle).select_related("pad_set").order_by("-pk"):
        if row.from_km < km and (row.until_km is None or km <= row.until_km):
            return row.pad_set
    return None


def take_back_driven(scope: Scope, event: Event) -> Event:
    """What was said of an event is taken back: it is planned again."""
    with act(scope, TAKE_BACK_DRIVEN, event) as entry:
        if event.state == PLANNED:
            raise SolveError("Nothing was said of this event yet.")
        entry.changed("state", event.state, PLANNED)
        if event.driven_by is not None:
            swap_back(event.driven_by)
        event.driven_by = None
        event.state, event.driven_sessions, event.driven_km = PLANNED, None, None
        event.driven_front = event.driven_rear = None
        event.driven_front_rotors = event.driven_rear_rotors = None
        touch(entry, event)
    return event
