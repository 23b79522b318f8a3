"""Strip, rail and overview as the API gives them. SI, the unit in the name."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.fields import State
from thermaxis.apps.accounts.api.said import SaidOut
from thermaxis.apps.solving.api.schemas import CrossingOut, InfluenceOut, WhatIf


class ReadingOut(Wire):
    name: str
    value: float
    unit: str
    limit: float
    left: float
    fill: float
    notch: float
    state: State
    detail: str


class OutcomeOut(Wire):
    """Whether what is on survives its duty, in a line: what is out of its limit first, or nearest to it."""

    state: State
    limit: str
    rejects: bool
    text: SaidOut


class AddedOut(Wire):
    id: int


class StageOut(Wire):
    name: str
    state: Literal["empty", "started", "done", "attention"]
    note: SaidOut | None


class VerdictOut(Wire):
    """The strip and the rail of a machine; `bite` says which pads are not bedded."""

    set_name: str
    duty: str
    outcome: OutcomeOut
    bite: SaidOut | None
    readings: list[ReadingOut]
    stages: list[StageOut]


class RangeOut(Wire):
    """P10, P50 and P90 of one reading, where they lie on its rule, and the estimates it hangs on."""

    name: str
    p10: float
    p50: float
    p90: float
    fill_low: float
    fill_high: float
    influences: list[InfluenceOut]


class RangesOut(Wire):
    draws: int
    calibrated: bool
    friction: float
    any_probability: float
    ranges: list[RangeOut]
    crossings: list[CrossingOut]


class KeepWhatIf(WhatIf):
    """A what-if, and the names of what of it is true."""

    names: list[str] = Field(min_length=1, max_length=20)


class OverviewRow(Wire):
    """A machine of the workshop with its verdict; where nothing can be computed `why_not` says why."""

    id: int
    name: str
    note: str
    owner: str
    odometer_km: float
    duty: str | None
    verdict: VerdictOut | None
    why_not: str
