"""Write in the log by hand, take an entry out, add a picture, read an older log in."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence

from django.utils import timezone

from thermaxis.apps.accounts.models import Reach
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import DRIVERS, Action
from thermaxis.apps.log.actions import set_removed
from thermaxis.apps.log.models import LogEntry, LogPhoto
from thermaxis.core.errors import Bounds, FieldError, SolveError
from thermaxis.formats.log_table import OlderEntry
from thermaxis.formats.picture import redrawn

WRITE_NOTE = Action("write_note", "Written by hand", kind="note", roles=DRIVERS, keys=Reach.READINGS, nearby=True)
REMOVE_NOTE = Action("remove_note", "Entry taken out or brought back", kind="note", roles=DRIVERS, nearby=True)
KEEP_NOTE_PHOTO = Action("keep_note_photo", "Picture added to an entry", kind="note", roles=DRIVERS, nearby=True)
TAKE_IN_LOG = Action("take_in_log", "Older log read in", kind="note", roles=DRIVERS)

# What somebody wrote, and no change by itself.
BY_HAND = (WRITE_NOTE.name, TAKE_IN_LOG.name)
MOST_TEXT, MOST_KM, MOST_COST, MOST_PHOTOS = 4000, 5_000_000.0, 1e6, 12


def write_note(
    scope: Scope,
    machine: Machine | None,
    *,
    on: dt.date,
    text: str,
    odometer_km: float | None = None,
    cost: float | None = None,
) -> LogEntry:
    """Write an entry. FieldError for one without words, or on a day to come."""
    with act(scope, WRITE_NOTE, *([machine] if machine else [])) as entry:
        if not text.strip() or len(text) > MOST_TEXT:
            raise FieldError("text", text[:40], f"words, at most {MOST_TEXT} characters")
        if not dt.date(1950, 1, 1) <= on <= timezone.localdate() + dt.timedelta(days=1):
            raise FieldError("on", on.isoformat(), "a day from 1950-01-01 to today")
        for path, value, most in (("odometer_km", odometer_km, MOST_KM), ("cost", cost, MOST_COST)):
            if value is not None and not 0 <= value <= most:
                raise FieldError.outside(path, value, Bounds(least=0, most=most))
        entry.row.on, entry.row.text = on, text
        entry.costs(cost)
        row = entry.saved()
    if odometer_km is not None:
        LogEntry.objects.filter(pk=row.pk).update(odometer_km=odometer_km)
        row.odometer_km = odometer_km
    return row


def remove_note(scope: Scope, row: LogEntry, removed: bool) -> LogEntry:
    """Take an entry by hand out, or bring it back. SolveError for one that a change wrote by itself."""
    with act(scope, REMOVE_NOTE, row):
        if row.act not in BY_HAND:
            raise SolveError("A change wrote this entry: it says what was done, and stays.")
        return set_removed(scope, REMOVE_NOTE, row, removed)


def keep_note_photo(scope: Scope, row: LogEntry, token: str, content: bytes) -> LogPhoto:
    """Keep a picture of an entry by hand, drawn anew; the same token is the same picture. FieldError for none."""
    with act(scope, KEEP_NOTE_PHOTO, row) as entry:
        if row.act != WRITE_NOTE.name:
            raise SolveError("Pictures belong to entries by hand.")
        found = row.photos.filter(token=token).first()
        if found is not None:
            entry.nothing = True
            return found
        if row.photos.count() >= MOST_PHOTOS:
            raise FieldError("file", MOST_PHOTOS + 1, f"at most {MOST_PHOTOS} pictures")
        entry.about(row)
        return LogPhoto.objects.create(entry=row, token=token, content=redrawn(content))


def take_in_log(scope: Scope, machine: Machine, older: Sequence[OlderEntry]) -> int:
    """Read an older log in, each row an entry on its own day; what is here word for word does not come twice."""
    with act(scope, TAKE_IN_LOG, machine) as entry:
        there = set(LogEntry.objects.filter(machine=machine).values_list("on", "text"))
        new = [row for row in dict.fromkeys(older) if (row.on, row.text) not in there]
        entry.nothing = not new
        LogEntry.objects.bulk_create(
            LogEntry(
                workshop=scope.workshop,
                act=TAKE_IN_LOG.name,
                kind=TAKE_IN_LOG.kind,
                user=scope.user,
                user_name=scope.user.get_username(),
                on=row.on,
                machine=machine,
                odometer_km=row.odometer_km,
                summary=row.text.splitlines()[0][:240],
                text=row.text,
                cost=row.cost,
            )
            for row in new
        )
        entry.changed("entries", 0, len(new))
    return len(new)
