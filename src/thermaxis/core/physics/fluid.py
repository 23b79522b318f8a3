"""Brake fluid: its boiling point between dry and wet, by age and air pressure."""

from __future__ import annotations

from thermaxis.core.constants import SEA_LEVEL_PA
from thermaxis.core.errors import FieldError

WET_WATER_PERCENT = 3.7
WATER_GAIN_PERCENT_PER_YEAR = 2.0
# FMVSS 116 minimum dry and wet (3.7 % water) boiling points in degC.
CLASS_MINIMUM_C = {"DOT 3": (205.0, 140.0), "DOT 4": (230.0, 155.0), "DOT 5": (260.0, 180.0), "DOT 5.1": (260.0, 180.0)}


# The one class of the table that is silicone: it takes up next to no water, so that it is dated, not derated.
SILICONE = "DOT 5"
# FMVSS 116 S6.1 corrects measured boiling points by 0.04 degC per mm of mercury.
KELVIN_PER_KPA = 0.30


def takes_water(standard: str) -> bool:
    """Whether a fluid of this class takes up water with the years; a yes or no, no record of how much.

    >>> takes_water("DOT 4"), takes_water("DOT 5")
    (True, False)
    """
    return standard != SILICONE


def boiling_point(dry_C: float, wet_C: float, age_months: float, *, takes_up: bool = True) -> float:
    """Boiling point in degC, at sea level, of a fluid `age_months` after it was opened and filled.

    Linear from dry (0 % water) to wet (3.7 %, FMVSS 116) with 2 % of water a year (estimate); held at wet beyond.
    One that takes up none (silicone, `takes_up` False) stays dry. Raises FieldError for a negative age or wet above
    dry.

    >>> boiling_point(230.0, 155.0, 0.0)
    230.0
    >>> boiling_point(230.0, 155.0, 60.0)
    155.0
    >>> boiling_point(260.0, 180.0, 60.0, takes_up=False)
    260.0
    """
    if not age_months >= 0:
        raise FieldError("age_months", age_months, "a number >= 0")
    if wet_C > dry_C:
        raise FieldError("wet_C", wet_C, f"no more than the dry boiling point {dry_C:g}")
    if not takes_up:
        return dry_C
    water = min(WET_WATER_PERCENT, WATER_GAIN_PERCENT_PER_YEAR * age_months / 12.0)
    return dry_C - (dry_C - wet_C) * water / WET_WATER_PERCENT


def altitude_drop(pressure_Pa: float) -> float:
    """How far a boiling point in degC falls below its sea-level value, in K: 0.30 K per kPa (FMVSS 116 S6.1).

    >>> round(altitude_drop(81325.0), 6)
    6.0
    """
    return max(0.0, KELVIN_PER_KPA * (SEA_LEVEL_PA - pressure_Pa) / 1e3)
