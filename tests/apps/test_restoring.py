"""A backup of a stranger, or of before: what acts by itself is refused, what was ended stays ended, each with its reason."""

from __future__ import annotations

import contextlib
import datetime as dt
import json
import shutil
import sqlite3
from collections.abc import Callable
from pathlib import Path

import pytest
from django.db import connection
from django.db.migrations.loader import MigrationLoader

from tests.apps.test_safekeeping import live, opened, rows, run
from tests.pictures import picture
from thermaxis.apps.safekeeping import schema
from thermaxis.core.errors import FieldError
from thermaxis.formats.backup_file import FORMAT, Head, read_head, write_backup

Spoil = Callable[[sqlite3.Connection], object]


@pytest.fixture(scope="module")
def empty(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A server's folder whose database is as it is made, with a workshop, two people, a machine's log and a picture."""
    folder = tmp_path_factory.mktemp("empty")
    with opened(live(folder)) as database:
        schema.make(database)
        _fill(database)
    return folder


def _fill(database: sqlite3.Connection) -> None:
    done = MigrationLoader(None, ignore_no_migrations=True).disk_migrations
    database.executemany("INSERT INTO django_migrations (app, name, applied) VALUES (?, ?, '2026-12-01')", list(done))
    database.execute(
        "INSERT INTO accounts_workshop (id, name, currency, stamp, second_factor) VALUES (1, 'W', '£', '', 0)"
    )
    for number, name in enumerate(("ada", "ben"), 1):
        database.execute(
            "INSERT INTO auth_user (id, password, is_superuser, username, first_name, last_name, email, is_staff, "
            "is_active, date_joined) VALUES (?, 'x', 0, ?, '', '', '', 0, 1, '2026-11-01')",
            (number, name),
        )
        database.execute(
            "INSERT INTO accounts_membership (user_id, workshop_id, role, read_news_of) VALUES (?, 1, ?, '')",
            (number, "owner" if number == 1 else "reader"),
        )
    database.execute(
        "INSERT INTO accounts_apikey (user_id, workshop_id, name, reach, print, made_at) "
        "VALUES (1, 1, 'logger', 'all', 'p', '2026-11-01')"
    )
    database.execute(
        "INSERT INTO log_logentry (id, workshop_id, act, user_name, made_at, 'on', kind, summary, text, things, changes, "
        "from_file) VALUES (1, 1, 'write_note', 'ada', '2026-11-02', '2026-11-02', 'note', '', 'A', '[]', '{}', 0)"
    )
    database.execute(
        "INSERT INTO log_logphoto (id, entry_id, token, content, taken_at) VALUES (1, 1, 'token', ?, '2026-11-02')",
        (picture("JPEG", comment=b"<script>"),),
    )


@pytest.fixture
def folder(empty: Path, tmp_path: Path) -> Path:
    return Path(shutil.copytree(empty, tmp_path / "var"))


def backup_of(folder: Path, spoil: Spoil, **head: object) -> Path:
    """A backup as a stranger would make it: the file's format holds whatever database it is given."""
    given = folder.parent / "given.sqlite3"
    with contextlib.closing(sqlite3.connect(live(folder))) as one, contextlib.closing(sqlite3.connect(given)) as other:
        one.backup(other)
        spoil(other)
        other.commit()
    migrations = {"accounts": "0001_initial"}
    made_at = dt.datetime(2026, 11, 10, tzinfo=dt.UTC).isoformat()
    values = {"version": "0.2.0", "made_at": made_at, "size": given.stat().st_size, "migrations": migrations, **head}
    target = folder.parent / "a.backup"
    write_backup(given, target, Head(**values))  # type: ignore[arg-type]
    return target


def sql(*statements: str) -> Spoil:
    return lambda database: [database.execute(statement) for statement in statements]


SPOILT: dict[str, tuple[Spoil, str]] = {
    "a trigger that makes a reader an owner": (
        sql(
            "CREATE TRIGGER rights AFTER UPDATE ON accounts_workshop BEGIN "
            "UPDATE accounts_membership SET role = 'owner'; END"
        ),
        "trigger rights",
    ),
    "a view": (sql("CREATE VIEW seen AS SELECT password FROM auth_user"), "view seen"),
    "a virtual table": (sql("CREATE VIRTUAL TABLE words USING fts5(word)"), "table words"),
    "an extra table": (sql("CREATE TABLE more (a)"), "table more is not one of ours"),
    "a missing table": (sql("DROP TABLE axes_accesslog"), "axes_accesslog"),
    "a missing column": (
        sql("ALTER TABLE accounts_apikey DROP COLUMN used_at"),
        "table accounts_apikey is another one",
    ),
    "an extra column": (sql("ALTER TABLE garage_owner ADD COLUMN more"), "table garage_owner is another one"),
    "a missing index": (sql("DROP INDEX log_by_day"), "index log_by_day is missing"),
    "an index more": (sql("CREATE INDEX more ON garage_owner (name)"), "index more is not one of ours"),
    "a migration nobody knows": (
        sql("INSERT INTO django_migrations (app, name, applied) VALUES ('accounts', '9999_x', '2026-01-01')"),
        "update first",
    ),
    "text where a number belongs": (
        sql("UPDATE accounts_workshop SET second_factor = 'yes'"),
        "second_factor is no bool",
    ),
    "a moment that is none": (sql("UPDATE log_logentry SET made_at = 'soon'"), "made_at is no datetime"),
    "JSON of another shape": (sql("""UPDATE log_logentry SET things = '{"a": 1}'"""), "log.LogEntry 1"),
    "JSON that is none": (
        sql("PRAGMA ignore_check_constraints = ON", "UPDATE log_logentry SET changes = 'x{'"),
        "CHECK",
    ),
    "a member of no workshop": (
        sql("UPDATE accounts_membership SET workshop_id = 77 WHERE id = 2"),
        "hangs on one of accounts_workshop",
    ),
}


@pytest.mark.parametrize("name", SPOILT)
def test_a_database_that_is_not_as_ours_is_refused(folder: Path, name: str) -> None:
    """All of these were "sound"; a trigger made an invited reader an owner."""
    spoil, words = SPOILT[name]
    before = rows(live(folder))
    done = run(folder, "restore", str(backup_of(folder, spoil)))
    assert done.returncode == 2, done.stdout
    assert words in done.stderr
    assert "Traceback" not in done.stderr
    assert rows(live(folder)) == before


@pytest.mark.parametrize(
    "head",
    [
        {"size": 10**400},
        {"size": 10**13},
        {"size": -1},
        {"size": True},
        {"migrations": {"a": "b" * 400}},
        {"migrations": {str(number): "x" for number in range(600)}},
        {"made_at": "yesterday"},
        {"version": "x" * 400},
    ],
    ids=range(8),
)
def test_a_head_out_of_bounds_is_refused(tmp_path: Path, head: dict[str, object]) -> None:
    """`size: 10**400` was a fault of ours."""
    made_at = "2026-11-10T12:00:00+00:00"
    known = {"version": "0.2.0", "made_at": made_at, "size": 10, "migrations": {}, "salt": ""}
    file = tmp_path / "a.backup"
    file.write_bytes(FORMAT + json.dumps(known).encode() + b"\n")
    assert read_head(file).size == 10
    file.write_bytes(FORMAT + json.dumps({**known, **head}).encode() + b"\n")
    with pytest.raises(FieldError, match="whole backup"):
        read_head(file)


def test_what_was_ended_since_stays_ended(folder: Path) -> None:
    """Removed members, withdrawn keys and ended sessions worked again."""
    file = backup_of(
        folder,
        sql(
            "INSERT INTO django_session VALUES ('a', 'b', '2030-01-01')",
            "INSERT INTO accounts_onetimeaddress (kind, print, role, note, machines_of, made_at, ends_at, workshop_id) "
            "VALUES ('join', 'x', 'owner', '', '', '2026-11-01', '2030-01-01', 1)",
        ),
    )
    note(folder, "note_ended('role', name='ben', workshop=1, role='driver')")
    assert (folder / "ended.jsonl").stat().st_mode & 0o077 == 0
    assert "ben" not in (folder / "ended.jsonl").read_text()
    done = run(folder, "restore", str(file))
    assert done.returncode == 0, done.stderr
    assert "Everybody signs in again" in done.stdout
    assert members(folder) == [(1, "owner"), (2, "driver")]
    with opened(live(folder)) as database:
        assert database.execute("SELECT count(*) FROM accounts_apikey WHERE withdrawn_at IS NULL").fetchone() == (0,)
        for table in ("django_session", "accounts_onetimeaddress"):
            assert database.execute(f"SELECT count(*) FROM {table}").fetchone() == (0,)
    # The owner of today is not in a backup that old: the workshop keeps the one it had.
    note(folder, "note_ended('member', name='ben', workshop=1)")
    note(folder, "note_ended('member', name='ada', workshop=1)")
    assert run(folder, "restore", str(file)).returncode == 0
    assert members(folder) == [(1, "owner")]
    # And who has joined again since is in again.
    note(folder, "note_ended('joined', name='ben', workshop=1)")
    assert run(folder, "restore", str(file)).returncode == 0
    assert [number for number, _ in members(folder)] == [1, 2]


def note(folder: Path, what: str) -> None:
    """Written down by the server of this folder, as an action does it."""
    program = (
        "from django.db import transaction\n"
        "from thermaxis.apps.accounts.ended import note_ended\n"
        f"with transaction.atomic():\n    {what}\n"
    )
    done = run(folder, "shell", "-c", program, module="django")
    assert done.returncode == 0, done.stderr


def members(folder: Path) -> list[tuple[int, str]]:
    with opened(live(folder)) as database:
        return list(database.execute("SELECT user_id, role FROM accounts_membership ORDER BY user_id"))


def test_a_picture_that_was_not_drawn_here_is_drawn_again(folder: Path) -> None:
    insert = "INSERT INTO log_logphoto (id, entry_id, token, content, taken_at) VALUES (2, 1, 'two', ?, '2026-11-02')"
    file = backup_of(folder, lambda database: database.execute(insert, (b"<script>alert(1)</script>",)))
    with opened(live(folder)) as database:
        database.execute("DELETE FROM log_logphoto")
    done = run(folder, "restore", str(file))
    assert done.returncode == 0, done.stderr
    with opened(live(folder)) as database:
        ((number, content),) = database.execute("SELECT id, content FROM log_logphoto").fetchall()
    assert number == 1
    assert content.startswith(b"\xff\xd8")
    assert b"<script>" not in content


def test_the_nights_backups_are_locked_where_a_passphrase_is_set(folder: Path) -> None:
    (folder / "backup-passphrase").write_text("horse battery staple 9")
    file = backup_of(folder, sql())
    assert run(folder, "restore", str(file)).returncode == 0
    assert run(folder, "restore", str(file)).returncode == 0
    # Two within a second keep two; each is locked, and nobody else's to read.
    asides = sorted((folder / "backups").glob("before-restore-*.backup"))
    assert len(asides) == 2
    for aside in asides:
        assert read_head(aside).locked
        assert aside.stat().st_mode & 0o077 == 0


@pytest.mark.django_db
def test_the_schema_in_the_code_is_that_of_a_migrated_database() -> None:
    """`make schema` writes it; a migration without it would make every backup another database than ours."""
    connection.ensure_connection()
    assert schema.differing(connection.connection) == []
    assert not schema.acting(connection.connection)
    assert len(schema.tables()) > 60
