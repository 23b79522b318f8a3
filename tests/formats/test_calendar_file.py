"""Calendars: written by one library and read by another, moved, recurring, right around midnight, damaged."""

from __future__ import annotations

import contextlib
import datetime as dt
import io

import pytest
import vobject
from hypothesis import given
from hypothesis import strategies as st

from thermaxis.core.errors import FieldError
from thermaxis.formats.calendar_file import CalendarEntry, read_calendar, write_calendar

FIRST, LAST = dt.date(2026, 1, 1), dt.date(2027, 12, 31)
HEAD = "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//x//y//EN\r\n"


def calendar(*lines: str) -> bytes:
    body = "".join(f"BEGIN:VEVENT\r\n{event}END:VEVENT\r\n" for event in lines)
    return f"{HEAD}{body}END:VCALENDAR\r\n".encode()


def event(uid: str, *lines: str) -> str:
    return "".join(f"{line}\r\n" for line in (f"UID:{uid}", "SUMMARY:Club day", "DTSTAMP:20260101T000000Z", *lines))


def read(content: bytes, zone: str = "Europe/London") -> tuple[CalendarEntry, ...]:
    return read_calendar(content, zone, FIRST, LAST)


def test_another_library_reads_what_is_written() -> None:
    entries = [
        CalendarEntry(uid="a@x", name="Relay, round 1; wet", on=dt.date(2026, 12, 12), until_on=dt.date(2026, 12, 13)),
        CalendarEntry(
            uid="b@x",
            name="Testläufe",
            on=dt.date(2027, 2, 6),
            until_on=dt.date(2027, 2, 6),
            starts_at=dt.time(9, 30),
            ends_at=dt.time(17, 0),
            note="Bring\nboth sets, " + "and gauges " * 12,
            sequence=3,
        ),
        CalendarEntry(uid="c@x", name="Off", on=dt.date(2027, 3, 1), until_on=dt.date(2027, 3, 1), cancelled=True),
    ]
    content = write_calendar("Kit roadster", entries)
    found = {row.uid.value: row for row in vobject.readOne(io.StringIO(content.decode())).vevent_list}
    assert found["a@x"].summary.value == "Relay, round 1; wet"
    assert (found["a@x"].dtstart.value, found["a@x"].dtend.value) == (dt.date(2026, 12, 12), dt.date(2026, 12, 14))
    assert found["b@x"].dtstart.value == dt.datetime(2027, 2, 6, 9, 30)
    assert found["b@x"].description.value == entries[1].note
    assert found["b@x"].sequence.value == "3"
    assert found["c@x"].status.value == "CANCELLED"
    assert all(len(line) <= 75 for line in content.split(b"\r\n"))


days = st.dates(FIRST, LAST)
times = st.times().map(lambda time: time.replace(second=0, microsecond=0))
names = st.text(
    st.characters(codec="utf-8", exclude_categories=["Cc", "Cs", "Zl", "Zp", "Zs"]), min_size=1, max_size=40
)


@given(
    on=days, length=st.integers(0, 5), times=st.none() | st.tuples(times, times), name=names, sequence=st.integers(0, 9)
)
def test_what_is_written_is_read_again(
    on: dt.date, length: int, times: tuple[dt.time, dt.time] | None, name: str, sequence: int
) -> None:
    start, end = sorted(times) if times else (None, None)
    entry = CalendarEntry(
        uid="1@x",
        name=name,
        on=on,
        until_on=on + dt.timedelta(days=length),
        starts_at=start,
        ends_at=end if length or end != start else None,
        sequence=sequence,
    )
    if entry.starts_at and entry.ends_at is None:
        entry = CalendarEntry(uid="1@x", name=name, on=on, until_on=on, starts_at=start, sequence=sequence)
    (back,) = read(write_calendar("x", [entry]))
    kept = {
        field: getattr(back, field) for field in ("uid", "name", "on", "until_on", "starts_at", "ends_at", "sequence")
    }
    assert kept == {field: getattr(entry, field) for field in kept}


def test_times_and_whole_days_around_midnight() -> None:
    (late,) = read(
        calendar(
            event("1", "DTSTART;TZID=America/New_York:20260605T233000", "DTEND;TZID=America/New_York:20260606T003000")
        )
    )
    assert (late.on, late.starts_at, late.until_on, late.ends_at) == (
        dt.date(2026, 6, 6),
        dt.time(4, 30),
        dt.date(2026, 6, 6),
        dt.time(5, 30),
    )
    (utc,) = read(calendar(event("1", "DTSTART:20260605T233000Z", "DURATION:PT1H")))
    assert (utc.on, utc.starts_at, utc.ends_at) == (dt.date(2026, 6, 6), dt.time(0, 30), dt.time(1, 30))
    (winter,) = read(calendar(event("1", "DTSTART:20261205T233000Z", "DURATION:PT1H")))
    assert (winter.on, winter.until_on) == (dt.date(2026, 12, 5), dt.date(2026, 12, 6))
    # A whole day is that day wherever it is read.
    for zone in ("Pacific/Auckland", "America/Los_Angeles", "Europe/London"):
        (day,) = read(calendar(event("1", "DTSTART;VALUE=DATE:20260606")), zone)
        assert (day.on, day.until_on, day.starts_at) == (dt.date(2026, 6, 6), dt.date(2026, 6, 6), None)
    (floating,) = read(calendar(event("1", "DTSTART:20260605T233000")), "America/Los_Angeles")
    assert (floating.on, floating.starts_at) == (dt.date(2026, 6, 5), dt.time(23, 30))


def test_a_recurring_event_is_each_of_its_days_and_one_of_them_may_move() -> None:
    weekly = event(
        "r",
        "DTSTART;TZID=Europe/London:20260320T190000",
        "RRULE:FREQ=WEEKLY;COUNT=4",
        "EXDATE;TZID=Europe/London:20260327T190000",
    )
    moved = event(
        "r",
        "RECURRENCE-ID;TZID=Europe/London:20260403T190000",
        "DTSTART;TZID=Europe/London:20260404T100000",
        "SEQUENCE:2",
    )
    found = read(calendar(weekly, moved))
    # Summer time begins on 29 March: the clock on the wall says seven in both.
    assert [(row.on.isoformat(), row.starts_at) for row in found] == [
        ("2026-03-20", dt.time(19)),
        ("2026-04-04", dt.time(10)),
        ("2026-04-10", dt.time(19)),
    ]
    assert len({row.uid for row in found}) == 3
    assert {row.series for row in found} == {"r"}
    endless = read(calendar(event("e", "DTSTART;VALUE=DATE:20260101", "RRULE:FREQ=DAILY")))
    assert len(endless) == 104


@pytest.mark.parametrize(
    ("content", "message"),
    [
        (b"no calendar at all", "not damaged"),
        (calendar(event("1", "DTSTART:nonsense")), "begin on a day"),
        (calendar(event("1", "DTSTART:20200101T000000Z", "RRULE:FREQ=SECONDLY")), "daily at most"),
        (calendar(event("1", "DTSTART;VALUE=DATE:19000101", "RRULE:FREQ=DAILY")), "40 years"),
        (calendar(*[event(str(i), "DTSTART;VALUE=DATE:20260606") for i in range(501)]), "at most 500"),
        (b"x" * 1_000_001, "at most"),
    ],
)
def test_what_is_no_calendar_is_refused(content: bytes, message: str) -> None:
    with pytest.raises(FieldError, match=message):
        read(content)


def test_a_zone_that_is_none_is_refused() -> None:
    with pytest.raises(FieldError, match="time zone"):
        read(calendar(event("1", "DTSTART;VALUE=DATE:20260606")), "../../etc/passwd")


@given(content=st.binary(max_size=400) | st.text(max_size=200).map(lambda text: calendar(event("1", text))))
def test_whatever_comes_is_read_or_refused(content: bytes) -> None:
    with contextlib.suppress(FieldError):
        read(content)
