"""The outermost middleware: what may come in at all, and that every error under /api/ is problem+json."""

from __future__ import annotations

import re
import threading
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

from thermaxis.api.problems import MEDIA_TYPE, problem, usual
from thermaxis.apps.accounts.gate import GATE
from thermaxis.apps.accounts.pace import PACE

# Bytes a request may bring, by what it brings; the first that fits counts.
LIMITS = (
    (re.compile(r"/api/(machines/\d+/runs/read|runs|runs/look)$"), 16_500_000),
    (re.compile(r"/api/(inspections|jobs|log)/\d+/photos$"), 12_500_000),
    (re.compile(r"/api/catalogue/(look|read|import)$"), 2_200_000),
    (re.compile(r"/api/machines/\d+/(events|log)/(look|read|take-in)$"), 2_200_000),
    (re.compile(r"/api/workshop/(take-in|machine-files)$"), 64_000_000),
    (re.compile(r"/api/machines/\d+/calibrations$"), 6_000_000),
    (re.compile(r"/api/safekeeping/incoming$"), 9_000_000),
    (re.compile(r"/api/cases$"), 3_000_000),
    (re.compile(r""), 300_000),
)
LONGEST_ADDRESS = 2000
# Requests of one person under way together: two open pages ask for no more.
MOST_AT_ONCE = 10


class Edge:
    """Middleware that refuses what is too long or too much at once, and words every error the same way."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response
        self._lock = threading.Lock()
        self._under_way: dict[str, int] = {}

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if not request.path_info.startswith("/api/"):
            return self.get_response(request)
        response = _refusal(request) or self._within(request)
        if response.status_code >= 400 and not response.get("Content-Type", "").startswith(MEDIA_TYPE):
            said, response = response, usual(response.status_code)
            if "Allow" in said:
                response["Allow"] = said["Allow"]
        if "Cache-Control" not in response:
            # What is one person's is not kept on a machine that others use.
            response["Cache-Control"] = "no-store"
        return response

    def _within(self, request: HttpRequest) -> HttpResponse:
        if not GATE.enter(f"{request.method} {request.path_info[:80]}"):
            found = problem(503, "restoring", "A backup is being restored", "It takes a moment: try again then.")
            found["Retry-After"] = "5"
            return found
        try:
            return self._answer(request)
        finally:
            GATE.leave()

    def _answer(self, request: HttpRequest) -> HttpResponse:
        who = request.COOKIES.get("sessionid") or str(request.META.get("REMOTE_ADDR"))
        with self._lock:
            count = self._under_way.get(who, 0)
            if count >= MOST_AT_ONCE:
                found = problem(429, "busy", "Too much at once", f"{count} of your requests are under way already.")
                found["Retry-After"] = "1"
                return found
            self._under_way[who] = count + 1
        try:
            with PACE.answering():
                return self.get_response(request)
        finally:
            with self._lock:
                self._under_way[who] -= 1
                if not self._under_way[who]:
                    del self._under_way[who]


def limit_of(path: str) -> int:
    """Bytes a request to this address may bring."""
    return next(most for pattern, most in LIMITS if pattern.match(path))


def _refusal(request: HttpRequest) -> HttpResponse | None:
    """What is refused before anything of it is read."""
    if len(request.META.get("QUERY_STRING", "")) + len(request.path_info) > LONGEST_ADDRESS:
        return usual(414)
    length = request.META.get("CONTENT_LENGTH") or "0"
    if request.META.get("HTTP_TRANSFER_ENCODING") and length == "0":
        return usual(411)
    most = limit_of(request.path_info)
    if not length.isascii() or not length.isdigit() or len(length) > 15:
        return usual(400)
    if int(length) > most:
        detail = f"{int(length) / 1e6:.1f} MB came, at most {most / 1e6:.1f} MB are taken here."
        return problem(413, "too-large", "Too large", detail)
    return None
