"""The catalogue's four tables as columns a person can read: units in the headings, every number exact both ways."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal, InvalidOperation
from typing import Any

from thermaxis.core.checked import check_text
from thermaxis.core.errors import FieldError
from thermaxis.core.planning.choice.friction_code import friction_from_code
from thermaxis.core.planning.fit.kit import COUNTED, FLUID, MOST
from thermaxis.core.records import MATERIALS, PATTERNS
from thermaxis.formats.table import Figure, Table

PROVENANCES = ("measured", "maker", "estimate")
FAMILIES = ("organic", "ceramic", "low-metallic", "semi-metallic", "sintered", "race carbon-metallic")
STANDARDS = ("DOT 3", "DOT 4", "DOT 5", "DOT 5.1", "other")
YES, NO = ("yes", "true", "1", "x"), ("no", "false", "0", "")


@dataclass(frozen=True, kw_only=True)
class Column:
    """One column: the field it holds, its heading with the unit, ten to which power makes SI of it, what it may be.

    `open`: the cell may be empty, which is nothing known.
    """

    field: str
    heading: str
    kind: str = "number"
    power: int = 0
    low: float = 0.0
    high: float = 0.0
    words: tuple[str, ...] = ()
    default: Any = None
    open: bool = False

    @property
    def needed(self) -> bool:
        """Whether no row can do without it."""
        return self.default is None and self.kind != "tick" and not self.open


def _name(field: str, heading: str, most: float = 120) -> Column:
    return Column(field=field, heading=heading, kind="text", high=most)


def _number(field: str, heading: str, low: float, high: float, power: int = 0, default: Any = None) -> Column:
    """A number with its bounds as the file writes it."""
    return Column(field=field, heading=heading, power=power, low=low, high=high, default=default)


def _open(field: str, heading: str, low: float, high: float) -> Column:
    """A length that may be left open, its bounds as the file writes it, in mm."""
    return Column(field=field, heading=heading, power=-3, low=low, high=high, open=True)


def _word(field: str, heading: str, words: tuple[str, ...], default: Any = None) -> Column:
    return Column(field=field, heading=heading, kind="word", words=words, default=default)


_SOURCE = _word("provenance", "source", PROVENANCES, "estimate")
TABLES: dict[str, tuple[Column, ...]] = {
    "compounds": (
        _name("name", "compound"),
        _word("family", "family", FAMILIES),
        _SOURCE,
        Column(field="mu", heading="friction (°C=mu source; ... or two letters)", kind="mu"),
        _number("window_low_C", "window from, °C", -60, 1500),
        _number("window_high_C", "window to, °C", -60, 1500),
        _number("limit_C", "limit, °C", -60, 1600),
        _number("bed_low_C", "bedding from, °C", -60, 1500),
        _number("bed_high_C", "bedding to, °C", -60, 1500),
        _number("noise", "noise, 0 to 5", 0, 5),
        _number("dust", "dust, 0 to 5", 0, 5),
        _number("density_kg_per_m3", "density, kg/m3", 1, 20000),
        _number("specific_heat_J_per_kgK", "specific heat, J/kgK", 1, 5000),
        _number("conductivity_W_per_mK", "conductivity, W/mK", 0.01, 500),
        _number("wear_mm3_per_MJ", "wear, mm3/MJ", 0, 10000),
        _number("wear_knee_C", "wear rises above, °C", -50, 2000),
        _number("wear_scale_C", "wear rises e-fold per, K", 1, 5000),
        Column(field="rotor_wear_m", heading="off a rotor with a set, mm", power=-3, high=5, open=True),
        Column(field="bedding", heading="the maker's bedding", kind="text", high=500, open=True),
    ),
    "pad shapes": (
        _name("pad", "compound"),
        _name("shape", "shape", 24),
        _number("area_m2", "area, cm2", 0.1, 1000, -4),
        _number("thickness_m", "friction material, mm", 0.5, 50, -3),
        _number("backing_m", "backing plate, mm", 0.5, 50, -3),
        _number("price", "price of an axle set", 0, 1e6),
        _SOURCE,
        _open("thickness_spread_m", "thickness may differ, mm", 0, 5),
        _open("shim_m", "loose shim, mm", 0, 5),
        _open("height_m", "pad height, mm", 5, 200),
        _open("length_m", "between abutments, mm", 10, 300),
        _open("pin_hole_m", "pin holes, mm", 1, 30),
        _open("pin_spacing_m", "hole to hole, mm", 5, 300),
        Column(field="wear_tabs", heading="pads with a wear tab", kind="whole", high=4, open=True),
        Column(field="piston_clips", heading="clip for the piston", kind="tick"),
        Column(field="kit", heading="in the box (part count; ...)", kind="kit", open=True),
    ),
    "rotors": (
        _name("name", "rotor"),
        _name("mount", "mount", 24),
        _SOURCE,
        _number("outer_radius_m", "outer radius, mm", 10, 500, -3),
        _number("inner_radius_m", "inner radius of band, mm", 5, 500, -3),
        _number("thickness_m", "thickness, mm", 1, 100, -3),
        _number("discard_thickness_m", "discard thickness, mm", 0.5, 100, -3),
        _number("gap_m", "vane gap, mm", 0, 50, -3, "0"),
        Column(field="vanes", heading="vanes", kind="whole", high=200, default="0"),
        _number("vane_thickness_m", "vane thickness, mm", 0, 50, -3, "0"),
        _word("material", "material", tuple(MATERIALS)),
        _word("pattern", "face", tuple(PATTERNS), "plain"),
        Column(field="two_piece", heading="two-piece", kind="tick"),
        _number("hub_conductance_W_per_K", "conductance to hub, W/K", 0, 100),
        _number("price", "price of one", 0, 1e6),
        Column(field="mass_kg", heading="mass, kg", low=0.05, high=50, open=True),
        _word("vane_shape", "vane shape", ("straight", "directional"), "straight"),
        _word("coating", "coating", ("none", "coated", "oiled"), "none"),
        Column(field="handed_face", heading="face made for one side", kind="tick"),
        _open("thickness_spread_m", "thickness may differ, mm", 0, 5),
        _open("diameter_m", "overall diameter, mm", 100, 600),
        _open("hat_height_m", "hat height, mm", 0, 200),
        _open("bore_m", "centre bore, mm", 10, 300),
        Column(field="holes", heading="bolt holes", kind="whole", high=20, open=True),
        _open("pitch_circle_m", "pitch circle, mm", 30, 400),
        Column(field="fixing_screws", heading="fixing-screw holes", kind="whole", high=6, open=True),
        _open("drum_m", "drum in the hat, mm", 50, 400),
        Column(field="jacking_thread", heading="jacking thread", kind="text", high=8, open=True),
    ),
    "fluids": (
        _name("name", "fluid"),
        _word("standard", "standard", STANDARDS),
        _SOURCE,
        _number("dry_C", "dry boiling point, °C", 100, 400),
        _number("wet_C", "wet boiling point, °C", 80, 400),
        _number("price", "price of a litre", 0, 1e6),
    ),
}
KEYS = {"compounds": ("name",), "pad shapes": ("pad", "shape"), "rotors": ("name", "mount"), "fluids": ("name",)}


@dataclass(frozen=True, kw_only=True)
class RowError:
    """A cell that is not allowed: its row as a spreadsheet counts, its column, the value, what is allowed."""

    row: int
    column: str
    value: str
    allowed: str


@dataclass(frozen=True, kw_only=True)
class Read:
    """Rows in SI by field, each with its number, and everything that is wrong with the others."""

    rows: tuple[tuple[int, dict[str, Any]], ...]
    errors: tuple[RowError, ...]


def columns_of(table: str) -> tuple[Column, ...]:
    """Columns of a table by its name. FieldError for another."""
    if table not in TABLES:
        raise FieldError("table", table, "one of " + ", ".join(TABLES))
    return TABLES[table]


def guess(table: str, headings: Sequence[str]) -> dict[str, str]:
    """Field to heading, by the words of the headings; a field nobody seems to have is left out."""
    plain = {_plain(heading): heading for heading in reversed(headings)}
    found: dict[str, str] = {}
    for column in columns_of(table):
        names = (_plain(column.heading), _plain(column.heading.split(",")[0].split("(")[0]), _plain(column.field))
        match = next((plain[name] for name in names if name in plain), None)
        if match is not None and match not in found.values():
            found[column.field] = match
    return found


def _plain(text: str) -> str:
    return re.sub(r"[^a-z0-9]+", " ", text.lower()).strip()


def read_rows(table: str, content: Table, mapping: Mapping[str, str]) -> Read:
    """Rows of a file in SI by a mapping of field to heading; nothing is guessed that has no default.

    FieldError where the mapping itself cannot be: an unknown field or heading, a column that is needed and missing.
    """
    columns = {column.field: column for column in columns_of(table)}
    for field, heading in mapping.items():
        if field not in columns:
            raise FieldError(f"mapping.{field}", heading, "one of " + ", ".join(columns))
        if heading not in content.headings:
            raise FieldError(f"mapping.{field}", heading, "a heading of the file")
    for column in columns.values():
        if column.needed and column.field not in mapping:
            raise FieldError(f"mapping.{column.field}", "", f"the column that holds '{column.heading}'")
    places = {field: content.headings.index(heading) for field, heading in mapping.items()}
    rows, errors, seen = [], [], dict[tuple[Any, ...], int]()
    for number, cells in content.rows:
        values: dict[str, Any] = {}
        wrong = []
        for field, column in columns.items():
            text = cells[places[field]] if field in places else ""
            try:
                values[field] = _value(column, text, content.decimal)
            except FieldError as error:
                wrong.append(RowError(row=number, column=column.heading, value=text[:80], allowed=error.allowed))
        if not wrong:
            key = tuple(values[field] for field in KEYS[table])
            if key in seen:
                allowed = f"each once; row {seen[key]} has it too"
                heading = columns[KEYS[table][0]].heading
                wrong.append(RowError(row=number, column=heading, value=str(key[0]), allowed=allowed))
            seen.setdefault(key, number)
        errors += wrong
        if not wrong:
            rows.append((number, values))
    return Read(rows=tuple(rows), errors=tuple(errors))


def _value(column: Column, text: str, decimal: str) -> Any:
    text = text or str(column.default or "")
    if column.open and not text:
        return "" if column.kind == "text" else {} if column.kind == "kit" else None
    if column.kind == "kit":
        return _kit(text)
    if column.kind == "text":
        if not 1 <= len(text) <= column.high:
            raise FieldError(column.field, text, f"1 to {column.high:.0f} characters")
        check_text(column.field, text)
        return text
    if column.kind == "word":
        found = next((word for word in column.words if _plain(word) == _plain(text)), None)
        if found is None:
            raise FieldError(column.field, text, "one of " + ", ".join(column.words))
        return found
    if column.kind == "tick":
        if text.lower() not in (*YES, *NO):
            raise FieldError(column.field, text, "yes or no")
        return text.lower() in YES
    if column.kind == "mu":
        return _friction(text, decimal)
    return _exact(column, text, decimal)


def _exact(column: Column, text: str, decimal: str) -> float | int:
    """A number in SI, scaled in decimal arithmetic so that what goes out comes back the same."""
    allowed = f"a number from {column.low:g} to {column.high:g}"
    try:
        value = Decimal(text.replace(decimal, ".").replace(" ", ""))
    except InvalidOperation:
        raise FieldError(column.field, text, allowed) from None
    if not value.is_finite() or not column.low <= value <= Decimal(repr(column.high)):
        raise FieldError(column.field, text, allowed)
    if column.kind == "whole":
        if value != int(value):
            raise FieldError(column.field, text, f"a whole number from {column.low:g} to {column.high:g}")
        return int(value)
    return float(value.scaleb(column.power))


# Matched on a part without blanks at its ends, blanks in it made single: every step has one way to go.
_POINT = re.compile(r"^(-?[\d.,]+) ?(?:°C ?)?= ?([\d.,]+)(?: (\w+))?$")


def _friction(text: str, decimal: str) -> tuple[tuple[float, float, str], ...]:
    """Points as temperature, friction and source; two edge-code letters stand for a coarse guess."""
    if re.fullmatch(r"\s*[A-Za-z]{2}\s*", text):
        return tuple((temperature, mu, "estimate") for temperature, mu in friction_from_code(text))
    points = []
    for part in filter(None, (part.strip() for part in text.split(";"))):
        match = _POINT.match(" ".join(part.split()))
        source = match[3] or "estimate" if match else ""
        if match is None or source not in PROVENANCES:
            raise FieldError("mu", part, "points such as '100=0.38 maker; 300=0.34 maker', or two letters C to H")
        try:
            temperature, mu = (float(match[i].replace(decimal, ".")) for i in (1, 2))
        except ValueError:
            raise FieldError("mu", part, "numbers on both sides of '='") from None
        if not (-60 <= temperature <= 2000 and 0 < mu <= 2):
            raise FieldError("mu", part, "-60 to 2000 °C and a friction above 0, at most 2")
        points.append((temperature, mu, source))
    if not points or [point[0] for point in points] != sorted({point[0] for point in points}):
        raise FieldError("mu", text, "at least one point, temperatures rising")
    return tuple(points)


# Part names are words of letters and blanks, the count stands last.
_ITEM = re.compile(r"^([a-z ]+) (\d{1,2})$")
_IN_A_BOX = tuple(name for name in COUNTED if name not in ("pads", FLUID) and "." not in name)


def _kit(text: str) -> dict[str, int]:
    """Small parts of a box by the core's names, with their counts."""
    found: dict[str, int] = {}
    names = [name.replace("_", " ") for name in _IN_A_BOX]
    for part in filter(None, (part.strip() for part in text.split(";"))):
        match = _ITEM.match(" ".join(part.lower().split()))
        if match is None or match[1] not in names or int(match[2]) > MOST:
            raise FieldError("kit", part, "parts with their count, such as 'clips 1; springs 2': " + ", ".join(names))
        found[match[1].replace(" ", "_")] = int(match[2])
    return found


def write_rows(table: str, rows: Sequence[Mapping[str, Any]]) -> tuple[list[str], list[list[str]]]:
    """Headings and text of rows given in SI; `read_rows` gives the same values back, bit for bit."""
    columns = columns_of(table)
    return [column.heading for column in columns], [
        [_shown(column, row[column.field]) for column in columns] for row in rows
    ]


def _shown(column: Column, value: Any) -> str:
    if value is None:
        return ""
    if column.kind == "mu":
        return "; ".join(
            f"{_plain_number(temperature)}={_plain_number(mu)} {source}" for temperature, mu, source in value
        )
    if column.kind == "tick":
        return "yes" if value else "no"
    if column.kind == "kit":
        return "; ".join(f"{name.replace('_', ' ')} {count:g}" for name, count in value.items())
    if column.kind in ("text", "word"):
        return str(value)
    return Figure(_plain_number(value, -column.power))


def _plain_number(value: float, power: int = 0) -> str:
    text = format(Decimal(repr(float(value))).scaleb(power), "f")
    return text.rstrip("0").rstrip(".") if "." in text else text
