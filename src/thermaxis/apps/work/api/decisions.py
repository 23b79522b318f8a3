"""The set on a machine, and the decisions behind it: fit, keep, read, share, print."""

from __future__ import annotations

import dataclasses
import datetime as dt
from collections.abc import Sequence
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Path, Router, Status

from thermaxis.apps.accounts.api.router import workshop_of
from thermaxis.apps.accounts.changes import change
from thermaxis.apps.garage.api.duty_schemas import RowId
from thermaxis.apps.garage.api.router import machine_of
from thermaxis.apps.garage.mapping import paths
from thermaxis.apps.work import choosing, compute, trying
from thermaxis.apps.work.actions import decide
from thermaxis.apps.work.actions.fit_set import fit_set, undo_fit
from thermaxis.apps.work.api import choose_schemas, decision_schemas, present, present_choice, schemas
from thermaxis.apps.work.api.choosing import offer_to
from thermaxis.apps.work.api.estimates import followed
from thermaxis.apps.work.models import Decision
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.batch import Watch
from thermaxis.core.planning.choice.choose import Judged
from thermaxis.formats.units import System

router = Router()
BESIDE = 2
MOST_REJECTED = 24


def content_of(
    offer: choosing.Offer, payload: schemas.WhatIf, weighed: choose_schemas.WeightsIO | None, keys: Sequence[str],
    chosen: str | None, watch: Watch | None,
) -> decision_schemas.DecisionContent:  # fmt: skip
    """What is kept: these sets among all that were judged, and everything they rest on."""
    what_if = payload.record()
    judged, weights = choosing.judged_candidates(offer, choose_schemas.weights_of(weighed), what_if)
    by_key = {entry.candidate.key: entry for entry in judged}
    sure = choosing.chances(offer, keys, what_if, watch)
    machine, _ = trying.changed(offer.machine, offer.plan, what_if)
    _, facts = choosing.under(offer, what_if, [])
    duty = compute.duty_or_error(offer.machine)
    passing = [entry for entry in judged if entry.rejected_for is None]
    return decision_schemas.DecisionContent(
        machine=machine.name, machine_note=machine.note, duty=duty.name, duty_note=duty.note, event_km=facts.event_km,
        event_hours=facts.event_hours, events_per_month=offer.events_per_month, currency=machine.workshop.currency,
        fluid=machine.fluid.name, fluid_age_months=machine.fluid_age_months,
        boiling_C=by_key[keys[0]].candidate.setup.boiling_C, total=len(judged), passing=len(passing),
        draws=choosing.CHANCE_DRAWS, mixed=offer.mixed,
        weights=choose_schemas.WeightsIO(**dataclasses.asdict(weights)),
        what_if=schemas.WhatIf(**{name: getattr(payload, name) for name in schemas.WhatIf.model_fields}),
        levers=schemas.LeversOut(**dataclasses.asdict(trying.levers_of(offer.machine, offer.plan))),
        sets=[_decided(offer, by_key[key], passing, chosen, sure[key].any_crossed) for key in keys],
        rejected=_rejected(judged),
        inputs=[
            decision_schemas.DecidedInput(
                path=path, value=getattr(row, column), estimate=path in machine.estimates
            )
            for path, (row, column) in paths(machine).items()
        ],
        assumptions=list(dict.fromkeys(text for key in keys for text in by_key[key].result.assumptions)),
    )  # fmt: skip


def _decided(
    offer: choosing.Offer, entry: Judged, passing: list[Judged], chosen: str | None, crossed: float
) -> decision_schemas.DecidedSet:
    figures, candidate = entry.figures, entry.candidate
    plain = present_choice.candidate_out(entry, offer.parts[candidate.key], offer.fitted_key)
    return decision_schemas.DecidedSet(
        **plain.dict(), place=passing.index(entry) + 1 if entry in passing else None, chosen=candidate.key == chosen,
        any_probability=crossed, lowest_margin_K=figures.lowest_margin_K, cold_mu=figures.cold_mu,
        front_share=figures.front_share, lock_first=figures.lock_first, lock_g=figures.lock_g,
        rotors_price=candidate.bought_once,
    )  # fmt: skip


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
        found[candidate.pads] = decision_schemas.DecidedRejection(
            pads=candidate.pads, rotors=f"{candidate.front_rotor}, {candidate.rear_rotor}",
            rejected_for=entry.rejected_for, reason=entry.reason,
        )  # fmt: skip
    return list(found.values())[:MOST_REJECTED]


@router.get("/machines/{machine_id}/set", response=schemas.SetOut, operation_id="fitted_set")
def fitted_set(request: HttpRequest, machine_id: Path[RowId]) -> Any:
    return present.set_out(compute.set_or_error(machine_of(request, machine_id)))


@router.post("/machines/{machine_id}/set", response=schemas.SetOut, operation_id="fit_set")
def fit(request: HttpRequest, machine_id: Path[RowId], payload: decision_schemas.FitAsk) -> Any:
    machine, workshop = machine_of(request, machine_id), workshop_of(request)
    offer = offer_to(request, machine_id, payload.mixed)
    if payload.key not in offer.parts or "+" in payload.key:
        raise FieldError("key", payload.key, "a candidate this machine takes as it stands")
    asked = choose_schemas.weights_of(payload.weights)
    with followed(request, "Keeping what the choice rests on") as watch:
        judged, _ = choosing.judged_candidates(offer, asked, payload.record(), watch=watch)
        best = [entry.candidate.key for entry in _one_per_pads(judged) if entry.candidate.key != payload.key]
        keys = [payload.key, *best[:BESIDE]]
        content = content_of(offer, payload, payload.weights, keys, payload.key, watch)
    reason = payload.reason or content.sets[0].reason
    with change():
        fitted = fit_set(machine, workshop, payload.key, reason, dt.date.today())
        title = f"{content.sets[0].pads} for {content.duty}"[:120]
        decide.keep_decision(machine, content.model_dump(mode="json"), title, fitted=fitted)
    return present.set_out(fitted)


def _one_per_pads(judged: list[Judged]) -> list[Judged]:
    first: dict[str, Judged] = {}
    for entry in judged:
        if entry.rejected_for is None and not entry.candidate.set_up:
            first.setdefault(entry.candidate.pads, entry)
    return list(first.values())


@router.delete("/machines/{machine_id}/set", response=schemas.SetOut, operation_id="undo_fit")
def take_back(request: HttpRequest, machine_id: Path[RowId]) -> Any:
    return present.set_out(undo_fit(machine_of(request, machine_id)))


@router.get("/machines/{machine_id}/decisions", response=list[decision_schemas.DecisionRow], operation_id="decisions")
def decisions(request: HttpRequest, machine_id: Path[RowId]) -> Any:
    return [_row(row) for row in machine_of(request, machine_id).decisions.defer("content")]


@router.post(
    "/machines/{machine_id}/decisions", response={201: decision_schemas.DecisionOut}, operation_id="keep_decision"
)
def keep(request: HttpRequest, machine_id: Path[RowId], payload: decision_schemas.DecisionAsk) -> Any:
    machine = machine_of(request, machine_id)
    offer = offer_to(request, machine_id, payload.mixed)
    with followed(request, "Keeping what the shortlist rests on") as watch:
        content = content_of(offer, payload, payload.weights, payload.keys, None, watch)
    row = decide.keep_decision(machine, content.model_dump(mode="json"), payload.title, payload.note)
    return Status(201, _out(row))


def _mine(request: HttpRequest, decision_id: int) -> Decision:
    return get_object_or_404(Decision.objects.of(workshop_of(request)), pk=decision_id)


@router.get("/decisions/{decision_id}", response=decision_schemas.DecisionOut, operation_id="decision")
def decision(request: HttpRequest, decision_id: Path[RowId]) -> Any:
    return _out(_mine(request, decision_id))


@router.put("/decisions/{decision_id}/shared", response=decision_schemas.DecisionOut, operation_id="share_decision")
def share(request: HttpRequest, decision_id: Path[RowId], payload: decision_schemas.SharedAsk) -> Any:
    row = _mine(request, decision_id)
    if payload.shared and row.removed_at is not None:
        raise FieldError("shared", True, "false while it is taken out of the list")
    return _out(decide.set_shared(row, payload.shared, payload.notes))


@router.put("/decisions/{decision_id}/removed", response=decision_schemas.DecisionOut, operation_id="remove_decision")
def remove(request: HttpRequest, decision_id: Path[RowId], payload: schemas.RemovedAsk) -> Any:
    return _out(decide.set_removed(_mine(request, decision_id), payload.removed))


@router.get("/decisions/{decision_id}/pdf", response=bytes, operation_id="decision_pdf")
def pdf(request: HttpRequest, decision_id: Path[RowId], units: System = "metric") -> Any:
    return _pdf(_mine(request, decision_id), units)


# Whoever has the address may read, nothing else: no sign-in, no number of a row.
@router.get("/shared/{token}", response=decision_schemas.SharedOut, operation_id="shared", auth=None)
def shared(request: HttpRequest, token: str) -> Any:
    row = _shared(token)
    return decision_schemas.SharedOut(
        title=row.title, note=row.note, workshop=row.workshop.name, made_at=row.made_at,
        fitted=row.fitted_set_id is not None, engine_version=row.engine_version,
        content=decision_schemas.DecisionContent(**row.content),
    )  # fmt: skip


@router.get("/shared/{token}/pdf", response=bytes, operation_id="shared_pdf", auth=None)
def shared_pdf(request: HttpRequest, token: str, units: System = "metric") -> Any:
    return _pdf(_shared(token), units)


def _shared(token: str) -> Decision:
    """The decision with this address, its notes left out unless they are shared; it ends with its machine."""
    rows = Decision.objects.select_related("workshop").filter(removed_at=None, machine__removed_at=None)
    row = get_object_or_404(rows, token=token)
    if not row.share_notes:
        row.note, row.content = "", {**row.content, "machine_note": "", "duty_note": ""}
    return row


def _pdf(row: Decision, units: System) -> HttpResponse:
    # Asked for seldom, and its libraries take longer to load than the rest of the application.
    from thermaxis.formats.decision_pdf import decision_pdf

    fitted = row.fitted_set_id is not None
    content = decision_pdf(
        row.content, row.title, row.note, row.workshop.name, row.made_at, row.engine_version, fitted, units
    )
    response = HttpResponse(content, content_type="application/pdf")
    response["Content-Disposition"] = f'inline; filename="decision-{row.made_at:%Y-%m-%d}.pdf"'
    return response


def _row(row: Decision) -> decision_schemas.DecisionRow:
    return decision_schemas.DecisionRow(
        id=row.pk, title=row.title, made_at=row.made_at, fitted=row.fitted_set_id is not None,
        set_id=row.fitted_set_id, shared=row.token is not None, removed=row.removed_at is not None,
    )  # fmt: skip


def _out(row: Decision) -> decision_schemas.DecisionOut:
    return decision_schemas.DecisionOut(
        **_row(row).dict(), note=row.note, token=row.token or "", share_notes=row.share_notes,
        engine_version=row.engine_version,
        content=decision_schemas.DecisionContent(**row.content),
    )  # fmt: skip
