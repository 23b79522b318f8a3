"""Events of a calendar or a table come in: new ones are added, moved ones moved, and none comes twice."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from django.utils import timezone

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.garage.models import Duty, Machine
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import DRIVERS, Action
from thermaxis.apps.season.actions.events import touch
from thermaxis.apps.season.models import PLANNED, Event
from thermaxis.formats.calendar_file import CalendarEntry

TAKE_IN_EVENTS = Action("take_in_events", "Events taken in", kind="event", roles=DRIVERS)

FIELDS = ("name", "on", "until_on", "starts_at", "ends_at", "note")
NEW, MOVED, CANCELLED, SAME, OVER = "new", "moved", "cancelled", "same", "over"


@dataclass(frozen=True, kw_only=True)
class Coming:
    """An event of a file, and what becomes of it here."""

    entry: CalendarEntry
    what: str


def compared(machine: Machine, entries: Sequence[CalendarEntry]) -> list[Coming]:
    """What would become of each event of a file."""
    there = _there(machine, entries)
    return [Coming(entry=entry, what=_what(entry, there.get(entry.uid))) for entry in entries]


def _there(machine: Machine, entries: Sequence[CalendarEntry]) -> dict[str, Event]:
    """Those of them that are here already, by their uid."""
    return {row.uid: row for row in Event.objects.filter(machine=machine, uid__in=[entry.uid for entry in entries])}


def _what(entry: CalendarEntry, row: Event | None) -> str:
    if row is None:
        return CANCELLED if entry.cancelled else NEW
    if row.state != PLANNED:
        return OVER
    if entry.cancelled:
        return SAME if row.removed_at is not None else CANCELLED
    # What was taken out here stays out, unless it has been moved since.
    if all(getattr(row, name) == _as_kept(entry)[name] for name in FIELDS):
        return SAME
    return MOVED


def _as_kept(entry: CalendarEntry) -> dict[str, object]:
    values = {name: getattr(entry, name) for name in FIELDS}
    values["until_on"] = entry.until_on if entry.until_on != entry.on else None
    return values


def take_in(scope: Scope, machine: Machine, entries: Sequence[CalendarEntry], duty: Duty, source: str) -> list[Coming]:
    """Bring them in: a new event has this duty once; duty, sets and fluid of one that is here already stay."""
    with act(scope, TAKE_IN_EVENTS, machine) as entry:
        found, there = compared(machine, entries), _there(machine, entries)
        changed = [coming for coming in found if coming.what not in (SAME, OVER)]
        for coming in changed:
            row = there.get(coming.entry.uid)
            if row is None:
                if coming.what == NEW:
                    _add(machine, coming.entry, duty, source)
                continue
            if coming.what == CANCELLED:
                row.removed_at = timezone.now()
            else:
                for name, value in _as_kept(coming.entry).items():
                    setattr(row, name, value)
                row.removed_at = None
            touch(entry, row)
        entry.nothing = not changed
        for what in (NEW, MOVED, CANCELLED):
            entry.changed(what, 0, sum(coming.what == what for coming in changed))
    return found


def _add(machine: Machine, entry: CalendarEntry, duty: Duty, source: str) -> None:
    Event.objects.create(
        workshop=machine.workshop,
        machine=machine,
        uid=entry.uid,
        series=entry.series,
        source=source,
        duty=duty,
        sequence=entry.sequence,
        name=entry.name,
        on=entry.on,
        until_on=entry.until_on if entry.until_on != entry.on else None,
        starts_at=entry.starts_at,
        ends_at=entry.ends_at,
        note=entry.note,
    )
