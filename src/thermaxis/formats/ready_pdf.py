"""Ready for an event, on one page of A4: the word, its reasons, what to take along, boxes to tick."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from thermaxis.core.said import day_text
from thermaxis.formats.pdf_sheet import MUTED, Sheet
from thermaxis.formats.units import System, quantity, said_of, said_text

SIZES = (10.5, 9.5, 8.5, 7.5, 6.5)
WORDS = {"go": "GO", "look": "LOOK", "no-go": "NO-GO"}
MARKS = {"over": "▲", "close": "◐", "fine": "●"}
SAFE = (
    "An estimate supports a decision, it certifies nothing. Look at pads, rings, hoses and fluid before the first lap "
    "and after the last; wheel bolts by torque wrench after the first drive. On stands, never under a jack alone. "
    "The vehicle's own manual and local rules come first; a qualified technician where in doubt."
)


def ready_sheet(ready: Mapping[str, Any], system: System = "metric") -> bytes:
    """Draw readiness, as the API gives it, on A4; type gets smaller until it is one page."""
    sheet = _drawn(ready, system, SIZES[0])
    for size in SIZES[1:]:
        if sheet.page_no() <= 1:
            break
        sheet.let_go()
        sheet = _drawn(ready, system, size)
    return sheet.finished()


def _drawn(ready: Mapping[str, Any], system: System, size: float) -> Sheet:
    sheet = Sheet(f"{ready['machine']}: {ready['name']}")
    sheet.add_page()
    sheet.say(f"{ready['name']}, {day_text(ready['on'])}", 15, bold=True)
    air = quantity(ready["air_C"], "temperature", system)
    sheet.say(f"{ready['machine']} · {ready['duty']} · air {air}", size, colour=MUTED)
    sheet.ln(2)
    sheet.say(WORDS[ready["word"]], 26, bold=True)
    sheet.ln(1)
    for reason in ready["reasons"]:
        text = said_text(said_of(reason["text"]), system)
        sheet.say(f"{MARKS[reason['state']]}  {text[:1].upper()}{text[1:]}", size, bold=reason["state"] == "over")
        sheet.ln(0.6)
    sheet.head("To take along")
    for thing in ready["take"]:
        length = f" {quantity(thing['size_m'], 'thickness', 'metric')}" if thing["size_m"] else ""
        sheet.say(f"☐  {thing['name']}{length}", size)
    sheet.head("On the day")
    sheet.grid(
        [["before the first session", "", "after the last", ""]]
        + [
            [f"{name}", "", name, ""]
            for name in (
                "odometer",
                "thinnest front pad",
                "thinnest rear pad",
                "wheel bolts by torque",
                "fluid level",
                "by",
            )
        ],
        (46, 43, 46, 43),
        size=size,
        headed=True,
    )
    sheet.ln(3)
    sheet.say(SAFE, 7.5, colour=MUTED)
    return sheet
