"""What inspections found that a forecast has to know: cracks, rust, hoses and boots."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable

from thermaxis.apps.garage.models import Machine
from thermaxis.core.messages import life as say
from thermaxis.core.planning.life.fatigue import Look
from thermaxis.core.said import Said

HAIRLINES = ("crack", "crazed")


def looks_at(machine: Machine, mounting_id: int, axle: str, damage_at: Callable[[float], float]) -> list[Look]:
    """What finished inspections saw of an axle's faces while these rotors were on, in order."""
    found = []
    rows = machine.inspections.filter(removed_at=None, finished_at__isnull=False)
    for inspection in rows.prefetch_related("cells").order_by("measured_on", "pk"):
        if getattr(inspection, f"{axle}_rotors_id") != mounting_id:
            continue
        cells = [
            (cell.name.rpartition(".")[2], cell.value) for cell in inspection.cells.all() if cell.name.startswith(axle)
        ]
        if not any(name.startswith("rotor_") or name in (*HAIRLINES, "surface") for name, _ in cells):
            continue
        cracked = any(bool(value) for name, value in cells if name in HAIRLINES)
        found.append(Look(damage=damage_at(inspection.odometer_km), cracked=cracked))
    return found


def found_on(machine: Machine) -> dict[tuple[str, str], list[Said]]:
    """What the last inspection found of hoses and of boots, by axle and what it is."""
    found: dict[tuple[str, str], list[Said]] = defaultdict(list)
    last = machine.inspections.filter(removed_at=None, finished_at__isnull=False).order_by("measured_on", "pk").last()
    if last is None:
        return found
    for cell in last.cells.all():
        place, _, name = cell.name.rpartition(".")
        axle = "front" if place.startswith("front") else "rear"
        if name == "hose" and cell.value in ("cracked", "bulged"):
            found[axle, "hoses"].append(say.FOUND(what=f"hose {cell.value}"))
        if name == "boot" and cell.value == "torn":
            found[axle, "seals"].append(say.FOUND(what="boot torn or burnt"))
    return found
