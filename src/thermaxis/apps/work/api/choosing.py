"""The choice: candidates, comparison, chances, ways out, fluids."""

from __future__ import annotations

import contextlib
import dataclasses
from typing import Any

from django.http import HttpRequest
from django.utils import timezone
from ninja import Path, Router

from thermaxis.apps.accounts.api.router import workshop_of
from thermaxis.apps.garage.actions.change_machine import fill
from thermaxis.apps.garage.api.duty_schemas import RowId
from thermaxis.apps.garage.api.router import machine_of
from thermaxis.apps.work import buying, choosing, compute, devices, explaining, trying
from thermaxis.apps.work.api import choose_schemas, present_choice, schemas
from thermaxis.apps.work.api.estimates import followed, state_of
from thermaxis.apps.work.api.why import ENTRIES, chance_why_out, topic_out, why_out
from thermaxis.apps.work.kept import kept
from thermaxis.apps.work.querysets import parts_of, set_in_force
from thermaxis.core.errors import FieldError
from thermaxis.core.planning.choice.choose import DEFAULT_WEIGHTS
from thermaxis.core.planning.choice.own_friction import Braking, friction_from_braking

router = Router()


def offer_to(request: HttpRequest, machine_id: int, mixed: bool) -> choosing.Offer:
    """Every set the machine takes; kept until something is written. It may wait for a turn: never ask within one."""
    workshop = workshop_of(request)

    def build() -> choosing.Offer:
        machine = machine_of(request, machine_id)
        if not mixed:
            return choosing.offer_of(machine, workshop)
        with followed(request, "Finding the compounds worth mixing") as watch:
            return choosing.offer_of(machine, workshop, mixed=True, watch=watch)

    return kept(("offer", workshop.pk, machine_id, mixed), build)


@router.get("/machines/{machine_id}/levers", response=schemas.LeversOut, operation_id="levers")
def levers(request: HttpRequest, machine_id: Path[RowId]) -> Any:
    state = state_of(request, machine_id)
    return dataclasses.asdict(trying.levers_of(state.machine, state.plan))


@router.post("/machines/{machine_id}/candidates", response=choose_schemas.ChooseOut, operation_id="candidates")
def candidates(request: HttpRequest, machine_id: Path[RowId], payload: choose_schemas.ChooseAsk) -> Any:
    asked = choose_schemas.weights_of(payload.weights)
    offer = offer_to(request, machine_id, payload.mixed)
    # A few columns follow the hand: they do not wait for a turn.
    few = payload.only is not None
    doing = "Simulating every pad and rotor this machine takes"
    with contextlib.nullcontext() if few else followed(request, doing) as watch:
        judged, weights = choosing.judged_candidates(offer, asked, payload.record(), payload.only, watch)
    out = [present_choice.candidate_out(entry, offer.parts[entry.candidate.key], offer.fitted_key) for entry in judged]
    fluid = offer.machine.fluid
    return choose_schemas.ChooseOut(
        weights=choose_schemas.WeightsIO(**dataclasses.asdict(weights)),
        presets={
            use: choose_schemas.WeightsIO(**dataclasses.asdict(preset)) for use, preset in DEFAULT_WEIGHTS.items()
        },
        boiling_C=judged[0].candidate.setup.boiling_C if judged else 0.0,
        fluid_dry_C=fluid.dry_C, fluid_wet_C=fluid.wet_C, total=len(out), left_out=offer.left_out,
        ranked=[entry for entry in out if entry.rejected_for is None],
        rejected=[entry for entry in out if entry.rejected_for is not None],
    )  # fmt: skip


@router.post(
    "/machines/{machine_id}/sets/compare", response=choose_schemas.SetsComparedOut, operation_id="compare_sets"
)
def compare_sets(request: HttpRequest, machine_id: Path[RowId], payload: choose_schemas.CompareSetsAsk) -> Any:
    offer = offer_to(request, machine_id, payload.mixed)
    return present_choice.comparison_out(choosing.compared(offer, payload.keys, payload.record()), offer)


@router.post("/machines/{machine_id}/sets/scrub", response=choose_schemas.ScrubOut, operation_id="scrub_sets")
def scrub_sets(request: HttpRequest, machine_id: Path[RowId], payload: choose_schemas.SetsAsk) -> Any:
    offer = offer_to(request, machine_id, payload.mixed)
    return present_choice.scrub_out(*choosing.scrubbed(offer, payload.keys, payload.record()))


@router.post("/machines/{machine_id}/sets/chances", response=choose_schemas.ChancesOut, operation_id="set_chances")
def set_chances(request: HttpRequest, machine_id: Path[RowId], payload: choose_schemas.SetsAsk) -> Any:
    offer = offer_to(request, machine_id, payload.mixed)
    with followed(request, "Running each set with its estimates off") as watch:
        found = choosing.chances(offer, payload.keys, payload.record(), watch)
    return choose_schemas.ChancesOut(
        draws=choosing.CHANCE_DRAWS, sets=[present_choice.chance_out(key, sweep) for key, sweep in found.items()]
    )


@router.post("/machines/{machine_id}/sets/ways-out", response=choose_schemas.WaysOutOut, operation_id="ways_out")
def ways_out(request: HttpRequest, machine_id: Path[RowId], payload: choose_schemas.SetAsk) -> Any:
    offer = offer_to(request, machine_id, payload.mixed)
    with followed(request, "Trying what would let it pass") as watch:
        found = choosing.ways_out(offer, payload.key, payload.record(), watch)
    return {"ways": [dataclasses.asdict(answer) for answer in found]}


@router.post("/machines/{machine_id}/fluids", response=choose_schemas.FluidsOut, operation_id="fluid_choices")
def fluid_choices(request: HttpRequest, machine_id: Path[RowId], payload: choose_schemas.FluidsAsk) -> Any:
    offer = offer_to(request, machine_id, payload.mixed)
    peak, found = choosing.fluid_choices(offer, workshop_of(request), payload.key, payload.record())
    age = payload.fluid_age_months
    return choose_schemas.FluidsOut(
        peak_C=peak, age_months=offer.machine.fluid_age_months if age is None else age,
        fluids=[present_choice.fluid_out(choice) for choice in found],
    )  # fmt: skip


@router.put("/machines/{machine_id}/fluid", response=choose_schemas.FilledOut, operation_id="fill")
def fill_machine(request: HttpRequest, machine_id: Path[RowId], payload: choose_schemas.FillAsk) -> Any:
    machine = machine_of(request, machine_id)
    before, months = machine.fluid, machine.fluid_age_months
    now = fill(machine, payload.fluid_id, payload.age_months)
    return choose_schemas.FilledOut(
        fluid_id=now.fluid_id, name=now.fluid.name, age_months=now.fluid_age_months, before_id=before.pk,
        before=before.name, before_months=months,
    )  # fmt: skip


@router.post("/machines/{machine_id}/why/{reading}", response=schemas.WhyOut, operation_id="why")
def why(request: HttpRequest, machine_id: Path[RowId], reading: str, payload: choose_schemas.WhyAsk) -> Any:
    if payload.key is None and reading in ENTRIES:
        state = state_of(request, machine_id)
        with followed(request, "Moving every input"):
            return why_out(compute.tried(state, payload.record()), reading)
    offer = offer_to(request, machine_id, payload.mixed)
    if reading == "chance":
        with followed(request, "Running the set with its estimates off") as watch:
            found = explaining.chance_of(offer, payload.record(), payload.key, watch)
        return chance_why_out(*found, offer)
    weights = choose_schemas.weights_of(payload.weights)
    bedding = (payload.bedding.top_speed_mps, payload.bedding.hard_g) if payload.bedding else None
    with followed(request, "Moving every input"):
        subject = explaining.subject_of(
            offer, payload.record(), payload.key, weights, payload.pedal_force_N, payload.rotor_C, bedding, payload.stop
        )
        return topic_out(reading, subject, offer, offer.parts.get(subject.candidate.key))


@router.post("/machines/{machine_id}/sets/parts", response=choose_schemas.PartsOfferOut, operation_id="parts_offer")
def parts_offer(request: HttpRequest, machine_id: Path[RowId], payload: choose_schemas.SetAsk) -> Any:
    offer = offer_to(request, machine_id, payload.mixed)
    if payload.key not in offer.parts or "+" in payload.key:
        raise FieldError("key", payload.key, "a candidate made of parts the catalogue has")
    fitted = set_in_force(offer.machine)
    lines = buying.lines_of(
        offer.machine, offer.parts[payload.key], parts_of(fitted) if fitted else None, devices.counter()
    )
    return choose_schemas.PartsOfferOut(
        lines=[choose_schemas.PartLine(**dataclasses.asdict(line)) for line in lines],
        list_total=sum(line.count * line.list_price for line in lines),
        total=sum(line.count * line.price for line in lines), ready_on=buying.ready_on(lines, timezone.localdate()),
    )  # fmt: skip


@router.post("/machines/{machine_id}/friction", response=choose_schemas.FrictionOut, operation_id="braking_friction")
def braking_friction(request: HttpRequest, machine_id: Path[RowId], payload: choose_schemas.FrictionAsk) -> Any:
    state = state_of(request, machine_id)
    mu = friction_from_braking(state.setup.case, Braking(**payload.dict()))
    pad = state.fitted.front_pad.pad
    return choose_schemas.FrictionOut(mu=mu, pad_id=pad.pk, pad=pad.name)
