"""Sentences as the API gives them: a template with its values in SI."""

from __future__ import annotations

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.core.said import Said


class SaidOut(Wire):
    """A sentence as a template with its values in SI; `core/said.py` says how it is filled."""

    template: str
    values: dict[str, float | str | SaidOut | list[SaidOut]]


def said_out(said: Said) -> SaidOut:
    """The same for the wire."""
    return SaidOut.of(said)
