"""One at a time for each key, in this process."""

from __future__ import annotations

import threading
from collections.abc import Hashable, Iterator
from contextlib import contextmanager

_lock = threading.Lock()
_locks: dict[Hashable, tuple[threading.RLock, int]] = {}


@contextmanager
def one_at_a_time(key: Hashable) -> Iterator[None]:
    """Wait until nobody else holds the key; its lock goes when nobody holds or wants it any more."""
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
