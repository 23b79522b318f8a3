"""The objects of a sound database: tables, columns, keys, checks and indexes, and nothing that acts by itself.

`schema.sql` is what a freshly migrated database of this version says of itself (`make schema`; a test holds it to
that). A backup is compared with it object by object, and its rows are copied into a new database made of it: whatever
else its file held stays behind.
"""

from __future__ import annotations

import contextlib
import functools
import re
import sqlite3
import sys
from collections.abc import Iterator
from pathlib import Path

PLACE = Path(__file__).with_name("schema.sql")
# Tables SQLite keeps for itself.
OWN = "sqlite_"
# What a column's declared type may hold, by SQLite's own words for it.
HOLDS = {"integer": ("integer",), "real": ("real", "integer"), "text": ("text",), "blob": ("blob",)}
MOMENTS = {"date": "date", "datetime": "datetime", "time": "time"}


def statements_of(database: sqlite3.Connection) -> list[str]:
    """The statements that make a database's objects, tables first."""
    rows = database.execute(
        "SELECT sql FROM sqlite_master WHERE sql IS NOT NULL AND name NOT LIKE 'sqlite\\_%' ESCAPE '\\' "
        "ORDER BY type != 'table', name"
    )
    return [str(sql) for (sql,) in rows]


@functools.cache
def statements() -> tuple[str, ...]:
    """The statements of this version's database."""
    return tuple(part.strip() for part in PLACE.read_text("utf-8").split(";\n") if part.strip())


@functools.cache
def expected() -> dict[str, object]:
    """The objects of this version's database, as `objects_of` describes them."""
    with contextlib.closing(sqlite3.connect(":memory:")) as database:
        make(database)
        return objects_of(database)


def make(database: sqlite3.Connection) -> None:
    """Make every object of this version's database, empty; as one, for each by itself waits for the disk."""
    database.execute("BEGIN")
    for statement in statements():
        database.execute(statement)
    database.execute("COMMIT")


def objects_of(database: sqlite3.Connection) -> dict[str, object]:
    """Every object by its kind and name, described so that the order of columns or a way of writing makes no other."""
    found: dict[str, object] = {}
    for kind, name, table, sql in database.execute("SELECT type, name, tbl_name, sql FROM sqlite_master"):
        if name.startswith(OWN):
            continue
        if kind == "table":
            found[f"table {name}"] = _table(database, name, sql)
        elif kind == "index":
            found[f"index {name}"] = _index(database, name, table, sql)
        else:
            found[f"{kind} {name}"] = sql
    return found


def _table(database: sqlite3.Connection, name: str, sql: str) -> object:
    columns = {row[1]: row[2:] for row in database.execute(f'PRAGMA table_xinfo("{name}")')}
    keys = sorted(row[2:8] for row in database.execute(f'PRAGMA foreign_key_list("{name}")'))
    unique = sorted(
        tuple(row[2] for row in database.execute(f'PRAGMA index_info("{index}")'))
        for _, index, is_unique, origin, _ in database.execute(f'PRAGMA index_list("{name}")')
        if is_unique and origin != "c"
    )
    kind = "virtual" if _plain(sql).startswith("createvirtual") else "plain"
    return kind, columns, keys, unique, sorted(_checks(sql)), "autoincrement" in sql.lower(), "strict" in _after(sql)


def _index(database: sqlite3.Connection, name: str, table: str, sql: str | None) -> object:
    columns = [row[2:] for row in database.execute(f'PRAGMA index_xinfo("{name}")') if row[5]]
    _, _, condition = _plain(sql or "").partition("where")
    return table, columns, "unique" in (sql or "").lower(), condition


def _plain(sql: str) -> str:
    """A statement without what may be written one way or another."""
    return re.sub(r'[\s"`\[\]]+', "", sql).lower()


def _after(sql: str) -> str:
    return sql.rpartition(")")[2].lower()


def _checks(sql: str) -> Iterator[str]:
    """The conditions of a table's CHECK clauses."""
    for match in re.finditer(r"\bCHECK\s*\(", sql, re.IGNORECASE):
        depth, at = 1, match.end()
        while depth and at < len(sql):
            depth += {"(": 1, ")": -1}.get(sql[at], 0)
            at += 1
        yield _plain(sql[match.end() : at - 1])


def acting(database: sqlite3.Connection) -> list[str]:
    """What in a database acts or shows by itself: triggers, views, virtual tables. A sound one has none."""
    rows = database.execute("SELECT type, name, sql FROM sqlite_master ORDER BY type, name")
    return [
        f"{kind} {name}"
        for kind, name, sql in rows
        if kind not in ("table", "index") or _plain(sql or "").startswith("createvirtual")
    ]


def differing(database: sqlite3.Connection) -> list[str]:
    """In what a database's objects are not those of this version, in words."""
    found, wanted = objects_of(database), expected()
    missing = [f"{name} is missing" for name in wanted if name not in found]
    extra = [f"{name} is not one of ours" for name in found if name not in wanted]
    other = [f"{name} is another one than ours" for name in wanted if name in found and found[name] != wanted[name]]
    return sorted(missing + extra + other)


@functools.cache
def tables() -> dict[str, dict[str, str]]:
    """Of each table its columns, each with its declared type."""
    with contextlib.closing(sqlite3.connect(":memory:")) as database:
        make(database)
        names = [name[6:] for name in objects_of(database) if name.startswith("table ")]
        return {
            name: {row[1]: row[2].lower() for row in database.execute(f'PRAGMA table_xinfo("{name}")')}
            for name in names
        }


def copy_rows(source: Path, target: Path) -> list[str]:
    """Copy every row into a new database of this version; what is wrong with one, in words, else nothing.

    Foreign keys and checks are held there, and each value is of its column's kind: a database that was written by other
    hands may hold text where a number belongs.
    """
    with contextlib.closing(sqlite3.connect(target, isolation_level=None)) as database:
        database.execute("PRAGMA journal_mode=DELETE")
        make(database)
        database.execute("ATTACH DATABASE ? AS given", (str(source),))
        database.execute("BEGIN")
        try:
            for name, columns in tables().items():
                listed = ", ".join(f'"{column}"' for column in columns)
                database.execute(f'INSERT INTO main."{name}" ({listed}) SELECT {listed} FROM given."{name}"')
            database.execute("DELETE FROM main.sqlite_sequence")
            database.execute("INSERT INTO main.sqlite_sequence (name, seq) SELECT name, seq FROM given.sqlite_sequence")
        except sqlite3.DatabaseError as error:
            database.execute("ROLLBACK")
            return [str(error)]
        database.execute("COMMIT")
        database.execute("DETACH DATABASE given")
        return _wrong(database)


def _wrong(database: sqlite3.Connection) -> list[str]:
    found = []
    for name, columns in tables().items():
        for column, declared in columns.items():
            kind = _kind(declared)
            allowed = ", ".join(f"'{held}'" for held in (*HOLDS[kind], "null"))
            condition = f'typeof("{column}") NOT IN ({allowed})'
            if declared in MOMENTS:
                condition += f' OR ("{column}" IS NOT NULL AND {MOMENTS[declared]}("{column}") IS NULL)'
            row = database.execute(f'SELECT rowid FROM "{name}" WHERE {condition} LIMIT 1').fetchone()
            if row is not None:
                found.append(f"row {row[0]} of {name}: {column} is no {declared}")
    return found


def _kind(declared: str) -> str:
    if "int" in declared or declared == "bool":
        return "integer"
    if declared in ("real", "float", "double"):
        return "real"
    if declared == "blob":
        return "blob"
    return "text"


def main() -> int:
    """Write down what a freshly migrated database says of itself."""
    with contextlib.closing(sqlite3.connect(sys.argv[1])) as database:
        PLACE.write_text("".join(f"{statement};\n" for statement in statements_of(database)), "utf-8")
    return 0


if __name__ == "__main__":
    sys.exit(main())
