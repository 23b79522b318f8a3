"""Files made to hurt: headings that go on for ever, workbooks that lie about their size, cells a spreadsheet would run."""

from __future__ import annotations

import csv
import io
import re
import re._parser as _parser  # type: ignore[import-not-found]
import sys
import zipfile
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import openpyxl
import pytest
from hypothesis import given
from hypothesis import strategies as st

from thermaxis.core.errors import FieldError
from thermaxis.formats import catalogue_table, speed_log, table
from thermaxis.formats.catalogue_table import guess, read_rows, write_rows
from thermaxis.formats.speed_log import LABEL, layout_of
from thermaxis.formats.table import MOST_COLUMNS, MOST_ROWS, read_table, write_csv, write_sheet
from thermaxis.formats.text import decode, quoted, unquoted

PATTERN = re.compile(r"""re\.(?:compile|search|match|fullmatch|sub)\(\s*r?"((?:[^"\\]|\\.)+)\"""")
SOURCE = Path(__file__).parents[2] / "src" / "thermaxis"


class Steps:
    """Counts the lines the interpreter runs: work that does not depend on how busy the machine is."""

    def __enter__(self) -> Steps:
        self.count = 0

        def trace(frame: object, event: str, argument: object) -> Any:
            self.count += 1
            return trace

        sys.settrace(trace)
        return self

    def __exit__(self, *_: object) -> None:
        sys.settrace(None)


# --- patterns -------------------------------------------------------------------------------------------------------


def test_what_a_heading_holds_is_found_in_its_first_characters() -> None:
    long = "brake " * 10_000
    assert speed_log._role(long + "pressure") == ""
    assert speed_log._role("x" * LABEL + "speed") == ""
    assert speed_log._role("brake line pressure [bar]") == "brake_pressure"
    assert speed_log._unit("speed", "speed [mph]", ()) == "mph"
    assert speed_log._unit("speed", "[" * 40_000, ()) == "km/h"
    layout = layout_of(f"time,{long}\n" + "1,2\n" * 20)
    assert all(len(column.name) <= LABEL for column in layout.columns)


SIGNS = [chr(code) for code in range(32, 127)] + ["\t", "\n", "é", "°", "€"]


def signs_of(items: Any) -> frozenset[str]:
    """Characters a parsed piece of a pattern may begin with, among some of every kind."""
    found: set[str] = set()
    for op, argument in items:
        name = str(op)
        if name == "LITERAL":
            found |= {sign for sign in SIGNS if ord(sign) == argument}
        elif name == "IN":
            found |= {sign for sign in SIGNS if _parser_in(argument, sign)}
        elif name in ("ANY", "NOT_LITERAL"):
            found |= set(SIGNS)
        elif name == "SUBPATTERN":
            found |= signs_of(argument[3])
        elif name == "BRANCH":
            for branch in argument[1]:
                found |= signs_of(branch)
        elif name in ("MAX_REPEAT", "MIN_REPEAT"):
            found |= signs_of(argument[2])
            if argument[0] == 0:
                continue
        if name != "AT":
            break
    return frozenset(found)


def _parser_in(members: Any, sign: str) -> bool:
    inside, negated = False, False
    for op, argument in members:
        name = str(op)
        negated |= name == "NEGATE"
        inside |= name == "LITERAL" and ord(sign) == argument
        inside |= name == "RANGE" and argument[0] <= ord(sign) <= argument[1]
        inside |= name == "CATEGORY" and bool(
            re.fullmatch({"DIGIT": r"\d", "SPACE": r"\s", "WORD": r"\w"}[str(argument).split("_")[-1]], sign)
        )
    return inside != negated


def ways(items: Any, inside: bool = False) -> Iterator[str]:
    """Where a pattern can go on in more than one way: a repeat in a repeat, or two in a row on the same characters."""
    before: frozenset[str] = frozenset()
    for op, argument in items:
        name = str(op)
        if name == "SUBPATTERN":
            yield from ways(argument[3], inside)
            before = frozenset()
        elif name == "BRANCH":
            for branch in argument[1]:
                yield from ways(branch, inside)
            before = frozenset()
        elif name in ("MAX_REPEAT", "MIN_REPEAT"):
            least, most, what = argument
            endless = most > 30
            if endless and inside:
                yield "a repeat in a repeat"
            yield from ways(what, inside or endless)
            mine = signs_of(what)
            if endless and before & mine:
                yield f"two repeats on {sorted(before & mine)[:3]}"
            before = mine if endless else (before if least == 0 else frozenset())
        elif name != "AT":
            before = frozenset()


def test_every_pattern_has_one_way_to_go_on() -> None:
    """A pattern that can share the same characters out in several ways takes their square, or worse, to say no.

    Those of headings may: they are matched on `LABEL` characters.
    """
    found = set()
    for path in SOURCE.rglob("*.py"):
        if "migrations" not in path.parts:
            found |= set(PATTERN.findall(path.read_text("utf-8")))
    assert len(found) > 12
    for pattern in found:
        assert list(ways(_parser.parse(pattern))) == [], pattern
    # The check itself finds what it is for.
    for pattern, said in ((r"(a+)+$", "in a repeat"), (r"^\s*(x)?\s*=", "two repeats"), (r".*-.*", "")):
        assert said in " ".join(ways(_parser.parse(pattern)))
    assert LABEL == 80


def test_friction_points_have_one_way_to_be_read() -> None:
    for text in ("1" * 2000, " " * 1999 + "=", "1=" * 1000, "1 °C" * 500, "1=1 " + "a" * 1990):
        with pytest.raises(FieldError):
            catalogue_table._friction(text, ".")
    assert catalogue_table._friction("20 °C = 0.4", ".") == ((20.0, 0.4, "estimate"),)


# --- workbooks ------------------------------------------------------------------------------------------------------


def workbook(sheet: str, **more: bytes) -> bytes:
    """A workbook whose first sheet is this XML, other entries as given."""
    book = openpyxl.Workbook()
    out = io.BytesIO()
    book.save(out)
    made = io.BytesIO()
    with zipfile.ZipFile(out) as old, zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as new:
        for entry in old.infolist():
            is_sheet = entry.filename.startswith("xl/worksheets/")
            new.writestr(entry.filename, sheet if is_sheet else old.read(entry))
        for name, content in more.items():
            new.writestr(name, content)
    return made.getvalue()


def sheet_xml(rows: str, dimension: str = "A1:B2") -> str:
    main = "http://schemas.openxmlformats.org/spreadsheetml/2006/main"
    return f'<worksheet xmlns="{main}"><dimension ref="{dimension}"/><sheetData>{rows}</sheetData></worksheet>'


def row_xml(number: int, *cells: str) -> str:
    inside = "".join(f'<c r="{name}{number}" t="inlineStr"><is><t>x</t></is></c>' for name in cells)
    return f'<row r="{number}">{inside}</row>'


def test_a_workbook_that_lies_about_its_size_is_read_as_far_as_it_goes() -> None:
    small = sheet_xml(row_xml(1, "A", "B") + row_xml(2, "A", "B"), "A1:XFD1048576")
    with Steps() as steps:
        content = read_table(workbook(small))
    assert [row for _, row in content.rows] == [("x", "x")]
    assert steps.count < 200_000


@pytest.mark.parametrize(
    ("content", "said"),
    [
        (sheet_xml(row_xml(1, "A") + row_xml(1048576, "A")), "the empty ones counted|and at least one row"),
        (sheet_xml("".join(row_xml(n, "A") for n in range(1, MOST_ROWS + 3))), f"at most {MOST_ROWS} rows"),
        (sheet_xml(row_xml(1, "A", "XFD") + row_xml(2, "A", "XFD")), None),
        (sheet_xml("<row r='x'><c r='A1'"), "not damaged"),
        (sheet_xml("<row r='1'><c r='ZZZZ9' t='s'><v>999</v></c></row>" * 3), "not damaged|at least one row"),
        ("<!DOCTYPE x [<!ENTITY a 'aaaa'>]>" + sheet_xml(row_xml(1, "A")), "not damaged"),
    ],
    ids=["far row", "rows", "far column", "cut off", "no text", "entities"],
)
def test_a_workbook_made_to_hurt_is_refused(content: str, said: str | None) -> None:
    with Steps() as steps:
        if said is None:
            found = read_table(workbook(content))
            assert len(found.headings) <= MOST_COLUMNS
        else:
            with pytest.raises(FieldError, match=said):
                read_table(workbook(content))
    assert steps.count < 6_000_000


def test_what_unpacks_to_too_much_is_not_unpacked() -> None:
    plain = sheet_xml(row_xml(1, "A") + row_xml(2, "A"))
    for more in (
        {"xl/sharedStrings.xml": b" " * 7_000_000},
        {f"x{i}": b"" for i in range(300)},
        {"xl/worksheets/sheet9.xml": b" " * 30_000_000},
    ):
        content = workbook(plain, **more)
        assert len(content) < 100_000
        with pytest.raises(FieldError, match="MB unpacked"):
            read_table(content)
    with pytest.raises(FieldError, match="at most 2000 kB"):
        read_table(b"PK" + b"x" * 3_000_000)


def test_cells_and_rows_of_text_are_bounded_too() -> None:
    with pytest.raises(FieldError, match="cells of at most"):
        read_table(b"a,b\n" + b"x" * 5000 + b",1\n")
    with pytest.raises(FieldError, match="at most 80 columns"):
        read_table((",".join("abcdefghij" * 20) + "\n").encode() * 3)
    with pytest.raises(FieldError, match="131072"):
        read_table(b"a,b\n" + b'"' + b"x" * 200_000)
    for content in (b"\xff\xfe", b"\xfe\xff", b" \n \n", b""):
        with pytest.raises(FieldError, match="a file with rows"):
            decode(content)
    assert decode("ä;b".encode("utf-16")) == "ä;b"


# --- files out ------------------------------------------------------------------------------------------------------

NAMES = st.text(st.characters(blacklist_categories=["Cs", "Cc", "Cn", "Co", "Zs", "Zl", "Zp"]), min_size=1, max_size=20)
EVIL = st.sampled_from(["=1+1", "+44", "-40", "@a", "\tx", "'=1", "''-x", "'", "nan", "inf", "1e5", "0x1", "TRUE", "="])
WRITERS: list[Callable[..., bytes]] = [write_csv, lambda headings, rows: write_sheet("Parts", headings, rows)]


@given(name=NAMES | EVIL, write=st.sampled_from(WRITERS))
def test_no_name_is_run_or_changed_on_its_way_out_and_back(name: str, write: Callable[..., bytes]) -> None:
    row = {"name": name, "standard": "DOT 4", "provenance": "maker", "dry_C": 250.0, "wet_C": 160.5, "price": 9.0}
    headings, rows = write_rows("fluids", [row])
    content = write(headings, rows)
    back = read_table(content)
    read = read_rows("fluids", back, guess("fluids", back.headings))
    assert [values for _, values in read.rows] == [row], read.errors
    if content[:2] == b"PK":
        cell = openpyxl.load_workbook(io.BytesIO(content)).worksheets[0]["A2"]
        assert (cell.data_type, str(cell.value)[:1] in "=+-@\t") == ("s", False)
        assert openpyxl.load_workbook(io.BytesIO(content)).worksheets[0]["D2"].data_type == "n"
    else:
        (_, line) = list(csv.reader(io.StringIO(content.decode("utf-8-sig"), newline="")))
        assert line[0][:1] not in tuple("=+-@\t")


@given(text=st.text(max_size=12) | EVIL)
def test_quoting_is_taken_off_exactly(text: str) -> None:
    assert unquoted(quoted(text)) == text
    assert quoted(text)[:1] not in tuple("=+-@\t")


def test_a_table_s_own_module_knows_no_other_bounds() -> None:
    assert table.MOST_BYTES < table.MOST_UNPACKED
