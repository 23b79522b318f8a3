"""Pads as thin as they are or will be: a thin pad stores and insulates less, and the fluid pays for it."""

from __future__ import annotations

import dataclasses
from collections.abc import Sequence
from typing import NamedTuple

from thermaxis.core.physics.batch import Grid, Watch, run_packed
from thermaxis.core.physics.packing import pack
from thermaxis.core.planning.verdict.readings import Setup
from thermaxis.core.records import Axle, Case

# Under this nothing is computed: the backing plate is next, and the pads were due long before (m).
LEAST_M = 0.0005
# The fluid follows minutes, not the flashes of a face: longer steps and fewer cells find its peak as well (within 0.9 K
# and 0.4 % of its rise, tested), at two fifths of the work.
FLUID_GRID = Grid(
    cells=3, pad_cells=4, first_step_s=0.4, braking_step_s=1.0, cooling_step_s=15.0, growth=3.0, braking_share=1 / 3
)


class FluidPeak(NamedTuple):
    """The hottest the fluid of each axle gets, in degC."""

    front: float
    rear: float

    @property
    def hottest(self) -> float:
        """The hotter of both in degC."""
        return max(self)


def with_material(case: Case, front_m: float, rear_m: float) -> Case:
    """The case with so much friction material on its pads, in m, as a record; never under half a millimetre."""

    def axle(there: Axle, left_m: float) -> Axle:
        return dataclasses.replace(there, pad=dataclasses.replace(there.pad, thickness_m=max(LEAST_M, left_m)))

    return dataclasses.replace(case, front=axle(case.front, front_m), rear=axle(case.rear, rear_m))


def fluid_peaks(cases: Sequence[Case], watch: Watch | None = None) -> list[FluidPeak]:
    """How hot the fluid gets in cases of one duty, soak included, in degC; a record for each."""
    if not cases:
        return []
    peaks = run_packed(*pack(list(cases)), cases[0].duty, FLUID_GRID, watch=watch).axles["peak_fluid"]
    return [FluidPeak(front, rear) for front, rear in peaks.tolist()]


def worn_margin(setup: Setup, peak: FluidPeak) -> float:
    """Kelvin between the boiling point and the hottest fluid with worn pads."""
    return setup.boiling_C - peak.hottest
