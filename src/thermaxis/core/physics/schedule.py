"""Turn a duty into the engine's row of segments."""

from __future__ import annotations

import functools
import math
from typing import NamedTuple

import numpy as np

from thermaxis.core.physics.packing import SEGMENT, Records
from thermaxis.core.records import DescentDuty, Duty, StopsDuty, TraceDuty

IMPOSED, STOP, CRUISE = 0, 1, 2
STANDSTILL_MPS = 0.001

Row = tuple[int, float, float, float, float, float, float, int]


class After(NamedTuple):
    """How the vehicle is driven (or stands) after the last braking of a duty, without braking again."""

    seconds: float
    speed_mps: float


@functools.lru_cache(maxsize=32)
def segments(duty: Duty, after: After | None = None) -> Records:
    """Return the duty as an array of SEGMENT: imposed speed, controlled stop, or driving on without braking.

    `after` takes the place of the duty's own ending, for a reading taken later or a longer cool-down. Kept for the next
    run of the same duty, and never written to: a slider that moves drives one duty again and again.

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> len(segments(small_case().duty))
    2
    """
    if isinstance(duty, StopsDuty):
        rows = _stops(duty)
    elif isinstance(duty, DescentDuty):
        rows = _descent(duty)
    else:
        rows = _trace(duty)
    if after is not None:
        if rows[-1][0] == CRUISE:
            rows.pop()
        rows += _cruise(after.seconds, after.speed_mps)
    return np.array(rows, dtype=SEGMENT)


def stop_count(duty: Duty) -> int:
    """How many entries the result's list of stops has.

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> stop_count(small_case().duty)
    1
    """
    if isinstance(duty, StopsDuty):
        return len(duty.stops) * duty.repeat
    return 1 if isinstance(duty, DescentDuty) else 0


def _slope(grade: float) -> tuple[float, float]:
    """Sine and cosine of a slope's angle from its rise over its run."""
    cosine = 1.0 / math.hypot(1.0, grade)
    return grade * cosine, cosine


def _cruise(duration: float, speed: float) -> list[Row]:
    return [(CRUISE, duration, speed, speed, 0.0, 0.0, 1.0, -1)] if duration > 0 else []


def _stops(duty: StopsDuty) -> list[Row]:
    rows: list[Row] = []
    for number, stop in enumerate(duty.stops * duty.repeat):
        end = max(stop.to_mps, STANDSTILL_MPS)
        nominal = (stop.from_mps - end) / stop.decel_mps2
        rows.append((STOP, nominal, stop.from_mps, end, stop.decel_mps2, *_slope(stop.grade), number))
        rows += _cruise(stop.then_s, stop.then_speed_mps)
    return rows


def _descent(duty: DescentDuty) -> list[Row]:
    rows: list[Row] = [(IMPOSED, duty.duration_s, duty.speed_mps, duty.speed_mps, 0.0, *_slope(-duty.grade), 0)]
    return rows + _cruise(duty.then_s, duty.then_speed_mps)


def _trace(duty: TraceDuty) -> list[Row]:
    rows: list[Row] = []
    for i in range(len(duty.t_s) - 1):
        duration = duty.t_s[i + 1] - duty.t_s[i]
        v0, v1 = duty.v_mps[i], duty.v_mps[i + 1]
        slope = _slope(duty.grade[i] if duty.grade else 0.0)
        rows.append((IMPOSED, duration, v0, v1, (v0 - v1) / duration, *slope, -1))
    return rows + _cruise(duty.then_s, duty.then_speed_mps)
