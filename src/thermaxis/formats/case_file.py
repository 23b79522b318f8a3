"""The case file `thermaxis-case/2`: one machine, one duty, one JSON document; `/1` is still read."""

from __future__ import annotations

import dataclasses
import json
from collections.abc import Iterator
from typing import Any

from thermaxis.core.errors import FieldError
from thermaxis.core.records import Case, DescentDuty, Duty, StopsDuty, TraceDuty
from thermaxis.core.results import Result
from thermaxis.formats.records_json import from_plain, to_plain
from thermaxis.formats.units import said_text

FORMAT = "thermaxis-case/2"
OLDER = "thermaxis-case/1"
# What the older format did not know, where the case has the block it belongs to.
NEW_FIELDS = (("vehicle", "anti_lock"), ("trailer", "hitch_height_m"), ("trailer", "hitch_overhang_m"))
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
    if stated not in (FORMAT, OLDER):
        raise FieldError("format", stated, f"{FORMAT!r} (or the older {OLDER!r})")
    if stated == OLDER:
        _refuse_new_fields(data)
    case = from_plain(Case, data, DUTIES)
    assert isinstance(case, Case)
    if stated == OLDER:
        case = dataclasses.replace(case, assumed=tuple(_assumed(case)))
    return case


def _assumed(case: Case) -> Iterator[str]:
    for block, name in NEW_FIELDS:
        if (held := getattr(case, block)) is not None:
            yield f"{block}.{name} {json.dumps(getattr(held, name))}"


def _refuse_new_fields(data: dict[str, Any]) -> None:
    for block, name in NEW_FIELDS:
        held = data.get(block)
        if isinstance(held, dict) and name in held:
            raise FieldError(f"{block}.{name}", held[name], f"left out (unknown field of {OLDER})")


def _no_constant(name: str) -> float:
    raise FieldError("file", name, "finite numbers only")


def write_case(case: Case) -> str:
    """Write a case file; `read_case` of it gives an equal case."""
    plain = to_plain(case)
    # These two say 'none' by null: leaving them out is an error in the format.
    for name in ("booster_runout_N", "rear_knee_Pa"):
        plain["hydraulics"].setdefault(name, None)
    return json.dumps({"format": FORMAT, **plain}, indent=1)


def result_document(result: Result) -> dict[str, Any]:
    """Return a result as the JSON document the command line prints, its warnings in metric units."""
    document: dict[str, Any] = to_plain(result)
    # The case format says wear in mm.
    for axle in ("front", "rear"):
        document[axle]["pad_wear_mm"] = 1e3 * document[axle].pop("pad_wear_m")
    document["warnings"] = [{"code": entry.code, "text": said_text(entry.text)} for entry in result.warnings]
    return document
