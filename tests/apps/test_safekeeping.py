"""Safekeeping on a real folder: backup, restore, doctor and migrating as whoever runs the server does them."""

from __future__ import annotations

import contextlib
import datetime as dt
import fcntl
import functools
import gzip
import os
import resource
import shutil
import sqlite3
import subprocess
import sys
import threading
from collections.abc import Iterator
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.template import copy_to
from thermaxis.apps.accounts.errors import UnderWay
from thermaxis.apps.accounts.gate import Gate
from thermaxis.apps.safekeeping import keeping
from thermaxis.core.errors import SolveError, Stopped
from thermaxis.formats.backup_file import read_backup

ROOT = Path(__file__).parents[2]
KEPT = ROOT / "tests" / "data" / "database-0.2.0.sql.gz"
NOON = dt.datetime(2026, 11, 30, 12, tzinfo=dt.UTC)


def hold_files(most_bytes: int | None) -> None:
    if most_bytes is not None:
        resource.setrlimit(resource.RLIMIT_FSIZE, (most_bytes, most_bytes))


def run(
    folder: Path, *arguments: str, module: str = "thermaxis.config.commands", most_bytes: int | None = None
) -> subprocess.CompletedProcess[str]:
    """A command of its own process; `most_bytes`: no file it writes may grow beyond, as on a disk that is full."""
    environment = {**os.environ, "THERMAXIS_VAR": str(folder), "DJANGO_SETTINGS_MODULE": "thermaxis.config.settings"}
    return subprocess.run(
        [sys.executable, "-m", module, *arguments],
        cwd=ROOT,
        env=environment,
        capture_output=True,
        text=True,
        preexec_fn=functools.partial(hold_files, most_bytes),
    )


@pytest.fixture(scope="module")
def filled(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A server's folder with the demo workshop in it, and a backup of it beside."""
    folder = tmp_path_factory.mktemp("filled")
    copy_to(folder)
    done = run(folder, "backup", str(folder / "a.backup"))
    assert done.returncode == 0, done.stderr
    return folder


@pytest.fixture
def folder(filled: Path, tmp_path: Path) -> Path:
    """A copy of it that a test may spoil."""
    return Path(shutil.copytree(filled, tmp_path / "var"))


def rows(database: Path) -> dict[str, list[tuple[object, ...]]]:
    """Every row of every table."""
    with contextlib.closing(sqlite3.connect(database)) as found:
        names = [name for (name,) in found.execute("SELECT name FROM sqlite_master WHERE type = 'table'")]
        return {name: found.execute(f'SELECT * FROM "{name}" ORDER BY 1').fetchall() for name in sorted(names)}


def live(folder: Path) -> Path:
    return folder / "thermaxis.sqlite3"


@contextlib.contextmanager
def opened(database: Path) -> Iterator[sqlite3.Connection]:
    with contextlib.closing(sqlite3.connect(database)) as found, found:
        yield found


def test_a_backup_put_back_is_every_row_as_it_was_and_what_was_there_is_aside(folder: Path) -> None:
    before = rows(live(folder))
    with opened(live(folder)) as database:
        database.execute("UPDATE garage_machine SET name = 'Spoilt'")
        database.execute("DELETE FROM log_logphoto")
    spoilt = rows(live(folder))
    done = run(folder, "restore", str(folder / "a.backup"))
    assert done.returncode == 0, done.stderr
    assert rows(live(folder)) == before
    (aside,) = (folder / "backups").glob("before-restore-*.backup")
    assert aside.name in done.stdout
    read_backup(aside, folder / "aside.sqlite3")
    assert rows(folder / "aside.sqlite3") == spoilt


def test_a_locked_backup_asks_for_its_passphrase(folder: Path) -> None:
    words, locked = folder / "words", folder / "locked.backup"
    words.write_text("horse battery staple 9\n")
    assert run(folder, "backup", str(locked), "--passphrase-file", str(words)).returncode == 0
    assert b"Corrie" not in locked.read_bytes()
    done = run(folder, "restore", str(locked))
    assert done.returncode == 2
    assert "passphrase" in done.stderr
    assert run(folder, "restore", str(locked), "--passphrase-file", str(words)).returncode == 0


def damaged(folder: Path) -> None:
    whole = (folder / "a.backup").read_bytes()
    (folder / "a.backup").write_bytes(whole[:-100])


def newer(folder: Path) -> None:
    with opened(live(folder)) as database:
        database.execute(
            "INSERT INTO django_migrations (app, name, applied) VALUES ('accounts', '9999_later', '2030-01-01')"
        )
    assert run(folder, "backup", str(folder / "a.backup")).returncode == 0
    with opened(live(folder)) as database:
        database.execute("DELETE FROM django_migrations WHERE name = '9999_later'")


def loose(folder: Path) -> None:
    """Whole as a file, and a row in it hangs on nothing."""
    with opened(live(folder)) as database:
        database.execute("UPDATE garage_machine SET owner_id = 999999")
    assert run(folder, "backup", str(folder / "a.backup")).returncode == 0
    with opened(live(folder)) as database:
        database.execute("UPDATE garage_machine SET owner_id = (SELECT min(id) FROM garage_owner)")


def other(folder: Path) -> None:
    """A sound database, and none of this program's."""
    (folder / "elsewhere").mkdir()
    with opened(live(folder / "elsewhere")) as database:
        database.execute("CREATE TABLE a (b)")
    assert run(folder / "elsewhere", "backup", str(folder / "a.backup")).returncode == 0


@pytest.mark.parametrize("spoil", [damaged, newer, loose, other])
def test_what_cannot_be_put_back_touches_nothing(folder: Path, spoil: object) -> None:
    assert callable(spoil)
    spoil(folder)
    before, files = rows(live(folder)), live(folder).read_bytes()
    done = run(folder, "restore", str(folder / "a.backup"))
    assert done.returncode == 2
    assert done.stderr.strip()
    assert "Traceback" not in done.stderr
    assert rows(live(folder)) == before
    assert live(folder).read_bytes() == files
    assert not list((folder / "backups").glob("*")) if (folder / "backups").exists() else True
    assert not list((folder / "tmp").glob("*"))


def test_a_restore_beside_a_running_server_is_refused(folder: Path) -> None:
    with (folder / "lock").open("a") as held:
        fcntl.flock(held, fcntl.LOCK_EX)
        done = run(folder, "restore", str(folder / "a.backup"))
        assert done.returncode == 2
        assert "The server runs" in done.stderr
        # And so is a second server, while a backup may be made at any time.
        second = run(folder, module="thermaxis.config.server")
        assert second.returncode == 1
        assert "Another server works on" in second.stderr
        assert run(folder, "backup", str(folder / "b.backup")).returncode == 0


def test_a_backup_of_before_is_brought_to_this_version(folder: Path) -> None:
    """The kept database: without people's addresses, keys and sessions."""
    older = folder.parent / "older"
    older.mkdir()
    with opened(live(older)) as database:
        database.executescript(gzip.decompress(KEPT.read_bytes()).decode("utf-8"))
        # They were made without the page that shows them.
        database.execute("DELETE FROM choose_decision")
    # It says itself which version it is of: the one that makes the backup is newer.
    assert run(older, "backup", str(folder / "older.backup")).returncode == 0
    with opened(live(folder)) as database:
        database.execute("UPDATE accounts_workshop SET second_factor = 1, name = 'Of today'")
    done = run(folder, "restore", str(folder / "older.backup"))
    assert done.returncode == 0, done.stderr
    with opened(live(folder)) as database:
        assert database.execute("SELECT name, second_factor FROM accounts_workshop").fetchall() == [
            ("Tarnside Brake & Chassis", 0)
        ]
        assert database.execute("SELECT count(*) FROM accounts_apikey").fetchone() == (0,)


def test_a_migration_that_fails_leaves_the_old_database_and_a_backup(folder: Path) -> None:
    with opened(live(folder)) as database:
        # As if an application's tables were still to come, where they are already.
        database.execute("DELETE FROM django_migrations WHERE app = 'season'")
    before = rows(live(folder))
    done = run(folder, "migrate")
    assert done.returncode == 1
    assert "The database is as it was" in done.stderr
    assert rows(live(folder)) == before
    assert len(list((folder / "backups").glob("before-migration-*.backup"))) == 1


def test_doctor_finds_what_is_wrong_and_says_what_to_do(folder: Path) -> None:
    found = run(folder, "doctor")
    assert found.returncode == 0, found.stdout
    assert "There is no backup yet" in found.stdout
    with opened(live(folder)) as database:
        database.execute("UPDATE garage_machine SET owner_id = 999999 WHERE id = 1")
        database.execute("UPDATE log_logentry SET made_at = '2040-01-01 00:00:00' WHERE id = 1")
    (folder / "backups").mkdir(exist_ok=True)
    shutil.copy(folder / "a.backup", folder / "backups" / "thermaxis-20260101-000000.backup")
    found = run(folder, "doctor")
    assert found.returncode == 1
    for words in ("hang on nothing", "ahead of the clock", "Set the server's clock", "make one now"):
        assert words in found.stdout, found.stdout
    # Pages of the file itself overwritten.
    content = bytearray(live(folder).read_bytes())
    content[4096 * 20 : 4096 * 60] = b"\xa5" * (4096 * 40)
    live(folder).write_bytes(bytes(content))
    found = run(folder, "doctor")
    assert found.returncode in (1, 2)
    assert "damaged" in found.stdout + found.stderr or "malformed" in found.stdout + found.stderr
    assert "Traceback" not in found.stderr
    # What is damaged is kept aside as it is, and the backup takes its place.
    done = run(folder, "restore", str(folder / "a.backup"))
    assert done.returncode == 0, done.stderr
    assert len(list((folder / "backups").glob("before-restore-*.damaged"))) == 1
    assert run(folder, "doctor").returncode == 1
    assert "Every page of the database" in run(folder, "doctor").stdout


def test_a_disk_that_cannot_be_written_is_told_and_leaves_nothing_half(folder: Path) -> None:
    target = folder / "no such folder" / "a.backup"
    done = run(folder, "backup", str(target))
    assert done.returncode == 2
    assert "Traceback" not in done.stderr
    before = (folder / "thermaxis.sqlite3").read_bytes()
    room = len(before) // 2
    done = run(folder, "backup", str(folder / "full.backup"), most_bytes=room)
    assert done.returncode == 2
    assert "Traceback" not in done.stderr
    assert not (folder / "full.backup").exists()
    assert list(folder.glob("*.part")) == []
    assert (folder / "thermaxis.sqlite3").read_bytes() == before


@given(st.lists(st.datetimes(dt.datetime(2025, 1, 1), dt.datetime(2027, 1, 1)), max_size=200))
def test_what_is_kept_of_backups(moments: list[dt.datetime]) -> None:
    made = {moment.replace(tzinfo=dt.UTC) for moment in moments}
    kept = keeping.to_keep(made)
    assert kept <= made
    assert len(kept) <= keeping.DAYS + keeping.WEEKS + keeping.MONTHS
    if made:
        # The latest one always, of each of the last seven days with one, and for every month of the last twelve.
        assert max(made) in kept
        days = sorted({moment.date() for moment in made})[-keeping.DAYS :]
        assert {moment.date() for moment in kept} >= set(days)
        months = sorted({(moment.year, moment.month) for moment in made})[-keeping.MONTHS :]
        assert {(moment.year, moment.month) for moment in kept} >= set(months)
    # Kept once more, they are the same.
    assert keeping.to_keep(kept) == kept


def test_a_year_of_nights_keeps_seven_days_four_weeks_twelve_months(tmp_path: Path) -> None:
    (tmp_path / "somebody-s-own.backup").touch()
    for night in range(400):
        now = NOON + dt.timedelta(days=night)
        rows_there = keeping.listed(tmp_path)
        assert keeping.is_due(rows_there[0][0] if rows_there else None, now)
        (tmp_path / keeping.name_of(now)).touch()
        keeping.tidy(tmp_path)
        assert not keeping.is_due(now, now + dt.timedelta(hours=3))
    kept = [moment for moment, _ in keeping.listed(tmp_path)]
    assert len([moment for moment in kept if (now - moment).days < 7]) == 7
    assert len({(moment.year, moment.month) for moment in kept}) == 12
    assert 7 + 3 + 11 - 2 <= len(kept) <= 7 + 4 + 12
    assert (tmp_path / "somebody-s-own.backup").exists()
    # A clock put back an hour makes no second one, one put back a year holds nothing off.
    assert not keeping.is_due(now, now - dt.timedelta(hours=1))
    assert keeping.is_due(now, now - dt.timedelta(days=365))


def test_the_gate_waits_for_who_is_inside_and_lets_nobody_in() -> None:
    gate = Gate()
    order: list[str] = []
    assert gate.enter()
    assert gate.enter()
    closed = threading.Event()

    def close() -> None:
        with gate.closed():
            order.append("closed")
            closed.set()
            assert not gate.enter()

    closer = threading.Thread(target=close)
    closer.start()
    while gate.enter():
        gate.leave()
    order.append("one goes out")
    gate.leave()
    closer.join(30)
    assert closed.is_set()
    assert order == ["one goes out", "closed"]
    assert gate.enter()
    with gate.closed(mine=2), pytest.raises(SolveError), gate.closed():
        pass


def test_the_gate_names_who_stays_inside_and_can_do_without_them() -> None:
    gate = Gate(patience_s=0.05)
    inside, restored = threading.Barrier(2, timeout=60), threading.Event()
    refused: list[str] = []

    def stay() -> None:
        gate.enter("POST /api/machines/1/events/read")
        inside.wait()
        restored.wait(60)
        try:
            gate.check()
        except Stopped as error:
            refused.append(str(error))
        gate.leave()

    stuck = threading.Thread(target=stay)
    stuck.start()
    inside.wait()
    assert gate.enter("POST /api/safekeeping/restore")
    with pytest.raises(UnderWay, match=r"events/read, for \d+ s"), gate.closed():
        pass
    # It is open again, nobody was stopped, and whoever came in may write.
    assert gate.enter()
    gate.check()
    gate.leave()
    told: list[str] = []
    with gate.closed(stop=lambda: told.append("stop")):
        assert told == ["stop"]
    restored.set()
    stuck.join(60)
    assert refused == ["A backup was restored in the meantime: nothing of this was saved."]
