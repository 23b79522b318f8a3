"""A recorded run, CSV or GPX, to time and speed."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import gpxpy
import gpxpy.gpx
import numpy as np

from thermaxis.core.errors import FieldError
from thermaxis.core.planning.duty.recorded import Recording
from thermaxis.formats.speed_log import FASTEST_MPS, MOST_BAD, Array, BadRow, Table, Use, Watch, layout_of, read_table

EARTH_M = 6_371_000.0
OTHERS = ("brake_pressure", "front_temperature", "rear_temperature")


@dataclass(frozen=True, kw_only=True)
class Run:
    """What was read: the recording, other columns in SI by role, and the rows kept out."""

    recording: Recording
    others: dict[str, Array]
    rows: int
    bad: tuple[BadRow, ...]


def is_gpx(text: str) -> bool:
    """Whether a text is a GPX file."""
    return "<gpx" in text[:2000].lower()


def read_run(text: str, uses: Sequence[Use], watch: Watch | None = None) -> Run:
    """Read a run; `uses` says what the columns of a CSV hold, a GPX file says so itself. FieldError where it cannot."""
    table = read_gpx(text, watch) if is_gpx(text) else read_table(text, layout_of(text), uses, watch)
    values = table.values
    if "time" in values:
        t = values["time"]
        v = values.get("speed")
        if v is None:
            way = values["distance"] if "distance" in values else way_of(values["latitude"], values["longitude"])
            v = np.gradient(way, t)
    else:
        v = np.maximum(values["speed"], 0.0)
        t = _time_over(values["distance"], v)
    recording = Recording(
        t_s=t,
        v_mps=np.clip(v, 0.0, FASTEST_MPS),
        altitude_m=values.get("altitude"),
        latitude_deg=values.get("latitude"),
        longitude_deg=values.get("longitude"),
    )
    others = {name: column for name, column in values.items() if name in OTHERS}
    return Run(recording=recording, others=others, rows=len(t), bad=table.bad)


def _time_over(distance: Array, v: Array) -> Array:
    """Time from way and speed, `dt = 2 ds/(v0 + v1)`; a row of distance cannot say how long a vehicle stood."""
    pace = np.maximum((v[:-1] + v[1:]) / 2.0, 0.5)
    found: Array = np.concatenate([[0.0], np.cumsum(np.diff(distance) / pace)])
    return found


def way_of(latitude: Array, longitude: Array) -> Array:
    """Way in m along positions in degrees: great circles between neighbours (haversine)."""
    phi, lam = np.radians(latitude), np.radians(longitude)
    half = np.sin(np.diff(phi) / 2) ** 2 + np.cos(phi[:-1]) * np.cos(phi[1:]) * np.sin(np.diff(lam) / 2) ** 2
    steps = 2.0 * EARTH_M * np.arcsin(np.sqrt(np.clip(half, 0.0, 1.0)))
    return np.concatenate([[0.0], np.cumsum(steps)])


def read_gpx(text: str, watch: Watch | None = None) -> Table:
    """Points of a GPX 1.1 file with time stamps; points without one, or going back in time, are named and kept out."""
    if watch is not None:
        watch(0.05)
    try:
        document = gpxpy.parse(text)
    except gpxpy.gpx.GPXException as error:
        raise FieldError("file", str(error)[:120], "a readable GPX file") from None
    points = [point for track in document.tracks for segment in track.segments for point in segment.points]
    if watch is not None:
        watch(0.7)
    rows: list[tuple[float, float, float, float, float]] = []
    bad: list[BadRow] = []
    last = -math.inf
    for number, point in enumerate(points, start=1):
        if point.time is None:
            bad.append(BadRow(line=number, why="no time stamp"))
            continue
        if not (abs(point.latitude) <= 90.0 and abs(point.longitude) <= 360.0):
            bad.append(BadRow(line=number, why="no place on the earth"))
            continue
        seconds = point.time.timestamp()
        if seconds <= last:
            bad.append(BadRow(line=number, why="its time does not go on from the point before"))
            continue
        last = seconds
        rows.append((seconds, point.latitude, point.longitude, _known(point.elevation), _speed(point)))
    if len(rows) < 10 or len(bad) > MOST_BAD * len(points):
        first = f", the first is point {bad[0].line}: {bad[0].why}" if bad else ""
        raise FieldError(
            "points", f"{len(bad)} bad of {len(points)}", f"at least 10 good points, a fifth bad at most{first}"
        )
    t, latitude, longitude, height, speed = np.array(rows).T
    values = {"time": t - t[0], "latitude": latitude, "longitude": longitude}
    if not np.isnan(height).any():
        values["altitude"] = height
    if not np.isnan(speed).any():
        values["speed"] = speed
    return Table(values=values, lines=len(points), bad=tuple(bad))


def _speed(point: Any) -> float:
    """Speed in m/s a logger wrote beside the point, NaN where it did not."""
    for element in [child for extension in point.extensions for child in (extension, *extension)]:
        if element.tag.rpartition("}")[2].lower() == "speed":
            try:
                return _known(float(element.text or "nan"))
            except ValueError:
                return math.nan
    return math.nan


def _known(value: float | None) -> float:
    """The value, NaN where there is none or it is no number."""
    return value if value is not None and math.isfinite(value) else math.nan
