"""What an inspection shows as evidence for a cause: from what was said, picked and measured."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from thermaxis.core.messages import inspection as say
from thermaxis.core.planning.inspection.cells import Value
from thermaxis.core.planning.inspection.diagnose import asked_where
from thermaxis.core.planning.inspection.look import Look
from thermaxis.core.planning.inspection.wheel import axle_findings, too_uneven
from thermaxis.core.said import Said
from thermaxis.core.tables import rows_of

POINTS = 3
# What "all sound underneath" says of one cell after the other.
UNDER = frozenset({"pins", "pistons", "bearing", "wet"})
OLD_FLUID_MONTHS = 24.0
# Cell and value to the piece of evidence it is.
FOUND: tuple[tuple[str, tuple[Value, ...], str], ...] = (
    ("pins", ("dry", "seized"), "found_pins_stiff"),
    ("pistons", ("stiff", "seized"), "found_piston_stiff"),
    ("hose", ("cracked", "bulged"), "found_hose_bulged"),
    ("bearing", ("play", "noisy"), "found_bearing_play"),
    ("wet", (True,), "found_wet"),
    ("frees_at_bleed_screw", (True,), "found_frees_at_bleed_screw"),
    ("chamfer_lost", (True,), "found_chamfer_lost"),
    ("glazed", (True,), "found_glazed"),
    ("rust", ("film", "pitted"), "found_rust_film"),
)
FREE = (
    ("pins", "free", "found_pins_free", "found_pins_stiff"),
    ("pistons", "free", "found_piston_free", "found_piston_stiff"),
)
# Evidence that only clears a cause: without a complaint or a fault there is nothing to explain.
CLEARS = frozenset({"found_pins_free", "found_piston_free", "found_pads_thick", "found_variation_low"})


@dataclass(frozen=True, kw_only=True)
class Seen:
    """A piece of evidence and where it was found ('' for the whole machine)."""

    evidence: str
    place: str


def evidence_of(looks: Sequence[Look], cells: Mapping[str, Value], said: Sequence[str]) -> list[Seen]:
    """What was said and what the sheet shows, as evidence; a fault found at one wheel outweighs freedom at another."""
    found = [Seen(evidence=name, place=_where(name, looks, cells)) for name in said]
    for look in looks:
        place = look.wheel.label.lower()
        names = [name for cell, values, name in FOUND if look.cells.get(cell) in values]
        names += [_difference(look, found.rule) for found in look.findings()]
        names += ["found_crack"] if look.length("crack") > 0 else []
        if look.length("runout") > look.limits.most_runout_m:
            names.append("found_runout_high")
        if (seen := look.seen()) is not None and len(seen.points_m) >= POINTS:
            names.append("found_variation_high" if too_uneven(seen, look.limits) else "found_variation_low")
        found += [Seen(evidence=name, place=place) for name in dict.fromkeys(names)]
    found += _sides(looks)
    if any(entry.evidence == "found_variation_high" for entry in found):
        found = [entry for entry in found if entry.evidence != "found_variation_low"]
    for cell, word, clears, blames in FREE:
        free = [look.cells.get(cell) == word or look.cells.get("under") == "sound" for look in looks]
        if all(free) and blames not in [entry.evidence for entry in found]:
            found.append(Seen(evidence=clears, place=""))
    return found + ([Seen(evidence="found_fluid_old", place="")] if old_fluid(cells) else [])


def _where(evidence: str, looks: Sequence[Look], cells: Mapping[str, Value]) -> str:
    """Where a symptom is, as it was said: to a side, or at a wheel."""
    said = str(cells.get(f"where.{evidence}", ""))
    if asked_where(evidence) == "side":
        return f"to the {said}" if said else ""
    return next((look.wheel.label.lower() for look in looks if look.wheel.name == said), "")


def answered_checks(looks: Sequence[Look]) -> frozenset[str]:
    """Checks whose answer is on the sheet: looked at on all wheels of an axle, or found at fault on any."""
    found = set()
    blaming = {cell: values for cell, values, _ in FOUND}
    for row in rows_of("checks"):
        for cell in filter(None, row["answered_by"].split(";")):
            given = {look.wheel.name: _given(look, cell) for look in looks}
            axles = {look.wheel.axle for look in looks}
            whole = any(all(given[look.wheel.name] for look in looks if look.wheel.axle == axle) for axle in axles)
            if whole or any(look.cells.get(cell) in blaming.get(cell, ()) for look in looks):
                found.add(row["check"])
    return frozenset(found)


def _given(look: Look, cell: str) -> bool:
    if cell == "pads":
        return len(look.sides) == 2
    if cell == "points":
        return len(look.points) >= POINTS
    return look.cells.get(cell) is not None or (cell in UNDER and look.cells.get("under") == "sound")


def old_fluid(cells: Mapping[str, Value]) -> Said | None:
    """Why the fluid is to be changed, or None; months and the test strip's word are read."""
    age = cells.get("fluid_age")
    if cells.get("fluid_strip") == "change":
        return say.FLUID_STRIP()
    if age is not None and float(age) >= OLD_FLUID_MONTHS:
        return say.FLUID_OLD(age=float(age))
    return None


def _difference(look: Look, rule: str) -> str:
    if rule == "taper":
        return "found_taper"
    if not look.wheel.sliding:
        return "found_opposed_differ"
    thin = min(look.sides, key=lambda side: min(look.sides[side]))
    return f"found_{thin}_thin"


def _sides(looks: Sequence[Look]) -> list[Seen]:
    """Evidence from all pads together: one side thin, all thick, one at the wear tab."""
    found = []
    for axle in dict.fromkeys(look.wheel.axle for look in looks):
        corners = [look.corner for look in looks if look.wheel.axle == axle]
        if len(corners) == 2 and corners[0] and corners[1]:
            rules = [entry.rule for entry in axle_findings(corners[0], corners[1], looks[0].wheel.pads)]
            found += [Seen(evidence="found_side_thin", place=axle)] if "left and right" in rules else []
    thinnest = [(min(ends), look.wheel.pads) for look in looks for ends in look.sides.values()]
    if any(value <= limits.tab_m for value, limits in thinnest):
        found.append(Seen(evidence="found_at_tab", place=""))
    elif thinnest and all(value > max(limits.change_m, 0.5 * limits.new_m) for value, limits in thinnest):
        found.append(Seen(evidence="found_pads_thick", place=""))
    return found
