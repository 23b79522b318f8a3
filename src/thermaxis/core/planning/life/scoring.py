"""Was the forecast right: each reading against what was foretold of it before it was taken."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from thermaxis.core.planning.life.wear import POINTS, WearPrior, Worn, standard_normals, wear_state

# Draws of its own: those the wear is sampled by would go with it.
SEED = 80


@dataclass(frozen=True, kw_only=True)
class Scored:
    """A reading in mm with P10, P50 and P90 of what was foretold from the readings before it."""

    measured_mm: float
    p10_mm: float
    p50_mm: float
    p90_mm: float

    @property
    def inside(self) -> bool:
        """Whether it fell inside its range."""
        return self.p10_mm <= self.measured_mm <= self.p90_mm


def score(readings_mm: Sequence[float], at: Sequence[Worn], new_mm: float, prior: WearPrior) -> tuple[Scored, ...]:
    """Every reading in turn, in mm, foretold by those before it alone, gauge error included; none is left out.

    An honest range holds 80 % of them in the long run. Raises FieldError where lengths differ.
    """
    normal = standard_normals(POINTS, 2, SEED)
    found = []
    for i, (reading, worn) in enumerate(zip(readings_mm, at, strict=True)):
        _, now = wear_state(readings_mm[:i], at[:i], worn, new_mm, prior).draws(normal[:, 0])
        p10, p50, p90 = np.percentile(now + prior.gauge_mm * normal[:, 1], (10, 50, 90)).tolist()
        found.append(Scored(measured_mm=reading, p10_mm=p10, p50_mm=p50, p90_mm=p90))
    return tuple(found)
