"""Friction coefficient of a compound against temperature."""

from __future__ import annotations

import functools

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.physics.compiled import compiled
from thermaxis.core.records import MAX_MU_POINTS

Array = NDArray[np.float64]
Table = tuple[Array, Array, Array]


@functools.lru_cache(maxsize=4096)
def mu_table(points: tuple[tuple[float, float], ...]) -> Table:
    """Lay out points (degC, mu) for `mu_at`: temperatures, values and PCHIP slopes, padded to a fixed length.

    Slopes are those of the monotone piecewise cubic of Fritsch and Carlson, SIAM J. Numer. Anal. 17 (1980),
    as scipy computes them. One point gives a constant.

    >>> temperatures, values, slopes = mu_table(((0.0, 0.3), (300.0, 0.5)))
    >>> float(values[1])
    0.5
    """
    temperature = np.full(MAX_MU_POINTS, np.inf)
    value = np.zeros(MAX_MU_POINTS)
    slope = np.zeros(MAX_MU_POINTS)
    count = len(points)
    temperature[:count] = [point[0] for point in points]
    value[:count] = [point[1] for point in points]
    if count > 1:
        # Half a second to load: a program that drives nothing does without.
        from scipy.interpolate import PchipInterpolator

        curve = PchipInterpolator(temperature[:count], value[:count])
        slope[:count] = curve.derivative()(temperature[:count])
    for array in (temperature, value, slope):
        array.flags.writeable = False  # shared by the cache
    return temperature, value, slope


@compiled
def mu_at(surface_C: float, temperature: Array, value: Array, slope: Array, count: int) -> float:
    """Friction coefficient at a ring surface temperature: PCHIP through the points, flat outside them.

    Source: physics.md section 9.

    >>> round(float(mu_at(150.0, *mu_table(((0.0, 0.3), (300.0, 0.5))), 2)), 2)
    0.4
    """
    if surface_C <= temperature[0]:
        return value[0]
    if surface_C >= temperature[count - 1]:
        return value[count - 1]
    i = 0
    while surface_C > temperature[i + 1]:
        i += 1
    width = temperature[i + 1] - temperature[i]
    s = (surface_C - temperature[i]) / width
    left = (1.0 + 2.0 * s) * (1.0 - s) ** 2 * value[i] + s * (1.0 - s) ** 2 * width * slope[i]
    right = s * s * (3.0 - 2.0 * s) * value[i + 1] - s * s * (1.0 - s) * width * slope[i + 1]
    return left + right


def friction_coefficient(surface_C: float, points: tuple[tuple[float, float], ...]) -> float:
    """Friction coefficient of a compound at `surface_C` (degC) from its points (degC, mu) (physics.md section 9).

    >>> round(friction_coefficient(300.0, ((0, 0.30), (300, 0.47), (800, 0.38))), 3)
    0.47
    """
    temperature, value, slope = mu_table(points)
    return float(mu_at(surface_C, temperature, value, slope, len(points)))
