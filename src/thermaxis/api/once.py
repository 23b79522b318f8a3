"""What arrives twice is one change: a page sends a key of its own along, and is answered again what it was answered.

The key is stored in the same transaction as the change (`accounts.changes`); a question that changes nothing stores
none. It is looked up behind the door (`signed_in.Door`): a caller who may not ask gets no answer, whatever was asked
before.
"""

from __future__ import annotations

import hashlib
import re
import zlib
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

from thermaxis.api.problems import field_problem, problem
from thermaxis.apps.accounts.changes import AnsweredBefore, Asked, asked_by
from thermaxis.apps.accounts.locks import one_at_a_time
from thermaxis.apps.accounts.models import ChangeKey
from thermaxis.core.errors import FieldError

HEADER = "Idempotency-Key"
KEY = re.compile(r"[A-Za-z0-9_-]{8,64}")
LONGEST_ANSWER, LONGEST_PACKED = 400_000, 60_000


class Once:
    """Middleware behind sign-in: takes a key along to the door, and stores the answer of a change beside it."""

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
            user_id=user, key=key, operation=f"{request.method} {request.path_info}"[:200], fingerprint=_digest(request)
        )
        request.asked = asked  # type: ignore[attr-defined]
        # Both may come at the same moment: the second waits for the first one's answer.
        with one_at_a_time((user, key)):
            with asked_by(asked):
                response = self.get_response(request)
            if asked.kept and not asked.secret and response.status_code < 500:
                _store(asked, response)
        return response


def _store(asked: Asked, response: HttpResponse) -> None:
    if response.streaming or len(response.content) > LONGEST_ANSWER:
        return
    packed = zlib.compress(response.content)
    if len(packed) <= LONGEST_PACKED:
        ChangeKey.objects.filter(user_id=asked.user_id, key=asked.key).update(
            status=response.status_code, media_type=response.get("Content-Type", ""), content=packed
        )


def _digest(request: HttpRequest) -> str:
    """What tells one body from another; a form's boundary is new each time, so a file is told by its length."""
    if (request.content_type or "").startswith("multipart/"):
        return f"form {request.META.get('CONTENT_LENGTH', '')}"
    return hashlib.sha256(request.body).hexdigest()


def answered_before(error: AnsweredBefore) -> HttpResponse:
    """What a change that was made already is answered: the same again, to who was answered first."""
    row, asked = error.row, error.asked
    if not asked.is_same(row):
        return field_problem(FieldError(HEADER, asked.key, "a key that was not used for another change"))
    if row.secret:
        detail = "This was done already. What it showed is stored nowhere: make a new one."
        return problem(409, "already-done", "Done already", detail)
    if row.caller != asked.caller or row.status is None:
        return problem(409, "already-done", "Done already", "This change was saved already: load it again to see it.")
    content = zlib.decompress(bytes(row.content))
    response = HttpResponse(content, status=row.status, content_type=row.media_type or None)
    response["Idempotency-Replayed"] = "true"
    return response
