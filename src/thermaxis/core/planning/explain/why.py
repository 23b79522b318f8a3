"""How far a headline number moves when each of its inputs is 10 % off."""

from __future__ import annotations

import dataclasses
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, TypeVar

from thermaxis.core.errors import FieldError
from thermaxis.core.physics.simulate import simulate
from thermaxis.core.records import Case
from thermaxis.core.results import Result

Record = TypeVar("Record")


@dataclass(frozen=True, kw_only=True)
class Sensitivity:
    """One input, its value in the case, and the change of the reading for +10 % of it."""

    field: str
    value: float
    change: float


def scaled(case: Record, path: str, factor: float) -> Record:
    """Return the case with one numeric field, by its dotted path, multiplied; mu scales every point.

    Raises FieldError where the field is not set or the scaled value is not allowed.
    """
    head, _, rest = path.partition(".")
    value = getattr(case, head)
    if value is None:
        raise FieldError(path, None, "set before it can be scaled")
    if rest:
        changed = scaled(value, rest, factor)
    elif head == "mu":
        changed = tuple((temperature, mu * factor) for temperature, mu in value)
    else:
        changed = value * factor
    return dataclasses.replace(case, **{head: changed})  # type: ignore[type-var]


def value_at(case: Case, path: str) -> float:
    """The value of a numeric field by its dotted path; for mu the greatest of its points."""
    value: Any = case
    for part in path.split("."):
        value = getattr(value, part)
    return float(max(point[1] for point in value) if isinstance(value, tuple) else value)


# The inputs a person can measure or change; the rest of the case hardly moves the readings.
INPUTS = (
    "vehicle.mass_kg",
    "vehicle.front_fraction",
    "vehicle.cg_height_m",
    "vehicle.drag_area_m2",
    "hydraulics.pedal_ratio",
    "hydraulics.booster_gain",
    "hydraulics.master_bore_m",
    "front.piston_area_m2",
    "rear.piston_area_m2",
    "front.pad.mu",
    "rear.pad.mu",
    "front.pad.area_m2",
    "front.pad.conductivity_W_per_mK",
    "front.pad.thickness_m",
    "rear.pad.thickness_m",
    "front.pad.wear_mm3_per_MJ",
    "front.rotor.thickness_m",
    "front.rotor.hub_conductance_W_per_K",
    "rear.rotor.thickness_m",
    "front.caliper_mass_kg",
    "front.caliper_area_m2",
    "front.backing_conductance_W_per_K",
    "front.gap_conductance_W_per_K",
    "rear.backing_conductance_W_per_K",
    "trailer.mass_kg",
    "trailer.brake_share",
    "front.cooling_factor",
    "rear.cooling_factor",
    "environment.pressure_Pa",
)


def sensitivities(case: Case, reading: Callable[[Case, Result], float], most: int = 8) -> tuple[Sensitivity, ...]:
    """Rank inputs by how far `reading` moves when each is 10 % greater, all else equal, on the real engine.

    Inputs that cannot grow by 10 % (a share at 1, no booster) are left out.
    """
    return moves(case, lambda cases: list(map(reading, cases, simulate(cases))), most)


def moves(case: Case, readings: Callable[[Sequence[Case]], Sequence[float]], most: int = 8) -> tuple[Sensitivity, ...]:
    """The same for a reading that is found in its own way: `readings` gives it for each of many cases, as a record."""
    tried: list[tuple[str, Case]] = []
    for path in INPUTS:
        try:
            tried.append((path, scaled(case, path, 1.1)))
        except FieldError:
            continue
    base, *others = readings([case, *(changed for _, changed in tried)])
    found = [
        Sensitivity(field=path, value=value_at(case, path), change=value - base)
        for (path, _), value in zip(tried, others, strict=True)
    ]
    found.sort(key=lambda entry: -abs(entry.change))
    return tuple(entry for entry in found if entry.change)[:most]
