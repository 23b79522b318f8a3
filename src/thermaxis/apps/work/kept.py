"""What was read and translated last, kept for as long as the database stays as it is.

A slider asks about the same machine ten times a second; reading it again each time costs more than simulating it.
"""

from __future__ import annotations

import sqlite3
import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable, Iterator
from contextlib import contextmanager
from typing import Any, TypeVar

from django.db import connection

Value = TypeVar("Value")
KEPT = 64
_lock = threading.Lock()
_entries: OrderedDict[Hashable, tuple[tuple[str, int], Any]] = OrderedDict()
_locks: dict[Hashable, tuple[threading.RLock, int]] = {}
_watchers: dict[str, sqlite3.Connection] = {}


def kept(key: Hashable, build: Callable[[], Value]) -> Value:
    """What `build` gives, or gave while the database was as it is now. The value is shared: nobody may change it.

    Inside a transaction nothing is kept: its writes are not committed yet, so nobody could see them change.
    """
    if connection.in_atomic_block:
        return build()
    stamp = _stamp()
    # A page asks several things about one machine at once: the first builds, the others wait for it.
    with _building(key):
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


@contextmanager
def _building(key: Hashable) -> Iterator[None]:
    """One at a time for each key; the lock goes when nobody holds or wants it any more."""
    with _lock:
        lock, wanted = _locks.get(key, (threading.RLock(), 0))
        _locks[key] = (lock, wanted + 1)
    try:
        with lock:
            yield
    finally:
        with _lock:
            _, wanted = _locks[key]
            if wanted == 1:
                del _locks[key]
            else:
                _locks[key] = (lock, wanted - 1)


def _stamp() -> tuple[str, int]:
    """The database and its version: a connection that never writes sees every commit of all others in it."""
    name = str(connection.settings_dict["NAME"])
    with _lock:
        if name not in _watchers:
            _watchers[name] = sqlite3.connect(f"file:{name}?mode=ro", uri=True, check_same_thread=False)
        return name, int(_watchers[name].execute("PRAGMA data_version").fetchone()[0])
