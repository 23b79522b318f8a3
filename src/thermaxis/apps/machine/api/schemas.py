"""What the machine stage takes and gives. SI, the unit in the name."""

from __future__ import annotations

import datetime as dt
from typing import Literal

from pydantic import Field

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.fields import Finite, RowId, Word
from thermaxis.apps.solving.api.schemas import RemarkOut


class MassIO(Wire):
    """One part of the mass, its share on the front axle, and its own height if known."""

    name: str = Field(min_length=1, max_length=60)
    mass_kg: Finite
    front_share: Finite
    height_m: Finite | None = None


class Masses(Wire):
    parts: list[MassIO] = Field(min_length=1, max_length=20)


class Words(Wire):
    """Words to change, by path."""

    words: dict[str, str] = Field(max_length=20)
    # As the page knows them: where somebody else has changed one, nothing is.
    seen: dict[str, str] = Field(default={}, max_length=20)


class FluidOut(Wire):
    id: int
    name: str
    standard: str
    dry_C: float
    wet_C: float


class ClassOut(Wire):
    """A class of vehicle that estimates come from."""

    name: str
    label: str
    kind: str
    driven: str
    front_caliper: str
    rear_caliper: str


class Known(Wire):
    """What is known already, by path, SI."""

    known: dict[str, Finite | None] = Field(default={}, max_length=100)


class EstimateOut(Wire):
    """What a number is likely to be, and a range it lies in about two times out of three."""

    value: float | None
    low: float | None
    high: float | None
    source: str


class MachineRow(Wire):
    """A machine in the workshop's list."""

    id: int
    name: str
    note: str
    owner: str
    kind: str
    odometer_km: float
    duty: str | None


class MachineOut(MachineRow):
    """A machine with every editable number by its path; `estimates` are those nobody has measured."""

    fluid: str
    fluid_standard: str
    front_caliper: str
    rear_caliper: str
    # Words that can be changed, by their path; empty where nobody has said.
    words: dict[str, str]
    vehicle_class: str
    driven: str
    regen_axle: str
    anti_lock: bool
    towing: bool
    masses: list[MassIO]
    duty_id: int | None
    values: dict[str, float | None]
    estimates: list[str]


class Changes(Wire):
    """Numbers to change, by path, SI."""

    changes: dict[str, Finite | None] = Field(default={}, max_length=100)
    # Numbers to give back to the estimate of the machine's class.
    left_open: list[str] = Field(default=[], max_length=100)
    # As the page knows them: where somebody else has changed one, nothing is.
    seen: dict[str, Finite | None] = Field(default={}, max_length=100)


class Measured(Wire):
    """What was measured, by the names of the method."""

    numbers: dict[str, Finite | None] = Field(max_length=12)


class WorkedOut(Wire):
    """What follows from it, each value with its unit in its name."""

    values: dict[str, float]


class BalanceAsk(Wire):
    pedal_force_N: float = Field(ge=0, le=3000, allow_inf_nan=False)
    rotor_C: float = Field(ge=-60, le=1200, allow_inf_nan=False)
    changes: dict[str, Finite | None] = Field(default={}, max_length=100)


class StaticsOut(Wire):
    pressure_Pa: float
    front_torque_Nm: float
    rear_torque_Nm: float
    front_force_N: float
    rear_force_N: float
    decel_g: float
    front_adhesion: float
    # Null where the rear has no load left.
    rear_adhesion: float | None
    rear_lift_g: float


class LockOut(Wire):
    first_axle: Literal["front", "rear", "none"]
    decel_g: float
    front_lock_g: float | None
    rear_lock_g: float | None
    best_possible_g: float


class BalancePointOut(Wire):
    decel_g: float
    front_installed: float
    rear_installed: float
    front_ideal: float
    rear_ideal: float


class ChainOut(Wire):
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


class BalanceOut(Wire):
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
    # What the forces slow: the vehicle, and what of its trailer does not brake itself.
    slowed_N: float
    push_N: float


class MachineIn(Wire):
    """A new machine: what is known, by path; everything else is estimated by its class."""

    name: str = Field(min_length=1, max_length=120)
    owner: str = Field(min_length=1, max_length=120)
    note: str = Field("", max_length=240)
    vehicle_class: str = Field(max_length=40)
    known: dict[str, Finite] = Field(default={}, max_length=100)
    duty_id: RowId | None = None
    # The pads that are on it, where anybody knows.
    pads: str = Field("", max_length=100)


class CopyIn(Wire):
    name: str = Field(min_length=1, max_length=120)


class PartsOut(Wire):
    """The fitted rotors and pads, number by number; `own` says which are this machine's alone."""

    values: dict[str, float | str]
    front_rotor: str
    rear_rotor: str
    front_pad: str
    rear_pad: str
    own: list[str]


class PartChanges(Wire):
    changes: dict[str, Finite | Word] = Field(max_length=40)
    seen: dict[str, Finite | Word] = Field(default={}, max_length=40)


class MoveOut(Wire):
    """How far readings move when one estimate is as low, or as high, as it may well be."""

    field: str
    low: float
    high: float
    rotor_K: tuple[float, float]
    pedal_N: tuple[float, float]
    fluid_K: tuple[float, float]


class CompareAsk(Wire):
    changes: dict[str, Finite | None] = Field(max_length=40)
    pedal_force_N: float = Field(ge=0, le=3000, allow_inf_nan=False)
    rotor_C: float = Field(200.0, ge=-60, le=1200, allow_inf_nan=False)


class SetupFiguresOut(Wire):
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


class CompareOut(Wire):
    before: SetupFiguresOut
    after: SetupFiguresOut
    remarks: list[RemarkOut]


class SetUpIn(Wire):
    name: str = Field(min_length=1, max_length=120)
    changes: dict[str, Finite | None] = Field(min_length=1, max_length=40)
    price: float | None = Field(None, ge=0, le=1e6, allow_inf_nan=False)


class SetUpOut(Wire):
    id: int
    name: str
    changes: dict[str, float | None]
    price: float | None
    made_at: dt.datetime


class DutyChoice(Wire):
    duty_id: int = Field(ge=1, le=2**53)
