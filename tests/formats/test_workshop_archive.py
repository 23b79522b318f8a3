"""A workshop's ZIP: the JSON comes back to the letter, tables run nothing, and what is damaged or swollen is refused."""

from __future__ import annotations

import contextlib
import csv
import io
import json
import random
import zipfile
from typing import Any

import pytest

from thermaxis.core.errors import FieldError
from thermaxis.formats.workshop_archive import DOCUMENT, LONGEST_CELL, read_archive, write_archive

ROWS = [
    {
        "id": 1,
        "name": "=1+1",
        "mass_kg": 690.123456789012,
        "note": 'line\nbreak, "quotes"',
        "things": ["a", 2],
        "on": None,
    },
    {"id": 2, "name": "Ærø", "mass_kg": -0.1, "note": "x" * (LONGEST_CELL + 1), "things": [], "on": True},
]
WORKSHOP: dict[str, Any] = {
    "format": "thermaxis-workshop/1",
    "tables": {"garage.Machine": ROWS, "log.LogEntry": ROWS[:1]},
}


def test_the_json_comes_back_and_every_table_opens_in_a_spreadsheet() -> None:
    content = write_archive(WORKSHOP)
    assert json.loads(read_archive(content)) == WORKSHOP
    with zipfile.ZipFile(io.BytesIO(content)) as archive:
        assert sorted(archive.namelist()) == [
            "about.txt",
            "tables/garage.Machine.csv",
            "tables/log.LogEntry.csv",
            DOCUMENT,
        ]
        text = archive.read("tables/garage.Machine.csv").decode("utf-8-sig")
    head, first, second = csv.reader(io.StringIO(text, newline=""))
    assert head == list(ROWS[0])
    # Nothing that runs; numbers whole and bare; what no cell holds is said to be elsewhere.
    assert first == ["1", "'=1+1", "690.123456789012", 'line\nbreak, "quotes"', '["a", 2]', ""]
    assert second[1:3] == ["Ærø", "-0.1"]
    assert second[3] == f"({LONGEST_CELL + 1} characters, in {DOCUMENT})"


def refused(content: bytes) -> None:
    with pytest.raises(FieldError) as found:
        read_archive(content)
    assert found.value.path == "file"


def archive_of(**entries: bytes) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in entries.items():
            archive.writestr(name.replace("_", "."), content)
    return out.getvalue()


def test_what_is_no_such_file_is_refused() -> None:
    refused(b"")
    refused(b"PK\x03\x04")
    refused(archive_of(about_txt=b"nothing else"))
    refused(archive_of(workshop_json=b"{}", **{f"entry{number}": b"" for number in range(400)}))
    # One that unpacks to more than it may, whatever its directory says of its size.
    with pytest.raises(FieldError, match="more than 0 MB"):
        read_archive(archive_of(workshop_json=b" " * 1001), 1000)
    assert read_archive(archive_of(workshop_json=b" " * 1000), 1000) == b" " * 1000


def test_a_thousand_damaged_ones_are_read_or_refused() -> None:
    whole, draw = write_archive(WORKSHOP), random.Random(5)
    same = read_archive(whole)
    for _ in range(1000):
        content = bytearray(whole)
        for _ in range(draw.randint(1, 6)):
            content[draw.randrange(len(content))] = draw.randrange(256)
        cut = bytes(content[: draw.randrange(len(content))]) if draw.random() < 0.3 else bytes(content)
        with contextlib.suppress(FieldError):
            assert read_archive(cut) == same
