"""What the garage API takes and gives. SI, the unit in the name."""

from __future__ import annotations

from ninja import Schema
from pydantic import Field, FiniteFloat


class DutyOut(Schema):
    id: int
    name: str
    kind: str
    use: str
    note: str
    events_per_month: float
    circuit: str | None
    laps: int | None
    cool_down_laps: int
    driver_level: str


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
    duty_id: int | None
    values: dict[str, float | None]
    estimates: list[str]


class Changes(Schema):
    """Numbers to change, by path, SI."""

    changes: dict[str, FiniteFloat | None] = Field(max_length=100)


class DutyChoice(Schema):
    duty_id: int = Field(ge=1, le=2**53)


class Measured(Schema):
    """What was measured, by the names of the method."""

    numbers: dict[str, FiniteFloat | None] = Field(max_length=12)


class WorkedOut(Schema):
    """What follows from it, each value with its unit in its name."""

    values: dict[str, float]
