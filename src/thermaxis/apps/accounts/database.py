"""The database's file: one that was put in the place of another is opened anew."""

from __future__ import annotations

import contextlib
import os
import threading
from typing import Any

from django.db import connection

Identity = tuple[int, int]
_opened = threading.local()


def identity() -> Identity:
    """What tells one file from another of the same name."""
    with contextlib.suppress(OSError):
        found = os.stat(connection.settings_dict["NAME"])
        return found.st_dev, found.st_ino
    return 0, 0


def reopen_if_replaced(**_: Any) -> None:
    """Let go of a file that is not the one by that name any more; called as each request begins."""
    now = identity()
    if getattr(_opened, "identity", now) != now and not connection.in_atomic_block:
        connection.close()
    _opened.identity = now
