"""Make a backup: the live database at one moment, packed into one file."""

from __future__ import annotations

import datetime as dt
import os
import shutil
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from django.conf import settings
from django.utils import timezone

from thermaxis import __version__
from thermaxis.apps.accounts.locks import one_at_a_time
from thermaxis.apps.accounts.sealing import BrokenSeal, unsealed
from thermaxis.apps.safekeeping import database, keeping
from thermaxis.core.errors import SolveError
from thermaxis.formats.backup_file import Head, check_passphrase, write_backup

# Room for the copy, the packed file and what is written meanwhile.
ROOM = 2.2


def backups_folder() -> Path:
    """Where the server keeps the backups it makes by itself."""
    folder = Path(settings.VAR) / "backups"
    folder.mkdir(mode=0o700, exist_ok=True)
    return folder


@contextmanager
def workroom() -> Iterator[Path]:
    """A folder beside the database for what is only needed for a while, and gone afterwards."""
    place = Path(settings.VAR) / "tmp"
    place.mkdir(mode=0o700, exist_ok=True)
    with tempfile.TemporaryDirectory(dir=place, ignore_cleanup_errors=True) as folder:
        yield Path(folder)


def clear_workroom() -> None:
    """Take away what a process that was killed has left; for a server that has just begun."""
    shutil.rmtree(Path(settings.VAR) / "tmp", ignore_errors=True)
    for part in backups_folder().glob("*.part"):
        part.unlink(missing_ok=True)


def back_up(target: Path, passphrase: str | None = None) -> Head:
    """Write a backup of the live database. FieldError for a weak passphrase; SolveError where there is no room.

    OSError where the folder cannot be written.
    """
    check_passphrase(passphrase)
    live = database.live_path()
    needed = ROOM * live.stat().st_size
    if shutil.disk_usage(target.parent).free < needed:
        raise SolveError(f"There is not room enough for a backup: {needed / 1e6:.0f} MB are needed.")
    with workroom() as room:
        copied = room / "copy.sqlite3"
        database.copy(live, copied)
        # A second factor's secret is sealed by this server's own: only under a lock is it open.
        database.strip(copied, open_time_codes=_opened if passphrase is not None else None)
        head = Head(
            version=__version__,
            made_at=timezone.now().isoformat(timespec="seconds"),
            size=copied.stat().st_size,
            migrations=database.migrations_of(copied),
        )
        write_backup(copied, target, head, passphrase)
    return head


def _opened(key: str) -> str:
    """What a device was told, as it stands unsealed; one that another server sealed stays as it is."""
    try:
        return unsealed(key).hex()
    except BrokenSeal:
        return key


@contextmanager
def named(what: str, now: dt.datetime) -> Iterator[Path]:
    """A name of its own for a backup; two of the same second have two, their words may be others."""
    with one_at_a_time("backup"):
        name = f"{what}-{now.astimezone(dt.UTC):%Y%m%d-%H%M%S}"
        target, count = backups_folder() / f"{name}.backup", 1
        while target.exists() or target.with_suffix(".damaged").exists():
            count += 1
            target = target.with_name(f"{name}-{count}.backup")
        yield target


def keep_by_hand(now: dt.datetime, passphrase: str | None = None) -> Path:
    """A backup somebody asked for."""
    with named("by-hand", now) as target:
        back_up(target, passphrase)
    return target


def _words() -> Path:
    return Path(settings.VAR) / "backup-passphrase"


def own_passphrase() -> str | None:
    """What the server locks the backups with that it makes by itself; None where nobody has set one.

    It lies beside the database it protects copies of, readable by the server alone, and in no backup.
    """
    path = _words()
    return path.read_text("utf-8") if path.exists() else None


def set_own_passphrase(passphrase: str | None) -> None:
    """Lock what the server makes by itself from now on, or no longer. FieldError for a weak one."""
    check_passphrase(passphrase)
    if passphrase is None:
        _words().unlink(missing_ok=True)
        return
    fresh = _words().with_suffix(".new")
    with open(os.open(fresh, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "w", encoding="utf-8") as out:
        out.write(passphrase)
    fresh.replace(_words())


def keep_one(now: dt.datetime | None = None) -> Path:
    """A backup among those the server keeps; older ones that nobody needs any more go."""
    folder = backups_folder()
    target = folder / keeping.name_of(now or dt.datetime.now(dt.UTC))
    back_up(target, own_passphrase())
    keeping.tidy(folder)
    return target


def keep_if_due(now: dt.datetime) -> Path | None:
    """The night's backup, where today has none yet and there is something to keep."""
    rows = keeping.listed(backups_folder())
    if not keeping.is_due(rows[0][0] if rows else None, now):
        return None
    return keep_one(now)
