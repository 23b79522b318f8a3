"""What a number is of, and what is said about it: subjects and topics."""

from __future__ import annotations

import dataclasses
from collections.abc import Callable
from dataclasses import dataclass

from thermaxis.core.planning.choice.choose import Weights
from thermaxis.core.planning.choice.figures import Candidate, Figures, figures
from thermaxis.core.planning.verdict.worn import FluidPeak
from thermaxis.core.records import Case
from thermaxis.core.results import Result
from thermaxis.core.said import Said

LIMPERT = "Limpert 1999"


@dataclass(frozen=True, kw_only=True)
class Subject:
    """What a number is of: a set on a duty with its result, and how it is asked about.

    `worn` is its fluid with the pads as thin as when they are changed. `pedal_N` and `ring_C` are the pedal force and
    ring temperature at which the hydraulics are looked at; `stop` is which one of a series of stops is meant, counted
    from 1.
    """

    candidate: Candidate
    result: Result
    event_hours: float
    events_per_month: float
    weights: Weights
    pedal_N: float
    ring_C: float
    worn: FluidPeak
    stop: int | None = None

    @property
    def case(self) -> Case:
        """The case of the set."""
        return self.candidate.setup.case

    @property
    def figures(self) -> Figures:
        """The figures the choice is made by."""
        return figures(self.candidate, self.result, self.event_hours)

    def moved(self, case: Case, result: Result) -> Subject:
        """The same question about another case; a subject."""
        setup = dataclasses.replace(self.candidate.setup, case=case)
        return dataclasses.replace(self, candidate=dataclasses.replace(self.candidate, setup=setup), result=result)


@dataclass(frozen=True, kw_only=True)
class Topic:
    """One number: what it is called, its formula, its value of a subject, its formula with the numbers in it.

    `simulated`: it comes out of a run of the duty, so that the run's energy account belongs to it. `of_stop`: it is of
    one stop of a series, so that the subject has to say which. `of_worn`: it is of the set with worn pads.
    """

    title: str
    formula: str
    unit: str
    source: str
    value: Callable[[Subject], float]
    numbers: Callable[[Subject], Said]
    simulated: bool = True
    of_stop: bool = False
    of_worn: bool = False
