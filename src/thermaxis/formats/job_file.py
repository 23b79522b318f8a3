"""A job as a file: CSV with a line for each step, reading and fastener, or JSON with everything."""

from __future__ import annotations

import csv
import io
from collections.abc import Mapping
from typing import Any

from thermaxis.formats.text import quoted

HEADING = ("what", "name", "corner", "text", "state", "value", "unit", "by", "at", "checked again by")


def write_csv(job: Mapping[str, Any], machine: str) -> str:
    """The job line by line: head, steps as ticked, readings in SI, fasteners with their torque in N m."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")

    def write(*row: Any) -> None:
        cells = [*row, *[""] * (len(HEADING) - len(row))]
        writer.writerow([quoted(cell) if isinstance(cell, str) else "" if cell is None else cell for cell in cells])

    write(*HEADING)
    for name in ("label", "axle", "parts", "started_at", "started_by", "closed_on", "closed_km", "note"):
        write("job", name, "", job[name])
    write("job", "machine", "", machine)
    for step in job["steps"]:
        state = "done" if step["done"] else "not done" if step["words"] else "open"
        text = f"{step['text']}: {step['words']}" if step["words"] else step["text"]
        torque = step["reached_Nm"]
        write(
            "step",
            step["id"],
            step["corner"],
            text,
            state,
            torque,
            "N m" if torque is not None else "",
            step["by"],
            step["at"],
            step["rechecked_by"],
        )
    for name, value in job["values"].items():
        write("reading", name, "", "", "", value, "SI")
    for entry in job["fasteners"]:
        torque = entry["torque_Nm"]
        source = " ".join(filter(None, (entry["source"], entry["page"])))
        write("fastener", entry["kind"], "", entry["words"] or source, "", torque, "N m" if torque else "")
    return out.getvalue()
