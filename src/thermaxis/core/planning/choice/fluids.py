"""Which fluid bears a duty's hot soak, and for how long: from dry to wet by age."""

from __future__ import annotations

from dataclasses import dataclass

from thermaxis.core.errors import FieldError
from thermaxis.core.physics.fluid import WATER_GAIN_PERCENT_PER_YEAR, WET_WATER_PERCENT, boiling_point
from thermaxis.core.planning.verdict.readings import CLOSE_FLUID_K

# Manuals ask for a change after one to three years whatever the fluid still bears; two is the usual word (estimate).
LONGEST_MONTHS = 24.0


@dataclass(frozen=True, kw_only=True)
class FluidVerdict:
    """What a fluid leaves over a peak: `fresh_K` and `wet_K` of margin, and ages in months.

    `boils_months` is the age at which it boils (None: never, even wet), `change_months` the age at which to change it:
    50 K of margin or two years, whichever comes first, and 0 where even fresh it has less.
    """

    fresh_K: float
    wet_K: float
    boils_months: float | None
    change_months: float
    limited_by: str


def months_until(dry_C: float, wet_C: float, boiling_C: float) -> float | None:
    """Age in months at which a fluid's boiling point in degC has fallen to `boiling_C`; None where it never does.

    The inverse of `boiling_point`: `12 (T_dry - T) / (T_dry - T_wet) 3.7 / 2` months (2 % water a year: estimate);
    0 where it is lower from the start. Raises FieldError where wet is above dry.

    >>> round(months_until(230.0, 155.0, 192.5), 1)
    11.1
    """
    fresh = boiling_point(dry_C, wet_C, 0.0)
    if fresh <= boiling_C:
        return 0.0
    if boiling_C <= wet_C:
        return None
    water = WET_WATER_PERCENT * (dry_C - boiling_C) / (dry_C - wet_C)
    return 12.0 * water / WATER_GAIN_PERCENT_PER_YEAR


def judge_fluid(
    dry_C: float, wet_C: float, peak_C: float, *, takes_up: bool = True, drop_K: float = 0.0
) -> FluidVerdict:
    """What a fluid leaves over the hottest it gets, the hot soak included, all in degC; a record.

    `drop_K`: what the air pressure takes off its boiling points. One that takes up no water (silicone) bears the same
    to the end, and is changed by its date alone. Raises FieldError where wet is above dry or the peak is below -60.
    """
    if peak_C < -60:
        raise FieldError("peak_C", peak_C, "a number >= -60")
    peak_C += drop_K
    wet_C = wet_C if takes_up else dry_C
    close = months_until(dry_C, wet_C, peak_C + CLOSE_FLUID_K)
    if close is None or close >= LONGEST_MONTHS:
        change, limited = LONGEST_MONTHS, "age"
    else:
        change, limited = close, "heat"
    return FluidVerdict(
        fresh_K=dry_C - peak_C,
        wet_K=wet_C - peak_C,
        boils_months=months_until(dry_C, wet_C, peak_C),
        change_months=change,
        limited_by=limited,
    )
