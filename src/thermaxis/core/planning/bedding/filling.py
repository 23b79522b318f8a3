"""The rows of the series schools, brought under what a machine and a road allow, and as few as reach the window."""

from __future__ import annotations

import dataclasses
from collections.abc import Callable

from thermaxis.core.planning.bedding.choosing import Asked
from thermaxis.core.planning.bedding.judging import STOPS_IN_WINDOW, driven, safe
from thermaxis.core.planning.bedding.series import ROLLING_MPS, Row, stops_of
from thermaxis.core.planning.bedding.setting import Setting
from thermaxis.core.results import Result

GAPS_S = (10.0, 15.0, 20.0, 30.0, 45.0, 60.0, 90.0, 120.0, 180.0, 300.0)
MOST_HARD = 24
KMH = 1.0 / 3.6
# Easy driving: this far between two brakings, on average (estimate).
EASY_KM, EASY_APART_M = 150.0, 600.0
CRUISE_SHARE = 0.75
LESS = 0.85
LEVELS = (1.0, 1.15, 1.3, 1.5)
"""So many times a school's own speed (and the square root of it as hard) where that does not reach the window."""

Build = Callable[[Setting, Asked, int, float, float], list[Row]]


def row_of(
    setting: Setting,
    phase: str,
    times: int,
    from_kmh: float,
    to_kmh: float,
    decel_g: float,
    gap_s: float,
    *,
    stretch: int = 0,
    level: float = 1.0,
) -> Row:
    """Brakings at a school's speeds, under what road, machine and tyres allow; the gap as long as it must be."""
    nominal, decel_g = from_kmh * KMH * level, decel_g * level**0.5
    start = min(nominal, setting.fastest_mps)
    end = max(ROLLING_MPS, to_kmh * KMH * min(1.0, start / nominal))
    cruise = CRUISE_SHARE * start
    return Row(
        phase=phase,
        times=times,
        from_mps=start,
        to_mps=min(end, 0.9 * start),
        decel_g=min(decel_g, setting.hardest_g),
        then_s=max(gap_s, setting.least_gap_s(start, end)),
        then_mps=cruise,
        stretch=stretch,
    )


def _gentle(setting: Setting, asked: Asked, hard: int, gap_s: float, level: float) -> list[Row]:
    easy = row_of(setting, "easy", 1, 50, 15, 0.22, 10.0, stretch=1)
    apart = max(easy.then_s, EASY_APART_M / easy.then_mps)
    times = round((asked.way_km or EASY_KM) * 1e3 / (apart * easy.then_mps + 30.0))
    easy = dataclasses.replace(easy, times=max(1, min(500, times)), then_s=apart)
    start, end = asked.first_from_kmh or 70, asked.first_to_kmh or 15
    return [easy, row_of(setting, "moderate", hard, start, end, 0.35, max(15.0, asked.gap_s, gap_s), level=level)]


def _rising(setting: Setting, asked: Asked, hard: int, gap_s: float, level: float) -> list[Row]:
    rise = [row_of(setting, "moderate", 1, 50, 6, 0.2 + 0.02 * i, max(20.0, gap_s)) for i in range(asked.first or 10)]
    start, end = asked.last_from_kmh or 100, asked.last_to_kmh or 10
    return [*rise, row_of(setting, "hard", hard, start, end, 0.55, max(30.0, gap_s), level=level)]


def _moderate(setting: Setting, asked: Asked, hard: int, gap_s: float, level: float) -> list[Row]:
    start, end, gap_s = asked.first_from_kmh or 65, asked.first_to_kmh or 20, max(20.0, asked.gap_s, gap_s)
    if asked.first and not asked.last:
        # One kind of braking all along: what the engine finds is how many.
        return [row_of(setting, "moderate", hard, start, end, 0.4, gap_s, level=level)]
    mild = row_of(setting, "moderate", asked.first or 10, start, end, 0.3, gap_s)
    return [
        mild,
        row_of(setting, "hard", hard, asked.last_from_kmh or 80, asked.last_to_kmh or 20, 0.45, gap_s, level=level),
    ]


def _speed(setting: Setting, asked: Asked, hard: int, gap_s: float, level: float) -> list[Row]:
    first = row_of(setting, "moderate", asked.first or 6, 100, 25, 0.45, gap_s)
    return [
        first,
        row_of(setting, "hard", hard, asked.last_from_kmh or 130, asked.last_to_kmh or 20, 0.65, gap_s, level=level),
    ]


SERIES: dict[str, Build] = {"gentle": _gentle, "rising": _rising, "moderate": _moderate, "speed": _speed}
LEAST_HARD = {"gentle": 5, "rising": 3, "moderate": 5, "speed": 3}


def eased(setting: Setting) -> Setting:
    """The same with less speed and less force, no slower than is still driving."""
    road = dataclasses.replace(
        setting.road, top_speed_mps=max(8.001, LESS * setting.fastest_mps), hard_g=max(0.11, LESS * setting.hardest_g)
    )
    return dataclasses.replace(setting, road=road)


def filled(setting: Setting, school: str, asked: Asked) -> list[Row] | None:
    """The rows of a series at the least of its levels that reaches the window, else of the hottest that is safe.

    None where even its mildest, with the longest gaps, is not safe.
    """
    hottest: list[Row] | None = None
    for level in LEVELS:
        rows, reached = _series(setting, school, asked, level)
        if rows is None:
            break
        hottest = rows
        if reached:
            break
    return hottest


def _series(setting: Setting, school: str, asked: Asked, level: float) -> tuple[list[Row] | None, bool]:
    """The rows of a series and whether they reach the window; None where even the longest gap is not safe."""
    build, least = SERIES[school], least_last(school, asked)
    tried: set[float] = set()
    for gap in GAPS_S:
        rows = build(setting, asked, MOST_HARD, gap, level)
        if rows[-1].then_s in tried:
            continue
        tried.add(rows[-1].then_s)
        result = driven(setting, stops_of(rows))
        count = fewest(setting, result, sum(row.times for row in rows[:-1]))
        if count is None:
            # Longer gaps are cooler still.
            if safe(setting, result):
                return rows, False
            continue
        rows = build(setting, asked, max(least, count), gap, level)
        if safe(setting, driven(setting, stops_of(rows))):
            return rows, True
    return None, False


def least_last(school: str, asked: Asked) -> int:
    """The fewest last brakings there are, whatever the window: those of the school, or those of the words."""
    named = asked.first if school == "gentle" or not asked.last else asked.last
    return min(MOST_HARD, named or LEAST_HARD[school])


def fewest(setting: Setting, result: Result, before: int) -> int | None:
    """How many of the last row's brakings it takes until three in a row end in the front window."""
    run = 0
    for place, stop in enumerate(result.stops):
        run = run + 1 if stop.front_bulk_C >= setting.front.low_C else 0
        if place >= before and run >= STOPS_IN_WINDOW:
            return place - before + 1
    return None


def reaches(setting: Setting, school: str, asked: Asked) -> bool:
    """Whether the school's longest and closest series gets into the window at all on such a road."""
    rows = SERIES[school](setting, asked, MOST_HARD, GAPS_S[0], LEVELS[-1])
    return fewest(setting, driven(setting, stops_of(rows)), sum(row.times for row in rows[:-1])) is not None
