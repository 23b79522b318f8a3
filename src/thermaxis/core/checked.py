"""Records that check themselves: frozen dataclasses whose fields carry their allowed range."""

from __future__ import annotations

import dataclasses
import math
import re
from typing import Any, Literal, overload

from thermaxis.core.errors import Bounds, FieldError

_UNWRITABLE = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\x7f-\x9f\ud800-\udfff\ufffe\uffff]")
REQUIRED: Any = dataclasses.MISSING


@overload
def number(
    default: float = ...,
    *,
    gt: float | None = None,
    ge: float | None = None,
    le: float | None = None,
    optional: Literal[False] = False,
    whole: Literal[False] = False,
) -> float: ...
@overload
def number(
    default: int = ...,
    *,
    gt: float | None = None,
    ge: float | None = None,
    le: float | None = None,
    optional: Literal[False] = False,
    whole: Literal[True],
) -> int: ...
@overload
def number(
    default: float | None = ...,
    *,
    gt: float | None = None,
    ge: float | None = None,
    le: float | None = None,
    optional: Literal[True],
    whole: Literal[False] = False,
) -> float | None: ...
@overload
def number(
    default: int | None = ...,
    *,
    gt: float | None = None,
    ge: float | None = None,
    le: float | None = None,
    optional: Literal[True],
    whole: Literal[True],
) -> int | None: ...
def number(
    default: Any = REQUIRED,
    *,
    gt: float | None = None,
    ge: float | None = None,
    le: float | None = None,
    optional: bool = False,
    whole: bool = False,
) -> Any:
    """Declare a numeric field with its range; `optional` lets it be None, `whole` wants an integer."""
    rule = {"gt": gt, "ge": ge, "le": le, "optional": optional, "whole": whole}
    return dataclasses.field(default=default, metadata={"number": rule})


def numbers(default: Any = REQUIRED, *, ge: float, le: float) -> Any:
    """Declare a field that is a tuple of finite numbers from `ge` to `le`, or None where that is its default."""
    return dataclasses.field(default=default, metadata={"numbers": (ge, le)})


def choice(*names: str, default: str = REQUIRED) -> str:
    """Declare a text field that must be one of `names`."""
    field: str = dataclasses.field(default=default, metadata={"choice": names})
    return field


def flag(default: bool) -> bool:
    """Declare a field that is true or false."""
    field: bool = dataclasses.field(default=default, metadata={"flag": True})
    return field


class Checked:
    """Mixin: check every declared field when the record is built."""

    def __post_init__(self) -> None:
        for field in dataclasses.fields(self):  # type: ignore[arg-type]
            value = getattr(self, field.name)
            if "number" in field.metadata:
                check_number(field.name, value, field.metadata["number"])
            elif "numbers" in field.metadata and value is not None:
                check_numbers(field.name, value, *field.metadata["numbers"])
            elif "flag" in field.metadata and not isinstance(value, bool):
                raise FieldError(field.name, value, "true or false")
            elif "choice" in field.metadata and value not in field.metadata["choice"]:
                raise FieldError(field.name, value, "one of " + ", ".join(field.metadata["choice"]))
        self.check()

    def check(self) -> None:
        """Check what concerns more than one field; records override it."""


def check_text(name: str, value: str) -> None:
    """Raise FieldError for text that cannot be stored and written out again: control characters, half characters.

    Line breaks and tabs are text. A half character (a lone surrogate) is what is left of a damaged one.
    """
    if _UNWRITABLE.search(value):
        shown = value.encode("utf-8", "backslashreplace").decode()[:60]
        raise FieldError(name, shown, "text without control characters and damaged characters")


def bounds_of(rule: dict[str, Any]) -> Bounds:
    """The bounds of a numeric rule."""
    above = rule.get("gt") is not None
    return Bounds(least=rule["gt"] if above else rule.get("ge"), above=above, most=rule.get("le"))


def allowed_text(rule: dict[str, Any]) -> str:
    """Say a numeric rule in words, e.g. 'a number > 0 and <= 1'."""
    text = bounds_of(rule).text()
    if rule.get("whole"):
        text = text.replace("a number", "a whole number", 1)
    return text + (" or null" if rule.get("optional") else "")


def check_number(name: str, value: Any, rule: dict[str, Any]) -> None:
    """Raise FieldError unless `value` is a finite number within `rule`."""
    if value is None and rule["optional"]:
        return
    is_number = isinstance(value, int | float) and not isinstance(value, bool)
    fits = (
        is_number
        and math.isfinite(value)
        and (rule["gt"] is None or value > rule["gt"])
        and (rule["ge"] is None or value >= rule["ge"])
        and (rule["le"] is None or value <= rule["le"])
        and (not rule["whole"] or value == int(value))
    )
    if not fits:
        raise FieldError(name, value, allowed_text(rule), bounds=bounds_of(rule))


def less_than(path: str, value: float, beside: str, most: float) -> FieldError:
    """The error of a number that must stay below another field's; that may be the one that was just typed."""
    return FieldError(path, value, f"less than {beside} {most:g}", bounds=Bounds(most=most, below=True))


def check_numbers(name: str, values: Any, ge: float, le: float) -> None:
    """Raise FieldError, naming its place, for the first of `values` that is not a finite number from `ge` to `le`."""
    if not isinstance(values, tuple):
        raise FieldError(name, values, "a list [...] of numbers")
    for index, value in enumerate(values):
        # Written so that what is no number (NaN) falls through as well.
        if not isinstance(value, int | float) or isinstance(value, bool) or not ge <= value <= le:
            raise FieldError.outside(f"{name}[{index}]", value, Bounds(least=ge, most=le))
