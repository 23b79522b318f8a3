"""Duties and circuits as the API takes and gives them. SI, the unit in the name."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Literal

from pydantic import Field

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.fields import Finite, RowId

Use = Literal["track", "sprint", "hill", "tow", "street", "delivery"]
Level = Literal["", "novice", "intermediate", "advanced"]


class ElementIO(Wire):
    """A straight (no radius) or a corner; grade positive = up."""

    length_m: Finite
    radius_m: Finite | None = None
    grade: Finite = 0.0


class CircuitIn(Wire):
    name: str = Field(min_length=1, max_length=120)
    closed: bool
    elements: list[ElementIO] = Field(max_length=200)
    # As the page knows it: a circuit somebody else has changed since is not overwritten.
    version: int | None = Field(None, ge=1, le=2**31)


class CircuitOut(CircuitIn):
    id: int


class StopIO(Wire):
    """Brake from one speed to another, then drive on at a steady speed."""

    from_mps: Finite
    to_mps: Finite
    decel_mps2: Finite
    grade: Finite = 0.0
    then_s: Finite
    then_speed_mps: Finite


class SectionIO(Wire):
    """A piece of a descent; grade positive = down."""

    length_m: Finite
    grade: Finite
    speed_mps: Finite
    stops: int = Field(0, ge=0, le=200)
    gear: Literal["usual", "one_lower", "two_lower"] = "usual"


class ConditionsIO(Wire):
    """What the duty changes about the machine while it lasts; null leaves the machine's own number."""

    air_C: Finite | None = None
    altitude_m: Finite | None = None
    duct_factor: Finite = 1.0
    without_trailer: bool = False
    battery_full: bool = False


class PartIO(Wire):
    """A duty of a day."""

    duty_id: RowId
    times: int = Field(1, ge=1, le=50)
    gap_s: float = Field(0.0, ge=0, le=86400, allow_inf_nan=False)


class SessionIO(Wire):
    """Laps of a circuit, or runs up a hill or through a course."""

    kind: Literal["session"]
    circuit_id: RowId | None = None
    laps: int = Field(1, ge=1, le=500)
    driver_level: Level = ""
    traffic: float = Field(0.0, ge=0, le=1, allow_inf_nan=False)
    cool_down_laps: int = Field(0, ge=0, le=20)
    pause_s: float = Field(0.0, ge=0, le=36000, allow_inf_nan=False)


class DescentIO(Wire):
    """A steady descent; grade positive = down."""

    kind: Literal["descent"]
    grade: Finite
    speed_mps: Finite
    duration_s: Finite


class SectionsIO(Wire):
    kind: Literal["sections"]
    sections: list[SectionIO] = Field(max_length=100)


class StopsIO(Wire):
    kind: Literal["stops"]
    stops: list[StopIO] = Field(max_length=100)
    repeat: int = Field(1, ge=1, le=1000)


class WeekIO(Wire):
    """A usual week; one event is one of its driving days."""

    kind: Literal["week"]
    town_km: Finite
    rural_km: Finite
    motorway_km: Finite
    days: int = Field(5, ge=1, le=7)


class RecordedIO(Wire):
    kind: Literal["recorded"]
    run_id: RowId | None = None


class DayIO(Wire):
    kind: Literal["day"]
    parts: list[PartIO] = Field(max_length=20)


Shape = Annotated[
    SessionIO | DescentIO | SectionsIO | StopsIO | WeekIO | RecordedIO | DayIO, Field(discriminator="kind")
]


class DutyIn(Wire):
    """A duty: what any has, and what is its own by its kind."""

    name: str = Field(min_length=1, max_length=120)
    use: Use
    note: str = Field("", max_length=240)
    events_per_month: float = Field(ge=0, le=1000, allow_inf_nan=False)
    event_km: float = Field(ge=0.01, le=10000, allow_inf_nan=False)
    then_s: float = Field(0.0, ge=0, le=36000, allow_inf_nan=False)
    then_speed_mps: float = Field(0.0, ge=0, le=60, allow_inf_nan=False)
    conditions: ConditionsIO = ConditionsIO()
    shape: Shape
    # As the page knows it: a duty somebody else has changed since is not overwritten.
    version: int | None = Field(None, ge=1, le=2**31)


class DutyOut(DutyIn):
    """A stored duty, whole: what is sent back with PUT keeps it as it is."""

    id: int
    circuit: str | None
    run: str | None


class RunOut(Wire):
    """A recorded run that was kept."""

    id: int
    name: str
    file_name: str
    smoothing: str
    kept_at: dt.datetime
    distance_m: float | None
    duration_s: float
