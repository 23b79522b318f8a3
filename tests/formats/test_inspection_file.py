"""An inspection as CSV: every cell comes back, whatever is written in it."""

from __future__ import annotations

import csv
import io
import json

from hypothesis import given
from hypothesis import strategies as st

from thermaxis.formats.inspection_file import HEADING, write_csv, write_json
from thermaxis.formats.text import unquoted

TEXT = st.text(st.characters(blacklist_categories=["Cs", "Cc"]), max_size=40)


@given(notes=st.lists(TEXT, max_size=5), lengths=st.lists(st.floats(0, 0.15), max_size=5))
def test_every_cell_comes_back(notes: list[str], lengths: list[float]) -> None:
    cells: list[tuple[object, ...]] = [(f"n{i}", "text", note, "") for i, note in enumerate(notes)]
    cells += [(f"l{i}", "length", value, "confirmed") for i, value in enumerate(lengths)]
    text = write_csv({"machine": 'a, "b"'}, cells, [("front.pads", "due", "Front pads: change now.")])
    rows = list(csv.reader(io.StringIO(text, newline="")))
    assert tuple(rows[0]) == HEADING
    assert {len(row) for row in rows} == {5}
    assert rows[1] == ["inspection", "machine", 'a, "b"', "", ""]
    found = {row[1]: row for row in rows if row[0] == "cell"}
    assert [unquoted(found[f"n{i}"][2]) for i in range(len(notes))] == notes
    assert not any(found[f"n{i}"][2].startswith(("=", "+", "-", "@")) for i in range(len(notes)))
    for i, value in enumerate(lengths):
        assert abs(float(found[f"l{i}"][2]) / 1e3 - value) <= 5e-7
        assert found[f"l{i}"][3:] == ["mm", "confirmed"]
    assert rows[-1] == ["verdict", "front.pads", "due", "", "Front pads: change now."]


def test_json_is_readable_and_whole() -> None:
    document = {"machine": "Überlandwagen", "cells": [{"name": "washers", "value": 0.00602}]}
    text = write_json(document)
    assert json.loads(text) == document
    assert "Überlandwagen" in text
