"""The five readings that decide, and the state each is in."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from thermaxis.core.checked import Checked, number
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.materials import materials
from thermaxis.core.physics.packing import HEAT_BIN_K
from thermaxis.core.records import Case
from thermaxis.core.results import AxleResult, Result

CLOSE_ROTOR_K = 60.0
CLOSE_WINDOW_SHARE = 0.80
OVER_WINDOW_SHARE = 0.50
CLOSE_PEDAL_SHARE = 0.80
CLOSE_FLUID_K = 50.0
CLOSE_EVENTS = 3.0
CLOSE_DAYS = 14.0


@dataclass(frozen=True, kw_only=True)
class CompoundLimits(Checked):
    """Temperatures a compound works between, and the one it must not pass; ring surface, degC."""

    window_low_C: float = number(ge=-60, le=1500)
    window_high_C: float = number(ge=-60, le=1500)
    limit_C: float = number(ge=-60, le=1600)

    def check(self) -> None:
        if self.window_low_C >= self.window_high_C:
            raise FieldError("window_low_C", self.window_low_C, f"less than window_high_C {self.window_high_C}")
        if self.limit_C < self.window_high_C:
            raise FieldError("limit_C", self.limit_C, f"at least window_high_C {self.window_high_C}")


@dataclass(frozen=True, kw_only=True)
class WindowShares:
    """Energy-weighted shares of braking below, inside and over a compound's window; they sum to 1."""

    cold: float
    working: float
    hot: float


def window_shares(result: AxleResult, limits: CompoundLimits) -> WindowShares:
    """Divide an axle's braking energy at the compound's window, bins split in proportion.

    Without braking everything counts as working: nothing was asked outside the window.
    """
    energy = np.asarray(result.energy_by_temperature_J)
    total = float(energy.sum())
    if total <= 0:
        return WindowShares(cold=0.0, working=1.0, hot=0.0)
    lower = np.arange(len(energy)) * HEAT_BIN_K
    below = np.clip((limits.window_low_C - lower) / HEAT_BIN_K, 0.0, 1.0)
    above = np.clip((lower + HEAT_BIN_K - limits.window_high_C) / HEAT_BIN_K, 0.0, 1.0)
    cold, hot = float((energy * below).sum()) / total, float((energy * above).sum()) / total
    return WindowShares(cold=cold, working=max(0.0, 1.0 - cold - hot), hot=hot)


@dataclass(frozen=True, kw_only=True)
class Reading:
    """One number against its limit: `fill` and `notch` place it on a rule from 0 to 1."""

    name: str
    value: float
    unit: str
    limit: float
    fill: float
    notch: float
    state: str
    detail: str


@dataclass(frozen=True, kw_only=True)
class Setup:
    """A machine's case together with what its parts and fluid bear."""

    case: Case
    front_limits: CompoundLimits
    rear_limits: CompoundLimits
    boiling_C: float


def rotor_limit_C(setup: Setup, axle: str) -> float:
    """Temperature limit of an axle's rotor material in degC (estimate of the materials table)."""
    return materials()[getattr(setup.case, axle).rotor.material].limit_C


def judge(value: float, close: float, over: float, *, rising: bool) -> str:
    """Put a value into words: fine, close or over; `rising` when more is worse."""
    if not rising:
        value, close, over = -value, -close, -over
    if value > over:
        return "over"
    return "close" if value > close else "fine"


def hottest_rotor(setup: Setup, result: Result) -> Reading:
    """The rotor nearest its limit: its peak surface temperature against its material's limit."""
    peaks = {"front": result.front.peak_surface_C, "rear": result.rear.peak_surface_C}
    axle = max(peaks, key=lambda name: peaks[name] - rotor_limit_C(setup, name))
    limit = rotor_limit_C(setup, axle)
    top = 1.3 * limit
    return Reading(
        name="rotor",
        value=peaks[axle],
        unit="degC",
        limit=limit,
        fill=_share(peaks[axle], top),
        notch=limit / top,
        state=judge(peaks[axle], limit - CLOSE_ROTOR_K, limit, rising=True),
        detail=axle,
    )


def braking_in_window(setup: Setup, result: Result) -> Reading:
    """The smaller axle's share of braking inside its pad's window, energy-weighted."""
    shares = {
        "front": window_shares(result.front, setup.front_limits),
        "rear": window_shares(result.rear, setup.rear_limits),
    }
    axle = min(shares, key=lambda name: shares[name].working)
    worst = shares[axle]
    outside = "too cold" if worst.cold >= worst.hot else "too hot"
    return Reading(
        name="window",
        value=100.0 * worst.working,
        unit="%",
        limit=100.0 * CLOSE_WINDOW_SHARE,
        fill=worst.working,
        notch=CLOSE_WINDOW_SHARE,
        state=judge(worst.working, CLOSE_WINDOW_SHARE, OVER_WINDOW_SHARE, rising=False),
        detail=f"{axle}, rest {outside}",
    )


def pedal_left(setup: Setup, result: Result) -> Reading:
    """Pedal force still left at the worst moment, in N, below the driver's greatest."""
    greatest = setup.case.hydraulics.max_pedal_force_N
    worst = result.peak_pedal_force_N
    limited = result.force_limited_s > 0
    return Reading(
        name="pedal",
        value=greatest - worst,
        unit="N",
        limit=0.0,
        fill=_share(worst, 1.25 * greatest),
        notch=0.8,
        state="over" if limited else judge(worst, CLOSE_PEDAL_SHARE * greatest, greatest, rising=True),
        detail=f"{worst:.0f} of {greatest:.0f} N used",
    )


def fluid_margin(setup: Setup, result: Result) -> Reading:
    """Kelvin between the hottest fluid, hot soak included, and its boiling point at today's age."""
    axle = "front" if result.front.peak_fluid_C >= result.rear.peak_fluid_C else "rear"
    peak = max(result.front.peak_fluid_C, result.rear.peak_fluid_C)
    return Reading(
        name="fluid",
        value=setup.boiling_C - peak,
        unit="K",
        limit=0.0,
        fill=_share(peak, 1.2 * setup.boiling_C),
        notch=1 / 1.2,
        state=judge(setup.boiling_C - peak, CLOSE_FLUID_K, 0.0, rising=False),
        detail=f"{axle}, boils at {setup.boiling_C:.0f} degC",
    )


def life_state(events: float, per_month: float) -> str:
    """State of a pad's life: over when the next event would pass the limit, close within three events or two weeks."""
    days = 30.44 * events / per_month if per_month > 0 else float("inf")
    return "close" if events >= 1.0 and days < CLOSE_DAYS else judge(events, CLOSE_EVENTS, 1.0, rising=False)


def shortest_life(events_left: dict[str, float], per_month: float) -> Reading:
    """Events left until the first pad is due; `events_left` by axle, `per_month` the usual pace."""
    axle = min(events_left, key=lambda name: events_left[name])
    events = events_left[axle]
    return Reading(
        name="life",
        value=events,
        unit="events",
        limit=1.0,
        fill=_share(events, 4 * CLOSE_EVENTS),
        notch=1 / (4 * CLOSE_EVENTS),
        state=life_state(events, per_month),
        detail=axle,
    )


def five_readings(setup: Setup, result: Result, events_left: dict[str, float], per_month: float) -> tuple[Reading, ...]:
    """The verdict strip, in its fixed order."""
    return (
        hottest_rotor(setup, result),
        braking_in_window(setup, result),
        pedal_left(setup, result),
        fluid_margin(setup, result),
        shortest_life(events_left, per_month),
    )


def _share(value: float, top: float) -> float:
    return min(1.0, max(0.0, value / top))
