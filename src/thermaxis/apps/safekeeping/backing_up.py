"""Make a backup: the live database at one moment, packed into one file."""

from __future__ import annotations

import datetime as dt
import shutil
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from django.conf import settings
from django.utils import timezone

from thermaxis import __version__
from thermaxis.apps.accounts.locks import one_at_a_time
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
        head = Head(
            version=__version__,
            made_at=timezone.now().isoformat(timespec="seconds"),
            size=copied.stat().st_size,
            migrations=database.migrations_of(copied),
        )
        write_backup(copied, target, head, passphrase)
    return head


def keep_by_hand(now: dt.datetime, passphrase: str | None = None) -> Path:
    """A backup somebody asked for; one of the same second has a name of its own, its words may be others."""
    with one_at_a_time("backup"):
        target = backups_folder() / now.astimezone(dt.UTC).strftime("by-hand-%Y%m%d-%H%M%S.backup")
        count = 1
        while target.exists():
            count += 1
            target = target.with_name(now.astimezone(dt.UTC).strftime(f"by-hand-%Y%m%d-%H%M%S-{count}.backup"))
        back_up(target, passphrase)
    return target


def keep_one(now: dt.datetime | None = None) -> Path:
    """A backup among those the server keeps; older ones that nobody needs any more go."""
    folder = backups_folder()
    target = folder / keeping.name_of(now or dt.datetime.now(dt.UTC))
    back_up(target)
    keeping.tidy(folder)
    return target


def keep_if_due(now: dt.datetime) -> Path | None:
    """The night's backup, where today has none yet and there is something to keep."""
    rows = keeping.listed(backups_folder())
    if not keeping.is_due(rows[0][0] if rows else None, now):
        return None
    return keep_one(now)
