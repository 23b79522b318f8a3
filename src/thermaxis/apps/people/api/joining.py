"""What a one-time address leads to. The secret comes in the body: it stands in no line of any log."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.http import HttpRequest
from django.views.decorators.csrf import csrf_protect
from ninja import Router, Status
from ninja.decorators import decorate_view

from thermaxis.apps.accounts.api.signed_in import BEFORE_SECOND, ScopedRequest
from thermaxis.apps.accounts.scope import workshops_of
from thermaxis.apps.people.actions import joining
from thermaxis.apps.people.addresses import address_of
from thermaxis.apps.people.api import schemas

router = Router(auth=BEFORE_SECOND)


def _joined(user: User) -> schemas.JoinedOut:
    workshop = workshops_of(user).order_by("-membership__pk")[0]
    return schemas.JoinedOut(name=user.get_username(), workshop_id=workshop.pk, workshop=workshop.name)


@router.post("/joining/look", response=schemas.AddressLook, operation_id="look_at_address", auth=None)
@decorate_view(csrf_protect)
def look(request: HttpRequest, payload: schemas.AddressAsk) -> schemas.AddressLook:
    """Where an address leads; nothing is used up."""
    row = address_of(payload.secret)
    return schemas.AddressLook(
        kind=row.kind,  # type: ignore[arg-type]
        workshop=row.workshop.name if row.workshop else "",
        role=row.role,
        name=row.user.get_username() if row.user else "",
        ends_at=row.ends_at,
    )


@router.post("/joining/found", response={201: schemas.JoinedOut}, operation_id="found_workshop", auth=None)
@decorate_view(csrf_protect)
def found(request: HttpRequest, payload: schemas.FoundAsk) -> Status[schemas.JoinedOut]:
    user = joining.found_workshop(
        payload.secret, payload.username, payload.password, payload.workshop, payload.currency
    )
    return Status(201, _joined(user))


@router.post("/joining/join", response={201: schemas.JoinedOut}, operation_id="join_as_new", auth=None)
@decorate_view(csrf_protect)
def join_as_new(request: HttpRequest, payload: schemas.JoinAsk) -> Status[schemas.JoinedOut]:
    return Status(201, _joined(joining.join_as_new(payload.secret, payload.username, payload.password)))


@router.post("/joining/join-too", response=schemas.JoinedOut, operation_id="join_workshop")
def join(request: ScopedRequest, payload: schemas.AddressAsk) -> schemas.JoinedOut:
    """Join one more workshop, as the person who is signed in."""
    joining.join(payload.secret, request.auth.user)
    return _joined(request.auth.user)


@router.post("/joining/reset", response=schemas.JoinedOut, operation_id="set_new_password", auth=None)
@decorate_view(csrf_protect)
def reset(request: HttpRequest, payload: schemas.ResetAsk) -> schemas.JoinedOut:
    return _joined(joining.set_new_password(payload.secret, payload.password))
