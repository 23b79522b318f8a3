"""Work that takes a while: how far it is, and a way to stop it. In memory, by user and the page's own name for it."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass

from thermaxis.apps.solving.turns import STOPPED, my_turn
from thermaxis.core.errors import Stopped
from thermaxis.core.physics.batch import Watch

Key = tuple[int, str]


@dataclass(kw_only=True)
class Work:
    """One piece of work under way; `place` is how many come before it, 0 once it is its turn."""

    doing: str
    share: float = 0.0
    place: int = 0
    stopped: bool = False


_running: dict[Key | int, Work] = {}
_lock = threading.Lock()


@contextmanager
def watched(person: int, name: str | None, doing: str, gone: Callable[[], bool]) -> Iterator[Watch]:
    """Wait for the person's turn, then give the work a watch that keeps its share.

    The watch raises Stopped once someone has asked for that by the work's `name`, or whoever asked is `gone`.
    """
    work = Work(doing=doing)

    def wanted() -> bool:
        return not work.stopped and not gone()

    def told(place: int) -> None:
        work.place = place

    def watch(share: float) -> None:
        work.share = share
        if not wanted():
            raise Stopped(STOPPED)

    with _known(id(work) if name is None else (person, name), work), my_turn(person, told, wanted):
        yield watch


@contextmanager
def _known(key: Key | int, work: Work) -> Iterator[None]:
    with _lock:
        _running[key] = work
    try:
        yield
    finally:
        with _lock:
            if _running.get(key) is work:
                del _running[key]


def find(key: Key) -> Work | None:
    """The work under way by this name, if it is."""
    with _lock:
        return _running.get(key)


def stop_all() -> None:
    """Stop everything under way, no matter who asked for it."""
    with _lock:
        for work in _running.values():
            work.stopped = True
