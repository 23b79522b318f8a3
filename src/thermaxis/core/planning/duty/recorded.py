"""From a recorded speed to a duty: gaps, spikes, standing, smoothing, braking events, laps."""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.linalg import solve_banded

from thermaxis.core.checked import Checked, choice
from thermaxis.core.errors import FieldError
from thermaxis.core.messages import machine as say
from thermaxis.core.planning.duty.lap import Index, telling_points
from thermaxis.core.records import MOST_HOURS, MOST_SEGMENTS, TraceDuty
from thermaxis.core.results import Remark

Array = NDArray[np.float64]
SMOOTHING_S = {"none": 0.0, "light": 0.5, "medium": 0.9, "strong": 1.8}
"""Width of the window a local parabola is fitted in, in s."""
STEP_S = 0.1
SPIKE_WINDOW_S, SPIKE_MPS, SPIKE_MPS2 = 1.5, 2.0, 20.0
STANDING_MPS, STANDING_S = 0.7, 2.0
GAP_S = 1.5
SLOW_S = 0.4
BRAKING_MPS2, BRAKING_LOSS_MPS, BRAKING_S = 1.2, 3.0, 0.5
GRADE_BASE_M, STEEPEST = 120.0, 0.3
TOLERANCE_MPS = 0.4
FASTEST_HZ = 50.0
MEDIAN_PIECE = 20_000
# Laps are looked for by correlation over the whole way: nobody drives further on one circuit in an event.
LONGEST_WAY_M = 3e6


@dataclass(frozen=True, kw_only=True)
class Recording:
    """Speed in m/s over time in s, rising; altitude in m and position in degrees where they were recorded."""

    t_s: Array
    v_mps: Array
    altitude_m: Array | None = None
    latitude_deg: Array | None = None
    longitude_deg: Array | None = None


@dataclass(frozen=True, kw_only=True)
class Handling(Checked):
    """How a recording is smoothed; `auto` chooses by its noise."""

    smoothing: str = choice("auto", *SMOOTHING_S, default="auto")


@dataclass(frozen=True, kw_only=True)
class Braking:
    """One braking found: when, from which to which speed, and the mean deceleration."""

    at_s: float
    seconds: float
    from_mps: float
    to_mps: float
    decel_mps2: float


@dataclass(frozen=True, kw_only=True)
class RecordedLap:
    """One lap: when it began and how long it took, in s."""

    at_s: float
    seconds: float


@dataclass(frozen=True, kw_only=True)
class Cleaned:
    """A recording made fit to compute with, and everything that was done to it."""

    duty: TraceDuty
    t_s: Array
    v_mps: Array
    rate_Hz: float
    noise_mps: float
    smoothing: str
    spikes: int
    gaps: int
    gap_s: float
    standing_s: float
    distance_m: float
    brakings: tuple[Braking, ...]
    laps: tuple[RecordedLap, ...]
    remarks: tuple[Remark, ...]


def clean(recording: Recording, handling: Handling) -> Cleaned:
    """Make a duty of a recording of 1 to 25 Hz, a record that tells what was done.

    Spikes (more than `SPIKE_MPS` off the median of 1.5 s, and there and back faster than any tyre can change speed, or
    six robust deviations further off) give way to that median; gaps are bridged by a monotone cubic and counted;
    standing still is made exactly that; then a local parabola (A. Savitzky and M. J. E. Golay, Anal. Chem. 36 (1964))
    takes the noise out, its window by the noise found unless chosen. Raises FieldError for less than 10 s or rows that
    do not move.
    """
    t = recording.t_s - recording.t_s[0]
    if len(t) < 10 or t[-1] < 10.0:
        raise FieldError("rows", len(t), "at least 10 rows over at least 10 s")
    if t[-1] > 3600.0 * MOST_HOURS:
        raise FieldError("time", f"{t[-1] / 3600.0:.0f} h", f"at most {MOST_HOURS} h from the first row to the last")
    t, recorded = _paced(t, recording.v_mps)
    steps = np.diff(t)
    step = float(np.median(steps))
    v, spikes = _without_spikes(t, recorded, step)
    if float(v.max()) < 2.0:
        raise FieldError("speed", round(float(v.max()), 2), "a speed that gets above 2 m/s: is its unit right?")
    missing = steps > max(GAP_S, 2.5 * step)
    gap_s = float(steps[missing].sum())
    noise = _noise(v)
    smoothing = _chosen(noise, step) if handling.smoothing == "auto" else handling.smoothing
    grid = np.arange(0.0, t[-1] + STEP_S / 2, STEP_S)
    # Loaded here and below only: they take a second, which each start of a program would wait for.
    from scipy.interpolate import PchipInterpolator

    even = np.clip(PchipInterpolator(t, v)(grid), 0.0, None)
    smooth = np.clip(_smoothed(even, SMOOTHING_S[smoothing], step), 0.0, None)
    standing = _standing(smooth)
    smooth[standing] = 0.0
    own_t = recording.t_s - recording.t_s[0]
    grade = _grades(recording, own_t, grid, smooth)
    return Cleaned(
        duty=_duty(grid, even, smooth, grade, standing, noise if smoothing != "none" else 0.0),
        t_s=grid,
        v_mps=smooth,
        rate_Hz=1.0 / step,
        noise_mps=noise,
        smoothing=smoothing,
        spikes=spikes,
        gaps=int(missing.sum()),
        gap_s=gap_s,
        standing_s=float(standing.sum() * STEP_S),
        distance_m=float(smooth.sum() * STEP_S),
        brakings=_brakings(grid, smooth),
        laps=_laps(recording, own_t, grid, smooth),
        remarks=_remarks(step, gap_s, t[-1]),
    )


def _remarks(step: float, gap_s: float, whole_s: float) -> tuple[Remark, ...]:
    """What the recording itself takes away from the answer."""
    found = []
    if step >= SLOW_S:
        found.append(Remark(code="slow", text=say.SLOW_RECORDING(rate=1.0 / step)))
    if gap_s > 0.1 * whole_s:
        found.append(Remark(code="gaps", text=say.GAPS(share=gap_s / whole_s)))
    return tuple(found)


def _paced(t: Array, v: Array) -> tuple[Array, Array]:
    """Readings at no more than `FASTEST_HZ`: of a faster logger the means of neighbours, which also takes noise out."""
    count = math.floor(1.0 / (FASTEST_HZ * max(1e-9, float(np.median(np.diff(t))))))
    if count < 2 or len(t) < 20 * count:
        return t, v
    whole = len(t) // count * count
    return t[:whole].reshape(-1, count).mean(axis=1), v[:whole].reshape(-1, count).mean(axis=1)


def _without_spikes(t: Array, v: Array, step: float) -> tuple[Array, int]:
    half = max(2, round(SPIKE_WINDOW_S / step / 2.0)) if step < 1.0 else 1
    padded = np.pad(v, half, mode="edge")
    windows = np.lib.stride_tricks.sliding_window_view(padded, 2 * half + 1)
    median, spread = np.empty(len(v)), np.empty(len(v))
    # A median copies its windows: a piece at a time, so that memory does not grow with the length of a run.
    for low in range(0, len(v), MEDIAN_PIECE):
        piece = slice(low, low + MEDIAN_PIECE)
        median[piece] = np.median(windows[piece], axis=1)
        spread[piece] = 1.4826 * np.median(np.abs(windows[piece] - median[piece, None]), axis=1)
    off = np.abs(v - median)
    before, after = np.diff(v, prepend=v[0]), np.diff(v, append=v[-1])
    seconds = np.diff(t, prepend=t[0] - step)
    # There and back again faster than a tyre can do it, or far outside of what stands around it.
    jumps = (np.abs(before) > SPIKE_MPS2 * seconds) & (before * after < 0)
    # A slow logger has too few neighbours to tell a corner from a spike by its median: there only a jump counts.
    far = off > 6.0 * spread + SPIKE_MPS if step < SLOW_S else np.zeros(len(v), dtype=bool)
    # A leap there and back is one at any pace; further off than the pace explains may last longer than one reading.
    wrong = (off > SPIKE_MPS) & (jumps | far)
    out = v.copy()
    out[wrong] = median[wrong]
    return out, int(wrong.sum())


def _noise(v: Array) -> float:
    """Standard deviation in m/s of what cannot be motion: of third differences, whose variance is 20 of one reading."""
    third = np.diff(v, 3)
    return float(1.4826 * np.median(np.abs(third)) / math.sqrt(20.0)) if len(third) else 0.0


def _chosen(noise: float, step: float) -> str:
    """Smoothing by the noise; a slow logger gets none: between its readings motion and noise cannot be told apart."""
    if step >= SLOW_S:
        return "none"
    most = {"none": 0.03, "light": 0.25, "medium": 0.6, "strong": math.inf}
    return next(name for name, limit in most.items() if noise <= limit)


def _smoothed(even: Array, window_s: float, step: float) -> Array:
    # A window never narrower than five readings of the logger: below that a parabola follows the noise.
    width = 2 * round(max(window_s, 4.0 * step if window_s > 0 else 0.0) / STEP_S / 2.0) + 1
    if width < 5 or width >= len(even):
        return even.copy()
    from scipy.signal import savgol_filter

    smoothed: Array = savgol_filter(even, width, 2, mode="nearest")
    return smoothed


def _standing(v: Array) -> NDArray[np.bool_]:
    slow = v < STANDING_MPS
    edges = np.flatnonzero(np.diff(np.concatenate([[0], slow.view(np.int8), [0]])))
    found = np.zeros(len(v), dtype=bool)
    for low, high in zip(edges[::2], edges[1::2], strict=True):
        if (high - low) * STEP_S >= STANDING_S:
            found[low:high] = True
    return found


def _grades(recording: Recording, t: Array, grid: Array, v: Array) -> Array | None:
    """Slope over `GRADE_BASE_M` of way, positive = up; standing still has the slope of the place."""
    if recording.altitude_m is None:
        return None
    way = np.cumsum(v) * STEP_S
    height = np.interp(grid, t, recording.altitude_m)
    places = np.arange(0.0, way[-1] + 1.0, 10.0)
    if len(places) < 4:
        return np.zeros(len(grid))
    moving = np.concatenate([[True], np.diff(way) > 1e-6])
    profile = np.interp(places, way[moving], height[moving])
    half = int(GRADE_BASE_M / 10.0 / 2.0)
    width = 2 * half + 1
    averaged = np.convolve(np.pad(profile, half, mode="edge"), np.full(width, 1.0 / width), mode="valid")
    slope = np.clip(np.gradient(averaged, 10.0), -STEEPEST, STEEPEST)
    found: Array = np.round(np.interp(way, places, slope), 2)
    return found


def _duty(
    grid: Array, even: Array, v: Array, grade: Array | None, standing: NDArray[np.bool_], noise: float
) -> TraceDuty:
    """Straight pieces of speed: their ends where the smoothed speed bends, their heights fitted to the readings.

    Smoothing alone would round every corner speed up and every top speed down, and take energy out of the brakes.
    """
    keep = np.zeros(len(grid), dtype=bool)
    keep[1:-1] = standing[1:-1] & ~(standing[:-2] & standing[2:])
    if grade is not None:
        keep[1:] |= np.diff(grade) != 0
    if keep.sum() > MOST_SEGMENTS // 2:
        keep[:] = False
    tolerance = TOLERANCE_MPS + noise
    # A speed that never stays on a line for long is held less closely instead of at any length.
    while len(nodes := telling_points(grid, v, keep, tolerance, most=MOST_SEGMENTS)) > MOST_SEGMENTS:
        tolerance *= 2.0
    # At a standstill's edge the readings are of the car rolling out: what stands, stands.
    still = standing[nodes]
    heights = np.where(still, 0.0, np.clip(_fitted(grid, np.where(standing, 0.0, even), nodes), 0.0, None))
    return TraceDuty(
        kind="trace",
        t_s=tuple(np.round(grid[nodes], 3).tolist()),
        v_mps=tuple(np.round(heights, 4).tolist()),
        grade=None if grade is None else tuple(grade[nodes[:-1]].tolist()),
    )


def _fitted(t: Array, v: Array, nodes: Index) -> Array:
    """Heights at the nodes of the broken line that is nearest to all readings (least squares, a tridiagonal system)."""
    piece = np.clip(np.searchsorted(nodes, np.arange(len(t)), side="right") - 1, 0, len(nodes) - 2)
    share = (t - t[nodes[piece]]) / (t[nodes[piece + 1]] - t[nodes[piece]])
    count = len(nodes)
    bands = np.zeros((3, count))
    np.add.at(bands[1], piece, (1.0 - share) ** 2)
    np.add.at(bands[1], piece + 1, share**2)
    np.add.at(bands[0], piece + 1, share * (1.0 - share))
    bands[2, :-1] = bands[0, 1:]
    right = np.zeros(count)
    np.add.at(right, piece, v * (1.0 - share))
    np.add.at(right, piece + 1, v * share)
    # A touch of the reading itself keeps a node whose pieces hold no reading between them from being free.
    bands[1] += 1e-6
    right += 1e-6 * v[nodes]
    found: Array = solve_banded((1, 1), bands, right)
    return found


def _brakings(t: Array, v: Array) -> tuple[Braking, ...]:
    slope = np.gradient(v, STEP_S)
    braking = slope < -BRAKING_MPS2
    edges = np.flatnonzero(np.diff(np.concatenate([[0], braking.view(np.int8), [0]])))
    found = []
    for low, high in zip(edges[::2], edges[1::2], strict=True):
        last = min(high, len(v) - 1)
        loss, seconds = float(v[low] - v[last]), float(t[last] - t[low])
        if loss >= BRAKING_LOSS_MPS and seconds >= BRAKING_S:
            found.append(
                Braking(
                    at_s=float(t[low]),
                    seconds=seconds,
                    from_mps=float(v[low]),
                    to_mps=float(v[last]),
                    decel_mps2=loss / seconds,
                )
            )
    return tuple(found)


def _laps(recording: Recording, t: Array, grid: Array, v: Array) -> tuple[RecordedLap, ...]:
    if recording.latitude_deg is not None and recording.longitude_deg is not None:
        marks = _passes(recording.latitude_deg, recording.longitude_deg, t, grid, v)
    else:
        marks = _repeats(grid, v)
    return tuple(RecordedLap(at_s=low, seconds=high - low) for low, high in itertools.pairwise(marks))


def _passes(latitude: Array, longitude: Array, t: Array, grid: Array, v: Array) -> list[float]:
    """Times at which the vehicle passes the place where it first went at half its greatest speed, in that direction."""
    radius = 6_371_000.0
    north = np.interp(grid, t, np.radians(latitude)) * radius
    east = np.interp(grid, t, np.radians(longitude)) * radius * math.cos(math.radians(float(np.median(latitude))))
    start = int(np.argmax(v > 0.5 * v.max()))
    ahead = min(len(grid) - 1, start + 10)
    way = np.array([north[ahead] - north[start], east[ahead] - east[start]])
    way /= max(1e-9, float(np.hypot(*way)))
    along = (north - north[start]) * way[0] + (east - east[start]) * way[1]
    across = np.abs((north - north[start]) * way[1] - (east - east[start]) * way[0])
    near = (across < 30.0) & (np.abs(along) < 60.0)
    crossing = np.flatnonzero((along[:-1] < 0) & (along[1:] >= 0) & near[:-1])
    marks = [float(grid[start])]
    for index in crossing:
        if grid[index] - marks[-1] > 20.0:
            share = -along[index] / max(1e-9, along[index + 1] - along[index])
            marks.append(float(grid[index] + share * STEP_S))
    return marks if len(marks) > 1 else []


def _repeats(grid: Array, v: Array) -> list[float]:
    """Lap marks where the speed over the way repeats itself: the shortest lag with a correlation above 0.8."""
    way = np.cumsum(v) * STEP_S
    if not 600.0 <= way[-1] <= LONGEST_WAY_M:
        return []
    moving = np.concatenate([[True], np.diff(way) > 1e-6])
    places = np.arange(0.0, way[-1], 5.0)
    profile = np.interp(places, way[moving], v[moving])
    profile = profile - profile.mean()
    count = len(profile)
    spectrum = np.fft.rfft(profile, 2 * count)
    overlap = np.arange(count, 0, -1)
    correlation = np.fft.irfft(np.abs(spectrum) ** 2)[:count] / overlap / max(1e-9, float(profile.var()))
    usable = slice(60, count // 2 + 1)
    inside = correlation[usable]
    peaks = np.flatnonzero((inside[1:-1] > inside[:-2]) & (inside[1:-1] >= inside[2:]) & (inside[1:-1] > 0.8)) + 1
    if len(peaks) == 0:
        return []
    lap = 5.0 * (60 + int(peaks[0]))
    starts = np.arange(0.0, way[-1] + 1.0, lap)
    return [float(np.interp(place, way[moving], grid[moving])) for place in starts if place <= way[-1]]
