"""The one page of the front end, and what code the browser may fetch while it still reads the first of it."""

from __future__ import annotations

import functools
import json
from typing import Any

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import ensure_csrf_cookie


@never_cache
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    """The page; its routes are its own. The code of the one that is asked for comes along with the frame's."""
    answer = render(request, "index.html")
    chunks = chunks_of(_feature(request.path))
    if chunks:
        answer["Link"] = ", ".join(f"<{settings.STATIC_URL}{file}>; rel=modulepreload" for file in chunks)
    return answer


def _feature(path: str) -> str:
    return path.rstrip("/").rpartition("/")[2] or "workshop"


def chunks_of(feature: str) -> list[str]:
    """The files of a page in the order in which it needs them: what asks the first questions, the frame, the feature.

    A browser fetches few at a time, so the order is what makes the first questions early. A front end that is not
    built has none.
    """
    manifest, found = _manifest(), dict[str, None]()
    waiting = [f"src/features/{feature}/index.ts", "src/app/App.tsx", "index.html"]
    while waiting:
        chunk = manifest.get(waiting.pop())
        if chunk is not None and chunk["file"] not in found:
            found[chunk["file"]] = None
            waiting += chunk.get("imports", [])
    return list(found)


@functools.cache
def _manifest() -> dict[str, Any]:
    path = settings.ROOT / "web" / "dist" / "manifest.json"
    if not path.exists():
        return {}
    read: dict[str, Any] = json.loads(path.read_text("utf-8"))
    return read
