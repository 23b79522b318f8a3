"""A bedding run under way: what the car is like by its readings, and the rest of the series planned anew.

One number is learned: how the cooling of this run, on this day, differs from the estimate. It is the greatest of what
is not known, and everything reached so far follows from it, for the engine drives what was really driven.
"""

from __future__ import annotations

import dataclasses
import functools
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.checked import Checked, choice, number
from thermaxis.core.physics.batch import run_packed
from thermaxis.core.physics.schedule import After
from thermaxis.core.planning.bedding.judging import STOPS_IN_WINDOW, cool_down_s, driven, inside, safe
from thermaxis.core.planning.bedding.series import LONGEST_S, Row, stops_of, way_of
from thermaxis.core.planning.bedding.setting import Setting
from thermaxis.core.planning.verdict.uncertainty import INPUTS, pack_draws
from thermaxis.core.records import Case, Stop, StopsDuty
from thermaxis.core.results import Result

Array = NDArray[np.float64]
READING_SIGMA_K = 15.0
"""How far a hand-held pyrometer at a ring may be off (estimate)."""
COOLING_SIGMA = 0.20
"""Spread of the cooling estimate, as a sigma of its logarithm (physics.md section 10)."""
WIDEST = 2.0
"""A run's cooling lies within so many sigmas, else a reading is to be taken again."""
GRID = 33
RECENT_S = 3600.0
"""What was driven longer ago than this, rings and calipers have forgotten: it is not simulated again."""
SURPRISE = 3.0
"""A reading further off than so many of its own sigmas, whatever the cooling, is not believed."""
GAP_STEPS = 7
LONGEST_GAP_S = 240.0
MORE_OR_FEWER = 4


@dataclass(frozen=True, kw_only=True)
class Reading(Checked):
    """A ring's face in degC, `since_s` after braking number `after` (0: before the first), at a speed since."""

    axle: str = choice("front", "rear")
    value_C: float = number(ge=-40, le=1200)
    after: int = number(ge=0, le=600, whole=True)
    since_s: float = number(ge=0, le=3600)
    speed_mps: float = number(ge=0, le=70)


@dataclass(frozen=True, kw_only=True)
class State:
    """What is known of the car: the cooling factor with the sigma of its logarithm, and which readings were believed.

    `believed` in the order of the readings; `expected_C` what each would have read with the factor that is taken.
    """

    cooling: float
    sigma: float
    believed: tuple[bool, ...]
    expected_C: tuple[float, ...]


def cooled(setting: Setting, factor: float) -> Setting:
    """The same machine whose rings are cooled so many times as well."""
    front, rear = (
        dataclasses.replace(part, cooling_factor=min(20.0, part.cooling_factor * factor))
        for part in (setting.case.front, setting.case.rear)
    )
    return dataclasses.replace(setting, case=dataclasses.replace(setting.case, front=front, rear=rear))


def state_of(
    setting: Setting, stops: Sequence[Stop], readings: Sequence[Reading], spread: float = COOLING_SIGMA
) -> State:
    """The cooling factor that explains readings taken along `stops` as they were driven.

    Bayes on a grid of 33 factors within two sigmas of the estimate: the prior lognormal with sigma `spread` around 1,
    each believed reading normal with sigma 15 K. The posterior's mean of the logarithm is taken. A reading is believed
    where some factor comes within three sigmas of it. Without readings the factor is 1.
    """
    x = np.linspace(-WIDEST * spread, WIDEST * spread, GRID)
    logs = -0.5 * (x / spread) ** 2
    factors = tuple(x.tolist())
    predicted = [_predicted(setting, stops, reading, factors) for reading in readings]
    believed = []
    for reading, rows in zip(readings, predicted, strict=True):
        off = (rows - reading.value_C) / READING_SIGMA_K
        believed.append(bool(np.abs(off).min() <= SURPRISE))
        if believed[-1]:
            logs = logs - 0.5 * off**2
    weights = np.exp(logs - logs.max())
    weights /= weights.sum()
    mean = float((weights * x).sum())
    sigma = float(np.sqrt((weights * (x - mean) ** 2).sum()))
    return State(
        cooling=float(np.exp(mean)),
        sigma=sigma,
        believed=tuple(believed),
        expected_C=tuple(float(np.interp(mean, x, rows)) for rows in predicted),
    )


def expected_C(setting: Setting, stops: Sequence[Stop], reading: Reading) -> float:
    """What a ring's face is where a reading is taken, in degC, with the cooling of the setting."""
    return float(_predicted(setting, stops, reading, (0.0,))[0])


def recent(stops: Sequence[Stop]) -> tuple[Stop, ...]:
    """The brakings of the last hour: what goes before them leaves nothing that could be read or braked on."""
    seconds, first = 0.0, len(stops)
    while first > 0 and seconds < RECENT_S:
        first -= 1
        seconds += way_of(stops[first])[1]
    return tuple(stops[first:])


def _predicted(setting: Setting, stops: Sequence[Stop], reading: Reading, x: tuple[float, ...]) -> Array:
    """What a reading would be with each of the factors, as logarithms `x`."""
    before = recent(stops[: reading.after])
    if not before:
        return np.full(len(x), setting.case.environment.air_C)
    # What follows the last of them is what the reading waited for.
    before = (*before[:-1], dataclasses.replace(before[-1], then_s=0.0, then_speed_mps=0.0))
    after = After(max(reading.since_s, 0.1), reading.speed_mps)
    return np.array(_surfaces(setting.alone, before, after, x)[0 if reading.axle == "front" else 1])


# A run asks again for every reading it has whenever one more comes.
@functools.lru_cache(maxsize=256)
def _surfaces(case: Case, stops: tuple[Stop, ...], after: After, x: tuple[float, ...]) -> tuple[tuple[float, ...], ...]:
    """Both faces in degC, front first, after `stops` and a while, with each of the factors."""
    scale = np.ones((len(x), len(INPUTS)))
    for axle in ("front", "rear"):
        scale[:, INPUTS.index(f"{axle}.cooling_factor")] = np.exp(x)
    axles, vehicles = pack_draws(case, scale)
    found = run_packed(axles, vehicles, StopsDuty(kind="stops", stops=stops), after=after).axles["end_surface"]
    return tuple(map(tuple, found.T.tolist()))


def temperatures(setting: Setting, stops: Sequence[Stop]) -> list[tuple[float, float]]:
    """Front and rear ring (mass mean) in degC at the end of each braking as it was driven."""
    if not stops:
        return []
    return [(stop.front_bulk_C, stop.rear_bulk_C) for stop in driven(setting, stops).stops]


@dataclass(frozen=True, kw_only=True)
class Rest:
    """What is left of a run: its rows, how long the gap under way is in all, and whether the window will be reached.

    `end_C`: what the last braking ends at in front. No rows: enough has been braked, or nothing more is safe.
    """

    rows: tuple[Row, ...]
    gap_s: float
    end_C: float
    reached: bool


def rest_of(
    setting: Setting,
    done: Sequence[Stop],
    left: Sequence[Row],
    target_C: float,
    waited_s: float = 0.0,
    *,
    inside_before: int = 0,
) -> Rest:
    """The rows that are left of a series, planned anew from what was driven.

    The last row's brakings are made more or fewer by up to four and their gap another, so that the last of them ends
    nearest `target_C` in front: among what keeps both tops and the fluid, first what has three brakings in the window,
    then what ends nearest, in steps of 10 K, then the fewest changes. Rows before it stay. The gap under way, of which
    `waited_s` are over, becomes another with the last row's. The cool-down is computed anew. Where nothing is safe only
    that is left. `inside_before` brakings ended in the window before `done`.
    """
    *before, last = left
    best: tuple[tuple[float, ...], _Tail] | None = None
    for count in sorted(range(1, last.times + MORE_OR_FEWER + 1), key=lambda n: abs(n - last.times)):
        if count < last.times - MORE_OR_FEWER:
            continue
        tail = _with_gap(setting, done, before, last, count, target_C, waited_s)
        if not safe(setting, tail.result):
            continue
        off = round(abs(tail.end_C - target_C) / 10.0)
        few = inside_before + inside(setting, tail.result, "front") < STOPS_IN_WINDOW
        cost = (float(few), float(off), float(abs(count - last.times)))
        if best is None or cost < best[0]:
            best = cost, tail
        if best[0][:2] == (0.0, 0.0):
            break
    if best is None and before:
        # What comes before is too much already: one of it less.
        shorter = [dataclasses.replace(before[-1], times=before[-1].times - 1)] if before[-1].times > 1 else []
        return rest_of(setting, done, [*before[:-1], *shorter, last], target_C, waited_s, inside_before=inside_before)
    if best is None:
        now = driven(setting, done) if done else None
        return Rest(rows=(), gap_s=0.0, end_C=now.stops[-1].front_bulk_C if now else 0.0, reached=False)
    tail = best[1]
    cool = max(last.last_s or 0.0, cool_down_s(setting, tail.stops, last.then_mps))
    rows = (*tail.rows[:-1], dataclasses.replace(tail.rows[-1], last_s=min(LONGEST_S, cool)))
    gap = tail.stops[len(done) - 1].then_s if done else 0.0
    return Rest(rows=rows, gap_s=gap, end_C=tail.end_C, reached=best[0][0] == 0.0)


@dataclass(frozen=True, kw_only=True)
class _Tail:
    rows: tuple[Row, ...]
    stops: tuple[Stop, ...]
    result: Result

    @property
    def end_C(self) -> float:
        return self.result.stops[-1].front_bulk_C


def _with_gap(
    setting: Setting,
    done: Sequence[Stop],
    before: Sequence[Row],
    last: Row,
    count: int,
    target_C: float,
    waited_s: float,
) -> _Tail:
    """The rest with the gap at which the last braking ends nearest the target.

    Longer is cooler, so by halving, to a second or two; between the least gap of the row's speeds and 240 s.
    """

    def with_gap(gap: float) -> _Tail:
        rows = (*before, dataclasses.replace(last, times=count, then_s=gap, last_s=0.0))
        driven_so_far = list(done)
        if driven_so_far and not before:
            now = driven_so_far[-1]
            driven_so_far[-1] = dataclasses.replace(now, then_s=max(waited_s, gap))
        stops = (*driven_so_far, *stops_of(rows))
        return _Tail(rows=rows, stops=stops, result=driven(setting, stops))

    low, high = setting.least_gap_s(last.from_mps, last.to_mps), max(LONGEST_GAP_S, last.then_s)
    tail = with_gap(low)
    if tail.end_C <= target_C:
        return tail
    for _ in range(GAP_STEPS):
        middle = 0.5 * (low + high)
        if with_gap(middle).end_C > target_C:
            low = middle
        else:
            high = middle
    return with_gap(float(round(0.5 * (low + high))))
