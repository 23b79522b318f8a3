"""What was read and translated last, kept for as long as the database stays as it is.

A slider asks about the same machine ten times a second; reading it again each time costs more than simulating it.
"""

from __future__ import annotations

import sqlite3
import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import Any, TypeVar

from django.db import connection

from thermaxis.apps.accounts.locks import one_at_a_time

Value = TypeVar("Value")
KEPT = 64
_lock = threading.Lock()
_entries: OrderedDict[Hashable, tuple[tuple[str, int], Any]] = OrderedDict()
_watchers: dict[str, sqlite3.Connection] = {}


def kept(key: Hashable, build: Callable[[], Value]) -> Value:
    """What `build` gives, or gave while the database was as it is now. The value is shared: nobody may change it.

    Inside a transaction nothing is kept: its writes are not committed yet, so nobody could see them change.
    """
    if connection.in_atomic_block:
        return build()
    stamp = _stamp()
    # A page asks several things about one machine at once: the first builds, the others wait for it.
    with one_at_a_time(("kept", key)):
        with _lock:
            found = _entries.get(key)
            if found is not None and found[0] == stamp:
                _entries.move_to_end(key)
                value: Value = found[1]
                return value
        built = build()
        with _lock:
            _entries[key] = (stamp, built)
            while len(_entries) > KEPT:
                _entries.popitem(last=False)
    return built


def _stamp() -> tuple[str, int]:
    """The database and its version: a connection that never writes sees every commit of all others in it."""
    name = str(connection.settings_dict["NAME"])
    with _lock:
        if name not in _watchers:
            _watchers[name] = sqlite3.connect(f"file:{name}?mode=ro", uri=True, check_same_thread=False)
        return name, int(_watchers[name].execute("PRAGMA data_version").fetchone()[0])
