"""Recorded runs as tables of text: any column order, unit, separator; bad rows are named and kept out."""

from __future__ import annotations

import csv
import datetime as dt
import math
import re
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.errors import FieldError
from thermaxis.formats.text import rows_of

Array = NDArray[np.float64]
Watch = Callable[[float], None]
# Four hours at 20 readings a second.
MOST_ROWS, MOST_COLUMNS = 300_000, 200
# A heading says what it holds at its beginning, a number is shorter still.
LABEL, LONGEST_NUMBER = 80, 64
MOST_VALUE = 1e12
MOST_BAD = 0.2
SAMPLE_ROWS = 8
FASTEST_MPS = 150.0

UNITS: dict[str, dict[str, tuple[float, float]]] = {
    "time": {"s": (1.0, 0.0), "ms": (1e-3, 0.0), "min": (60.0, 0.0), "clock": (1.0, 0.0)},
    "distance": {"m": (1.0, 0.0), "km": (1e3, 0.0), "ft": (0.3048, 0.0), "mi": (1609.344, 0.0)},
    "speed": {"km/h": (1 / 3.6, 0.0), "m/s": (1.0, 0.0), "mph": (0.44704, 0.0), "kn": (0.514444, 0.0)},
    "altitude": {"m": (1.0, 0.0), "ft": (0.3048, 0.0)},
    "latitude": {"deg": (1.0, 0.0)},
    "longitude": {"deg": (1.0, 0.0)},
    "brake_pressure": {"bar": (1e5, 0.0), "MPa": (1e6, 0.0), "kPa": (1e3, 0.0), "psi": (6894.757, 0.0)},
    "front_temperature": {"°C": (1.0, 0.0), "°F": (5 / 9, -32.0)},
    "rear_temperature": {"°C": (1.0, 0.0), "°F": (5 / 9, -32.0)},
}
"""What a column may hold, and its units: SI value = (number + offset) * factor; a clock is hours:minutes:seconds."""

_NAMES = (
    ("latitude", r"\blat"),
    ("longitude", r"\blo?ng?\b|longitude"),
    ("altitude", r"alt|elev|height"),
    ("brake_pressure", r"brake.*(press|bar|psi)|press.*brake|\bpbrake"),
    ("rear_temperature", r"(rear|\br[lr]\b).*(temp|disc|rotor)|temp.*rear"),
    ("front_temperature", r"(front|\bf[lr]\b).*(temp|disc|rotor)|temp.*front|(disc|rotor).*temp"),
    ("speed", r"speed|veloc|\bv\b|km/?h|mph|\bspd"),
    ("distance", r"dist|\bodo"),
    ("time", r"time|\bt\b|stamp|clock"),
)
_SPELLINGS = {
    "kmh": "km/h",
    "kph": "km/h",
    "c": "°c",
    "f": "°f",
    "degc": "°c",
    "degf": "°f",
    "sec": "s",
    "mps": "m/s",
    "kt": "kn",
    "knots": "kn",
}
_CLOCK = re.compile(r"^(?:(\d{1,4}):)?(\d{1,2}):(\d{1,2}(?:[.,]\d+)?)$")


@dataclass(frozen=True, kw_only=True)
class Column:
    """A column of the file, and what it seems to hold."""

    name: str
    role: str
    unit: str
    sample: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class Layout:
    """How a file is written: which separator, which decimal sign, on which line its table begins (1 = first)."""

    separator: str
    decimal: str
    first_line: int
    columns: tuple[Column, ...]
    lines: int


@dataclass(frozen=True, kw_only=True)
class Use:
    """Which column holds what, in which unit."""

    column: int
    role: str
    unit: str


@dataclass(frozen=True, kw_only=True)
class BadRow:
    """A row kept out: its line in the file, and why."""

    line: int
    why: str


@dataclass(frozen=True, kw_only=True)
class Table:
    """The good rows in SI by role, and the bad ones by line."""

    values: dict[str, Array]
    lines: int
    bad: tuple[BadRow, ...] = field(default=())


def layout_of(text: str) -> Layout:
    """Find separator, decimal sign and header, and guess what each column holds. FieldError where there is no table."""
    if text.count("\n") + text.count("\r") > 2 * MOST_ROWS:
        raise FieldError("rows", "too many", f"at most {MOST_ROWS} rows")
    lines = text.splitlines()
    if len(lines) > MOST_ROWS:
        raise FieldError("rows", f"{len(lines)} rows", f"at most {MOST_ROWS} rows")
    head = [line for line in lines[:200] if line.strip()]
    if not head:
        raise FieldError("file", "200 empty lines", "rows of numbers")
    separator = max(";\t,|", key=lambda sign: (_read_share(head, sign), _regularity(head, sign)))
    rows = list(rows_of(csv.reader(lines[:200], delimiter=separator)))
    width = _usual_width(rows)
    if width < 2:
        raise FieldError("file", "one column", "a table of at least two columns: time or distance, and speed")
    if width > MOST_COLUMNS:
        raise FieldError("file", f"{width} columns", f"at most {MOST_COLUMNS} columns")
    decimal = "," if separator != "," and _comma_decimals(rows) else "."
    first = next(
        (
            i
            for i, row in enumerate(rows)
            if len(row) == width and sum(_value(cell, decimal) is not None for cell in row) >= max(2, width // 2)
        ),
        None,
    )
    if first is None:
        raise FieldError("file", "no numbers", "rows of numbers")
    names, units, start = _headings(rows[:first], width)
    # Between headings and numbers stands nothing that may be passed over in silence.
    start = first if start is None else start
    samples = [row for row in rows[first:] if len(row) == width][:SAMPLE_ROWS]
    columns, taken = [], set()
    for i in range(width):
        label = f"{names[i]} {units[i]}".strip()
        role = _role(label)
        if role in taken:
            role = ""
        taken.add(role)
        sample = tuple(row[i].strip()[:LABEL] for row in samples)
        columns.append(
            Column(
                name=names[i].strip()[:LABEL] or f"Column {i + 1}",
                role=role,
                unit=_unit(role, label, sample),
                sample=sample,
            )
        )
    return Layout(separator=separator, decimal=decimal, first_line=start + 1, columns=tuple(columns), lines=len(lines))


def _headings(rows: Sequence[Sequence[str]], width: int) -> tuple[list[str], list[str], int | None]:
    """Names and units of the columns from the rows above the first numbers, and the row after them."""
    for i, row in enumerate(rows):
        if len(row) == width and sum(bool(_role(cell)) for cell in row) >= min(2, width):
            below = list(rows[i + 1]) if i + 1 < len(rows) else []
            known = {unit.lower() for units in UNITS.values() for unit in units} | set(_SPELLINGS) | {"h:m:s", ""}
            if len(below) == width and any(below) and all(cell.strip(" []()").lower() in known for cell in below):
                return list(row), [cell.strip() for cell in below], i + 2
            return list(row), [""] * width, i + 1
    full = [row for row in rows if len(row) == width]
    return (list(full[-1]) if full else [""] * width), [""] * width, None


def _regularity(lines: Sequence[str], sign: str) -> float:
    counts = [len(_cells(line, sign)) for line in lines]
    usual = max(set(counts), key=counts.count)
    return 0.0 if usual < 2 else counts.count(usual) / len(counts) + 0.001 * usual


def _read_share(lines: Sequence[str], sign: str) -> float:
    """Share of the cells that are numbers or times, in tenths, where `sign` parts them: a decimal comma, as in
    "10:00:00,00", is no separator although it stands in every line; 0 for a sign that makes no columns.
    """
    rows = [_cells(line, sign) for line in lines]
    cells = [cell for row in rows if len(row) > 1 for cell in row]
    read = sum(_number(cell, ".") is not None or _value(cell, ",") is not None for cell in cells)
    return round(10 * read / len(cells)) if 2 * sum(len(row) > 1 for row in rows) > len(rows) else 0.0


def _cells(line: str, sign: str) -> list[str]:
    return next(rows_of(csv.reader([line], delimiter=sign)))


def _usual_width(rows: Sequence[Sequence[str]]) -> int:
    widths = [len(row) for row in rows if row]
    return max(set(widths), key=widths.count) if widths else 0


def _comma_decimals(rows: Sequence[Sequence[str]]) -> bool:
    cells = [cell.strip()[:LONGEST_NUMBER] for row in rows for cell in row]
    return sum(bool(re.fullmatch(r"-?\d+,\d+", cell)) for cell in cells) > sum(
        bool(re.fullmatch(r"-?\d+\.\d+", cell)) for cell in cells
    )


def _number(cell: str, decimal: str) -> float | None:
    text = cell.strip()
    if len(text) > LONGEST_NUMBER:
        return None
    if decimal == ",":
        text = text.replace(".", "").replace(",", ".")
    try:
        value = float(text)
    except ValueError:
        return None
    return value if abs(value) <= MOST_VALUE else None


def _value(cell: str, decimal: str) -> float | None:
    number = _number(cell, decimal)
    return _clock(cell) if number is None else number


def _role(label: str) -> str:
    label = label[:LABEL]
    return next((role for role, pattern in _NAMES if re.search(pattern, label, re.IGNORECASE)), "")


def _unit(role: str, label: str, sample: Sequence[str]) -> str:
    if not role:
        return ""
    if role == "time" and any(_clock(cell) is not None for cell in sample):
        return "clock"
    label = label[:LABEL]
    bracket = re.search(r"[\[(]([^\])]+)[\])]", label)
    written = (bracket.group(1).strip() if bracket else label.split()[-1] if label.split() else "").lower()
    written = _SPELLINGS.get(written, written)
    return next((unit for unit in UNITS[role] if unit.lower() == written), next(iter(UNITS[role])))


def _clock(cell: str) -> float | None:
    """Seconds of a time of day or a date with time; None for anything else."""
    text = cell.strip()
    if len(text) > LONGEST_NUMBER:
        return None
    match = _CLOCK.match(text)
    if match:
        hours, minutes, seconds = match.groups()
        return int(hours or 0) * 3600.0 + int(minutes) * 60.0 + float(seconds.replace(",", "."))
    if "T" in text or "-" in text[1:]:
        try:
            moment = dt.datetime.fromisoformat(text)
        except ValueError:
            return None
        return (moment.replace(tzinfo=None) - dt.datetime(1970, 1, 1)).total_seconds()
    return None


def read_table(text: str, layout: Layout, uses: Sequence[Use], watch: Watch | None = None) -> Table:
    """Read the columns in use as SI; rows that cannot be read are kept out and named by their line.

    A row is bad where a cell is missing or no number, where time or distance does not go on from the row before, or
    where the speed is below 0 or above 150 m/s. FieldError where time and distance both are missing, a role or a
    column is used twice or unknown, or more than a fifth of the rows are bad; then the first bad row is named.
    """
    _check_uses(layout, uses)
    ruler = next(use.role for role in ("time", "distance") for use in uses if use.role == role)
    readers = [(use.role, use.column, _reader(use, layout.decimal)) for use in uses]
    rows: list[list[float]] = []
    bad: list[BadRow] = []
    last = -math.inf
    place = [use.role for use in uses].index(ruler)
    fast = [use.role for use in uses].index("speed") if any(use.role == "speed" for use in uses) else None
    for line, cells in _rows(text, layout, watch):
        values = []
        why = ""
        for role, column, read in readers:
            value = read(cells[column]) if column < len(cells) else None
            if value is None:
                cell = cells[column].strip() if column < len(cells) else ""
                why = (
                    f"{role.replace('_', ' ')} is {cell[:20]!r}, not a number"
                    if cell
                    else f"no {role.replace('_', ' ')}"
                )
                break
            values.append(value)
        if not why and values[place] <= last:
            why = f"{ruler} does not go on: {values[place]:g} after {last:g}"
        if not why and fast is not None and not -1.0 <= values[fast] <= FASTEST_MPS:
            why = f"a speed of {values[fast]:.0f} m/s"
        if why:
            bad.append(BadRow(line=line, why=why))
            continue
        last = values[place]
        rows.append(values)
    count = len(rows) + len(bad)
    if len(rows) < 10 or len(bad) > MOST_BAD * count:
        first = f", the first on line {bad[0].line}: {bad[0].why}" if bad else ""
        raise FieldError("rows", f"{len(bad)} bad of {count}", f"at least 10 good rows and at most a fifth bad{first}")
    columns = np.array(rows).T
    return Table(
        values={role: columns[i] for i, (role, _, _) in enumerate(readers)}, lines=layout.lines, bad=tuple(bad)
    )


def _rows(text: str, layout: Layout, watch: Watch | None) -> Iterator[tuple[int, list[str]]]:
    """Data rows with their line in the file; empty lines are passed over."""
    lines = text.splitlines()
    for number, line in enumerate(lines[layout.first_line - 1 :], start=layout.first_line):
        if watch is not None and number % 2000 == 0:
            watch(0.8 * number / len(lines))
        if not line.strip():
            continue
        cells = _cells(line, layout.separator) if '"' in line else line.split(layout.separator)
        yield number, cells


def _reader(use: Use, decimal: str) -> Callable[[str], float | None]:
    if use.unit == "clock":
        return _clock
    factor, offset = UNITS[use.role][use.unit]

    def read(cell: str) -> float | None:
        value = _number(cell, decimal)
        return None if value is None else (value + offset) * factor

    return read


def _check_uses(layout: Layout, uses: Sequence[Use]) -> None:
    roles = [use.role for use in uses]
    for index, use in enumerate(uses):
        if use.role not in UNITS:
            raise FieldError(f"uses[{index}].role", use.role, "one of " + ", ".join(UNITS))
        if use.unit not in UNITS[use.role]:
            raise FieldError(f"uses[{index}].unit", use.unit, "one of " + ", ".join(UNITS[use.role]))
        if not 0 <= use.column < len(layout.columns):
            raise FieldError(f"uses[{index}].column", use.column, f"a column from 0 to {len(layout.columns) - 1}")
        if roles.count(use.role) > 1:
            raise FieldError(f"uses[{index}].role", use.role, "used for one column only")
    if "time" not in roles and not {"distance", "speed"} <= set(roles):
        raise FieldError("uses", roles, "a time column, or distance and speed")
    if not {"speed", "distance"} & set(roles) and not {"latitude", "longitude"} <= set(roles):
        raise FieldError("uses", roles, "a speed column, or distance or position over time")
