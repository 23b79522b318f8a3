"""What the life stage takes and gives. SI, the unit in the name."""

from __future__ import annotations

import datetime as dt
from typing import Literal

from pydantic import Field

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.fields import AxleName, State
from thermaxis.apps.accounts.api.said import SaidOut
from thermaxis.core.planning.life.hoses import MOST_MONTHS

HoseKind = Literal["rubber", "braided", "seals"]


class LifeQuery(Wire):
    """At which thickness to change; the duty's default unless given."""

    school: str | None = Field(None, max_length=60)


class ShelfReading(Wire):
    """One pad, or one rotor, as its label says it."""

    position: str
    thickness_m: float
    measured_on: dt.date


class ShelfThing(Wire):
    """A pad set or a pair of rotors, on a machine or on the shelf, with the distance it has done and its last readings.

    `axle` and `machine` are where it is, or was last, `fitted_on` and `removed_on` since and until when. One that
    was on nothing yet came in its box on `arrived_on`.
    """

    id: int
    kind: Literal["pads", "rotors"]
    name: str
    axle: AxleName
    machine: str | None
    on_machine: bool
    fits: bool
    fitted_on: dt.date | None
    removed_on: dt.date | None
    arrived_on: dt.date | None
    driven_km: float
    readings: list[ShelfReading]


class MountAsk(Wire):
    axle: AxleName


class HosesOut(Wire):
    """Hoses, or seals and boots, of an axle; nothing but the axle where nobody has said which they are."""

    axle: AxleName
    what: Literal["hoses", "seals"]
    kind: HoseKind | None
    age_months: float | None
    fitted_on: dt.date | None
    fitted_km: float | None
    state: State | None
    change_on: dt.date | None


class HosesAsk(Wire):
    axle: AxleName
    kind: HoseKind
    age_months: float = Field(ge=0, le=MOST_MONTHS, allow_inf_nan=False)


class PartLifeOut(Wire):
    """One pad, `left.inner` and so on; empty where only the axle's thinnest is known. Rates with their P10 and P90."""

    position: str
    now_m: float
    events: float
    events_p10: float
    events_p90: float
    measurements: int
    wear_per_1000km_m: float
    wear_per_1000km_low_m: float
    wear_per_1000km_high_m: float
    wear_per_100MJ_m: float


class PadLimit(Wire):
    """A least thickness of friction material and the rule that asks for it."""

    rule: str
    limit_m: float
    text: SaidOut


class LifeRowOut(Wire):
    """The pads of an axle; `fitted_on` and `fitted_km` are when they went on, `limits` what they are changed by, the
    thickest first.
    """

    axle: AxleName
    pad: str
    fitted_on: dt.date
    fitted_km: float
    parts: list[PartLifeOut]
    new_m: float
    now_m: float
    limit_m: float
    wear_per_event_m: float
    computed_per_event_m: float
    wear_scale: float
    measured: bool
    events: float
    events_p10: float
    events_p90: float
    due_km: float
    due_hours: float
    due_on: dt.date | None
    limited_by: Literal["wear", "age"]
    limits: list[PadLimit]
    state: State


class MeasurementOut(Wire):
    """`inspection_id` where it was measured in an inspection: it is taken out with that one."""

    id: int
    axle: AxleName
    position: str
    inspection_id: int | None
    measured_on: dt.date
    odometer_km: float
    thickness_m: float
    removed: bool


class LifeOut(Wire):
    school: str
    schools: list[str]
    duty_id: int
    duty: str
    event_km: float
    events_per_month: float
    odometer_km: float
    fitted_on: dt.date
    fitted_km: float
    rows: list[LifeRowOut]
    measurements: list[MeasurementOut]


class FittedAsk(Wire):
    """Where what is on was put on at this day and odometer."""

    places: list[Literal["front_pads", "rear_pads", "front_rotors", "rear_rotors"]] = Field(min_length=1, max_length=4)
    on: dt.date
    odometer_km: float = Field(ge=0, le=5_000_000, allow_inf_nan=False)


class SchoolAsk(Wire):
    school: str = Field(max_length=12)


class MeasureAsk(Wire):
    axle: AxleName
    thickness_m: float = Field(ge=0, le=0.05, allow_inf_nan=False)
    odometer_km: float = Field(ge=0, le=5_000_000, allow_inf_nan=False)
    measured_on: dt.date
