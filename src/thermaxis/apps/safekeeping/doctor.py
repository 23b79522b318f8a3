"""Look after the server's health: each finding says what it is and what to do."""

from __future__ import annotations

import datetime as dt
import os
import shutil
import stat
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Literal

from django.conf import settings

from thermaxis import __version__
from thermaxis.apps.safekeeping import database, keeping
from thermaxis.apps.safekeeping.backing_up import backups_folder

State = Literal["fine", "close", "over"]
LITTLE_BYTES, VERY_LITTLE_BYTES = 2e9, 300e6
OLD, VERY_OLD = dt.timedelta(hours=36), dt.timedelta(days=7)
# Before this the program did not exist: a clock that says so is wrong.
EARLIEST = dt.datetime(2026, 1, 1, tzinfo=dt.UTC)


@dataclass(frozen=True, kw_only=True)
class Finding:
    """What was looked at, how it is, and what to do where it is not fine."""

    name: str
    state: State
    text: str
    do: str = ""


def examine(now: dt.datetime, *, deep: bool = True) -> list[Finding]:
    """Everything; `deep` reads the whole database, which takes a while for a large one."""
    live = database.live_path()
    if not live.exists() or live.stat().st_size == 0:
        do = "Start the server, which makes one, or restore a backup."
        return [Finding(name="database", state="over", text="There is no database here.", do=do), _room(), _rights()]
    found = list(_database()) if deep else []
    if any(row.state == "over" and row.name == "database" for row in found):
        # What else stands in it says nothing.
        return [*found, _last_backup(now), _room(), _rights()]
    found = [_version(), *found, _last_backup(now), _room(), _clock(now), _rights()]
    return [*found, *(_pictures() if deep else [])]


def _version() -> Finding:
    live = database.live_path()
    newer = database.unknown_migrations(database.migrations_of(live))
    if newer:
        return Finding(
            name="version",
            state="over",
            text=f"The database is of a newer version than {__version__}: {newer[0]}.",
            do="Install that version again, or restore a backup of this one.",
        )
    if database.is_behind(live):
        return Finding(
            name="version",
            state="close",
            text=f"The database is of an older version than {__version__}.",
            do="Run make upgrade: it makes a backup, then brings it up to date.",
        )
    return Finding(name="version", state="fine", text=f"Version {__version__}, and the database is of it.")


def _database() -> Iterator[Finding]:
    wrong = database.look_through(database.live_path())
    loose = [line for line in wrong if line.startswith("a row of ")]
    damaged = [line for line in wrong if line not in loose]
    if damaged:
        yield Finding(
            name="database",
            state="over",
            text=f"The database is damaged: {damaged[0][:200]}",
            do="Stop the server and restore the last backup (thermaxis restore FILE); what is there is kept aside.",
        )
    else:
        yield Finding(name="database", state="fine", text="Every page of the database is as it was written.")
    if loose:
        yield Finding(
            name="references",
            state="over",
            text=f"{len(loose)} rows hang on nothing: {loose[0][:200]}",
            do="Restore the last backup, or send this line to whoever keeps the program.",
        )
    else:
        yield Finding(name="references", state="fine", text="Every row that belongs to another finds it.")


def _last_backup(now: dt.datetime) -> Finding:
    rows = keeping.all_of(backups_folder())
    if not rows:
        return Finding(
            name="backup",
            state="close",
            text="There is no backup yet.",
            do="Make one: under Settings and Backup, or with thermaxis backup FILE. The server makes one each night.",
        )
    age = now - rows[0][0]
    words = f"The last of {len(rows)} backups is {age.total_seconds() / 3600:.0f} hours old."
    if age > OLD:
        do = "See that the server runs at night and its disk has room; make one now."
        return Finding(name="backup", state="over" if age > VERY_OLD else "close", text=words, do=do)
    return Finding(name="backup", state="fine", text=words)


def _room() -> Finding:
    free = shutil.disk_usage(settings.VAR).free
    words = f"{free / 1e9:.1f} GB are free on the server's disk."
    if free < LITTLE_BYTES:
        do = "Make room: a full disk takes nothing in, and no backup either."
        return Finding(name="disk", state="over" if free < VERY_LITTLE_BYTES else "close", text=words, do=do)
    return Finding(name="disk", state="fine", text=words)


def _clock(now: dt.datetime) -> Finding:
    from thermaxis.apps.log.models import LogEntry

    latest = LogEntry.objects.order_by("-made_at").values_list("made_at", flat=True).first()
    do = "Set the server's clock; days in the log and changes due are reckoned by it."
    if now < EARLIEST:
        return Finding(name="clock", state="over", text=f"The clock says {now:%d %B %Y}.", do=do)
    if latest is not None and latest > now + dt.timedelta(minutes=5):
        behind = (latest - now).total_seconds() / 60
        return Finding(
            name="clock", state="over", text=f"The log's last entry is {behind:.0f} minutes ahead of the clock.", do=do
        )
    return Finding(name="clock", state="fine", text=f"The clock says {now:%d %B %Y %H:%M} UTC.")


def _rights() -> Finding:
    closed = not stat.S_IMODE(Path(settings.VAR).stat().st_mode) & 0o005
    exposed = [path.name for path in _own_files() if path.exists() and stat.S_IMODE(path.stat().st_mode) & 0o004]
    exposed = [] if closed else exposed
    writable = os.access(settings.VAR, os.W_OK)
    if not writable:
        return Finding(
            name="rights", state="over", text="The server's folder cannot be written.", do="Give its user the folder."
        )
    if exposed:
        names = ", ".join(exposed)
        return Finding(
            name="rights",
            state="close",
            text=f"Every user of this machine can read {names}.",
            do=f"chmod o-r {names}, in the server's folder.",
        )
    return Finding(name="rights", state="fine", text="Only the server's own user reads its secret and its database.")


def _own_files() -> list[Path]:
    return [Path(settings.VAR) / "secret", database.live_path()]


def _pictures() -> Iterator[Finding]:
    from thermaxis.apps.inspect.models import InspectionPhoto
    from thermaxis.apps.job.models import JobPhoto
    from thermaxis.apps.log.models import LogPhoto
    from thermaxis.formats.picture import is_picture

    count = wrong = 0
    for model in (InspectionPhoto, JobPhoto, LogPhoto):
        for content in model._default_manager.values_list("content", flat=True).iterator(chunk_size=20):
            count += 1
            wrong += not is_picture(bytes(content))
    if wrong:
        yield Finding(
            name="pictures",
            state="over",
            text=f"{wrong} of {count} pictures cannot be shown.",
            do="Take them again, or restore a backup in which they are whole.",
        )
    else:
        yield Finding(name="pictures", state="fine", text=f"{count} pictures, each whole and each with its row.")
