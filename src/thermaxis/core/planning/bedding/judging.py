"""What a series of brakings comes to on a machine: temperatures, the windows, and every limit a plan keeps."""

from __future__ import annotations

import dataclasses
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from thermaxis.core.messages import bedding as say
from thermaxis.core.physics.simulate import history, simulate_one
from thermaxis.core.planning.bedding.series import ROLLING_MPS, Row, duty_of, stops_of
from thermaxis.core.planning.bedding.setting import FLUID_SPARE_K, PARK_C, RIDER_MOST_G, Setting
from thermaxis.core.records import Case, DescentDuty, Stop, StopsDuty
from thermaxis.core.results import HISTORY_FIELDS, Result
from thermaxis.core.said import Said

STOPS_IN_WINDOW = 3
"""So many brakings that end inside the window bed a pad in (estimate)."""
# While a series is looked for it is cooled this long behind its last braking: the fluid is hottest some minutes later.
SOAK_S, SOAK_MPS = 900.0, 16.0
LEAST_COOL_S, LONGEST_COOL_S = 120.0, 3600.0
COLUMN = {name: place for place, name in enumerate(HISTORY_FIELDS)}
AXLES = ("front", "rear")


@dataclass(frozen=True, kw_only=True)
class Kept:
    """One limit of a plan: what it comes to, what is allowed, in the unit of `quantity` in SI, and a sentence."""

    name: str
    kept: bool
    value: float
    limit: float
    quantity: str
    text: Said


def driven(setting: Setting, stops: Sequence[Stop], *, soak_s: float = SOAK_S) -> Result:
    """The machine without its trailer through brakings, followed by at least `soak_s` of driving, from cold."""
    last = stops[-1]
    if last.then_s < soak_s:
        last = dataclasses.replace(last, then_s=soak_s, then_speed_mps=last.then_speed_mps or SOAK_MPS)
    return simulate_one(_on(setting.alone, StopsDuty(kind="stops", stops=(*stops[:-1], last))))


def _on(case: Case, duty: StopsDuty | DescentDuty) -> Case:
    return dataclasses.replace(case, duty=duty)


def inside(setting: Setting, result: Result, axle: str) -> int:
    """How many brakings end with an axle's ring (mass mean) at or above the low side of its window."""
    low = getattr(setting, axle).low_C
    return sum(getattr(stop, f"{axle}_bulk_C") >= low for stop in result.stops)


def over_top(setting: Setting, result: Result) -> float:
    """Kelvin the hotter face is over the top of its window; negative where both stay under."""
    front = result.front.peak_surface_C - setting.front.high_C
    return max(front, result.rear.peak_surface_C - setting.rear.high_C)


def hottest_fluid_C(result: Result) -> float:
    """The hotter fluid of both axles in degC."""
    return max(result.front.peak_fluid_C, result.rear.peak_fluid_C)


def safe(setting: Setting, result: Result) -> bool:
    """Both faces under the tops of their windows, and the fluid 60 K under its boiling point."""
    return over_top(setting, result) <= 0.0 and hottest_fluid_C(result) <= setting.hottest_fluid_C


def cool_down_s(setting: Setting, stops: Sequence[Stop], speed_mps: float) -> float:
    """Seconds of driving without braking after the last of `stops` until rings and pads are at 100 degC.

    To 30 s, at least two minutes; one hour is the longest there is.
    """
    last = dataclasses.replace(stops[-1], then_s=LONGEST_COOL_S, then_speed_mps=speed_mps)
    rows = history(_on(setting.alone, StopsDuty(kind="stops", stops=(*stops[:-1], last))))
    times = rows[:, 0]
    began = times[-1] - LONGEST_COOL_S
    names = [f"{axle}_{part}_C" for axle in AXLES for part in ("bulk", "pad")]
    hottest = rows[:, [COLUMN[name] for name in names]].max(axis=1)
    hot = (times >= began) & (hottest > PARK_C)
    until = float(times[hot][-1] - began) if hot.any() else 0.0
    return float(min(LONGEST_COOL_S, max(LEAST_COOL_S, 30.0 * np.ceil(until / 30.0))))


def _slowest(stops: Sequence[Stop]) -> float:
    return min(min(stop.to_mps, stop.then_speed_mps if stop.then_s > 0 else stop.to_mps) for stop in stops)


def limits_of(setting: Setting, rows: Sequence[Row], result: Result, parked_C: float) -> tuple[Kept, ...]:
    """Every limit of a plan, kept or not; `parked_C` is the hottest pad when it is parked."""
    stops = stops_of(rows)
    hardest, fastest = max(row.decel_g for row in rows), max(row.from_mps for row in rows)
    slowest = _slowest(stops)
    fluid = hottest_fluid_C(result)
    found = []
    for axle in AXLES:
        peak, top = getattr(result, axle).peak_surface_C, getattr(setting, axle).high_C
        words = say.TOP_KEPT if peak <= top else say.TOP_PASSED
        found.append(
            Kept(
                name=f"top_{axle}",
                kept=peak <= top,
                value=peak,
                limit=top,
                quantity="temperature",
                text=words(axle=axle, peak=peak, top=top),
            )
        )
    rider = setting.motorcycle and setting.grip_g >= RIDER_MOST_G - 0.01
    grip = say.RIDER_G if rider else say.GRIP
    found += [
        Kept(
            name="grip",
            kept=hardest <= setting.grip_g + 1e-9,
            value=hardest,
            limit=setting.grip_g,
            quantity="g",
            text=grip(hardest=hardest, allowed=setting.grip_g),
        ),
        Kept(
            name="speed",
            kept=fastest <= setting.machine_most_mps + 1e-9,
            value=fastest,
            limit=setting.machine_most_mps,
            quantity="speed",
            text=say.SPEED(fastest=fastest, most=setting.machine_most_mps),
        ),
        Kept(
            name="standing",
            kept=slowest >= ROLLING_MPS - 1e-9 and parked_C <= PARK_C + 0.5,
            value=parked_C,
            limit=PARK_C,
            quantity="temperature",
            text=say.STANDS_HOT() if slowest < ROLLING_MPS - 1e-9 else say.STANDING(parked=parked_C),
        ),
        Kept(
            name="fluid",
            kept=fluid <= setting.hottest_fluid_C,
            value=fluid,
            limit=setting.hottest_fluid_C,
            quantity="temperature",
            text=say.FLUID(fluid=fluid, boiling=setting.boiling_C, spare=FLUID_SPARE_K),
        ),
    ]
    if setting.case.trailer is not None:
        found.append(Kept(name="trailer", kept=True, value=0.0, limit=0.0, quantity="", text=say.NO_TRAILER()))
    return tuple(found)


def parked_C(setting: Setting, rows: Sequence[Row]) -> float:
    """The hottest ring or pad in degC at the end of rows, the last cool-down included."""
    last = history(_on(setting.alone, duty_of(rows)))[-1]
    names = [f"{axle}_{part}_C" for axle in AXLES for part in ("bulk", "pad")]
    return float(max(last[COLUMN[name]] for name in names))
