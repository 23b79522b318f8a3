"""Whose turn it is: few at a time, in order for one person, in turn for several, and nobody left waiting for nothing."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager

import pytest

from thermaxis.apps.solving.turns import Busy, Turns
from thermaxis.core.errors import Stopped


class Hands:
    """People who ask from threads of their own; each piece of work ends when the test says so."""

    def __init__(self, turns: Turns) -> None:
        self.turns = turns
        self.order: list[str] = []
        self.most = self.running = 0
        self.changed = threading.Condition()
        self.threads: dict[str, threading.Thread] = {}
        self.let_go: set[str] = set()
        self.given_up: set[str] = set()
        self.places: dict[str, int] = {}
        self.stopped: list[str] = []

    def ask(self, person: int, name: str) -> None:
        """Ask for a turn, and come back once it is waited for or had."""

        def told(place: int) -> None:
            with self.changed:
                self.places[name] = place
                self.changed.notify_all()

        def work() -> None:
            try:
                with self.turns.turn(person, told, lambda: name not in self.given_up):
                    self._work(name)
            except Stopped:
                self.stopped.append(name)

        self.threads[name] = threading.Thread(target=work)
        self.threads[name].start()
        self._wait(lambda: name in self.places)

    def _work(self, name: str) -> None:
        with self.changed:
            self.order.append(name)
            self.running += 1
            self.most = max(self.most, self.running)
            self.changed.notify_all()
        self._wait(lambda: name in self.let_go)
        with self.changed:
            self.running -= 1

    def _wait(self, until: object) -> None:
        with self.changed:
            assert self.changed.wait_for(until, 60)  # type: ignore[arg-type]

    def end(self, name: str) -> None:
        """Let a piece of work end, and wait for it."""
        with self.changed:
            self.let_go.add(name)
            self.changed.notify_all()
        self.threads[name].join(60)

    def begun(self, count: int) -> list[str]:
        """Who has had a turn, once so many have."""
        self._wait(lambda: len(self.order) >= count)
        return self.order


@contextmanager
def hands(slots: int = 1, most_each: int = 6, most_in_all: int = 18) -> Iterator[Hands]:
    found = Hands(Turns(slots, most_each, most_in_all))
    try:
        yield found
    finally:
        found.given_up |= set(found.threads)
        for name in found.threads:
            found.end(name)


def test_who_asks_for_a_lot_does_not_go_before_others() -> None:
    with hands() as here:
        for number in range(4):
            here.ask(1, f"much {number}")
        here.ask(2, "little")
        # One's own earlier ones come first, and one of every other person for each of them.
        assert (here.places["much 3"], here.places["little"]) == (3, 2)
        here.end("much 0")
        assert here.begun(2) == ["much 0", "little"]
        here.end("little")
        assert here.begun(3)[2] == "much 1"
        here.end("much 1")
        here.end("much 2")
        assert here.begun(5)[3:] == ["much 2", "much 3"]
        assert here.most == 1


def test_only_so_many_run_and_only_so_many_wait() -> None:
    with hands(slots=2, most_each=3, most_in_all=4) as here:
        for name in "abc":
            here.ask(1, name)
        # There is another slot, but not for the same person.
        assert here.begun(1) == ["a"]
        with pytest.raises(Busy, match="You have 3"), here.turns.turn(1, lambda _: None, lambda: True):
            pass
        here.ask(2, "d")
        assert here.begun(2) == ["a", "d"]
        with pytest.raises(Busy, match="4 computations"), here.turns.turn(3, lambda _: None, lambda: True):
            pass
        here.end("a")
        assert here.begun(3)[2] == "b"
        assert here.most == 2


def test_who_has_left_does_not_keep_a_place() -> None:
    with hands() as here:
        here.ask(1, "first")
        here.ask(2, "gone")
        here.ask(3, "last")
        here.given_up.add("gone")
        here.threads["gone"].join(60)
        assert here.stopped == ["gone"]
        here.end("first")
        assert here.begun(2) == ["first", "last"]
