"""What the work API takes and gives. SI, the unit in the name."""

from __future__ import annotations

import dataclasses
import datetime as dt
from typing import Literal

from ninja import Schema
from pydantic import Field

from thermaxis.apps.work import trying

State = Literal["fine", "close", "over"]
AxleName = Literal["front", "rear"]


class WhatIf(Schema):
    """Changes that are tried, not kept. Null: as it is; `repeats` is laps or rounds, `gear` of a descent."""

    cooling_factor: float = Field(1.0, ge=0.1, le=10, allow_inf_nan=False)
    air_C: float | None = Field(None, ge=-40, le=60, allow_inf_nan=False)
    extra_mass_kg: float = Field(0.0, ge=-1000, le=5000, allow_inf_nan=False)
    driver_level: str | None = Field(None, max_length=12)
    repeats: int | None = Field(None, ge=1, le=120)
    speed_factor: float = Field(1.0, ge=0.3, le=2, allow_inf_nan=False)
    gear: str | None = Field(None, max_length=10)
    fluid_age_months: float | None = Field(None, ge=0, le=120, allow_inf_nan=False)

    def record(self) -> trying.WhatIf:
        """The same for the core's side of the house."""
        return trying.WhatIf(**{field.name: getattr(self, field.name) for field in dataclasses.fields(trying.WhatIf)})


class LeversOut(Schema):
    """What can be tried on a machine's duty, with what holds now."""

    air_C: float
    mass_kg: float
    fluid_age_months: float
    driver_level: str | None
    driver_levels: list[str]
    repeats: int | None
    noun: str
    speed_mps: float | None
    gears: list[str]


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


class InfluenceOut(Schema):
    """Share of a number's spread that one estimate explains alone."""

    field: str
    variance_share: float


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
    decided_by: list[InfluenceOut] = []


class LifeQuery(Schema):
    """At which thickness to change; the duty's default unless given."""

    school: str | None = Field(None, max_length=60)


class ShelfPart(Schema):
    """One pad of a set as its label says it."""

    axle: AxleName
    position: str
    thickness_mm: float
    measured_on: dt.date


class ShelfSet(Schema):
    """A set of a machine, on it or on the shelf, with the distance it has done and its last readings."""

    id: int
    name: str
    rear_name: str
    front_rotor: str
    rear_rotor: str
    on_machine: bool
    fitted_on: dt.date
    removed_on: dt.date | None
    driven_km: float
    parts: list[ShelfPart]


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


class PartLifeOut(Schema):
    """One pad, `left.inner` and so on; empty where only the axle's thinnest is known. Rates with their P10 and P90."""

    position: str
    now_mm: float
    events: float
    events_p10: float
    events_p90: float
    measurements: int
    wear_per_1000km_mm: float
    wear_per_1000km_low_mm: float
    wear_per_1000km_high_mm: float
    wear_per_100MJ_mm: float


class LifeRowOut(Schema):
    axle: AxleName
    pad: str
    parts: list[PartLifeOut]
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
    """`inspection_id` where it was measured in an inspection: it is taken out with that one."""

    id: int
    axle: AxleName
    position: str
    inspection_id: int | None
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
