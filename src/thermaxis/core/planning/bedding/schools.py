"""Schools of bedding: each fills its rows for a machine, by the engine, and keeps every limit (bed-and-life 1)."""

from __future__ import annotations

import dataclasses
import functools
import math
from collections.abc import Sequence
from dataclasses import dataclass

from thermaxis.core.errors import FieldError
from thermaxis.core.messages import bedding as say
from thermaxis.core.planning.bedding.choosing import NOTHING, Asked
from thermaxis.core.planning.bedding.filling import GAPS_S, KMH, SERIES, eased, filled, reaches
from thermaxis.core.planning.bedding.heats import FADE, fade_rows, lap_rows
from thermaxis.core.planning.bedding.judging import (
    AXLES,
    STOPS_IN_WINDOW,
    Kept,
    cool_down_s,
    driven,
    hottest_fluid_C,
    inside,
    limits_of,
    over_top,
    parked_C,
)
from thermaxis.core.planning.bedding.series import Item, Row, check_rows, items_of, stops_of
from thermaxis.core.planning.bedding.setting import Setting
from thermaxis.core.planning.bedding.state import ROAD_KM
from thermaxis.core.records import StopsDuty
from thermaxis.core.results import Result
from thermaxis.core.said import Said
from thermaxis.core.tables import rows_of

CLOSED_MPS, CLOSED_G = 100.0 * KMH, 0.5
"""A braking from more, or harder, belongs on a closed course (estimate)."""
RIDER_KM = 100.0
"""So far a rear brake is bedded in by itself (estimate)."""
LEAST_COOL = {"rising": 600.0, "speed": 900.0}
FAST_STEP_MPS, FASTEST_MPS = 10.0 * KMH, 200.0 * KMH
TRIES = 14


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
    wear_front_m: float
    wear_rear_m: float
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


def plan_school(setting: Setting, school: str, *, makers: Sequence[Row] = (), asked: Asked = NOTHING) -> Plan:
    """A school on a machine. `makers` are the leaflet's rows, driven as they stand; `asked` what its words name.

    Series: gaps from short to long; for each the fewest last brakings of which three in a row end in the front window,
    until neither face passes the top of its window and the fluid keeps 60 K; where no gap does, all of it slower and
    less hard by 0.85, and where the window is out of reach the hottest series that is safe. FieldError for a school
    there is not.
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
    gentler = setting
    for _ in range(TRIES):
        rows = filled(gentler, school, asked)
        if rows is not None:
            break
        gentler = eased(gentler)
    else:
        return _not_there(setting, school, say.NO_ROOM(high=min(setting.front.high_C, setting.rear.high_C)))
    plan = _finished(setting, school, rows, asked=asked)
    first = SERIES[school](setting, asked, 1, GAPS_S[0], 1.0)[-1]
    if rows[-1].from_mps > first.from_mps + 0.1:
        harder = say.STRONGER(speed=rows[-1].from_mps, named=first.from_mps)
        plan = dataclasses.replace(plan, remarks=(harder, *plan.remarks))
    return plan


def _fade(setting: Setting) -> Plan:
    """Medium braking close together to first fade, and what became of it; never on a motorcycle's drilled discs."""
    rows, count, rise = fade_rows(setting)
    plan = _finished(setting, "fade", rows)
    said = say.FADES if rise >= FADE else say.NO_FADE
    refused = say.DRILLED_FADE() if setting.drilled and setting.motorcycle else None
    return dataclasses.replace(
        plan, remarks=(said(rise=rise - 1.0, stops=float(count)), *plan.remarks), refused=refused
    )


def _circuit(setting: Setting) -> Plan:
    rows = lap_rows(setting, setting.lap) if setting.lap is not None else []
    return _finished(setting, "circuit", rows) if rows else _not_there(setting, "circuit", say.NO_CIRCUIT())


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
        wear_front_m=0.0,
        wear_rear_m=0.0,
        limits=(),
        closed=None,
        text=why,
        needs=None,
        rear=None,
        remarks=(),
        refused=why,
        duty=None,
    )


def _finished(setting: Setting, school: str, rows: list[Row], *, typed: bool = False, asked: Asked = NOTHING) -> Plan:
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
        hottest_fluid_C=hottest_fluid_C(result),
        cool_down_s=rows[-1].last_s or 0.0,
        duration_s=math.fsum(item.time_s for item in items),
        way_m=math.fsum(item.way_m for item in items),
        wear_front_m=result.front.pad_wear_m,
        wear_rear_m=result.rear.pad_wear_m,
        limits=limits,
        closed=_closed(schools()[school], rows),
        text=_text(setting, result, counts, reached=reached),
        needs=None if reached else _needs(setting, school, asked, result),
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
        if reaches(dataclasses.replace(setting, road=harder), school, asked):
            return say.NEEDS_HARDER(g=setting.grip_g)
    speed = FAST_STEP_MPS * math.ceil(setting.fastest_mps / FAST_STEP_MPS + 1e-6)
    while speed <= min(FASTEST_MPS, setting.machine_most_mps):
        faster = dataclasses.replace(setting.road, top_speed_mps=speed)
        if reaches(dataclasses.replace(setting, road=faster), school, asked):
            return say.NEEDS_FASTER(speed=speed)
        speed += FAST_STEP_MPS
    return say.NEEDS_OTHER()


def _rear(setting: Setting, result: Result) -> Said:
    """How the rear gets there where the series leaves it cold."""
    hottest = max(stop.rear_bulk_C for stop in result.stops)
    places = {"rear": hottest, "low": setting.rear.low_C}
    return say.REAR_RIDER(km=RIDER_KM, **places) if setting.motorcycle else say.REAR(km=ROAD_KM, **places)


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
