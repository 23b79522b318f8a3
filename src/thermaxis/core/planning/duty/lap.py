"""A point-mass lap: straights and corners, a driver level, a power limit; out comes a speed trace."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.checked import Checked, choice, number
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.convection import KELVIN, air_density
from thermaxis.core.physics.resistance import GRAVITY
from thermaxis.core.records import Environment, TraceDuty, Vehicle, check_size

Array = NDArray[np.float64]
Index = NDArray[np.intp]
STEP_M = 2.0
# The longest closed road courses are some 70 km; every 2 m of one is driven.
LONGEST_M = 100_000.0
TRACE_TOLERANCE_MPS = 0.3
EASY_MPS2 = 2.0
REST_MPS = 0.5
TRAFFIC_PACE = 0.9
COOL_DOWN_PACE = 0.6
# Into the pit or the parking place after the last lap, and back to the start of a course between its runs (estimates).
PIT_STOP_MPS2 = 3.0
BACK_MPS = 10.0


@dataclass(frozen=True, kw_only=True)
class DriverLevel:
    """Shares of the tyre's grip a driver uses (estimates; a faster group brakes later and harder)."""

    braking: float
    cornering: float
    traction: float


DRIVER_LEVELS = {
    "novice": DriverLevel(braking=0.55, cornering=0.80, traction=0.80),
    "intermediate": DriverLevel(braking=0.75, cornering=0.90, traction=0.92),
    "advanced": DriverLevel(braking=0.92, cornering=0.97, traction=0.98),
}


@dataclass(frozen=True, kw_only=True)
class Element(Checked):
    """One piece of circuit: a straight (no radius) or a corner; grade positive = up."""

    length_m: float = number(gt=0, le=20000)
    radius_m: float | None = number(None, gt=1, le=5000, optional=True)
    grade: float = number(0.0, ge=-0.4, le=0.4)


@dataclass(frozen=True, kw_only=True)
class Powertrain(Checked):
    """What accelerates the vehicle."""

    power_W: float = number(gt=0, le=2e6)
    driven: str = choice("front", "rear", "both")
    top_speed_mps: float = number(gt=1, le=150)


@dataclass(frozen=True, kw_only=True, eq=False)
class Lap:
    """One pass of a circuit as a speed trace; a lap equals only itself. `closed`: it ends where it starts."""

    t_s: Array
    v_mps: Array
    grade: Array
    length_m: float
    closed: bool

    @property
    def duration_s(self) -> float:
        """Lap time in s."""
        return float(self.t_s[-1])


def drive_lap(
    elements: tuple[Element, ...],
    vehicle: Vehicle,
    powertrain: Powertrain,
    level: str,
    environment: Environment,
    *,
    closed: bool,
) -> Lap:
    """Drive the elements as a point mass, at the grip the driver level uses.

    Corners: `v = sqrt(c mu g R)`. Braking: constant `b mu g` (never beyond 90 % of rear lift). Acceleration:
    `min(traction, P/v) - drag - rolling - grade`. A closed circuit is driven until its end meets its start; an open
    one starts from rest. Quasi-steady, so it never loads corner and brakes together: a little kind to the brakes.
    Raises FieldError for an unknown level or no elements.
    """
    if level not in DRIVER_LEVELS:
        raise FieldError("driver_level", level, "one of " + ", ".join(DRIVER_LEVELS))
    check_length(elements)
    driver = DRIVER_LEVELS[level]
    limits, grades, step_lengths = _lay_out(elements, vehicle, powertrain, driver)
    if closed:
        limits[0] = limits[-1] = min(limits[0], limits[-1])
    # A closed circuit is driven twice: the second round starts at the speed the first one ends with.
    rounds = 2 if closed else 1
    caps = np.concatenate([limits[:-1]] * (rounds - 1) + [limits])
    lengths = np.tile(step_lengths, rounds)
    start = float(caps[0]) if closed else REST_MPS
    squared = _accelerate(caps, np.tile(grades, rounds), lengths, start, vehicle, powertrain, driver, environment)
    decel = braking_decel(vehicle, driver)
    for i in range(len(squared) - 2, -1, -1):
        squared[i] = min(squared[i], squared[i + 1] + 2.0 * decel * lengths[i])
    v = np.sqrt(squared)
    if closed:
        count = len(step_lengths)
        v = v[count : 2 * count + 1]
        v[-1] = v[0]
    t = np.concatenate([[0.0], np.cumsum(2.0 * step_lengths / (v[:-1] + v[1:]))])
    return _simplify(t, v, grades, float(step_lengths.sum()), closed)


def check_length(elements: Sequence[Element]) -> None:
    """Refuse a circuit without elements or longer than any there is; lengths in m. Raises FieldError."""
    if not elements:
        raise FieldError("elements", 0, "at least one straight or corner")
    length = sum(element.length_m for element in elements)
    if length > LONGEST_M:
        raise FieldError("elements", f"{length / 1000:.0f} km", f"at most {LONGEST_M / 1000:.0f} km in all")


def braking_decel(vehicle: Vehicle, driver: DriverLevel) -> float:
    """Deceleration in m/s2 the driver brakes at: a share of grip, at most 90 % of rear lift, `(1 - phi) L/h`."""
    lift = (1.0 - vehicle.front_fraction) * vehicle.wheelbase_m / vehicle.cg_height_m
    return min(driver.braking * vehicle.tyre_grip, 0.9 * lift) * GRAVITY


def _lay_out(
    elements: tuple[Element, ...], vehicle: Vehicle, powertrain: Powertrain, driver: DriverLevel
) -> tuple[Array, Array, Array]:
    """Speed limit at each node (one more than steps), grade and length of each step."""
    limits, grades, lengths = [powertrain.top_speed_mps], [], []
    for element in elements:
        top = powertrain.top_speed_mps
        if element.radius_m is not None:
            top = min(top, math.sqrt(driver.cornering * vehicle.tyre_grip * GRAVITY * element.radius_m))
        count = max(1, round(element.length_m / STEP_M))
        limits[-1] = min(limits[-1], top)
        limits += [top] * count
        grades += [element.grade] * count
        lengths += [element.length_m / count] * count
    return np.array(limits), np.array(grades), np.array(lengths)


def _accelerate(
    caps: Array,
    grades: Array,
    lengths: Array,
    start: float,
    vehicle: Vehicle,
    powertrain: Powertrain,
    driver: DriverLevel,
    environment: Environment,
) -> Array:
    """Forward pass: squared speed at each node, limited by grip, power and the corner speeds."""
    inertia = vehicle.rotating_mass_factor * vehicle.mass_kg
    weight = vehicle.mass_kg * GRAVITY
    density = air_density(environment.air_C + KELVIN, environment.pressure_Pa)
    share = {"front": vehicle.front_fraction, "rear": 1.0 - vehicle.front_fraction, "both": 1.0}[powertrain.driven]
    traction = driver.traction * vehicle.tyre_grip * weight * share
    squared = np.empty(len(caps))
    squared[0] = start**2
    for i in range(len(lengths)):
        v = math.sqrt(squared[i])
        drive = min(traction, powertrain.power_W / max(v, 1.0))
        resist = 0.5 * density * vehicle.drag_area_m2 * v * v + vehicle.rolling_coefficient * weight
        pull = (drive - resist - weight * math.sin(math.atan(grades[i]))) / inertia
        squared[i + 1] = min(caps[i + 1] ** 2, max(1.0, squared[i] + 2.0 * pull * lengths[i]))
    return squared


def _simplify(t: Array, v: Array, grades: Array, length: float, closed: bool) -> Lap:
    """Keep the nodes that hold v(t) and every change of grade."""
    keep = np.zeros(len(t), dtype=bool)
    keep[1:-1] = np.diff(grades) != 0
    nodes = telling_points(t, v, keep)
    grade = grades[np.minimum(nodes[:-1], len(grades) - 1)]
    return Lap(t_s=t[nodes], v_mps=v[nodes], grade=grade, length_m=length, closed=closed)


def telling_points(
    t: Array, v: Array, keep: NDArray[np.bool_], tolerance_mps: float = TRACE_TOLERANCE_MPS, *, most: int | None = None
) -> Index:
    """Indices of the points that hold v(t) within a tolerance in m/s, the ends and those in `keep` among them.

    Where that takes more than `most` points, some more than `most` of them come back, which do not hold it yet.

    D. H. Douglas and T. K. Peucker, Cartographica 10 (1973), with the distance taken in speed.
    """
    keep = keep.copy()
    keep[0] = keep[-1] = True
    pending = list(itertools.pairwise(np.flatnonzero(keep)))
    count = len(pending) + 1
    while pending and (most is None or count <= most):
        low, high = pending.pop()
        if high - low < 2:
            continue
        inside = slice(low + 1, high)
        line = v[low] + (v[high] - v[low]) * (t[inside] - t[low]) / (t[high] - t[low])
        error = np.abs(v[inside] - line)
        worst = int(np.argmax(error))
        if error[worst] > tolerance_mps:
            middle = low + 1 + worst
            keep[middle] = True
            count += 1
            pending += [(low, middle), (middle, high)]
    return np.flatnonzero(keep)


def session(
    lap: Lap, laps: int, *, cool_down_laps: int = 0, soak_s: float = 0.0, pause_s: float = 0.0, traffic: float = 0.0
) -> TraceDuty:
    """Repeat a lap into a session: `laps` flat out, cool-down laps at 60 % of the speed, a stop, then a soak at rest.

    `pause_s` > 0 lies between passes (runs of a sprint or a hill-climb): back over the course where it does not end
    where it starts, the other way and so down where it went up, and standing for the rest. `traffic`, a share 0 to 1,
    is how many of the laps are driven behind someone, evenly spread, at 90 % of the speed (estimate). Raises FieldError
    where a pause is too short for the way back.
    """
    if not 0 <= traffic <= 1:
        raise FieldError("traffic", traffic, "a number >= 0 and <= 1")
    if laps < 1:
        raise FieldError("laps", laps, "a whole number >= 1")
    # Of every lap its points, the way into it, and the pause after it.
    driven = lap.duration_s * (laps / TRAFFIC_PACE + cool_down_laps / COOL_DOWN_PACE)
    back = _pause(lap, pause_s) if pause_s > 0 and laps > 1 else None
    pieces = (len(lap.t_s) + (len(back[0]) + 1 if back else 1)) * (laps + cool_down_laps) + 1
    check_size("laps", laps, pieces, driven + (pause_s + 60.0) * laps + soak_s)
    times: list[Array] = []
    speeds: list[Array] = []
    slopes: list[Array] = []
    clock = 0.0

    def add(t: Array, v: Array, grade: Array) -> None:
        nonlocal clock
        skip = 1 if times and speeds[-1][-1] == v[0] else 0
        if times and not skip:
            # Into the next part at an easy rate: the change of pace itself must not count as a hard stop.
            clock += max(1.0, abs(speeds[-1][-1] - v[0]) / EASY_MPS2)
            slopes.append(np.zeros(1))
        times.append(t[skip:] + clock)
        speeds.append(v[skip:])
        slopes.append(grade)
        clock = float(times[-1][-1])

    for index in range(laps):
        held_up = math.floor((index + 1) * traffic) > math.floor(index * traffic)
        pace = TRAFFIC_PACE if held_up else 1.0
        add(lap.t_s / pace, lap.v_mps * pace, lap.grade)
        if back and index < laps - 1:
            add(*back)
    for _ in range(cool_down_laps):
        add(lap.t_s / COOL_DOWN_PACE, lap.v_mps * COOL_DOWN_PACE, lap.grade)
    last = float(speeds[-1][-1])
    add(np.array([0.0, max(1.0, last / PIT_STOP_MPS2)]), np.array([last, 0.0]), np.zeros(1))
    return TraceDuty(
        kind="trace",
        t_s=tuple(np.concatenate(times).tolist()),
        v_mps=tuple(np.concatenate(speeds).tolist()),
        grade=tuple(np.concatenate(slopes).tolist()),
        then_s=soak_s,
        then_speed_mps=0.0,
    )


def _pause(lap: Lap, pause_s: float) -> tuple[Array, Array, Array]:
    """Time, speed and grade from the end of a pass to its next start: slow down, drive back if need be, stand."""
    end = float(lap.v_mps[-1])
    if lap.closed:
        stopping = max(1.0, end / PIT_STOP_MPS2)
        return _until(pause_s, stopping, np.array([0.0, stopping]), np.array([end, 0.0]), np.zeros(1))
    slowing = max(1.0, abs(end - BACK_MPS) / PIT_STOP_MPS2)
    metres = np.diff(lap.t_s) * (lap.v_mps[1:] + lap.v_mps[:-1]) / 2.0
    steps = metres[::-1] / BACK_MPS
    stopping = BACK_MPS / PIT_STOP_MPS2
    t = np.concatenate([[0.0], np.cumsum([slowing, *steps, stopping])])
    v = np.concatenate([[end], np.full(len(steps) + 1, BACK_MPS), [0.0]])
    grade = np.concatenate([np.zeros(1), -lap.grade[::-1], np.zeros(1)])
    return _until(pause_s, float(t[-1]), t, v, grade)


def _until(pause_s: float, needed_s: float, t: Array, v: Array, grade: Array) -> tuple[Array, Array, Array]:
    """Stand for what is left of a pause."""
    if needed_s > pause_s:
        raise FieldError("pause_s", pause_s, f"0, or at least {math.ceil(needed_s)}: so long takes the way back")
    if pause_s - needed_s < 1.0:
        return t, v, grade
    return np.append(t, pause_s), np.append(v, 0.0), np.append(grade, 0.0)
