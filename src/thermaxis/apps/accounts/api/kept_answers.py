"""Answers that are asked for often and change seldom: written once, and given again while nothing changed."""

from __future__ import annotations

import functools
from collections.abc import Callable
from typing import Any

from django.http import HttpResponse
from pydantic import TypeAdapter

from thermaxis.apps.accounts.api.signed_in import ScopedRequest
from thermaxis.apps.accounts.api.writing import written
from thermaxis.apps.accounts.kept import kept
from thermaxis.apps.accounts.models import Role

JSON = "application/json; charset=utf-8"


def kept_answer(
    request: ScopedRequest, schema: Any, build: Callable[[], Any], machine_id: int | None = None
) -> HttpResponse:
    """What `build` gives, as `schema` writes it; kept for this address, of this machine where it is about one.

    `build` asks whose it is. What it gives depends on the address without its query, the workshop's data, the day and,
    for a driver, on who asks; on nothing else, the time of day among it.
    """
    scope = request.auth
    key = ("answer", request.path, scope.user.pk if scope.role == Role.DRIVER else None)
    content = kept(scope.workshop, key, lambda: _content(schema, build()), machine_id)
    return HttpResponse(content, content_type=JSON)


def written_answer(schema: Any, found: Any) -> HttpResponse:
    """What was found, written as `schema` has it: of a long list, checking each row once more takes longest."""
    return HttpResponse(_content(schema, found), content_type=JSON)


def _content(schema: Any, found: Any) -> bytes:
    return written(_adapter(schema).dump_python(found)).encode()


@functools.cache
def _adapter(schema: Any) -> TypeAdapter[Any]:
    return TypeAdapter(schema)
