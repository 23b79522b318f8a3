"""Fit the few-cell ladders of `core/data/ladders.json` to the exact response of a slab, and print how close they come.

Run `python tools/ladders.py` to see the errors, with `--write` to write the file anew. In Laplace space, slab of
thickness, capacity and resistance 1, q = sqrt(s):
a flux at the face of an insulated slab gives the face coth(q)/q and the back 1/(q sinh q);
a temperature at the face of an insulated slab draws q tanh(q) and gives the back 1/cosh(q); with the back held at 0 it
draws q coth(q).
"""

from __future__ import annotations

import json
import sys
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import least_squares

Array = NDArray[np.float64]
FILE = Path(__file__).parents[1] / "src" / "thermaxis" / "core" / "data" / "ladders.json"
WANTED = (("ring", 3), ("ring", 6), ("ring", 12), ("pad", 4), ("pad", 6), ("pad", 12))
POINTS = 80


def admittance(capacities: Array, resistances: Array, s: Array) -> tuple[Array, Array, Array]:
    """Admittances of a ladder at each `s`: face, across, back."""
    count, link = len(capacities), 1.0 / resistances
    matrix, i = np.zeros((len(s), count, count)), np.arange(count)
    matrix[:, i, i] = link[:-1] + link[1:] + s[:, None] * capacities
    matrix[:, i[:-1], i[1:]] = matrix[:, i[1:], i[:-1]] = -link[1:-1]
    drive = np.zeros((len(s), count, 2))
    drive[:, 0, 0], drive[:, -1, 1] = link[0], link[-1]
    nodes = np.linalg.solve(matrix, drive)
    face = link[0] * (1.0 - nodes[:, 0, 0])
    return face, link[0] * nodes[:, 0, 1], link[-1] * (1.0 - nodes[:, -1, 1])


def misfit(slab: str, capacities: Array, resistances: Array, s: Array) -> list[Array]:
    """Errors of a ladder against the slab, each relative to what matters of it."""
    q = np.sqrt(s)
    face, across, back = admittance(capacities, resistances, s)
    slow = 1.0 / (1.0 + s / 30.0)
    if slab == "pad":
        drawn = face - across**2 / back
        exact = q * np.tanh(q), 1.0 / np.cosh(q), q / np.tanh(q)
        return [
            drawn / exact[0] - 1.0,
            0.5 * (across / back - exact[1]),
            0.3 * (face / exact[2] - 1.0),
            0.3 * slow * (back / exact[2] - 1.0),
        ]
    whole = face * back - across**2
    own, other = 1.0 / (np.tanh(q) * q), 1.0 / (np.sinh(q) * q)
    lead = own - 1.0 / s
    return [
        (back / whole - own) / lead,
        0.5 * (across / whole - other) / lead,
        0.15 * slow * (face / whole - own) / lead,
    ]


def fitted(slab: str, cells: int) -> tuple[Array, Array, list[float]]:
    """Shares of capacity and resistance, and the greatest error of each kind."""
    low, high = (0.1 if slab == "ring" else 0.05), 300.0
    s = np.geomspace(low, high, POINTS)

    def shares(x: Array) -> tuple[Array, Array]:
        grown = np.exp(x)
        return grown[:cells] / grown[:cells].sum(), grown[cells:] / grown[cells:].sum()

    widths = 1.5 ** np.arange(cells)
    widths /= widths.sum()
    guess = np.concatenate([widths, widths[:1] / 2, (widths[1:] + widths[:-1]) / 2, widths[-1:] / 2])

    def errors(x: Array) -> Array:
        return np.concatenate(misfit(slab, *shares(x), s))

    found = least_squares(errors, np.log(guess), xtol=1e-15, ftol=1e-15, gtol=1e-15, max_nfev=3000)
    capacities, resistances = shares(found.x)
    return capacities, resistances, [float(np.abs(part).max()) for part in misfit(slab, capacities, resistances, s)]


def main() -> None:
    """Fit every ladder wanted and print its errors; write the file where asked to."""
    table: dict[str, dict[str, dict[str, list[float]]]] = {"ring": {}, "pad": {}}
    for slab, cells in WANTED:
        capacities, resistances, errors = fitted(slab, cells)
        print(slab, cells, "greatest errors", " ".join(f"{error:.1e}" for error in errors))
        table[slab][str(cells)] = {
            "capacities": [round(float(value), 9) for value in capacities],
            "resistances": [round(float(value), 9) for value in resistances],
        }
    if "--write" in sys.argv:
        FILE.write_text(json.dumps(table, indent=1) + "\n", "utf-8")


if __name__ == "__main__":
    main()
