"""Sentences as the API gives them: a template with its values in SI."""

from __future__ import annotations

from collections.abc import Sequence

from pydantic import BaseModel

from thermaxis.core.said import Said


# Not the framework's own kind, which asks every value as if it came from a row: some hundred are in one answer.
class SaidOut(BaseModel):
    """A sentence as a template with its values in SI; `core/said.py` says how it is filled."""

    template: str
    values: dict[str, float | str | SaidOut | list[SaidOut]]


def said_out(said: Said) -> SaidOut:
    """The same for the wire."""
    return SaidOut(template=said.template, values={name: _value(value) for name, value in said.values.items()})


def _value(value: float | str | Said | Sequence[Said]) -> float | str | SaidOut | list[SaidOut]:
    if isinstance(value, Said):
        return said_out(value)
    return value if isinstance(value, float | int | str) else [said_out(part) for part in value]
