"""The database as a file: copied while it is written to, looked through, put in the place of the live one."""

from __future__ import annotations

import contextlib
import os
import sqlite3
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

from django.conf import settings
from django.db import connection
from django.db.migrations.loader import MigrationLoader

BUSY_S = 60.0
MOST_FOUND = 20


def live_path() -> Path:
    """Where the live database lies."""
    return Path(str(connection.settings_dict["NAME"]))


@contextlib.contextmanager
def _both(source: Path, target: Path) -> Iterator[tuple[sqlite3.Connection, sqlite3.Connection]]:
    """Two databases, one of them written to. OSError for a full disk or a damaged file, as with any other file."""
    try:
        with contextlib.closing(_opened(source, writable=False)) as one, contextlib.closing(_opened(target)) as other:
            yield one, other
    except sqlite3.Error as error:
        raise OSError(f"the database could not be copied: {error}") from error


def copy(source: Path, target: Path) -> None:
    """Copy a database as it is at one moment, whoever writes to it meanwhile (SQLite's online backup)."""
    with _both(source, target) as (one, other):
        # In one step: what a reader sees is one moment, and writers go on beside it.
        one.backup(other, pages=-1)
        other.execute("PRAGMA journal_mode=DELETE")


def replace_live(source: Path) -> None:
    """Put a database's content in the place of the live one's, in one transaction."""
    with _both(source, live_path()) as (one, other):
        other.execute("PRAGMA synchronous=FULL")
        one.backup(other, pages=-1)


def look_through(path: Path) -> list[str]:
    """What is wrong with a database, in words; empty for one that is sound."""
    try:
        with contextlib.closing(_opened(path, writable=False)) as database:
            found = [str(row[0]) for row in database.execute(f"PRAGMA integrity_check({MOST_FOUND})")]
            wrong = [] if found == ["ok"] else found
            loose = database.execute("PRAGMA foreign_key_check").fetchmany(MOST_FOUND)
            return wrong + [
                f"a row of {table} hangs on one of {parent} that is not there" for table, _, parent, _ in loose
            ]
    except sqlite3.DatabaseError as error:
        return [str(error)]


def migrations_of(path: Path) -> dict[str, str]:
    """The last migration of each app a database has been through; empty where it has been through none."""
    try:
        with contextlib.closing(_opened(path, writable=False)) as database:
            rows = database.execute("SELECT app, max(name) FROM django_migrations GROUP BY app").fetchall()
            return {str(app): str(name) for app, name in rows}
    except sqlite3.DatabaseError:
        return {}


def unknown_migrations(found: dict[str, str]) -> list[str]:
    """Of these those this version does not know: a database of a newer one."""
    known = MigrationLoader(None, ignore_no_migrations=True).disk_migrations
    return sorted(f"{app} {name}" for app, name in found.items() if (app, name) not in known)


def is_behind(path: Path) -> bool:
    """Whether a database has migrations before it."""
    with contextlib.closing(_opened(path, writable=False)) as database:
        try:
            done = {(app, name) for app, name in database.execute("SELECT app, name FROM django_migrations")}
        except sqlite3.OperationalError:
            done = set()
    return bool(set(MigrationLoader(None, ignore_no_migrations=True).disk_migrations) - done)


def workshops_in(path: Path) -> list[str]:
    """The names of the workshops in a database's file."""
    with contextlib.closing(_opened(path, writable=False)) as database:
        return [str(row[0]) for row in database.execute("SELECT name FROM accounts_workshop ORDER BY id LIMIT 100")]


def migrate(path: Path) -> str:
    """Bring a database's file to this version, in a process of its own; what went wrong in words, else empty."""
    environment = {**os.environ, "THERMAXIS_DATABASE": str(path), "DJANGO_SETTINGS_MODULE": settings.SETTINGS_MODULE}
    done = subprocess.run(
        [sys.executable, "-m", "django", "migrate", "--verbosity", "0", "--skip-checks"],
        env=environment,
        capture_output=True,
        text=True,
        check=False,
    )
    return "" if done.returncode == 0 else (done.stderr.strip().splitlines() or ["it ended without a word"])[-1]


def _opened(path: Path, *, writable: bool = True) -> sqlite3.Connection:
    mode = "rwc" if writable else "ro"
    return sqlite3.connect(f"{path.resolve().as_uri()}?mode={mode}", uri=True, timeout=BUSY_S, isolation_level=None)
