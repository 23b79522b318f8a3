"""Records to and from plain JSON values, with the path of the field in every error."""

from __future__ import annotations

import dataclasses
import types
import typing
from typing import Any

from thermaxis.core.checked import allowed_text
from thermaxis.core.errors import FieldError

UNION_BY_KIND = "kind"


def in_file(record: Any) -> list[dataclasses.Field[Any]]:
    """The fields of a record that a file carries."""
    return [field for field in dataclasses.fields(record) if not field.metadata.get("outside_file")]


def to_plain(value: Any) -> Any:
    """Turn a record (and what it holds) into dicts, lists and numbers; None fields are left out."""
    if dataclasses.is_dataclass(value) and not isinstance(value, type):
        pairs = ((field.name, getattr(value, field.name)) for field in in_file(value))
        return {name: to_plain(entry) for name, entry in pairs if entry is not None}
    if isinstance(value, tuple | list):
        return [to_plain(entry) for entry in value]
    return value


def from_plain(record: Any, data: Any, unions: dict[Any, dict[str, Any]] | None = None) -> Any:
    """Build `record` (a dataclass) from a dict; unknown, missing and wrong fields raise FieldError with the path."""
    if not isinstance(data, dict):
        raise FieldError("", data, "an object {...}")
    hints = typing.get_type_hints(record)
    fields = {field.name: field for field in in_file(record)}
    for name in data:
        if name not in fields:
            raise FieldError(name, data[name], "left out (unknown field); known: " + ", ".join(fields))
    values = {}
    for name, field in fields.items():
        if name in data:
            try:
                values[name] = _value(hints[name], data[name], unions or {})
            except FieldError as error:
                raise error.under(name) if error.path else FieldError(name, error.value, error.allowed) from None
        elif field.default is dataclasses.MISSING and not _is_null_number(field):
            rule = field.metadata.get("number")
            raise FieldError(name, None, f"given ({allowed_text(rule)})" if rule else "given")
        elif _is_null_number(field) and field.default is dataclasses.MISSING:
            raise FieldError(name, None, "given, null where there is none")
    return record(**values)


def _is_null_number(field: dataclasses.Field[Any]) -> bool:
    return bool(field.metadata.get("number", {}).get("optional"))


def _value(hint: Any, data: Any, unions: dict[Any, dict[str, Any]]) -> Any:
    if hint in unions:
        return _tagged(unions[hint], data, unions)
    if typing.get_origin(hint) in (types.UnionType, typing.Union):
        if data is None:
            return None
        inner = [option for option in typing.get_args(hint) if option is not type(None)]
        return _value(inner[0], data, unions)
    if dataclasses.is_dataclass(hint):
        return from_plain(hint, data, unions)
    if typing.get_origin(hint) is tuple:
        return _sequence(typing.get_args(hint), data, unions)
    if hint is float:
        return _number(data)
    if hint is str and not isinstance(data, str):
        raise FieldError("", data, "text")
    return data


def _number(data: Any) -> float:
    if isinstance(data, bool) or not isinstance(data, int | float):
        raise FieldError("", data, "a number")
    return float(data)


def _sequence(arguments: tuple[Any, ...], data: Any, unions: dict[Any, dict[str, Any]]) -> tuple[Any, ...]:
    if not isinstance(data, list | tuple):
        raise FieldError("", data, "a list [...]")
    open_ended = len(arguments) == 2 and arguments[1] is Ellipsis
    if not open_ended and len(data) != len(arguments):
        raise FieldError("", data, f"a list of {len(arguments)} values")
    hints = [arguments[0]] * len(data) if open_ended else list(arguments)
    built = []
    for index, (hint, entry) in enumerate(zip(hints, data, strict=True)):
        try:
            built.append(_value(hint, entry, unions))
        except FieldError as error:
            place = f"[{index}]"
            raise error.under(place) if error.path else FieldError(place, error.value, error.allowed) from None
    return tuple(built)


def _tagged(options: dict[str, Any], data: Any, unions: dict[Any, dict[str, Any]]) -> Any:
    if not isinstance(data, dict):
        raise FieldError("", data, "an object {...}")
    kind = data.get(UNION_BY_KIND)
    if kind not in options:
        raise FieldError(UNION_BY_KIND, kind, "one of " + ", ".join(options))
    return from_plain(options[kind], data, unions)
