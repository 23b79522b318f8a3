"""Calendars as files (RFC 5545): what is written is read again as the same events, moved ones moved, none twice."""

from __future__ import annotations

import datetime as dt
import itertools
import re
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any
from zoneinfo import ZoneInfo

from icalendar import Calendar, Event

from thermaxis.core.errors import FieldError
from thermaxis.formats.recurrence import Budget, read_rule, repeats
from thermaxis.formats.text import decode

MOST_BYTES, MOST_EVENTS, MOST_REPEATS, MOST_TEXT = 1_000_000, 500, 104, 500
MOST_SERIES, OLDEST_SERIES_YEARS = 40, 40
# Of a time zone a file describes by itself: how many changes of the clock, and how often in so many years.
MOST_CLOCK_CHANGES, CLOCK_YEARS, MOST_IN_CLOCK_YEARS = 60, 30, 62
FOLDED = re.compile(r"(\r?\n)+[ \t]")
RULE = re.compile(r'(?:RRULE|EXRULE)(?:;[^=;:]+=(?:"[^"]*"|[^";:]*))*:(.*)', re.IGNORECASE)
PRODUCT = "-//Thermaxis//Season//EN"


@dataclass(frozen=True, kw_only=True)
class CalendarEntry:
    """One event: days as its place has them, times by the clock on the wall there; none for whole days.

    `until_on` is its last day; `series` the uid of a recurring event it is one of.
    """

    uid: str
    name: str
    on: dt.date
    until_on: dt.date
    starts_at: dt.time | None = None
    ends_at: dt.time | None = None
    note: str = ""
    sequence: int = 0
    cancelled: bool = False
    changed_at: dt.datetime | None = None
    series: str = ""


def write_calendar(name: str, entries: Iterable[CalendarEntry]) -> bytes:
    """A calendar of events. Times float: they are what the clock says where the reader is, as at the event itself."""
    calendar = Calendar()
    calendar.add("prodid", PRODUCT)
    calendar.add("version", "2.0")
    calendar.add("method", "PUBLISH")
    calendar.add("x-wr-calname", name)
    for entry in entries:
        event = Event()
        event.add("uid", entry.uid)
        event.add("summary", entry.name)
        event.add("sequence", entry.sequence)
        event.add("dtstamp", entry.changed_at or dt.datetime(2026, 1, 1, tzinfo=dt.UTC))
        event.add("status", "CANCELLED" if entry.cancelled else "CONFIRMED")
        if entry.note:
            event.add("description", entry.note)
        if entry.starts_at is None:
            event.add("dtstart", entry.on)
            # The end of whole days is the first day that is not one of them.
            event.add("dtend", entry.until_on + dt.timedelta(days=1))
        else:
            event.add("dtstart", dt.datetime.combine(entry.on, entry.starts_at))
            if entry.ends_at is not None:
                event.add("dtend", dt.datetime.combine(entry.until_on, entry.ends_at))
        calendar.add_component(event)
    return bytes(calendar.to_ical())


def read_calendar(content: bytes, zone: str, first: dt.date, last: dt.date) -> tuple[CalendarEntry, ...]:
    """Events of a file from `first` to `last`, recurring ones one by one, times by the clock of `zone`.

    FieldError where it is no calendar, or too large a one, or the zone is none.
    """
    try:
        local = ZoneInfo(zone)
    except (KeyError, ValueError, OSError):
        raise FieldError("zone", zone, "a time zone such as Europe/London") from None
    text = decode(content, MOST_BYTES)
    budget = Budget()
    _check_clocks(text, budget)
    try:
        events = [item for calendar in Calendar.from_ical(text, multiple=True) for item in calendar.walk("VEVENT")]
        events = list(itertools.islice(events, MOST_EVENTS + 1))
        if len(events) > MOST_EVENTS:
            raise FieldError("file", f"over {MOST_EVENTS} events", f"at most {MOST_EVENTS} events")
        if sum("rrule" in event for event in events) > MOST_SERIES:
            raise FieldError("file", f"over {MOST_SERIES} recurring events", f"at most {MOST_SERIES}")
        found = [entry for event in events for entry in _entries(event, local, first, last, budget)]
    except FieldError:
        raise
    # A damaged file may raise nearly anything in its reader: whatever it is, this is no calendar.
    except Exception as error:
        raise FieldError("file", type(error).__name__, "a calendar (.ics) that is not damaged") from None
    # One that was changed by itself takes the place of its day in the series.
    unique: dict[str, CalendarEntry] = {}
    for entry in found:
        before = unique.get(entry.uid)
        if before is None or entry.sequence >= before.sequence:
            unique[entry.uid] = entry
    inside = [entry for entry in unique.values() if first <= entry.on <= last]
    if len(inside) > MOST_EVENTS:
        raise FieldError("file", f"{len(inside)} events", f"at most {MOST_EVENTS} events from today on")
    return tuple(sorted(inside, key=lambda entry: (entry.on, entry.starts_at or dt.time.min, entry.uid)))


def _check_clocks(text: str, budget: Budget) -> None:
    """Refuse rules of the file's own time zones that the reader would follow for ever. FieldError, naming the line.

    Looked at before the file is read: reading expands them.
    """
    for changes, (begins, lines) in enumerate(_clock_changes(text), 1):
        if changes > MOST_CLOCK_CHANGES:
            raise FieldError("file", f"over {MOST_CLOCK_CHANGES} clock changes", f"at most {MOST_CLOCK_CHANGES}")
        for line in lines:
            rule, until = read_rule(line), begins.replace(year=min(9999, begins.year + CLOCK_YEARS))
            found = itertools.islice(repeats(rule, begins, begins, until, budget), MOST_IN_CLOCK_YEARS + 1)
            if rule.frequency != "YEARLY" or not 1 <= len(list(found)) <= MOST_IN_CLOCK_YEARS:
                raise FieldError("file", line[:60], "time zones whose clock changes once or twice a year")


def _clock_changes(text: str) -> Iterator[tuple[dt.datetime, list[str]]]:
    """Of each change of the clock that a file's time zones describe: when it began, and the rules it repeats by."""
    begins, rules, inside = dt.datetime(1970, 1, 1), list[str](), False
    for line in FOLDED.sub("", text).splitlines():
        name = line.upper().replace(" ", "")
        if name in ("BEGIN:STANDARD", "BEGIN:DAYLIGHT"):
            begins, rules, inside = dt.datetime(1970, 1, 1), [], True
        elif name in ("END:STANDARD", "END:DAYLIGHT") and inside:
            inside = False
            yield begins, rules
        elif inside and name.startswith("DTSTART"):
            digits = re.search(r":(\d{8}T\d{6})", name)
            try:
                begins = dt.datetime.strptime(digits[1] if digits else "", "%Y%m%dT%H%M%S")
            except ValueError:
                raise FieldError("file", line[:60], "time zones that begin at a moment") from None
        elif inside and name.startswith(("RRULE", "EXRULE")):
            found = RULE.fullmatch(line.strip())
            if found is None:
                raise FieldError("file", line[:60], "a recurrence rule")
            rules.append(found[1])


def _entries(event: Any, local: ZoneInfo, first: dt.date, last: dt.date, budget: Budget) -> Sequence[CalendarEntry]:
    uid = str(event.get("uid") or "").strip()
    if not uid or "dtstart" not in event:
        return ()
    start = event.decoded("dtstart")
    if not isinstance(start, dt.date):
        raise FieldError("file", str(start)[:40], "events that begin on a day")
    end = event.decoded("dtend") if "dtend" in event else None
    if end is None and "duration" in event:
        end = start + event.decoded("duration")
    if "recurrence-id" in event:
        own = event.decoded("recurrence-id")
        return (_entry(event, f"{uid}/{_day(own, local).isoformat()}", start, end, local, series=uid),)
    if "rrule" not in event:
        return (_entry(event, uid, start, end, local),)
    found = []
    for begin in _repeats(event, start, first, last, budget):
        finish = None if end is None else end + (begin - start)
        found.append(_entry(event, f"{uid}/{_day(begin, local).isoformat()}", begin, finish, local, series=uid))
    return found


def _repeats(event: Any, start: Any, first: dt.date, last: dt.date, budget: Budget) -> list[Any]:
    """The beginnings of a recurring event, as dates or times as its first one is."""
    whole = not isinstance(start, dt.datetime)
    zone = None if whole else start.tzinfo
    # Counted by the clock on the wall, so that an hour of summer time moves nothing.
    begins = _naive(start)
    line = event["rrule"].to_ical().decode()
    rule = read_rule(line)
    if begins.year < first.year - OLDEST_SERIES_YEARS:
        raise FieldError("file", line[:60], f"events that recur since {OLDEST_SERIES_YEARS} years at most")
    before = dt.datetime.combine(first, dt.time()) - dt.timedelta(days=1)
    after = dt.datetime.combine(last, dt.time()) + dt.timedelta(days=1)
    moved_out, moved_in = _listed(event, "exdate"), _listed(event, "rdate")
    # As many more as are taken out again.
    named = itertools.islice(repeats(rule, begins, before, after, budget), MOST_REPEATS + len(moved_out))
    days = {*named, *(day for day in moved_in if before <= day <= after)} - moved_out
    return [day.date() if whole else day.replace(tzinfo=zone) for day in sorted(days)[:MOST_REPEATS]]


def _listed(event: Any, name: str) -> set[dt.datetime]:
    """Days that are listed by themselves: left out of a rule, or more than it says."""
    return {_naive(item.dt) for group in _as_list(event.get(name)) for item in group.dts}


def _naive(moment: Any) -> dt.datetime:
    if isinstance(moment, dt.datetime):
        return moment.replace(tzinfo=None)
    return dt.datetime.combine(moment, dt.time())


def _as_list(value: Any) -> list[Any]:
    return [] if value is None else value if isinstance(value, list) else [value]


def _day(moment: Any, local: ZoneInfo) -> dt.date:
    if not isinstance(moment, dt.datetime):
        return moment  # type: ignore[no-any-return]
    return (moment if moment.tzinfo is None else moment.astimezone(local)).date()


def _entry(event: Any, uid: str, start: Any, end: Any, local: ZoneInfo, series: str = "") -> CalendarEntry:
    whole = not isinstance(start, dt.datetime)
    if whole:
        until = end - dt.timedelta(days=1) if end is not None else start
        starts_at = ends_at = None
    else:
        start = start if start.tzinfo is None else start.astimezone(local)
        end = end if end is None or end.tzinfo is None else end.astimezone(local)
        until = (end or start).date()
        starts_at = start.time().replace(tzinfo=None)
        ends_at = end.time().replace(tzinfo=None) if end is not None and end > start else None
    on = _day(start, local)
    changed = event.decoded("dtstamp") if "dtstamp" in event else None
    return CalendarEntry(
        uid=uid[:200],
        name=str(event.get("summary") or "event").strip()[:120] or "event",
        on=on,
        until_on=max(on, until),
        starts_at=starts_at,
        ends_at=ends_at,
        note=str(event.get("description") or "").strip()[:MOST_TEXT],
        sequence=max(0, min(10**6, int(event.get("sequence") or 0))),
        cancelled=str(event.get("status") or "").upper() == "CANCELLED",
        changed_at=changed if isinstance(changed, dt.datetime) else None,
        series=series[:64],
    )
