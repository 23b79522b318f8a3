"""Any number of the application as a question to the core: of which set, on which duty, how the pedal is pressed."""

from __future__ import annotations

import dataclasses
from collections.abc import Sequence

from thermaxis.apps.choose import choosing
from thermaxis.apps.choose.choosing import Offer
from thermaxis.apps.solving import strip
from thermaxis.apps.solving.bedding import plan_of
from thermaxis.apps.solving.solver import fluid_peaks, solve
from thermaxis.apps.solving.trying import WhatIf
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.batch import Watch
from thermaxis.core.planning.bedding.setting import Road
from thermaxis.core.planning.choice.choose import DEFAULT_WEIGHTS, Weights
from thermaxis.core.planning.choice.figures import Candidate
from thermaxis.core.planning.explain.explain import TOPICS
from thermaxis.core.planning.explain.topic import Subject, Topic
from thermaxis.core.planning.explain.why import Sensitivity, moves, sensitivities
from thermaxis.core.planning.verdict.uncertainty import Sweep
from thermaxis.core.records import Case


def subject_of(
    offer: Offer,
    what_if: WhatIf,
    key: str | None,
    weights: Weights | None,
    pedal_N: float,
    ring_C: float,
    bedding: tuple[Road, str] | None,
    stop: int | None = None,
) -> Subject:
    """The set with a key, or the one that is on, under a what-if; `bedding` (road, school) puts its bedding plan in
    the duty's place, of which `stop` is one, counted from 1. FieldError for a key the offer has not, SolveError where
    nothing is fitted.
    """
    offer, key = _asked(offer, key)
    (entry,), facts = choosing.under(offer, what_if, [key])
    if bedding is not None:
        plan, setting = plan_of(offer.standing, *bedding)
        if plan.duty is None:
            raise FieldError("school", bedding[1], "a school this machine can be driven by")
        case = dataclasses.replace(setting.alone, duty=plan.duty)
        entry = dataclasses.replace(entry, setup=dataclasses.replace(entry.setup, case=case))
    return Subject(
        candidate=entry,
        result=solve([entry.setup.case])[0],
        worn=fluid_peaks([entry.worn_case])[0],
        event_hours=facts.event_hours,
        events_per_month=offer.events_per_month,
        weights=weights or DEFAULT_WEIGHTS[offer.use],
        pedal_N=pedal_N,
        ring_C=ring_C,
        stop=stop,
    )


def chance_of(offer: Offer, what_if: WhatIf, key: str | None, watch: Watch | None = None) -> tuple[Candidate, Sweep]:
    """The set with a key, or the one that is on, with its sweep over the estimates; errors as `subject_of`."""
    offer, key = _asked(offer, key)
    entry = next(entry for entry in offer.candidates if entry.key == key)
    return entry, choosing.chances(offer, [key], what_if, watch)[key]


def _asked(offer: Offer, key: str | None) -> tuple[Offer, str]:
    if key is None:
        return dataclasses.replace(offer, candidates=(offer.fitted,)), offer.fitted.key
    if key not in {entry.key for entry in offer.candidates}:
        raise FieldError("key", key, "a candidate this machine takes")
    return offer, key


def opened(name: str, subject: Subject) -> tuple[Topic, tuple[Sensitivity, ...]]:
    """The topic of a number and how far it moves with each input.

    FieldError for a name there is no topic of, or for a stop that is none of the duty's.
    """
    topic = TOPICS.get(name)
    if topic is None:
        raise FieldError("reading", name, "one of " + ", ".join([*strip.READING_OF, "life", "chance", *TOPICS]))
    stops = len(subject.result.stops)
    if topic.of_stop and not 1 <= (subject.stop or 0) <= stops:
        raise FieldError("stop", subject.stop, f"1 to {stops}" if stops else "a stop of a bedding plan")
    if topic.of_worn:

        def worn(cases: Sequence[Case]) -> list[float]:
            return [topic.value(dataclasses.replace(subject, worn=peak)) for peak in fluid_peaks(cases)]

        return topic, moves(subject.candidate.worn_case, worn)
    return topic, sensitivities(subject.case, lambda case, result: topic.value(subject.moved(case, result)))
