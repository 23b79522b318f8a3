"""A machine's log book for whoever has it next: numbers, torques with their sources, readings, entries, pictures."""

from __future__ import annotations

import io
from collections.abc import Mapping, Sequence
from typing import Any

from thermaxis.core.said import day_text
from thermaxis.formats.pdf_sheet import MUTED, Sheet
from thermaxis.formats.units import System, quantity

SAFE = (
    "Written by its owners and their workshop; readings and torques as they were entered, with their sources. What is "
    "an estimate is marked. It certifies nothing: look for yourself, and follow the vehicle's own manual."
)
PICTURE_MM = 42.0


def log_book(book: Mapping[str, Any], system: System = "metric") -> bytes:
    """Draw the book: machine, numbers, what is on it, torques, readings, entries with small pictures; as a PDF."""
    sheet = Sheet(f"{book['machine']}: log book")
    sheet.add_page()
    sheet.say(f"{book['machine']}: log book", 16, bold=True)
    km = quantity(book["odometer_km"], "distance", system)
    sheet.say(f"{book['workshop']} · {book['owner']} · {km} · {day_text(book['on'])}", colour=MUTED)
    sheet.say(SAFE, 8, colour=MUTED)
    _grid(sheet, "The machine", ("number", "value", "from"), book["numbers"], (70, 60, 48))
    _grid(sheet, "On it", ("where", "what", "since", "at"), book["fitted"], (32, 76, 34, 36))
    _grid(sheet, "Torques", ("axle", "fastener", "torque", "source"), book["torques"], (20, 56, 52, 50))
    _grid(sheet, "Readings", ("day", "odometer", "what", "found"), book["readings"], (30, 34, 74, 40))
    sheet.head("Entries")
    for entry in book["entries"]:
        _entry(sheet, entry, system)
    return sheet.finished()


def _grid(
    sheet: Sheet, title: str, heads: Sequence[str], rows: Sequence[Sequence[str]], widths: Sequence[float]
) -> None:
    sheet.head(title)
    if rows:
        sheet.grid([list(heads), *(list(row) for row in rows)], widths)
    else:
        sheet.say("Nothing was written down.", 8.5, colour=MUTED)


def _entry(sheet: Sheet, entry: Mapping[str, Any], system: System) -> None:
    km = f" · {quantity(entry['odometer_km'], 'distance', system)}" if entry["odometer_km"] is not None else ""
    cost = f" · {entry['cost']:.2f}" if entry["cost"] is not None else ""
    sheet.say(f"{day_text(entry['on'])}{km}: {entry['summary']}", 8.5, bold=True)
    sheet.say(f"{entry['user_name']}{cost}", 7.5, colour=MUTED)
    if entry["text"] and entry["text"] != entry["summary"]:
        sheet.say(entry["text"], 8.5)
    x = sheet.l_margin
    pictures = entry["pictures"][:4]
    if pictures:
        if sheet.will_page_break(PICTURE_MM):
            sheet.add_page()
        y = sheet.get_y() + 1
        for content in pictures:
            sheet.image(io.BytesIO(content), x=x, y=y, w=PICTURE_MM, h=0.75 * PICTURE_MM, keep_aspect_ratio=True)
            x += PICTURE_MM + 2
        sheet.set_y(y + 0.75 * PICTURE_MM + 1)
    sheet.ln(1)
