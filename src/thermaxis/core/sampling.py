"""Quasi-random points, and the standard normal distribution."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtr, ndtri

Array = NDArray[np.float64]


def sobol(count: int, width: int, seed: int | np.random.Generator) -> Array:
    """Points of the unit cube without a unit, (count, width): a scrambled Sobol sequence (Owen 1998).

    The same for the same seed. Even for counts that are powers of two. Raises ValueError for a width over 21201.
    """
    # It takes a second to load, and whoever reads a page or restores a backup draws nothing.
    from scipy.stats import qmc

    return np.asarray(qmc.Sobol(width, scramble=True, seed=seed).random(count))


def normal_quantile(share: Array) -> Array:
    """Where the standard normal distribution reaches a share (of 1), elementwise, in sigmas; infinite at 0 and 1.

    >>> float(normal_quantile(np.array(0.5)))
    0.0
    """
    return np.asarray(ndtri(share))


def normal_share(sigmas: Array) -> Array:
    """The share (of 1) of the standard normal distribution below so many sigmas, elementwise.

    >>> float(normal_share(np.array(0.0)))
    0.5
    """
    return np.asarray(ndtr(sigmas))


def normal_density(sigmas: Array) -> Array:
    """Density of the standard normal distribution at so many sigmas, elementwise: `exp(-x^2/2) / sqrt(2 pi)`.

    >>> round(float(normal_density(np.array(0.0))), 4)
    0.3989
    """
    return np.asarray(np.exp(-0.5 * np.square(sigmas)) / math.sqrt(2.0 * math.pi))
