"""JSON columns that know what they hold: a value of another shape is refused before it is stored, however it came.

A page that reads such a column takes its shape for granted. So it is checked where every way in passes, forms, files
and backups alike: at the column.
"""

from __future__ import annotations

import functools
import importlib
import json
from collections.abc import Callable
from inspect import isfunction
from typing import Annotated, Any

from django.db import models
from pydantic import Field, TypeAdapter, ValidationError

from thermaxis.core.errors import FieldError

Word = Annotated[str, Field(max_length=240)]
Number = Annotated[float, Field(ge=-1e15, le=1e15, allow_inf_nan=False)]
RowNumber = Annotated[int, Field(ge=1, le=2**53)]
Plain = Annotated[str, Field(max_length=20_000)] | bool | Number | None
# As much as the largest request that brings one.
MOST_CHARACTERS = 7_000_000


class ShapedField(models.JSONField):
    """A JSON column with a shape: a type, or the address (`module:name`) of a type or of a function that draws it.

    An address is of something this layer may not import: an answer that is stored is shaped as the answer. A function
    is given the value and raises for one it cannot draw. `empty` lets an empty list or object through.
    """

    def __init__(self, *args: Any, shape: Any = None, empty: bool = False, **options: Any) -> None:
        self.shape, self.empty = shape, empty
        super().__init__(*args, **options)

    def deconstruct(self) -> Any:
        # What is stored is the same JSON whatever its shape: a change of it is no change of the database.
        name, _, args, options = super().deconstruct()
        return name, "django.db.models.JSONField", args, options

    def get_db_prep_save(self, value: Any, connection: Any) -> Any:
        if not hasattr(value, "resolve_expression"):
            self.check_shape(value)
        return super().get_db_prep_save(value, connection)

    def check_shape(self, value: Any) -> None:
        """Raise FieldError where a value does not have the column's shape."""
        if (value is None and self.null) or (self.empty and value in ([], {})):
            return
        where = f"{self.model._meta.label}.{self.name}"
        try:
            text = json.dumps(value, allow_nan=False)
            if len(text) > MOST_CHARACTERS:
                raise FieldError(where, f"{len(text)} characters", f"at most {MOST_CHARACTERS} characters")
            _checker(self.shape if isinstance(self.shape, str) else _Hold(self.shape))(value, text)
        except FieldError:
            raise
        except ValidationError as error:
            first = error.errors()[0]
            place = ".".join(map(str, first["loc"]))
            raise FieldError(
                f"{where}{'.' if place else ''}{place}"[:200], str(first["input"])[:80], first["msg"]
            ) from None
        # A value of another shape may raise nearly anything where it is drawn.
        except Exception as error:
            raise FieldError(where, type(error).__name__, "a value of this column's shape") from None


class _Hold:
    """A type as a key of a memory, by what it is and not by what it equals."""

    def __init__(self, shape: Any) -> None:
        self.shape = shape

    def __hash__(self) -> int:
        return id(self.shape)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Hold) and other.shape is self.shape


@functools.cache
def _checker(held: str | _Hold) -> Callable[[Any, str], Any]:
    """How a shape is held to: given the value, and the same as text."""
    if isinstance(held, _Hold):
        plain = TypeAdapter(held.shape)
        return lambda value, text: plain.validate_json(text, strict=True)
    module, _, name = held.partition(":")
    shape = getattr(importlib.import_module(module), name)
    if isfunction(shape):
        return lambda value, text: shape(value)
    # As lenient as the page that reads it again.
    answer = TypeAdapter(shape)
    return lambda value, text: answer.validate_json(text)


def shaped_columns(model: type[models.Model]) -> list[ShapedField]:
    """The columns of a table that have a shape."""
    return [field for field in model._meta.concrete_fields if isinstance(field, ShapedField)]
