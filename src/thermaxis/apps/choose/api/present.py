"""The choice as the API gives it."""

from __future__ import annotations

import dataclasses
import math

import numpy as np

from thermaxis.apps.accounts.api.said import said_out
from thermaxis.apps.catalogue.models import Provenance
from thermaxis.apps.choose.api import schemas
from thermaxis.apps.choose.choosing import Offer
from thermaxis.apps.choose.fluids import FluidChoice
from thermaxis.apps.fitted.parts import Parts
from thermaxis.apps.solving.api.schemas import CrossingOut
from thermaxis.core.planning.choice.choose import Judged
from thermaxis.core.planning.choice.comparing import Compared, Comparison
from thermaxis.core.planning.choice.figures import Candidate
from thermaxis.core.planning.fit.stack import gravest
from thermaxis.core.planning.verdict.readings import rotor_limit_C
from thermaxis.core.planning.verdict.uncertainty import Sweep
from thermaxis.core.results import AxleResult

# Two of the engine's 10 K bins: what the ladder draws as one.
BINS_PER_STEP = 2


def _ladder(judged: Judged, axle: str) -> schemas.LadderAxle:
    setup, result = judged.candidate.setup, getattr(judged.result, axle)
    limits = getattr(setup, f"{axle}_limits")
    return schemas.LadderAxle.of(
        limits,
        peak_C=round(result.peak_surface_C, 1),
        pad_limit_C=limits.limit_C,
        rotor_limit_C=rotor_limit_C(setup, axle),
        profile=_profile(result),
    )


def _profile(result: AxleResult) -> list[float]:
    energy = np.asarray(result.energy_by_temperature_J).reshape(-1, BINS_PER_STEP).sum(axis=1)
    total = float(energy.sum()) or 1.0
    used = np.flatnonzero(energy)
    return [round(float(value) / total, 4) for value in energy[: int(used[-1]) + 1]] if len(used) else []


def candidate_out(judged: Judged, parts: Parts, fitted_key: str | None) -> schemas.CandidateOut:
    figures = judged.figures
    return schemas.CandidateOut(
        key=judged.candidate.key,
        pad=judged.candidate.pad,
        rear_pad=judged.candidate.rear_pad,
        pads=judged.candidate.pads,
        set_up=judged.candidate.set_up,
        set_up_price=judged.candidate.set_up_price,
        family=parts.front_pad.pad.family,
        # A compound nobody has said to be sold in this shape is no better than an estimate.
        provenance=Provenance.ESTIMATE
        if Provenance.ESTIMATE in (parts.front_pad.provenance, parts.rear_pad.provenance)
        else parts.front_pad.pad.provenance,
        front_rotor=judged.candidate.front_rotor,
        rear_rotor=judged.candidate.rear_rotor,
        score=round(judged.score, 1),
        dominated_by=judged.dominated_by,
        rejected_for=judged.rejected_for,
        reason=said_out(judged.reason),
        front=_ladder(judged, "front"),
        rear=_ladder(judged, "rear"),
        window_share=figures.window_share,
        pedal_worst_N=figures.pedal_worst_N,
        fluid_peak_C=figures.fluid_peak_C,
        fluid_margin_K=figures.fluid_margin_K,
        worn_margin_K=figures.worn_margin_K,
        life_events=figures.life_events,
        life_hours=figures.life_hours,
        cost_per_hour=figures.cost_per_hour,
        pads_price=judged.candidate.pads_price,
        fitted=judged.candidate.key == fitted_key,
        fit=_fit(judged.candidate),
    )


def _fit(candidate: Candidate) -> schemas.FitBrief | None:
    found = gravest({"front": candidate.front_fit, "rear": candidate.rear_fit})
    if found is None:
        return None
    axle, room = found
    return schemas.FitBrief.of(room, axle="front" if axle == "front" else "rear")


def comparison_out(found: Comparison, offer: Offer) -> schemas.SetsComparedOut:
    return schemas.SetsComparedOut(
        t_s=[round(t, 2) for t in found.t_s], sets=[_compared_out(entry, offer) for entry in found.sets]
    )


def _compared_out(entry: Compared, offer: Offer) -> schemas.ComparedSetOut:
    judged, figures = entry.judged, entry.judged.figures
    candidate = judged.candidate
    plain = candidate_out(judged, offer.parts[candidate.key], offer.fitted_key)
    digits = {"mu": 4}
    return schemas.ComparedSetOut.of(
        figures,
        **plain.model_dump(),
        cost_per_year=entry.cost_per_year if math.isfinite(entry.cost_per_year) else None,
        noise=candidate.noise,
        dust=candidate.dust,
        rotor_wear_m=candidate.rotor_wear_m,
        rotors_price=candidate.bought_once,
        traces={
            name: [round(value, digits.get(name.rpartition("_")[2], 1)) for value in values]
            for name, values in entry.traces.items()
        },
    )


def chance_out(key: str, found: Sweep) -> schemas.ChanceOut:
    front, rear = found.bands
    return schemas.ChanceOut(
        key=key,
        any_probability=found.any_crossed,
        crossings=[CrossingOut.of(entry) for entry in found.crossings],
        front_p10_C=front.p10,
        front_p90_C=front.p90,
        rear_p10_C=rear.p10,
        rear_p90_C=rear.p90,
    )


def scrub_out(t_s: tuple[float, ...], sets: dict[str, dict[str, tuple[float, ...]]]) -> schemas.ScrubOut:
    def short(values: tuple[float, ...]) -> list[float]:
        return [round(value, 1) for value in values]

    return schemas.ScrubOut(
        t_s=[round(t, 2) for t in t_s],
        sets=[
            schemas.ScrubbedSet(
                key=key,
                front_surface_C=short(each["front_surface_C"]),
                rear_surface_C=short(each["rear_surface_C"]),
                fluid_C=short(tuple(map(max, each["front_fluid_C"], each["rear_fluid_C"]))),
            )
            for key, each in sets.items()
        ],
    )


def fluid_out(choice: FluidChoice) -> schemas.FluidChoiceOut:
    fluid = choice.fluid
    return schemas.FluidChoiceOut.of(
        fluid,
        in_machine=choice.in_machine,
        now_K=choice.now_K,
        price_per_year=choice.price_per_year if math.isfinite(choice.price_per_year) else None,
        **dataclasses.asdict(choice.verdict),
    )
