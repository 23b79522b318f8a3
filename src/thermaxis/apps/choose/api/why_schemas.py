"""How a number came about, as the API gives it."""

from __future__ import annotations

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.said import SaidOut
from thermaxis.apps.solving.api.schemas import InfluenceOut


class WhyInput(Wire):
    field: str
    value: float
    change: float
    estimate: bool


class WhyOut(Wire):
    """How one reading came about."""

    name: str
    title: str
    formula: str
    numbers: SaidOut
    unit: str
    inputs: list[WhyInput]
    assumptions: list[SaidOut]
    source: str
    energy: dict[str, float]
    decided_by: list[InfluenceOut] = []
