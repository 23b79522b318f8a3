"""Answers that are asked for often and change seldom: written once, and given again while nothing changed."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from django.http import HttpResponse
from pydantic import TypeAdapter

from thermaxis.apps.accounts.api.signed_in import ScopedRequest
from thermaxis.apps.accounts.api.writing import written
from thermaxis.apps.accounts.kept import kept
from thermaxis.apps.accounts.models import Role


def kept_answer(
    request: ScopedRequest, schema: Any, build: Callable[[], Any], machine_id: int | None = None
) -> HttpResponse:
    """What `build` gives, as `schema` writes it; kept for this address, of this machine where it is about one.

    `build` asks whose it is. What it gives depends on the address without its query, the workshop's data, the day and,
    for a driver, on who asks; on nothing else, the time of day among it.
    """
    scope = request.auth
    key = ("answer", request.path, scope.user.pk if scope.role == Role.DRIVER else None)

    def answer() -> bytes:
        return written(TypeAdapter(schema).dump_python(build())).encode()

    content = kept(scope.workshop, key, answer, machine_id)
    return HttpResponse(content, content_type="application/json; charset=utf-8")
