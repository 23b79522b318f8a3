"""Recorded runs and drawn duties as the API takes and gives them."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.fields import RowId, Word
from thermaxis.apps.accounts.api.said import SaidOut
from thermaxis.apps.solving.api.schemas import RemarkOut


class TraceQuery(Wire):
    """How much of the duty to draw; all of it unless given."""

    until_s: float | None = Field(None, gt=0, le=1e6, allow_inf_nan=False)


class TraceOut(Wire):
    """A duty drawn: what it asks of the brakes."""

    event_km: float
    event_hours: float
    lap_km: float | None
    lap_s: float | None
    energy_per_event_J: float
    energy_per_km_J: float
    braking_share: float
    t_s: list[float]
    v_mps: list[float]
    brake_power_W: list[float]
    front_surface_C: list[float]
    rear_surface_C: list[float]
    front_fluid_C: list[float]
    warnings: list[SaidOut]


class UseIO(Wire):
    """What a column of a recorded run holds, and its unit."""

    column: int = Field(ge=0, le=500)
    role: Word
    unit: Word


class ColumnOut(Wire):
    name: str
    role: str
    unit: str
    sample: list[str]


class LookOut(Wire):
    """How a file is written, and what its columns seem to hold; a GPX file needs no mapping."""

    kind: Literal["csv", "gpx"]
    separator: str
    decimal: str
    first_line: int
    lines: int
    columns: list[ColumnOut]
    roles: dict[str, list[str]]


class BadRowOut(Wire):
    line: int
    why: str


class BrakingOut(Wire):
    at_s: float
    seconds: float
    from_mps: float
    to_mps: float
    decel_mps2: float


class RecordedLapOut(Wire):
    at_s: float
    seconds: float


class ReadOut(Wire):
    """What was found in a recorded run and what was done to it."""

    rows: int
    bad_count: int
    bad: list[BadRowOut]
    rate_Hz: float
    noise_mps: float
    smoothing: str
    spikes: int
    gaps: int
    gap_s: float
    standing_s: float
    distance_m: float
    duration_s: float
    points: int
    brakings: list[BrakingOut]
    laps: list[RecordedLapOut]
    remarks: list[RemarkOut]
    t_s: list[float]
    v_mps: list[float]
    hottest_C: dict[str, float]
    # Greatest values of what else was recorded, by role and unit.
    logged: dict[str, float]


class LoggerAsk(Wire):
    """What the stand-in logger records: the machine on a duty, at a rate, with noise."""

    duty_id: RowId
    kind: Literal["csv", "gpx"] = "csv"
    rate_Hz: float = Field(10.0, ge=1, le=25, allow_inf_nan=False)
    noise_mps: float = Field(0.15, ge=0, le=2, allow_inf_nan=False)
    seed: int = Field(1, ge=0, le=2**31)
