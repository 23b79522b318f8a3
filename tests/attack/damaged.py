"""Damaged files of every kind that is read in: `make damaged`, ten thousand of them.

Each goes to the operation that would keep it. None may end in an error of ours, and one that is refused has changed
nothing: every table has the rows it had. What is taken in all the same is sound, and is undone before the next.
"""

from __future__ import annotations

import argparse
import io
import json
import math
import os
import random
import sys
import tempfile
import time
import zipfile
from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import TYPE_CHECKING, Any

from tests.attack import files
from tests.template import copy_to

if TYPE_CHECKING:
    from django.test import Client

# A ring that was hot and cools.
LOG = b"time,temp\n" + b"".join(b"%d,%.1f\n" % (t, 20 + 300 * math.exp(-t / 400)) for t in range(0, 1200, 10))
OLDER = b"Date,What,km,Cost\n" + b"".join(
    b"2025-03-%02d,Pads looked at,%d,12.50\n" % (day, 8000 + day) for day in range(1, 29)
)
EVENTS = b"name,on,starts,ends\n" + b"".join(b"Sprint,2027-05-%02d,09:00,17:00\n" % day for day in range(1, 20))


@dataclass
class Found:
    """How each kind was answered, and what was wrong."""

    answers: Counter[tuple[str, int]] = field(default_factory=Counter)
    wrong: list[str] = field(default_factory=list)
    slowest_s: float = 0.0


def rows_of_tables() -> list[tuple[str, int]]:
    """How many rows every table has."""
    from django.db import connection

    with connection.cursor() as cursor:
        tables = sorted(connection.introspection.table_names(cursor))
        cursor.execute(" UNION ALL ".join(f"SELECT '{name}', count(*) FROM \"{name}\"" for name in tables))
        return [(name, count) for name, count in cursor.fetchall() if name != "django_session"]


Way = Callable[[random.Random], Any]


def ways(ours: Client, empty: Client, room: Path) -> dict[str, Way]:
    """Every kind of file, damaged and sent: `ours` has the demo's workshop, `empty` one with nothing in it."""
    from django.core.files.uploadedfile import SimpleUploadedFile

    machines = ours.get("/api/machines").json()
    at = f"/api/machines/{machines[0]['id']}"
    today = time.strftime("%Y-%m-%d")
    head = {"measured_on": today, "odometer_km": machines[0]["odometer_km"]}
    sheet = ours.post(f"{at}/inspections", head, content_type="application/json").json()["id"]
    duty = ours.get("/api/duties").json()[0]["id"]
    archive = b"".join(ours.get("/api/workshop/export"))
    with zipfile.ZipFile(io.BytesIO(archive)) as packed:
        document = packed.read("workshop.json")
    machine = b"".join(ours.get(f"{at}/export"))
    case = ours.get(f"{at}/case").json()
    calendar = b"".join(ours.get(f"{at}/events.ics"))
    table, book, run = files.table_csv(), files.table_xlsx(), files.run_csv()
    uses = json.dumps([{"column": 0, "role": "time", "unit": "s"}, {"column": 1, "role": "speed", "unit": "km/h"}])
    columns = json.dumps({"on": "Date", "text": "What", "odometer_km": "km", "cost": "Cost"})
    fluids = {"table": "fluids", "sure": "true"}
    of_table, of_book = {**fluids, "mapping": json.dumps(files.TABLE)}, {**fluids, "mapping": json.dumps(files.BOOK)}

    def form(client: Client, path: str, content: bytes, named: str, **fields: Any) -> Any:
        return client.post(path, {**fields, "file": SimpleUploadedFile(named, content)})

    def body(client: Client, path: str, content: bytes) -> Any:
        return client.post(path, content, content_type="application/json")

    def logged(dice: random.Random) -> Any:
        text = files.mutated(LOG, dice).decode("utf-8", "replace")
        ask = {"evidence": [{"kind": "logged", "axle": "front", "csv": text}]}
        return body(ours, f"{at}/calibrations", json.dumps(ask).encode())

    def event(dice: random.Random) -> Any:
        name, content = dice.choice([("a.ics", calendar), ("a.csv", EVENTS)])
        damaged = files.mutated(content, dice)
        return form(ours, f"{at}/events/take-in", damaged, name, zone="Europe/London", duty_id=duty)

    def picture(dice: random.Random) -> Any:
        damaged = files.mutated(dice.choice(files.PICTURES), dice)
        fields = {"wheel": "front_left", "token": f"token-{dice.getrandbits(40)}"}
        return form(ours, f"/api/inspections/{sheet}/photos", damaged, "a.jpg", **fields)

    def workshop(dice: random.Random) -> Any:
        if dice.random() < 0.2:
            damaged = bytearray(archive)
            at = dice.randrange(len(damaged))
            damaged[at : at + 8] = files.mutated(bytes(damaged[at : at + 8]), dice)
            return form(empty, "/api/workshop/take-in", bytes(damaged), "a.zip")
        return form(empty, "/api/workshop/take-in", files.nudged(document, dice), "a.json")

    def one_machine(dice: random.Random) -> Any:
        damaged = files.nudged(machine, dice) if dice.random() < 0.7 else files.mutated_tree(json.loads(machine), dice)
        return form(ours, "/api/workshop/machine-files", damaged, "a.json")

    return {
        "workshop": workshop,
        "machine": one_machine,
        "case": lambda dice: body(ours, "/api/cases", files.mutated_tree(case, dice)),
        "table": lambda dice: form(ours, "/api/catalogue/import", files.mutated(table, dice), "a.csv", **of_table),
        "workbook": lambda dice: form(
            ours, "/api/catalogue/import", files.mutated_zip(book, dice), "a.xlsx", **of_book
        ),
        "events": event,
        "older log": lambda dice: form(ours, f"{at}/log/take-in", files.mutated(OLDER, dice), "a.csv", mapping=columns),
        "run": lambda dice: form(ours, "/api/runs", files.mutated(run, dice), "run.csv", uses=uses, name="a run"),
        "picture": picture,
        "temperatures": logged,
        "backup": _backup(room, ours),
    }


def _backup(room: Path, ours: Client) -> Way:
    """A backup of the server, damaged, brought in piece by piece as the page does, and looked through."""
    from django.core.files.uploadedfile import SimpleUploadedFile

    whole = (room / "whole.backup").read_bytes()

    def send(dice: random.Random) -> Any:
        damaged, token = bytearray(whole), f"{dice.getrandbits(80):020x}"
        for _ in range(dice.randint(1, 3)):
            # The head is small, and what is in it matters most.
            at = dice.randrange(min(len(damaged), 400) if dice.random() < 0.5 else len(damaged))
            damaged[at : at + 8] = files.mutated(bytes(damaged[at : at + 8]), dice)
        piece = {"token": token, "offset": 0, "file": SimpleUploadedFile("piece", bytes(damaged))}
        answer = ours.post("/api/safekeeping/incoming", piece)
        if answer.status_code == 200:
            answer = ours.post("/api/safekeeping/look", {"token": token}, content_type="application/json")
        return answer

    return send


def send_damaged(kinds: dict[str, Way], count: int, dice: random.Random) -> Found:
    """So many in turn, each undone."""
    from django.db import connection, transaction

    found, names = Found(), list(kinds)
    before = rows_of_tables()
    for number in range(count):
        name = names[number % len(names)]
        with transaction.atomic():
            began = time.perf_counter()
            try:
                answer = kinds[name](dice)
            except Exception as error:
                found.wrong.append(f"{number} {name}: {type(error).__name__}: {error}"[:300])
                transaction.set_rollback(True)
                continue
            found.slowest_s = max(found.slowest_s, time.perf_counter() - began)
            status = answer.status_code
            found.answers[name, status] += 1
            if status >= 500:
                found.wrong.append(f"{number} {name}: {status} {answer.content[:200]!r}")
            if status >= 400 and rows_of_tables() != before:
                changed = [row for row, there in zip(rows_of_tables(), before, strict=True) if row != there]
                found.wrong.append(f"{number} {name}: refused with {status}, and {changed} all the same")
            if status < 400:
                connection.check_constraints()
            transaction.set_rollback(True)
    return found


def main() -> int:
    """Send as many as asked for to a demo of its own, and say what came of it."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("count", type=int, nargs="?", default=10_000)
    parser.add_argument("--seed", type=int, default=int.from_bytes(os.urandom(4), "big"))
    options = parser.parse_args()
    with tempfile.TemporaryDirectory() as folder:
        os.environ.update(THERMAXIS_VAR=folder, DJANGO_SETTINGS_MODULE="thermaxis.config.settings")
        found = _on_a_demo(Path(folder), options.count, random.Random(options.seed))
    for name in sorted({name for name, _ in found.answers}):
        print(f"{name:14}", {status: count for (kind, status), count in sorted(found.answers.items()) if kind == name})
    print(f"{options.count} files (seed {options.seed}), {len(found.wrong)} wrong, slowest {found.slowest_s:.1f} s")
    print("\n".join(found.wrong[:30]))
    return 1 if found.wrong else 0


def _on_a_demo(folder: Path, count: int, dice: random.Random) -> Found:
    import logging

    import django

    django.setup()
    logging.disable(logging.CRITICAL)
    copy_to(folder)
    ours, empty = clients(folder)
    return send_damaged(ways(ours, empty, folder), count, dice)


def clients(folder: Path) -> tuple[Client, Client]:
    """Signed in to the demo's workshop, and to an empty one; a backup of both lies in the folder."""
    from django.contrib.auth import get_user_model
    from django.test import Client

    from thermaxis.apps.accounts.models import Membership, Workshop
    from thermaxis.apps.safekeeping.backing_up import back_up

    ada, eve = (get_user_model().objects.create_user(name) for name in ("ada", "eve"))
    empty = Workshop.objects.create(name="Elsewhere")
    for workshop in Workshop.objects.all():
        Membership.objects.create(user=ada, workshop=workshop)
    Membership.objects.create(user=eve, workshop=empty)
    back_up(folder / "whole.backup")
    found = Client(raise_request_exception=False), Client(raise_request_exception=False)
    for client, user in zip(found, (ada, eve), strict=True):
        client.force_login(user)
    return found


if __name__ == "__main__":
    sys.exit(main())
