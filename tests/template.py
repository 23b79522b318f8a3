"""Databases to begin from: migrated and empty, or with the demo's data. Made once for a day and a state of the code,
by whichever process comes first, and copied by all.
"""

from __future__ import annotations

import contextlib
import datetime as dt
import fcntl
import functools
import hashlib
import os
import secrets
import shutil
import sqlite3
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).parents[1]
PLACE = Path(os.environ.get("THERMAXIS_TEMPLATES", ROOT / ".stamps" / "templates"))
SOURCES = ("*.py", "*.json", "*.csv")
MAKE = """
import datetime as dt, shutil, sys
import django
django.setup()
from django.conf import settings
from django.core.management import call_command
from django.db import connection
from thermaxis.apps.workshop.actions.load_demo import load_demo
call_command("migrate", verbosity=0, skip_checks=True)
connection.close()
shutil.copy(settings.DATABASES["default"]["NAME"], sys.argv[1])
load_demo(dt.date.fromisoformat(sys.argv[3]))
connection.close()
shutil.copy(settings.DATABASES["default"]["NAME"], sys.argv[2])
"""


def template(name: str, today: dt.date) -> Path:
    """The file of a database to copy: `empty`, or `demo` as of a day."""
    found = {each: PLACE / f"{each}-{today}-{_code()}.sqlite3" for each in ("empty", "demo")}
    PLACE.mkdir(parents=True, exist_ok=True)
    with (PLACE / "lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not all(path.is_file() for path in found.values()):
            _make(found["empty"], found["demo"], today)
    return found[name]


@functools.cache
def _code() -> str:
    """What the code said as this process began: another state of it may write other rows."""
    given = os.environ.get("THERMAXIS_TEMPLATE_CODE")
    if given:
        return given
    digest = hashlib.sha256()
    source = ROOT / "src" / "thermaxis"
    for path in sorted(path for pattern in SOURCES for path in source.rglob(pattern)):
        digest.update(path.relative_to(source).as_posix().encode())
        digest.update(path.read_bytes())
    return digest.hexdigest()[:16]


def _make(empty: Path, demo: Path, today: dt.date) -> None:
    for old in PLACE.glob("*.sqlite3"):
        old.unlink()
    room = PLACE / "room"
    shutil.rmtree(room, ignore_errors=True)
    room.mkdir()
    environment = {**os.environ, "THERMAXIS_VAR": str(room), "DJANGO_SETTINGS_MODULE": "thermaxis.config.settings"}
    made = (room / "empty", room / "demo")
    subprocess.run([sys.executable, "-c", MAKE, *map(str, made), str(today)], env=environment, check=True, cwd=ROOT)
    for source, target in zip(made, (empty, demo), strict=True):
        source.rename(target)
    shutil.rmtree(room)


def copy_to(folder: Path, name: str = "demo") -> None:
    """Give a server's folder its database."""
    shutil.copy(template(name, dt.date.today()), folder / "thermaxis.sqlite3")


def restore(database: Path, name: str = "demo") -> None:
    """Make a database that may be open what a template is.

    Its workshops get another stamp: what the process keeps of an earlier test may be of another state of the same rows.
    """
    with (
        contextlib.closing(sqlite3.connect(template(name, dt.date.today()))) as source,
        contextlib.closing(sqlite3.connect(database, timeout=120)) as target,
    ):
        source.backup(target)
        target.execute("UPDATE accounts_workshop SET stamp = ?", (secrets.token_hex(8),))
        target.commit()
