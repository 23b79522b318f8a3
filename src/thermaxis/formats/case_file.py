"""The case file `thermaxis-case/1`: one machine, one duty, one JSON document."""

from __future__ import annotations

import json
from typing import Any

from thermaxis.core.errors import FieldError
from thermaxis.core.records import Case, DescentDuty, Duty, StopsDuty, TraceDuty
from thermaxis.core.results import Result
from thermaxis.formats.records_json import from_plain, to_plain
from thermaxis.formats.units import said_text

FORMAT = "thermaxis-case/1"
DUTIES: dict[Any, dict[str, Any]] = {Duty: {"stops": StopsDuty, "descent": DescentDuty, "trace": TraceDuty}}


def read_case(text: str) -> Case:
    """Parse a case file; FieldError names the field by its path, the value and what is allowed."""
    try:
        data = json.loads(text, parse_constant=_no_constant)
    except json.JSONDecodeError as error:
        raise FieldError("file", f"line {error.lineno} column {error.colno}", f"valid JSON ({error.msg})") from None
    if not isinstance(data, dict):
        raise FieldError("file", type(data).__name__, "a JSON object")
    stated = data.pop("format", None)
    if stated != FORMAT:
        raise FieldError("format", stated, repr(FORMAT))
    case = from_plain(Case, data, DUTIES)
    assert isinstance(case, Case)
    return case


def _no_constant(name: str) -> float:
    raise FieldError("file", name, "finite numbers only")


def write_case(case: Case) -> str:
    """Write a case file; `read_case` of it gives an equal case."""
    plain = to_plain(case)
    # These two say 'none' by null: leaving them out is an error in the format.
    for name in ("booster_runout_N", "rear_knee_Pa"):
        plain["hydraulics"].setdefault(name, None)
    for axle in ("front", "rear"):
        # Newer than the format: left out where it says nothing, so that every reader of the format can follow.
        if plain[axle]["pad_heat_factor"] == 1.0:
            del plain[axle]["pad_heat_factor"]
    return json.dumps({"format": FORMAT, **plain}, indent=1)


def result_document(result: Result) -> dict[str, Any]:
    """Return a result as the JSON document the command line prints, its warnings in metric units."""
    document: dict[str, Any] = to_plain(result)
    document["warnings"] = [{"code": entry.code, "text": said_text(entry.text)} for entry in result.warnings]
    return document
