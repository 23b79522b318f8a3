"""A workshop as a ZIP: all of it as JSON, to be read in again, and each table as CSV, to be looked at anywhere."""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Mapping, Sequence
from typing import Any

from thermaxis.core.errors import FieldError
from thermaxis.formats.table import Figure, write_csv

DOCUMENT = "workshop.json"
# As much as a workshop's JSON may be where it is sent by itself.
MOST_UNPACKED = 64_000_000
MOST_ENTRIES = 400
# What a spreadsheet holds in one cell.
LONGEST_CELL = 32_000
ALLOWED = f"a ZIP this program has written, {MOST_UNPACKED // 1_000_000} MB unpacked at most"
ABOUT = (
    f"{DOCUMENT} holds every row of the workshop but its people, and is what is read in again.\r\n"
    "The tables are the same rows, one file each, for spreadsheets; pictures are in the JSON alone.\r\n"
)


def write_archive(document: Mapping[str, Any]) -> bytes:
    """A ZIP of a workshop's document, as `portable.going_out` makes it."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("about.txt", ABOUT)
        archive.writestr(DOCUMENT, json.dumps(document, ensure_ascii=False, allow_nan=False, separators=(",", ":")))
        for label, rows in document["tables"].items():
            archive.writestr(f"tables/{label}.csv", _csv(rows))
    return out.getvalue()


def _csv(rows: Sequence[Mapping[str, Any]]) -> bytes:
    names = list(rows[0])
    return write_csv(names, ([_cell(row[name]) for name in names] for row in rows))


def _cell(value: object) -> str:
    """Numbers as they are, nothing as nothing, lists and the like as JSON."""
    if value is None:
        return ""
    if isinstance(value, int | float) and not isinstance(value, bool):
        return Figure(repr(value))
    text = value if isinstance(value, str) else json.dumps(value, ensure_ascii=False)
    return text if len(text) <= LONGEST_CELL else f"({len(text)} characters, in {DOCUMENT})"


def read_archive(content: bytes, most_bytes: int = MOST_UNPACKED) -> bytes:
    """The JSON of a ZIP that `write_archive` made. FieldError for any other; no more is unpacked than is allowed."""
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            if len(archive.infolist()) > MOST_ENTRIES:
                raise FieldError("file", f"{len(archive.infolist())} files", ALLOWED)
            # What the directory says of a size may be wrong: it is what comes out that is counted.
            with archive.open(DOCUMENT) as entry:
                unpacked = entry.read(most_bytes + 1)
        if len(unpacked) > most_bytes:
            raise FieldError("file", f"more than {most_bytes / 1e6:.0f} MB", ALLOWED)
        return unpacked
    except FieldError:
        raise
    # A damaged archive may raise nearly anything in its reader: whatever it is, this is no workshop.
    except Exception as error:
        raise FieldError("file", type(error).__name__, ALLOWED) from None
