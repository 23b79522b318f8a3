"""The database as a file: copied while it is written to, looked through, put in the place of the live one."""

from __future__ import annotations

import contextlib
import json
import os
import sqlite3
import subprocess
import sys
from collections.abc import Callable, Iterator
from pathlib import Path

from django.conf import settings
from django.db import connection
from django.db.migrations.loader import MigrationLoader

from thermaxis.apps.safekeeping import schema

BUSY_S = 60.0
MOST_FOUND = 20
# What no backup holds: each of these lets its holder in.
LEFT_OUT = ("django_session", "accounts_opensession", "accounts_onetimeaddress", "accounts_changekey")
TIME_CODES = "otp_totp_totpdevice"


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
    known = _known()
    return sorted(f"{app} {name}" for app, name in found.items() if (app, name) not in known)


def unknown_in(path: Path) -> list[str]:
    """Migrations a database says it has been through that this version does not know, each one asked."""
    known = _known()
    with contextlib.closing(_opened(path, writable=False)) as database:
        rows = database.execute("SELECT app, name FROM django_migrations").fetchall()
    return sorted(f"{app} {name}" for app, name in rows if (app, name) not in known)


def _known() -> set[tuple[str, str]]:
    """Every migration of this version, and those that each takes the place of."""
    found = MigrationLoader(None, ignore_no_migrations=True).disk_migrations
    return set(found) | {replaced for migration in found.values() for replaced in migration.replaces}


def acting_in(path: Path) -> list[str]:
    """What in a database acts by itself: triggers, views and the like."""
    with contextlib.closing(_opened(path, writable=False)) as database:
        return schema.acting(database)


def differing_in(path: Path) -> list[str]:
    """In what a database's objects are not those of this version, in words."""
    with contextlib.closing(_opened(path, writable=False)) as database:
        return schema.differing(database)


def strip(path: Path, *, open_time_codes: Callable[[str], str] | None = None) -> None:
    """Take out of a copy what lets somebody in: sessions, one-time addresses, stored answers; no page of it is left.

    `open_time_codes` gives what a device was told, for a copy that will be locked.
    """
    try:
        with contextlib.closing(_opened(path)) as database:
            there = {name for (name,) in database.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
            for name in LEFT_OUT:
                if name in there:
                    database.execute(f'DELETE FROM "{name}"')
            if open_time_codes is not None and TIME_CODES in there:
                rows = database.execute(f'SELECT id, key FROM "{TIME_CODES}"').fetchall()
                changed = [(open_time_codes(key), number) for number, key in rows]
                database.executemany(f'UPDATE "{TIME_CODES}" SET key = ? WHERE id = ?', changed)
            database.execute("VACUUM")
    except sqlite3.Error as error:
        raise OSError(f"the copy could not be written: {error}") from error


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
    done = _django(path, "migrate", "--verbosity", "0", "--skip-checks")
    return "" if done.returncode == 0 else _last_line(done)


def prepare(path: Path, made_at: str, live: Path) -> tuple[dict[str, int], str]:
    """Make a backup's database fit to be restored, in a process of its own: what was ended, or what went wrong."""
    done = _django(path, "prepare_restored", made_at, str(live))
    return (json.loads(done.stdout), "") if done.returncode == 0 else ({}, _last_line(done))


def _last_line(done: subprocess.CompletedProcess[str]) -> str:
    return (done.stderr.strip().splitlines() or ["it ended without a word"])[-1]


def _django(path: Path, *arguments: str) -> subprocess.CompletedProcess[str]:
    environment = {**os.environ, "THERMAXIS_DATABASE": str(path), "THERMAXIS_VAR": str(settings.VAR)}
    return subprocess.run(
        [sys.executable, "-m", "django", *arguments], env=environment, capture_output=True, text=True, check=False
    )


def _opened(path: Path, *, writable: bool = True) -> sqlite3.Connection:
    mode = "rwc" if writable else "ro"
    return sqlite3.connect(f"{path.resolve().as_uri()}?mode={mode}", uri=True, timeout=BUSY_S, isolation_level=None)
