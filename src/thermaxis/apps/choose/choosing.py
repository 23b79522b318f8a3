"""The choice: every set a machine takes on its duty, judged, compared, questioned; nothing here writes."""

from __future__ import annotations

import dataclasses
import functools
import math
from collections.abc import Sequence
from dataclasses import dataclass

from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.fitted import offering
from thermaxis.apps.fitted.parts import Parts
from thermaxis.apps.fitted.standing import Standing, standing_of
from thermaxis.apps.garage import duty_mapping as duties
from thermaxis.apps.garage.mapping import ROOM_PATHS, rooms_of
from thermaxis.apps.garage.models import Machine, SetUp
from thermaxis.apps.garage.shapes import Plan
from thermaxis.apps.solving import ranges, trying
from thermaxis.apps.solving.fitting import Fitter
from thermaxis.apps.solving.mapping import CaseBuilder
from thermaxis.apps.solving.solver import fluid_peaks, solve
from thermaxis.apps.solving.trying import NOTHING, WhatIf
from thermaxis.core.breath import breathing
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.batch import Watch, part_of
from thermaxis.core.physics.schedule import stop_count
from thermaxis.core.planning.choice.choose import DEFAULT_WEIGHTS, Judged, Weights, judge_candidates
from thermaxis.core.planning.choice.comparing import Comparison, compare, shared_traces
from thermaxis.core.planning.choice.figures import Candidate
from thermaxis.core.planning.duty.calibrate import AxleFit
from thermaxis.core.planning.machine.upgrade import changed
from thermaxis.core.planning.verdict.uncertainty import AxleSpread, Spreads, Sweep, sweep

CHANCE_DRAWS = 64
SCRUB_POINTS = 240
SCRUBBED = ("front_surface_C", "rear_surface_C", "front_fluid_C", "rear_fluid_C")


@dataclass(frozen=True, kw_only=True)
class Offer:
    """Every set a machine takes on its duty, translated but not simulated; never changed.

    `left_out` says what is not among them, in words. `spreads` is how far its estimates may be off; `mixed` says
    whether front and rear may be different compounds.
    """

    machine: Machine
    standing: Standing
    plan: Plan
    facts: duties.DutyFacts
    use: str
    events_per_month: float
    mixed: bool
    candidates: tuple[Candidate, ...]
    parts: dict[str, Parts]
    fitted_key: str
    fitted: Candidate
    fits: dict[str, AxleFit]
    spreads: Spreads
    left_out: str


def offer_of(machine: Machine, workshop: Workshop, *, mixed: bool = False, watch: Watch | None = None) -> Offer:
    """Everything the catalogue has for the machine, and its kept set-ups with every compound on the rotors it has.

    Of more than can be weighed at once only some, and `left_out` says which.
    """
    duty, standing = duties.duty_or_error(machine), standing_of(machine)
    plan = duties.plan_of(duty)
    facts = duties.facts_of(machine, plan)
    builder = CaseBuilder(standing, facts.duty, facts.conditions)
    choices = offering.choices_of(standing, offering.most_sets(stop_count(facts.duty)))

    fitter = Fitter(standing)

    def candidates_of(entries: Sequence[Parts]) -> list[Candidate]:
        return [
            dataclasses.replace(
                builder.candidate(entry, duty.use, workshop.currency),
                front_fit=fitter.room("front", entry),
                rear_fit=fitter.room("rear", entry),
            )
            for entry in breathing(entries)
        ]

    alike = choices.alike()
    chosen = candidates_of(alike)
    entries, left_out = alike, ""
    if len(alike) < choices.count[0]:
        left_out = f"{_too_many(choices.count[0])} The {len(alike)} here are on the rotors that are on now."
    if mixed:
        more, left_out = _mixed(choices, alike, chosen, duty.use, facts.event_hours, watch)
        entries, chosen = [*alike, *more], [*chosen, *candidates_of(more)]
    parts = {entry.key: entry for entry in entries}
    candidates = {candidate.key: candidate for candidate in chosen}
    on_it = standing.parts
    rotors = (on_it.front_rotor.key, on_it.rear_rotor.key)
    same_rotors = [
        (key, entry) for key, entry in parts.items() if (entry.front_rotor.key, entry.rear_rotor.key) == rotors
    ]
    for set_up in machine.set_ups.there():
        for key, entry in same_rotors:
            if len(candidates) >= 2 * choices.most:
                left_out = left_out or "Not every set-up is weighed with every pad: there are too many of them."
                break
            other = set_up_candidate(machine, candidates[key], set_up)
            if other is not None:
                candidates[other.key], parts[other.key] = other, entry
    fitted = builder.candidate(on_it, duty.use, workshop.currency)
    if on_it.key not in candidates:
        # A mixed set, or one the catalogue would not offer: what is on is weighed beside the others all the same.
        candidates[on_it.key], parts[on_it.key] = fitted, on_it
    return Offer(
        machine=machine,
        standing=standing,
        plan=plan,
        facts=facts,
        use=duty.use,
        events_per_month=duty.events_per_month,
        mixed=mixed,
        parts=parts,
        candidates=tuple(candidates.values()),
        fitted_key=on_it.key,
        fitted=fitted,
        fits=builder.fits,
        spreads=spreads_of(builder.fits),
        left_out=left_out,
    )


def _mixed(
    choices: offering.Choices,
    alike: Sequence[Parts],
    candidates: Sequence[Candidate],
    use: str,
    event_hours: float,
    watch: Watch | None,
) -> tuple[list[Parts], str]:
    """Sets with different compounds, as many as can be weighed, and in words what is left out.

    Where there are too many the rotors stay as they are; where there are still too many, only those compounds are
    mixed that do best alone.
    """
    room = choices.most - len(alike)
    if choices.count[1] <= room:
        return choices.mixed(None, as_it_stands=False), ""
    pads = choices.pads
    pairs = len(pads["front"]) * len(pads["rear"]) - len(set(pads["front"]) & set(pads["rear"]))
    which = "only on the rotors that are on now"
    if pairs <= room:
        found = choices.mixed(None, as_it_stands=True)
    else:
        judged = _judged(candidates, DEFAULT_WEIGHTS[use], event_hours, watch)
        compounds = {entry.key: entry.front_pad.pad.pk for entry in alike}
        best = list(dict.fromkeys(compounds[entry.candidate.key] for entry in judged))
        mixed = best[: max(2, math.isqrt(max(0, room)))]
        found = choices.mixed(mixed, as_it_stands=True)
        which += f", and only the {len(mixed)} of {len(best)} compounds that do best alone"
    return found, f"{_too_many(sum(choices.count))} Different compounds are paired {which}."


def _too_many(count: int) -> str:
    return f"{count} sets fit this machine, too many to weigh at once."


def set_up_candidate(machine: Machine, plain: Candidate, set_up: SetUp) -> Candidate | None:
    """A candidate with a kept set-up's numbers instead of the machine's; None where they no longer go together."""
    numbers = {path: value for path, value in set_up.changes.items() if path not in ROOM_PATHS}
    try:
        case = changed(plain.setup.case, numbers)
    except FieldError:
        return None
    front, rear = rooms_of(machine, set_up.changes)
    return dataclasses.replace(
        plain,
        key=f"{plain.key}+{set_up.pk}",
        set_up=set_up.name,
        set_up_price=set_up.price,
        setup=dataclasses.replace(plain.setup, case=case),
        front_room_m=front.left(case.front),
        rear_room_m=rear.left(case.rear),
        # Another thickness is another rotor, with a discard of its own that nobody has said.
        front_discard_m=None if "front.rotor.thickness_m" in numbers else plain.front_discard_m,
        rear_discard_m=None if "rear.rotor.thickness_m" in numbers else plain.rear_discard_m,
        # And another caliper has an opening of its own.
        front_fit=None if any(path.startswith("front.") for path in numbers) else plain.front_fit,
        rear_fit=None if any(path.startswith("rear.") for path in numbers) else plain.rear_fit,
    )


def spreads_of(fits: dict[str, AxleFit]) -> Spreads:
    """How far the estimates of a set that is not on yet may be off: only cooling can have been narrowed."""
    front, rear = (ranges.narrowed(fits[axle]) if axle in fits else AxleSpread() for axle in ("front", "rear"))
    return Spreads(front=front, rear=rear)


def under(offer: Offer, what_if: WhatIf, only: Sequence[str] | None = None) -> tuple[list[Candidate], duties.DutyFacts]:
    """The sets of an offer, or `only` those with these keys in that order, under a what-if; with the duty then."""
    chosen = [entry for entry in offer.candidates if only is None or entry.key in only]
    if only is not None:
        chosen.sort(key=lambda entry: only.index(entry.key))
    if what_if == NOTHING:
        return chosen, offer.facts
    machine, plan = trying.changed(offer.standing, offer.plan, what_if)
    facts = duties.facts_of(machine, plan) if what_if.drives else offer.facts
    return [
        dataclasses.replace(entry, setup=trying.setup_under(entry.setup, what_if, offer.standing, facts))
        for entry in breathing(chosen)
    ], facts


def judged_candidates(
    offer: Offer,
    weights: Weights | None,
    what_if: WhatIf,
    only: Sequence[str] | None = None,
    watch: Watch | None = None,
) -> tuple[list[Judged], Weights]:
    """Every set of an offer, or `only` those with these keys, judged on its duty under a what-if."""
    candidates, facts = under(offer, what_if, only)
    weights = weights or DEFAULT_WEIGHTS[offer.use]
    return _judged(candidates, weights, facts.event_hours, watch), weights


def _judged(candidates: Sequence[Candidate], weights: Weights, event_hours: float, watch: Watch | None) -> list[Judged]:
    results = solve([candidate.setup.case for candidate in candidates], part_of(watch, 0.0, 0.7))
    with_worn = functools.partial(fluid_peaks, watch=part_of(watch, 0.7, 1.0))
    return judge_candidates(candidates, weights, event_hours, results, with_worn)


def known_keys(offer: Offer, keys: Sequence[str]) -> None:
    """Check that an offer has these keys, each once. FieldError names the first it has not."""
    known = {candidate.key for candidate in offer.candidates}
    for index, key in enumerate(keys):
        if key not in known or key in keys[:index]:
            raise FieldError(f"keys[{index}]", key, "a candidate this machine takes, each once")


def compared(offer: Offer, keys: Sequence[str], what_if: WhatIf) -> Comparison:
    """Sets of an offer side by side under a what-if, in the order asked for. FieldError for a key it has not."""
    known_keys(offer, keys)
    judged, _ = judged_candidates(offer, None, what_if, keys)
    judged.sort(key=lambda entry: keys.index(entry.candidate.key))
    return compare(judged, offer.events_per_month)


def scrubbed(
    offer: Offer, keys: Sequence[str], what_if: WhatIf
) -> tuple[tuple[float, ...], dict[str, dict[str, tuple[float, ...]]]]:
    """What the ladder's columns read at every moment of the duty: shared times, and by key the traces `SCRUBBED`."""
    known_keys(offer, keys)
    candidates, _ = under(offer, what_if, keys)
    times, traces = shared_traces([entry.setup.case for entry in candidates], SCRUB_POINTS)
    return times, {
        entry.key: {name: each[name] for name in SCRUBBED} for entry, each in zip(candidates, traces, strict=True)
    }


def chances(offer: Offer, keys: Sequence[str], what_if: WhatIf, watch: Watch | None = None) -> dict[str, Sweep]:
    """How likely each of the sets crosses a limit, and the band of its hottest rings, with the estimates as loose as
    they are; by key. FieldError for a key the offer has not.
    """
    known_keys(offer, keys)
    candidates, _ = under(offer, what_if, keys)
    found: dict[str, Sweep] = {}
    for place, entry in enumerate(candidates):
        found[entry.key] = sweep(
            entry.setup,
            lambda result: {"front_peak_C": result.front.peak_surface_C, "rear_peak_C": result.rear.peak_surface_C},
            offer.spreads,
            count=CHANCE_DRAWS,
            watch=part_of(watch, place / len(candidates), (place + 1) / len(candidates)),
            worn=entry.worn_case,
        )
    return found
