"""What the server computed of the demo as it is loaded, kept from test to test: every journey begins with it.

The memory of the server itself (`accounts/kept.py`) is of the last state only, which each journey changes.
"""

from __future__ import annotations

import contextlib
import sqlite3
from collections import OrderedDict
from collections.abc import Hashable, Iterator
from pathlib import Path
from typing import Any

from thermaxis.apps.accounts import kept

MOST = 400
STAMPS = (
    "SELECT id, stamp FROM accounts_workshop UNION ALL SELECT -machine_id, stamp FROM accounts_machinestamp ORDER BY 1"
)


def _stamps(database: Path) -> list[tuple[int, str]]:
    with contextlib.closing(sqlite3.connect(database)) as found:
        return found.execute(STAMPS).fetchall()


class Pristine(OrderedDict[Hashable, tuple[kept.Stamp, Any]]):
    """The server's memory, which also remembers what was built while nothing had changed yet."""

    def __init__(self, database: Path) -> None:
        super().__init__()
        self.database = database
        self.untouched: list[tuple[int, str]] = []
        self.first: dict[Hashable, tuple[kept.Stamp, Any]] = {}

    def __setitem__(self, place: Hashable, entry: tuple[kept.Stamp, Any]) -> None:
        super().__setitem__(place, entry)
        # Looked at once more after it was built: a change in between is in it.
        if self.untouched and len(self.first) < MOST and _stamps(self.database) == self.untouched:
            self.first[place] = entry

    def begin(self) -> None:
        """A journey begins, with what is known of the demo."""
        self.clear()
        self.untouched = _stamps(self.database)
        for place, entry in self.first.items():
            super().__setitem__(place, entry)


@contextlib.contextmanager
def remembering(database: Path) -> Iterator[Pristine]:
    """The server's memory replaced, for all journeys of a process."""
    before = kept._entries
    memory = Pristine(database)
    kept._entries = memory
    try:
        yield memory
    finally:
        kept._entries = before
