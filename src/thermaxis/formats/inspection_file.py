"""An inspection as a file: CSV with a line per cell and verdict, or JSON with everything."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from thermaxis.formats.text import quoted
from thermaxis.formats.units import worded

HEADING = ("what", "name", "value", "unit", "note")


def unit_of(kind: str) -> str:
    """Unit a cell of this kind is written in."""
    return {"length": "mm", "months": "months"}.get(kind, "")


def write_csv(head: Mapping[str, str], cells: Iterable[Sequence[Any]], verdicts: Iterable[Sequence[str]]) -> str:
    """The sheet line by line: head, cells as (name, kind, value in SI, note), verdicts as (subject, word, text).

    Lengths are written in mm, not rounded further than a micrometre.
    """
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")

    def write(*row: Any) -> None:
        writer.writerow([quoted(cell) if isinstance(cell, str) else cell for cell in row])

    write(*HEADING)
    for name, text in head.items():
        write("inspection", name, text, "", "")
    for name, kind, value, note in cells:
        shown = f"{1e3 * value:.3f}" if kind == "length" else value
        write("cell", name, shown, unit_of(kind), note)
    for subject, word, text in verdicts:
        write("verdict", subject, word, "", text)
    return out.getvalue()


def write_json(document: Mapping[str, Any]) -> str:
    """The whole document, SI, readable; its sentences in metric units."""
    return json.dumps(worded(document), indent=1, ensure_ascii=False) + "\n"
