"""Two to four sets side by side: the same instant of the duty for all of them, and the figures that differ."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.errors import FieldError
from thermaxis.core.physics.friction import friction_coefficient
from thermaxis.core.physics.hydraulics import pedal_force
from thermaxis.core.physics.simulate import history
from thermaxis.core.planning.choice.choose import Judged
from thermaxis.core.planning.choice.figures import Candidate, Figures, cost_per_event
from thermaxis.core.records import Case
from thermaxis.core.results import HISTORY_FIELDS

Array = NDArray[np.float64]
FEWEST, MOST = 2, 4
POINTS = 400
TRACES = ("surface_C", "bulk_C", "pad_C", "fluid_C", "mu")
MONTHS = 12.0


@dataclass(frozen=True, kw_only=True)
class Compared:
    """One set among others: its judgement, what a year with it costs, and its traces on the times all share.

    `traces` by name: `pedal_N`, and for each axle `front_surface_C`, `_bulk_C`, `_pad_C`, `_fluid_C` (degC), `_mu`.
    """

    judged: Judged
    cost_per_year: float
    traces: dict[str, tuple[float, ...]]


@dataclass(frozen=True, kw_only=True)
class Comparison:
    """Sets side by side and the times their traces share, in s."""

    t_s: tuple[float, ...]
    sets: tuple[Compared, ...]


def compare(entries: list[Judged], events_per_month: float) -> Comparison:
    """Put two to four judged sets side by side, as records; traces are interpolated to times in s that all share.

    The times are those of the hottest braking as well as evenly spread ones, so that no peak falls between two points.
    The pedal's trace stands at the ends of the engine's steps: the worst moment, which the figures give, may lie
    within one. `cost_per_year` is pads by their life at `events_per_month` (rotors and labour not counted). Raises
    FieldError for fewer or more sets.
    """
    if not FEWEST <= len(entries) <= MOST:
        raise FieldError("keys", len(entries), f"{FEWEST} to {MOST} sets")
    times, traces = shared_traces([entry.candidate.setup.case for entry in entries], POINTS)
    return Comparison(
        t_s=times,
        sets=tuple(
            Compared(judged=entry, cost_per_year=cost_per_year(entry, events_per_month), traces=each)
            for entry, each in zip(entries, traces, strict=True)
        ),
    )


def shared_traces(cases: Sequence[Case], points: int) -> tuple[tuple[float, ...], list[dict[str, tuple[float, ...]]]]:
    """Drive cases of one duty and give their traces on the same times in s: (T,) and for each case a record of (T,).

    About `points` even times and the telling ones of every case, so that no peak falls between two. Names as in
    `Compared`.
    """
    histories = [history(case) for case in cases]
    end = max(float(rows[-1, 0]) for rows in histories)
    times = np.unique(np.concatenate([np.linspace(0.0, end, points), *(_telling(rows) for rows in histories)]))
    found = [_traces(case, rows, times) for case, rows in zip(cases, histories, strict=True)]
    return tuple(float(t) for t in times), found


def cost_per_year(entry: Judged, events_per_month: float) -> float:
    """Price of the pads worn in a year of `events_per_month` events; infinite where they do not last one event."""
    return cost_of_year(entry.candidate, entry.figures, events_per_month)


def cost_of_year(candidate: Candidate, figure: Figures, events_per_month: float) -> float:
    """What pads cost in a year, `12 n (p_f/n_f + p_r/n_r)`, in its money; infinite where they do not last at all."""
    an_event = cost_per_event(candidate, figure.front_life_events, figure.rear_life_events)
    return MONTHS * events_per_month * an_event


def _telling(rows: Array) -> Array:
    """Times of the greatest surface temperature, fluid temperature and pressure."""
    columns = ("front_surface_C", "rear_surface_C", "front_fluid_C", "rear_fluid_C", "pressure_Pa")
    return np.array([rows[int(np.argmax(rows[:, HISTORY_FIELDS.index(name)])), 0] for name in columns])


def _traces(case: Case, rows: Array, times: Array) -> dict[str, tuple[float, ...]]:
    column = {name: np.interp(times, rows[:, 0], rows[:, i]) for i, name in enumerate(HISTORY_FIELDS)}
    found: dict[str, tuple[float, ...]] = {
        "pedal_N": tuple(pedal_force(float(p), case.hydraulics) if p > 0 else 0.0 for p in column["pressure_Pa"])
    }
    for axle, pad in (("front", case.front.pad), ("rear", case.rear.pad)):
        column[f"{axle}_mu"] = np.array([friction_coefficient(float(T), pad.mu) for T in column[f"{axle}_surface_C"]])
        for name in TRACES:
            found[f"{axle}_{name}"] = tuple(float(value) for value in column[f"{axle}_{name}"])
    return found
