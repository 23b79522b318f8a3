"""Who is here: sign in, sign out, the workshop in use."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any, cast

from django.contrib.auth import logout
from django.contrib.auth.models import User
from django.http import Http404, HttpRequest
from django.middleware.csrf import get_token
from django.views.decorators.csrf import csrf_protect
from ninja import Router, Schema, Status
from ninja.decorators import decorate_view
from ninja.errors import HttpError
from pydantic import Field

from thermaxis.apps.accounts.actions import signing_in
from thermaxis.apps.accounts.models import Workshop

router = Router()


class SignIn(Schema):
    username: str = Field(min_length=1, max_length=150)
    password: str = Field(min_length=1, max_length=200)


class NewPassword(Schema):
    current: str = Field(min_length=1, max_length=200)
    new: str = Field(min_length=1, max_length=200)


class Session(Schema):
    user: str
    workshop: str
    currency: str


def workshop_of(request: HttpRequest) -> Workshop:
    """The workshop of the signed-in user; 404 for one who belongs to none."""
    workshop = Workshop.objects.filter(members=request.user.pk).order_by("pk").first()
    if workshop is None:
        raise Http404
    return workshop


@router.get("/session", response=Session, operation_id="session")
def session(request: HttpRequest) -> Any:
    # Whoever asks this will write next: see to it that the token's cookie is there.
    get_token(request)
    workshop = workshop_of(request)
    return Session(user=request.user.get_username(), workshop=workshop.name, currency=workshop.currency)


@router.post("/session", response=Session, operation_id="sign_in", auth=None)
@decorate_view(csrf_protect)
def sign_in(request: HttpRequest, payload: SignIn) -> Any:
    with _guessing():
        user = signing_in.sign_in(request, payload.username, payload.password)
    if user is None:
        raise HttpError(401, "The name or the password is wrong.")
    return session(request)


@router.put("/session/password", response={204: None}, operation_id="change_password")
def change_password(request: HttpRequest, payload: NewPassword) -> Any:
    """The session that asks goes on; all others of this person end."""
    with _guessing():
        signing_in.change_password(request, cast(User, request.user), payload.current, payload.new)
    return Status(204, None)


@contextmanager
def _guessing() -> Iterator[None]:
    try:
        yield
    except signing_in.TooManyAttempts:
        raise HttpError(429, "Too many failed attempts: wait a quarter of an hour.") from None


@router.delete("/session", response={204: None}, operation_id="sign_out")
def sign_out(request: HttpRequest) -> Any:
    logout(request)
    return Status(204, None)
