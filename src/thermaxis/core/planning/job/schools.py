"""Points on which mechanics disagree: the options with their reasons, and the one taken unless somebody picks."""

from __future__ import annotations

import functools
from dataclasses import dataclass

from thermaxis.core.errors import FieldError
from thermaxis.core.tables import rows_of

POINT_LABELS = {
    "threadlocker": "Threads",
    "pins": "Guide pins",
    "opposed_pins": "Pad pins and seats",
    "ears": "Pads' ears",
    "hub": "Hub face",
    "shims": "Against squeal",
    "wash": "New ring",
    "bleeding": "Bleeding",
    "film": "Another compound's film",
}


@dataclass(frozen=True, kw_only=True)
class Option:
    """One school on a point: what is done, and why."""

    point: str
    option: str
    label: str
    reason: str
    default: bool


@functools.cache
def options() -> dict[str, tuple[Option, ...]]:
    """Every option by its point, as records."""
    found: dict[str, list[Option]] = {}
    for row in rows_of("job_schools"):
        found.setdefault(row["point"], []).append(
            Option(
                point=row["point"],
                option=row["option"],
                label=row["label"],
                reason=row["reason"],
                default=row["default"] == "y",
            )
        )
    return {point: tuple(entries) for point, entries in found.items()}


def taken(point: str, chosen: str, *, oiled: bool) -> Option:
    """The option of a point that is taken, as a record: the one chosen, else the default. FieldError for another.

    A ring that comes oiled is washed, a coated one wiped.
    """
    entries = options()[point]
    if chosen:
        return checked(point, chosen)
    if point == "wash":
        return checked(point, "wash" if oiled else "wipe")
    return next(entry for entry in entries if entry.default)


def checked(point: str, chosen: str) -> Option:
    """An option by its names, as a record. FieldError for a point or an option there is not."""
    if point not in options():
        raise FieldError("point", point, "one of " + ", ".join(options()))
    found = next((entry for entry in options()[point] if entry.option == chosen), None)
    if found is None:
        raise FieldError("option", chosen, "one of " + ", ".join(entry.option for entry in options()[point]))
    return found
