"""A torque wrench that sends its peak; the stand-in is a simulated hand."""

from __future__ import annotations

from typing import Protocol

import numpy as np

STORIES = ("good", "over", "under")
SCATTER = 0.012
"""Scatter of a hand that goes on until it clicks, as a share (estimate; wrenches are held to 4 %, ISO 6789-1)."""
OFF = {"good": 1.0, "over": 1.11, "under": 0.9}


class TorqueWrench(Protocol):
    """Whatever measures a tightening."""

    def peak_Nm(self, wanted_Nm: float) -> float:
        """The greatest torque of one tightening, in N m."""


class StandInWrench:
    """A hand with a wrench set to what is wanted; the same seed gives the same peak."""

    def __init__(self, story: str, seed: int) -> None:
        self.story = story
        self._rng = np.random.default_rng([13, seed])

    def peak_Nm(self, wanted_Nm: float) -> float:
        """The peak of one tightening in N m, to a tenth: good, pulled past, or let go too early."""
        hand = float(np.clip(self._rng.normal(0.0, SCATTER), -0.03, 0.03))
        return round(wanted_Nm * OFF[self.story] * (1.0 + hand), 1)
