"""Duties as they were kept before each had a shape: one row with the numbers of every kind, most of them empty."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

# What a kind had in columns of its own, with what an empty one meant.
COLUMNS: dict[str, dict[str, Any]] = {
    "session": {"laps": 1, "driver_level": "", "traffic": 0.0, "cool_down_laps": 0, "pause_s": 0.0},
    "descent": {"grade": 0.0, "speed_mps": 0.0, "duration_s": 0.0},
    "sections": {},
    "stops": {"repeat": 1},
    "week": {"town_km": 0.0, "rural_km": 0.0, "motorway_km": 0.0, "days": 5},
    "recorded": {},
    "day": {},
}
ALL_COLUMNS = frozenset(name for columns in COLUMNS.values() for name in columns)
# What stood in rows of their own, by the kind that had them.
ROWS = {
    "stops": ("from_mps", "to_mps", "decel_mps2", "grade", "then_s", "then_speed_mps"),
    "sections": ("length_m", "grade", "speed_mps", "stops", "gear"),
}


def shape_from(row: Mapping[str, Any], listed: Mapping[str, Sequence[Mapping[str, Any]]]) -> dict[str, Any]:
    """The shape of a duty from its columns, and from its stops and sections in order.

    What the values are is not looked at: the shape's column refuses what cannot be.
    """
    kind = row["kind"]
    shape: dict[str, Any] = {"kind": kind}
    for name, empty in COLUMNS[kind].items():
        value = row.get(name)
        shape[name] = empty if value is None else value
    if kind in ROWS:
        shape[kind] = [{name: one[name] for name in ROWS[kind] if name in one} for one in listed.get(kind, ())]
    return shape
