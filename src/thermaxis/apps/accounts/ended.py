"""What was ended, written down beside the database: an older backup does not know, and must not bring it back.

One line of JSON each, appended once the change is on the disk. People and addresses are digests of what they are
called, so that who was forgotten stays forgotten.
"""

from __future__ import annotations

import datetime as dt
import hashlib
import hmac
import json
import os
from collections.abc import Iterator
from dataclasses import asdict, dataclass
from pathlib import Path

from django.conf import settings
from django.db import transaction
from django.utils import timezone


@dataclass(frozen=True, kw_only=True)
class Ended:
    """One thing that ended, or began again: `what` is member, joined, role, forgotten or address."""

    what: str
    who: str = ""
    workshop: int = 0
    role: str = ""
    at: str = ""


def digest_of(name: str) -> str:
    """What stands for a name or an address."""
    return hmac.new(settings.SECRET_KEY.encode(), name.encode("utf-8", "surrogatepass"), hashlib.sha256).hexdigest()[
        :32
    ]


def note_ended(what: str, *, name: str = "", workshop: int = 0, role: str = "") -> None:
    """Within a change: written down once that is on the disk."""
    row = Ended(what=what, who=digest_of(name), workshop=workshop, role=role, at=timezone.now().isoformat())
    transaction.on_commit(lambda: _append(row))


def ended_since(moment: dt.datetime) -> Iterator[Ended]:
    """What was written down after a moment, in order. A line that was cut short by a kill is none."""
    path = _place()
    for line in path.read_text("utf-8").splitlines() if path.exists() else ():
        try:
            row = Ended(**json.loads(line))
            later = dt.datetime.fromisoformat(row.at) > moment
        except (ValueError, TypeError):
            continue
        if later:
            yield row


def _place() -> Path:
    return Path(settings.VAR) / "ended.jsonl"


def _append(row: Ended) -> None:
    handle = os.open(_place(), os.O_WRONLY | os.O_APPEND | os.O_CREAT, 0o600)
    try:
        os.write(handle, json.dumps(asdict(row)).encode() + b"\n")
        os.fsync(handle)
    finally:
        os.close(handle)
