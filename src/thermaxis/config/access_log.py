"""One line a request, as JSON, where it is asked for: what a monitor counts, and nothing about anybody.

No address, no name, no query and no number of a row stands in it: an address of the API is told by its pattern.
"""

from __future__ import annotations

import json
import logging
import re
import time
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

log = logging.getLogger("thermaxis.access")
# Numbers of rows, secret addresses, the names of files.
OWN = re.compile(r"(?<=/)(?:\d+|[A-Za-z0-9_-]{16,}(?:\.[a-z]+)?|[^/]+\.backup)(?=/|$)")


class AccessLog:
    """Outermost middleware, there only where `THERMAXIS_LOG` is `json`."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        began = time.perf_counter()
        response = self.get_response(request)
        line = {
            "at": round(time.time(), 3),
            "method": request.method,
            "path": OWN.sub("*", request.path_info)[:200],
            "status": response.status_code,
            "ms": round(1000 * (time.perf_counter() - began), 1),
            "bytes": 0 if response.streaming else len(response.content),
        }
        log.info(json.dumps(line))
        return response
