"""A logged temperature as CSV: two columns, time in s from the start of the duty and temperature in degC."""

from __future__ import annotations

import csv
import io

from thermaxis.core.errors import FieldError
from thermaxis.formats.text import rows_of

MOST_ROWS = 100_000


def read_log(text: str) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """Times and temperatures of a log; one heading line is allowed, comma, tab or semicolon split the columns.

    With semicolons or tabs a decimal comma is understood. Times of day (10:00:00,00) count from the first of them.
    FieldError names the line that cannot be read.
    """
    lines = [line for line in text.splitlines() if line.strip()]
    if not lines:
        raise FieldError("csv", "", "two columns: time in s, temperature in degC")
    if len(lines) > MOST_ROWS:
        raise FieldError("csv", f"{len(lines)} lines", f"at most {MOST_ROWS} lines")
    mark = next((mark for mark in (";", "\t") if mark in lines[0]), ",")
    times, values = [], list[float]()
    clock = False
    rows = csv.reader(io.StringIO("\n".join(lines)), delimiter=mark)
    for number, row in enumerate(rows_of(rows), start=1):
        try:
            time, value = _seconds(row[0]), float(row[1].strip().replace(",", "."))
        except (ValueError, IndexError):
            if number == 1:
                continue  # the heading
            shown = mark.join(row)[:80]
            raise FieldError(f"csv line {number}", shown, "two numbers: time in s, temperature in degC") from None
        times.append(time)
        values.append(value)
        clock = clock or ":" in row[0]
    begun = times[0] if clock and times else 0.0
    return tuple(time - begun for time in times), tuple(values)


def _seconds(cell: str) -> float:
    """A time as a number of seconds, or as a clock shows it. ValueError."""
    *before, seconds = cell.strip().replace(",", ".").split(":")
    if len(before) > 2:
        raise ValueError(cell)
    minutes = [int(part) for part in before]
    hours, rest = (minutes[0], minutes[1]) if len(minutes) == 2 else (0, minutes[0] if minutes else 0)
    return 3600.0 * hours + 60.0 * rest + float(seconds)
