"""The five readings that decide, and the state each is in."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from thermaxis.core.checked import Checked, number
from thermaxis.core.constants import DAYS_A_MONTH
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
# Pads are looked at over the events of so many days, one event at least; close at a third of what is left.
PLANNED_DAYS, CLOSE_USED = 14.0, 1.0 / 3.0


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
    """One number against its limit: `fill` (used up) and `notch` (the limit) place both on a rule from 0 to 1.

    All five read one way: the more, the worse. `left` is what is left to the limit in the number's own unit, for pads
    in events.
    """

    name: str
    value: float
    unit: str
    limit: float
    left: float
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


def ring_limits(setup: Setup, axle: str) -> tuple[tuple[str, float], ...]:
    """What an axle's ring must stay under, by name and in degC: the pads' own limit, and the rotor material's."""
    return ("pad", getattr(setup, f"{axle}_limits").limit_C), ("rotor", rotor_limit_C(setup, axle))


def hottest_ring(setup: Setup, result: Result) -> Reading:
    """The ring nearest a limit, its pads' or its own material's: peak surface temperature in degC as a record."""
    peaks = {"front": result.front.peak_surface_C, "rear": result.rear.peak_surface_C}
    axle, limit = max(
        ((axle, limit) for axle in peaks for _, limit in ring_limits(setup, axle)),
        key=lambda entry: peaks[entry[0]] - entry[1],
    )
    top = 1.3 * limit
    return Reading(
        name="rotor",
        value=peaks[axle],
        unit="degC",
        limit=limit,
        left=limit - peaks[axle],
        fill=_share(peaks[axle], top),
        notch=limit / top,
        state=judge(peaks[axle], limit - CLOSE_ROTOR_K, limit, rising=True),
        detail=axle,
    )


def outside_window(setup: Setup, result: Result) -> Reading:
    """The greater axle's share of braking outside its pad's window, energy-weighted, in % as a record."""
    shares = {
        "front": window_shares(result.front, setup.front_limits),
        "rear": window_shares(result.rear, setup.rear_limits),
    }
    axle = min(shares, key=lambda name: shares[name].working)
    worst = shares[axle]
    outside = "too cold" if worst.cold >= worst.hot else "too hot"
    used, limit = 100.0 * (1.0 - worst.working), 100.0 * (1.0 - OVER_WINDOW_SHARE)
    return Reading(
        name="window",
        value=used,
        unit="%",
        limit=limit,
        left=limit - used,
        fill=used / 100.0,
        notch=limit / 100.0,
        state=judge(worst.working, CLOSE_WINDOW_SHARE, OVER_WINDOW_SHARE, rising=False),
        detail=f"{axle}, {outside}" if used >= 0.5 else axle,
    )


def pedal_left(setup: Setup, result: Result) -> float:
    """Pedal force still left at the worst moment, in N, below the driver's greatest."""
    return setup.case.hydraulics.max_pedal_force_N - result.peak_pedal_force_N


def pedal_used(setup: Setup, result: Result) -> Reading:
    """Pedal force at the worst moment, in N, against the driver's greatest, as a record."""
    greatest, worst = setup.case.hydraulics.max_pedal_force_N, result.peak_pedal_force_N
    limited = result.force_limited_s > 0
    return Reading(
        name="pedal",
        value=worst,
        unit="N",
        limit=greatest,
        left=pedal_left(setup, result),
        fill=_share(worst, 1.25 * greatest),
        notch=0.8,
        state="over" if limited else judge(worst, CLOSE_PEDAL_SHARE * greatest, greatest, rising=True),
        detail="more would be needed" if limited else "",
    )


def fluid_margin(setup: Setup, result: Result) -> float:
    """Kelvin between the hottest fluid, hot soak included, and its boiling point at today's age."""
    return setup.boiling_C - max(result.front.peak_fluid_C, result.rear.peak_fluid_C)


def hottest_fluid(setup: Setup, result: Result) -> Reading:
    """The hottest fluid, hot soak included, against its boiling point at today's age, in degC as a record."""
    axle = "front" if result.front.peak_fluid_C >= result.rear.peak_fluid_C else "rear"
    peak = max(result.front.peak_fluid_C, result.rear.peak_fluid_C)
    return Reading(
        name="fluid",
        value=peak,
        unit="degC",
        limit=setup.boiling_C,
        left=fluid_margin(setup, result),
        fill=_share(peak, 1.2 * setup.boiling_C),
        notch=1 / 1.2,
        state=judge(fluid_margin(setup, result), CLOSE_FLUID_K, 0.0, rising=False),
        detail=axle,
    )


def planned_events(per_month: float) -> float:
    """Events of the next two weeks at the usual pace, one at least."""
    return max(1.0, per_month * PLANNED_DAYS / DAYS_A_MONTH)


def life_state(events: float, per_month: float) -> str:
    """State of a pad's life: over when the planned events would pass the limit, close when they take a third of it."""
    return judge(planned_events(per_month), CLOSE_USED * events, events, rising=True)


def pads_used(events_left: dict[str, float], per_month: float) -> Reading:
    """Share of what is left of the shortest pad that the planned events take, in % as a record.

    `events_left` by axle, `per_month` the usual pace; `left` of the reading is the events.
    """
    axle = min(events_left, key=lambda name: events_left[name])
    events = events_left[axle]
    used = 100.0 * min(9.99, planned_events(per_month) / max(1e-9, events))
    return Reading(
        name="life",
        value=used,
        unit="%",
        limit=100.0,
        left=events,
        fill=_share(used, 125.0),
        notch=0.8,
        state=life_state(events, per_month),
        detail=axle,
    )


def five_readings(setup: Setup, result: Result, events_left: dict[str, float], per_month: float) -> tuple[Reading, ...]:
    """The verdict strip, in its fixed order; each number in its own unit."""
    return (
        hottest_ring(setup, result),
        outside_window(setup, result),
        pedal_used(setup, result),
        hottest_fluid(setup, result),
        pads_used(events_left, per_month),
    )


def _share(value: float, top: float) -> float:
    return min(1.0, max(0.0, value / top))
