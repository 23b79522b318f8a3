"""The set on a machine, and the decisions behind it: fit, keep, read, share, print."""

from __future__ import annotations

from django.http import HttpResponse
from django.utils import timezone
from ninja import Path, Router, Status

from thermaxis.apps.accounts.api.fields import Removed, RowId
from thermaxis.apps.accounts.api.files import file_response
from thermaxis.apps.accounts.api.signed_in import SIGNED_IN, ScopedRequest
from thermaxis.apps.accounts.errors import NotThere
from thermaxis.apps.choose import choosing
from thermaxis.apps.choose.actions import decide
from thermaxis.apps.choose.actions.decide import SHARE_DECISION
from thermaxis.apps.choose.actions.fit_set import fit_set, undo_fit
from thermaxis.apps.choose.api import decision_schemas
from thermaxis.apps.choose.api.offers import offer_to
from thermaxis.apps.choose.api.present_decision import beside, content_of
from thermaxis.apps.choose.api.schemas import weights_of
from thermaxis.apps.choose.models import Decision
from thermaxis.apps.fitted.standing import machine_of, standing_of
from thermaxis.apps.solving.api.following import followed
from thermaxis.apps.solving.api.present import set_out
from thermaxis.apps.solving.api.schemas import SetOut
from thermaxis.core.errors import FieldError
from thermaxis.formats.units import System

router = Router(auth=SIGNED_IN)


@router.get("/machines/{machine_id}/set", response=SetOut, operation_id="fitted_set")
def fitted_set(request: ScopedRequest, machine_id: Path[RowId]) -> SetOut:
    return set_out(standing_of(machine_of(request.auth, machine_id)))


@router.post("/machines/{machine_id}/set", response=SetOut, operation_id="fit_set")
def fit(request: ScopedRequest, machine_id: Path[RowId], payload: decision_schemas.FitAsk) -> SetOut:
    machine = machine_of(request.auth, machine_id)
    offer = offer_to(request, machine_id, payload.mixed)
    if payload.key not in offer.parts or "+" in payload.key:
        raise FieldError("key", payload.key, "a candidate this machine takes as it stands")
    asked = weights_of(payload.weights)
    with followed(request, "Keeping what the choice rests on") as watch:
        judged, _ = choosing.judged_candidates(offer, asked, payload.record(), watch=watch)
        keys = [payload.key, *beside(judged, payload.key)]
        content = content_of(offer, payload, payload.weights, keys, payload.key, watch)
    fit_set(
        request.auth,
        machine,
        payload.key,
        on=payload.on or timezone.localdate(),
        odometer_km=payload.odometer_km,
        content=content.model_dump(mode="json"),
        title=f"{content.sets[0].pads} for {content.duty}"[:120],
        note=payload.reason,
        renew=payload.renew,
    )
    return set_out(standing_of(machine))


@router.delete("/machines/{machine_id}/set", response=SetOut, operation_id="undo_fit")
def take_back(request: ScopedRequest, machine_id: Path[RowId]) -> SetOut:
    return set_out(undo_fit(request.auth, machine_of(request.auth, machine_id)))


@router.get("/machines/{machine_id}/decisions", response=list[decision_schemas.DecisionRow], operation_id="decisions")
def decisions(request: ScopedRequest, machine_id: Path[RowId]) -> list[decision_schemas.DecisionRow]:
    return [_row(row) for row in machine_of(request.auth, machine_id).decisions.defer("content")]


@router.post(
    "/machines/{machine_id}/decisions", response={201: decision_schemas.DecisionOut}, operation_id="keep_decision"
)
def keep(
    request: ScopedRequest, machine_id: Path[RowId], payload: decision_schemas.DecisionAsk
) -> Status[decision_schemas.DecisionOut]:
    machine = machine_of(request.auth, machine_id)
    offer = offer_to(request, machine_id, payload.mixed)
    with followed(request, "Keeping what the shortlist rests on") as watch:
        content = content_of(offer, payload, payload.weights, payload.keys, None, watch)
    row = decide.keep_decision(request.auth, machine, content.model_dump(mode="json"), payload.title, payload.note)
    return Status(201, _out(request, row))


def _mine(request: ScopedRequest, decision_id: int) -> Decision:
    return request.auth.one(Decision.objects.of(request.auth.workshop), decision_id)


@router.get("/decisions/{decision_id}", response=decision_schemas.DecisionOut, operation_id="decision")
def decision(request: ScopedRequest, decision_id: Path[RowId]) -> decision_schemas.DecisionOut:
    return _out(request, _mine(request, decision_id))


@router.put("/decisions/{decision_id}/shared", response=decision_schemas.DecisionOut, operation_id="share_decision")
def share(
    request: ScopedRequest, decision_id: Path[RowId], payload: decision_schemas.SharedAsk
) -> decision_schemas.DecisionOut:
    row = _mine(request, decision_id)
    return _out(request, decide.set_shared(request.auth, row, payload.shared, payload.notes))


@router.put("/decisions/{decision_id}/removed", response=decision_schemas.DecisionOut, operation_id="remove_decision")
def remove(request: ScopedRequest, decision_id: Path[RowId], payload: Removed) -> decision_schemas.DecisionOut:
    return _out(request, decide.set_removed(request.auth, _mine(request, decision_id), payload.removed))


@router.get("/decisions/{decision_id}/pdf", response=bytes, operation_id="decision_pdf")
def pdf(request: ScopedRequest, decision_id: Path[RowId], units: System = "metric") -> HttpResponse:
    return _pdf(_mine(request, decision_id), units)


# Whoever has the address may read, nothing else: no sign-in, no number of a row.
@router.get("/shared/{token}", response=decision_schemas.SharedOut, operation_id="shared", auth=None)
def shared(request: ScopedRequest, token: str) -> decision_schemas.SharedOut:
    row = _shared(token)
    return decision_schemas.SharedOut.of(
        row,
        workshop=row.workshop.name,
        fitted=row.fitting_id is not None,
        content=decision_schemas.DecisionContent(**row.content),
    )


@router.get("/shared/{token}/pdf", response=bytes, operation_id="shared_pdf", auth=None)
def shared_pdf(request: ScopedRequest, token: str, units: System = "metric") -> HttpResponse:
    return _pdf(_shared(token), units)


def _shared(token: str) -> Decision:
    """The decision with this address, its notes left out unless they are shared; it ends with its machine."""
    rows = Decision.objects.select_related("workshop").filter(removed_at=None, machine__removed_at=None)
    row = rows.filter(token=token).first()
    if row is None:
        raise NotThere
    if not row.share_notes:
        row.note, row.content = "", {**row.content, "machine_note": "", "duty_note": ""}
    return row


def _pdf(row: Decision, units: System) -> HttpResponse:
    # Asked for seldom, and its libraries take longer to load than the rest of the application.
    from thermaxis.formats.decision_pdf import decision_pdf

    fitted = row.fitting_id is not None
    content = decision_pdf(
        row.content, row.title, row.note, row.workshop.name, row.made_at, row.engine_version, fitted, units
    )
    return file_response(content, f"decision-{row.made_at:%Y-%m-%d}.pdf", "application/pdf", shown=True)


def _row(row: Decision) -> decision_schemas.DecisionRow:
    return decision_schemas.DecisionRow.of(row, fitted=row.fitting_id is not None, shared=row.token is not None)


def _out(request: ScopedRequest, row: Decision) -> decision_schemas.DecisionOut:
    scope = request.auth
    return decision_schemas.DecisionOut(
        **_row(row).model_dump(),
        note=row.note,
        # Anybody who knows the address reads along: only those who may give it out are told.
        token=(row.token or "") if SHARE_DECISION.open_to(scope.role, scope.reach) else "",
        share_notes=row.share_notes,
        engine_version=row.engine_version,
        content=decision_schemas.DecisionContent(**row.content),
    )
