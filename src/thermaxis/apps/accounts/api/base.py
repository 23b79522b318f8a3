"""What the API takes and gives: classes that fill themselves from what has the same attributes."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Self

from pydantic import BaseModel, ConfigDict


class _Besides:
    """A thing some of whose attributes are said otherwise."""

    def __init__(self, thing: object, more: Mapping[str, Any]) -> None:
        self._thing, self._more = thing, more

    def __getattr__(self, name: str) -> Any:
        return self._more[name] if name in self._more else getattr(self._thing, name)


# Not the framework's own kind, which asks every value as if it came from a row: some hundred are in one answer.
class Wire(BaseModel):
    """A record of the API. SI, the unit in the name; every value is checked when it is built."""

    model_config = ConfigDict(from_attributes=True)

    @classmethod
    def of(cls, thing: object, **more: Any) -> Self:
        """Its fields by their names from a row or a record, and theirs from theirs; `more` goes before them.

        Raises a validation error for a field that is in neither, TypeError for `more` that is no field.
        """
        if unknown := more.keys() - cls.model_fields.keys():
            raise TypeError(f"{cls.__name__} has no {', '.join(sorted(unknown))}")
        return cls.model_validate(_Besides(thing, more) if more else thing)
