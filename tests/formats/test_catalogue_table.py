"""The catalogue as tables: exact both ways, planted errors by row, spreadsheets, decimal commas, edge codes."""

from __future__ import annotations

import json
from importlib import resources
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from thermaxis.apps.catalogue.models import Family, Provenance
from thermaxis.core.errors import FieldError
from thermaxis.core.planning.choice.friction_code import friction_from_code
from thermaxis.formats.catalogue_table import FAMILIES, PROVENANCES, TABLES, columns_of, guess, read_rows, write_rows
from thermaxis.formats.table import read_table, write_csv, write_sheet

DEMO = json.loads(resources.files("thermaxis.demo").joinpath("catalogue.json").read_text("utf-8"))
# What a row of the demo leaves open.
OPEN: dict[str, dict[str, Any]] = {
    table: {
        column.field: False
        if column.kind == "tick"
        else {}
        if column.kind == "kit"
        else ""
        if column.kind == "text"
        else None
        for column in columns
        if column.open or column.kind == "tick"
    }
    for table, columns in TABLES.items()
}
FILES = [write_csv, lambda headings, rows: write_sheet("Parts", headings, rows)]


def demo_rows(table: str) -> list[dict[str, Any]]:
    """The demo's rows in SI, as the application holds them."""
    if table == "compounds":
        return [
            {**pad, "mu": tuple((p["temperature_C"], p["mu"], p["provenance"]) for p in pad["mu"])}
            for pad in DEMO["pads"]
        ]
    if table == "pad shapes":
        return [
            {**OPEN[table], "provenance": "maker", **DEMO["shapes"][shape["shape"]], **shape, "pad": pad["name"]}
            for pad in DEMO["pads"]
            for shape in pad["variants"]
        ]
    if table == "rotors":
        return [{**OPEN[table], **DEMO["mounts"][row["mount"]], **row} for row in DEMO[table]]
    rows: list[dict[str, Any]] = DEMO[table]
    return rows


@pytest.mark.parametrize("table", TABLES)
@pytest.mark.parametrize("write", FILES, ids=["csv", "xlsx"])
def test_the_demo_catalogue_comes_back_bit_for_bit(table: str, write: Any) -> None:
    rows = demo_rows(table)
    content = read_table(write(*write_rows(table, rows)))
    read = read_rows(table, content, guess(table, content.headings))
    assert read.errors == ()
    fields = [column.field for column in columns_of(table)]
    assert [values for _, values in read.rows] == [{field: row[field] for field in fields} for row in rows]
    assert read.rows[0][0] == 2


def test_what_is_in_a_box_is_counted_by_name() -> None:
    (row,) = [row for row in demo_rows("pad shapes") if row["shape"] == "VF-60"][:1]
    headings, (cells,) = write_rows("pad shapes", [row])
    place = headings.index("in the box (part count; ...)")
    assert cells[place] == "clips 1; shims 4"
    for text, said in (("Guide bolts 4;  springs  2", {"guide_bolts": 4, "springs": 2}), ("", {})):
        content = read_table(write_csv(headings, [[*cells[:place], text, *cells[place + 1 :]]]))
        ((_, back),) = read_rows("pad shapes", content, guess("pad shapes", content.headings)).rows
        assert back["kit"] == said
    for wrong in ("clips", "clips 200", "wheels 2", "clips -1", "pads 4"):
        content = read_table(write_csv(headings, [[*cells[:place], wrong, *cells[place + 1 :]]]))
        (error,) = read_rows("pad shapes", content, guess("pad shapes", content.headings)).errors
        assert (error.column, error.value) == ("in the box (part count; ...)", wrong)


LENGTHS = st.floats(0.0011, 0.0499)


@given(radius=st.floats(0.02, 0.49), thickness=LENGTHS, price=st.floats(0, 1e5), gap=st.floats(0, 0.04))
def test_any_number_comes_back_the_same(radius: float, thickness: float, price: float, gap: float) -> None:
    row = {**demo_rows("rotors")[0], "outer_radius_m": radius, "thickness_m": thickness, "price": price, "gap_m": gap}
    content = read_table(write_csv(*write_rows("rotors", [row])))
    ((_, back),) = read_rows("rotors", content, guess("rotors", content.headings)).rows
    assert (back["outer_radius_m"], back["thickness_m"], back["price"], back["gap_m"]) == (
        radius,
        thickness,
        price,
        gap,
    )


PLANTED = (
    ("outer radius, mm", "wide"),
    ("outer radius, mm", "900"),
    ("outer radius, mm", "nan"),
    ("outer radius, mm", ""),
    ("inner radius of band, mm", "-4"),
    ("thickness, mm", "0.02"),
    ("discard thickness, mm", "1e9"),
    ("vanes", "12.5"),
    ("vanes", "two"),
    ("vane gap, mm", "60"),
    ("vane thickness, mm", "x"),
    ("material", "cheese"),
    ("face", "polka"),
    ("two-piece", "perhaps"),
    ("conductance to hub, W/K", "-1"),
    ("price of one", "free"),
    ("source", "a friend"),
    ("rotor", ""),
    ("rotor", "n" * 121),
    ("mount", "m" * 25),
)


def test_twenty_planted_errors_are_twenty_rows() -> None:
    headings, rows = write_rows("rotors", demo_rows("rotors"))
    good = rows[0]
    planted = []
    for number, (heading, value) in enumerate(PLANTED):
        row = [f"{good[0]} {number}" if i == 0 else cell for i, cell in enumerate(good)]
        row[headings.index(heading)] = value
        planted.append(row)
    content = read_table(write_csv(headings, [*rows, *planted]))
    read = read_rows("rotors", content, guess("rotors", headings))
    first = len(rows) + 2
    assert [(error.row, error.column, error.value[:80]) for error in read.errors] == [
        (first + number, heading, value[:80]) for number, (heading, value) in enumerate(PLANTED)
    ]
    assert all(error.allowed for error in read.errors)
    assert len(read.rows) == len(rows)


def test_a_row_given_twice_is_said() -> None:
    headings, rows = write_rows("fluids", DEMO["fluids"])
    content = read_table(write_csv(headings, [*rows, rows[1]]))
    (error,) = read_rows("fluids", content, guess("fluids", headings)).errors
    assert (error.row, error.allowed) == (len(rows) + 2, "each once; row 3 has it too")


def test_another_order_other_words_semicolons_and_decimal_commas() -> None:
    text = "Price of a litre;Wet boiling point;Fluid;Standard;Dry boiling point;Shelf\n12,5;165;Ours;dot 4;255;B3\n"
    content = read_table(text.encode("cp1252"))
    mapping = guess("fluids", content.headings)
    ((number, values),) = read_rows("fluids", content, mapping).rows
    assert (number, values["price"], values["standard"], values["provenance"]) == (2, 12.5, "DOT 4", "estimate")
    # Mapped by hand to another column.
    del mapping["price"]
    with pytest.raises(FieldError, match=r"mapping\.price"):
        read_rows("fluids", content, mapping)
    with pytest.raises(FieldError, match=r"mapping\.colour"):
        read_rows("fluids", content, {**mapping, "colour": "Shelf"})
    with pytest.raises(FieldError, match="a heading of the file"):
        read_rows("fluids", content, {**mapping, "price": "Cost"})


@pytest.mark.parametrize(
    ("text", "points"),
    [
        ("100=0.38 maker; 300=0.34 measured", ((100.0, 0.38, "maker"), (300.0, 0.34, "measured"))),
        ("20 °C = 0.4", ((20.0, 0.4, "estimate"),)),
        ("FE", ((150.0, 0.4, "estimate"), (300.0, 0.3, "estimate"))),
        ("300=0.3; 100=0.4", None),
        ("100=0.3; 100=0.4", None),
        ("100:0.4", None),
        ("100=3", None),
        ("FZ", None),
        ("100=0.4 hearsay", None),
        ("100=..", None),
        (";", None),
    ],
)
def test_friction_as_points_or_as_an_edge_code(text: str, points: Any) -> None:
    headings, rows = write_rows("compounds", demo_rows("compounds")[:1])
    rows[0][headings.index("friction (°C=mu source; ... or two letters)")] = text
    content = read_table(write_csv(headings, rows))
    read = read_rows("compounds", content, guess("compounds", headings))
    if points is None:
        (error,) = read.errors
        assert (error.row, error.column[:8]) == (2, "friction")
    else:
        assert read.rows[0][1]["mu"] == points


def test_edge_codes_by_the_standard_s_ranges() -> None:
    # SAE J866: F is 0.35 to 0.45, G 0.45 to 0.55.
    assert friction_from_code("gf") == ((150.0, 0.5), (300.0, 0.4))
    for code in ("", "F", "FFF", "AB", "1F"):
        with pytest.raises(FieldError, match="two letters"):
            friction_from_code(code)


@pytest.mark.parametrize(
    ("content", "said"),
    [
        (b"", "a file with rows"),
        (b"only,headings\n", "a row of headings"),
        (b"PK\x03\x04 broken", "a spreadsheet"),
        (b"a,b\n" + b"1,2\n" * 6000, "at most 5000 rows"),
        (b"x" * 6_000_000, "at most 2000 kB"),
    ],
)
def test_what_is_no_table_is_said(content: bytes, said: str) -> None:
    with pytest.raises(FieldError, match=said):
        read_table(content)


def test_words_are_those_of_the_database_and_no_cell_becomes_a_formula() -> None:
    assert set(FAMILIES) == set(Family.values)
    assert set(PROVENANCES) == set(Provenance.values)
    sheet = read_table(write_sheet("Parts", ["fluid"], [["=1+1"], ["+44"]]))
    assert [row for _, row in sheet.rows] == [("=1+1",), ("+44",)]
    with pytest.raises(FieldError, match="one of compounds"):
        columns_of("wheels")


def test_a_file_parted_by_tabs_keeps_the_commas_of_its_headings() -> None:
    headings, rows = write_rows("rotors", demo_rows("rotors")[:3])
    text = "\n".join("\t".join(cells) for cells in (headings, *rows))
    table = read_table(text.encode())
    assert table.headings == tuple(headings)
    assert [list(row) for _, row in table.rows] == rows
