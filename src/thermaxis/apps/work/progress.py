"""Work that takes a while: how far it is, and a way to stop it. In memory, by user and the page's own name for it."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass

from thermaxis.core.errors import Stopped
from thermaxis.core.physics.batch import Watch

Key = tuple[int, str]


@dataclass(kw_only=True)
class Work:
    """One piece of work under way."""

    doing: str
    share: float = 0.0
    stopped: bool = False


_running: dict[Key, Work] = {}
_lock = threading.Lock()


@contextmanager
def watched(key: Key | None, doing: str) -> Iterator[Watch]:
    """Give the work a watch that keeps its share and raises Stopped once someone has asked for that."""
    work = Work(doing=doing)

    def watch(share: float) -> None:
        work.share = share
        if work.stopped:
            raise Stopped("Stopped.")

    if key is None:
        yield watch
        return
    with _lock:
        _running[key] = work
    try:
        yield watch
    finally:
        with _lock:
            if _running.get(key) is work:
                del _running[key]


def find(key: Key) -> Work | None:
    """The work under way by this name, if it is."""
    with _lock:
        return _running.get(key)
