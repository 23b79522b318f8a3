"""What may be ticked, and why not yet; what stands against closing (fit-and-job 5, 6, 7, 10)."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from thermaxis.core.messages import job as say
from thermaxis.core.planning.job.fasteners import Fastener, reached
from thermaxis.core.planning.job.sheet import Sheet, Step
from thermaxis.core.said import Said

SERVICE_STATES = ("", "connected", "released", "home", "learned")
SERVICE_MODE = "service_mode"


@dataclass(frozen=True, kw_only=True)
class Tick:
    """What was said of a step: done, or in words why not; for a fastener to which torque in N m, and checked again."""

    done: bool = False
    words: str = ""
    torque_Nm: float | None = None
    rechecked: bool = False

    @property
    def settled(self) -> bool:
        """Whether nothing more is waited for."""
        return self.done or bool(self.words)


@dataclass(frozen=True, kw_only=True)
class State:
    """How far a job is: ticks by key, the service tool's state, the axle's fasteners by kind, and what Fit says.

    `stops` are what Fit stops by the corner it is about ("" for the whole axle), `unseen` the corners whose ring
    nobody has looked at.
    """

    ticks: Mapping[str, Tick] = field(default_factory=dict)
    service: str = ""
    fasteners: Mapping[str, Fastener] = field(default_factory=dict)
    stops: Mapping[str, str] = field(default_factory=dict)
    unseen: tuple[str, ...] = ()

    def tick(self, key: str) -> Tick:
        """What was said of a step."""
        return self.ticks.get(key, Tick())


def why_blocked(sheet: Sheet, step: Step, state: State, *, words: str = "") -> Said | None:
    """Why a step cannot be ticked yet, in words; None where it can. `words`: it is to be settled in words.

    It waits for what blocks among the steps it comes after, for the service tool, for what Fit stops, and where it
    tightens for a torque; in words it can be settled without tool and torque, never against Fit.
    """
    for key in waits_for(sheet, step):
        before = sheet.step(key)
        if before is not None and not state.tick(key).settled:
            return say.WAITS_FOR(what=before.step.text)
    return why_held(sheet, step, state, words=words)


def waits_for(sheet: Sheet, step: Step) -> list[str]:
    """Keys of the steps that block and come before a step, as text."""
    found = ((key, sheet.step(key)) for key in step.after)
    return [key for key, before in found if before is not None and before.step.blocks]


def why_held(sheet: Sheet, step: Step, state: State, *, words: str = "") -> Said | None:
    """Why a step cannot be ticked although what comes before it is settled, in words; None where nothing holds it."""
    gate = step.step.gate
    if gate == "kit":
        found = _kit(step, state)
        if found is not None:
            return found
    if words:
        return None
    if gate in ("service_released", "service_home", "service_learned", "drive"):
        found = _service(sheet, gate, state)
        if found is not None:
            return found
    if step.step.tighten:
        fastener = state.fasteners.get(step.step.fastener)
        if fastener is None or (fastener.torque_Nm is None and not fastener.words):
            return say.NO_TORQUE()
    return None


def _kit(step: Step, state: State) -> Said | None:
    what = state.stops.get(step.corner) or ("; ".join(state.stops.values()) if not step.corner else "")
    if what:
        return say.KIT_STOPS(what=what)
    return say.KIT_NOT_LOOKED() if step.corner and step.corner in state.unseen else None


def _service(sheet: Sheet, gate: str, state: State) -> Said | None:
    """What the electric parking brake still has to do; by hand, said in words, counts as done."""
    if sheet.step(SERVICE_MODE) is None or state.tick(SERVICE_MODE).words:
        return None
    at = SERVICE_STATES.index(state.service)
    if gate in ("service_released", "service_home"):
        if at >= SERVICE_STATES.index("home"):
            return None
        return say.NOT_HOME() if state.service == "released" else say.NOT_RELEASED()
    return None if state.service == "learned" else say.NOT_LEARNED()


def why_not_reached(step: Step, state: State, torque_Nm: float | None) -> Said | None:
    """Why a peak torque in N m is not taken for a step, in words; None where it is, or none is wanted."""
    fastener = state.fasteners.get(step.step.fastener)
    if not step.step.tighten or fastener is None or fastener.torque_Nm is None or torque_Nm is None:
        return None
    return reached(torque_Nm, fastener.torque_Nm)


def why_not_as_written(step: Step, state: State) -> Said | None:
    """Why a tightening that was ticked counts no more, in words: another torque is written down since; None else."""
    tick, fastener = state.tick(step.key), state.fasteners.get(step.step.fastener)
    wanted = fastener.torque_Nm if fastener and step.step.tighten else None
    if not tick.done or wanted is None or tick.torque_Nm is None or reached(tick.torque_Nm, wanted) is None:
        return None
    return say.TORQUE_NOW(torque=tick.torque_Nm, wanted=wanted)


def why_not_rechecked(step: Step, state: State) -> Said | None:
    """Why a step cannot be checked again, in words; None where it can."""
    if not step.step.tighten:
        return say.NOT_TIGHTENED()
    return None if state.tick(step.key).done else say.RECHECK_FIRST()


def against_closing(sheet: Sheet, state: State) -> list[Said]:
    """What stands against closing a job, in words: open steps that block, fasteners not checked again, or tightened to
    another torque than is written down by now.
    """
    found = [
        say.OTHER_TORQUE(what=step.step.text, why=why)
        for step in sheet.steps
        if (why := why_not_as_written(step, state)) is not None
    ]
    open_steps = [step for step in sheet.steps if step.step.blocks and not state.tick(step.key).settled]
    if open_steps:
        found.append(say.OPEN_STEPS(count=float(len(open_steps)), what=open_steps[0].step.text))
    once = [
        step.step.text
        for step in sheet.steps
        if step.step.tighten and state.tick(step.key).done and not state.tick(step.key).rechecked
    ]
    if once:
        found.append(say.NOT_RECHECKED(what="; ".join(dict.fromkeys(once))))
    return found


def next_step(sheet: Sheet, state: State) -> Step | None:
    """The first step nobody has said anything of, as a record; None where all is said."""
    return next((step for step in sheet.steps if not state.tick(step.key).settled), None)
