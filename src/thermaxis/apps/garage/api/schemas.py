"""What the garage API takes and gives. SI, the unit in the name."""

from __future__ import annotations

from ninja import Schema
from pydantic import Field

from thermaxis.apps.garage.api.duty_schemas import Finite


class MassIO(Schema):
    """One part of the mass, its share on the front axle, and its own height if known."""

    name: str = Field(min_length=1, max_length=60)
    mass_kg: Finite
    front_share: Finite
    height_m: Finite | None = None


class Masses(Schema):
    parts: list[MassIO] = Field(min_length=1, max_length=20)


class Words(Schema):
    """Words to change, by path."""

    words: dict[str, str] = Field(max_length=20)


class FluidOut(Schema):
    name: str
    standard: str
    dry_C: float
    wet_C: float


class ClassOut(Schema):
    """A class of vehicle that estimates come from."""

    name: str
    label: str
    kind: str
    driven: str
    front_caliper: str
    rear_caliper: str


class Known(Schema):
    """What is known already, by path, SI."""

    known: dict[str, Finite | None] = Field(default={}, max_length=100)


class EstimateOut(Schema):
    """What a number is likely to be, and a range it lies in about two times out of three."""

    value: float | None
    low: float | None
    high: float | None
    source: str


class MachineRow(Schema):
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
    vehicle_class: str
    driven: str
    regen_axle: str
    towing: bool
    masses: list[MassIO]
    duty_id: int | None
    values: dict[str, float | None]
    estimates: list[str]


class Changes(Schema):
    """Numbers to change, by path, SI."""

    changes: dict[str, Finite | None] = Field(default={}, max_length=100)
    # Numbers to give back to the estimate of the machine's class.
    left_open: list[str] = Field(default=[], max_length=100)


class DutyChoice(Schema):
    duty_id: int = Field(ge=1, le=2**53)


class Measured(Schema):
    """What was measured, by the names of the method."""

    numbers: dict[str, Finite | None] = Field(max_length=12)


class WorkedOut(Schema):
    """What follows from it, each value with its unit in its name."""

    values: dict[str, float]
