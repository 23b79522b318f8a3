"""What arrives twice is one change: a page sends a key of its own along, and is answered again what it was answered.

The key is kept in the same transaction as the change (`accounts.changes`); a question that changes nothing keeps none.
"""

from __future__ import annotations

import hashlib
import re
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

from thermaxis.api.problems import field_problem, problem
from thermaxis.apps.accounts.changes import Asked, asked_by
from thermaxis.apps.accounts.locks import one_at_a_time
from thermaxis.apps.accounts.models import ChangeKey
from thermaxis.core.errors import FieldError

HEADER = "Idempotency-Key"
KEY = re.compile(r"[A-Za-z0-9_-]{8,64}")
LONGEST_ANSWER = 400_000


class Once:
    """Middleware behind sign-in: looks a key up, and keeps the answer of a change beside it."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        key = request.headers.get(HEADER, "")
        asks = bool(key) and request.path_info.startswith("/api/") and request.method not in ("GET", "HEAD", "OPTIONS")
        user = request.user.pk if asks else None
        if user is None:
            return self.get_response(request)
        if not KEY.fullmatch(key):
            return field_problem(FieldError(HEADER, key[:80], "8 to 64 letters, digits, - and _"))
        asked = Asked(
            user_id=user, key=key, operation=f"{request.method} {request.path_info}"[:200], fingerprint=_print(request)
        )
        # Both may come at the same moment: the second waits for the first one's answer.
        with one_at_a_time((user, key)):
            before = ChangeKey.objects.filter(user_id=user, key=key).first()
            if before is not None:
                return _again(before, asked)
            with asked_by(asked):
                response = self.get_response(request)
            if asked.kept and response.status_code < 500 and len(response.content) <= LONGEST_ANSWER:
                ChangeKey.objects.filter(user_id=user, key=key).update(
                    status=response.status_code, media_type=response.get("Content-Type", ""), content=response.content
                )
        return response


def _print(request: HttpRequest) -> str:
    """What tells one body from another; a form's boundary is new each time, so a file is told by its length."""
    if (request.content_type or "").startswith("multipart/"):
        return f"form {request.META.get('CONTENT_LENGTH', '')}"
    return hashlib.sha256(request.body).hexdigest()


def _again(before: ChangeKey, asked: Asked) -> HttpResponse:
    if (before.operation, before.fingerprint) != (asked.operation, asked.fingerprint):
        return field_problem(FieldError(HEADER, asked.key, "a key that was not used for another change"))
    if before.status is None:
        return problem(409, "already-done", "Done already", "This change was kept already: load it again to see it.")
    response = HttpResponse(bytes(before.content), status=before.status, content_type=before.media_type or None)
    response["Idempotency-Replayed"] = "true"
    return response
