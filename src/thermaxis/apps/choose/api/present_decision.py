"""What is kept of a decision: these sets among all that were judged, and everything they rest on."""

from __future__ import annotations

import dataclasses
from collections.abc import Sequence

from thermaxis.apps.choose import choosing
from thermaxis.apps.choose.api import decision_schemas, schemas
from thermaxis.apps.choose.api.present import candidate_out
from thermaxis.apps.fitted.standing import FLUID_AGE
from thermaxis.apps.garage.duty_mapping import duty_or_error
from thermaxis.apps.solving import trying
from thermaxis.apps.solving.api.schemas import WhatIf
from thermaxis.core.physics.batch import Watch
from thermaxis.core.planning.choice.choose import Judged

BESIDE = 2
MOST_REJECTED = 24


def content_of(
    offer: choosing.Offer,
    payload: WhatIf,
    weighed: schemas.WeightsIO | None,
    keys: Sequence[str],
    chosen: str | None,
    watch: Watch | None,
) -> decision_schemas.DecisionContent:
    """What is kept: these sets among all that were judged, and everything they rest on."""
    what_if = payload.record()
    judged, weights = choosing.judged_candidates(offer, schemas.weights_of(weighed), what_if)
    by_key = {entry.candidate.key: entry for entry in judged}
    sure = choosing.chances(offer, keys, what_if, watch)
    machine, _ = trying.changed(offer.standing, offer.plan, what_if)
    _, facts = choosing.under(offer, what_if, [])
    duty = duty_or_error(offer.machine)
    passing = [entry for entry in judged if entry.rejected_for is None]
    months = offer.standing.fluid_months if what_if.fluid_age_months is None else what_if.fluid_age_months
    numbers = dataclasses.replace(offer.standing, machine=machine).numbers() | {FLUID_AGE: months}
    return decision_schemas.DecisionContent.of(
        facts,
        machine=machine.name,
        machine_note=machine.note,
        duty=duty.name,
        duty_note=duty.note,
        events_per_month=offer.events_per_month,
        currency=machine.workshop.currency,
        fluid=offer.standing.fill.fluid.name,
        fluid_age_months=months,
        boiling_C=by_key[keys[0]].candidate.setup.boiling_C,
        total=len(judged),
        passing=len(passing),
        draws=choosing.CHANCE_DRAWS,
        mixed=offer.mixed,
        weights=weights,
        what_if=WhatIf(**{name: getattr(payload, name) for name in WhatIf.model_fields}),
        levers=trying.levers_of(offer.standing, offer.plan),
        sets=[_decided(offer, by_key[key], passing, chosen, sure[key].any_crossed) for key in keys],
        rejected=_rejected(judged),
        inputs=[
            decision_schemas.DecidedInput(path=path, value=value, estimate=path in machine.estimates)
            for path, value in numbers.items()
        ],
        assumptions=list(dict.fromkeys(text for key in keys for text in by_key[key].result.assumptions)),
    )


def _decided(
    offer: choosing.Offer, entry: Judged, passing: list[Judged], chosen: str | None, crossed: float
) -> decision_schemas.DecidedSet:
    figures, candidate = entry.figures, entry.candidate
    plain = candidate_out(entry, offer.parts[candidate.key], offer.fitted_key)
    return decision_schemas.DecidedSet.of(
        figures,
        **plain.model_dump(),
        place=passing.index(entry) + 1 if entry in passing else None,
        chosen=candidate.key == chosen,
        any_probability=crossed,
        rotors_price=candidate.bought_once,
    )


def _rejected(judged: list[Judged]) -> list[decision_schemas.DecidedRejection]:
    """The mildest rejection of each choice of pads that passes on no rotor; of many, those nearest to passing.

    On the machine as it stands: a set-up that does not go into the wheel says nothing about the pads in it.
    """
    passing = {entry.candidate.pads for entry in judged if entry.rejected_for is None}
    found: dict[str, decision_schemas.DecidedRejection] = {}
    for entry in judged:
        candidate = entry.candidate
        if entry.rejected_for is None or candidate.set_up or candidate.pads in passing or candidate.pads in found:
            continue
        found[candidate.pads] = decision_schemas.DecidedRejection.of(
            entry, pads=candidate.pads, rotors=f"{candidate.front_rotor}, {candidate.rear_rotor}"
        )
    return list(found.values())[:MOST_REJECTED]


def beside(judged: list[Judged], key: str) -> list[str]:
    """The keys of the best sets beside one, one for each choice of pads on the machine as it stands."""
    first: dict[str, str] = {}
    for entry in judged:
        candidate = entry.candidate
        if entry.rejected_for is None and not candidate.set_up:
            first.setdefault(candidate.pads, candidate.key)
    return [found for found in first.values() if found != key][:BESIDE]
