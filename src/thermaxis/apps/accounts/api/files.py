"""Files and pictures the API hands out: the only place where stored bytes become an answer."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.http import FileResponse, HttpResponse
from django.http.response import HttpResponseBase
from django.utils.http import content_disposition_header

from thermaxis.formats.picture import MEDIA_TYPE

# Whatever the bytes are, opened by itself such an answer is a page of no site: it runs nothing and asks for nothing.
CONTAINED = "sandbox; default-src 'none'"


def file_response(content: bytes | str | Path, name: str, media_type: str, *, shown: bool = False) -> HttpResponse:
    """A file under its name: downloaded, or opened in the browser where it is `shown`.

    The media type is what this program has made, never what a row or a file says. A Path is read as it goes out: it may
    be larger than memory.
    """
    response: HttpResponseBase = (
        FileResponse(content.open("rb"), content_type=media_type)
        if isinstance(content, Path)
        else HttpResponse(content, content_type=media_type)
    )
    response["Content-Disposition"] = content_disposition_header(not shown, name) or ""
    response["Content-Security-Policy"] = CONTAINED
    response["X-Content-Type-Options"] = "nosniff"
    return response  # type: ignore[return-value]


def picture_response(row: Any) -> HttpResponse:
    """A stored picture, of any row with `content`: all of them were drawn by `formats.picture`."""
    response = file_response(bytes(row.content), f"picture-{row.pk}.jpg", MEDIA_TYPE, shown=True)
    # It never changes: this browser may keep it, and nobody on the way.
    response["Cache-Control"] = "private, max-age=86400"
    return response
