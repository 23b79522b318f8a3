"""Brake fluid: its boiling point between dry and wet, by age."""

from __future__ import annotations

from thermaxis.core.errors import FieldError

WET_WATER_PERCENT = 3.7
WATER_GAIN_PERCENT_PER_YEAR = 2.0
# FMVSS 116 minimum dry and wet (3.7 % water) boiling points in degC.
CLASS_MINIMUM_C = {"DOT 3": (205.0, 140.0), "DOT 4": (230.0, 155.0), "DOT 5": (260.0, 180.0), "DOT 5.1": (260.0, 180.0)}


def boiling_point(dry_C: float, wet_C: float, age_months: float) -> float:
    """Boiling point in degC of a fluid `age_months` after it was opened and filled.

    Linear from dry (0 % water) to wet (3.7 %, FMVSS 116) with 2 % of water a year (estimate); held at wet beyond.
    Raises FieldError for a negative age or wet above dry.

    >>> boiling_point(230.0, 155.0, 0.0)
    230.0
    >>> boiling_point(230.0, 155.0, 60.0)
    155.0
    """
    if age_months < 0:
        raise FieldError("age_months", age_months, "a number >= 0")
    if wet_C > dry_C:
        raise FieldError("wet_C", wet_C, f"no more than the dry boiling point {dry_C:g}")
    water = min(WET_WATER_PERCENT, WATER_GAIN_PERCENT_PER_YEAR * age_months / 12.0)
    return dry_C - (dry_C - wet_C) * water / WET_WATER_PERCENT
