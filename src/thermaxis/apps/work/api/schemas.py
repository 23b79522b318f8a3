"""What the work API takes and gives. SI, the unit in the name."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field

Finite = Annotated[float, Field(allow_inf_nan=False)]
State = Literal["fine", "close", "over"]
AxleName = Literal["front", "rear"]


class WhatIf(Schema):
    """Changes that are tried, not kept."""

    cooling_factor: float = Field(1.0, ge=0.1, le=10, allow_inf_nan=False)
    air_C: float | None = Field(None, ge=-40, le=60, allow_inf_nan=False)


class ReadingOut(Schema):
    name: str
    value: float
    unit: str
    limit: float
    fill: float
    notch: float
    state: State
    detail: str


class StageOut(Schema):
    name: str
    state: Literal["empty", "started", "done", "attention"]
    note: str


class VerdictOut(Schema):
    """The strip and the rail of a machine."""

    set_name: str
    duty: str
    readings: list[ReadingOut]
    stages: list[StageOut]


class WhyInput(Schema):
    field: str
    value: float
    change: float
    estimate: bool


class WhyOut(Schema):
    """How one reading came about."""

    name: str
    title: str
    formula: str
    numbers: str
    unit: str
    inputs: list[WhyInput]
    assumptions: list[str]
    source: str
    energy: dict[str, float]


class LifeQuery(Schema):
    """At which thickness to change; the duty's default unless given."""

    school: str | None = None


class WeightsIO(Schema):
    heat_margin: float = Field(ge=0, le=5, allow_inf_nan=False)
    cold_bite: float = Field(ge=0, le=5, allow_inf_nan=False)
    pad_life: float = Field(ge=0, le=5, allow_inf_nan=False)
    quiet: float = Field(ge=0, le=5, allow_inf_nan=False)
    clean_wheels: float = Field(ge=0, le=5, allow_inf_nan=False)
    cost: float = Field(ge=0, le=5, allow_inf_nan=False)


class ChooseAsk(WhatIf):
    weights: WeightsIO | None = None
    only: list[Annotated[str, Field(max_length=80)]] | None = Field(None, max_length=8)


class LadderAxle(Schema):
    """One column of the heat ladder; `profile` is the share of braking energy per 20 K from 0 degC up."""

    peak_C: float
    window_low_C: float
    window_high_C: float
    pad_limit_C: float
    rotor_limit_C: float
    profile: list[float]


class CandidateOut(Schema):
    key: str
    pad: str
    family: str
    provenance: str
    front_rotor: str
    rear_rotor: str
    score: float
    rejected_for: str | None
    reason: str
    front: LadderAxle
    rear: LadderAxle
    window_share: float
    pedal_worst_N: float
    fluid_peak_C: float
    fluid_margin_K: float
    life_events: float
    life_hours: float
    cost_per_hour: float
    pads_price: float
    fitted: bool


class ChooseOut(Schema):
    """Every set the machine takes: passing ones by rank, then the rejected ones. Ladders only for those drawn."""

    weights: WeightsIO
    boiling_C: float
    fluid_dry_C: float
    fluid_wet_C: float
    total: int
    ranked: list[CandidateOut]
    rejected: list[CandidateOut]


class FitAsk(Schema):
    key: str = Field(min_length=1, max_length=80)
    reason: str = Field("", max_length=2000)


class SetOut(Schema):
    id: int
    name: str
    front_rotor: str
    rear_rotor: str
    fitted_on: dt.date
    fitted_km: float
    can_undo: bool


class BeddingAsk(Schema):
    top_speed_mps: float = Field(gt=8, le=70, allow_inf_nan=False)
    hard_g: float = Field(gt=0.1, le=1.2, allow_inf_nan=False)


class BeddingStopOut(Schema):
    number: int
    phase: str
    from_mps: float
    to_mps: float
    decel_g: float
    then_s: float
    then_mps: float
    front_C: float
    rear_C: float


class CurveOut(Schema):
    t_s: list[float]
    front_surface_C: list[float]
    rear_surface_C: list[float]


class BeddingOut(Schema):
    pad: str
    window_low_C: float
    window_high_C: float
    reached: bool
    rear_reached: bool
    peak_front_C: float
    peak_rear_C: float
    cool_down_s: float
    gap_s: float
    text: str
    stops: list[BeddingStopOut]
    curve: CurveOut


class PlanRecordOut(Schema):
    id: int
    made_at: dt.datetime
    done_on: dt.date | None
    top_speed_mps: float
    hard_g: float
    stops: int


class DoneAsk(Schema):
    done: bool


class LifeRowOut(Schema):
    axle: AxleName
    pad: str
    new_mm: float
    now_mm: float
    limit_mm: float
    wear_per_event_mm: float
    computed_per_event_mm: float
    wear_scale: float
    measured: bool
    events: float
    events_p10: float
    events_p90: float
    due_km: float
    due_hours: float
    due_on: dt.date | None
    state: State


class MeasurementOut(Schema):
    id: int
    axle: AxleName
    measured_on: dt.date
    odometer_km: float
    thickness_mm: float
    removed: bool


class LifeOut(Schema):
    school: str
    schools: list[str]
    duty: str
    event_km: float
    events_per_month: float
    odometer_km: float
    fitted_on: dt.date
    fitted_km: float
    rows: list[LifeRowOut]
    measurements: list[MeasurementOut]


class MeasureAsk(Schema):
    axle: AxleName
    thickness_m: float = Field(ge=0, le=0.05, allow_inf_nan=False)
    odometer_km: float = Field(ge=0, le=5_000_000, allow_inf_nan=False)
    measured_on: dt.date


class RemovedAsk(Schema):
    removed: bool
