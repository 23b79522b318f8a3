"""A pyrometer held at a ring between two brakings of a bedding run; the stand-in reads a simulated car."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Protocol

import numpy as np

from thermaxis.core.planning.bedding.replanning import READING_SIGMA_K, Reading, cooled, expected_C
from thermaxis.core.planning.bedding.setting import Setting
from thermaxis.core.records import Stop


class BeddingPyrometer(Protocol):
    """Whatever reads a ring's temperature under way."""

    def read_C(self, axle: str, since_s: float, speed_mps: float) -> float:
        """The ring's face in degC some time after the last braking, at a speed since then."""


class StandInBeddingPyrometer:
    """Reads a car that is cooled so many times as well as the model thinks, with 15 K of scatter."""

    def __init__(self, setting: Setting, stops: Sequence[Stop], cooling: float, seed: int) -> None:
        self.setting, self.stops, self.seed = cooled(setting, cooling), stops, seed

    def read_C(self, axle: str, since_s: float, speed_mps: float) -> float:
        """In whole degC; the same car at the same moment gives the same reading."""
        held = Reading(axle=axle, value_C=0.0, after=len(self.stops), since_s=since_s, speed_mps=speed_mps)
        truth = expected_C(self.setting, self.stops, held)
        hand = np.random.default_rng([self.seed, len(self.stops), *axle.encode(), round(since_s)])
        return float(round(truth + float(hand.normal(0.0, READING_SIGMA_K))))
