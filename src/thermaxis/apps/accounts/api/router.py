"""Who is here: sign in, sign out, the workshop in use."""

from __future__ import annotations

from django.conf import settings
from django.contrib.auth import logout
from django.http import HttpRequest
from django.middleware.csrf import get_token
from django.views.decorators.csrf import csrf_protect
from ninja import Router, Status
from ninja.decorators import decorate_view
from ninja.errors import HttpError
from pydantic import Field

from thermaxis.apps.accounts import sessions
from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.fields import RowId
from thermaxis.apps.accounts.api.guessing import guessing
from thermaxis.apps.accounts.api.signed_in import BEFORE_SECOND, WORKSHOP, ScopedRequest
from thermaxis.apps.accounts.demo_sign_in import DEMO_USER
from thermaxis.apps.accounts.public import public_address
from thermaxis.apps.accounts.scope import Scope, scope_for, workshops_of
from thermaxis.apps.accounts.second import has_second

router = Router(auth=BEFORE_SECOND)


class SignIn(Wire):
    username: str = Field(min_length=1, max_length=150)
    password: str = Field(min_length=1, max_length=200)
    # What a device shows, or one of the codes that were written down; empty until it is asked for.
    code: str = Field("", max_length=40)


class NewPassword(Wire):
    current: str = Field(min_length=1, max_length=200)
    new: str = Field(min_length=1, max_length=200)


class WorkshopRow(Wire):
    """One of a person's workshops."""

    id: int
    name: str


class Session(Wire):
    """Who is signed in, in which workshop and as what; `workshops` are all they can choose from."""

    user: str
    workshop_id: int
    workshop: str
    currency: str
    role: str
    workshops: list[WorkshopRow]
    second_factor: bool
    # The workshop asks for a second factor, and this person has none yet: nothing else is answered until they do.
    second_missing: bool
    # What links that are handed on begin with.
    address: str
    # The demo signs in by itself: nothing there is anybody's own.
    demo: bool


class WorkshopChoice(Wire):
    workshop_id: RowId


def _session(request: HttpRequest, scope: Scope) -> Session:
    # Whoever asks this will write next: see to it that the token's cookie is there.
    get_token(request)
    second = has_second(scope.user)
    return Session(
        user=scope.user.get_username(),
        workshop_id=scope.workshop.pk,
        workshop=scope.workshop.name,
        currency=scope.workshop.currency,
        role=scope.role,
        workshops=[WorkshopRow.of(row) for row in workshops_of(scope.user)],
        second_factor=second,
        second_missing=scope.workshop.second_factor and (not second),
        address=public_address(),
        demo=settings.DEMO_SIGN_IN and scope.user.get_username() == DEMO_USER,
    )


@router.get("/session", response=Session, operation_id="session")
def session(request: ScopedRequest) -> Session:
    return _session(request, request.auth)


@router.post("/session", response=Session, operation_id="sign_in", auth=None)
@decorate_view(csrf_protect)
def sign_in(request: HttpRequest, payload: SignIn) -> Session:
    with guessing():
        user = sessions.sign_in(request, payload.username, payload.password, payload.code)
    if user is None:
        raise HttpError(401, "The name or the password is wrong.")
    return _session(request, scope_for(user))


@router.put("/session/workshop", response=Session, operation_id="choose_workshop")
def choose_workshop(request: ScopedRequest, payload: WorkshopChoice) -> Session:
    """Work in another workshop one belongs to, for as long as this session lasts."""
    user = request.auth.user
    chosen = request.auth.one(workshops_of(user), payload.workshop_id)
    request.session[WORKSHOP] = chosen.pk
    return _session(request, scope_for(user, chosen.pk))


@router.put("/session/password", response={204: None}, operation_id="change_password")
def change_password(request: ScopedRequest, payload: NewPassword) -> Status[None]:
    """The session that asks goes on; all others of this person end."""
    with guessing():
        sessions.change_password(request, request.auth.user, payload.current, payload.new)
    return Status(204, None)


@router.delete("/session", response={204: None}, operation_id="sign_out")
def sign_out(request: ScopedRequest) -> Status[None]:
    sessions.end_sessions(sessions.sessions_of(request.auth.user).filter(pk=sessions.here(request)))
    logout(request)
    return Status(204, None)
