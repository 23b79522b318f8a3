"""Estimates by class of vehicle for every number nobody has measured yet."""

from __future__ import annotations

import functools
import math
from collections.abc import Mapping
from dataclasses import dataclass

from thermaxis.core.errors import Bounds, FieldError
from thermaxis.core.tables import rows_of

Numbers = Mapping[str, float | None]
VENTED_FROM_M = 0.0175
VANES, VANE_THICKNESS_M = 34.0, 0.0055


@dataclass(frozen=True, kw_only=True)
class VehicleClass:
    """A kind of vehicle, and the words that go with it."""

    name: str
    label: str
    kind: str
    driven: str
    front_caliper: str
    rear_caliper: str
    anti_lock: bool = True
    # Watts, m/s2 and m/s of the motor's braking; None where there is none.
    regen: tuple[float, float, float] | None = None
    material: str = "grey_iron"
    pattern: str = "plain"


@dataclass(frozen=True, kw_only=True)
class Estimate:
    """What a number is likely to be: the value, and a range it lies in about two times out of three."""

    value: float | None
    low: float | None
    high: float | None
    source: str


CLASSES = {
    entry.name: entry
    for entry in (
        VehicleClass(
            name="light_sports",
            label="Light sports or kit car",
            kind="car",
            driven="rear",
            front_caliper="opposed, 4 pistons",
            rear_caliper="sliding, screw-in",
            anti_lock=False,
        ),
        VehicleClass(
            name="hatch",
            label="Small hatchback",
            kind="car",
            driven="front",
            front_caliper="sliding",
            rear_caliper="sliding, screw-in",
        ),
        VehicleClass(
            name="family",
            label="Family car or estate",
            kind="car",
            driven="front",
            front_caliper="sliding",
            rear_caliper="sliding, screw-in",
        ),
        VehicleClass(
            name="electric",
            label="Electric car",
            kind="car",
            driven="front",
            front_caliper="sliding",
            rear_caliper="sliding, electric parking brake",
            regen=(70e3, 2.0, 3.0),
        ),
        VehicleClass(
            name="four_by_four",
            label="4x4 or pick-up",
            kind="truck",
            driven="both",
            front_caliper="sliding, 2 pistons",
            rear_caliper="sliding, drum in hat",
        ),
        VehicleClass(
            name="van",
            label="Van",
            kind="truck",
            driven="front",
            front_caliper="sliding, 2 pistons",
            rear_caliper="sliding, screw-in",
        ),
        VehicleClass(
            name="motorcycle",
            label="Sport or naked motorcycle",
            kind="motorcycle",
            driven="rear",
            front_caliper="opposed, 4 pistons, two discs",
            rear_caliper="sliding, 1 piston",
            material="stainless",
            pattern="drilled",
        ),
        VehicleClass(
            name="touring_motorcycle",
            label="Touring motorcycle",
            kind="motorcycle",
            driven="rear",
            front_caliper="opposed, 4 pistons, two discs",
            rear_caliper="sliding, 1 piston",
            material="stainless",
            pattern="drilled",
        ),
    )
}


@dataclass(frozen=True, kw_only=True)
class _Row:
    spread: float
    values: dict[str, float | None]
    source: str


@functools.cache
def _table() -> dict[str, _Row]:
    return {
        row["path"]: _Row(
            spread=float(row["spread"]),
            source=row["source"],
            values={name: float(row[name]) if row[name] else None for name in CLASSES},
        )
        for row in rows_of("classes")
    }


def paths() -> tuple[str, ...]:
    """Every number a class has an estimate for, by its path; the unit (kg, m, N, Pa, W ...) is in the name."""
    return tuple(_table())


def class_named(name: str) -> VehicleClass:
    """The class of this name; FieldError says which there are."""
    if name not in CLASSES:
        raise FieldError("vehicle_class", name, "one of " + ", ".join(CLASSES))
    return CLASSES[name]


def estimates(name: str, known: Numbers) -> dict[str, Estimate]:
    """Estimates of one class for every number not in `known`, fitted to what is known, as records by path.

    A rotor of known size has its swept band, vanes and pad scaled to it; a tyre radius known on one axle is that of
    the other. Low and high are the class's spread around the value; a number the class does not have (a booster's
    run-out without a booster) is None. Raises FieldError for an unknown class.
    """
    class_named(name)
    found: dict[str, Estimate] = {}
    for path, row in _table().items():
        if path in known:
            continue
        value = _fitted(name, path, known)
        if value is None:
            found[path] = Estimate(value=None, low=None, high=None, source=row.source)
        else:
            found[path] = Estimate(
                value=value, low=value * (1.0 - row.spread), high=value * (1.0 + row.spread), source=row.source
            )
    return found


def spread_of(path: str) -> float:
    """Relative spread of a number within its class, a share; 0 where it is certain or not in the table."""
    row = _table().get(path)
    return row.spread if row else 0.0


def _fitted(name: str, path: str, known: Numbers) -> float | None:
    """The class's value for a path, scaled where a related number is known."""

    def of(other: str) -> float | None:
        return known[other] if other in known else _fitted(name, other, known)

    def usual(other: str) -> float:
        return _table()[other].values[name] or 0.0

    plain = _table()[path].values[name]
    side, _, part = path.partition(".")
    if part in ("wheel_radius_front_m", "wheel_radius_rear_m"):
        twin = path.replace("front", "rear") if "front" in path else path.replace("rear", "front")
        return known[twin] or plain if twin in known else plain
    if part == "rotor.inner_radius_m":
        outer = f"{side}.rotor.outer_radius_m"
        return (of(outer) or 0.0) * usual(path) / usual(outer)
    if part == "rotor.gap_m":
        thickness = f"{side}.rotor.thickness_m"
        if thickness not in known:
            return plain
        return 0.4 * (known[thickness] or 0.0) if (known[thickness] or 0.0) >= VENTED_FROM_M else 0.0
    if part in ("rotor.vanes", "rotor.vane_thickness_m"):
        if not of(f"{side}.rotor.gap_m"):
            return 0.0
        return plain or (VANES if part == "rotor.vanes" else VANE_THICKNESS_M)
    if part == "pad.area_m2":
        outer, inner = f"{side}.rotor.outer_radius_m", f"{side}.rotor.inner_radius_m"
        ring = (of(outer) or 0.0) ** 2 - (of(inner) or 0.0) ** 2
        return usual(path) * ring / (usual(outer) ** 2 - usual(inner) ** 2)
    return plain


@dataclass(frozen=True, kw_only=True)
class MassPart:
    """One part of the mass: what it is, kg, its share on the front axle, and the height of its own CG if known.

    A load behind the rear axle has a share below 0.
    """

    name: str
    mass_kg: float
    front_share: float
    height_m: float | None = None


def loaded(parts: tuple[MassPart, ...]) -> dict[str, float]:
    """Mass in kg, share on the front and, where every part has one, CG height in m, of the parts together.

    `m = sum m_i`, `phi = sum m_i phi_i / m`, `h = sum m_i h_i / m`. Raises FieldError for a mass below 0, a share
    outside -1 to 2, a height outside 0 to 5 m, nothing at all, or an axle that carries nothing.
    """
    for index, part in enumerate(parts):
        for name, value, low, high in (
            ("mass_kg", part.mass_kg, 0.0, 60000.0),
            ("front_share", part.front_share, -1.0, 2.0),
            ("height_m", part.height_m, 0.0, 5.0),
        ):
            if value is not None and not (math.isfinite(value) and low <= value <= high):
                raise FieldError.outside(f"masses[{index}].{name}", value, Bounds(least=low, most=high))
    mass = sum(part.mass_kg for part in parts)
    if mass <= 0:
        raise FieldError("masses", mass, "more than nothing in all")
    front = sum(part.mass_kg * part.front_share for part in parts) / mass
    if not 0 < front < 1:
        raise FieldError("masses", round(front, 3), "some weight on both axles: the share in front between 0 and 1")
    found = {"mass_kg": mass, "front_fraction": front}
    weighty = [part for part in parts if part.mass_kg > 0]
    if all(part.height_m is not None for part in weighty):
        found["cg_height_m"] = sum(part.mass_kg * (part.height_m or 0.0) for part in weighty) / mass
    return found
