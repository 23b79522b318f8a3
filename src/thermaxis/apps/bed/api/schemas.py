"""What the bed stage takes and gives. SI, the unit in the name."""

from __future__ import annotations

import datetime as dt

from ninja import Schema

from thermaxis.apps.accounts.api.said import SaidOut


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
    text: SaidOut
    stops: list[BeddingStopOut]
    curve: CurveOut


class PlanRecordOut(Schema):
    id: int
    made_at: dt.datetime
    done_on: dt.date | None
    top_speed_mps: float
    hard_g: float
    stops: int
    removed: bool


class KeptPlanOut(PlanRecordOut):
    """A plan as it was kept, with what it reaches drawn again."""

    plan: BeddingOut


class DoneAsk(Schema):
    done: bool
