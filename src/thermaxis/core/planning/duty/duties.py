"""Duties put together from what a person knows: a pass in sections, a week of driving, a day with an event in it."""

from __future__ import annotations

import dataclasses
import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.checked import Checked, choice, number
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.resistance import GRAVITY
from thermaxis.core.physics.schedule import STANDSTILL_MPS
from thermaxis.core.planning.duty.lap import EASY_MPS2
from thermaxis.core.records import DescentDuty, Duty, Stop, StopsDuty, TraceDuty, Trailer, Vehicle, check_size

Array = NDArray[np.float64]
PULL_AWAY_MPS2 = 1.2
SECTION_STOP_MPS2 = 2.5
STANDING_S = 4.0
GEARS = {"usual": 1.0, "one_lower": 1.5, "two_lower": 2.2}
"""Engine braking against that in the usual gear (estimate: it grows about with engine speed, a step being 1.5)."""


@dataclass(frozen=True, kw_only=True)
class Section(Checked):
    """A piece of a descent: grade positive = down; `stops` are spread evenly over it, each to rest."""

    length_m: float = number(gt=0, le=100000)
    grade: float = number(ge=-0.3, le=0.4)
    speed_mps: float = number(gt=0.5, le=60)
    stops: int = number(0, ge=0, le=200, whole=True)
    gear: str = choice(*GEARS, default="usual")


class _Pen:
    """Draws a speed trace: time, speed, and the grade of each interval (positive = up)."""

    def __init__(self, speed: float) -> None:
        self.t, self.v, self.grade = [0.0], [speed], list[float]()

    def to(self, seconds: float, speed: float, grade: float) -> None:
        if seconds > 1e-9:
            self.t.append(self.t[-1] + seconds)
            self.v.append(speed)
            self.grade.append(grade)

    def hold(self, metres: float, grade: float) -> None:
        self.to(metres / max(self.v[-1], 1e-9) if metres > 0 else 0.0, self.v[-1], grade)

    def trace(self, then_s: float, then_speed_mps: float) -> TraceDuty:
        return TraceDuty(
            kind="trace",
            t_s=tuple(self.t),
            v_mps=tuple(self.v),
            grade=tuple(self.grade),
            then_s=then_s,
            then_speed_mps=then_speed_mps,
        )


def grade_in_gear(grade: float, gear: str, vehicle: Vehicle, trailer: Trailer | None) -> float:
    """The grade (rise over run, positive uphill) that asks in the usual gear for what `gear` leaves to the brakes.

    A lower gear holds `(factor - 1) F_engine` more; as a case has one engine braking for the whole duty, it is written
    as `sin theta' = sin theta + (factor - 1) F_engine/((m + (1 - s_t) m_t) g)`, held within +-0.4. Raises FieldError
    for a gear that is not in `GEARS`.
    """
    if gear not in GEARS:
        raise FieldError("gear", gear, "one of " + ", ".join(GEARS))
    if gear == "usual":
        return grade
    mass = vehicle.mass_kg + (trailer.mass_kg * (1.0 - trailer.brake_share) if trailer else 0.0)
    holding = (GEARS[gear] - 1.0) * vehicle.engine_braking_N / (mass * GRAVITY)
    return math.tan(math.asin(max(-0.4, min(0.4, math.sin(math.atan(grade)) + holding))))


def descent_in_sections(
    sections: Sequence[Section], vehicle: Vehicle, trailer: Trailer | None, *, then_s: float, then_speed_mps: float
) -> TraceDuty:
    """Drive the sections one after the other: steady speeds, easy changes between them, stops to rest; a trace record.

    A lower gear is written as the grade that does the same (`grade_in_gear`).
    Raises FieldError where a section is too short for its stops or its change of speed.
    """
    if not sections:
        raise FieldError("sections", 0, "at least one section")
    driven = sum(section.length_m / section.speed_mps + 60.0 * section.stops for section in sections)
    check_size("sections", len(sections), sum(2 + 4 * section.stops for section in sections), driven + then_s)
    pen = _Pen(sections[0].speed_mps)
    for index, section in enumerate(sections):
        try:
            _draw_section(pen, section, grade_in_gear(-section.grade, section.gear, vehicle, trailer))
        except FieldError as error:
            raise error.under(f"sections[{index}]") from None
    if then_s > 0 and then_speed_mps == 0.0:
        pen.to(pen.v[-1] / SECTION_STOP_MPS2, 0.0, 0.0)
    return pen.trace(then_s, then_speed_mps)


def _draw_section(pen: _Pen, section: Section, grade: float) -> None:
    before, v = pen.v[-1], section.speed_mps
    rate = SECTION_STOP_MPS2 / 2.0 if v < before else PULL_AWAY_MPS2
    change_s = abs(v - before) / rate
    left = section.length_m - change_s * (v + before) / 2.0
    if left < 0:
        raise FieldError("length_m", section.length_m, f"long enough to change from {before:.1f} to {v:.1f} m/s")
    pen.to(change_s, v, grade)
    per_stop = v * v / 2.0 * (1.0 / SECTION_STOP_MPS2 + 1.0 / PULL_AWAY_MPS2)
    if section.stops * per_stop > left:
        raise FieldError("stops", section.stops, f"at most {int(left / per_stop)} on what is left of this section")
    between = (left - section.stops * per_stop) / (section.stops + 1)
    for _ in range(section.stops):
        pen.hold(between, grade)
        pen.to(v / SECTION_STOP_MPS2, 0.0, grade)
        pen.to(STANDING_S, 0.0, grade)
        pen.to(v / PULL_AWAY_MPS2, v, grade)
    pen.hold(between, grade)


@dataclass(frozen=True, kw_only=True)
class Road:
    """How a kind of road is driven (estimates): brakings per km from one speed to another, and the pace between."""

    per_km: float
    from_mps: float
    to_mps: float
    decel_mps2: float
    pace_mps: float


ROADS = {
    "town": (
        Road(per_km=1.3, from_mps=12.5, to_mps=0.0, decel_mps2=1.8, pace_mps=10.0),
        Road(per_km=1.0, from_mps=13.0, to_mps=6.0, decel_mps2=1.5, pace_mps=10.0),
    ),
    "rural": (
        Road(per_km=0.35, from_mps=23.0, to_mps=12.0, decel_mps2=1.8, pace_mps=20.0),
        Road(per_km=0.12, from_mps=22.0, to_mps=0.0, decel_mps2=1.8, pace_mps=20.0),
    ),
    "motorway": (Road(per_km=0.08, from_mps=31.0, to_mps=20.0, decel_mps2=1.6, pace_mps=29.0),),
}


@dataclass(frozen=True, kw_only=True)
class Week(Checked):
    """A usual week of driving: km on each kind of road, and on how many days."""

    town_km: float = number(ge=0, le=5000)
    rural_km: float = number(ge=0, le=10000)
    motorway_km: float = number(ge=0, le=10000)
    days: int = number(5, ge=1, le=7, whole=True)

    def check(self) -> None:
        if self.km <= 0:
            raise FieldError("town_km", self.town_km, "some distance on at least one kind of road")

    @property
    def by_road(self) -> dict[str, float]:
        """Distance of the week in km by the kind of road, as `ROADS` names them."""
        return {"town": self.town_km, "rural": self.rural_km, "motorway": self.motorway_km}

    @property
    def km(self) -> float:
        """Distance of the week in km."""
        return self.town_km + self.rural_km + self.motorway_km


def driving_day(week: Week) -> StopsDuty:
    """One driving day of the week as stops: half of the town, the country, the motorway, the other half of the town.

    Counts are rounded, at least one where a road is driven at all; `ROADS` are estimates. Returns a stops record.
    """
    stop_count = sum(road.per_km * km for name, km in week.by_road.items() for road in ROADS[name]) / week.days
    hours = sum(km / ROADS[name][0].pace_mps / 3.6 for name, km in week.by_road.items()) / week.days
    check_size("town_km", f"{week.km:g} in {week.days} days", 2 * stop_count, 3600.0 * hours)
    town, rural, motorway = (
        [_brakings(road, km / week.days) for road in ROADS[name]] for name, km in week.by_road.items()
    )
    streets = _mixed(town)
    half = len(streets) // 2
    stops = (*streets[:half], *_mixed(rural), *_mixed(motorway), *streets[half:])
    return StopsDuty(kind="stops", stops=stops, repeat=1)


def with_soak(duty: StopsDuty, soak_s: float) -> StopsDuty:
    """The stops, then a gentle one to rest where it still rolls, and `soak_s` seconds parked: a stops record."""
    if soak_s <= 0:
        return duty
    *before, last = duty.stops * duty.repeat
    if last.then_speed_mps <= 0:
        return StopsDuty(kind="stops", stops=(*before, dataclasses.replace(last, then_s=max(last.then_s, soak_s))))
    parking = Stop(
        from_mps=last.then_speed_mps, to_mps=0.0, decel_mps2=SECTION_STOP_MPS2, then_s=soak_s, then_speed_mps=0.0
    )
    return StopsDuty(kind="stops", stops=(*before, last, parking))


def _brakings(road: Road, km: float) -> list[Stop]:
    if km <= 0:
        return []
    count = max(1, round(road.per_km * km))
    stop = Stop(
        from_mps=road.from_mps,
        to_mps=road.to_mps,
        decel_mps2=road.decel_mps2,
        then_s=1000.0 * km / count / road.pace_mps,
        then_speed_mps=road.pace_mps,
    )
    return [stop] * count


def _mixed(kinds: list[list[Stop]]) -> list[Stop]:
    """Rows of stops woven into one, each kind evenly; what shares a road shares its time."""
    shared = [[dataclasses.replace(stop, then_s=stop.then_s / len(kinds)) for stop in row] for row in kinds]
    placed = [((i + 0.5) / len(row), kind, stop) for kind, row in enumerate(shared) for i, stop in enumerate(row)]
    return [stop for _, _, stop in sorted(placed, key=lambda entry: entry[:2])]


@dataclass(frozen=True, kw_only=True)
class Part:
    """One duty of a combined one, driven `times` times, parked `gap_s` seconds after each."""

    duty: Duty
    times: int
    gap_s: float


def combined(parts: Sequence[Part]) -> TraceDuty:
    """Several duties one after the other as one trace record: the drive there, sessions with gaps, the drive home.

    Stops become the speed they ask for (nominal deceleration), a descent its steady speed, and what a duty says
    about the time after it is kept. Between parts the speed changes at an easy rate. Raises FieldError without parts.
    """
    if not parts:
        raise FieldError("parts", 0, "at least one duty")
    traces = [as_trace(part.duty) for part in parts]
    pieces = seconds = 0.0
    for part, trace in zip(parts, traces, strict=True):
        pieces += part.times * (len(trace.t_s) + 3)
        seconds += part.times * (trace.t_s[-1] - trace.t_s[0] + part.gap_s)
    check_size("parts", len(parts), pieces, seconds)
    times: list[Array] = []
    speeds: list[Array] = []
    grades: list[Array] = []
    clock = 0.0
    for part, trace in zip(parts, traces, strict=True):
        t, v = np.array(trace.t_s), np.array(trace.v_mps)
        grade = np.array(trace.grade) if trace.grade else np.zeros(len(t) - 1)
        for _ in range(part.times):
            if speeds:
                clock += max(1.0, abs(speeds[-1][-1] - v[0]) / EASY_MPS2)
                grades.append(np.zeros(1))
            times.append(t - t[0] + clock)
            speeds.append(v)
            grades.append(grade)
            clock = float(times[-1][-1])
            if part.gap_s > 0:
                slow = float(v[-1]) / EASY_MPS2
                times.append(clock + np.array([max(slow, 0.1), max(slow, 0.1) + part.gap_s]))
                speeds.append(np.zeros(2))
                grades.append(np.zeros(2))
                clock = float(times[-1][-1])
    return TraceDuty(
        kind="trace",
        t_s=tuple(np.concatenate(times).tolist()),
        v_mps=tuple(np.concatenate(speeds).tolist()),
        grade=tuple(np.concatenate(grades).tolist()),
    )


def as_trace(duty: Duty) -> TraceDuty:
    """Any duty as a trace record that asks for the same speeds, the time after it included."""
    if isinstance(duty, TraceDuty):
        if duty.then_s <= 0:
            return duty
        pen = _Pen(duty.v_mps[0])
        pen.t, pen.v = list(duty.t_s), list(duty.v_mps)
        pen.grade = list(duty.grade or [0.0] * (len(duty.t_s) - 1))
        _drive_on(pen, duty.then_speed_mps, duty.then_s)
    elif isinstance(duty, DescentDuty):
        pen = _Pen(duty.speed_mps)
        pen.to(duty.duration_s, duty.speed_mps, -duty.grade)
        _drive_on(pen, duty.then_speed_mps, duty.then_s)
    else:
        pen = _Pen(duty.stops[0].from_mps)
        for stop in duty.stops * duty.repeat:
            _drive_on(pen, stop.from_mps, 0.0)
            end = 0.0 if stop.to_mps <= STANDSTILL_MPS else stop.to_mps
            pen.to((stop.from_mps - end) / stop.decel_mps2, end, stop.grade)
            _drive_on(pen, stop.then_speed_mps, stop.then_s)
    return pen.trace(0.0, 0.0)


def _drive_on(pen: _Pen, speed: float, seconds: float) -> None:
    """Change to a speed at an easy rate, and hold it for the rest of the time given."""
    change = abs(speed - pen.v[-1]) / EASY_MPS2
    pen.to(change, speed, 0.0)
    pen.to(seconds - change, speed, 0.0)
