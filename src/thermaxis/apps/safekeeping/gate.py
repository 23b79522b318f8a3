"""While another database is put in the place of the live one nobody asks it anything."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager

from thermaxis.core.errors import SolveError

PATIENCE_S = 60.0


class Gate:
    """Who is inside is counted; closed, nobody comes in, and who closes it waits until the others are out."""

    def __init__(self) -> None:
        self._changed = threading.Condition()
        self._inside = 0
        self._closed = False

    def enter(self) -> bool:
        """Come in; False where it is closed."""
        with self._changed:
            if self._closed:
                return False
            self._inside += 1
            return True

    def leave(self) -> None:
        """Go out."""
        with self._changed:
            self._inside -= 1
            self._changed.notify_all()

    @contextmanager
    def closed(self, mine: int = 1) -> Iterator[None]:
        """Nobody else inside; `mine` are one's own. SolveError where the others do not come out in time."""
        with self._changed:
            if self._closed:
                raise SolveError("Another database is being put in place already.")
            self._closed = True
            if not self._changed.wait_for(lambda: self._inside <= mine, PATIENCE_S):
                self._closed = False
                self._changed.notify_all()
                raise SolveError("Something long is under way: stop it, or try again when it is done.")
        try:
            yield
        finally:
            with self._changed:
                self._closed = False
                self._changed.notify_all()


GATE = Gate()
