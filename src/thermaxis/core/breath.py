"""Long loops draw breath: whoever has less to ask may be let through in between.

Python runs one thread at a time. A loop over a thousand sets would keep a short question waiting again and again; told
at each turn of the loop, whoever runs it may stand aside for a moment. By itself this does nothing.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from typing import TypeVar

Entry = TypeVar("Entry")
_at_each: list[Callable[[], None]] = []


def at_each_breath(act: Callable[[], None]) -> None:
    """Call `act` at each turn of every long loop, in the loop's own thread; instead of what was called before."""
    _at_each[:] = [act]


def breathe() -> None:
    """One turn of a long loop."""
    for act in _at_each:
        act()


def breathing(entries: Iterable[Entry]) -> Iterator[Entry]:
    """The entries, with a breath before each."""
    for entry in entries:
        breathe()
        yield entry
