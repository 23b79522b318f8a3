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
    """A reading in m with P10, P50 and P90 of what was foretold from the readings before it."""

    measured_m: float
    p10_m: float
    p50_m: float
    p90_m: float

    @property
    def inside(self) -> bool:
        """Whether it fell inside its range."""
        return self.p10_m <= self.measured_m <= self.p90_m


def score(readings_m: Sequence[float], at: Sequence[Worn], new_m: float, prior: WearPrior) -> tuple[Scored, ...]:
    """Every reading in turn, in m, foretold by those before it alone, gauge error included; none is left out.

    An honest range holds 80 % of them in the long run. Raises FieldError where lengths differ.

    >>> from thermaxis.core.planning.life.wear import PADS
    >>> at = [Worn(by_duty_m=(0.001,))]
    >>> [entry.inside for entry in score([0.010], at, 0.011, PADS)]
    [True]
    """
    normal = standard_normals(POINTS, 2, SEED)
    found = []
    for i, (reading, worn) in enumerate(zip(readings_m, at, strict=True)):
        _, now = wear_state(readings_m[:i], at[:i], worn, new_m, prior).draws(normal[:, 0])
        p10, p50, p90 = np.percentile(now + prior.gauge_m * normal[:, 1], (10, 50, 90)).tolist()
        found.append(Scored(measured_m=reading, p10_m=p10, p50_m=p50, p90_m=p90))
    return tuple(found)
