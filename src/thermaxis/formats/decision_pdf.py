"""A kept decision as a PDF to hand over: the sets, what each rests on, assumptions and cautions."""

from __future__ import annotations

import datetime as dt
from typing import Any

from thermaxis.formats.pdf_sheet import MUTED, Sheet
from thermaxis.formats.units import System, quantity, said_of, said_text

CAUTION = (
    "Estimates that support a decision; they certify nothing. Procedures and torque values are those of the vehicle's "
    "own manual; whether a part is allowed on the road is a matter of local law; where in doubt ask a qualified "
    "technician. First stops with new pads are weak; bed them in on a closed or empty road within the law."
)


def decision_pdf(
    content: dict[str, Any],
    title: str,
    note: str,
    workshop: str,
    made_at: dt.datetime,
    engine: str,
    fitted: bool,
    system: System = "metric",
) -> bytes:
    """Draw a decision's content, as the API keeps it, into a PDF of one to three A4 pages, in the reader's units."""
    sheet = Sheet(title)
    sheet.add_page()
    sheet.say(title, 16, bold=True)
    kind = "Decision, fitted that day" if fitted else "Shortlist"
    sheet.say(f"{kind} · {workshop} · {made_at:%d %B %Y} · computed by engine {engine}", colour=MUTED)
    sheet.say(
        f"{content['machine']}, {content['duty']}: {content['passing']} of {content['total']} combinations pass. "
        f"Fluid {content['fluid']}, {content['fluid_age_months']:.0f} months old, boils at "
        f"{quantity(content['boiling_C'], 'temperature', system)}."
    )
    if note:
        sheet.ln(1)
        sheet.say(note)
    _sets(sheet, content, system)
    if content["rejected"]:
        sheet.head("Rejected on every rotor, and why")
        rows = [(row["pads"], row["rotors"], said_text(said_of(row["reason"]), system)) for row in content["rejected"]]
        sheet.grid([("Pads", "Rotors", "Reason"), *rows], (34, 44, 100))
    sheet.head("What was weighed")
    weights = ", ".join(f"{name.replace('_', ' ')} {value:g}" for name, value in content["weights"].items())
    sheet.say(f"0 to 5: {weights}.")
    changed = changes_of(content["what_if"])
    if changed:
        sheet.say(f"Tried, not how the machine stands: {changed}.", bold=True)
    sheet.head("What it rests on")
    for text in content["assumptions"]:
        sheet.say(f"– {text}", 8.5)
    sheet.ln(1)
    estimates = [row for row in content["inputs"] if row["estimate"]]
    sheet.say(
        f"Of {len(content['inputs'])} numbers of the machine {len(estimates)} are estimates, marked *. SI units.", 8.5
    )
    shown = [
        f"{row['path']} = {row['value']:g}{'*' if row['estimate'] else ''}"
        for row in content["inputs"]
        if row["value"] is not None
    ]
    sheet.say("; ".join(shown), 7.5, colour=MUTED)
    sheet.head("Take care")
    sheet.say(CAUTION)
    return sheet.finished()


def changes_of(what_if: dict[str, Any]) -> str:
    """What differs from the machine as it stands, by name; empty where nothing does."""
    factors = ("cooling_factor", "speed_factor", "grade_factor", "length_factor")
    neutral = {"extra_mass_kg": 0.0, **dict.fromkeys(factors, 1.0)}
    return ", ".join(
        f"{name.replace('_', ' ')} {value}" for name, value in what_if.items() if value not in (None, neutral.get(name))
    )


def _place(entry: dict[str, Any]) -> str:
    if entry["place"] is None:
        return f"out: {entry['rejected_for']}"
    # As the page rounds: a half goes up.
    return f"{entry['place']}, {entry['score'] + 1e-9:.0f} points"


def _worn(entry: dict[str, Any], system: System) -> str:
    """A set that was rejected, or kept before worn pads were asked about, has no such margin."""
    left = entry.get("worn_margin_K")
    return "not asked" if left is None else quantity(left, "temperatureChange", system)


def _sets(sheet: Sheet, content: dict[str, Any], system: System) -> None:
    sheet.head("The sets")
    sets, currency = content["sets"], content["currency"]

    def line(label: str, text: Any) -> list[str]:
        return [label, *(text(entry) for entry in sets)]

    rows = [
        ["", *(f"{'✓ ' if entry['chosen'] else ''}{entry['pads']}" for entry in sets)],
        line("Rotors", lambda e: e["set_up"] or f"{e['front_rotor']}, {e['rear_rotor']}"),
        line("Place", _place),
        line("Hottest ring, front", lambda e: quantity(e["front"]["peak_C"], "temperature", system)),
        line("Hottest ring, rear", lambda e: quantity(e["rear"]["peak_C"], "temperature", system)),
        line("To the nearest limit", lambda e: quantity(e["lowest_margin_K"], "temperatureChange", system)),
        line("Likely over a limit", lambda e: f"{100 * e['any_probability']:.0f} % of {content['draws']} runs"),
        line("Braking in the window", lambda e: f"{100 * e['window_share']:.0f} %"),
        line("Pedal at worst", lambda e: quantity(e["pedal_worst_N"], "force", system)),
        line("Hottest fluid", lambda e: quantity(e["fluid_peak_C"], "temperature", system)),
        line("Fluid to boiling, new pads", lambda e: quantity(e["fluid_margin_K"], "temperatureChange", system)),
        line("Fluid to boiling, worn pads", lambda e: _worn(e, system)),
        line("Locks first, dry", lambda e: f"{e['lock_first']}, {e['lock_g']:.2f} g"),
        line("Pads last", lambda e: f"{e['life_events']:.0f} events, {e['life_hours']:.0f} h"),
        line("Pads, rotors", lambda e: f"{currency}{e['pads_price']:.0f}, {currency}{e['rotors_price']:.0f}"),
        line("Data", lambda e: e["provenance"]),
    ]
    width = 134.0 / len(sets)
    sheet.grid(rows, (44, *(width for _ in sets)))
    sheet.ln(1.5)
    for entry in sets:
        sheet.say(f"{entry['pads']}: {said_text(said_of(entry['reason']), system)}", 8.5)
