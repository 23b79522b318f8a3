"""The choice: candidates, comparison, chances, ways out, fluids."""

from __future__ import annotations

import contextlib

from django.http import HttpResponse
from django.utils import timezone
from ninja import Path, Router

from thermaxis.apps.accounts.api.fields import RowId
from thermaxis.apps.accounts.api.kept_answers import written_answer
from thermaxis.apps.accounts.api.signed_in import SIGNED_IN, ScopedRequest
from thermaxis.apps.choose import buying, choosing, explaining
from thermaxis.apps.choose.api import present, schemas
from thermaxis.apps.choose.api.offers import offer_to
from thermaxis.apps.choose.api.why import ENTRIES, chance_why_out, topic_out, why_out
from thermaxis.apps.choose.api.why_schemas import WhyOut
from thermaxis.apps.choose.choosing import Offer
from thermaxis.apps.choose.fluids import fluid_choices as choices_of_fluid
from thermaxis.apps.choose.rescuing import ways_out as ways_out_of
from thermaxis.apps.fitted.actions.fill import fill
from thermaxis.apps.fitted.standing import machine_of
from thermaxis.apps.solving import trying
from thermaxis.apps.solving.api.following import followed
from thermaxis.apps.solving.api.schemas import AnswerOut, LeversOut
from thermaxis.apps.solving.following import state_of
from thermaxis.apps.solving.in_force import tried
from thermaxis.core.breath import breathing
from thermaxis.core.errors import FieldError
from thermaxis.core.planning.choice.choose import DEFAULT_WEIGHTS, Judged, Weights
from thermaxis.core.planning.choice.own_friction import Braking, friction_from_braking

router = Router(auth=SIGNED_IN)


@router.get("/machines/{machine_id}/levers", response=LeversOut, operation_id="levers")
def levers(request: ScopedRequest, machine_id: Path[RowId]) -> LeversOut:
    state = state_of(request.auth, machine_id)
    return LeversOut.of(trying.levers_of(state.standing, state.plan))


@router.post("/machines/{machine_id}/candidates", response=schemas.ChooseOut, operation_id="candidates")
def candidates(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.ChooseAsk) -> HttpResponse:
    asked = schemas.weights_of(payload.weights)
    offer = offer_to(request, machine_id, payload.mixed)
    # A few columns follow the hand: they do not wait for a turn.
    few = payload.only is not None
    doing = "Simulating every pad and rotor this machine takes"
    with contextlib.nullcontext() if few else followed(request, doing) as watch:
        judged, weights = choosing.judged_candidates(offer, asked, payload.record(), payload.only, watch)
        # A thousand sets written out take as long as solving them did.
        return written_answer(schemas.ChooseOut, _choice(offer, judged, weights))


def _choice(offer: Offer, judged: list[Judged], weights: Weights) -> schemas.ChooseOut:
    rows = breathing(judged)
    out = [present.candidate_out(entry, offer.parts[entry.candidate.key], offer.fitted_key) for entry in rows]
    fluid = offer.standing.fill.fluid
    return schemas.ChooseOut(
        weights=schemas.WeightsIO.of(weights),
        presets={use: schemas.WeightsIO.of(preset) for use, preset in DEFAULT_WEIGHTS.items()},
        boiling_C=judged[0].candidate.setup.boiling_C if judged else 0.0,
        fluid_dry_C=fluid.dry_C,
        fluid_wet_C=fluid.wet_C,
        total=len(out),
        left_out=offer.left_out,
        ranked=[entry for entry in out if entry.rejected_for is None],
        rejected=[entry for entry in out if entry.rejected_for is not None],
    )


@router.post("/machines/{machine_id}/sets/compare", response=schemas.SetsComparedOut, operation_id="compare_sets")
def compare_sets(
    request: ScopedRequest, machine_id: Path[RowId], payload: schemas.CompareSetsAsk
) -> schemas.SetsComparedOut:
    offer = offer_to(request, machine_id, payload.mixed)
    return present.comparison_out(choosing.compared(offer, payload.keys, payload.record()), offer)


@router.post("/machines/{machine_id}/sets/scrub", response=schemas.ScrubOut, operation_id="scrub_sets")
def scrub_sets(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.SetsAsk) -> schemas.ScrubOut:
    offer = offer_to(request, machine_id, payload.mixed)
    return present.scrub_out(*choosing.scrubbed(offer, payload.keys, payload.record()))


@router.post("/machines/{machine_id}/sets/chances", response=schemas.ChancesOut, operation_id="set_chances")
def set_chances(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.SetsAsk) -> schemas.ChancesOut:
    offer = offer_to(request, machine_id, payload.mixed)
    with followed(request, "Running each set with its estimates off") as watch:
        found = choosing.chances(offer, payload.keys, payload.record(), watch)
    return schemas.ChancesOut(
        draws=choosing.CHANCE_DRAWS, sets=[present.chance_out(key, sweep) for key, sweep in found.items()]
    )


@router.post("/machines/{machine_id}/sets/ways-out", response=schemas.WaysOutOut, operation_id="ways_out")
def ways_out(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.SetAsk) -> schemas.WaysOutOut:
    offer = offer_to(request, machine_id, payload.mixed)
    with followed(request, "Trying what would let it pass") as watch:
        found = ways_out_of(offer, payload.key, payload.record(), watch)
    return schemas.WaysOutOut(ways=[AnswerOut.of(answer) for answer in found])


@router.post("/machines/{machine_id}/fluids", response=schemas.FluidsOut, operation_id="fluid_choices")
def fluid_choices(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.FluidsAsk) -> schemas.FluidsOut:
    offer = offer_to(request, machine_id, payload.mixed)
    peak, found = choices_of_fluid(offer, request.auth.workshop, payload.key, payload.record())
    age = payload.fluid_age_months
    return schemas.FluidsOut(
        peak_C=peak,
        age_months=offer.standing.fluid_months if age is None else age,
        fluids=[present.fluid_out(choice) for choice in found],
    )


@router.put("/machines/{machine_id}/fluid", response=schemas.FilledOut, operation_id="fill")
def fill_machine(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.FillAsk) -> schemas.FilledOut:
    machine = machine_of(request.auth, machine_id)
    now, before = fill(request.auth, machine, payload.fluid_id, payload.age_months, timezone.localdate())
    return schemas.FilledOut.of(
        now,
        name=now.fluid.name,
        before_id=before.fill.fluid_id,
        before=before.fill.fluid.name,
        before_months=before.fluid_months,
    )


@router.post("/machines/{machine_id}/why/{reading}", response=WhyOut, operation_id="why")
def why(request: ScopedRequest, machine_id: Path[RowId], reading: str, payload: schemas.WhyAsk) -> WhyOut:
    if payload.key is None and reading in ENTRIES:
        state = state_of(request.auth, machine_id)
        with followed(request, "Moving every input"):
            return why_out(tried(state, payload.record()), reading)
    offer = offer_to(request, machine_id, payload.mixed)
    if reading == "chance":
        with followed(request, "Running the set with its estimates off") as watch:
            found = explaining.chance_of(offer, payload.record(), payload.key, watch)
        return chance_why_out(*found, offer)
    weights = schemas.weights_of(payload.weights)
    bedding = (payload.bedding.record(), payload.bedding.school) if payload.bedding else None
    with followed(request, "Moving every input"):
        subject = explaining.subject_of(
            offer, payload.record(), payload.key, weights, payload.pedal_force_N, payload.rotor_C, bedding, payload.stop
        )
        return topic_out(reading, subject, offer, offer.parts.get(subject.candidate.key))


@router.post("/machines/{machine_id}/sets/parts", response=schemas.PartsOfferOut, operation_id="parts_offer")
def parts_offer(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.SetAsk) -> schemas.PartsOfferOut:
    offer = offer_to(request, machine_id, payload.mixed)
    if payload.key not in offer.parts or "+" in payload.key:
        raise FieldError("key", payload.key, "a candidate made of parts the catalogue has")
    lines = buying.lines_of(offer.standing, offer.parts[payload.key], buying.counter())
    return schemas.PartsOfferOut(
        lines=[schemas.PartLine.of(line) for line in lines],
        list_total=sum(line.count * line.list_price for line in lines),
        total=sum(line.count * line.price for line in lines),
        ready_on=buying.ready_on(lines, timezone.localdate()),
    )


@router.post("/machines/{machine_id}/friction", response=schemas.FrictionOut, operation_id="braking_friction")
def braking_friction(
    request: ScopedRequest, machine_id: Path[RowId], payload: schemas.FrictionAsk
) -> schemas.FrictionOut:
    state = state_of(request.auth, machine_id)
    mu = friction_from_braking(state.setup.case, Braking(**payload.model_dump()))
    pad = state.standing.pads("front").pad
    return schemas.FrictionOut(mu=mu, pad_id=pad.pk, pad=pad.name)
