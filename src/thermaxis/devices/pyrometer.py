"""A contact pyrometer held at a ring after the cool-down; the stand-in reads a simulated one."""

from __future__ import annotations

import dataclasses
from dataclasses import dataclass
from typing import Protocol

import numpy as np

from thermaxis.core.checked import Checked, number
from thermaxis.core.planning.duty.calibrate import Pyrometer, predicted_C
from thermaxis.core.records import Case


class RingPyrometer(Protocol):
    """Whatever reads a ring's temperature."""

    def read_C(self, axle: str, since_s: float, speed_mps: float) -> float:
        """The temperature in degC some time after the last braking, at a speed since then."""


@dataclass(frozen=True, kw_only=True)
class PyrometerSettings(Checked):
    """How the stand-in differs from the model: cooling of the simulated car as a factor, scatter in K."""

    cooling_factor: float = number(1.15, ge=0.25, le=4)
    scatter_K: float = number(6.0, ge=0, le=100)


class StandInPyrometer:
    """Reads the rings of a simulated car that is cooled better or worse than the model thinks."""

    def __init__(self, case: Case, settings: PyrometerSettings, seed: int) -> None:
        factor = settings.cooling_factor
        self.case = dataclasses.replace(
            case,
            front=dataclasses.replace(case.front, cooling_factor=case.front.cooling_factor * factor),
            rear=dataclasses.replace(case.rear, cooling_factor=case.rear.cooling_factor * factor),
        )
        self.scatter_K, self.seed = settings.scatter_K, seed

    def read_C(self, axle: str, since_s: float, speed_mps: float) -> float:
        """The ring's surface in whole degC; the same seed and moment give the same reading."""
        held = Pyrometer(axle=axle, value_C=0.0, since_s=since_s, speed_mps=speed_mps)
        (truth,) = predicted_C(self.case, [held])
        hand = np.random.default_rng([self.seed, *axle.encode(), round(since_s)])
        return float(round(truth + float(hand.normal(0.0, self.scatter_K))))
