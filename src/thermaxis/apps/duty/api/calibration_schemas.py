"""Inverse questions, evidence and calibrations as the API takes and gives them."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Literal

from pydantic import Field

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.fields import AxleName, Finite
from thermaxis.apps.solving.api.schemas import WhatIf

PartName = Literal["ring", "caliper"]


class QuestionAsk(WhatIf):
    question: str = Field(min_length=1, max_length=40)


class QuestionsOut(Wire):
    questions: list[str]
    noun: str


class PyrometerIn(Wire):
    kind: Literal["pyrometer"]
    axle: AxleName
    part: PartName = "ring"
    value_C: Finite
    since_s: Finite
    speed_mps: Finite


class PaintIn(Wire):
    kind: Literal["paint"]
    axle: AxleName
    part: PartName = "ring"
    bound: Literal["at_least", "less_than"]
    value_C: Finite


class LoggedIn(Wire):
    kind: Literal["logged"]
    axle: AxleName
    csv: str = Field(max_length=5_000_000)


EvidenceIn = Annotated[PyrometerIn | PaintIn | LoggedIn, Field(discriminator="kind")]


class CalibrationAsk(Wire):
    evidence: list[EvidenceIn] = Field(max_length=40)
    keep: bool = False


class AxleFitOut(Wire):
    cooling: float
    cooling_sigma: float
    backing: float
    backing_sigma: float
    correlation: float


class ResidualOut(Wire):
    kind: Literal["pyrometer", "at_least", "less_than", "logged"]
    axle: AxleName
    part: PartName
    measured_C: float
    before_C: float
    after_C: float
    sigma_K: float
    suspect: bool


Residuals = list[ResidualOut]


class CalibrationOut(Wire):
    """A fit: with an id once it is kept, in use unless removed."""

    id: int | None
    duty: str
    made_at: dt.datetime | None
    removed: bool
    front: AxleFitOut | None
    rear: AxleFitOut | None
    residuals: list[ResidualOut]


class PyrometerAsk(Wire):
    axle: AxleName
    since_s: float = Field(ge=0, le=7200, allow_inf_nan=False)
    speed_mps: float = Field(ge=0, le=100, allow_inf_nan=False)
    seed: int = Field(ge=0, le=2**31)
    cooling_factor: float = Field(1.15, ge=0.25, le=4, allow_inf_nan=False)


class PyrometerOut(Wire):
    value_C: float
