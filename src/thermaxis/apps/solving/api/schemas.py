"""What several stages take and give: what is tried, what is on, remarks. SI, the unit in the name."""

from __future__ import annotations

import dataclasses
import datetime as dt
from typing import Literal

from pydantic import Field

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.said import SaidOut
from thermaxis.apps.solving import trying
from thermaxis.core.planning.bedding.setting import Road


class RemarkOut(Wire):
    code: str
    text: SaidOut


class WhatIf(Wire):
    """Changes that are tried, not kept. Null: as it is; `repeats` is laps or rounds, `gear` of a descent."""

    cooling_factor: float = Field(1.0, ge=0.1, le=10, allow_inf_nan=False)
    air_C: float | None = Field(None, ge=-40, le=60, allow_inf_nan=False)
    extra_mass_kg: float = Field(0.0, ge=-1000, le=5000, allow_inf_nan=False)
    driver_level: str | None = Field(None, max_length=12)
    repeats: int | None = Field(None, ge=1, le=120)
    speed_factor: float = Field(1.0, ge=0.3, le=2, allow_inf_nan=False)
    gear: str | None = Field(None, max_length=10)
    fluid_age_months: float | None = Field(None, ge=0, le=120, allow_inf_nan=False)
    trailer_brake_share: float | None = Field(None, ge=0, le=1, allow_inf_nan=False)
    grade_factor: float = Field(1.0, ge=0.3, le=2, allow_inf_nan=False)
    length_factor: float = Field(1.0, ge=0.1, le=5, allow_inf_nan=False)

    def record(self) -> trying.WhatIf:
        """The same for the core's side of the house."""
        return trying.WhatIf(**{field.name: getattr(self, field.name) for field in dataclasses.fields(trying.WhatIf)})


class LeversOut(Wire):
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
    # What was kept before there were these has none.
    grade: float | None = None
    length_m: float | None = None
    trailer_brake_share: float | None = None


class InfluenceOut(Wire):
    """Share of a number's spread that one estimate explains alone."""

    field: str
    variance_share: float


class SetOut(Wire):
    """What is on a machine; `fitted_on` and `fitted_km` are when the last of it was put on."""

    name: str
    front_pads: str
    rear_pads: str
    front_rotor: str
    rear_rotor: str
    fitted_on: dt.date
    fitted_km: float
    can_undo: bool


class RoadAsk(Wire):
    """What the road and whoever drives allow."""

    top_speed_mps: float = Field(gt=8, le=70, allow_inf_nan=False)
    hard_g: float = Field(gt=0.1, le=1.2, allow_inf_nan=False)

    def record(self) -> Road:
        """The same for the core."""
        return Road(top_speed_mps=self.top_speed_mps, hard_g=self.hard_g)


class BeddingAsk(RoadAsk):
    """One school of bedding on such a road."""

    school: str = Field(max_length=12)


class CrossingOut(Wire):
    limit: Literal["pad", "rotor", "fluid", "fluid, worn pads", "pedal"]
    axle: str
    probability: float


class AnswerOut(Wire):
    question: str
    outcome: Literal["value", "all", "none"]
    value: float | None
    unit: str
    low: float
    high: float
    text: SaidOut


class WorkOut(Wire):
    """`place` is how many others come first; 0 once it is under way."""

    under_way: bool
    doing: str
    place: int
    done_share: float
