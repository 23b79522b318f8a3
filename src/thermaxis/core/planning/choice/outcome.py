"""Will these parts survive: the first thing that is out of its limit, in a line, as the choice names it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal, cast

from thermaxis.core.messages import choice as say
from thermaxis.core.planning.choice.choose import rejection, worn_rejection
from thermaxis.core.planning.choice.figures import Candidate, figures, with_worn
from thermaxis.core.planning.verdict.readings import Reading
from thermaxis.core.planning.verdict.worn import FluidPeak
from thermaxis.core.results import Result
from thermaxis.core.said import Said

State = Literal["fine", "close", "over"]
WORST: dict[str, int] = {"over": 0, "close": 1, "fine": 2}


@dataclass(frozen=True, kw_only=True)
class Outcome:
    """What a duty does to what is on, in a line: `limit` is the short name of what is crossed or nearest.

    `state` is over where a limit is crossed, close where one is near, else fine; `rejects` where the choice would
    reject such a set.
    """

    state: State
    limit: str
    rejects: bool
    text: Said


def head_of(sentence: Said) -> Said:
    """The line for a sentence a set is rejected with."""
    head = say.HEADS[sentence.template]
    return head(**{name: sentence.values[name] for name in head.places})


def outcome(
    candidate: Candidate, result: Result, event_hours: float, readings: Sequence[Reading], worn: FluidPeak
) -> Outcome:
    """The first limit that is crossed, else the nearest; a record.

    Limits come in the order in which the choice rejects: parts, heat, fluid, force, balance, the fluid with worn pads.
    Pads that are due come after them, and braking outside the window last: it wears and bites badly, and holds.
    """
    figure = with_worn(figures(candidate, result, event_hours), candidate, worn)
    refused = rejection(candidate, result, figure) or worn_rejection(candidate, figure)
    if refused is not None:
        return Outcome(state="over", limit=refused[0], rejects=True, text=head_of(refused[1]))
    life_first = sorted(readings, key=lambda reading: (WORST[reading.state], reading.name != "life"))
    worst = life_first[0]
    if worst.state == "fine":
        text = say.WITHIN(left=figure.lowest_margin_K, fluid=figure.change_margin_K)
    else:
        text = _near(worst)
    return Outcome(state=cast(State, worst.state), limit=worst.name, rejects=False, text=text)


def due_text(axle: str, events: float) -> Said:
    """When an axle's pads are due, as one says it."""
    if events < 0.05:
        return say.DUE_NOW(axle=axle)
    return say.DUE_IN(axle=axle, events=events)


def _near(reading: Reading) -> Said:
    if reading.name == "life":
        return due_text(reading.detail, reading.left)
    if reading.name == "window":
        return say.OUTSIDE(share=reading.value / 100.0, where=reading.detail)
    if reading.name == "rotor":
        return say.NEAR_RING(axle=reading.detail, value=reading.value, limit=reading.limit)
    near = say.NEAR_PEDAL if reading.name == "pedal" else say.NEAR_FLUID
    return near(value=reading.value, limit=reading.limit)
