"""When hairline cracks are likely in a ring's face: cycles of its strain, counted, and damage added up."""

from __future__ import annotations

import functools
import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import rainflow
from numpy.typing import NDArray

from thermaxis.core.errors import FieldError
from thermaxis.core.physics.materials import PATTERN_FACTORS, materials
from thermaxis.core.records import Rotor
from thermaxis.core.sampling import normal_density
from thermaxis.core.tables import rows_of

Array = NDArray[np.float64]
# Manson's universal slopes (Exp. Mech. 5, 1965, 193-226).
ELASTIC_FACTOR, ELASTIC_SLOPE, DUCTILE_SLOPE = 3.5, -0.12, -0.6
# A pad touches in bands, and a band is heated twice as hard as the mean of its face (estimate).
BAND = 2.0
# Real over computed life: scatter of cast iron, of the casting and of what the model leaves out (estimate).
SCALE_SIGMA = 0.7
# A million cycles of a strain that does nothing are no damage; under one cycle there is nothing to count.
MOST_CYCLES, LEAST_CYCLES = 1e12, 1.0
MISSED, SEEN_WRONG = 0.1, 0.02
# Of faces on which somebody has seen hairlines, so many have none (estimate).
LOOK_WRONG = 0.1
GRID_REACH, GRID_POINTS = 4.0, 801


@dataclass(frozen=True, kw_only=True)
class Strength:
    """Tensile strength in Pa and true fracture ductility `D = ln(1/(1 - RA))` of a grade, with Young's modulus."""

    tensile_Pa: float
    ductility: float
    youngs_Pa: float

    def range_at(self, cycles: float) -> float:
        """Strain range that so many cycles bear: `3.5 (s_u/E) N^-0.12 + D^0.6 N^-0.6` (Manson 1965)."""
        elastic = ELASTIC_FACTOR * self.tensile_Pa / self.youngs_Pa * cycles**ELASTIC_SLOPE
        return float(elastic + self.ductility**0.6 * cycles**DUCTILE_SLOPE)

    def cycles_at(self, strain: float) -> float:
        """Cycles until a crack at a strain range, 1 to 1e12: the inverse of `range_at` (Manson-Hirschberg)."""
        if strain >= self.range_at(LEAST_CYCLES):
            return LEAST_CYCLES
        if strain <= self.range_at(MOST_CYCLES):
            return MOST_CYCLES

        def over(log_cycles: float) -> float:
            return self.range_at(math.exp(log_cycles)) - strain

        from scipy.optimize import brentq

        return math.exp(brentq(over, 0.0, math.log(MOST_CYCLES), xtol=1e-9))


@functools.cache
def strengths() -> dict[str, Strength]:
    """Strength of every rotor material, by its name; sources in data/fatigue.csv.

    >>> strengths()["grey_iron"].tensile_Pa / 1e6
    207.0
    """
    return {
        row["material"]: Strength(
            tensile_Pa=float(row["tensile_Pa"]),
            ductility=-math.log(1.0 - float(row["reduction_of_area"])),
            youngs_Pa=materials()[row["material"]].youngs_Pa,
        )
        for row in rows_of("fatigue")
    }


def cycles_of(series: Sequence[float] | Array) -> list[tuple[float, float]]:
    """Ranges and counts (1 or 0.5) of a history by rainflow (ASTM E1049-85), smallest range first.

    >>> cycles_of([-2, 1, -3, 5, -1, 3, -4, 4, -2])
    [(3, 0.5), (4, 1.5), (6, 0.5), (8, 1.0), (9, 0.5)]
    """
    return [(span, count) for span, count in rainflow.count_cycles(series) if span > 0]


def hot_share(peak_C: float) -> float:
    """Share of its cold strength that iron has at a face temperature in degC: 1 to 400, 0.4 from 700 on (estimate).

    >>> round(hot_share(550.0), 3)
    0.7
    """
    return 1.0 - 0.6 * min(1.0, max(0.0, (peak_C - 400.0) / 300.0))


def damage(excess_K: Sequence[float] | Array, rotor: Rotor, peak_C: float = 20.0) -> float:
    """Share of a ring's life to hairline cracks that a history of `T_s - T_bulk` (K) uses up; a number >= 0.

    Strain range of a face that is held flat, `alpha dT/(1 - nu)` (Limpert 1999, ch. 3), times the pattern's factor and
    `BAND`, by rainflow; cycles by Manson's universal slopes at the strength left at `peak_C`, the face's hottest; added
    up linearly (Palmgren 1924, Miner 1945). 1 is the median of a first hairline. Left out: transformation of overheated
    iron, residual stress, and the ring's own support.
    """
    material = materials()[rotor.material]
    cold = strengths()[rotor.material]
    strength = replace(cold, tensile_Pa=cold.tensile_Pa * hot_share(peak_C))
    factor = BAND * PATTERN_FACTORS[rotor.pattern].stress * material.expansion_per_K / (1.0 - material.poisson)
    return sum(count / strength.cycles_at(factor * span) for span, count in cycles_of(excess_K))


@dataclass(frozen=True, kw_only=True)
class Look:
    """What was seen of a face after so much computed damage: sound, or hairlines."""

    damage: float
    cracked: bool


@dataclass(frozen=True, kw_only=True)
class CrackScale:
    """Posterior of `y = ln(real/computed damage)` on a grid: hairlines are there once `e^y D >= 1`.

    `seen_at` is the damage at which they were last seen: from there on they are there, whatever was computed, unless
    that look was wrong.
    """

    grid: tuple[float, ...]
    weight: tuple[float, ...]
    seen_at: float | None = None

    def quantile(self, share: float | Array) -> Array:
        """Factor on computed damage that a share of it lies under (lognormal scatter, estimate)."""
        below = np.cumsum(self.weight)
        return np.asarray(np.exp(np.interp(share, below, self.grid)))

    def sound(self, damage: float | Array) -> Array:
        """Likelihood that there is no hairline at a computed damage (the same scatter)."""
        below = np.concatenate([[0.0], np.cumsum(self.weight)])
        edges = np.concatenate([[self.grid[0]], self.grid])
        found = np.interp(-np.log(np.maximum(1e-12, damage)), edges, below)
        if self.seen_at is not None:
            found = np.where(np.asarray(damage) >= self.seen_at, LOOK_WRONG * found, found)
        return np.asarray(found)


def crack_scale(looks: Sequence[Look]) -> CrackScale:
    """How fast cracks really come, as a record: lognormal of median 1 and sigma 0.7 (estimate), cut by what was seen.

    A sound face at damage D says `y < -ln D`, one with hairlines `y >= -ln D`; a look misses one hairline in
    ten and sees one that is none in fifty (estimates), so that a wrong one does not rule the truth out. Raises
    FieldError for a damage below 0.

    >>> round(float(crack_scale([Look(damage=0.5, cracked=False)]).quantile(0.5)), 2)
    0.88
    """
    y = np.linspace(-GRID_REACH, GRID_REACH, GRID_POINTS)
    weight = normal_density(y / SCALE_SIGMA)
    for look in looks:
        if not look.damage >= 0:
            raise FieldError("damage", look.damage, "a number >= 0")
        cracked = np.exp(y) * look.damage >= 1.0
        there, none = (1.0 - MISSED, SEEN_WRONG) if look.cracked else (MISSED, 1.0 - SEEN_WRONG)
        weight = weight * np.where(cracked, there, none)
    weight = weight / weight.sum()
    seen = looks[-1].damage if looks and looks[-1].cracked else None
    return CrackScale(grid=tuple(y.tolist()), weight=tuple(weight.tolist()), seen_at=seen)


def events_to_crack(used: float, per_event: float, scale: CrackScale) -> tuple[float, float, float]:
    """Events from now until a first hairline, P10, P50 and P90; 0 where it is to be expected already (Palmgren-Miner).

    Raises FieldError for a damage below 0.
    """
    if not used >= 0 or not per_event >= 0:
        raise FieldError("used", used, "a number >= 0")
    if scale.seen_at is not None and used >= scale.seen_at:
        return (0.0,) * 3
    if per_event <= 0:
        return (99999.0,) * 3
    early, middle, late = (
        min(99999.0, max(0.0, (1.0 / float(scale.quantile(share)) - used) / per_event)) for share in (0.9, 0.5, 0.1)
    )
    return early, middle, late
