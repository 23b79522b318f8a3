"""A workshop tool for the electric parking brake; the stand-in is a simulated vehicle whose faults can be provoked."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

import numpy as np

from thermaxis.core.checked import Checked, choice, number
from thermaxis.core.messages import job as say
from thermaxis.core.said import Said

LEAST_V = 12.2
HOME_S = (12.0, 20.0)
"""How long the motors take to wind the nuts back."""
ACTIONS = ("connect", "release", "home", "leave", "reset", "sensors")
FAULTS = ("", "low voltage", "stall", "lost contact")


@dataclass(frozen=True, kw_only=True)
class Answer:
    """What the tool says: whether it was done, in words, the brake's state then, and how long it takes, in s.

    `sensors` are the corners whose wear sensor has reported, where that was asked.
    """

    done: bool
    text: Said
    state: str
    took_s: float = 0.0
    volts: float | None = None
    sensors: tuple[str, ...] = ()


class ServiceTool(Protocol):
    """Whatever talks to the vehicle; the page sees its answers only."""

    def ask(self, action: str, state: str) -> Answer:
        """Do one thing with the brake in this state."""


@dataclass(frozen=True, kw_only=True)
class ToolSettings(Checked):
    """How the simulated vehicle behaves: its battery in V, and the fault that is provoked."""

    volts: float = number(12.6, ge=0, le=16)
    fault: str = choice(*FAULTS, default="")


class StandInTool:
    """A simulated vehicle; the same seed gives the same times. `cut_sensors` are the corners whose sensor has cut in.

    What must come first is refused in words: nothing is driven home that was not released, nothing is left that is
    not home. A fault never moves the state on.
    """

    def __init__(self, settings: ToolSettings, seed: int, cut_sensors: tuple[str, ...] = ()) -> None:
        self.settings, self.cut_sensors = settings, cut_sensors
        self._rng = np.random.default_rng([11, seed])

    def ask(self, action: str, state: str) -> Answer:
        """Connect, release, drive home, leave, reset the message or read the sensors."""
        volts = 11.7 if self.settings.fault == "low voltage" else self.settings.volts
        if self.settings.fault == "lost contact":
            return Answer(done=False, text=say.LOST_CONTACT(), state=state)
        if volts < LEAST_V:
            return Answer(done=False, text=say.LOW_VOLTAGE(volts=volts, least=LEAST_V), state=state, volts=volts)
        if action == "connect":
            # Connected again after contact was lost, it goes on where it was.
            return Answer(done=True, text=say.TOOL_READY(volts=volts), state=state or "connected", volts=volts)
        if state == "":
            return Answer(done=False, text=say.CONNECT_FIRST(), state=state)
        if action in ("home", "leave") and self.settings.fault == "stall":
            return Answer(done=False, text=say.STALLED(), state=state)
        if action == "release":
            return Answer(done=True, text=say.TOOL_RELEASED(), state="released")
        if action == "home":
            if state not in ("released", "home"):
                return Answer(done=False, text=say.RELEASE_FIRST(), state=state)
            took = float(self._rng.uniform(*HOME_S))
            return Answer(done=True, text=say.TOOL_HOME(took=took), state="home", took_s=took)
        if action == "leave":
            if state not in ("home", "learned"):
                return Answer(done=False, text=say.HOME_FIRST(), state=state)
            return Answer(done=True, text=say.TOOL_LEARNED(), state="learned")
        if action == "sensors":
            corners = " and ".join(self.cut_sensors)
            text = say.SENSORS_CUT(corners=corners) if corners else say.SENSORS_WHOLE()
            return Answer(done=True, text=text, state=state, sensors=self.cut_sensors)
        return Answer(done=True, text=say.MESSAGE_RESET(), state=state)
