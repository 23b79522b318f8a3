"""What a second attack did: files with scripts, rights and odd values, rules without end, keys by lesser callers.

Each part says what was given away or done that must not be; faults and hangs are counted by `served.Seen` as always.
"""

from __future__ import annotations

import base64
import contextlib
import io
import json
import random
import sqlite3
import tempfile
import zipfile
from dataclasses import replace
from pathlib import Path
from typing import Any

from tests.attack import files
from tests.attack.served import Person
from thermaxis.formats.backup_file import read_backup, write_backup

WRONG: tuple[Any, ...] = (
    None, "text", "<script>alert(1)</script>", -1, 2**62, 1e308, True, [1], [[]], {"odd": [None]}, "../../etc", "\x00", ""
)  # fmt: skip
SCRIPT = b"<script>fetch('/api/me/keys',{method:'POST'})</script>"
PAGES = ("", "/parts", "/jobs", "/inspections", "/decisions", "/plans", "/life", "/log")
BACKUPS = (
    "CREATE TRIGGER rights AFTER UPDATE ON accounts_workshop BEGIN UPDATE accounts_membership SET role = 'owner'; END",
    "CREATE VIEW seen AS SELECT * FROM auth_user",
    "CREATE TABLE more (a)",
    "DROP INDEX log_by_day",
    "ALTER TABLE accounts_apikey DROP COLUMN used_at",
    "UPDATE garage_machine SET mass_kg = 'heavy'",
    "UPDATE log_logentry SET changes = '[1]'",
    "UPDATE log_logentry SET made_at = 'soon'",
    "UPDATE accounts_membership SET workshop_id = 99 WHERE id = 1",
)


def hand_over(ada: Person, machine: int, dice: random.Random, count: int) -> list[str]:
    """Hand-over files with a wrong value in one column, or a script as a picture, or somebody's name in every place."""
    status, content = ada.send("GET", f"/api/machines/{machine}/export", label="export")
    assert status == 200
    document, found = json.loads(content), []
    places = [(label, name) for label, rows in document["tables"].items() for name in rows[0]]
    for number in range(count):
        spoilt = json.loads(content)
        label, name = dice.choice(places)
        row = dice.choice(spoilt["tables"][label])
        row[name] = dice.choice(WRONG) if number % 3 else {"a": [row[name]]}
        for rows in spoilt["tables"].values():
            for one in rows:
                one.update({key: "eve" for key in ("user", "user_name", "by", "started_by") if key in one})
                if "token" in one and "media_type" not in one and label == "choose.Decision":
                    one["token"] = "chosen-by-the-file"
                if "content" in one and isinstance(one["content"], str) and number % 2:
                    one.update(content=base64.b64encode(SCRIPT).decode(), media_type="text/html")
        packed = json.dumps(spoilt).encode()
        status, said = ada.upload("/api/workshop/machine-files", {}, packed, "a.json", f"file with {label}.{name}")
        if status == 201:
            found += _looked_at(ada, json.loads(said)["id"])
    return found


def _looked_at(ada: Person, machine: int) -> list[str]:
    """A machine that came in: every page answers, its entries are from a file; then it is taken out again."""
    found = []
    for page in PAGES:
        ada.send("GET", f"/api/machines/{machine}{page}", label=f"page {page} of a file")
    _, log = ada.json("GET", f"/api/log?machine_id={machine}", label="log of a file")
    for entry in (log or {}).get("entries", []):
        if entry["user_name"] == "eve":
            found.append("an entry in eve's name came out of a file")
    if ada.send("GET", "/api/shared/chosen-by-the-file", label="an address of a file")[0] == 200:
        found.append("a file chose the address of a decision")
    ada.json("PUT", f"/api/machines/{machine}/removed", {"removed": True}, "out again")
    return found


def bombs(ada: Person, reader: Person) -> list[str]:
    """Sixty kilobytes that would be gigabytes: by somebody who may not, and by somebody who may."""
    found = []
    for text in (b"[" + b"{}," * 21_000_000 + b"{}]", b"[" * 40_000_000, b'{"a":[' + b"[]," * 20_000_000 + b"1]}"):
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
            archive.writestr("workshop.json", text)
        for person, wanted in ((reader, 403), (ada, 422)):
            status = person.form("/api/workshop/machine-files", {}, out.getvalue(), "a.zip", "bomb")
            if status not in (wanted, 429):
                found.append(f"a bomb was answered {status} for {person.name}")
    return found


def rules(ada: Person, machine: int, dice: random.Random, count: int) -> None:
    """Calendars whose rules never end, name no day, or name too many; in events and in time zones."""
    for _ in range(count):
        parts = [f"FREQ={dice.choice(('DAILY', 'WEEKLY', 'MONTHLY', 'YEARLY', 'SECONDLY', 'X'))}"]
        for name, values in (
            ("INTERVAL", (0, -1, 1, 2, 400, 10**9)),
            ("COUNT", (0, 1, 99999, 10**12)),
            ("UNTIL", ("20990101", "00010101T000000Z", "x")),
            ("BYMONTH", (2, "2,4", 13, 0)),
            ("BYMONTHDAY", (30, 31, -31, "1,2,3", 0)),
            ("BYDAY", ("MO", "5FR", "-53SU", "XX")),
            ("BYSETPOS", (1, -400, 366)),
            ("BYYEARDAY", (366, -366)),
            ("BYWEEKNO", (53,)),
            ("BYSECOND", (",".join(map(str, range(60))),)),
            ("WKST", ("SU", "")),
        ):
            if dice.random() < 0.3:
                parts.append(f"{name}={dice.choice(values)}")
        rule, start = ";".join(parts), dice.choice(("20260107T100000", "19870101T000000", "00010101T000000"))
        clock = (
            f"BEGIN:VTIMEZONE\r\nTZID:Own\r\nBEGIN:STANDARD\r\nDTSTART:{start}\r\nTZOFFSETFROM:+0100\r\n"
            f"TZOFFSETTO:+0000\r\nRRULE:{rule}\r\nEND:STANDARD\r\nEND:VTIMEZONE\r\n"
        )
        one = f"BEGIN:VEVENT\r\nUID:{{}}\r\nDTSTART;TZID=Own:{start}\r\nRRULE:{rule}\r\nEND:VEVENT\r\n"
        many = "".join(one.format(number) for number in range(dice.choice((1, 40))))
        text = f"BEGIN:VCALENDAR\r\nVERSION:2.0\r\n{clock if dice.random() < 0.5 else ''}{many}END:VCALENDAR\r\n"
        form = {"zone": "Europe/London"}
        ada.form(f"/api/machines/{machine}/events/read", form, text.encode(), "a.ics", f"rule {rule[:60]}")


def replays(ada: Person, reader: Person) -> list[str]:
    """Keys of Ada's changes, sent again by those who may less."""
    found = []
    asks = (("/api/me/keys", {"name": "a key", "reach": "all"}), ("/api/addresses", {"role": "fitter"}))
    for number, (path, body) in enumerate(asks):
        head = {"Idempotency-Key": f"replayed-{number}-{id(ada)}"}
        content = json.dumps(body).encode()
        status, said = ada.send("POST", path, content, label=f"change {path}", head=head)
        secret = json.loads(said).get("secret", "") if status == 201 else ""
        without = ada.twin()
        without.cookies.pop("csrftoken", None)
        lesser = {"Authorization": f"Bearer {_reading_key(ada)}"}
        for who, more in ((ada, {}), (without, {}), (reader, {}), (ada, lesser)):
            again = who.send("POST", path, content, label=f"replayed {path}", head={**head, **more})
            if not secret or secret.encode() in again[1]:
                found.append(f"{path} gave its secret again")
        without.hang_up()
    return found


def _reading_key(ada: Person) -> str:
    return str(ada.json("POST", "/api/me/keys", {"name": "reads", "reach": "read"})[1]["secret"])


def backups(keeper: Person, dice: random.Random, count: int) -> list[str]:
    """Backups with objects and values that are not this program's, and damaged ones, brought in and looked through."""
    _, made = keeper.json("POST", "/api/safekeeping/backups", {})
    status, content = keeper.send("GET", f"/api/safekeeping/backups/{made['backups'][0]['name']}", label="backup")
    assert status == 200
    found = []
    with tempfile.TemporaryDirectory() as room:
        whole, database, spoilt = (Path(room) / name for name in ("a.backup", "a.sqlite3", "b.backup"))
        whole.write_bytes(content)
        for number in range(count):
            database.unlink(missing_ok=True)
            head = read_backup(whole, database)
            statement = BACKUPS[number % len(BACKUPS)]
            with contextlib.closing(sqlite3.connect(database)) as one, one:
                one.execute(statement)
            write_backup(database, spoilt, replace(head, size=database.stat().st_size))
            if _brought_in(keeper, spoilt.read_bytes(), dice, f"backup {statement[:40]}") == 200:
                found.append(f"a backup was sound after {statement[:60]}")
            _brought_in(keeper, files.mutated(content, dice), dice, "damaged backup")
    return found


def _brought_in(keeper: Person, content: bytes, dice: random.Random, label: str) -> int:
    token = f"{dice.getrandbits(80):020x}"
    keeper.form("/api/safekeeping/incoming", {"token": token, "offset": "0"}, content, "piece", label)
    return keeper.json("POST", "/api/safekeeping/look", {"token": token}, label)[0]


def intrude(server_port: int, ada: Person, machine: int, dice: random.Random, count: int) -> list[str]:
    """All of it, so many of each; what was given away."""
    reader, keeper = (Person(server_port, ada.seen, name) for name in ("rea", "kim"))
    found = replays(ada, reader)
    rules(ada, machine, dice, 4 * count)
    found += bombs(ada, reader)
    found += hand_over(ada, machine, dice, count)
    found += backups(keeper, dice, max(2, count // 4))
    reader.hang_up()
    keeper.hang_up()
    return found
