"""Files the API hands out: with a name of their own, or a picture that never changes."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse


def file_response(content: bytes | str, name: str, media_type: str, *, shown: bool = False) -> HttpResponse:
    """A file under its name: taken down, or opened in the browser where it is `shown`."""
    response = HttpResponse(content, content_type=media_type)
    response["Content-Disposition"] = f'{"inline" if shown else "attachment"}; filename="{name}"'
    return response


def picture_response(row: Any) -> HttpResponse:
    """A kept picture, of any row with `content` and `media_type`."""
    # It never changes: this browser may keep it, and nobody on the way.
    headers = {"X-Content-Type-Options": "nosniff", "Cache-Control": "private, max-age=86400"}
    return HttpResponse(bytes(row.content), content_type=row.media_type, headers=headers)
