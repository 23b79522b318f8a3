"""Whose turn it is to compute: a few computations at a time, a queue per person, and everybody told their place.

Computing takes every core there is; what more than a few do at once only makes all of them wait. A person has one
question answered at a time, so that there is a slot for somebody else's, and waits behind their own questions only.
"""

from __future__ import annotations

import os
import threading
from collections import deque
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar

from thermaxis.apps.accounts.pace import PACE
from thermaxis.core.errors import Stopped, ThermaxisError

SLOTS = max(2, os.cpu_count() or 1)
# A page asks two or three things at once; threads of the server are kept for those who only read.
MOST_EACH, MOST_IN_ALL = 6, 18
PATIENCE_S = 0.25
STOPPED = "The computation was stopped before it was done."


class Busy(ThermaxisError):
    """Somebody has more under way than the server takes on for one person, or everybody together has."""


class Turns:
    """Slots for work, one for each person, given to those who wait: who was served longest ago comes first."""

    def __init__(self, slots: int = SLOTS, most_each: int = MOST_EACH, most_in_all: int = MOST_IN_ALL) -> None:
        self.slots, self.most_each, self.most_in_all = slots, most_each, most_in_all
        self._changed = threading.Condition()
        self._waiting: dict[int, deque[object]] = {}
        self._running: set[int] = set()
        self._served: dict[int, int] = {}
        self._count = 0

    @contextmanager
    def turn(self, person: int, told: Callable[[int], None], wanted: Callable[[], bool]) -> Iterator[None]:
        """Wait for a slot; `told` how many come before. Raises Stopped once it is not `wanted` any more, and Busy."""
        ticket = object()
        with self._changed:
            self._check_room(person)
            self._waiting.setdefault(person, deque()).append(ticket)
            try:
                while not self._is_next(person, ticket):
                    told(self._place(person, ticket))
                    self._changed.wait(PATIENCE_S)
                    if not wanted():
                        raise Stopped(STOPPED)
            finally:
                self._waiting[person].remove(ticket)
                if not self._waiting[person]:
                    del self._waiting[person]
                self._changed.notify_all()
            self._running.add(person)
            self._count += 1
            self._served[person] = self._count
        told(0)
        try:
            yield
        finally:
            with self._changed:
                self._running.remove(person)
                if not self._running and not self._waiting:
                    self._served.clear()
                self._changed.notify_all()

    def _check_room(self, person: int) -> None:
        own = (person in self._running) + len(self._waiting.get(person, ()))
        if own >= self.most_each:
            raise Busy(f"You have {own} computations under way already: wait for one of them, or stop it.")
        everybody = len(self._running) + sum(map(len, self._waiting.values()))
        if everybody >= self.most_in_all:
            raise Busy(f"{everybody} computations are under way: try again in a moment.")

    def _is_next(self, person: int, ticket: object) -> bool:
        if len(self._running) >= self.slots:
            return False
        idle = [who for who in self._waiting if who not in self._running]
        first = min(idle, key=lambda who: self._served.get(who, 0), default=None)
        return first == person and self._waiting[person][0] is ticket

    def _place(self, person: int, ticket: object) -> int:
        """How many come before: one's own earlier ones, and as many of each other person's."""
        own = self._waiting[person].index(ticket)
        others = sum(min(len(queue), own + 1) for who, queue in self._waiting.items() if who != person)
        return 1 + own + others


turns = Turns()
_in_turn: ContextVar[bool] = ContextVar("in_turn", default=False)


@contextmanager
def without_waiting() -> Iterator[None]:
    """What is computed in this block waits for nobody: it holds up every change."""
    token = _in_turn.set(True)
    try:
        yield
    finally:
        _in_turn.reset(token)


@contextmanager
def my_turn(person: int, told: Callable[[int], None], wanted: Callable[[], bool]) -> Iterator[None]:
    """A slot of the server's for one request; within a turn there is no waiting for another."""
    if _in_turn.get():
        yield
        return
    with PACE.for_long(), turns.turn(person, told, wanted):
        token = _in_turn.set(True)
        try:
            yield
        finally:
            _in_turn.reset(token)
