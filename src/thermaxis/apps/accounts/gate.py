"""While another database takes the place of the live one nobody asks it, and nobody from before writes to it."""

from __future__ import annotations

import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field

from thermaxis.apps.accounts.errors import UnderWay
from thermaxis.core.errors import SolveError, Stopped

PATIENCE_S = 20.0


@dataclass(frozen=True, kw_only=True)
class Inside:
    """One request that is being answered: what it asks for, since when, and before which replacement it came in."""

    what: str
    epoch: int
    since: float = field(default_factory=time.monotonic)

    def words(self) -> str:
        """What it is and for how long it has been at it."""
        return f"{self.what}, for {time.monotonic() - self.since:.0f} s"


class Gate:
    """Knows who is inside; while it is closed nobody comes in, and the one who closes it waits for the others."""

    def __init__(self, patience_s: float = PATIENCE_S) -> None:
        self.patience_s = patience_s
        self._changed = threading.Condition()
        self._inside: dict[int, list[Inside]] = {}
        self._closed = False
        # How often another database has taken the place of the live one.
        self._epoch = 0

    def enter(self, what: str = "a request") -> bool:
        """Come in; False where it is closed."""
        with self._changed:
            if self._closed:
                return False
            self._inside.setdefault(threading.get_ident(), []).append(Inside(what=what, epoch=self._epoch))
            return True

    def leave(self) -> None:
        """Go out."""
        me = threading.get_ident()
        with self._changed:
            self._inside[me].pop()
            if not self._inside[me]:
                del self._inside[me]
            self._changed.notify_all()

    def check(self) -> None:
        """Stopped for a request that came in before another database took the place of the one it has read."""
        mine = self._inside.get(threading.get_ident())
        if mine and mine[-1].epoch != self._epoch:
            raise Stopped("A backup was restored in the meantime: nothing of this was saved.")

    @contextmanager
    def closed(self, mine: int = 1, stop: Callable[[], None] | None = None) -> Iterator[None]:
        """Nobody else inside; `mine` are one's own.

        Where others do not come out in time: UnderWay, which names them. With `stop`, which is called first, those who
        still stay are passed over: whatever they do, they write nothing (`check`). SolveError where it is closed.
        """
        with self._changed:
            if self._closed:
                raise SolveError("Another database is being put in place already.")
            self._closed = True
        try:
            if stop is not None:
                stop()
            with self._changed:
                alone = self._changed.wait_for(lambda: self._count() <= mine, self.patience_s)
                if not alone and stop is None:
                    raise UnderWay(self._others())
                self._epoch += 1
            yield
        finally:
            with self._changed:
                self._closed = False
                self._changed.notify_all()

    def _count(self) -> int:
        return sum(map(len, self._inside.values()))

    def _others(self) -> list[str]:
        me = threading.get_ident()
        return [one.words() for thread, rows in self._inside.items() if thread != me for one in rows]


GATE = Gate()
