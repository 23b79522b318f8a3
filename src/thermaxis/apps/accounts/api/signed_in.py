"""Who asks, in which workshop and as what: declared once per router, given to every handler as `request.auth`."""

from __future__ import annotations

from typing import Any, cast

from django.contrib.auth.models import User
from django.http import HttpRequest
from ninja.security import SessionAuth

from thermaxis.apps.accounts.scope import Scope, scope_for

WORKSHOP = "workshop"


class ScopedRequest(HttpRequest):
    """A request that has passed `SIGNED_IN`."""

    auth: Scope


class SignedIn(SessionAuth):
    """The session's person, and the workshop they chose in it. Raises NotThere for one who belongs to none."""

    def authenticate(self, request: HttpRequest, key: str | None) -> Any | None:
        if super().authenticate(request, key) is None:
            return None
        return scope_for(cast(User, request.user), request.session.get(WORKSHOP))


SIGNED_IN = SignedIn()
