"""Put a backup back: everything is checked before anything is touched, and what was there is kept aside."""

from __future__ import annotations

import datetime as dt
import shutil
from dataclasses import dataclass
from pathlib import Path

from thermaxis.apps.accounts.ended import ended_since
from thermaxis.apps.safekeeping import database, schema
from thermaxis.apps.safekeeping.backing_up import back_up, named, own_passphrase, workroom
from thermaxis.core.errors import FieldError, SolveError
from thermaxis.formats.backup_file import Head, read_backup, read_head

# Unpacked, and copied into a new database.
ROOM = 3


@dataclass(frozen=True, kw_only=True)
class Checked:
    """A backup that can be restored: its database, brought to this version, and what it says of itself.

    `ended` counts what does not come back with it, by what it is.
    """

    head: Head
    database: Path
    migrated: bool
    ended: dict[str, int]
    prepared_at: dt.datetime


def check(file: Path, room: Path, passphrase: str | None = None) -> Checked:
    """Unpack, look through and bring up to date in `room`; nothing else is touched. FieldError for what is unsound."""
    head = read_head(file)
    newer = database.unknown_migrations(head.migrations)
    if newer:
        raise FieldError("file", f"version {head.version}", "a backup of this version or an older one: update first")
    needed = ROOM * head.size
    if shutil.disk_usage(room).free < needed:
        raise SolveError(f"There is not room enough to unpack it: {needed / 1e6:.0f} MB are needed.")
    unpacked = room / "unpacked.sqlite3"
    read_backup(file, unpacked, passphrase)
    _sound(unpacked)
    if not database.migrations_of(unpacked).get("accounts"):
        raise FieldError("file", "", "a backup of this program's database")
    if database.unknown_in(unpacked):
        raise FieldError("file", f"version {head.version}", "a backup of this version or an older one: update first")
    _nothing_but_data(database.acting_in(unpacked))
    behind = database.is_behind(unpacked)
    if behind:
        wrong = database.migrate(unpacked)
        if wrong:
            raise SolveError(f"It could not be brought to this version: {wrong[:300]}")
    _nothing_but_data(database.differing_in(unpacked))
    fresh = room / "fresh.sqlite3"
    _nothing_but_data(schema.copy_rows(unpacked, fresh))
    _sound(fresh)
    unpacked.unlink()
    now = dt.datetime.now(dt.UTC)
    ended, wrong = database.prepare(fresh, head.made_at, database.live_path())
    if wrong:
        raise FieldError("file", "", f"rows this program has written: {wrong[:300]}")
    return Checked(head=head, database=fresh, migrated=behind, ended=ended, prepared_at=now)


def _nothing_but_data(wrong: list[str]) -> None:
    """Refuse a database that holds other objects, or other values, than this program's."""
    if wrong:
        raise FieldError("file", "", f"a database as this program makes it: {wrong[0][:200]}")


def _sound(path: Path) -> None:
    wrong = database.look_through(path)
    if wrong:
        raise FieldError("file", "", f"a sound database: {wrong[0][:200]}")


def keep_aside() -> Path | None:
    """What is there now, kept under a name of its own: as a backup where it is sound, else as the file it is."""
    live = database.live_path()
    if not live.exists() or live.stat().st_size == 0:
        return None
    with named("before-restore", dt.datetime.now(dt.UTC)) as aside:
        if not database.look_through(live):
            back_up(aside, own_passphrase())
            return aside
        aside = aside.with_suffix(".damaged")
        for end in ("", "-wal", "-shm"):
            beside = live.with_name(live.name + end)
            if beside.exists():
                shutil.copyfile(beside, aside.with_name(aside.name + end))
                aside.with_name(aside.name + end).chmod(0o600)
        return aside


def put_back(checked: Checked) -> Path | None:
    """Put it in the place of what is there; gives where that is kept now.

    SolveError where access was ended since it was looked through: what was ended must not come back.
    """
    if any(ended_since(checked.prepared_at)):
        raise SolveError("Somebody's access was ended in the meantime: look through the backup again.")
    aside = keep_aside()
    live = database.live_path()
    if aside is not None and aside.suffix == ".damaged":
        # A damaged file takes nothing in: another one takes its name.
        _replace_file(checked.database, live)
    else:
        database.replace_live(checked.database)
    return aside


def _replace_file(source: Path, live: Path) -> None:
    fresh = live.with_name(live.name + ".new")
    database.copy(source, fresh)
    for end in ("-wal", "-shm"):
        live.with_name(live.name + end).unlink(missing_ok=True)
    fresh.replace(live)


def migrate_live() -> str:
    """Bring the live database to this version by way of a copy: one that fails leaves the old one. What went wrong."""
    live = database.live_path()
    if not live.exists() or not database.migrations_of(live):
        return database.migrate(live)
    if not database.is_behind(live):
        return ""
    with named("before-migration", dt.datetime.now(dt.UTC)) as target:
        back_up(target, own_passphrase())
    with workroom() as room:
        copied = room / "migrated.sqlite3"
        database.copy(live, copied)
        wrong = database.migrate(copied) or "; ".join(database.look_through(copied))
        if not wrong:
            database.replace_live(copied)
    return wrong
