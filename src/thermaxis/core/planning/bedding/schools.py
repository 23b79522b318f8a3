"""Schools of bedding: each fills its rows for a machine, by the engine, and keeps every limit (bed-and-life 1)."""

from __future__ import annotations

import dataclasses
import functools
import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from thermaxis.core.errors import FieldError
from thermaxis.core.messages import bedding as say
from thermaxis.core.physics.friction import friction_coefficient
from thermaxis.core.physics.resistance import GRAVITY
from thermaxis.core.planning.bedding.choosing import NOTHING, Asked
from thermaxis.core.planning.bedding.judging import (
    AXLES,
    STOPS_IN_WINDOW,
    Kept,
    cool_down_s,
    driven,
    inside,
    limits_of,
    over_top,
    parked_C,
    safe,
)
from thermaxis.core.planning.bedding.series import ROLLING_MPS, Item, Row, check_rows, items_of, stops_of
from thermaxis.core.planning.bedding.setting import Setting
from thermaxis.core.records import StopsDuty, TraceDuty
from thermaxis.core.results import Result
from thermaxis.core.said import Said
from thermaxis.core.tables import rows_of

GAPS_S = (10.0, 15.0, 20.0, 30.0, 45.0, 60.0, 90.0, 120.0, 180.0, 300.0)
MOST_HARD = 24
KMH = 1.0 / 3.6
# Easy driving: this far between two brakings, on average (estimate).
EASY_KM, EASY_APART_M = 150.0, 600.0
CLOSED_MPS, CLOSED_G = 100.0 * KMH, 0.5
"""A braking from more, or harder, belongs on a closed course (estimate)."""
FADE = 1.15
"""First fade: so many times the pedal force for the same deceleration."""
LAP_SHARES = (0.5, 0.6, 0.7, 0.8)
"""Of the pace: out lap, then building up."""
MOST_LAPS = 8
COOL_LAP, RISING_COOL_S, SPEED_COOL_S = 0.4, 600.0, 900.0
CRUISE_SHARE = 0.75
# A braking of a lap: at least so hard, and so much speed.
LAP_BRAKING_MPS2, LAP_BRAKING_MPS = 1.5, 3.0
FAST_STEP_MPS, FASTEST_MPS = 10.0 * KMH, 200.0 * KMH
LESS = 0.85
TRIES = 14
LEVELS = (1.0, 1.15, 1.3, 1.5)
"""So many times a school's own speed (and the square root of it as hard) where that does not reach the window."""


@dataclass(frozen=True, kw_only=True)
class School:
    """A way to bed pads in: what is done, what it suits, and whether it needs a closed course whatever the speed."""

    name: str
    label: str
    what: str
    suits: str
    closed: bool


@functools.cache
def schools() -> dict[str, School]:
    """Every school by its name, the maker's first."""
    return {
        row["school"]: School(
            name=row["school"], label=row["label"], what=row["what"], suits=row["suits"], closed=row["closed"] == "y"
        )
        for row in rows_of("bedding_schools")
    }


@dataclass(frozen=True, kw_only=True)
class Step:
    """One thing of a plan to do, and both rings at the end of its last braking, degC (mass mean)."""

    item: Item
    front_C: float
    rear_C: float


@dataclass(frozen=True, kw_only=True)
class Plan:
    """A school on a machine: its rows, what they reach, what they keep; `refused` where it is not to be driven.

    `inside_*` counts brakings that end in the window, `closed` says why a closed course is needed, `needs` what would
    reach the window where this does not, `rear` how the rear gets there where it does not, `remarks` what else.
    """

    school: str
    rows: tuple[Row, ...]
    steps: tuple[Step, ...]
    reached: bool
    rear_reached: bool
    inside_front: int
    inside_rear: int
    peak_front_C: float
    peak_rear_C: float
    hottest_fluid_C: float
    cool_down_s: float
    duration_s: float
    way_m: float
    wear_front_mm: float
    wear_rear_mm: float
    limits: tuple[Kept, ...]
    closed: Said | None
    text: Said
    needs: Said | None
    rear: Said | None
    remarks: tuple[Said, ...]
    refused: Said | None
    duty: StopsDuty | None

    @property
    def kept(self) -> bool:
        """Whether it keeps every limit."""
        return self.refused is None and all(limit.kept for limit in self.limits)


# --- rows ---------------------------------------------------------------------------------------------------------


Build = Callable[[Setting, Asked, int, float, float], list[Row]]


def _row(
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
    easy = _row(setting, "easy", 1, 50, 15, 0.22, 10.0, stretch=1)
    apart = max(easy.then_s, EASY_APART_M / easy.then_mps)
    times = round((asked.way_km or EASY_KM) * 1e3 / (apart * easy.then_mps + 30.0))
    easy = dataclasses.replace(easy, times=max(1, min(500, times)), then_s=apart)
    start, end = asked.first_from_kmh or 70, asked.first_to_kmh or 15
    return [easy, _row(setting, "moderate", hard, start, end, 0.35, max(15.0, asked.gap_s, gap_s), level=level)]


def _rising(setting: Setting, asked: Asked, hard: int, gap_s: float, level: float) -> list[Row]:
    rise = [_row(setting, "moderate", 1, 50, 6, 0.2 + 0.02 * i, max(20.0, gap_s)) for i in range(asked.first or 10)]
    start, end = asked.last_from_kmh or 100, asked.last_to_kmh or 10
    return [*rise, _row(setting, "hard", hard, start, end, 0.55, max(30.0, gap_s), level=level)]


def _moderate(setting: Setting, asked: Asked, hard: int, gap_s: float, level: float) -> list[Row]:
    start, end, gap_s = asked.first_from_kmh or 65, asked.first_to_kmh or 20, max(20.0, asked.gap_s, gap_s)
    if asked.first and not asked.last:
        # One kind of braking all along: what the engine finds is how many.
        return [_row(setting, "moderate", hard, start, end, 0.4, gap_s, level=level)]
    mild = _row(setting, "moderate", asked.first or 10, start, end, 0.3, gap_s)
    return [
        mild,
        _row(setting, "hard", hard, asked.last_from_kmh or 80, asked.last_to_kmh or 20, 0.45, gap_s, level=level),
    ]


def _speed(setting: Setting, asked: Asked, hard: int, gap_s: float, level: float) -> list[Row]:
    first = _row(setting, "moderate", asked.first or 6, 100, 25, 0.45, gap_s)
    return [
        first,
        _row(setting, "hard", hard, asked.last_from_kmh or 130, asked.last_to_kmh or 20, 0.65, gap_s, level=level),
    ]


SERIES: dict[str, Build] = {"gentle": _gentle, "rising": _rising, "moderate": _moderate, "speed": _speed}
LEAST_HARD = {"gentle": 5, "rising": 3, "moderate": 5, "speed": 3}
LEAST_COOL = {"rising": RISING_COOL_S, "speed": SPEED_COOL_S}


# --- a plan of each -----------------------------------------------------------------------------------------------


def plan_school(
    setting: Setting, school: str, *, makers: Sequence[Row] = (), asked: Asked = NOTHING, advise: bool = True
) -> Plan:
    """A school on a machine. `makers` are the leaflet's rows, driven as they stand; `asked` what its words name.

    Series: gaps from short to long; for each the fewest last brakings of which three in a row end in the front window,
    until neither face passes the top of its window and the fluid keeps 60 K; where no gap does, all of it slower and
    less hard by 0.85, and where the window is out of reach the hottest series that is safe. With `advise` False nobody
    looks for what would reach it. FieldError for a school there is not.
    """
    if school not in schools():
        raise FieldError("school", school, "one of " + ", ".join(schools()))
    if school == "maker":
        check_rows(makers)
        return _finished(setting, school, list(makers), typed=True)
    if school in ("fade", "circuit"):
        plan = _fade(setting) if school == "fade" else _circuit(setting)
        broken = [limit.text for limit in plan.limits if not limit.kept]
        if plan.refused is None and broken:
            return dataclasses.replace(plan, refused=say.NOT_SAFE(why=broken[0]))
        return plan
    eased = setting
    for _ in range(TRIES):
        rows = _filled(eased, school, asked)
        if rows is not None:
            break
        eased = _eased(eased)
    else:
        raise FieldError("window_high_C", setting.front.high_C, "a window this machine can brake under")
    plan = _finished(setting, school, rows, asked=asked if advise else None)
    first = SERIES[school](setting, asked, 1, GAPS_S[0], 1.0)[-1]
    if rows[-1].from_mps > first.from_mps + 0.1:
        harder = say.STRONGER(speed=rows[-1].from_mps, named=first.from_mps)
        plan = dataclasses.replace(plan, remarks=(harder, *plan.remarks))
    return plan


def _eased(setting: Setting) -> Setting:
    """The same with less speed and less force, no slower than is still driving."""
    road = dataclasses.replace(
        setting.road, top_speed_mps=max(8.001, LESS * setting.fastest_mps), hard_g=max(0.11, LESS * setting.hardest_g)
    )
    return dataclasses.replace(setting, road=road)


def _filled(setting: Setting, school: str, asked: Asked) -> list[Row] | None:
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
    build, least = SERIES[school], _least_last(school, asked)
    tried: set[float] = set()
    for gap in GAPS_S:
        rows = build(setting, asked, MOST_HARD, gap, level)
        if rows[-1].then_s in tried:
            continue
        tried.add(rows[-1].then_s)
        result = driven(setting, stops_of(rows))
        count = _fewest(setting, result, sum(row.times for row in rows[:-1]))
        if count is None:
            # Longer gaps are cooler still.
            if safe(setting, result):
                return rows, False
            continue
        rows = build(setting, asked, max(least, count), gap, level)
        if safe(setting, driven(setting, stops_of(rows))):
            return rows, True
    return None, False


def _least_last(school: str, asked: Asked) -> int:
    """The fewest last brakings there are, whatever the window: those of the school, or those of the words."""
    named = asked.first if school == "gentle" or not asked.last else asked.last
    return min(MOST_HARD, named or LEAST_HARD[school])


def _fewest(setting: Setting, result: Result, before: int) -> int | None:
    """How many of the last row's brakings it takes until three in a row end in the front window."""
    run = 0
    for place, stop in enumerate(result.stops):
        run = run + 1 if stop.front_bulk_C >= setting.front.low_C else 0
        if place >= before and run >= STOPS_IN_WINDOW:
            return place - before + 1
    return None


def _fade(setting: Setting) -> Plan:
    """Medium braking close together to first fade or the top of the window, cool fully, half as much once more."""
    eased = setting
    for _ in range(TRIES):
        count = _fade_count(eased)
        rows = _fade_rows(eased, count)
        if safe(eased, driven(eased, stops_of(rows))) or count > STOPS_IN_WINDOW:
            break
        eased = _eased(eased)
    faded = _pedal_rise(eased, driven(eased, stops_of(rows[:1])))
    plan = _finished(setting, "fade", rows)
    remark = say.FADES(rise=faded - 1.0, stops=count) if faded >= FADE else say.NO_FADE(rise=faded - 1.0, stops=count)
    refused = say.DRILLED_FADE() if setting.drilled and setting.motorcycle else None
    return dataclasses.replace(plan, remarks=(remark, *plan.remarks), refused=refused)


def _fade_rows(setting: Setting, count: int) -> list[Row]:
    first = _row(setting, "fade", count, 110, 40, 0.5, 0.0)
    half = dataclasses.replace(first, phase="half", times=max(1, math.ceil(count / 2)))
    cool = cool_down_s(setting, stops_of([first]), first.then_mps)
    return [dataclasses.replace(first, last_s=cool), half]


def _fade_count(setting: Setting) -> int:
    """How many brakings until the pedal is up by 15 %, or one more would not be safe; at least three."""
    low, high = STOPS_IN_WINDOW, MOST_HARD
    row = _row(setting, "fade", MOST_HARD, 110, 40, 0.5, 0.0)

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


def _circuit(setting: Setting) -> Plan:
    """Laps that build up to the pace, one at it, one to cool; the pace itself is brought down to stay in the window."""
    if setting.lap is None:
        return _not_there(setting, "circuit", say.NO_CIRCUIT())
    brakings = _lap_brakings(setting.lap)
    if not brakings:
        return _not_there(setting, "circuit", say.NO_CIRCUIT())
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
    return _finished(setting, "circuit", rows)


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


def _round_m(t: np.ndarray, v: np.ndarray, end: int, until: int) -> float:
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


# --- what it comes to ---------------------------------------------------------------------------------------------


def _not_there(setting: Setting, school: str, why: Said) -> Plan:
    return Plan(
        school=school,
        rows=(),
        steps=(),
        reached=False,
        rear_reached=False,
        inside_front=0,
        inside_rear=0,
        peak_front_C=setting.case.environment.air_C,
        peak_rear_C=setting.case.environment.air_C,
        hottest_fluid_C=setting.case.environment.air_C,
        cool_down_s=0.0,
        duration_s=0.0,
        way_m=0.0,
        wear_front_mm=0.0,
        wear_rear_mm=0.0,
        limits=(),
        closed=None,
        text=why,
        needs=None,
        rear=None,
        remarks=(),
        refused=why,
        duty=None,
    )


def _finished(
    setting: Setting, school: str, rows: list[Row], *, typed: bool = False, asked: Asked | None = NOTHING
) -> Plan:
    """Rows with their cool-down, simulated from cold to parked, and everything that is said of them."""
    last = rows[-1]
    if not typed or last.last_s is None:
        cool = max(LEAST_COOL.get(school, 0.0), cool_down_s(setting, stops_of(rows), last.then_mps))
        rows = [*rows[:-1], dataclasses.replace(last, last_s=cool)]
    stops = stops_of(rows)
    result = driven(setting, stops)
    counts = {axle: inside(setting, result, axle) for axle in AXLES}
    reached, rear_reached = (counts[axle] >= STOPS_IN_WINDOW for axle in AXLES)
    items = items_of(rows)
    ends = [result.stops[item.first + item.stops - 1] for item in items]
    limits = limits_of(setting, rows, result, parked_C(setting, rows))
    return Plan(
        school=school,
        rows=tuple(rows),
        steps=tuple(
            Step(item=item, front_C=end.front_bulk_C, rear_C=end.rear_bulk_C)
            for item, end in zip(items, ends, strict=True)
        ),
        reached=reached,
        rear_reached=rear_reached,
        inside_front=counts["front"],
        inside_rear=counts["rear"],
        peak_front_C=result.front.peak_surface_C,
        peak_rear_C=result.rear.peak_surface_C,
        hottest_fluid_C=max(result.front.peak_fluid_C, result.rear.peak_fluid_C),
        cool_down_s=rows[-1].last_s or 0.0,
        duration_s=math.fsum(item.time_s for item in items),
        way_m=math.fsum(item.way_m for item in items),
        wear_front_mm=result.front.pad_wear_mm,
        wear_rear_mm=result.rear.pad_wear_mm,
        limits=limits,
        closed=_closed(schools()[school], rows),
        text=_text(setting, result, counts, reached=reached),
        needs=None if reached or asked is None else _needs(setting, school, asked, result),
        rear=None if rear_reached else _rear(setting, result),
        remarks=_remarks(setting, result),
        refused=None,
        duty=StopsDuty(kind="stops", stops=stops),
    )


def _closed(school: School, rows: Sequence[Row]) -> Said | None:
    """Why it needs a closed course; None where a quiet road will do."""
    fastest, hardest = max(row.from_mps for row in rows), max(row.decel_g for row in rows)
    if school.closed:
        return say.CLOSED_SCHOOL()
    if fastest > CLOSED_MPS + 0.1:
        return say.CLOSED_SPEED(fastest=fastest)
    return say.CLOSED_G(hardest=hardest) if hardest > CLOSED_G + 1e-9 else None


def _text(setting: Setting, result: Result, counts: dict[str, int], *, reached: bool) -> Said:
    window = {"low": setting.front.low_C, "high": setting.front.high_C}
    hottest = max(stop.front_bulk_C for stop in result.stops)
    if reached:
        return say.REACHED(inside=float(counts["front"]), hottest=hottest, **window)
    if hottest >= setting.front.low_C:
        return say.TOO_FEW(inside=float(counts["front"]), wanted=float(STOPS_IN_WINDOW), hottest=hottest, **window)
    return say.SHORT_OF(hottest=hottest, short=setting.front.low_C - hottest, **window)


def _needs(setting: Setting, school: str, asked: Asked, result: Result) -> Said:
    """What would reach the window where a series does not: harder, faster, or another school."""
    if school not in SERIES or over_top(setting, result) > 0:
        return say.NEEDS_OTHER()
    if setting.road.hard_g < setting.grip_g - 0.01:
        harder = dataclasses.replace(setting.road, hard_g=min(1.2, setting.grip_g))
        if _reaches(dataclasses.replace(setting, road=harder), school, asked):
            return say.NEEDS_HARDER(g=setting.grip_g)
    speed = FAST_STEP_MPS * math.ceil(setting.fastest_mps / FAST_STEP_MPS + 1e-6)
    while speed <= min(FASTEST_MPS, setting.machine_most_mps):
        faster = dataclasses.replace(setting.road, top_speed_mps=speed)
        if _reaches(dataclasses.replace(setting, road=faster), school, asked):
            return say.NEEDS_FASTER(speed=speed)
        speed += FAST_STEP_MPS
    return say.NEEDS_OTHER()


def _reaches(setting: Setting, school: str, asked: Asked) -> bool:
    """Whether the school's longest and closest series gets into the window at all on such a road."""
    rows = SERIES[school](setting, asked, MOST_HARD, GAPS_S[0], LEVELS[-1])
    return _fewest(setting, driven(setting, stops_of(rows)), sum(row.times for row in rows[:-1])) is not None


def _rear(setting: Setting, result: Result) -> Said:
    """How the rear gets there where the series leaves it cold."""
    hottest = max(stop.rear_bulk_C for stop in result.stops)
    places = {"rear": hottest, "low": setting.rear.low_C}
    return say.REAR_RIDER(**places) if setting.motorcycle else say.REAR(**places)


def _remarks(setting: Setting, result: Result) -> tuple[Said, ...]:
    found = []
    if result.force_limited_s > 0:
        found.append(say.PEDAL_SHORT())
    if setting.case.vehicle.regen is not None:
        found.append(say.REGEN())
    if setting.coated:
        found.append(say.COATED())
    if setting.drilled and setting.motorcycle:
        found.append(say.DRILLED())
    return tuple(found)
