"""Kill the server in the middle of writes, again and again: `python -m tests.attack.kills 200`.

Cells, entries of the log, pictures, ticks, closings of a job and backups are written by several hands at once; at a
moment nobody chose the process is killed. What was answered must be there after the next start, what was not answered
is there whole or not at all, and the database is sound.
"""

from __future__ import annotations

import argparse
import contextlib
import json
import os
import random
import sqlite3
import sys
import tempfile
import threading
import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from tests.attack.served import PASSWORD, Person, Seen, fill, served
from tests.pictures import picture
from thermaxis.core.errors import FieldError
from thermaxis.formats.backup_file import read_backup

# Only who owns every workshop there is makes backups of the server.
ADA = f"""
from django.contrib.auth import get_user_model
from thermaxis.apps.accounts.models import Membership, Workshop
ada = get_user_model().objects.create_user("ada", password="{PASSWORD}")
Membership.objects.create(user=ada, workshop=Workshop.objects.get())
"""
CELLS = ("front_left.pad_inner_1", "front_left.pad_outer_1", "front_right.pad_inner_1")
LONGEST_S = 6.0


@dataclass
class Ledger:
    """What was answered, by what it says must be there; and what was on its way when the end came."""

    entries: list[str] = field(default_factory=list)
    pictures: list[str] = field(default_factory=list)
    cells: dict[str, float] = field(default_factory=dict)
    cells_sent: dict[str, float] = field(default_factory=dict)
    ticks: dict[str, bool] = field(default_factory=dict)
    ticks_sent: dict[str, bool] = field(default_factory=dict)
    closed: bool = False
    closed_sent: bool = False
    backups: list[str] = field(default_factory=list)
    answered: int = 0
    wrong: list[str] = field(default_factory=list)
    lock: threading.Lock = field(default_factory=threading.Lock)

    def count(self) -> None:
        """One more answered write."""
        with self.lock:
            self.answered += 1


@dataclass(frozen=True)
class Place:
    """What is written on: a sheet, two jobs, an entry for pictures."""

    sheet: int
    ticked: int
    closing: int
    steps: tuple[str, ...]
    entry: int


def prepare(ada: Person, today: str) -> Place:
    """Begin a sheet and two jobs, one of them ready to be closed."""
    _, machines = ada.json("GET", "/api/machines")
    roadster = next(row for row in machines if row["name"] == "Kit roadster")
    sheet = ada.json(
        "POST", f"/api/machines/{roadster['id']}/inspections", {"measured_on": today, "odometer_km": 9000.0}
    )[1]["id"]
    jobs = []
    for machine in sorted(machines, key=lambda row: row is roadster):
        for axle in ("rear", "front"):
            status, job = ada.json("POST", f"/api/machines/{machine['id']}/jobs", {"axle": axle, "work": "clean"})
            if status == 200:
                jobs.append(job)
    assert len(jobs) > 1
    marks = [{"key": step["key"], "kind": "words", "words": "kill test"} for step in jobs[-1]["steps"]]
    status, marked = ada.json("PUT", f"/api/jobs/{jobs[-1]['id']}/marks", {"marks": marks})
    assert status == 200, marked
    assert marked["job"]["against"] == [], marked["job"]["against"]
    _, note = ada.json("POST", "/api/log", {"text": "for pictures", "on": today})
    steps = tuple(step["key"] for step in jobs[0]["steps"] if not step["waits_for"])[:3]
    return Place(sheet, jobs[0]["id"], jobs[-1]["id"], steps, note["id"])


def hands(ada: Person, place: Place, ledger: Ledger, today: str, draw: random.Random) -> list[Callable[[], bool]]:
    """What each hand does once; False where the server is gone."""
    content = picture("JPEG")

    def entry() -> bool:
        text = f"entry {draw.getrandbits(60)}"
        status, _ = one["entry"].json("POST", "/api/log", {"text": text, "on": today})
        if status == 201:
            ledger.entries.append(text)
        return _went(status, (201,), ledger)

    def photo() -> bool:
        token = f"token-{draw.getrandbits(60)}"
        status = one["photo"].form(f"/api/log/{place.entry}/photos", {"token": token}, content, "a.jpg", "photo")
        if status == 201:
            ledger.pictures.append(token)
        # Enough on one entry, it says so: that is no loss.
        return _went(status, (201, 409, 422), ledger)

    def cell() -> bool:
        name, value = draw.choice(CELLS), round(draw.uniform(0.0070, 0.0090), 6)
        ledger.cells_sent[name] = value
        body = {"cells": {name: {"value": value, "seen": ledger.cells.get(name), "confirmed": True}}}
        status, found = one["cell"].json("PUT", f"/api/inspections/{place.sheet}/cells", body)
        if status == 200 and not found["clashes"]:
            ledger.cells[name] = value
        return _went(status, (200,), ledger)

    def tick() -> bool:
        key, done = draw.choice(place.steps), draw.random() < 0.5
        ledger.ticks_sent[key] = done
        body = {"marks": [{"key": key, "kind": "done" if done else "open"}]}
        status, _ = one["tick"].json("PUT", f"/api/jobs/{place.ticked}/marks", body)
        if status == 200:
            ledger.ticks[key] = done
        return _went(status, (200,), ledger)

    def closing() -> bool:
        ledger.closed_sent = not ledger.closed
        status, _ = one["closing"].json("PUT", f"/api/jobs/{place.closing}/closed", {"closed": ledger.closed_sent})
        if status == 200:
            ledger.closed = ledger.closed_sent
        return _went(status, (200,), ledger)

    def backup() -> bool:
        status, found = one["backup"].json("POST", "/api/safekeeping/backups", {})
        if status == 201:
            ledger.backups.append(found["backups"][0]["name"])
        return _went(status, (201,), ledger)

    acts = {"entry": entry, "photo": photo, "cell": cell, "tick": tick, "closing": closing, "backup": backup}
    one = {name: ada.twin() for name in acts}
    return list(acts.values())


def _went(status: int, right: tuple[int, ...], ledger: Ledger) -> bool:
    if status == 0:
        return False
    if status in right:
        ledger.count()
    elif status != 429:
        ledger.wrong.append(f"answered {status}")
    return True


def write_until_killed(kill: Callable[[], None], acts: list[Callable[[], bool]], after_s: float) -> None:
    """Every hand writes as fast as it is answered; after a while the process is gone."""
    workers = [threading.Thread(target=_on_and_on, args=(act,)) for act in acts]
    for worker in workers:
        worker.start()
    # The moment of the kill is the test's only clock: it decides nothing of what must hold.
    threading.Event().wait(after_s)
    kill()
    for worker in workers:
        worker.join()


def _on_and_on(act: Callable[[], bool]) -> None:
    while act():
        pass


def losses(folder: Path, place: Place, ledger: Ledger) -> Iterator[str]:
    """What was answered and is not there, what is there by half, what is not sound."""
    with contextlib.closing(sqlite3.connect(folder / "thermaxis.sqlite3")) as database:

        def column(query: str, *values: object) -> list[Any]:
            return [row[0] for row in database.execute(query, values)]

        if column("PRAGMA integrity_check") != ["ok"]:
            yield "the database is damaged"
        if database.execute("PRAGMA foreign_key_check").fetchall():
            yield "rows hang on nothing"
        there = column("SELECT text FROM log_logentry WHERE act = 'write_note'")
        for text in ledger.entries:
            if there.count(text) != 1:
                yield f"{text} is there {there.count(text)} times"
        pictures = dict(database.execute("SELECT token, length(content) FROM log_logphoto"))
        for token in ledger.pictures:
            if pictures.get(token, 0) < 100:
                yield f"picture {token} is not there whole"
        for name, value in ledger.cells.items():
            found = column(
                "SELECT value FROM inspect_inspectioncell WHERE inspection_id = ? AND name = ?", place.sheet, name
            )
            if [json.loads(entry) for entry in found] not in ([value], [ledger.cells_sent[name]]):
                yield f"cell {name} is {found}, answered was {value}"
        for key, done in ledger.ticks.items():
            found = column("SELECT done FROM job_jobtick WHERE job_id = ? AND key = ?", place.ticked, key) or [0]
            if bool(found[0]) not in (done, ledger.ticks_sent[key]):
                yield f"step {key} is {found}, answered was {done}"
            # What was on its way may have been done: from here on, what is there is what must stay.
            ledger.ticks[key] = ledger.ticks_sent[key] = bool(found[0])
        at, content = database.execute(
            "SELECT closed_at, content FROM job_job WHERE id = ?", (place.closing,)
        ).fetchone()
        if (at is not None) not in (ledger.closed, ledger.closed_sent):
            yield f"the job is closed at {at}, answered was {ledger.closed}"
        last = (
            "SELECT act FROM log_logentry WHERE act IN ('close_job', 'reopen_job') AND things LIKE ? ORDER BY id DESC"
        )
        closings = column(last, f'%"job {place.closing}"%')
        if (at is not None) != (content != "{}") or (closings and (at is not None) != (closings[0] == "close_job")):
            yield "the job is closed by half"
        ledger.closed = ledger.closed_sent = at is not None
        for name in list(ledger.cells):
            (kept,) = column(
                "SELECT value FROM inspect_inspectioncell WHERE inspection_id = ? AND name = ?", place.sheet, name
            )
            ledger.cells[name] = json.loads(kept)
    yield from _backups(folder, ledger)


def _backups(folder: Path, ledger: Ledger) -> Iterator[str]:
    kept = {path.name: path for path in (folder / "backups").glob("*.backup")}
    for name in ledger.backups:
        if name not in kept:
            yield f"backup {name} is not there"
    for name, path in kept.items():
        out = folder / "looked-at.sqlite3"
        try:
            read_backup(path, out)
        except FieldError as error:
            yield f"backup {name}: {error}"
            continue
        with contextlib.closing(sqlite3.connect(out)) as database:
            if database.execute("PRAGMA integrity_check").fetchone() != ("ok",):
                yield f"backup {name} is damaged"
        out.unlink()
        path.unlink()
    ledger.backups.clear()


def kill_again_and_again(folder: Path, times: int, draw: random.Random) -> Ledger:
    """Serve, write, kill, look; as often as that. Gives what was answered and what was wrong."""
    today = time.strftime("%Y-%m-%d")
    fill(folder, ADA)
    ledger = Ledger()
    place: Place | None = None
    for number in range(times):
        with served(folder, filled=True) as server:
            ada = Person(server.port, Seen(), "ada")
            place = place or prepare(ada, today)
            acts = hands(ada, place, ledger, today, draw)
            write_until_killed(server.process.kill, acts, draw.uniform(0.2, LONGEST_S))
            server.process.wait()
            ada.hang_up()
        ledger.wrong += [f"kill {number + 1}: {loss}" for loss in losses(folder, place, ledger)]
    return ledger


def main() -> int:
    """Kill as often as asked for, and say what was lost."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("times", type=int, nargs="?", default=200)
    parser.add_argument("--seed", type=int, default=int.from_bytes(os.urandom(4), "big"))
    options = parser.parse_args()
    with tempfile.TemporaryDirectory() as folder:
        ledger = kill_again_and_again(Path(folder), options.times, random.Random(options.seed))
    print(
        f"{options.times} kills (seed {options.seed}), {ledger.answered} answered writes, {len(ledger.wrong)} lost or half"
    )
    for line in ledger.wrong[:20]:
        print(line)
    return 1 if ledger.wrong else 0


if __name__ == "__main__":
    sys.exit(main())
