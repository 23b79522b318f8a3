"""Short questions first: who computes for long stands aside for a moment while others are answered."""

from __future__ import annotations

import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager

# A question that takes longer than this is no short one: nobody stands aside for it, for it may wait for them.
SHORT_S = 0.25
# At each breath no longer than this, so that those who compute get on whatever comes in.
ASIDE_S = 0.004


class Pace:
    """Which threads answer since when, and which of them compute for long."""

    def __init__(self, short_s: float = SHORT_S, aside_s: float = ASIDE_S) -> None:
        self.short_s, self.aside_s = short_s, aside_s
        self._ended = threading.Condition()
        self._since: dict[int, float] = {}
        self._long: set[int] = set()

    @contextmanager
    def answering(self) -> Iterator[None]:
        """A question is answered in this thread."""
        me = threading.get_ident()
        with self._ended:
            self._since[me] = time.monotonic()
        try:
            yield
        finally:
            self._leave(me)

    @contextmanager
    def for_long(self) -> Iterator[None]:
        """From here on this thread waits for its turn and computes: nobody stands aside for it, and it does."""
        me = threading.get_ident()
        began = self._leave(me)
        with self._ended:
            self._long.add(me)
        try:
            yield
        finally:
            with self._ended:
                self._long.discard(me)
                if began is not None:
                    self._since[me] = began

    def _leave(self, thread: int) -> float | None:
        with self._ended:
            began = self._since.pop(thread, None)
            self._ended.notify_all()
        return began

    def breath(self) -> None:
        """Stand aside while a short question is being answered, if this thread computes for long."""
        # Read without the lock: a moment's mistake costs a moment.
        if not self._since or threading.get_ident() not in self._long:
            return
        with self._ended:
            self._ended.wait_for(self._nobody_short, self.aside_s)

    def _nobody_short(self) -> bool:
        since = time.monotonic() - self.short_s
        return all(began < since for began in self._since.values())


PACE = Pace()
