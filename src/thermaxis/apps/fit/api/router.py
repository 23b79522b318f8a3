"""Will it go on: the set that is to go on, its boxes, and what was measured of its parts."""

from __future__ import annotations

from django.utils import timezone
from ninja import Path, Query, Router
from pydantic import Field

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.fields import AxleName, RowId
from thermaxis.apps.accounts.api.said import said_out
from thermaxis.apps.accounts.api.signed_in import SIGNED_IN, ScopedRequest
from thermaxis.apps.fit.actions import intend as actions
from thermaxis.apps.fit.api import present, schemas
from thermaxis.apps.fitted.offering import choices_of
from thermaxis.apps.fitted.standing import machine_of, standing_of
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.solving.api.following import followed
from thermaxis.apps.solving.checking import check_of
from thermaxis.apps.solving.ways import take_off
from thermaxis.core.errors import FieldError
from thermaxis.core.messages.fit import TAKE_OFF_CAUTION

router = Router(auth=SIGNED_IN)


class SetQuery(Wire):
    """A set that is looked at, by its key; empty: the one that is to go on."""

    key: str = Field("", max_length=80)


class LastResortQuery(SetQuery):
    axle: AxleName


def _fit_out(machine: Machine, key: str = "") -> schemas.FitOut:
    standing = standing_of(machine)
    choices = choices_of(standing)
    found = check_of(standing, key or None, choices)
    if key and not found.said:
        raise FieldError("key", key, "a set of the catalogue this machine takes")
    return present.fit_out(found, choices)


@router.get("/machines/{machine_id}/fit", response=schemas.FitOut, operation_id="fit")
def fit(request: ScopedRequest, machine_id: Path[RowId], query: Query[SetQuery]) -> schemas.FitOut:
    return _fit_out(machine_of(request.auth, machine_id), query.key)


@router.put("/machines/{machine_id}/intended/{place}", response=schemas.FitOut, operation_id="intend_part")
def intend_part(
    request: ScopedRequest, machine_id: Path[RowId], place: Path[str], payload: schemas.IntendPartAsk
) -> schemas.FitOut:
    """One part by itself: two that are picked at the same moment both count."""
    machine = machine_of(request.auth, machine_id)
    actions.intend_part(request.auth, machine, place, payload.part)
    return _fit_out(machine)


@router.put("/machines/{machine_id}/intended", response=schemas.FitOut, operation_id="intend")
def intend(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.IntendAsk) -> schemas.FitOut:
    machine = machine_of(request.auth, machine_id)
    actions.intend(request.auth, machine, payload.key)
    return _fit_out(machine)


@router.put("/machines/{machine_id}/box", response=schemas.FitOut, operation_id="count_box")
def count_box(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.BoxAsk) -> schemas.FitOut:
    machine = machine_of(request.auth, machine_id)
    actions.count_box(request.auth, machine, payload.axle, payload.items, payload.seen)
    return _fit_out(machine)


@router.put("/machines/{machine_id}/part-measure", response=schemas.FitOut, operation_id="measure_part")
def measure_part(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.PartMeasureAsk) -> schemas.FitOut:
    machine = machine_of(request.auth, machine_id)
    actions.measure_part(
        request.auth,
        machine,
        payload.key,
        payload.axle,
        payload.part,
        payload.name,
        payload.value,
        on=timezone.localdate(),
        seen=payload.seen,
    )
    return _fit_out(machine, payload.key)


@router.get("/machines/{machine_id}/fit/last-resort", response=schemas.LastResortOut, operation_id="last_resort")
def last_resort(
    request: ScopedRequest, machine_id: Path[RowId], query: Query[LastResortQuery]
) -> schemas.LastResortOut:
    """What taking friction material off would cost: in life, and in events on the duty in force."""
    found = check_of(standing_of(machine_of(request.auth, machine_id)), query.key or None)
    check = found.axles[query.axle]
    with followed(request, "Working out what it costs in life"):
        way = take_off(found.fitter, query.axle, found.parts, check.stack)
    return schemas.LastResortOut(text=said_out(way.text) if way else None, caution=said_out(TAKE_OFF_CAUTION()))
