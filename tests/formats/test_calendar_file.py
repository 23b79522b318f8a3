"""Calendars: written by one library and read by another, moved, recurring, right around midnight, damaged."""

from __future__ import annotations

import contextlib
import datetime as dt
import io
import itertools

import pytest
import vobject
from dateutil.rrule import rrulestr
from hypothesis import given
from hypothesis import strategies as st

from thermaxis.core.errors import FieldError
from thermaxis.formats.calendar_file import CalendarEntry, read_calendar, write_calendar
from thermaxis.formats.recurrence import FREQUENCIES, WEEKDAYS, Budget, read_rule, repeats

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


def one_of(name: str, values: st.SearchStrategy[str]) -> st.SearchStrategy[str]:
    return st.one_of(st.just(""), values.map(lambda value: f";{name}={value}"))


def listed(values: st.SearchStrategy[str]) -> st.SearchStrategy[str]:
    return st.lists(values, min_size=1, max_size=3, unique=True).map(",".join)


@st.composite
def rules(draw: st.DrawFn) -> str:
    """Rules that both expanders understand alike: each names a day sooner or later, ordinals and plain days apart."""
    frequency = draw(st.sampled_from(FREQUENCIES))
    ordinals = st.sampled_from(("1", "2", "-1")) if frequency in ("MONTHLY", "YEARLY") else st.just("")
    plain, numbered = st.sampled_from(WEEKDAYS), st.tuples(ordinals, st.sampled_from(WEEKDAYS)).map("".join)
    by = draw(
        st.sampled_from(
            (
                one_of("BYDAY", st.one_of(listed(plain), listed(numbered))),
                one_of("BYMONTHDAY", listed(st.integers(1, 28).map(str))),
                one_of("BYMONTH", listed(st.integers(1, 12).map(str))) if frequency != "MONTHLY" else st.just(""),
                one_of("BYYEARDAY", listed(st.integers(-300, -1).map(str)))
                if frequency == "YEARLY"
                else st.just(";BYDAY=MO,WE,FR;BYSETPOS=-1"),
            )
        )
    )
    ends = st.one_of(one_of("COUNT", st.integers(1, 80).map(str)), one_of("UNTIL", st.just("20270601T120000")))
    every = one_of("INTERVAL", st.integers(1, 4).map(str))
    first = one_of("WKST", st.sampled_from(WEEKDAYS))
    return f"FREQ={frequency}{draw(every)}{draw(by)}{draw(ends)}{draw(first)}"


@given(
    rules(), st.datetimes(dt.datetime(2018, 1, 1), dt.datetime(2025, 12, 31)).map(lambda at: at.replace(microsecond=0))
)
def test_a_rule_is_expanded_as_by_another_library(rule: str, start: dt.datetime) -> None:
    first, last = dt.datetime(2025, 3, 5), dt.datetime(2028, 6, 1)
    found = list(repeats(read_rule(rule), start, first, last, Budget(seconds=3600)))
    known = rrulestr(rule, dtstart=start).xafter(first, inc=True)
    assert found == list(itertools.takewhile(lambda day: day <= last, known))


ENDLESS = (
    "FREQ=DAILY;INTERVAL=0",
    "FREQ=WEEKLY;INTERVAL=0",
    "FREQ=MONTHLY;INTERVAL=0",
    "FREQ=YEARLY;INTERVAL=0",
    "FREQ=DAILY;INTERVAL=-1",
    "FREQ=YEARLY;BYSECOND=" + ",".join(map(str, range(60))),
)


def zone(rule: str) -> bytes:
    """A calendar with a time zone of its own whose clock changes by this rule, and one event in it."""
    change = f"DTSTART:16010101T020000\r\nTZOFFSETFROM:+0100\r\nTZOFFSETTO:+0000\r\nRRULE:{rule}\r\n"
    clock = f"BEGIN:VTIMEZONE\r\nTZID:Own\r\nBEGIN:STANDARD\r\n{change}END:STANDARD\r\nEND:VTIMEZONE\r\n"
    one = calendar(event("1", "DTSTART;TZID=Own:20260707T100000")).decode()
    return one.replace("BEGIN:VEVENT", f"{clock}BEGIN:VEVENT", 1).encode()


@pytest.mark.parametrize("rule", ENDLESS)
def test_a_rule_that_never_ends_is_refused_with_its_line(rule: str) -> None:
    """Each of these held a thread for good, in an event as in a time zone."""
    for content in (calendar(event("1", "DTSTART:20260107T100000", f"RRULE:{rule}")), zone(rule)):
        with pytest.raises(FieldError, match=rule[:30]):
            read(content)


def test_a_rule_that_names_no_day_ends() -> None:
    never = "FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30"
    assert read(calendar(event("1", "DTSTART:20260107T100000", f"RRULE:{never}"))) == ()
    with pytest.raises(FieldError, match="once or twice a year"):
        read(zone("FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30"))
    assert len(read(zone("FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU"))) == 1


def test_all_rules_of_a_file_share_one_budget() -> None:
    long = ("DTSTART:19870107T100000", "RRULE:FREQ=DAILY;COUNT=99999;BYMONTHDAY=30;BYMONTH=2,4")
    assert len(read(calendar(event("1", *long)))) == 2
    with pytest.raises(FieldError, match="within a second"):
        read(calendar(*[event(str(number), *long) for number in range(40)]))
    # And so is the time, whatever a step takes.
    clock = itertools.count(step=1.0)
    slow = Budget(clock=lambda: next(clock))
    with pytest.raises(FieldError, match="within a second"):
        list(repeats(read_rule("FREQ=DAILY"), dt.datetime(2000, 1, 1), dt.datetime.min, dt.datetime.max, slow))
