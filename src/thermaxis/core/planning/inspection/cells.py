"""The sheet of an inspection: its cells, what each may hold, and when a reading asks before it is kept."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from thermaxis.core.errors import FieldError
from thermaxis.core.messages import inspection as say
from thermaxis.core.planning.inspection.diagnose import asked_where, evidence_texts
from thermaxis.core.planning.inspection.wheel import SCHOOLS
from thermaxis.core.said import Said

Value = float | str | bool
MOST_POINTS = 8
INCH_M = 0.0254
# A reading may stray this far upwards before it asks; a fall of 5 mm since last time asks too (practice).
GAUGE_M = 0.0003
JUMP_M = 0.005
# Points of one rotor that differ by more were not all read on the same rotor, or not on its swept band.
ASTRAY_M = 0.002


@dataclass(frozen=True, kw_only=True)
class Cell:
    """One cell: a length in m up to `most`, months, a tick, one of a few words, or text up to `most` characters."""

    kind: str
    most: float = 0.0
    choices: tuple[str, ...] = ()


_PAD, _ROTOR = Cell(kind="length", most=0.05), Cell(kind="length", most=0.15)
_TICK = Cell(kind="tick")


def _one_of(*names: str) -> Cell:
    return Cell(kind="choice", choices=names)


PAD_CELLS = {side: (f"pad_{side}_1", f"pad_{side}_2") for side in ("inner", "outer")}
ROTOR_CELLS = tuple(f"rotor_{number}" for number in range(1, MOST_POINTS + 1))
WHEEL_CELLS: dict[str, Cell] = {
    **{name: _PAD for names in PAD_CELLS.values() for name in names},
    **dict.fromkeys(ROTOR_CELLS, _ROTOR),
    "plain": _TICK,
    "runout": Cell(kind="length", most=0.01),
    "lip": Cell(kind="length", most=0.02),
    "scoring": Cell(kind="length", most=0.01),
    "crack": Cell(kind="length", most=0.5),
    "crack_place": _one_of("face", "edge", "hole"),
    "rust": _one_of("none", "film", "pitted"),
    "heat_spots": _TICK,
    "glazed": _TICK,
    "crazed": _TICK,
    "chamfer_lost": _TICK,
    "coating": _one_of("sound", "gone"),
    "surface": _one_of("sound"),
    "hose": _one_of("sound", "cracked", "bulged"),
    "boot": _one_of("sound", "torn"),
    "pins": _one_of("free", "dry", "seized"),
    "pistons": _one_of("free", "stiff", "seized"),
    "bearing": _one_of("tight", "play", "noisy"),
    "wet": _TICK,
    "frees_at_bleed_screw": _TICK,
    "under": _one_of("sound"),
}
AXLE_CELLS = {
    "planned_wear": Cell(kind="length", most=0.005),
    "most_runout": Cell(kind="length", most=0.002),
    "discard": _ROTOR,
}
WHOLE_CELLS = {
    "washers": Cell(kind="length", most=0.04),
    "school": _one_of(*SCHOOLS),
    "fluid_level": _one_of("between the marks", "low", "below the mark"),
    "fluid_age": Cell(kind="months", most=240.0),
    "fluid_strip": _one_of("good", "used", "change"),
    "note": Cell(kind="text", most=2000),
}


def cell_of(name: str, wheels: Iterable[str]) -> Cell:
    """The cell of this name on a sheet with these wheels, as a record.

    `front_left.rotor_1`, `front.discard` or `washers`; what was said has a tick each, `said.<evidence>`, and where it
    is, `where.<evidence>`. Raises FieldError for a name the sheet has not.
    """
    wheels = tuple(wheels)
    place, _, rest = name.rpartition(".")
    tables = {"": WHOLE_CELLS, "front": AXLE_CELLS, "rear": AXLE_CELLS}
    # A motorcycle's single disc is called "rear" as its axle is: it has both.
    found = tables.get(place, {}).get(rest) or (WHEEL_CELLS.get(rest) if place in wheels else None)
    if found is None and place == "said" and evidence_texts().get(rest, ("found",))[0] != "found":
        found = _TICK
    if found is None and place == "where" and asked_where(rest):
        found = _one_of(*(("left", "right") if asked_where(rest) == "side" else tuple(wheels)))
    if found is None:
        raise FieldError("cell", name, "a cell of this machine's inspection")
    return found


def read_value(name: str, cell: Cell, value: object) -> Value:
    """The value of a cell once it has been checked; lengths in m. Raises FieldError with the cell's name."""
    if cell.kind in ("length", "months"):
        fits = isinstance(value, int | float) and not isinstance(value, bool) and math.isfinite(value)
        if not fits or not 0 <= value <= cell.most:  # type: ignore[operator]
            if cell.kind == "length":
                most = say.NOT_A_LENGTH(most=cell.most)
                raise FieldError(name, value, f"a number from 0 to {1e3 * cell.most:g} mm", said=most)
            raise FieldError(name, value, f"a number from 0 to {cell.most:g} months")
        return float(value)  # type: ignore[arg-type]
    if cell.kind == "tick":
        if not isinstance(value, bool):
            raise FieldError(name, value, "true or false")
        return value
    if cell.kind == "choice":
        if value not in cell.choices:
            raise FieldError(name, value, "one of " + ", ".join(cell.choices))
        return str(value)
    if not isinstance(value, str) or len(value) > cell.most:
        raise FieldError(name, str(value)[:40], f"text of at most {cell.most:.0f} characters")
    return value


def washers_m(wheel: str, values: Mapping[str, Value]) -> float:
    """Both washers together in m, 0 where this rotor is read without them."""
    return 0.0 if values.get(f"{wheel}.plain") else float(values.get("washers", 0.0))


@dataclass(frozen=True, kw_only=True)
class Doubt:
    """Why a reading cannot be, and the length in m it would be had the gauge stood on inches, or on millimetres."""

    text: Said
    in_inches_m: float | None
    in_mm_m: float | None = None


def doubt_of(
    length_m: float,
    new_m: float,
    before_m: float | None,
    others_m: Sequence[float] = (),
    *,
    off_m: float = 0.0,
    hint: str = "",
) -> Doubt | None:
    """Whether a thickness asks before it is kept, as a record, or None where it can be.

    `length_m` is what the gauge said, `off_m` the washers in it, both in m; `before_m` the same place last time,
    `others_m` the rotor's other points. It asks when thicker than new or than before, 5 mm thinner than before, or
    2 mm away from the other points. `hint` is what makes such parts read too thick.
    """
    text = _why_not(length_m - off_m, new_m, before_m, others_m)
    if text is None:
        return None
    if hint and text.template in (say.THICKER_THAN_NEW.template, say.THICKER_THAN_BEFORE.template):
        text = say.THICKER_WITH_HINT(doubt=text, hint=hint)
    # A gauge left on inches: the number it types, read in its own unit.
    inches, mm = length_m * 1e3 * INCH_M, as_mm(length_m)

    def plausible(read: float) -> bool:
        return read > off_m and _why_not(read - off_m, new_m, before_m, others_m) is None

    return Doubt(text=text, in_inches_m=inches if plausible(inches) else None, in_mm_m=mm if plausible(mm) else None)


def as_mm(length_m: float) -> float:
    """What was taken for inches, read as millimetres, in m."""
    return length_m / INCH_M * 1e-3


# A rotor is not thrown away before, nor worn beyond, these shares of its thickness (estimate: 0.85 to 0.95 is usual).
LEAST_DISCARD, MOST_DISCARD = 0.6, 0.99


def discard_doubt(discard_m: float, new_m: float) -> Doubt | None:
    """Whether a discard thickness asks before it is kept: both in m, as a record, or None where it can be.

    One above the rotor's own thickness says that it is scrap, one far below lets it be driven too long.
    """

    def why_not(length_m: float) -> Said | None:
        if length_m > MOST_DISCARD * new_m:
            return say.DISCARD_SCRAPS(read=length_m, new=new_m)
        if length_m < LEAST_DISCARD * new_m:
            return say.DISCARD_FAR_BELOW(read=length_m, new=new_m)
        return None

    text = why_not(discard_m)
    if text is None:
        return None
    inches, mm = discard_m * 1e3 * INCH_M, as_mm(discard_m)
    return Doubt(
        text=text, in_inches_m=inches if why_not(inches) is None else None, in_mm_m=mm if why_not(mm) is None else None
    )


def _why_not(thickness: float, new: float, before: float | None, others: Sequence[float]) -> Said | None:
    if thickness > new + GAUGE_M:
        return say.THICKER_THAN_NEW(read=thickness, new=new)
    if before is not None and thickness > before + GAUGE_M:
        return say.THICKER_THAN_BEFORE(read=thickness, before=before)
    if before is not None and thickness < before - JUMP_M:
        return say.MUCH_THINNER(read=thickness, less=before - thickness, before=before)
    if thickness < 0:
        return say.NOTHING_LEFT()
    away = [other for other in others if abs(other - thickness) > ASTRAY_M]
    if away and len(away) == len(others):
        return say.ASTRAY(read=thickness, away=abs(away[0] - thickness))
    return None
