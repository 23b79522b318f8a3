"""Events in a table: a day, a name, times and a note by columns that are found by their headings."""

from __future__ import annotations

import datetime as dt
import hashlib
from collections.abc import Sequence

from thermaxis.core.errors import FieldError
from thermaxis.formats.calendar_file import MOST_EVENTS, CalendarEntry
from thermaxis.formats.table import Table

# Words a heading may hold for each column, the likeliest first.
HEADINGS = {
    "on": ("date", "day", "begins", "start date", "from"),
    "name": ("name", "event", "title", "subject", "what"),
    "until_on": ("until", "ends on", "last day", "end date", "to"),
    "starts_at": ("start", "time", "at"),
    "ends_at": ("end", "ends"),
    "note": ("note", "notes", "description", "where", "place"),
}
DAYS = ("%Y-%m-%d", "%d.%m.%Y", "%d/%m/%Y", "%d %b %Y", "%d %B %Y", "%Y-%m-%d %H:%M:%S")
TIMES = ("%H:%M", "%H:%M:%S", "%H.%M")


def read_events(table: Table) -> tuple[CalendarEntry, ...]:
    """Events of a table; days as 2026-12-31, 31.12.2026, 31/12/2026 or 31 Dec 2026. FieldError names row and cell.

    The same day and name are the same event whenever it is read.
    """
    places = columns_of(table.headings)
    for needed in ("on", "name"):
        if needed not in places:
            words = " or ".join(HEADINGS[needed][:2])
            raise FieldError("file", ", ".join(table.headings)[:80], f"a column headed {words}")
    if len(table.rows) > MOST_EVENTS:
        raise FieldError("file", f"{len(table.rows)} rows", f"at most {MOST_EVENTS} events")
    found = []
    for number, row in table.rows:
        cells = {field: row[place] for field, place in places.items()}
        on = day_of(cells["on"], f"row {number}")
        until_on = day_of(cells["until_on"], f"row {number}") if cells.get("until_on") else on
        name = cells["name"].strip()[:120]
        if not name:
            raise FieldError("file", f"row {number}", "a name in every row")
        mark = hashlib.sha256(f"{on.isoformat()}|{name.casefold()}".encode()).hexdigest()[:32]
        found.append(
            CalendarEntry(
                uid=f"{mark}@table",
                name=name,
                on=on,
                until_on=max(on, until_on),
                starts_at=_time(cells.get("starts_at", ""), number),
                ends_at=_time(cells.get("ends_at", ""), number),
                note=cells.get("note", "")[:500],
            )
        )
    return tuple(found)


def columns_of(headings: Sequence[str]) -> dict[str, int]:
    """Which column holds what: a heading that is one of its words, else one that begins with it."""
    plain = [heading.strip().casefold() for heading in headings]
    found: dict[str, int] = {}
    for exact in (True, False):
        for field, words in HEADINGS.items():
            for word in words:
                if field in found:
                    break
                for place, heading in enumerate(plain):
                    if place not in found.values() and (heading == word if exact else heading.startswith(word)):
                        found[field] = place
                        break
    return found


def day_of(text: str, where: str = "") -> dt.date:
    """A day in one of the usual ways to write it. FieldError names where it stands, if that is said."""
    for form in DAYS:
        try:
            return dt.datetime.strptime(text.strip(), form).date()
        except ValueError:
            continue
    raise FieldError("file", f"{where}: {text[:40]}" if where else text[:40], "a day such as 2026-12-31 or 31.12.2026")


def _time(text: str, number: int) -> dt.time | None:
    if not text.strip():
        return None
    for form in TIMES:
        try:
            return dt.datetime.strptime(text.strip(), form).time()
        except ValueError:
            continue
    raise FieldError("file", f"row {number}: {text[:40]}", "a time such as 09:30")
