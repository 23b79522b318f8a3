"""Ready for an event? Go, look or no-go, each with its reasons, and what to take along."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from thermaxis.core.messages import life as say
from thermaxis.core.planning.life.fluid import DUE_K
from thermaxis.core.planning.life.forecast import SPARES, SURVIVES
from thermaxis.core.said import Said

WORDS = ("go", "look", "no-go")
TAKE = ("torque wrench", "thickness gauge", "wheel chocks and stands", "gloves and eye protection")


@dataclass(frozen=True, kw_only=True)
class Along:
    """What is taken along, with a length in m where it is a tool of a size."""

    name: str
    size_m: float | None = None


@dataclass(frozen=True, kw_only=True)
class Reason:
    """One reason: fine, close or over, and where it is put right."""

    state: str
    text: Said
    stage: str


@dataclass(frozen=True, kw_only=True)
class Part:
    """A part's likelihood to hold through the event, `sound` to be without hairlines after it; `spare` is what would be
    taken along for it.
    """

    name: str
    chance: float
    spare: str = ""
    sound: float = 1.0


@dataclass(frozen=True, kw_only=True)
class Readiness:
    """The word for the whole, its reasons (gravest first) and what to take along."""

    word: str
    reasons: tuple[Reason, ...]
    take: tuple[Along, ...]


def part_reason(part: Part) -> Reason:
    """What a part's likelihood says: fine over 95 %, close from 60 %, else over; a record.

    >>> part_reason(Part(name="front pads", chance=0.8)).state
    'close'
    """
    # So many draws tell no more than this.
    chance = min(0.99, part.chance)
    if part.chance > SURVIVES and part.sound <= SURVIVES:
        return Reason(state="close", text=say.PART_LOOK(part=part.name, chance=part.sound), stage="inspect")
    if part.chance > SURVIVES:
        return Reason(state="fine", text=say.PART_HOLDS(part=part.name, chance=chance), stage="life")
    if part.chance >= SPARES:
        return Reason(state="close", text=say.PART_SPARES(part=part.name, chance=chance), stage="life")
    return Reason(state="over", text=say.PART_NOT(part=part.name, chance=chance), stage="life")


def fluid_reason(margin_K: float, air_C: float) -> Reason:
    """What the fluid's margin on the day says: close under 50 K, over where it boils; a record.

    >>> [fluid_reason(margin, 20.0).state for margin in (90.0, 30.0, -3.0)]
    ['fine', 'close', 'over']
    """
    if margin_K <= 0:
        return Reason(state="over", text=say.FLUID_BOILS(over=-margin_K, air=air_C), stage="job")
    if margin_K < DUE_K:
        return Reason(state="close", text=say.FLUID_CLOSE(margin=margin_K, air=air_C), stage="job")
    return Reason(state="fine", text=say.FLUID_HOLDS(margin=margin_K, air=air_C), stage="life")


def readiness(reasons: Sequence[Reason], parts: Sequence[Part], *, fluid: str, tools: Sequence[Along]) -> Readiness:
    """Go, look or no-go by the gravest reason, and what to take along: a spare of all that may not last, fluid, tools.

    A record; nothing here clears a machine, it names what speaks against it.

    >>> found = readiness([fluid_reason(30.0, 20.0)], [], fluid="DOT 4", tools=())
    >>> found.word
    'look'
    """
    order = ("over", "close", "fine")
    word = WORDS[max((2 - order.index(reason.state) for reason in reasons), default=0)]
    spares = [part.spare for part in parts if part.chance <= SURVIVES and part.spare]
    take = dict.fromkeys([*(Along(name=name) for name in (*spares, fluid, *TAKE) if name), *tools])
    return Readiness(
        word=word, reasons=tuple(sorted(reasons, key=lambda reason: order.index(reason.state))), take=tuple(take)
    )
