"""Schools that are no series: medium braking to first fade, and laps that build up to pace."""

from __future__ import annotations

import dataclasses
import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.physics.friction import friction_coefficient
from thermaxis.core.physics.resistance import GRAVITY
from thermaxis.core.planning.bedding.filling import MOST_HARD, eased, row_of
from thermaxis.core.planning.bedding.judging import STOPS_IN_WINDOW, cool_down_s, driven, inside, safe
from thermaxis.core.planning.bedding.series import ROLLING_MPS, Row, stops_of
from thermaxis.core.planning.bedding.setting import Setting
from thermaxis.core.records import TraceDuty
from thermaxis.core.results import Result

Array = NDArray[np.float64]
FADE = 1.15
"""First fade: so many times the pedal force for the same deceleration."""
LAP_SHARES = (0.5, 0.6, 0.7, 0.8)
"""Of the pace: out lap, then building up."""
MOST_LAPS, COOL_LAP = 8, 0.4
# A braking of a lap: at least so hard, and so much speed.
LAP_BRAKING_MPS2, LAP_BRAKING_MPS = 1.5, 3.0
TRIES = 14


def fade_rows(setting: Setting) -> tuple[list[Row], int, float]:
    """Rows to first fade or the top of the window, to cool fully, and half as many once more.

    Beside them how many brakings the first heat has, and how many times the pedal force the last of them takes. Where
    even three brakings are too hot everything is eased until they are not, or no more can be.
    """
    gentler = setting
    for _ in range(TRIES):
        count = _fade_count(gentler)
        rows = _fade_rows(gentler, count)
        if safe(gentler, driven(gentler, stops_of(rows))) or count > STOPS_IN_WINDOW:
            break
        gentler = eased(gentler)
    return rows, count, _pedal_rise(gentler, driven(gentler, stops_of(rows[:1])))


def _fade_rows(setting: Setting, count: int) -> list[Row]:
    first = row_of(setting, "fade", count, 110, 40, 0.5, 0.0)
    half = dataclasses.replace(first, phase="half", times=max(1, math.ceil(count / 2)))
    cool = cool_down_s(setting, stops_of([first]), first.then_mps)
    return [dataclasses.replace(first, last_s=cool), half]


def _fade_count(setting: Setting) -> int:
    """How many brakings until the pedal is up by 15 %, or one more would not be safe; at least three."""
    low, high = STOPS_IN_WINDOW, MOST_HARD
    row = row_of(setting, "fade", MOST_HARD, 110, 40, 0.5, 0.0)

    def enough(count: int) -> bool:
        """Whether one more would be too many."""
        result = driven(setting, stops_of([dataclasses.replace(row, times=count)]))
        more = driven(setting, stops_of([dataclasses.replace(row, times=count + 1)]))
        return _pedal_rise(setting, result) >= FADE or not safe(setting, more)

    while low < high:
        middle = (low + high) // 2
        if enough(middle):
            high = middle
        else:
            low = middle + 1
    return low


def _pedal_rise(setting: Setting, result: Result) -> float:
    """Pedal force at the last braking's end over the least of the series, by the front friction of the bulk."""
    mu = [friction_coefficient(stop.front_bulk_C, setting.case.front.pad.mu) for stop in result.stops]
    return max(mu) / mu[-1]


def lap_rows(setting: Setting, lap: TraceDuty) -> list[Row]:
    """Laps that build up to the pace, one at it, one to cool; the pace itself is brought down to stay in the window.

    None where the lap has no braking to speak of.
    """
    brakings = _lap_brakings(lap)
    if not brakings:
        return []
    pace, rows = 1.0, _lap_rows(setting, brakings, 1.0, 1)
    for _ in range(TRIES):
        rows = _lap_rows(setting, brakings, pace, 1)
        if safe(setting, driven(setting, stops_of(rows))):
            break
        pace *= 0.93
    for more in range(2, MOST_LAPS):
        if inside(setting, driven(setting, stops_of(rows)), "front") >= STOPS_IN_WINDOW:
            break
        longer = _lap_rows(setting, brakings, pace, more)
        if not safe(setting, driven(setting, stops_of(longer))):
            break
        rows = longer
    return rows


@dataclass(frozen=True, kw_only=True)
class _Braking:
    from_mps: float
    to_mps: float
    decel_mps2: float
    then_s: float
    then_mps: float


def _lap_brakings(lap: TraceDuty) -> list[_Braking]:
    """The brakings of one lap, each with the driving until the next one's beginning, round the end of the lap."""
    t, v = np.asarray(lap.t_s), np.asarray(lap.v_mps)
    slowing = np.diff(v) / np.diff(t) <= -LAP_BRAKING_MPS2
    edges = np.flatnonzero(np.diff(np.concatenate([[False], slowing, [False]]).astype(int)))
    spans = [
        (int(begin), int(end))
        for begin, end in zip(edges[::2], edges[1::2], strict=True)
        if v[begin] - v[end] >= LAP_BRAKING_MPS and v[end] > 0.5
    ]
    found = []
    for place, (begin, end) in enumerate(spans):
        until = spans[(place + 1) % len(spans)][0]
        wraps = place + 1 == len(spans)
        after_s = float(t[until] - t[end]) + (float(t[-1] - t[0]) if wraps else 0.0)
        way = float(np.trapezoid(v[end : until + 1], t[end : until + 1])) if not wraps else _round_m(t, v, end, until)
        found.append(
            _Braking(
                from_mps=float(v[begin]),
                to_mps=float(v[end]),
                decel_mps2=float((v[begin] - v[end]) / (t[end] - t[begin])),
                then_s=max(0.5, after_s),
                then_mps=way / max(0.5, after_s),
            )
        )
    return found


def _round_m(t: Array, v: Array, end: int, until: int) -> float:
    return float(np.trapezoid(v[end:], t[end:]) + np.trapezoid(v[: until + 1], t[: until + 1]))


def _lap_rows(setting: Setting, brakings: Sequence[_Braking], pace: float, at_most: int) -> list[Row]:
    """Out lap, laps building up (the last of them `at_most` times), one at pace, one to cool; shares of `pace`."""
    shares = [*LAP_SHARES, *([LAP_SHARES[-1]] * (at_most - 1)), 1.0, COOL_LAP / pace]
    rows = []
    for lap, share in enumerate(shares, start=1):
        part = share * pace
        for braking in brakings:
            start = min(part * braking.from_mps, setting.machine_most_mps)
            rows.append(
                Row(
                    phase="lap",
                    from_mps=start,
                    to_mps=min(max(ROLLING_MPS, part * braking.to_mps), 0.95 * start),
                    decel_g=max(0.02, min(part * part * braking.decel_mps2 / GRAVITY, setting.grip_g)),
                    then_s=braking.then_s / part,
                    then_mps=max(ROLLING_MPS, part * braking.then_mps),
                    stretch=lap,
                )
            )
    return rows
