"""Logs as tables: what goes out as CSV or a spreadsheet, and an older log that comes in by its columns."""

from __future__ import annotations

import datetime as dt
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal, InvalidOperation

from thermaxis.core.errors import FieldError
from thermaxis.formats.event_table import day_of
from thermaxis.formats.table import Figure, Table

MOST_ROWS, MOST_TEXT = 5000, 2000
KM_A_MILE = 1.609344
MILES = {"mi", "mile", "miles", "mileage"}
KILOMETRES = {"km", "kms", "kilometre", "kilometres", "kilometer", "kilometers"}
# The column of an older log by what it holds, and the words its heading may have.
COLUMNS: dict[str, tuple[str, ...]] = {
    "on": ("date", "day", "when"),
    "odometer_km": ("odometer", "km", "mileage", "miles", "distance", "reading"),
    "text": ("work", "job", "text", "note", "description", "what", "entry"),
    "parts": ("parts", "part", "material"),
    "cost": ("cost", "price", "paid", "amount", "total"),
}


@dataclass(frozen=True)
class OlderEntry:
    """One line of an older log."""

    on: dt.date
    text: str
    odometer_km: float | None = None
    cost: float | None = None


@dataclass(frozen=True, kw_only=True)
class LogRead:
    """What a table holds: its entries, and rows that cannot be read, each with its number and why.

    `miles`: its odometer was taken to be in miles.
    """

    entries: tuple[OlderEntry, ...]
    wrong: tuple[tuple[int, str], ...]
    miles: bool


def guess_columns(headings: Sequence[str]) -> dict[str, str]:
    """Which heading holds what, by its words; each is used once."""
    found: dict[str, str] = {}
    for field, words in COLUMNS.items():
        for word in words:
            match = next(
                (
                    heading
                    for heading in headings
                    if heading not in found.values() and word in heading.casefold().replace(",", " ").split()
                ),
                None,
            )
            if match is not None:
                found[field] = match
                break
    return found


def read_log(table: Table, mapping: Mapping[str, str]) -> LogRead:
    """Entries of an older log by its columns, in miles where the heading says so. FieldError names a column."""
    places = {}
    for field, heading in mapping.items():
        if field not in COLUMNS:
            raise FieldError("mapping", field, "one of " + ", ".join(COLUMNS))
        if heading not in table.headings:
            raise FieldError("mapping", heading, "a heading of the file")
        places[field] = table.headings.index(heading)
    for needed in ("on", "text"):
        if needed not in places:
            raise FieldError("mapping", None, f"a column for {'the day' if needed == 'on' else 'what was done'}")
    miles = _in_miles(mapping.get("odometer_km", ""))
    entries, wrong = [], []
    for number, row in table.rows[:MOST_ROWS]:
        cells = {field: row[place] for field, place in places.items()}
        try:
            words = [cells["text"].strip(), cells.get("parts", "").strip()]
            text = "; ".join(word for word in words if word)[:MOST_TEXT]
            if not text:
                raise FieldError("text", "", "words")
            km = _number(cells.get("odometer_km", ""), "odometer_km", whole=True)
            entries.append(
                OlderEntry(
                    on=day_of(cells["on"]),
                    text=text,
                    odometer_km=None if km is None else km * (KM_A_MILE if miles else 1.0),
                    cost=_number(cells.get("cost", ""), "cost"),
                )
            )
        except FieldError as error:
            said = (
                f"{error.value} is not {error.allowed}" if error.value else f"empty where {error.allowed} should stand"
            )
            wrong.append((number, said))
    return LogRead(entries=tuple(entries), wrong=tuple(wrong), miles=miles)


def _in_miles(heading: str) -> bool:
    """Whether a heading means miles: it says so, and nothing of kilometres."""
    words = set(re.findall(r"[a-z]+", heading.casefold()))
    return bool(words & MILES) and not words & KILOMETRES


def _number(text: str, path: str, *, whole: bool = False) -> float | None:
    """A number as people write it; the last sign parts its decimals, but three figures after it in a whole number are
    thousands: an odometer of 40.000 is forty thousand.
    """
    plain = "".join(sign for sign in text if sign in "0123456789-.,")
    if not plain:
        return None
    head, sign, tail = plain.rpartition("," if plain.rfind(",") > plain.rfind(".") else ".")
    if sign and not (whole and len(tail) == 3):
        plain = f"{head.replace(',', '').replace('.', '')}.{tail}"
    else:
        plain = plain.replace(",", "").replace(".", "")
    try:
        value = float(Decimal(plain))
    except InvalidOperation:
        raise FieldError(path, text[:40], "a number") from None
    if not 0 <= value <= 5_000_000:
        raise FieldError(path, text[:40], "a number from 0 to 5000000")
    return value


HEADINGS = ("day", "machine", "odometer, km", "kind", "entry", "text", "cost", "who", "before and after")


def log_rows(rows: Sequence[Mapping[str, object]]) -> list[list[str]]:
    """Rows of the log for a table, numbers as numbers."""
    found = []
    for row in rows:
        km, cost = row["odometer_km"], row["cost"]
        found.append(
            [
                str(row["on"]),
                str(row["machine"] or ""),
                "" if km is None else Figure(f"{km:.1f}"),
                str(row["kind"]),
                str(row["summary"]),
                str(row["text"]),
                "" if cost is None else Figure(f"{cost:.2f}"),
                str(row["user_name"]),
                str(row["changes"]),
            ]
        )
    return found
