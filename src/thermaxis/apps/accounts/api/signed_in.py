"""Who asks, in which workshop and as what: declared once per router, given to every handler as `request.auth`.

The one place where it is checked who may read what; changes are checked once more by `act`.
"""

from __future__ import annotations

import functools
from collections.abc import Callable
from typing import Any, Protocol, cast
from urllib.parse import unquote

from django.contrib.auth.models import User
from django.http import HttpRequest
from ninja.security import SessionAuth

from thermaxis.apps.accounts.errors import NotAllowed, SecondFactorNeeded, SomebodyElse
from thermaxis.apps.accounts.models import Role
from thermaxis.apps.accounts.scope import Scope, scope_for, scope_of_key
from thermaxis.apps.accounts.second import has_second
from thermaxis.apps.accounts.sessions import here, note_seen

WORKSHOP = "workshop"
# For whom a page sends a change: the person's name and their workshop's number, `olga/3`.
ACTS_FOR = "X-Acts-For"
SAFE = ("GET", "HEAD", "OPTIONS")
EVERYBODY = frozenset(Role)


class ScopedRequest(HttpRequest):
    """A request that has passed a door."""

    auth: Scope


class Asked(Protocol):
    """A change with a key of the page's own, as `api/once.py` gives it along."""

    secret: bool

    def passed(self, caller: str, workshop_id: int) -> None:
        """A door was passed; raises where this change was made already."""


class Door(SessionAuth):
    """The session's person, or a key's, and the workshop they work in.

    `roles` are let in; `by_key`, whether a key may; `before_second`, whether one who still has to set up a second
    factor may. Raises NotThere for one who belongs to no workshop, NotAllowed, SecondFactorNeeded.
    """

    def __init__(self, roles: frozenset[Role] = EVERYBODY, *, by_key: bool = True, before_second: bool = False) -> None:
        super().__init__()
        self.roles, self.by_key, self.before_second = roles, by_key, before_second

    def __call__(self, request: HttpRequest) -> Any | None:
        scope = self._passed(request)
        if scope is not None and request.method not in SAFE:
            _must_be_theirs(request, scope)
            asked: Asked | None = getattr(request, "asked", None)
            if asked is not None:
                asked.passed(_caller(request), scope.workshop.pk)
        return scope

    def _passed(self, request: HttpRequest) -> Any | None:
        # What the server asks of itself has passed a door already, under another address.
        if (inside := getattr(request, "inside", None)) is not None:
            return inside
        # A key comes in a head that no other site's page can send: what guards cookies is not for it.
        if getattr(request, "api_key", None) is not None:
            return self.authenticate(request, None)
        return super().__call__(request)

    def authenticate(self, request: HttpRequest, key: str | None) -> Any | None:
        scope = self._scope(request, key)
        if scope is None:
            return None
        if scope.role not in self.roles:
            raise NotAllowed(f"This is not for you as {scope.role} of {scope.workshop}.")
        if scope.workshop.second_factor and not self.before_second and not has_second(scope.user):
            raise SecondFactorNeeded
        return scope

    def _scope(self, request: HttpRequest, key: str | None) -> Scope | None:
        held = getattr(request, "api_key", None)
        if held is not None:
            if not self.by_key:
                raise NotAllowed("A key does not go as far as this: sign in.")
            return scope_of_key(held)
        if super().authenticate(request, key) is None:
            return None
        scope = scope_for(cast(User, request.user), request.session.get(WORKSHOP), here(request))
        # A session that was ended elsewhere has no row any more.
        if scope.session_seen_at is None:
            return None
        note_seen(request, scope.session_seen_at)
        return scope


def _caller(request: HttpRequest) -> str:
    held = getattr(request, "api_key", None)
    return f"key {held.pk}" if held is not None else f"session {here(request)}"


def _must_be_theirs(request: HttpRequest, scope: Scope) -> None:
    """Another tab may have signed somebody else in meanwhile: a page names for whom it sends. Raises SomebodyElse."""
    said = request.headers.get(ACTS_FOR)
    if said is None or getattr(request, "api_key", None) is not None:
        return
    name, _, workshop = unquote(said).rpartition("/")
    if name != scope.user.get_username():
        raise SomebodyElse(f"This browser is signed in as {scope.user.get_username()} now. Nothing was sent or lost.")
    if workshop and workshop != str(scope.workshop.pk):
        raise SomebodyElse(f"This browser works in {scope.workshop} now. Nothing was sent or lost.")


def gives_secret(view: Callable[..., Any]) -> Callable[..., Any]:
    """What this operation answers is shown once: it is stored nowhere, and not given again."""

    @functools.wraps(view)
    def marked(request: HttpRequest, *args: Any, **named: Any) -> Any:
        asked: Asked | None = getattr(request, "asked", None)
        if asked is not None:
            asked.secret = True
        return view(request, *args, **named)

    marked.gives_secret = True  # type: ignore[attr-defined]
    return marked


SIGNED_IN = Door()
# What is not for drivers: what can be bought.
CREW = Door(EVERYBODY - {Role.DRIVER})
# What the whole workshop is, and who belongs to it.
OWNERS = Door(frozenset({Role.OWNER}), by_key=False)
# What is one's own, by session only.
ONE_S_OWN = Door(by_key=False)
# The same for one who still has to set up a second factor.
BEFORE_SECOND = Door(by_key=False, before_second=True)
