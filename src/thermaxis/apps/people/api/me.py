"""What is one's own: sessions, second factor, keys, one's data, and leaving."""

from __future__ import annotations

import json
from typing import cast

from django.contrib.auth import logout
from django.http import HttpResponse
from ninja import Path, Router, Status
from ninja.decorators import decorate_view

from thermaxis.apps.accounts import second, sessions
from thermaxis.apps.accounts.api.fields import RowId
from thermaxis.apps.accounts.api.files import file_response
from thermaxis.apps.accounts.api.guessing import guessing
from thermaxis.apps.accounts.api.signed_in import BEFORE_SECOND, ONE_S_OWN, ScopedRequest, gives_secret
from thermaxis.apps.accounts.models import ApiKey
from thermaxis.apps.people.actions import keys, members
from thermaxis.apps.people.api import present, schemas
from thermaxis.apps.people.my_data import my_data

router = Router(auth=ONE_S_OWN)


def _is_password(request: ScopedRequest, password: str) -> None:
    with guessing():
        sessions.is_password(request, request.auth.user, password)


@router.get("/me", response=schemas.MeOut, operation_id="me", auth=BEFORE_SECOND)
def me(request: ScopedRequest) -> schemas.MeOut:
    scope = request.auth
    mine = ApiKey.objects.filter(user=scope.user, workshop=scope.workshop, withdrawn_at=None).select_related("user")
    return schemas.MeOut(
        name=scope.user.get_username(),
        role=cast(schemas.RoleName, scope.role.value),
        workshop=scope.workshop.name,
        second_factor=second.has_second(scope.user),
        codes_left=second.codes_left(scope.user),
        sessions=[present.session_out(row, sessions.here(request)) for row in sessions.sessions_of(scope.user)[:50]],
        keys=[present.key_out(row) for row in mine.order_by("pk")],
    )


@router.post("/me/second", response=schemas.BegunOut, operation_id="begin_second", auth=BEFORE_SECOND)
@decorate_view(gives_secret)
def begin_second(request: ScopedRequest, payload: schemas.PasswordAsk) -> schemas.BegunOut:
    """Begin to set a second factor up; it counts once a code of it has come."""
    _is_password(request, payload.password)
    begun = second.begin(request.auth.user)
    return schemas.BegunOut.of(begun)


@router.put("/me/second", response=schemas.CodesOut, operation_id="finish_second", auth=BEFORE_SECOND)
@decorate_view(gives_secret)
def finish_second(request: ScopedRequest, payload: schemas.CodeAsk) -> schemas.CodesOut:
    return schemas.CodesOut(codes=second.finish(request.auth.user, payload.code))


@router.post("/me/second/codes", response=schemas.CodesOut, operation_id="new_codes")
@decorate_view(gives_secret)
def new_codes(request: ScopedRequest, payload: schemas.PasswordAsk) -> schemas.CodesOut:
    _is_password(request, payload.password)
    return schemas.CodesOut(codes=second.codes_again(request.auth.user))


@router.post("/me/second/end", response={204: None}, operation_id="end_second")
def end_second(request: ScopedRequest, payload: schemas.PasswordAsk) -> Status[None]:
    _is_password(request, payload.password)
    second.end_second(request.auth.user)
    return Status(204, None)


@router.put("/me/sessions/{open_session_id}/ended", response=schemas.EndedOut, operation_id="end_session")
def end_session(request: ScopedRequest, open_session_id: Path[RowId]) -> schemas.EndedOut:
    mine = sessions.sessions_of(request.auth.user)
    row = request.auth.one(mine, open_session_id)
    return schemas.EndedOut(ended=sessions.end_sessions(mine.filter(pk=row.pk)))


@router.post("/me/sessions/end-others", response=schemas.EndedOut, operation_id="end_other_sessions")
def end_others(request: ScopedRequest) -> schemas.EndedOut:
    others = sessions.sessions_of(request.auth.user).exclude(pk=sessions.here(request))
    return schemas.EndedOut(ended=sessions.end_sessions(others))


@router.post("/me/keys", response={201: schemas.NewKey}, operation_id="make_key")
@decorate_view(gives_secret)
def make_key(request: ScopedRequest, payload: schemas.KeyAsk) -> Status[schemas.NewKey]:
    row, secret = keys.make_key(request.auth, payload.name, payload.reach)
    return Status(201, schemas.NewKey(key=present.key_out(row), secret=secret))


@router.put("/me/keys/{key_id}/withdrawn", response=schemas.KeyOut, operation_id="withdraw_key")
def withdraw_key(request: ScopedRequest, key_id: Path[RowId]) -> schemas.KeyOut:
    mine = ApiKey.objects.filter(user=request.auth.user, workshop=request.auth.workshop)
    row = request.auth.one(mine.select_related("user"), key_id)
    return present.key_out(keys.withdraw_key(request.auth, row))


@router.get("/me/file", response=bytes, operation_id="my_data")
def data(request: ScopedRequest) -> HttpResponse:
    """Everything that is kept about the person who asks."""
    written = json.dumps(my_data(request.auth.user), ensure_ascii=False, indent=1)
    return file_response(written, "my-data.json", "application/json")


@router.post("/me/leave", response={204: None}, operation_id="leave_workshop")
def leave(request: ScopedRequest, payload: schemas.PasswordAsk) -> Status[None]:
    """Belong to this workshop no more."""
    _is_password(request, payload.password)
    members.leave_workshop(request.auth)
    return Status(204, None)


@router.post("/me/forget", response={204: None}, operation_id="forget_me")
def forget(request: ScopedRequest, payload: schemas.PasswordAsk) -> Status[None]:
    """Be forgotten: what was done stays, without a name."""
    _is_password(request, payload.password)
    members.forget_me(request.auth)
    logout(request)
    return Status(204, None)
