"""A backup's file comes in piece by piece: it may be larger than what one request may bring."""

from __future__ import annotations

import os
import shutil
from pathlib import Path

from django.conf import settings

from thermaxis.apps.accounts.errors import Clash, Differs
from thermaxis.core.errors import FieldError, SolveError

MOST_BYTES, SPARE_BYTES = 20_000_000_000, 500_000_000


def _place() -> Path:
    place = Path(settings.VAR) / "incoming"
    place.mkdir(mode=0o700, exist_ok=True)
    return place


def file_of(token: str) -> Path:
    """The file of a token, which the schema has bounded to letters and digits. FieldError where none has come."""
    path = _place() / token
    if not path.is_file():
        raise FieldError("token", token, "a file that has come in")
    return path


def take_in(token: str, offset: int, content: bytes) -> int:
    """Put a piece where it belongs; gives how much there is now. A piece that is there already changes nothing.

    FieldError for a file larger than any backup, SolveError without room, Clash where another piece comes next.
    """
    place, path = _place(), _place() / token
    have = path.stat().st_size if path.exists() else 0
    if offset + len(content) <= have and offset >= 0:
        return have
    if offset != have:
        raise Clash([Differs(path="offset", kept=have, yours=offset)])
    if have + len(content) > MOST_BYTES:
        raise FieldError("file", have + len(content), f"at most {MOST_BYTES} bytes")
    if shutil.disk_usage(place).free < len(content) + SPARE_BYTES:
        raise SolveError("There is not room enough on the server's disk for this file.")
    if have == 0:
        # One at a time: what somebody began before and left goes.
        clear(but=token)
    with open(os.open(path, os.O_WRONLY | os.O_APPEND | os.O_CREAT, 0o600), "ab") as out:
        out.write(content)
    return have + len(content)


def clear(but: str = "") -> None:
    """Take away what has come in and is not wanted any more."""
    for path in _place().iterdir():
        if path.name != but:
            path.unlink(missing_ok=True)
