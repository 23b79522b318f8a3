"""A key in the head of a request: a gauge, a logger or the command line at work in a person's name."""

from __future__ import annotations

import contextlib
import datetime as dt
from collections.abc import Callable

from django.db import DatabaseError
from django.http import HttpRequest, HttpResponse
from django.utils import timezone

from thermaxis.apps.accounts.models import ApiKey
from thermaxis.apps.accounts.secrets import print_of

BEARER = "Bearer "
USED_EVERY = dt.timedelta(minutes=1)


class ByKey:
    """Middleware: whose key it is asks; a key that is not good any more is nobody, whatever cookies come along."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        said = request.headers.get("Authorization", "")
        if said.startswith(BEARER) and request.path_info.startswith("/api/"):
            key = _key(said.removeprefix(BEARER).strip())
            if key is None:
                return HttpResponse(status=401)
            request.user, request.api_key = key.user, key  # type: ignore[attr-defined]
        return self.get_response(request)


def _key(secret: str) -> ApiKey | None:
    rows = ApiKey.objects.filter(print=print_of(secret), withdrawn_at=None, user__is_active=True)
    key = rows.select_related("user").first()
    now = timezone.now()
    if key is not None and (key.used_at is None or now - key.used_at > USED_EVERY):
        # A disk that cannot be written keeps nobody from reading.
        with contextlib.suppress(DatabaseError):
            ApiKey.objects.filter(pk=key.pk).update(used_at=now)
    return key
