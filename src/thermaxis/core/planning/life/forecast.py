"""Parts carried forward along events, all by the same draws: what is left after each, and how likely it holds."""

from __future__ import annotations

import zlib
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.errors import FieldError
from thermaxis.core.planning.life.fatigue import LOOK_WRONG, CrackScale
from thermaxis.core.planning.life.fluid import FluidState, peak_C
from thermaxis.core.planning.life.wear import EVENT_SIGMA, WearState, standard_normals
from thermaxis.core.sampling import normal_share

Array = NDArray[np.float64]
Flags = NDArray[np.bool_]
DRAWS, SEED = 1024, 690
MOST_EVENTS = 60
# What a likelihood means: go, take another along, change before.
SURVIVES, SPARES = 0.95, 0.60
WORDS = ("survives", "take spares", "change before")


@dataclass(frozen=True, kw_only=True)
class Draws:
    """The draws every part of a machine is carried forward by: how hard each event is, (N, K), median 1."""

    events: Array
    count: int

    def of(self, part: str, width: int) -> Array:
        """Standard normals of a part's own, (N, width), the same whenever it is asked."""
        return standard_normals(self.count, width, zlib.crc32(part.encode()))


def draws_of(events: int, count: int = DRAWS, seed: int = SEED) -> Draws:
    """Draws for so many events, as a record; scrambled Sobol points, `count` a power of two. FieldError otherwise.

    Source: Owen 1998.

    >>> draws_of(3, 256).events.shape
    (256, 3)
    """
    if not 0 <= events <= MOST_EVENTS:
        raise FieldError("events", events, f"0 to {MOST_EVENTS}")
    if count < 8 or count & (count - 1):
        raise FieldError("count", count, "a power of two, at least 8")
    return Draws(events=np.exp(EVENT_SIGMA * standard_normals(count, max(1, events), seed)[:, :events]), count=count)


def thickness_ahead(part: str, wear: WearState, steps_m: Array, draws: Draws) -> tuple[Array, Array]:
    """Thickness now (N,) and after each event (N, K) in m; `steps_m` (K, D) is the wear computed by event and duty.

    `t_k = t_now - sum_(j<=k) m_j sum_d e^(x_d) c_jd`, m the event's own factor.
    """
    factors, now = wear.draws(draws.of(part, 1)[:, 0])
    return now, now[:, None] - np.cumsum((factors @ steps_m.T) * draws.events, axis=1)


def cracks_ahead(part: str, scale: CrackScale, used: float, steps: Array, draws: Draws) -> Flags:
    """Whether a ring's face is without hairlines after each event, (N, K); `steps` (K,) is the damage of each."""
    own = normal_share(draws.of(f"{part} cracks", 2))
    sound = scale.quantile(own[:, 0])[:, None] * (used + np.cumsum(steps * draws.events, axis=1)) < 1.0
    # Where they were seen they are there, unless the look was wrong.
    seen = scale.seen_at is not None and used >= scale.seen_at
    return np.asarray(sound & (own[:, 1] < LOOK_WRONG)[:, None]) if seen else np.asarray(sound)


@dataclass(frozen=True, kw_only=True)
class Hot:
    """How hot an event makes the fluid of an axle: with pads of several thicknesses (m, rising), in degC."""

    thickness_m: tuple[float, ...]
    fluid_C: tuple[float, ...]
    air_C: float
    months: float
    drop_K: float = 0.0


def margins_ahead(
    state: FluidState, events: Sequence[Hot], pads_m: Array, draws: Draws, sigma: float, part: str = "fluid"
) -> Array:
    """Kelvin between boiling point and hottest fluid, soak included, in each event, (N, K).

    `pads_m` (N, K) is what is on the pads when the event begins: a thin pad lets more through.
    """
    own = draws.of(part, 3)
    gain, off = normal_share(own[:, 0]), normal_share(own[:, 1])
    found = []
    for k, event in enumerate(events):
        middle = np.interp(pads_m[:, k], event.thickness_m, event.fluid_C)
        boiling = state.boiling_C(event.months, gain, off) - event.drop_K
        found.append(boiling - peak_C(middle, event.air_C, own[:, 2], sigma))
    return np.stack(found, axis=1) if found else np.zeros((draws.count, 0))


@dataclass(frozen=True, kw_only=True)
class Ahead:
    """A part along the events: likelihood that it holds through each, its word, and P10, P50, P90 of what is left.

    `until` are P10, P50 and P90 of how many events it holds, the last one driven in part; K where it holds them all.
    """

    chances: tuple[float, ...]
    words: tuple[str, ...]
    left: tuple[tuple[float, float, float], ...]
    until: tuple[float, float, float]

    @property
    def change_before(self) -> int | None:
        """The first event it is likely (over 5 %) not to hold through; None where it holds them all (our rule)."""
        return next((k for k, chance in enumerate(self.chances) if chance <= SURVIVES), None)


def word_of(chance: float) -> str:
    """What a likelihood to hold through an event means: survives over 95 %, take spares from 60 %, else change before.

    Source: our rule.

    >>> [word_of(chance) for chance in (0.99, 0.8, 0.2)]
    ['survives', 'take spares', 'change before']
    """
    return WORDS[0] if chance > SURVIVES else WORDS[1] if chance >= SPARES else WORDS[2]


def ahead(left: Array, now: Array) -> Ahead:
    """What a part's draws come to, as a record: `left` (N, K) is over its limit after each event, `now` (N,) before.

    >>> found = ahead(np.array([[2.0, -1.0], [3.0, 1.0]]), np.array([3.0, 4.0]))
    >>> found.chances
    (1.0, 0.5)
    """
    chances = tuple((left >= 0).mean(axis=0).tolist())
    return Ahead(
        chances=chances,
        words=tuple(word_of(chance) for chance in chances),
        left=tuple(tuple(row) for row in np.percentile(left, (10, 50, 90), axis=0).T.tolist()),
        until=_until(left, now),
    )


def _until(left: Array, now: Array) -> tuple[float, float, float]:
    """Events each draw holds, straight between two of them."""
    count, events = left.shape
    lost = ~np.logical_and.accumulate(left >= 0, axis=1)
    first = np.where(lost.any(axis=1), lost.argmax(axis=1), events)
    before = np.concatenate([now[:, None], left], axis=1)
    rows = np.arange(count)
    start = before[rows, np.minimum(first, events)]
    end = before[rows, np.minimum(first + 1, events)]
    share = np.clip(start / np.maximum(1e-12, start - end), 0.0, 1.0)
    until = np.where(first >= events, events, first + share)
    early, middle, late = np.percentile(until, (10, 50, 90)).tolist()
    return early, middle, late
