"""A bedding plan on A5, its rows big enough for a passenger to read out."""

from __future__ import annotations

import itertools
from collections.abc import Iterator, Mapping, Sequence
from typing import Any

from thermaxis.formats.pdf_sheet import A5_MM, MUTED, Sheet
from thermaxis.formats.units import System, quantity, said_of, said_text

SIZES, SMALL = (24.0, 21.0, 18.0, 16.0, 14.0, 13.0, 12.0), 10.0
"""Type of a row, largest first, and of what stands under it, in points."""
SAFE = (
    "For the passenger: the driver's hands stay on the wheel. Closed or empty road, within the law; first brakings are "
    "weak, leave room. Never to a standstill while hot, no parking brake. The maker's own instructions come first."
)


def bedding_card(plan: Mapping[str, Any], machine: str, pad: str, system: System = "metric") -> bytes:
    """Draw a plan, as the API gives it, on A5; rows get smaller, down to 12 points, until they are on one page."""
    sheet = _drawn(plan, machine, pad, system, SIZES[0])
    for size in SIZES[1:]:
        if sheet.page_no() <= 1:
            break
        sheet.let_go()
        sheet = _drawn(plan, machine, pad, system, size)
    return sheet.finished()


def _drawn(plan: Mapping[str, Any], machine: str, pad: str, system: System, size: float) -> Sheet:
    sheet = Sheet(f"{machine}: bedding in {pad}", A5_MM)
    sheet.set_margin(9)
    sheet.set_auto_page_break(True, margin=12)
    sheet.add_page()
    sheet.say(f"{machine}: {pad}", 13, bold=True)
    low, high = (quantity(plan["front"][name], "temperature", system) for name in ("low_C", "high_C"))
    minutes = f"{plan['duration_s'] / 60.0:.0f} min, {quantity(plan['way_m'] / 1e3, 'distance', system)}"
    sheet.say(f"{plan['label']} · {minutes} · window {low} to {high}", SMALL, colour=MUTED)
    if plan["closed"]:
        sheet.say(said_text(said_of(plan["closed"]), system), SMALL, bold=True)
    sheet.ln(1)
    groups = list(_alike(plan["items"]))
    for place, items in enumerate(groups):
        sheet.say(_row(items, system), size, bold=True)
        sheet.say(_under(items, system, last=place + 1 == len(groups)), SMALL)
        sheet.ln(1.5)
    cool = f"Then drive {plan['cool_down_s'] / 60.0:.0f} min without braking, park without the parking brake."
    sheet.say(cool, 12, bold=True)
    sheet.ln(1)
    sheet.say(SAFE, 7.5, colour=MUTED)
    return sheet


def _alike(items: Sequence[Mapping[str, Any]]) -> Iterator[list[Mapping[str, Any]]]:
    """Items that are read out alike, one after the other."""
    names = ("phase", "stops", "from_mps", "to_mps", "decel_g")
    for _, group in itertools.groupby(items, key=lambda item: tuple(item[name] for name in names)):
        yield list(group)


def _row(items: Sequence[Mapping[str, Any]], system: System) -> str:
    item = items[0]
    start, end = (quantity(item[name], "speed", system) for name in ("from_mps", "to_mps"))
    if item["stops"] > 1:
        way = quantity(item["way_m"] / 1e3, "distance", system)
        return f"{way}, brake {item['stops']} times, at most {start} to {end}"
    times = f"{len(items)} times " if len(items) > 1 else ""
    return f"{times}{start} to {end}, {item['how'].partition(',')[0]}, {item['decel_g']:.2f} g"


def _under(items: Sequence[Mapping[str, Any]], system: System, *, last: bool) -> str:
    item, end = items[0], items[-1]
    boxes = "☐ " * len(items)
    speed = quantity(item["then_mps"], "speed", system)
    reached = quantity(end["front_C"], "temperature", system)
    cool = f", then {end['then_s'] / 60.0:.0f} min to cool" if not last and end["then_s"] > item["then_s"] else ""
    return f"{boxes} then {item['then_s']:.0f} s at {speed}; front ring {reached} after the last{cool}"
