"""A logger that records a run and delivers it as a file; the stand-in simulates one with noise and drop-outs."""

from __future__ import annotations

import datetime as dt
import math
from dataclasses import dataclass
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.checked import Checked, number
from thermaxis.core.records import TraceDuty

Array = NDArray[np.float64]
# An invented place: open sea, so that nobody looks for a circuit there.
LATITUDE, LONGITUDE = 50.0, -30.0
METRES_PER_DEGREE = 111_195.0


@dataclass(frozen=True, kw_only=True)
class Delivery:
    """What a logger hands over: a file's name and its bytes."""

    name: str
    content: bytes


class RunLogger(Protocol):
    """Whatever records runs; the application only ever sees the file."""

    def deliver(self) -> Delivery:
        """Hand over the last run."""


@dataclass(frozen=True, kw_only=True)
class LoggerSettings(Checked):
    """How the stand-in records: rate in Hz, speed noise in m/s, drop-outs an hour of about 2 s each, spikes an hour."""

    rate_Hz: float = number(10.0, ge=1, le=25)
    noise_mps: float = number(0.15, ge=0, le=2)
    drop_outs_per_hour: float = number(20.0, ge=0, le=600)
    spikes_per_hour: float = number(10.0, ge=0, le=600)


class StandInLogger:
    """Records a known run as a satellite logger would see it: CSV with km/h, altitude and position, or GPX."""

    def __init__(
        self, run: TraceDuty, settings: LoggerSettings, *, seed: int, kind: str = "csv", loop_m: float = 1300.0
    ) -> None:
        self.run, self.settings, self.kind, self.loop_m = run, settings, kind, loop_m
        self._random = np.random.default_rng(seed)

    def deliver(self) -> Delivery:
        """The run with noise, drop-outs and spikes; the same seed gives the same bytes."""
        t, v = self._readings()
        north, east, height = self._place()
        at = [np.interp(t, self._fine_t, column) for column in (north, east, height)]
        write = self._gpx if self.kind == "gpx" else self._csv
        return Delivery(name=f"run.{self.kind}", content=write(t, v, *at).encode("utf-8"))

    def _readings(self) -> tuple[Array, Array]:
        settings, random = self.settings, self._random
        t = np.arange(0.0, self.run.t_s[-1], 1.0 / settings.rate_Hz)
        v = np.interp(t, self.run.t_s, self.run.v_mps)
        v = np.clip(v + random.normal(0.0, settings.noise_mps, len(t)), 0.0, None) if settings.noise_mps else v
        hours = float(t[-1]) / 3600.0
        for at in random.uniform(0, len(t), random.poisson(settings.spikes_per_hour * hours)).astype(int):
            v[at] = max(0.0, v[at] + random.choice([-1.0, 1.0]) * random.uniform(8.0, 25.0))
        keep = np.ones(len(t), dtype=bool)
        for at in random.uniform(0, float(t[-1]), random.poisson(settings.drop_outs_per_hour * hours)):
            keep &= (t < at) | (t > at + random.uniform(0.8, 3.0))
        return t[keep], v[keep]

    def _place(self) -> tuple[Array, Array, Array]:
        """North, east and height in m along the run: a ring as long as a lap, whatever the circuit's shape."""
        self._fine_t = np.arange(0.0, self.run.t_s[-1] + 0.1, 0.1)
        v = np.interp(self._fine_t, self.run.t_s, self.run.v_mps)
        way = np.cumsum(v) * 0.1
        climb = np.zeros(len(way))
        if self.run.grade:
            slope = np.array(self.run.grade)[
                np.clip(np.searchsorted(self.run.t_s, self._fine_t, side="right") - 1, 0, len(self.run.grade) - 1)
            ]
            climb = np.cumsum(v * slope) * 0.1
        radius = self.loop_m / (2.0 * math.pi)
        angle = way / radius
        return radius * np.sin(angle), radius * (1.0 - np.cos(angle)), 120.0 + climb

    def _csv(self, t: Array, v: Array, north: Array, east: Array, height: Array) -> str:
        lines = ["Time (s),Speed (km/h),Altitude (m),Latitude,Longitude"]
        for row in zip(t, v * 3.6, height, LATITUDE + north / METRES_PER_DEGREE, self._longitude(east), strict=True):
            lines.append("{:.2f},{:.2f},{:.1f},{:.7f},{:.7f}".format(*row))
        return "\n".join(lines) + "\n"

    def _gpx(self, t: Array, v: Array, north: Array, east: Array, height: Array) -> str:
        began = dt.datetime(2026, 1, 1, 10, tzinfo=dt.UTC)
        points = [
            f'<trkpt lat="{lat:.7f}" lon="{lon:.7f}"><ele>{up:.1f}</ele>'
            f"<time>{(began + dt.timedelta(seconds=float(s))).isoformat(timespec='milliseconds')}</time>"
            f"<extensions><speed>{speed:.3f}</speed></extensions></trkpt>"
            for s, speed, lat, lon, up in zip(
                t, v, LATITUDE + north / METRES_PER_DEGREE, self._longitude(east), height, strict=True
            )
        ]
        head = '<?xml version="1.0" encoding="UTF-8"?>\n<gpx version="1.1" creator="stand-in" '
        head += 'xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>\n'
        return head + "\n".join(points) + "\n</trkseg></trk></gpx>\n"

    def _longitude(self, east: Array) -> Array:
        found: Array = LONGITUDE + east / (METRES_PER_DEGREE * math.cos(math.radians(LATITUDE)))
        return found
