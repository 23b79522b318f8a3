"""What the API takes and gives about machines, their parts, set-ups and recorded runs. SI, the unit in the name."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field

from thermaxis.apps.garage.api.duty_schemas import Finite, RowId

Word = Annotated[str, Field(max_length=24)]


class BalanceAsk(Schema):
    pedal_force_N: float = Field(ge=0, le=3000, allow_inf_nan=False)
    rotor_C: float = Field(ge=-60, le=1200, allow_inf_nan=False)
    changes: dict[str, Finite | None] = Field(default={}, max_length=100)


class StaticsOut(Schema):
    pressure_Pa: float
    front_torque_Nm: float
    rear_torque_Nm: float
    front_force_N: float
    rear_force_N: float
    decel_g: float
    front_adhesion: float
    rear_adhesion: float
    rear_lift_g: float


class LockOut(Schema):
    first_axle: Literal["front", "rear", "none"]
    decel_g: float
    front_lock_g: float | None
    rear_lock_g: float | None
    best_possible_g: float


class BalancePointOut(Schema):
    decel_g: float
    front_installed: float
    rear_installed: float
    front_ideal: float
    rear_ideal: float


class ChainOut(Schema):
    """Every link between pedal and pads; clamp is the force on one pad, travel until the pads touch."""

    pedal_N: float
    pushrod_N: float
    booster_adds_N: float
    booster_ran_out: bool
    master_N: float
    front_pressure_Pa: float
    rear_pressure_Pa: float
    front_clamp_N: float
    rear_clamp_N: float
    fluid_m3: float
    pedal_travel_m: float


class RemarkOut(Schema):
    code: str
    text: str


class BalanceOut(Schema):
    """Dry, on a wet road, and with the pads as hot as the machine's duty makes them (null without a duty)."""

    statics: StaticsOut
    chain: ChainOut
    lock: LockOut
    wet: LockOut
    hot: LockOut | None
    curve: list[BalancePointOut]
    hot_curve: list[BalancePointOut]
    hot_front_C: float | None
    hot_rear_C: float | None
    warnings: list[RemarkOut]
    front_load_N: float
    rear_load_N: float


class TraceQuery(Schema):
    """How much of the duty to draw; all of it unless given."""

    until_s: float | None = Field(None, gt=0, le=1e6, allow_inf_nan=False)


class TraceOut(Schema):
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
    warnings: list[str]


class MachineIn(Schema):
    """A new machine: what is known, by path; everything else is estimated by its class."""

    name: str = Field(min_length=1, max_length=120)
    owner: str = Field(min_length=1, max_length=120)
    note: str = Field("", max_length=240)
    vehicle_class: str = Field(max_length=40)
    known: dict[str, Finite] = Field(default={}, max_length=100)
    duty_id: RowId | None = None


class CopyIn(Schema):
    name: str = Field(min_length=1, max_length=120)


class PartsOut(Schema):
    """The fitted rotors and pads, number by number; `own` says which are this machine's alone."""

    values: dict[str, float | str]
    front_rotor: str
    rear_rotor: str
    front_pad: str
    rear_pad: str
    own: list[str]


class PartChanges(Schema):
    changes: dict[str, Finite | Word] = Field(max_length=40)


class MoveOut(Schema):
    """How far readings move when one estimate is as low, or as high, as it may well be."""

    field: str
    low: float
    high: float
    rotor_K: tuple[float, float]
    pedal_N: tuple[float, float]
    fluid_K: tuple[float, float]


class CompareAsk(Schema):
    changes: dict[str, Finite | None] = Field(max_length=40)
    pedal_force_N: float = Field(ge=0, le=3000, allow_inf_nan=False)
    rotor_C: float = Field(200.0, ge=-60, le=1200, allow_inf_nan=False)


class SetupFiguresOut(Schema):
    front_torque_Nm: float
    rear_torque_Nm: float
    decel_g: float
    front_share: float
    pedal_for_wanted_N: float | None
    fluid_m3: float
    pedal_travel_m: float
    dry: LockOut
    wet: LockOut
    front_room_m: float | None
    rear_room_m: float | None
    front_peak_C: float
    rear_peak_C: float
    pedal_left_N: float


class CompareOut(Schema):
    before: SetupFiguresOut
    after: SetupFiguresOut
    remarks: list[RemarkOut]


class SetUpIn(Schema):
    name: str = Field(min_length=1, max_length=120)
    changes: dict[str, Finite | None] = Field(min_length=1, max_length=40)
    price: float | None = Field(None, ge=0, le=1e6, allow_inf_nan=False)


class SetUpOut(Schema):
    id: int
    name: str
    changes: dict[str, float | None]
    price: float | None
    made_at: dt.datetime


class UseIO(Schema):
    """What a column of a recorded run holds, and its unit."""

    column: int = Field(ge=0, le=500)
    role: Word
    unit: Word


class ColumnOut(Schema):
    name: str
    role: str
    unit: str
    sample: list[str]


class LookOut(Schema):
    """How a file is written, and what its columns seem to hold; a GPX file needs no mapping."""

    kind: Literal["csv", "gpx"]
    separator: str
    decimal: str
    first_line: int
    lines: int
    columns: list[ColumnOut]
    roles: dict[str, list[str]]


class BadRowOut(Schema):
    line: int
    why: str


class BrakingOut(Schema):
    at_s: float
    seconds: float
    from_mps: float
    to_mps: float
    decel_mps2: float


class RecordedLapOut(Schema):
    at_s: float
    seconds: float


class ReadOut(Schema):
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


class LoggerAsk(Schema):
    """What the stand-in logger records: the machine on a duty, at a rate, with noise."""

    duty_id: RowId
    kind: Literal["csv", "gpx"] = "csv"
    rate_Hz: float = Field(10.0, ge=1, le=25, allow_inf_nan=False)
    noise_mps: float = Field(0.15, ge=0, le=2, allow_inf_nan=False)
    seed: int = Field(1, ge=0, le=2**31)
