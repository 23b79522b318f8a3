"""What the inspection API takes and gives. SI, the unit in the name; a cell is a length in m or an age in months."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Literal

from pydantic import Field, StrictBool, StrictFloat, StrictInt, StrictStr

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.fields import AxleName, State
from thermaxis.apps.accounts.api.said import SaidOut

# Strict, so that a tick stays a tick and a number a number.
CellValue = StrictBool | StrictInt | StrictFloat | Annotated[StrictStr, Field(max_length=2000)]
CellName = Annotated[str, Field(min_length=1, max_length=60)]


class HeadIn(Wire):
    measured_on: dt.date
    odometer_km: float = Field(ge=0, le=5_000_000, allow_inf_nan=False)


class CellIn(Wire):
    """What is to stand in a cell; null empties it. `confirmed` keeps a reading that was doubted."""

    value: CellValue | None
    confirmed: bool = False
    source: Literal["hand", "gauge"] = "hand"
    # What the page saw there: where somebody else has entered something else since, that stays.
    seen: CellValue | None = None


class CellsIn(Wire):
    cells: dict[CellName, CellIn] = Field(max_length=400)


class CellOut(Wire):
    name: str
    value: CellValue
    confirmed: bool
    source: Literal["hand", "gauge"]
    entered_at: dt.datetime


class WheelOut(Wire):
    """One disc with the limits of its pads and rotor."""

    name: str
    label: str
    axle: AxleName
    sliding: bool
    pad_new_m: float
    pad_change_m: float
    pad_least_m: float
    rotor_new_m: float
    discard_m: float
    planned_wear_m: float
    most_runout_m: float


class RotorOut(Wire):
    """A measured rotor with the washers taken off; what a cut would leave, where one was weighed."""

    wheel: str
    points_m: list[float]
    least_m: float
    variation_m: float
    after_cut_m: float | None
    planned_wear_m: float
    discard_m: float


class OverruledOut(Wire):
    computed: str
    word: str
    reason: str
    made_at: dt.datetime


class RulingOut(Wire):
    subject: str
    word: str
    state: State
    headline: SaidOut
    text: SaidOut | None
    rule: SaidOut
    check: str
    choices: list[str]
    overruled: OverruledOut | None


class SeenOut(Wire):
    evidence: str
    text: str
    place: str


class ReasonOut(Wire):
    text: str
    weight: float


class CauseOut(Wire):
    name: str
    text: str
    place: str
    share: float
    reasons: list[ReasonOut]
    check: str


class PhotoOut(Wire):
    id: int
    wheel: str
    taken_at: dt.datetime
    removed: bool


class InspectionHead(Wire):
    id: int
    measured_on: dt.date
    odometer_km: float
    finished: bool
    removed: bool
    set_name: str


class InspectionRow(InspectionHead):
    readings: int
    worst: State | None


class InspectionOut(InspectionHead):
    """A whole inspection: its sheet, and what the rules make of it."""

    machine_id: int
    engine_version: str
    wanted: int
    given: int
    wheels: list[WheelOut]
    cells: list[CellOut]
    before_on: dt.date | None
    before_m: dict[str, float]
    pads: dict[str, str]
    rotors: list[RotorOut]
    rulings: list[RulingOut]
    seen: list[SeenOut]
    causes: list[CauseOut]
    next_check: str
    photos: list[PhotoOut]


class AskOut(Wire):
    """A reading that was not kept: why, and what it would be in inches or in mm (in m), where that makes sense."""

    name: str
    text: SaidOut
    in_inches_m: float | None
    in_mm_m: float | None


class RefusedOut(Wire):
    name: str
    allowed: SaidOut


class ClashOut(Wire):
    """A cell that holds what somebody else has entered since it was seen; null: they emptied it."""

    name: str
    kept: CellValue | None


class EnteredOut(Wire):
    inspection: InspectionOut
    asks: list[AskOut]
    refused: list[RefusedOut]
    clashes: list[ClashOut]


class FinishedIn(Wire):
    finished: bool


class OverruleIn(Wire):
    subject: str = Field(min_length=1, max_length=80)
    word: str | None = Field(None, max_length=40)
    reason: str = Field("", max_length=2000)


class SymptomOut(Wire):
    evidence: str
    kind: str
    text: str
    where: Literal["", "side", "wheel"]


class GaugeAsk(Wire):
    cell: CellName
    seed: int = Field(ge=0, le=2**31)
    scatter_m: float = Field(0.000004, ge=0, le=0.001, allow_inf_nan=False)
    unit: Literal["mm", "in"] = "mm"
    story: Literal["even", "stuck pin", "worn lip"] = "even"


class TypedOut(Wire):
    """What the gauge types; Enter follows."""

    typed: str
