"""An inspection as a file: CSV with a line per cell and verdict, or JSON with everything."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Iterable, Mapping, Sequence
from typing import Any

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
    writer.writerow(HEADING)
    for name, text in head.items():
        writer.writerow(("inspection", name, text, "", ""))
    for name, kind, value, note in cells:
        shown = f"{1e3 * value:.3f}" if kind == "length" else value
        writer.writerow(("cell", name, shown, unit_of(kind), note))
    for subject, word, text in verdicts:
        writer.writerow(("verdict", subject, word, "", text))
    return out.getvalue()


def write_json(document: Mapping[str, Any]) -> str:
    """The whole document, SI, readable."""
    return json.dumps(document, indent=1, ensure_ascii=False) + "\n"
