"""Recurrence rules of calendars (RFC 5545, 3.3.10), expanded within wanted days and a bounded number of steps.

A general expander walks on until it finds a day. A rule that never names one ("every 30 February", "every 0 days")
would hold its thread for good, and nothing outside can stop it. Here every day looked at is one step of a budget that
the whole file shares.
"""

from __future__ import annotations

import calendar
import datetime as dt
import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field

from thermaxis.core.errors import FieldError

MOST_STEPS, MOST_S = 200_000, 1.0
# The clock is asked once for so many steps.
CLOCK_EVERY = 512
WEEKDAYS = ("MO", "TU", "WE", "TH", "FR", "SA", "SU")
FREQUENCIES = ("DAILY", "WEEKLY", "MONTHLY", "YEARLY")
ALLOWED = "a rule that repeats daily at most (or weekly, monthly, yearly), with an INTERVAL of 1 or more"
# Lists of numbers: the largest size of an entry; negative ones count from the end where that is allowed.
LISTS = {"BYMONTH": (12, False), "BYMONTHDAY": (31, True), "BYYEARDAY": (366, True), "BYSETPOS": (366, True)}
CLOCK_PARTS = {"BYHOUR": 23, "BYMINUTE": 59, "BYSECOND": 59}
MOST_LISTED = 400


@dataclass(kw_only=True)
class Budget:
    """Steps and seconds that all rules of one file share. Raises FieldError, naming the rule, once they are spent."""

    steps: int = MOST_STEPS
    seconds: float = MOST_S
    clock: Callable[[], float] = time.monotonic
    _ends_at: float = field(init=False)

    def __post_init__(self) -> None:
        self._ends_at = self.clock() + self.seconds

    def spend(self, line: str) -> None:
        """One more day looked at for the sake of `line`."""
        self.steps -= 1
        if self.steps < 0 or (self.steps % CLOCK_EVERY == 0 and self.clock() > self._ends_at):
            raise FieldError("file", line[:60], "recurring events that are worked out within a second")


@dataclass(frozen=True, kw_only=True)
class Rule:
    """A rule as read: `weekdays` are (ordinal, weekday), 0 for every one; `at` replaces parts of the start's time."""

    line: str
    frequency: str
    interval: int = 1
    count: int | None = None
    until: dt.datetime | None = None
    week_start: int = 0
    months: frozenset[int] = frozenset()
    month_days: frozenset[int] = frozenset()
    year_days: frozenset[int] = frozenset()
    weekdays: frozenset[tuple[int, int]] = frozenset()
    positions: tuple[int, ...] = ()
    at: tuple[tuple[str, int], ...] = ()

    def time_of(self, start: dt.datetime) -> dt.time:
        """The time of day of each repeat."""
        return start.time().replace(**dict(self.at))  # type: ignore[arg-type]


def read_rule(line: str) -> Rule:
    """Read the value of an RRULE. FieldError, naming the line, for one that is damaged, endless or too fine."""
    try:
        parts = dict(part.split("=") for part in line.strip().upper().split(";") if part)
        values = _values(parts)
    except (ValueError, OverflowError):
        raise FieldError("file", line[:60], ALLOWED) from None
    return Rule(line=line[:60], **values)  # type: ignore[arg-type]


def _values(parts: dict[str, str]) -> dict[str, object]:
    """The parts of a rule by the names of `Rule`. ValueError for anything not understood."""
    found: dict[str, object] = {"frequency": parts.pop("FREQ", "")}
    if found["frequency"] not in FREQUENCIES:
        raise ValueError
    found["interval"] = _whole(parts.pop("INTERVAL", "1"), 1, 10_000)
    if "COUNT" in parts:
        found["count"] = _whole(parts.pop("COUNT"), 1, 10**6)
    if "UNTIL" in parts:
        found["until"] = _moment(parts.pop("UNTIL"))
    found["week_start"] = WEEKDAYS.index(parts.pop("WKST", "MO"))
    listed = {name: _list(parts.pop(name), *LISTS[name]) for name in LISTS if name in parts}
    names = {"BYMONTH": "months", "BYMONTHDAY": "month_days", "BYYEARDAY": "year_days"}
    found.update({names[name]: frozenset(numbers) for name, numbers in listed.items() if name in names})
    found["positions"] = tuple(listed.get("BYSETPOS", ()))
    if "BYDAY" in parts:
        found["weekdays"] = frozenset(map(_weekday, _split(parts.pop("BYDAY"))))
    found["at"] = tuple(
        (name[2:].lower(), _whole(parts.pop(name), 0, most)) for name, most in CLOCK_PARTS.items() if name in parts
    )
    if parts:
        raise ValueError
    return found


def _split(text: str) -> list[str]:
    found = text.split(",")
    if len(found) > MOST_LISTED:
        raise ValueError
    return found


def _whole(text: str, least: int, most: int) -> int:
    if not text.lstrip("+-").isascii() or len(text) > 8 or not least <= int(text) <= most:
        raise ValueError
    return int(text)


def _list(text: str, most: int, from_end: bool) -> list[int]:
    found = [_whole(part, -most if from_end else 1, most) for part in _split(text)]
    if 0 in found:
        raise ValueError
    return found


def _weekday(text: str) -> tuple[int, int]:
    ordinal = text[:-2]
    return (_whole(ordinal, -53, 53) if ordinal else 0), WEEKDAYS.index(text[-2:])


def _moment(text: str) -> dt.datetime:
    """An UNTIL; a plain day counts to its end. Read by the clock on the wall, as the events are."""
    if len(text) == 8:
        return dt.datetime.strptime(text, "%Y%m%d").replace(hour=23, minute=59, second=59)
    return dt.datetime.strptime(text.rstrip("Z"), "%Y%m%dT%H%M%S")


def repeats(
    rule: Rule, start: dt.datetime, first: dt.datetime, last: dt.datetime, budget: Budget
) -> Iterator[dt.datetime]:
    """The moments a rule names from `first` to `last`, in order; `start` is the earliest there can be.

    FieldError once the budget is spent.
    """
    at, last = rule.time_of(start), min(last, rule.until or last)
    count = 0
    for days in _periods(rule, start.date(), None if rule.count else first.date(), last.date(), budget):
        for day in _positioned(rule, days):
            moment = dt.datetime.combine(day, at)
            if moment < start:
                continue
            count += 1
            if moment > last or (rule.count is not None and count > rule.count):
                return
            if moment >= first:
                yield moment


def _positioned(rule: Rule, days: list[dt.date]) -> list[dt.date]:
    if not rule.positions:
        return days
    chosen = {place - 1 if place > 0 else len(days) + place for place in rule.positions}
    return [day for place, day in enumerate(days) if place in chosen]


def _periods(
    rule: Rule, start: dt.date, first: dt.date | None, last: dt.date, budget: Budget
) -> Iterator[list[dt.date]]:
    """For each period of the rule up to `last` its days that the rule names.

    Those that end before `first` are passed over by arithmetic, where nothing counts them.
    """
    number = 0
    if first is not None:
        number = max(0, _periods_between(rule, start, first) // rule.interval - 1)
    while True:
        try:
            begins, ends = _bounds(rule, start, number * rule.interval)
        except (ValueError, OverflowError):
            return
        if begins > last:
            return
        yield list(_named(rule, start, begins, ends, budget))
        number += 1


def _periods_between(rule: Rule, start: dt.date, day: dt.date) -> int:
    if rule.frequency == "DAILY":
        return (day - start).days
    if rule.frequency == "WEEKLY":
        return (day - start).days // 7
    years = day.year - start.year
    return years if rule.frequency == "YEARLY" else 12 * years + day.month - start.month


def _bounds(rule: Rule, start: dt.date, number: int) -> tuple[dt.date, dt.date]:
    """First and last day of a period. ValueError, OverflowError beyond the calendar's last year."""
    if rule.frequency == "DAILY":
        day = start + dt.timedelta(days=number)
        return day, day
    if rule.frequency == "WEEKLY":
        monday = start - dt.timedelta(days=(start.weekday() - rule.week_start) % 7)
        begins = monday + dt.timedelta(weeks=number)
        return begins, begins + dt.timedelta(days=6)
    if rule.frequency == "YEARLY":
        return dt.date(start.year + number, 1, 1), dt.date(start.year + number, 12, 31)
    year, month = divmod(12 * start.year + start.month - 1 + number, 12)
    return dt.date(year, month + 1, 1), dt.date(year, month + 1, calendar.monthrange(year, month + 1)[1])


def _named(rule: Rule, start: dt.date, begins: dt.date, ends: dt.date, budget: Budget) -> Iterator[dt.date]:
    months, month_days, weekdays = _with_defaults(rule, start)
    day = begins
    while day <= ends:
        budget.spend(rule.line)
        if months and day.month not in months:
            # A month that is not named is one step, not thirty.
            day = day.replace(day=calendar.monthrange(day.year, day.month)[1])
        elif _is_named(rule, day, month_days, weekdays):
            yield day
        if day == dt.date.max:
            return
        day += dt.timedelta(days=1)


def _with_defaults(rule: Rule, start: dt.date) -> tuple[frozenset[int], frozenset[int], frozenset[tuple[int, int]]]:
    """What the start says where the rule says nothing."""
    months, month_days, weekdays = rule.months, rule.month_days, rule.weekdays
    if not (month_days or weekdays or rule.year_days):
        if rule.frequency == "YEARLY" and not months:
            months = frozenset({start.month})
        if rule.frequency in ("YEARLY", "MONTHLY"):
            month_days = frozenset({start.day})
        if rule.frequency == "WEEKLY":
            weekdays = frozenset({(0, start.weekday())})
    return months, month_days, weekdays


def _is_named(rule: Rule, day: dt.date, month_days: frozenset[int], weekdays: frozenset[tuple[int, int]]) -> bool:
    if month_days:
        length = calendar.monthrange(day.year, day.month)[1]
        if day.day not in month_days and day.day - length - 1 not in month_days:
            return False
    if rule.year_days:
        of_year, length = day.timetuple().tm_yday, 366 if calendar.isleap(day.year) else 365
        if of_year not in rule.year_days and of_year - length - 1 not in rule.year_days:
            return False
    return not weekdays or any(_is_weekday(rule, day, *wanted) for wanted in weekdays)


def _is_weekday(rule: Rule, day: dt.date, ordinal: int, weekday: int) -> bool:
    """Whether a day is, say, the last Friday of its month, or of its year where the rule counts by years."""
    if day.weekday() != weekday:
        return False
    if ordinal == 0 or rule.frequency in ("DAILY", "WEEKLY"):
        return True
    if rule.frequency == "MONTHLY" or rule.months:
        place, length = day.day, calendar.monthrange(day.year, day.month)[1]
    else:
        place, length = day.timetuple().tm_yday, 366 if calendar.isleap(day.year) else 365
    return ordinal == ((place - 1) // 7 + 1 if ordinal > 0 else -((length - place) // 7 + 1))
