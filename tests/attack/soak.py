"""Fifty people at work on the served application: `make soak`, five minutes; the figures go into docs/reliability.md.

Eight of ten clicks read, one solves, one writes, two seconds apart; beside them four people never stop asking the
heaviest question there is. A backup is made in the middle of it and must be the database at one moment.
"""

from __future__ import annotations

import argparse
import contextlib
import json
import os
import random
import re
import sqlite3
import sys
import tempfile
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from tests.attack.served import PASSWORD, Person, Seen, Server, fill, served
from thermaxis.formats.backup_file import read_backup

WORKERS = f"""
from django.contrib.auth import get_user_model
from django.contrib.auth.hashers import make_password
from thermaxis.apps.accounts.models import Membership, Workshop
ours, users = Workshop.objects.get(), get_user_model().objects
password = make_password("{PASSWORD}")
ada = users.create(username="ada", password=password)
Membership.objects.create(user=ada, workshop=ours)
for number in range(60):
    person = users.create(username=f"person-{{number}}", password=password)
    Membership.objects.create(user=person, workshop=ours, role="fitter")
"""
READS = (
    "/api/machines",
    "/api/workshop/overview",
    "/api/machines/{machine}",
    "/api/machines/{machine}/parts",
    "/api/machines/{machine}/inspections",
    "/api/machines/{machine}/jobs",
    "/api/machines/{machine}/plans",
    "/api/machines/{machine}/shelf",
    "/api/inspections/{sheet}",
    "/api/jobs/{job}",
    "/api/catalogue",
    "/api/duties",
    "/api/log?limit=30",
    "/api/orders",
)
PAUSE_S = 2.0
HEAVY = 4
# So often every machine is asked the heaviest question before: more than the server keeps results of.
FILLS = 4
# What the five minutes are held to, in ms.
MOST_READ_MS, MOST_WRITE_MS = 300.0, 500.0
MOST_GROWTH = 0.10


@dataclass
class Ledger:
    """How long every click took, and what each writer was told is kept."""

    took_s: dict[str, list[float]] = field(default_factory=lambda: {"read": [], "solve": [], "write": [], "heavy": []})
    # Of each writer: when each entry was sent, and when it was answered.
    sent: dict[str, list[float]] = field(default_factory=dict)
    answered: dict[str, list[float]] = field(default_factory=dict)
    busy: int = 0
    backup: tuple[float, float] = (0.0, 0.0)
    memory_MB: list[float] = field(default_factory=list)
    lock: threading.Lock = field(default_factory=threading.Lock)


@dataclass(frozen=True)
class Place:
    """What is looked at and written on."""

    machines: tuple[int, ...]
    sheets: tuple[int, ...]
    jobs: tuple[int, ...]


def prepare(ada: Person, today: str) -> Place:
    """A sheet on every machine; jobs as the demo has them."""
    machines = [row["id"] for row in ada.json("GET", "/api/machines")[1]]
    ask = {"measured_on": today, "odometer_km": 90_000.0}
    for machine in machines:
        # Where one is open already, that one is looked at.
        ada.json("POST", f"/api/machines/{machine}/inspections", ask)
    sheets = [row["id"] for machine in machines for row in ada.json("GET", f"/api/machines/{machine}/inspections")[1]]
    jobs = [row["id"] for machine in machines for row in ada.json("GET", f"/api/machines/{machine}/jobs")[1]["jobs"]]
    assert len(sheets) >= len(machines)
    assert jobs
    return Place(tuple(machines), tuple(sheets), tuple(jobs))


def click(person: Person, place: Place, ledger: Ledger, draw: random.Random, today: str) -> None:
    """One thing somebody does: eight reads, a solve and a write of ten."""
    machine, dice = draw.choice(place.machines), draw.random()
    began = time.perf_counter()
    if dice < 0.8:
        kind, path = "read", draw.choice(READS)
        path = path.format(machine=machine, sheet=draw.choice(place.sheets), job=draw.choice(place.jobs))
        status, _ = person.send("GET", path)
    elif dice < 0.9:
        kind, body = "solve", {"cooling_factor": round(draw.uniform(0.7, 1.4), 3), "air_C": None}
        status, _ = person.json("POST", f"/api/machines/{machine}/verdict", body)
    else:
        kind, status = "write", write(person, ledger, today, began)
    took = time.perf_counter() - began
    with ledger.lock:
        if status == 429:
            ledger.busy += 1
        else:
            ledger.took_s[kind].append(took)


def write(person: Person, ledger: Ledger, today: str, began: float) -> int:
    """An entry of the log that says its number, so that none can be missed."""
    sent = ledger.sent.setdefault(person.name, [])
    sent.append(began)
    status, _ = person.json("POST", "/api/log", {"text": f"{person.name} #{len(sent)}", "on": today})
    if status == 201:
        ledger.answered.setdefault(person.name, []).append(time.perf_counter())
    return status


def at_work(
    person: Person, place: Place, ledger: Ledger, draw: random.Random, ended: threading.Event, today: str
) -> None:
    """Click, look at it for a while, click again."""
    while not ended.wait(draw.uniform(0.5, 1.5) * PAUSE_S):
        click(person, place, ledger, draw, today)
    person.hang_up()


def heaviest(person: Person, machine: int, draw: random.Random) -> int:
    """Every pair of compounds front and rear, under weather nobody has asked about yet: how it was answered."""
    body = {"mixed": True, "cooling_factor": round(draw.uniform(0.7, 1.4), 6), "air_C": None, "weights": None}
    # What comes back is not read: that would take this machine's time, not the server's.
    return person.send("POST", f"/api/machines/{machine}/candidates", json.dumps(body).encode())[0]


def heavy(person: Person, place: Place, ledger: Ledger, draw: random.Random, ended: threading.Event) -> None:
    """The heaviest question there is, over and over."""
    while not ended.is_set():
        began = time.perf_counter()
        if heaviest(person, draw.choice(place.machines), draw) == 200:
            ledger.took_s["heavy"].append(time.perf_counter() - began)
        else:
            ended.wait(1.0)
    person.hang_up()


def soak(server: Server, seconds: float, people: int, heavies: int, draw: random.Random) -> tuple[Seen, Ledger]:
    """People at work for that long, and a backup in the middle."""
    seen, ledger, ended, today = Seen(), Ledger(), threading.Event(), time.strftime("%Y-%m-%d")
    ada = Person(server.port, seen, "ada")
    place = prepare(ada, today)
    # The memory of what was solved is full before anything is measured: what grows from here on is kept for nothing.
    for machine in place.machines * FILLS:
        assert heaviest(ada, machine, draw) == 200
    persons = [Person(server.port, seen, f"person-{number}") for number in range(people + heavies)]
    jobs: list[tuple[Callable[..., None], tuple[Any, ...]]] = [
        *((at_work, (each, place, ledger, random.Random(draw.random()), ended, today)) for each in persons[heavies:]),
        *((heavy, (each, place, ledger, random.Random(draw.random()), ended)) for each in persons[:heavies]),
    ]
    workers = [threading.Thread(target=act, args=arguments) for act, arguments in jobs]
    for worker in workers:
        worker.start()
    # People's own first questions fill the rest in the first third; from there on it must not grow.
    for share in (1 / 3, 1 / 3, 1 / 3):
        ended.wait(share * seconds)
        ledger.memory_MB.append(resident_MB(server))
        if ledger.backup == (0.0, 0.0):
            began = time.perf_counter()
            status, _ = ada.json("POST", "/api/safekeeping/backups", {})
            assert status == 201, status
            ledger.backup = (began, time.perf_counter())
    ended.set()
    for worker in workers:
        worker.join()
    ada.hang_up()
    return seen, ledger


def resident_MB(server: Server) -> float:
    """The memory it has at this moment."""
    found = re.search(r"VmRSS:\s+(\d+)", Path(f"/proc/{server.process.pid}/status").read_text("utf-8"))
    assert found
    return int(found[1]) / 1000.0


def torn(folder: Path, ledger: Ledger) -> list[str]:
    """What tells a backup made under load from the database at one moment; empty where nothing does."""
    (backup,) = (folder / "backups").glob("by-hand-*.backup")
    out, (began, ended), wrong = folder / "unpacked.sqlite3", ledger.backup, []
    read_backup(backup, out)
    with contextlib.closing(sqlite3.connect(out)) as database:
        if database.execute("PRAGMA integrity_check").fetchone() != ("ok",):
            wrong.append("damaged")
        if database.execute("PRAGMA foreign_key_check").fetchone() is not None:
            wrong.append("rows hang on nothing")
        there = [
            row[0] for row in database.execute("SELECT text FROM log_logentry WHERE act = 'write_note' ORDER BY id")
        ]
    for name, sent in ledger.sent.items():
        numbers = [int(text.partition("#")[2]) for text in there if text.startswith(f"{name} #")]
        # One after the other, as they were written, up to a moment while it was made.
        if numbers != list(range(1, len(numbers) + 1)):
            wrong.append(f"{name}: {numbers}")
        least = sum(at < began for at in ledger.answered.get(name, []))
        most = sum(at < ended for at in sent)
        if not least <= len(numbers) <= most:
            wrong.append(f"{name}: {len(numbers)} entries, {least} were answered before and {most} sent by its end")
    return wrong


def quantile_ms(times: list[float], share: float) -> float:
    """The time that a share of the clicks stays within."""
    ordered = sorted(times)
    return 1000 * ordered[min(len(ordered) - 1, int(share * len(ordered)))] if ordered else 0.0


def figures(seen: Seen, ledger: Ledger) -> list[str]:
    """What came of it, a line each."""
    lines = [f"{'':6} {'count':>6} {'p50':>6} {'p95':>6} {'p99':>6}  ms"]
    for kind, times in ledger.took_s.items():
        lines.append(f"{kind:6} {len(times):6} " + " ".join(f"{quantile_ms(times, q):6.0f}" for q in (0.5, 0.95, 0.99)))
    memory = ", ".join(f"{value:.0f}" for value in ledger.memory_MB)
    faults = len(seen.faults)
    return [
        *lines,
        f"{seen.requests} requests, {faults} faults, {ledger.busy} asked to wait, {len(seen.hangs)} over 5 s, slowest "
        f"{seen.slowest_s:.1f} s ({seen.slowest}); memory {memory} MB",
    ]


def additions_s() -> float:
    """How long this machine takes for ten million additions: what every other figure is to be seen beside."""
    began, total = time.perf_counter(), 0
    for number in range(10_000_000):
        total += number
    return time.perf_counter() - began


def main() -> int:
    """Soak, print, and say what is not held."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("seconds", type=float, nargs="?", default=300.0)
    parser.add_argument("--people", type=int, default=50)
    parser.add_argument("--heavy", type=int, default=HEAVY, help="who never stop asking the heaviest question")
    parser.add_argument("--seed", type=int, default=int.from_bytes(os.urandom(4), "big"))
    options = parser.parse_args()
    speed = additions_s()
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        fill(folder, WORKERS)
        with served(folder, filled=True) as server:
            seen, ledger = soak(server, options.seconds, options.people, options.heavy, random.Random(options.seed))
        wrong = [*seen.faults[:20], *(f"backup: {line}" for line in torn(folder, ledger))]
    print(
        f"{options.people} people and {options.heavy} who ask the heaviest question for {options.seconds:.0f} s, seed {options.seed}; ten million additions: {speed:.2f} s"
    )
    print("\n".join(figures(seen, ledger)))
    first, *_, last = ledger.memory_MB
    for what, found, most in (
        ("p95 of reads, ms", quantile_ms(ledger.took_s["read"], 0.95), MOST_READ_MS),
        ("p95 of writes, ms", quantile_ms(ledger.took_s["write"], 0.95), MOST_WRITE_MS),
        ("growth of memory", last / first - 1, MOST_GROWTH),
    ):
        if found > most:
            wrong.append(f"{what}: {found:.2f}, held to {most}")
    print("\n".join(wrong) if wrong else "all of it held")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
