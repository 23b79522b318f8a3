"""The thickness at which pads are changed: by school, and by what a thin pad does to fluid and pistons."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from thermaxis.apps.fitted.parts import AXLES
from thermaxis.apps.fitted.standing import Standing
from thermaxis.apps.solving.fitting import Fitter
from thermaxis.apps.solving.solver import fluid_peaks
from thermaxis.core.messages import life as say
from thermaxis.core.planning.fit.stack import end_of_life
from thermaxis.core.planning.verdict.worn import with_material
from thermaxis.core.records import Case
from thermaxis.core.said import Said

# Fluid closer to boiling than this is no margin for a thinner pad to eat.
LEAST_MARGIN_K = 30.0
# Of new: where the fluid is computed, and what lies between is straight.
SHARES = (0.1, 0.25, 0.5, 0.75, 1.0)


@dataclass(frozen=True, kw_only=True)
class Limit:
    """A least thickness of friction material in m: which rule gives it, and in words."""

    rule: str
    limit_m: float
    text: Said


@dataclass(frozen=True, kw_only=True)
class FluidCurve:
    """The hottest the fluid of each axle gets with pads of so much of their new thickness, in degC."""

    shares: tuple[float, ...]
    front: tuple[float, ...]
    rear: tuple[float, ...]


def fluid_curve(case: Case, new_m: Mapping[str, float]) -> FluidCurve:
    """How hot the fluid gets as pads wear, both axles alike in share of new."""
    cases = [with_material(case, *(share * new_m[axle] for axle in AXLES)) for share in SHARES]
    peaks = fluid_peaks(cases)
    return FluidCurve(shares=SHARES, front=tuple(peak.front for peak in peaks), rear=tuple(peak.rear for peak in peaks))


def computed_limits(standing: Standing, case: Case, boiling_C: float, duty: str) -> dict[str, tuple[Limit, ...]]:
    """By axle, what computation asks to be left of a pad; nothing where a thin pad does no harm, or a new one as much.

    Under the fluid's limit less than 30 K are left to boiling on the duty, under the piston's it leaves its seal.
    """
    new_m = {axle: standing.pads(axle).size.thickness_m for axle in AXLES}
    curve, fitter = fluid_curve(case, new_m), Fitter(standing)
    found = {}
    for axle in AXLES:
        limits = []
        share = _share_at(curve.shares, getattr(curve, axle), boiling_C - LEAST_MARGIN_K)
        if share is not None:
            text = say.LIMIT_FLUID(margin=LEAST_MARGIN_K, duty=duty)
            limits.append(Limit(rule="fluid", limit_m=share * new_m[axle], text=text))
        parts = standing.parts
        end = end_of_life(fitter.stack(axle, parts.pads(axle), parts.rotors(axle)))
        if end.thinnest_m:
            limits.append(Limit(rule="piston", limit_m=min(new_m[axle], end.thinnest_m), text=say.LIMIT_PISTON()))
        found[axle] = tuple(limits)
    return found


def _share_at(shares: tuple[float, ...], fluid_C: tuple[float, ...], most_C: float) -> float | None:
    """The share of new at which the fluid just reaches a temperature; None where none does."""
    if fluid_C[-1] >= most_C or max(fluid_C) <= most_C:
        return None
    # Thinner is hotter: from the thin end the curve falls.
    falling = np.minimum.accumulate(np.array(fluid_C))
    return float(np.interp(-most_C, -falling, shares))
