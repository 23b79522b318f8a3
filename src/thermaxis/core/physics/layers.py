"""How a slab is cut into cells: few at the places where they say most, or many of a plain width.

A ladder is an array (2, n + 1). Row 0: the cells' shares of the slab's heat capacity, face first (last entry unused).
Row 1: the links' shares of its thermal resistance: face to cell 1, cell 1 to 2, ..., cell n to back.
"""

from __future__ import annotations

import functools
import json
from importlib.resources import files

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.errors import FieldError

Array = NDArray[np.float64]


@functools.cache
def _fitted() -> dict[str, dict[str, dict[str, list[float]]]]:
    text = (files("thermaxis.core") / "data" / "ladders.json").read_text("utf-8")
    table: dict[str, dict[str, dict[str, list[float]]]] = json.loads(text)
    return table


def optimal_ladder(slab: str, cells: int) -> Array:
    """Ladder of a few cells that meets the slab's own response to heat at its two faces as closely as so few can.

    `slab`: 'ring' (a flux drives its face) or 'pad' (a temperature does). Capacities and resistances need not belong to
    the same cuts: chosen by themselves they converge exponentially instead of with the square of the width (Ingerman,
    Druskin, Knizhnerman, Comm. Pure Appl. Math. 53, 2000). Fitted by `tools/ladders.py` to the exact Laplace transforms
    for `s L^2/a` to 300 (`a` diffusivity, `L` thickness); errors stand in its output and are tested. Raises FieldError
    for a number of cells that was not fitted.

    >>> [len(row) for row in optimal_ladder("ring", 6)]
    [7, 7]
    """
    known = _fitted()[slab]
    if str(cells) not in known:
        raise FieldError("cells", cells, "one of " + ", ".join(known))
    entry = known[str(cells)]
    return _array(np.array(entry["capacities"]), np.array(entry["resistances"]))


def plain_ladder(cells: int, widening: float) -> Array:
    """Finite volumes, each `widening` times as wide as the one nearer the face, nodes at mid-width; second order.

    >>> capacities, resistances = plain_ladder(4, 2.0)
    >>> round(float(capacities.sum()), 6), round(float(resistances.sum()), 6)
    (1.0, 1.0)
    """
    widths: Array = float(widening) ** np.arange(cells, dtype=np.float64)
    widths = widths / widths.sum()
    between = (widths[1:] + widths[:-1]) / 2.0
    return _array(widths, np.concatenate([[widths[0] / 2.0], between, [widths[-1] / 2.0]]))


def _array(capacities: Array, resistances: Array) -> Array:
    ladder = np.zeros((2, len(resistances)))
    ladder[0, :-1] = capacities / capacities.sum()
    ladder[1] = resistances / resistances.sum()
    return ladder
