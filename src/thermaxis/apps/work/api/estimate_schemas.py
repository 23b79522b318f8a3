"""What the API takes and gives about ranges, inverse questions, calibration and progress. SI, the unit in the name."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field

from thermaxis.apps.garage.api.duty_schemas import Finite
from thermaxis.apps.work.api.schemas import AxleName, InfluenceOut, WhatIf


class RangeOut(Schema):
    """P10, P50 and P90 of one reading, where they lie on its rule, and the estimates it hangs on."""

    name: str
    p10: float
    p50: float
    p90: float
    fill_low: float
    fill_high: float
    influences: list[InfluenceOut]


class CrossingOut(Schema):
    limit: Literal["pad", "rotor", "fluid", "pedal"]
    axle: str
    probability: float


class RangesOut(Schema):
    draws: int
    calibrated: bool
    ranges: list[RangeOut]
    crossings: list[CrossingOut]


class QuestionAsk(WhatIf):
    question: str = Field(min_length=1, max_length=40)


class AnswerOut(Schema):
    """`text` may hold {value}, {low} and {high}, to be put in the reader's unit."""

    question: str
    outcome: Literal["value", "all", "none"]
    value: float | None
    unit: str
    low: float
    high: float
    text: str


class QuestionsOut(Schema):
    questions: list[str]
    noun: str


class PyrometerIn(Schema):
    kind: Literal["pyrometer"]
    axle: AxleName
    value_C: Finite
    since_s: Finite
    speed_mps: Finite


class PaintIn(Schema):
    kind: Literal["paint"]
    axle: AxleName
    bound: Literal["at_least", "less_than"]
    value_C: Finite


class LoggedIn(Schema):
    kind: Literal["logged"]
    axle: AxleName
    csv: str = Field(max_length=5_000_000)


EvidenceIn = Annotated[PyrometerIn | PaintIn | LoggedIn, Field(discriminator="kind")]


class CalibrationAsk(Schema):
    evidence: list[EvidenceIn] = Field(max_length=40)
    keep: bool = False


class AxleFitOut(Schema):
    cooling: float
    cooling_sigma: float
    pad_heat: float
    pad_heat_sigma: float
    correlation: float


class ResidualOut(Schema):
    kind: Literal["pyrometer", "at_least", "less_than", "logged"]
    axle: AxleName
    measured_C: float
    before_C: float
    after_C: float
    sigma_K: float
    suspect: bool


class CalibrationOut(Schema):
    """A fit: with an id once it is kept, in use unless removed."""

    id: int | None
    duty: str
    made_at: dt.datetime | None
    removed: bool
    front: AxleFitOut | None
    rear: AxleFitOut | None
    residuals: list[ResidualOut]


class WorkOut(Schema):
    """`place` is how many others come first; 0 once it is under way."""

    doing: str
    place: int
    done_share: float
