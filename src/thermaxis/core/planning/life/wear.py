"""How fast a part really wears on each duty, from everything measured on it, and how thick it is now."""

from __future__ import annotations

import functools
import math
from collections.abc import Sequence
from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.errors import FieldError
from thermaxis.core.sampling import normal_quantile, sobol

Array = NDArray[np.float64]
# Events differ among themselves (weather, traffic, driver): what no measurement of the past takes away (estimate).
EVENT_SIGMA = 0.10
STEPS, SMALL, PLACES = 60, 1e-9, 7
# The least variance there is, in m^2.
SMALL_M2 = 1e-15
# The posterior is sampled from a normal that is so much wider than its curvature says, and weighed.
POINTS, WIDER, SEED = 1024, 1.3, 690


@dataclass(frozen=True, kw_only=True)
class WearPrior:
    """What is taken of a part before it is measured (estimates).

    `common` and `own` are sigmas of the logarithm of real over computed wear: what is off on every duty alike, and what
    is off on each by itself. The gauge errs by `gauge_m`, a new part differs from its size by `new_m`.
    """

    common: float
    own: float
    gauge_m: float
    new_m: float

    @property
    def sigma(self) -> float:
        """Sigma of the logarithm on one duty."""
        return float(np.hypot(self.common, self.own))


# 0.35 in all (physics.md section 10): half of it whatever the duty, half each duty its own.
PADS = WearPrior(common=0.25, own=0.245, gauge_m=0.15e-3, new_m=0.20e-3)
# A ring's wear is known by its pads' family only; a micrometer over washers is good to a few hundredths.
RINGS = WearPrior(common=0.40, own=0.30, gauge_m=0.03e-3, new_m=0.05e-3)
# Of what may be worn off a ring: how far one that was there when its machine came may be from its size (estimate).
FOUND_SHARE = 0.35


def found_rings(usable_m: float) -> WearPrior:
    """What is taken of rings that nobody saw new, as a record; `usable_m` is from their size to the discard, in m.

    >>> found_rings(0.0016).new_m
    0.00056
    """
    return replace(RINGS, new_m=max(RINGS.new_m, FOUND_SHARE * usable_m))


@dataclass(frozen=True, kw_only=True)
class Worn:
    """Wear computed up to a moment: by duty in m, and the sum of the squares of its single events in m^2."""

    by_duty_m: tuple[float, ...]
    squares_m2: float = 0.0


@dataclass(frozen=True, kw_only=True)
class WearState:
    """A part as its measurements leave it: points of `x = ln(real/computed)` by duty (M, D), and their weights (M,).

    Given x its thickness now is normal, `a - b e^x` with sigma `now_sigma_m`.
    """

    points: Array = field(repr=False, compare=False)
    weights: Array = field(repr=False, compare=False)
    now_a_m: float
    now_b_m: tuple[float, ...]
    now_sigma_m: float
    measurements: int

    def scale(self, duty: int) -> tuple[float, float]:
        """Real over computed wear on a duty: the exponential of its mean logarithm, and that logarithm's sigma."""
        x = self.points[:, duty]
        mean = float(self.weights @ x)
        sigma = math.sqrt(max(0.0, float(self.weights @ (x - mean) ** 2)))
        # Sums come out another way in the last places each time; what is asked again must be the very same.
        return round(math.exp(mean), PLACES), round(sigma, PLACES)

    def draws(self, normal: Array) -> tuple[Array, Array]:
        """Factors by duty (N, D) and thicknesses now in m (N,), from standard normals (N,)."""
        places = (np.arange(len(normal)) + 0.5) / len(normal)
        chosen = np.minimum(np.searchsorted(np.cumsum(self.weights), places), len(self.points) - 1)
        factors = np.exp(self.points[chosen])
        return factors, self.now_a_m - factors @ np.array(self.now_b_m) + self.now_sigma_m * normal


def wear_state(
    readings_m: Sequence[float], at: Sequence[Worn], now: Worn, new_m: float, prior: WearPrior = PADS
) -> WearState:
    """Posterior of a part's wear, as a record (linear Gaussian update).

    `t_i = t_0 - sum_d e^(x_d) c_id + W_i + e_i`: `c_id` (m) is the wear computed on duty d up to reading i, the part
    began at `t_0 = new_m`, the gauge errs by e, and W is what single events differed by: its variance grows by
    `(EVENT_SIGMA s c)^2` with each. `x ~ N(0, common^2 11' + own^2 I)`; its posterior is sampled about its greatest
    density (Gauss-Newton) and weighed by what it really is, for weak evidence is flatter towards slow wear; the
    thickness now follows from x exactly (t_0 + W given the readings, both normal). Valid where wear is positive; no
    reading leaves the prior. Raises FieldError where lengths differ.

    >>> state = wear_state([0.007], [Worn(by_duty_m=(0.003,))], Worn(by_duty_m=(0.003,)), 0.011)
    >>> round(state.scale(0)[0], 2)
    1.31
    """
    duties = len(now.by_duty_m)
    if len(readings_m) != len(at) or any(len(row.by_duty_m) != duties for row in at):
        raise FieldError(
            "readings_m", len(readings_m), f"as many as computed wears, {len(at)}, each of {duties} duties"
        )
    first = prior.common**2 * np.ones((duties, duties)) + prior.own**2 * np.eye(duties)
    computed_now = np.array(now.by_duty_m)
    unit = standard_normals(POINTS, duties, SEED)
    if not at:
        return WearState(
            points=unit @ np.linalg.cholesky(first).T,
            weights=np.full(len(unit), 1.0 / len(unit)),
            now_a_m=new_m,
            now_b_m=now.by_duty_m,
            now_sigma_m=math.sqrt(prior.new_m**2 + EVENT_SIGMA**2 * now.squares_m2),
            measurements=0,
        )
    computed = np.array([row.by_duty_m for row in at])
    squares = np.array([row.squares_m2 for row in at])
    y = np.array(readings_m, dtype=float)
    x, scale = np.zeros(duties), 1.0
    for _ in range(STEPS):
        noise = _noise(squares, scale, prior)
        weight = np.linalg.inv(noise)
        slope = computed * np.exp(x)
        miss = y - new_m + slope.sum(axis=1)
        hessian = slope.T @ weight @ slope + np.linalg.inv(first)
        step = np.linalg.solve(hessian, slope.T @ weight @ miss + np.linalg.solve(first, x))
        # Half a unit at most: far from the answer the curvature says little.
        x = x - step * min(1.0, 0.5 / max(SMALL, float(np.abs(step).max())))
        scale = _mean_scale(computed[-1], x)
        if np.abs(step).max() < SMALL:
            break
    # What lies under the last reading, from all of them: t_0 + W now against each t_0 + W_i + e_i.
    seen = prior.new_m**2 + (EVENT_SIGMA * scale) ** 2 * np.minimum(squares, now.squares_m2)
    gain = weight @ seen
    before = prior.new_m**2 + (EVENT_SIGMA * scale) ** 2 * now.squares_m2
    root = WIDER * np.linalg.cholesky(np.linalg.inv(hessian))
    points = x + unit @ root.T
    misses = y - new_m + np.exp(points) @ computed.T
    log = -0.5 * (
        ((misses @ weight) * misses).sum(axis=1)
        + ((points @ np.linalg.inv(first)) * points).sum(axis=1)
        - (unit**2).sum(axis=1)
    )
    weights = np.exp(log - log.max())
    return WearState(
        points=points,
        weights=weights / weights.sum(),
        now_a_m=float(new_m + gain @ (y - new_m)),
        now_b_m=tuple((computed_now - gain @ computed).tolist()),
        now_sigma_m=math.sqrt(max(SMALL_M2, before - float(gain @ seen))),
        measurements=len(y),
    )


@functools.lru_cache(maxsize=128)
def standard_normals(count: int, width: int, seed: int) -> Array:
    """Standard normals without a unit, (count, width): quasi-random, the same for a seed, in mixed order (Owen 1998).

    >>> standard_normals(1024, 2, 690).shape
    (1024, 2)
    """
    mixed = np.random.default_rng(seed)
    unit = mixed.permutation(sobol(count, width, mixed))
    return np.asarray(normal_quantile(np.clip(unit, 1e-9, 1.0 - 1e-9)))


def _noise(squares: Array, scale: float, prior: WearPrior) -> Array:
    shared = prior.new_m**2 + (EVENT_SIGMA * scale) ** 2 * np.minimum.outer(squares, squares)
    return np.asarray(shared + prior.gauge_m**2 * np.eye(len(squares)))


def _mean_scale(computed: Array, x: Array) -> float:
    total = float(computed.sum())
    return float(computed @ np.exp(x)) / total if total > 0 else 1.0
