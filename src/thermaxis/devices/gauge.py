"""A thickness gauge that types: a number and Enter, as a keyboard would. The stand-in measures a simulated wheel."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

import numpy as np

from thermaxis.core.checked import Checked, choice, number
from thermaxis.core.errors import FieldError
from thermaxis.core.planning.inspection.cells import PAD_CELLS, ROTOR_CELLS
from thermaxis.core.planning.inspection.look import Wheel

INCH_M = 0.0254
STACK_M = 0.00602


class Gauge(Protocol):
    """Whatever types readings; the page sees keys only."""

    def read(self, cell: str) -> str:
        """What the gauge types for the place it is held at."""


@dataclass(frozen=True, kw_only=True)
class GaugeSettings(Checked):
    """How the stand-in measures: scatter and smallest step in m, unit, and what it finds.

    `story`: everything worn evenly, a slide pin stuck at the first wheel, or rotors with a worn lip and uneven.
    """

    scatter_m: float = number(0.000004, ge=0, le=0.001)
    step_m: float = number(0.00001, gt=0, le=0.001)
    unit: str = choice("mm", "in", default="mm")
    story: str = choice("even", "stuck pin", "worn lip", default="even")


class StandInGauge:
    """A gauge held at the wheels of one machine; the same seed and cell give the same reading.

    `pads_m` is the friction material left by axle, in m, as wear was computed; rotors have lost half of what they may.
    """

    def __init__(self, wheels: tuple[Wheel, ...], pads_m: dict[str, float], settings: GaugeSettings, seed: int) -> None:
        self.wheels = {wheel.name: wheel for wheel in wheels}
        self.first = wheels[0].name
        self.pads_m, self.settings, self.seed = pads_m, settings, seed

    def read(self, cell: str) -> str:
        """What is typed for a cell: a number without its unit. FieldError for a cell the gauge cannot reach.

        The wheel itself is the same every time; the scatter of the hand that holds the gauge is not.
        """
        truth = self._truth(cell)
        hand = np.random.default_rng([self.seed, *cell.encode()])
        found = max(0.0, truth + float(hand.normal(0.0, self.settings.scatter_m)))
        found = round(found / self.settings.step_m) * self.settings.step_m
        return f"{found / INCH_M:.4f}" if self.settings.unit == "in" else f"{1e3 * found:.2f}"

    def _truth(self, cell: str) -> float:
        if cell == "washers":
            return STACK_M
        place, _, rest = cell.rpartition(".")
        wheel = self.wheels.get(place)
        own = np.random.default_rng([7, *cell.encode()])
        if wheel is not None and rest in ROTOR_CELLS:
            return self._rotor(wheel, own)
        for side, cells in PAD_CELLS.items():
            if wheel is not None and rest in cells:
                return self._pad(wheel, side, own)
        if wheel is not None and rest == "runout":
            return float(own.uniform(0.00001, 0.00004))
        raise FieldError("cell", cell, "a pad, a rotor point, the runout or the washers")

    def _pad(self, wheel: Wheel, side: str, own: np.random.Generator) -> float:
        left = self.pads_m[wheel.axle]
        worn = wheel.pads.new_m - left
        if self.settings.story == "stuck pin" and wheel.name == self.first:
            left *= 0.6 if side == "inner" else 0.95
        return float(np.clip(left + own.uniform(-0.04, 0.04) * worn, 0.0, wheel.pads.new_m))

    def _rotor(self, wheel: Wheel, own: np.random.Generator) -> float:
        uneven = self.settings.story == "worn lip"
        left = 0.5 * (wheel.rotor.new_m + wheel.rotor.discard_m) + float(own.uniform(-1, 1)) * (
            2e-5 if uneven else 2e-6
        )
        return left + STACK_M if uneven else left
