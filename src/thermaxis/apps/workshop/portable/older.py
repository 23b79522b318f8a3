"""Files written before duties had shapes, read as if they were of today."""

from __future__ import annotations

from typing import Any

from thermaxis.apps.garage.older_duties import COLUMNS, ROWS, shape_from
from thermaxis.core.errors import FieldError

Tables = dict[str, list[dict[str, Any]]]
DUTIES = "garage.Duty"
LISTED = {"stops": "garage.DutyStop", "sections": "garage.DutySection"}


def with_shapes(tables: Tables) -> Tables:
    """The tables of a file with the shapes of its duties. FieldError where an older one's duties have no known kind."""
    duties, found = tables.get(DUTIES, []), {**tables}
    rows = {kind: found.pop(label, []) for kind, label in LISTED.items()}
    if not any("kind" in duty for duty in duties):
        return found
    listed: dict[str, dict[object, list[dict[str, Any]]]] = {kind: {} for kind in ROWS}
    for kind, entries in rows.items():
        for entry in sorted(entries, key=lambda entry: (_number(entry.get("duty")), _number(entry.get("order")))):
            listed[kind].setdefault(entry["duty"], []).append(entry)
    found[DUTIES] = [
        duty if "kind" not in duty else {**_let_go(duty), "shape": _shape(duty, listed)} for duty in duties
    ]
    return found


def _shape(duty: dict[str, Any], listed: dict[str, dict[object, list[dict[str, Any]]]]) -> dict[str, Any]:
    if not isinstance(duty["kind"], str) or duty["kind"] not in COLUMNS:
        raise FieldError("file", f"{DUTIES}.kind: {str(duty['kind'])[:40]}", "one of " + ", ".join(COLUMNS))
    number = _number(duty.get("id"))
    return shape_from(duty, {kind: rows.get(number, []) for kind, rows in listed.items()})


def _let_go(duty: dict[str, Any]) -> dict[str, Any]:
    """The duty without a circuit or a run that is of another kind."""
    mine = {"session": "circuit", "recorded": "run"}.get(str(duty["kind"]))
    return {name: value for name, value in duty.items() if name not in ("circuit", "run") or name == mine}


def _number(value: object) -> int:
    if isinstance(value, bool) or not isinstance(value, int):
        raise FieldError("file", str(value)[:40], "rows with numbers of their own")
    return value
