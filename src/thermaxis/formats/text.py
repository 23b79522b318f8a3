"""Text of files: whatever it was saved as, its rows of cells, and cells no spreadsheet runs."""

from __future__ import annotations

import csv
from collections.abc import Iterable, Iterator

from thermaxis.core.errors import FieldError

# What a spreadsheet takes for the beginning of a formula.
RUNS = ("=", "+", "-", "@", "\t")


MOST_BYTES = 16_000_000


def decode(content: bytes, most_bytes: int = MOST_BYTES) -> str:
    """Text of a file, whatever it was saved as: UTF-8 with or without a byte-order mark, UTF-16, or Windows Latin.

    Raises FieldError for an empty file, one that is too big, or one that is no text.
    """
    if len(content) > most_bytes:
        raise FieldError("file", f"{len(content) / 1e6:.1f} MB", f"at most {most_bytes / 1e6:.0f} MB")
    if content[:2] in (b"\xff\xfe", b"\xfe\xff"):
        text = content.decode("utf-16", errors="replace")
    elif b"\x00" in content[:4096]:
        raise FieldError("file", "binary", "a text file")
    else:
        try:
            text = content.decode("utf-8-sig")
        except UnicodeDecodeError:
            text = content.decode("cp1252", errors="replace")
    if not text.strip():
        raise FieldError("file", "empty", "a file with rows")
    return text


def rows_of(reader: Iterable[list[str]]) -> Iterator[list[str]]:
    """Rows of a CSV reader; FieldError instead of the reader's own error, for a cell of any length and the like."""
    try:
        yield from reader
    except csv.Error as error:
        raise FieldError("file", str(error)[:80], "rows of cells, each at most 131072 characters") from None


def quoted(cell: str) -> str:
    """The cell with an apostrophe before it where a spreadsheet would run it; `unquoted` takes it off again."""
    return f"'{cell}" if cell.lstrip("'").startswith(RUNS) else cell


def unquoted(cell: str) -> str:
    """The cell as it was before `quoted`."""
    return cell[1:] if cell.startswith("'") and cell.lstrip("'").startswith(RUNS) else cell
