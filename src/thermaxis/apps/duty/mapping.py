"""Evidence of temperatures to core records."""

from __future__ import annotations

from typing import Any

from thermaxis.core.planning.duty.calibrate import Evidence, Logged, Paint, Pyrometer
from thermaxis.formats.temperature_log import read_log


def evidence_record(entry: dict[str, Any]) -> Evidence:
    """One piece of evidence from its plain form: `kind` and the fields of that kind; a log comes as CSV text."""
    fields = {name: value for name, value in entry.items() if name != "kind"}
    if entry["kind"] == "logged":
        fields["t_s"], fields["value_C"] = read_log(fields.pop("csv"))
        return Logged(**fields)
    return Paint(**fields) if entry["kind"] == "paint" else Pyrometer(**fields)
