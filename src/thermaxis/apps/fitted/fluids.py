"""What the fluid that is in boils at: by its label and age, or as a tester has found it."""

from __future__ import annotations

import numpy as np

from thermaxis.apps.catalogue import mapping as catalogue
from thermaxis.apps.fitted.models import FluidFill, FluidReading
from thermaxis.core.physics.fluid import altitude_drop, takes_water
from thermaxis.core.planning.life.fluid import FluidState, FluidTest, fluid_state


def readings_of(fill: FluidFill) -> list[FluidReading]:
    """What was read of a filling and stands, in order."""
    return [row for row in fill.readings.all() if row.removed_at is None]


def bears(fill: FluidFill) -> FluidState:
    """How fast a filling takes up water and what it boils at, from its label and its tests."""
    tests = [
        FluidTest(months=fill.months_on(row.measured_on), boiling_C=row.boiling_C, water_percent=row.water_percent)
        for row in readings_of(fill)
        if (row.boiling_C is None) != (row.water_percent is None)
    ]
    fluid = fill.fluid
    return fluid_state(fluid.dry_C, fluid.wet_C, tests, takes_up=takes_water(fluid.standard))


def boiling_C(fill: FluidFill, months: float, pressure_Pa: float) -> float:
    """Boiling point of a filling at an age, where the air has this pressure; a test counts for more than a label."""
    if all(row.boiling_C is None and row.water_percent is None for row in readings_of(fill)):
        return catalogue.boiling_C(fill.fluid, months, pressure_Pa)
    half = np.array([0.5])
    return float(bears(fill).boiling_C(months, half, half)[0]) - altitude_drop(pressure_Pa)
