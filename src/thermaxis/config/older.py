"""A database of before 0.2.0 was never released, and nothing leads from it to this one: the demo begins anew beside it.

Run by `make demo`. What is served in earnest is never moved: there migrating says that it cannot.
"""

from __future__ import annotations

import contextlib
import sqlite3
import sys
from pathlib import Path

# An application those databases had and later ones do not.
GONE = "work"


def is_older(path: Path) -> bool:
    """Whether a file is a database of before 0.2.0."""
    if not path.is_file():
        return False
    with contextlib.suppress(sqlite3.DatabaseError), contextlib.closing(sqlite3.connect(path)) as database:
        found = database.execute("SELECT count(*) FROM django_migrations WHERE app = ?", (GONE,)).fetchone()
        return bool(found[0])
    return False


def move_aside(path: Path) -> Path | None:
    """Move an older database, with what SQLite keeps beside it, to a name of its own; None where there is none."""
    if not is_older(path):
        return None
    number = 1
    while (aside := path.with_name(f"{path.stem}-before-0.2.0-{number}{path.suffix}")).exists():
        number += 1
    for end in ("", "-wal", "-shm"):
        beside = path.with_name(path.name + end)
        if beside.exists():
            beside.rename(aside.with_name(aside.name + end))
    return aside


def main() -> int:
    """Make room for the demo and say so."""
    from thermaxis.config.settings import DATABASES

    aside = move_aside(Path(str(DATABASES["default"]["NAME"])))
    if aside is not None:
        print(f"The database here is of an earlier, unreleased version. It is kept as {aside}; the demo begins anew.")
    return 0


if __name__ == "__main__":
    sys.exit(main())
