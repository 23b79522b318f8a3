"""Tables as files: CSV in whatever form a spreadsheet writes it, or a spreadsheet itself, to rows of text and back."""

from __future__ import annotations

import csv
import io
import itertools
import zipfile
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

import openpyxl
from openpyxl.cell.cell import ILLEGAL_CHARACTERS_RE

from thermaxis.core.errors import FieldError
from thermaxis.formats.text import decode, quoted, rows_of, unquoted

MOST_BYTES = 2_000_000
MOST_ROWS = 5_000
MOST_COLUMNS = 80
MOST_CELL = 2_000
# A workbook is a zip: what it may hold once unpacked, and in how many files. Its sheet is read row by row, its list of
# texts and its styles are not.
MOST_UNPACKED, MOST_ASIDE, MOST_ENTRIES = 24_000_000, 6_000_000, 200


class Figure(str):
    """A cell that is a number, written out exactly; every other cell is text, whatever it looks like."""


@dataclass(frozen=True, kw_only=True)
class Table:
    """Headings and rows of text; each row with its number in the file, counted from 1 as a spreadsheet does."""

    headings: tuple[str, ...]
    rows: tuple[tuple[int, tuple[str, ...]], ...]
    decimal: str


def read_table(content: bytes) -> Table:
    """Read a file by what it is, not by its name. FieldError where it is no table, or too large a one."""
    if len(content) > MOST_BYTES:
        raise FieldError("file", f"{len(content) // 1000} kB", f"at most {MOST_BYTES // 1000} kB")
    grid = _from_sheet(content) if content[:2] == b"PK" else _from_text(decode(content))
    filled = []
    for number, row in enumerate(grid, start=1):
        if not any(cell.strip() for cell in row):
            if number > 2 * MOST_ROWS:
                raise FieldError("file", f"row {number}", f"at most {2 * MOST_ROWS} rows, the empty ones counted")
            continue
        longest = max(map(len, row))
        if longest > MOST_CELL:
            raise FieldError("file", f"row {number}: {longest} characters", f"cells of at most {MOST_CELL} characters")
        if len(row) > MOST_COLUMNS and any(row[MOST_COLUMNS:]):
            raise FieldError("file", f"row {number}: {len(row)} columns", f"at most {MOST_COLUMNS} columns")
        filled.append((number, row))
        if len(filled) > MOST_ROWS:
            raise FieldError("file", f"over {MOST_ROWS} rows", f"at most {MOST_ROWS} rows")
    if len(filled) < 2:
        raise FieldError("file", f"{len(filled)} rows", "a row of headings and at least one row under it")
    headings = tuple(_cell(cell) for cell in filled[0][1])
    while headings and not headings[-1]:
        headings = headings[:-1]
    width = len(headings)
    rows = tuple((number, tuple(_cell(cell) for cell in (*row, *[""] * width)[:width])) for number, row in filled[1:])
    # A semicolon between cells leaves the comma free for decimals.
    return Table(headings=headings, rows=rows, decimal="," if _comma_decimals(rows) else ".")


def _cell(text: str) -> str:
    return unquoted(text.strip(" \r\n\xa0"))


def _from_text(text: str) -> Iterator[list[str]]:
    return rows_of(csv.reader(io.StringIO(text, newline=""), delimiter=_separator(text)))


def _separator(text: str) -> str:
    """What parts the cells: headings hold commas of their own ("window from, °C"), so it is the sign that makes as many
    columns in every row.
    """
    head = list(itertools.islice((line for line in text.splitlines() if line.strip()), 20))

    def columns(sign: str) -> tuple[float, int]:
        widths = [len(row) for row in rows_of(csv.reader(head, delimiter=sign))]
        usual = max(set(widths), key=widths.count, default=1)
        return (widths.count(usual) / len(widths) if usual > 1 else 0.0), usual

    return max("\t;,", key=columns)


def _from_sheet(content: bytes) -> Iterator[list[str]]:
    """The first sheet of a workbook, row by row; values, not formulas."""
    try:
        _check_size(content)
        book = openpyxl.load_workbook(io.BytesIO(content), read_only=True, data_only=True, keep_links=False)
        sheet = book.worksheets[0]
        # What the file says of its own size is not believed: rows are counted as they come.
        sheet.reset_dimensions()
        for row in sheet.iter_rows(max_row=2 * MOST_ROWS + 1, max_col=MOST_COLUMNS + 1, values_only=True):
            yield [] if not any(cell is not None for cell in row) else [_text(cell) for cell in row]
        book.close()
    except FieldError:
        raise
    # A damaged workbook may raise nearly anything in its reader: whatever it is, this is no table.
    except Exception as error:
        raise FieldError("file", type(error).__name__, "a spreadsheet (.xlsx) or CSV that is not damaged") from None


def _check_size(content: bytes) -> None:
    """Refuse a workbook by what its directory says it unpacks to; no more than that is ever unpacked."""
    with zipfile.ZipFile(io.BytesIO(content)) as archive:
        entries = archive.infolist()
    aside = [entry.file_size for entry in entries if not entry.filename.startswith("xl/worksheets/")]
    unpacked = sum(entry.file_size for entry in entries)
    if len(entries) > MOST_ENTRIES or unpacked > MOST_UNPACKED or sum(aside) > MOST_ASIDE:
        allowed = (
            f"at most {MOST_UNPACKED // 1_000_000} MB unpacked, {MOST_ASIDE // 1_000_000} MB of it beside the sheet"
        )
        raise FieldError("file", f"{unpacked / 1e6:.1f} MB in {len(entries)} files", allowed)


def _text(value: object) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    return (
        repr(value)
        if isinstance(value, float) and not value.is_integer()
        else str(int(value) if isinstance(value, float) else value)
    )


def _comma_decimals(rows: Iterable[tuple[int, Sequence[str]]]) -> bool:
    """Whether numbers are written with a decimal comma: some are, and none with a point."""
    cells = [cell for _, row in rows for cell in row]
    commas = any(_is_number(cell.replace(",", ".", 1)) and "," in cell for cell in cells)
    return commas and not any(_is_number(cell) and "." in cell for cell in cells)


def _is_number(text: str) -> bool:
    try:
        float(text)
    except ValueError:
        return False
    return True


def _written(cell: str) -> str:
    """A cell as it goes out: a number as it is, text so that no spreadsheet runs it and every one can hold it."""
    if isinstance(cell, Figure):
        return cell
    return quoted(ILLEGAL_CHARACTERS_RE.sub("\N{REPLACEMENT CHARACTER}", cell))


def write_csv(headings: Sequence[str], rows: Iterable[Sequence[str]]) -> bytes:
    """CSV as spreadsheets open it: UTF-8 with a byte-order mark. Numbers are given as `Figure`, all else is text."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow([quoted(heading) for heading in headings])
    writer.writerows([_written(cell) for cell in row] for row in rows)
    return out.getvalue().encode("utf-8-sig")


def write_sheet(title: str, headings: Sequence[str], rows: Iterable[Sequence[str]]) -> bytes:
    """A workbook with one sheet: numbers as numbers, everything else as text that is no formula."""
    book = openpyxl.Workbook()
    sheet = book.active
    assert sheet is not None
    sheet.title = title[:31]
    sheet.append([quoted(heading) for heading in headings])
    for row in rows:
        sheet.append([float(cell) if isinstance(cell, Figure) else _written(cell) for cell in row])
        for cell in sheet[sheet.max_row]:
            if isinstance(cell.value, str):
                cell.data_type = "s"
    sheet.freeze_panes = "A2"
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()
