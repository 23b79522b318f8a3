"""A job's sheet on two A4 pages: steps to tick, torques in both units, blanks where the manual must be looked up."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping, Sequence
from typing import Any

from thermaxis.formats.pdf_sheet import MUTED, Sheet
from thermaxis.formats.units import System, quantity

PAGES = 2
SIZES = (8.5, 8.0, 7.5, 7.0, 6.5, 6.0, 5.5)
"""Sizes in points that are tried, largest first, until the sheet is on two pages."""
CLOSING = (
    "Procedures and torques are those of the vehicle's own manual; where in doubt ask a qualified technician. This "
    "sheet supports work, it certifies nothing."
)
OPEN, TICKED, WORDS = "☐", "☑", "–"


def both_units(torque_Nm: float) -> str:
    """A torque in N m with lbf ft beside it.

    >>> both_units(90.0)
    '90 N m · 66 lbf ft'
    """
    digits = 1 if torque_Nm < 20 else 0
    return f"{torque_Nm:.{digits}f} N m · {0.737562 * torque_Nm:.{digits}f} lbf ft"


BLANK = "______ N m · ______ lbf ft"


def job_pdf(job: Mapping[str, Any], machine: str, workshop: str, on: dt.date, system: System = "metric") -> bytes:
    """Draw a job, as the API gives it, on two A4 pages; the type gets smaller until it goes there."""
    sheet = _drawn(job, machine, workshop, on, system, SIZES[0])
    for size in SIZES[1:]:
        if sheet.page_no() <= PAGES:
            break
        sheet.let_go()
        sheet = _drawn(job, machine, workshop, on, system, size)
    return sheet.finished()


def _drawn(job: Mapping[str, Any], machine: str, workshop: str, on: dt.date, system: System, size: float) -> Sheet:
    title = f"{job['label']}, {job['axle']}"
    sheet = Sheet(f"{machine}: {title}")
    sheet.set_margin(12)
    sheet.set_auto_page_break(True, margin=14)
    sheet.add_page()
    sheet.say(f"{machine}: {title}", 14, bold=True)
    state = f"closed {job['closed_on']}" if job["closed_on"] else f"printed {on:%d %B %Y}"
    parts = f" · goes on: {job['parts']}" if job["parts"] else ""
    sheet.say(f"{workshop} · {state}{parts} · by ____________________", size, colour=MUTED)
    sheet.say(" ".join(job["cautions"].values()), size)
    sheet.ln(1)
    _fasteners(sheet, job, size)
    if job["bleeding"]:
        _bleeding(sheet, job["bleeding"], system, size)
    for phase, name in (("before", "Before"), ("corner", "At each wheel"), ("close", "Close")):
        rows = _rows(job, phase)
        if rows:
            sheet.ln(1)
            sheet.say(name, size + 1.5, bold=True)
            sheet.grid(rows, (14, 120, 52), size=size, headed=False)
    sheet.ln(1)
    sheet.say(CLOSING, size, colour=MUTED)
    return sheet


def _fasteners(sheet: Sheet, job: Mapping[str, Any], size: float) -> None:
    """Only those the steps tighten, with a line to write on where nothing is known."""
    used = {step["fastener"] for step in job["steps"] if step["tighten"]}
    rows = [["Fastener", "Tool", "Torque", "Done · checked again"]]
    for entry in job["fasteners"]:
        if entry["kind"] not in used:
            continue
        tool = f"{1e3 * entry['size_m']:g} mm {entry['drive']}" if entry["size_m"] else "________"
        torque = both_units(entry["torque_Nm"]) if entry["torque_Nm"] else entry["words"] or f"{BLANK}  p. ____"
        rows.append([entry["label"], tool, torque, "________ · ________"])
    if len(rows) > 1:
        sheet.grid(rows, (46, 32, 66, 42), size=size)


def _bleeding(sheet: Sheet, plan: Mapping[str, Any], system: System, size: float) -> None:
    corners = ", ".join(f"{entry['corner'].replace('_', ' ')} {entry['strokes']}" for entry in plan["corners"])
    buy = quantity(plan["buy_m3"], "fluidVolume", system)
    sheet.say(f"Bleeding, strokes: {corners}. Refill after {plan['refill_after']}. Have {buy} there.", size)


def _rows(job: Mapping[str, Any], phase: str) -> list[list[str]]:
    """Steps of a phase, each once: its boxes by corner, text with check, torque."""
    found: dict[str, list[Mapping[str, Any]]] = {}
    for step in job["steps"]:
        if step["phase"] == phase:
            found.setdefault(step["id"], []).append(step)
    schools = {school["point"]: _taken(school) for school in job["schools"]}
    return [[_boxes(steps), _text(steps[0], schools), _torque(steps)] for steps in found.values()]


def _taken(school: Mapping[str, Any]) -> Any:
    return next(option["label"] for option in school["options"] if option["option"] == school["taken"])


def _boxes(steps: Sequence[Mapping[str, Any]]) -> str:
    def box(step: Mapping[str, Any]) -> str:
        mark = TICKED if step["done"] else WORDS if step["words"] else OPEN
        corner = step["corner"].split("_")
        return f"{mark}{''.join(word[:1].upper() for word in corner)}"

    return " ".join(box(step) for step in steps)


def _text(step: Mapping[str, Any], schools: Mapping[str, str]) -> str:
    tool = f" ({step['tool']})" if step["tool"] else ""
    check = f"  → {step['check']}" if step["check"] else ""
    school = f": {schools[step['school']]}" if step["school"] in schools else ""
    return f"{step['text']}{school}{tool}{check}"


def _torque(steps: Sequence[Mapping[str, Any]]) -> str:
    step = steps[0]
    if step["tighten"]:
        return both_units(step["torque_Nm"]) if step["torque_Nm"] else BLANK
    return "; ".join(entry["words"] for entry in steps if entry["words"])
