"""Tables as files: CSV in whatever form a spreadsheet writes it, or a spreadsheet itself, to rows of text and back."""

from __future__ import annotations

import csv
import io
import zipfile
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import openpyxl
from openpyxl.utils.exceptions import InvalidFileException

from thermaxis.core.errors import FieldError
from thermaxis.formats.speed_log import decode

MOST_BYTES = 5_000_000
MOST_ROWS = 5_000
MOST_COLUMNS = 80


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
    filled = [(number, row) for number, row in enumerate(grid, start=1) if any(cell.strip() for cell in row)]
    if len(filled) < 2:
        raise FieldError("file", f"{len(filled)} rows", "a row of headings and at least one row under it")
    if len(filled) > MOST_ROWS:
        raise FieldError("file", f"{len(filled)} rows", f"at most {MOST_ROWS} rows")
    headings = tuple(cell.strip() for cell in filled[0][1])
    if len(headings) > MOST_COLUMNS:
        raise FieldError("file", f"{len(headings)} columns", f"at most {MOST_COLUMNS} columns")
    width = len(headings)
    rows = tuple((number, tuple(cell.strip() for cell in (*row, *[""] * width)[:width])) for number, row in filled[1:])
    # A semicolon between cells leaves the comma free for decimals.
    return Table(headings=headings, rows=rows, decimal="," if _comma_decimals(rows) else ".")


def _from_text(text: str) -> list[list[str]]:
    first = next((line for line in text.splitlines() if line.strip()), "")
    separator = max(",;\t", key=first.count)
    return list(csv.reader(io.StringIO(text, newline=""), delimiter=separator))


def _from_sheet(content: bytes) -> list[list[str]]:
    """The first sheet of a workbook; values, not formulas."""
    try:
        book = openpyxl.load_workbook(io.BytesIO(content), read_only=True, data_only=True)
        rows = [[_text(cell) for cell in row] for row in book.worksheets[0].iter_rows(values_only=True)]
        book.close()
    except (InvalidFileException, zipfile.BadZipFile, KeyError, ValueError, IndexError) as error:
        raise FieldError("file", type(error).__name__, "a spreadsheet (.xlsx) or CSV") from None
    return rows


def _text(value: object) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    return repr(value) if isinstance(value, float) and not value.is_integer() else str(
        int(value) if isinstance(value, float) else value
    )  # fmt: skip


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


def write_csv(headings: Sequence[str], rows: Iterable[Sequence[str]]) -> bytes:
    """CSV as spreadsheets open it: UTF-8 with a byte-order mark."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(headings)
    writer.writerows(rows)
    return out.getvalue().encode("utf-8-sig")


def write_sheet(title: str, headings: Sequence[str], rows: Iterable[Sequence[str]]) -> bytes:
    """A workbook with one sheet: numbers as numbers, everything else as text that is no formula."""
    book = openpyxl.Workbook()
    sheet = book.active
    assert sheet is not None
    sheet.title = title[:31]
    sheet.append(list(headings))
    for row in rows:
        sheet.append([float(cell) if _is_number(cell) else cell for cell in row])
        for cell in sheet[sheet.max_row]:
            if isinstance(cell.value, str):
                cell.data_type = "s"
    sheet.freeze_panes = "A2"
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()
