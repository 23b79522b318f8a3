"""What stands on the wire: JSON with finite numbers and whole characters, in and out."""

from __future__ import annotations

import json
from typing import Any

from django.http import HttpRequest
from django.utils.datastructures import MultiValueDict
from ninja.parser import Parser
from ninja.renderers import JSONRenderer

from thermaxis.apps.accounts.api.writing import written
from thermaxis.core.checked import check_text
from thermaxis.core.errors import FieldError

LONGEST_WHOLE, DEEPEST = 25, 40


class StrictParser(Parser):
    """Reads JSON, query and form; what no page can have meant is refused by name before anything is built from it."""

    def parse_body(self, request: HttpRequest) -> Any:
        """The body. FieldError for numbers without end and for damaged text."""
        body = json.loads(request.body, parse_constant=_no_number, parse_int=_whole, parse_float=_finite)
        _check(body, "body", 0)
        return body

    def parse_querydict(self, data: MultiValueDict[str, Any], list_fields: list[str], request: HttpRequest) -> Any:
        """Query or form; files are looked at where they are read."""
        found = super().parse_querydict(data, list_fields, request)
        _check({name: value for name, value in found.items() if isinstance(value, str | list)}, "query", 0)
        return found


class StrictRenderer(JSONRenderer):
    """Writes JSON that every program reads: a number without end is an error here, not `Infinity` there."""

    def render(self, request: HttpRequest, data: Any, *, response_status: int) -> str:
        return written(data, self.encoder_class)


def _no_number(word: str) -> float:
    raise FieldError("body", word, "a finite number")


def _whole(digits: str) -> int | float:
    return int(digits) if len(digits) <= LONGEST_WHOLE else _finite(digits)


def _finite(digits: str) -> float:
    value = float(digits)
    if value in (float("inf"), float("-inf")):
        raise FieldError("body", digits[:40], "a finite number")
    return value


def _check(value: Any, path: str, depth: int) -> None:
    """Every text in a body, keys among them."""
    if isinstance(value, str):
        check_text(path, value)
    elif depth > DEEPEST:
        raise FieldError(path, "...", f"nested at most {DEEPEST} deep")
    elif isinstance(value, dict):
        for key, entry in value.items():
            check_text(path, key)
            _check(entry, key if path in ("body", "query") else f"{path}.{key}"[:200], depth + 1)
    elif isinstance(value, list):
        for index, entry in enumerate(value):
            if isinstance(entry, str | list | dict):
                _check(entry, f"{path}[{index}]", depth + 1)
