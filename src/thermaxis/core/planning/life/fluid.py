"""Fluid ahead: what it will boil at on a day, from its age and what a tester said, and whether that is enough."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.checked import Checked, number
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.fluid import WATER_GAIN_PERCENT_PER_YEAR, WET_WATER_PERCENT
from thermaxis.core.sampling import normal_quantile

Array = NDArray[np.float64]
# Water a year, lognormal about 2 %; a fluid's own boiling points about its label's (estimates).
GAIN_SIGMA, OWN_SIGMA_K = 0.35, 4.0
# A tester that boils a drop; a pen that reads percent of water by conductivity (estimates).
BOILED_SIGMA_K, PERCENT_SIGMA = 4.0, 0.5
# What the fluid's rise over the air may be off by, as sigma of the logarithm: caliper and pad conductances (estimate,
# of the order the sweep of the strip finds), and by how much less where temperatures were measured on this machine.
RISE_SIGMA, FITTED_RISE_SIGMA = 0.12, 0.07
# Within so many kelvin of its boiling point, or over it, it is changed: it has begun to boil somewhere.
OVERHEATED_K = 20.0
DUE_K = 50.0
REACH, POINTS = 3.5, 281
COLOURS = ("clear", "amber", "brown", "black")


@dataclass(frozen=True, kw_only=True)
class FluidTest(Checked):
    """A tester's reading of fluid `months` old: what it boiled at in degC, or the water in it in percent."""

    months: float = number(ge=0, le=600)
    boiling_C: float | None = number(None, ge=60, le=350, optional=True)
    water_percent: float | None = number(None, ge=0, le=20, optional=True)

    def check(self) -> None:
        if (self.boiling_C is None) == (self.water_percent is None):
            raise FieldError("boiling_C", self.boiling_C, "one of boiling_C and water_percent")


@dataclass(frozen=True, kw_only=True)
class FluidState:
    """Posterior of a filling: ln of its water gain over 2 % a year on a grid, and what it boils at off its label."""

    dry_C: float
    wet_C: float
    takes_up: bool
    grid: tuple[float, ...]
    weight: tuple[float, ...]
    off_K: tuple[float, ...]
    off_sigma_K: tuple[float, ...]

    def boiling_C(self, months: float, gain: Array, own: Array) -> Array:
        """What it boils at in degC at an age, for draws of its gain and of its own label's error (both uniform, N).

        Source: between the label's dry and wet points, estimate.
        """
        place = np.interp(gain, np.cumsum(self.weight), np.arange(POINTS))
        y = np.interp(place, np.arange(POINTS), self.grid)
        off = np.interp(place, np.arange(POINTS), self.off_K)
        sigma = np.interp(place, np.arange(POINTS), self.off_sigma_K)
        return np.asarray(_label_C(self, months, y) + off + sigma * normal_quantile(own))


def _label_C(state: FluidState, months: float, y: Array) -> Array:
    if not state.takes_up:
        return np.full_like(y, state.dry_C)
    water = np.minimum(WET_WATER_PERCENT, WATER_GAIN_PERCENT_PER_YEAR * np.exp(y) * months / 12.0)
    return np.asarray(state.dry_C - (state.dry_C - state.wet_C) * water / WET_WATER_PERCENT)


def fluid_state(dry_C: float, wet_C: float, tests: Sequence[FluidTest], *, takes_up: bool = True) -> FluidState:
    """How fast a filling takes up water, as a record, from its tests.

    `T_boil = T_dry - (T_dry - T_wet) min(3.7, 2 e^y months/12)/3.7 + off`, `y ~ N(0, 0.35^2)`, `off ~ N(0, (4 K)^2)`:
    y on a grid, off integrated out for each y. A tester errs by 4 K, one that reads percent by 0.5 % (estimates).
    Raises FieldError where wet is above dry.

    >>> from thermaxis.core.planning.life.fluid import fluid_state
    >>> type(fluid_state(260.0, 185.0, [])).__name__
    'FluidState'
    """
    if wet_C > dry_C:
        raise FieldError("wet_C", wet_C, f"no more than the dry boiling point {dry_C:g}")
    y = np.linspace(-REACH * GAIN_SIGMA, REACH * GAIN_SIGMA, POINTS)
    bare = FluidState(dry_C=dry_C, wet_C=wet_C, takes_up=takes_up, grid=(), weight=(), off_K=(), off_sigma_K=())
    log = -0.5 * (y / GAIN_SIGMA) ** 2
    misses = []
    for test in tests:
        if test.boiling_C is not None:
            misses.append(test.boiling_C - _label_C(bare, test.months, y))
        elif takes_up:
            water = np.minimum(WET_WATER_PERCENT, WATER_GAIN_PERCENT_PER_YEAR * np.exp(y) * test.months / 12.0)
            log -= 0.5 * (((test.water_percent or 0.0) - water) / PERCENT_SIGMA) ** 2
    off, variance = np.zeros(POINTS), OWN_SIGMA_K**2
    if misses:
        miss = np.array(misses)
        variance = 1.0 / (1.0 / OWN_SIGMA_K**2 + len(misses) / BOILED_SIGMA_K**2)
        off = variance * miss.sum(axis=0) / BOILED_SIGMA_K**2
        common = OWN_SIGMA_K**2 / (BOILED_SIGMA_K**2 + len(misses) * OWN_SIGMA_K**2)
        log -= 0.5 * ((miss**2).sum(axis=0) - common * miss.sum(axis=0) ** 2) / BOILED_SIGMA_K**2
    weight = np.exp(log - log.max())
    weight /= weight.sum()
    return FluidState(
        dry_C=dry_C,
        wet_C=wet_C,
        takes_up=takes_up,
        grid=tuple(y.tolist()),
        weight=tuple(weight.tolist()),
        off_K=tuple(off.tolist()),
        off_sigma_K=(math.sqrt(variance),) * POINTS,
    )


def peak_C(middle_C: Array, air_C: float, rise: Array, sigma: float) -> Array:
    """How hot the fluid gets in degC, in draws: its rise over the air, lognormal about the computed one (estimate).

    `rise` are standard normals (N), `sigma` one of `RISE_SIGMA` and `FITTED_RISE_SIGMA`; shapes as `middle_C`.
    """
    return np.asarray(air_C + (middle_C - air_C) * np.exp(sigma * rise))
