"""Choose pads and rotors: hard limits reject, the rest is ranked by weights; every place and rejection says why."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from thermaxis.core.breath import breathing
from thermaxis.core.checked import Checked, number
from thermaxis.core.messages import choice as say
from thermaxis.core.messages.fit import TOO_THICK_FOR_CALIPER
from thermaxis.core.physics.friction import friction_coefficient
from thermaxis.core.physics.resistance import GRAVITY
from thermaxis.core.physics.simulate import simulate
from thermaxis.core.planning.choice.figures import Candidate, Figures, figures, with_worn
from thermaxis.core.planning.fit.stack import Room
from thermaxis.core.planning.inspection.wheel import under_discard
from thermaxis.core.planning.verdict.limits import Margin, heat_margins
from thermaxis.core.planning.verdict.worn import FluidPeak, fluid_peaks
from thermaxis.core.records import Case
from thermaxis.core.results import Result
from thermaxis.core.said import Said

WORN = "fluid boils, pads worn"
TOO_THICK = "too thick"
# Why the greatest pedal force was not enough: the short word and the sentence.
SHORT_OF_FORCE = {
    "fade": ("fades", say.FADES),
    "cold": ("too cold to bite", say.TOO_COLD),
    "pedal": ("pedal too heavy", say.TOO_HEAVY),
}


@dataclass(frozen=True, kw_only=True)
class Weights(Checked):
    """How much each criterion matters, 0 to 5."""

    heat_margin: float = number(ge=0, le=5)
    cold_bite: float = number(ge=0, le=5)
    pedal: float = number(ge=0, le=5)
    pad_life: float = number(ge=0, le=5)
    quiet: float = number(ge=0, le=5)
    clean_wheels: float = number(ge=0, le=5)
    rotor_wear: float = number(ge=0, le=5)
    cost: float = number(ge=0, le=5)


USES = ("track", "sprint", "hill", "tow", "street", "delivery")
DEFAULT_WEIGHTS = {
    "track": Weights(heat_margin=5, cold_bite=2, pedal=2, pad_life=3, quiet=1, clean_wheels=0, rotor_wear=1, cost=3),
    "sprint": Weights(heat_margin=3, cold_bite=5, pedal=2, pad_life=1, quiet=1, clean_wheels=0, rotor_wear=0, cost=2),
    "hill": Weights(heat_margin=3, cold_bite=5, pedal=2, pad_life=1, quiet=2, clean_wheels=1, rotor_wear=0, cost=2),
    "tow": Weights(heat_margin=5, cold_bite=4, pedal=3, pad_life=3, quiet=3, clean_wheels=1, rotor_wear=1, cost=2),
    "street": Weights(heat_margin=2, cold_bite=4, pedal=2, pad_life=3, quiet=5, clean_wheels=4, rotor_wear=2, cost=3),
    "delivery": Weights(heat_margin=2, cold_bite=3, pedal=2, pad_life=5, quiet=3, clean_wheels=2, rotor_wear=3, cost=5),
}


@dataclass(frozen=True, kw_only=True)
class Judged:
    """A candidate with its result, its figures, its place and the sentence for it.

    `dominated_by` is the key of another that is at least as good in every figure that counts and better in one.
    """

    candidate: Candidate
    result: Result
    figures: Figures
    rejected_for: str | None
    score: float
    scores: dict[str, float]
    reason: Said
    dominated_by: str | None = None


def judge_candidates(
    candidates: Sequence[Candidate],
    weights: Weights,
    event_hours: float,
    results: Sequence[Result] | None = None,
    worn_fluid: Callable[[Sequence[Case]], Sequence[FluidPeak]] = fluid_peaks,
) -> list[Judged]:
    """Simulate (unless `results` are given) and judge all candidates; those that pass first, best score first.

    What passes with new pads is asked of worn ones, too: `worn_fluid` gives the fluid of cases in degC, as a record.
    """
    if results is None:
        results = simulate([candidate.setup.case for candidate in candidates])
    measured = [
        (candidate, result, figures(candidate, result, event_hours))
        for candidate, result in zip(breathing(candidates), results, strict=True)
    ]
    rejections = [rejection(*entry) for entry in breathing(measured)]
    asked = [index for index, refused in enumerate(rejections) if refused is None]
    peaks = worn_fluid([measured[index][0].worn_case for index in asked])
    for index, peak in zip(breathing(asked), peaks, strict=True):
        candidate, result, figure = measured[index]
        figure = with_worn(figure, candidate, peak)
        measured[index] = (candidate, result, figure)
        rejections[index] = worn_rejection(candidate, figure)
    passing = [entry for entry, refused in zip(measured, rejections, strict=True) if refused is None]
    scores = [criterion_scores(figure, candidate) for candidate, _, figure in breathing(passing)]
    means = {name: sum(entry[name] for entry in scores) / len(scores) for name in scores[0]} if scores else {}
    judged = []
    for (candidate, result, figure), each in zip(breathing(passing), scores, strict=True):
        score = weighted(each, weights)
        judged.append(
            Judged(
                candidate=candidate,
                result=result,
                figures=figure,
                rejected_for=None,
                score=score,
                scores=each,
                reason=rank_sentence(candidate, figure, each, means, weights),
            )
        )
    judged.sort(key=lambda entry: (-entry.score, entry.candidate.key))
    above = dominators([merits(entry.candidate, entry.figures) for entry in judged])
    judged = [
        replace(entry, dominated_by=None if index is None else judged[index].candidate.key)
        for entry, index in zip(judged, above, strict=True)
    ]
    refused_entries = [
        Judged(
            candidate=candidate,
            result=result,
            figures=figure,
            rejected_for=refused[0],
            score=0.0,
            scores={},
            reason=refused[1],
        )
        for (candidate, result, figure), refused in zip(measured, rejections, strict=True)
        if refused is not None
    ]
    refused_entries.sort(key=lambda entry: -entry.figures.lowest_margin_K)
    return judged + refused_entries


def merits(candidate: Candidate, figure: Figures) -> tuple[float, ...]:
    """Everything that counts in a score, each so that more is better: margins in K, shares, events, prices as records.

    The figures themselves, not the scores, which stop rising where more no longer helps.
    """
    return (
        figure.lowest_margin_K,
        figure.window_share,
        figure.change_margin_K,
        -figure.pedal_worst_N,
        figure.cold_mu,
        figure.life_events,
        -candidate.noise,
        -candidate.dust,
        -candidate.rotor_wear_m,
        -figure.cost_per_hour,
        -candidate.bought_once,
    )


def dominators(merits_of: Sequence[tuple[float, ...]]) -> list[int | None]:
    """For each candidate's merits the first other that is as good in all and better in one, as its row; or None.

    Whatever the weights, a dominated candidate is never the better choice: moving the sliders need not bring it up.
    """
    table = np.array(merits_of) if merits_of else np.empty((0, 1))
    found: list[int | None] = []
    for row in table:
        better = np.flatnonzero((table >= row).all(axis=1) & (table > row).any(axis=1))
        found.append(int(better[0]) if len(better) else None)
    return found


def worn_rejection(candidate: Candidate, figure: Figures) -> tuple[str, Said] | None:
    """Short reason and sentence where the fluid would boil with the pads as thin as when they are changed; or None."""
    if figure.worn_margin_K is None or figure.worn_fluid_C is None or figure.worn_margin_K >= 0:
        return None
    return WORN, say.FLUID_BOILS_WORN(
        front=candidate.front_change_m,
        rear=candidate.rear_change_m,
        peak=figure.worn_fluid_C,
        over=-figure.worn_margin_K,
        boiling=candidate.setup.boiling_C,
        new=figure.fluid_peak_C,
    )


def _too_hot(margin: Margin, candidate: Candidate, result: Result) -> tuple[str, Said]:
    """Short name and sentence of a pad or a rotor that is over its limit."""
    reached: dict[str, str | float] = {
        "axle": margin.axle,
        "value": margin.value,
        "over": -margin.left,
        "allowed": margin.allowed,
    }
    if margin.limit == "rotor":
        return "rotor too hot", say.ROTOR_TOO_HOT(**reached)
    name = candidate.pad if margin.axle == "front" else candidate.rear_pad
    # Friction there and then: the least of the whole duty may be that of its cold start.
    there = friction_coefficient(margin.value, getattr(candidate.setup.case, margin.axle).pad.mu)
    return "pad fades", say.PAD_TOO_HOT(pad=name, there=there, **reached)


def rejection(candidate: Candidate, result: Result, figure: Figures) -> tuple[str, Said] | None:
    """Return (short reason, sentence) of the hard limit a candidate breaks worst, or None."""
    setup = candidate.setup
    for axle, room in (("front", candidate.front_room_m), ("rear", candidate.rear_room_m)):
        if room is not None and room < 0:
            return "does not fit", say.DOES_NOT_FIT(axle=axle, missing=-room)
        stack: Room | None = getattr(candidate, f"{axle}_fit")
        if stack is not None and stack.room_m is not None and stack.verdict == "does not fit":
            return TOO_THICK, TOO_THICK_FOR_CALIPER(axle=axle, over=-stack.room_m, spread=stack.spread_m)
        discard, rotor = getattr(candidate, f"{axle}_discard_m"), getattr(setup.case, axle).rotor
        worn = under_discard(axle, rotor.thickness_m, discard) if discard is not None else None
        if worn is not None:
            return "rotor worn out", worn.text
    if not result.stopped:
        return "cannot stop", say.DOES_NOT_STOP()
    if figure.lowest_margin_K < 0:
        worst = min(heat_margins(setup, result), key=lambda margin: (margin.left, margin.limit))
        return _too_hot(worst, candidate, result)
    if figure.fluid_margin_K < 0:
        return "fluid boils", say.FLUID_BOILS(
            peak=figure.fluid_peak_C, over=-figure.fluid_margin_K, boiling=setup.boiling_C
        )
    short = result.short_of_force
    if short is not None:
        greatest = setup.case.hydraulics.max_pedal_force_N
        reason, sentence = SHORT_OF_FORCE[short.cause]
        return reason, sentence(axle=short.axle, mu=short.mu, at=short.at_C, limited=short.seconds, greatest=greatest)
    # With separate circuits the rider, not the parts, decides which wheel locks.
    if figure.lock_first == "rear" and setup.case.vehicle.rider_front_share is None:
        return "rear locks first", say.REAR_FIRST(at=figure.lock_g * GRAVITY)
    return None


def criterion_scores(figure: Figures, candidate: Candidate) -> dict[str, float]:
    """Score each criterion from 0 to 1 (estimated scales, the same for every candidate)."""
    greatest = candidate.setup.case.hydraulics.max_pedal_force_N
    fluid = min(figure.fluid_margin_K, figure.change_margin_K)
    margin = min(_ramp(figure.lowest_margin_K, 0.0, 150.0), _ramp(fluid, 0.0, 80.0))
    return {
        "heat_margin": 0.5 * margin + 0.5 * figure.window_share,
        "cold_bite": _ramp(figure.cold_mu, 0.20, 0.45),
        "pedal": _ramp(1.0 - figure.pedal_worst_N / greatest, 0.0, 0.7),
        "pad_life": _ramp(math.log10(max(figure.life_events, 0.1)), 0.0, 3.5),
        "quiet": 1.0 - candidate.noise / 5.0,
        "clean_wheels": 1.0 - candidate.dust / 5.0,
        "rotor_wear": 1.0 - _ramp(candidate.rotor_wear_m, 0.0001, 0.0006),
        # What is bought once counts by price, as the life of a rotor is not computed: a fortieth an hour (estimate).
        "cost": 1.0 - _ramp(math.log10(max(figure.cost_per_hour + candidate.bought_once / 40.0, 0.01)), -1.0, 2.0),
    }


def weighted(scores: dict[str, float], weights: Weights) -> float:
    """Weighted mean of the scores, 0 to 100; all weights at zero count as equal."""
    pairs = [(value, getattr(weights, name)) for name, value in scores.items()]
    total = sum(weight for _, weight in pairs)
    if total == 0:
        return 100.0 * sum(value for value, _ in pairs) / len(pairs)
    return float(100.0 * sum(value * weight for value, weight in pairs) / total)


def rank_sentence(
    candidate: Candidate, figure: Figures, scores: dict[str, float], means: dict[str, float], weights: Weights
) -> Said:
    """Say how warm it runs, then what lifts it most and what costs it most against the others that pass."""
    pull = {name: getattr(weights, name) * (scores[name] - means[name]) for name in scores}
    order = sorted((name for name in pull if name != "heat_margin"), key=lambda name: -pull[name])
    heat = _phrase("heat_margin", candidate, figure)
    lifts = _phrase(order[0], candidate, figure) if pull[order[0]] > 1e-9 else None
    costs = _phrase(order[-1], candidate, figure) if pull[order[-1]] < -1e-9 else None
    if lifts and costs:
        return say.RANK_BOTH(heat=heat, lifts=lifts, costs=costs)
    if lifts:
        return say.RANK_FOR(heat=heat, lifts=lifts)
    return say.RANK_AGAINST(heat=heat, costs=costs) if costs else say.RANK(heat=heat)


def _phrase(name: str, candidate: Candidate, figure: Figures) -> Said:
    if name == "heat_margin":
        return _heat(figure)
    an_hour, bought = figure.cost_per_hour, candidate.bought_once

    def cost() -> Said:
        if bought == 0.0 and candidate.set_up_price is None:
            return say.COST_PADS(money=candidate.currency, an_hour=an_hour)
        sentence = say.COST_ROTORS if candidate.set_up_price is None else say.COST_SET_UP
        return sentence(money=candidate.currency, an_hour=an_hour, bought=bought)

    phrases: dict[str, Callable[[], Said]] = {
        "cold_bite": lambda: say.COLD_BITE(mu=figure.cold_mu),
        "pedal": lambda: say.PEDAL(worst=figure.pedal_worst_N),
        "pad_life": lambda: say.PAD_LIFE(events=figure.life_events),
        "quiet": lambda: say.QUIET(noise=candidate.noise),
        "clean_wheels": lambda: say.CLEAN_WHEELS(dust=candidate.dust),
        "rotor_wear": lambda: say.ROTOR_WEAR(wear=candidate.rotor_wear_m),
        "cost": cost,
    }
    return phrases[name]()


def _heat(figure: Figures) -> Said:
    known = {
        "hottest": max(figure.front_peak_C, figure.rear_peak_C),
        "inside": figure.window_share,
        "left": figure.lowest_margin_K,
        "fluid": figure.fluid_margin_K,
        "worn": figure.change_margin_K,
    }
    rest = max(figure.cold_share, figure.hot_share)
    if rest < 0.005:
        return say.HEAT(**known)
    outside = "too cold" if figure.cold_share >= figure.hot_share else "too hot"
    return say.HEAT_OUTSIDE(rest=rest, outside=outside, **known)


def _ramp(value: float, low: float, high: float) -> float:
    return min(1.0, max(0.0, (value - low) / (high - low)))
