"""A machine's log book, put together."""

from __future__ import annotations

import datetime as dt
from typing import Any

from thermaxis.apps.fitted.models import PadReading, RotorReading
from thermaxis.apps.fitted.parts import AXLES
from thermaxis.apps.fitted.standing import standing_or_none
from thermaxis.apps.garage import mapping
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.models import LogEntry
from thermaxis.apps.logbook.reading import Asked, entries
from thermaxis.core.said import day_text
from thermaxis.formats.units import System, quantity

MOST_ENTRIES, MOST_READINGS = 400, 200
# A torque stands in both, whatever is read.
BOTH: tuple[System, ...] = ("metric", "imperial")
QUANTITIES = (
    ("_kg", "mass"),
    ("drag_area_m2", "dragArea"),
    ("lift_area_m2", "dragArea"),
    ("_m2", "area"),
    ("radius_front_m", "radius"),
    ("radius_rear_m", "radius"),
    ("bore_m", "bore"),
    ("_m", "length"),
    ("_N", "force"),
    ("_Pa", "pressure"),
    ("_C", "temperature"),
    ("_mps", "speed"),
    ("_W", "power"),
)


def book_of(machine: Machine, on: dt.date, system: System) -> dict[str, Any]:
    """Everything the next owner reads, as text in one system of units."""
    written = entries(LogEntry.objects.of(machine.workshop), Asked(machine_id=machine.pk))
    return {
        "machine": machine.name,
        "workshop": machine.workshop.name,
        "owner": machine.owner.name,
        "odometer_km": machine.odometer_km,
        "on": on,
        "numbers": _numbers(machine, system),
        "fitted": _fitted(machine, system),
        "torques": [
            [
                row.axle,
                row.kind.replace("_", " "),
                " / ".join(quantity(row.torque_Nm, "torque", each) for each in BOTH) if row.torque_Nm else row.words,
                ", ".join(word for word in (row.source, row.page) if word),
            ]
            for row in machine.fasteners.order_by("axle", "pk")
        ],
        "readings": _readings(machine, system),
        "entries": [
            {
                "on": row.on,
                "odometer_km": row.odometer_km,
                "summary": row.summary,
                "text": row.text,
                "cost": row.cost,
                "user_name": row.user_name,
                "pictures": [bytes(photo.content) for photo in row.photos.all() if photo.removed_at is None],
            }
            for row in written.prefetch_related("photos")[:MOST_ENTRIES]
        ],
    }


def _numbers(machine: Machine, system: System) -> list[list[str]]:
    found = []
    for path, (row, column) in mapping.paths(machine).items():
        value = getattr(row, column)
        if value is None:
            continue
        kind = next((kind for end, kind in QUANTITIES if path.endswith(end)), "plain")
        name = path.replace(".", " ").replace("_", " ").rpartition(" ")[0] if kind != "plain" else path
        source = "estimate" if path in machine.estimates else "given"
        found.append([name.replace("_", " ").replace(".", " "), quantity(value, kind, system), source])
    return found


def _fitted(machine: Machine, system: System) -> list[list[str]]:
    standing = standing_or_none(machine)
    if standing is None:
        return []
    rows = []
    for axle in AXLES:
        on_it = standing.axles[axle]
        for what, row, thing in (
            ("pads", on_it.pads, on_it.pads.pad_set),
            ("rotors", on_it.rotors, on_it.rotors.rotor_pair),
        ):
            rows.append(
                [f"{axle} {what}", str(thing), day_text(row.from_on), quantity(row.from_km, "distance", system)]
            )
    fill = standing.fill
    rows.append(["fluid", str(fill.fluid), day_text(fill.filled_on), quantity(fill.filled_km, "distance", system)])
    for hose in machine.hoses.filter(until_on=None).order_by("what", "axle"):
        km = quantity(hose.fitted_km, "distance", system)
        rows.append([f"{hose.axle} {hose.what}", hose.kind, day_text(hose.fitted_on), km])
    return rows


def _readings(machine: Machine, system: System) -> list[list[str]]:
    pads = PadReading.objects.there().filter(mounting__machine=machine).select_related("pad_set__pad", "mounting")
    discs = RotorReading.objects.there().filter(mounting__machine=machine).select_related("disc__pair", "mounting")
    found = [(row, f"{row.mounting.axle} pad {row.position.replace('.', ' ')}, {row.pad_set}") for row in pads]
    found += [(row, f"{row.mounting.axle} ring {row.disc.side}, {row.disc.pair}") for row in discs]  # type: ignore[misc]
    latest = sorted(found, key=lambda entry: (entry[0].measured_on, entry[0].odometer_km), reverse=True)
    return [
        [
            day_text(row.measured_on),
            quantity(row.odometer_km, "distance", system),
            words,
            quantity(row.thickness_m, "reading", system),
        ]
        for row, words in latest[:MOST_READINGS]
    ]
