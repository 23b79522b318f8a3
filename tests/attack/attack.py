"""Attack the served application from outside and count what does not hold: `make attack`, ten minutes.

Foreign ids in every path and body, keys that name lookups, damaged files of every kind, files that bring scripts, rights
and odd values, rules without end, keys by lesser callers, and requests made from the schema with real ids. What must hold: no 5xx, nothing over five seconds, every error a problem document, nothing of
another workshop given or changed, less than 1 GB.
"""

from __future__ import annotations

import argparse
import json
import random
import sys
import tempfile
import threading
import time
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any
from urllib.parse import quote

import schemathesis
from hypothesis import HealthCheck, Phase, given, settings

from tests.attack import files
from tests.attack.intruding import intrude
from tests.attack.served import ROOT, Person, Seen, Server, served

SCHEMA = json.loads((ROOT / "openapi.json").read_text("utf-8"))
LOADED = schemathesis.openapi.from_dict(SCHEMA)
OPERATIONS: list[Any] = [found.ok() for found in LOADED.get_all_operations()]  # type: ignore[union-attr]
# Signing the attacker out, or locking them out, would end the attack.
SPARED = (
    "sign_out",
    "sign_in",
    "change_password",
    "end_session",
    "end_other_sessions",
    "take_out_member",
    "give_role",
    "leave_workshop",
    "forget_me",
    "choose_workshop",
)
# What takes rows out comes last, so that there is something to attack until then.
LAST = ("removed",)
EVIL_KEYS = (
    "workshop__members__password__regex",
    "pk__in",
    "workshop_id",
    "__class__",
    "price__gte",
    "machine__owner__name",
)
MOST_MB = 1000.0
HANDS = 3


def prepare(ada: Person) -> dict[str, list[Any]]:
    """Rows of every kind in Ada's workshop, by the name an address calls their number."""
    _, machines = ada.json("GET", "/api/machines")
    machine = next(row["id"] for row in machines if row["name"] == "Kit roadster")
    at = f"/api/machines/{machine}"
    _, offer = ada.json("POST", f"{at}/candidates", {})
    key = offer["ranked"][0]["key"]
    _, shelf = ada.json("GET", f"{at}/shelf")
    ada.json("POST", f"{at}/set-ups", {"name": "heavier", "changes": {"vehicle.mass_kg": 720}})
    _, ups = ada.json("GET", f"{at}/set-ups")
    _, decision = ada.json("POST", f"{at}/decisions", {"keys": [key], "title": "kept", "note": "of Ada"})
    _, shared = ada.json("PUT", f"/api/decisions/{decision['id']}/shared", {"shared": True})
    _, plan = ada.json("POST", f"{at}/plans", {"school": "rising", "top_speed_mps": 27.8, "hard_g": 0.5})
    _, duties = ada.json("GET", "/api/duties")
    _, circuits = ada.json("GET", "/api/circuits")
    _, catalogue = ada.json("GET", "/api/catalogue")
    pad = catalogue["compounds"][0]["id"]
    today = time.strftime("%Y-%m-%d")
    _, read = ada.json(
        "POST", f"/api/catalogue/compounds/{pad}/readings", {"temperature_C": 200, "mu": 0.4, "measured_on": today}
    )
    _, sheet = ada.json("POST", f"{at}/inspections", {"measured_on": today, "odometer_km": 8412})
    ada.json("PUT", f"/api/inspections/{sheet['id']}/cells", {"cells": {"front_left.pad_inner_1": {"value": 0.0088}}})
    ada.form(
        f"/api/inspections/{sheet['id']}/photos",
        {"wheel": "front_left", "token": "attack-0001"},
        files.PICTURES[0],
        "a.jpg",
        "photo",
    )
    _, sheet = ada.json("GET", f"/api/inspections/{sheet['id']}")
    uses = json.dumps([{"column": 0, "role": "time", "unit": "s"}, {"column": 1, "role": "speed", "unit": "km/h"}])
    ada.form("/api/runs", {"name": "a run", "uses": uses}, files.run_csv(), "run.csv", "run")
    _, runs = ada.json("GET", "/api/runs")
    evidence = [{"kind": "pyrometer", "axle": "front", "value_C": 280, "since_s": 60, "speed_mps": 0}]
    ada.json("POST", f"{at}/calibrations", {"evidence": evidence, "keep": True})
    _, calibrations = ada.json("GET", f"{at}/calibrations")
    ada.json("POST", "/api/me/keys", {"name": "a key", "reach": "read"})
    ada.json("POST", "/api/addresses", {"role": "reader"})
    _, people = ada.json("GET", "/api/members")
    _, me = ada.json("GET", "/api/me")
    return {
        "member_id": [row["id"] for row in people["members"]],
        "address_id": [row["id"] for row in people["addresses"]],
        "key_id": [row["id"] for row in people["keys"]],
        "open_session_id": [row["id"] for row in me["sessions"]],
        "machine_id": [machine],
        "duty_id": [duties[0]["id"], duties[1]["id"]],
        "circuit_id": [circuits[0]["id"]],
        "run_id": [row["id"] for row in runs],
        "thing_id": [row["id"] for row in shelf],
        "set_up_id": [row["id"] for row in ups],
        "decision_id": [decision["id"]],
        "plan_id": [plan["id"]],
        "pad_id": [pad],
        "reading_id": [row["id"] for row in read["own"]],
        "inspection_id": [sheet["id"]],
        "photo_id": [row["id"] for row in sheet["photos"]],
        "calibration_id": [row["id"] for row in calibrations],
        "measurement_id": [1],
        "fluid_id": [catalogue["fluids"][0]["id"]],
        "token": [shared["token"]],
        "key": [key],
    }


def filled(value: Any, ids: dict[str, list[Any]], dice: random.Random, share: float) -> Any:
    """A body with real numbers where it names rows."""
    if isinstance(value, dict):
        return {
            key: dice.choice(ids[key]) if ids.get(key) and dice.random() < share else filled(entry, ids, dice, share)
            for key, entry in value.items()
        }
    return [filled(entry, ids, dice, share) for entry in value] if isinstance(value, list) else value


def poisoned(value: Any, dice: random.Random) -> Any:
    """A body with keys that would be lookups, were any key of a request one."""
    if isinstance(value, dict):
        found = {key: poisoned(entry, dice) for key, entry in value.items()}
        return {**found, dice.choice(EVIL_KEYS): dice.choice(["^pbkdf2", "1", [1, 2], "(a+)+$"])}
    return [poisoned(entry, dice) for entry in value] if isinstance(value, list) else value


def requests(
    operation: Any, ids: dict[str, list[Any]], dice: random.Random, count: int, share: float
) -> Iterator[tuple[str, Any]]:
    """Address and body of requests an operation's schema allows, with real ids."""
    made: list[tuple[str, Any]] = []

    @settings(
        max_examples=count,
        deadline=None,
        database=None,
        suppress_health_check=list(HealthCheck),
        phases=(Phase.explicit, Phase.generate),
    )
    @given(case=operation.as_strategy())
    def collect(case: Any) -> None:
        path = case.path
        for name, value in case.path_parameters.items():
            known = ids.get(name)
            value = dice.choice(known) if known and dice.random() < share else value
            path = path.replace(f"{{{name}}}", quote(str(value), safe=""))
        query = "&".join(f"{key}={quote(str(value), safe='')}" for key, value in (case.query or {}).items())
        body = filled(case.body, ids, dice, share) if isinstance(case.body, dict | list) else None
        made.append((f"{path}?{query}" if query else path, body))

    collect()
    yield from made


def is_form(operation: Any) -> bool:
    """Whether an operation takes a form with a file."""
    return "multipart/form-data" in json.dumps(operation.definition.raw.get("requestBody", {}))


def name_of(operation: Any) -> str:
    """Its operation id."""
    return str(operation.definition.raw["operationId"])


def shares(operation: Any) -> bool:
    """Whether an operation's address names a row that is one workshop's."""
    return "_id}" in operation.path


def strangers(eve: Person, ids: dict[str, list[Any]], dice: random.Random, count: int, among: list[Any]) -> list[str]:
    """Every operation by somebody of another workshop, with this one's numbers in path and body; what was given away."""
    found = []
    for operation in among:
        if name_of(operation) in SPARED or is_form(operation):
            continue
        for path, body in requests(operation, ids, dice, count, 1.0):
            status, said = eve.json(operation.method.upper(), path, body, f"stranger {operation.label}")
            if shares(operation) and status < 400:
                found.append(f"{status} {operation.label} {path}")
            if said is not None and "of Ada" in json.dumps(said):
                found.append(f"a note in {operation.label}")
    # Somebody's numbers in a body of one's own.
    plain = {"name": "mine", "use": "track", "events_per_month": 1, "event_km": 10}
    laps = {"kind": "session", "driver_level": "novice"}
    for path, body in (
        ("/api/duties", {**plain, "shape": {**laps, "circuit_id": ids["circuit_id"][0]}}),
        ("/api/duties", {**plain, "shape": {"kind": "recorded", "run_id": ids["run_id"][0]}}),
        ("/api/duties", {**plain, "shape": {"kind": "day", "parts": [{"duty_id": ids["duty_id"][0]}]}}),
        (
            "/api/workshop/machines",
            {"name": "mine", "owner": "Eve", "vehicle_class": "hatch", "duty_id": ids["duty_id"][0]},
        ),
    ):
        status, _ = eve.json("POST", path, body, f"stranger's body {path}")
        if status < 400:
            found.append(f"{status} {path} {body}")
    return found


def lookups(ada: Person, ids: dict[str, list[Any]], dice: random.Random, count: int, among: list[Any]) -> None:
    """Keys with `__` in every body."""
    for operation in among:
        if name_of(operation) in SPARED or is_form(operation) or operation.method.upper() in ("GET", "DELETE"):
            continue
        for path, body in requests(operation, ids, dice, count, 1.0):
            ada.json(operation.method.upper(), path, poisoned(body, dice), f"lookup {operation.label}")


def fuzz(
    ada: Person, ids: dict[str, list[Any]], dice: random.Random, count: int, until: float, among: list[Any]
) -> None:
    """Requests made from the schema; those that take rows out come last."""
    ordered = sorted(among, key=lambda operation: any(word in operation.path for word in LAST))
    for operation in ordered:
        if name_of(operation) in SPARED or is_form(operation) or time.monotonic() > until:
            continue
        for path, body in requests(operation, ids, dice, count, 0.8):
            ada.json(operation.method.upper(), path, body, f"fuzz {operation.label}")


Kind = tuple[str, Callable[[Person, random.Random], int]]


def kinds(ada: Person, ids: dict[str, list[Any]]) -> list[Kind]:
    """Every kind of file, and how a damaged one is sent."""
    machine, sheet = ids["machine_id"][0], ids["inspection_id"][0]
    _, case = ada.json("GET", f"/api/machines/{machine}/case")
    uses = json.dumps(
        [
            {"column": 0, "role": "time", "unit": "s"},
            {"column": 1, "role": "speed", "unit": "km/h"},
            {"column": 3, "role": "front_temperature", "unit": "°C"},
        ]
    )
    run, track, table, book = files.run_csv(), files.gpx(), files.table_csv(), files.table_xlsx()
    log = files.temperature_log().encode()

    def recorded(person: Person, dice: random.Random, content: bytes, label: str) -> int:
        where = "/api/runs/look" if dice.random() < 0.3 else f"/api/machines/{machine}/runs/read"
        return person.form(where, {"uses": uses}, files.mutated(content, dice), "run.csv", label)

    def tables(person: Person, dice: random.Random, content: bytes, label: str) -> int:
        what = dice.choice(["look", "read"])
        mapping = json.dumps(files.BOOK if label == "workbook" else files.TABLE)
        form = {"table": dice.choice(["fluids", "fluids", "compounds", "rotors"]), "mapping": mapping}
        return person.form(f"/api/catalogue/{what}", form, content, "parts", label)

    def pictures(person: Person, dice: random.Random) -> int:
        form = {"wheel": "front_left", "token": "attack-0001"}
        content = files.mutated(dice.choice(files.PICTURES), dice)
        return person.form(f"/api/inspections/{sheet}/photos", form, content, "a.jpg", "picture")

    def cases(person: Person, dice: random.Random) -> int:
        status, said = person.send("POST", "/api/cases", files.mutated_tree(case, dice), label="case")
        if status == 201:
            # One that was still whole is a machine now: taken out again, so that the list stays as long as it was.
            person.json("PUT", f"/api/machines/{json.loads(said)['id']}/removed", {"removed": True}, "case out")
        return status

    def logs(person: Person, dice: random.Random) -> int:
        text = files.mutated(log, dice).decode("utf-8", "replace")
        if dice.random() < 0.05:
            text += "\ud800"
        body = {"evidence": [{"kind": "logged", "axle": "front", "csv": text}]}
        return person.json("POST", f"/api/machines/{machine}/calibrations", body, "log")[0]

    return [
        ("run", lambda person, dice: recorded(person, dice, run, "run")),
        ("gpx", lambda person, dice: recorded(person, dice, track, "gpx")),
        ("table", lambda person, dice: tables(person, dice, files.mutated(table, dice), "table")),
        ("workbook", lambda person, dice: tables(person, dice, files.mutated_zip(book, dice), "workbook")),
        ("picture", pictures),
        ("case", cases),
        ("log", logs),
    ]


def damaged_files(ada: Person, ids: dict[str, list[Any]], seed: int, each: int, until: float) -> dict[str, int]:
    """So many damaged files of each kind, by a few hands, until they are sent or time is up; how many of each were."""
    ways = kinds(ada, ids)
    sent = {name: 0 for name, _ in ways}
    lock = threading.Lock()

    def hand(number: int) -> None:
        person, dice = ada.twin(), random.Random(seed + number)
        while time.monotonic() < until:
            with lock:
                name, way = min(ways, key=lambda entry: sent[entry[0]])
                if sent[name] >= each:
                    break
                sent[name] += 1
            way(person, dice)
        person.hang_up()

    with ThreadPoolExecutor(HANDS) as pool:
        list(pool.map(hand, range(HANDS)))
    return sent


def attack(
    server: Server, *, seconds: float, each: int, examples: int, every: int = 1, seed: int = 1
) -> tuple[Seen, dict[str, int], list[str]]:
    """The whole attack: what was seen, files sent by kind, and what was given away.

    Operations are asked one by one, or only each `every`th of them.
    """
    seen, dice = Seen(), random.Random(seed)
    until = time.monotonic() + seconds
    ada, eve = Person(server.port, seen, "ada"), Person(server.port, seen, "eve")
    ids = prepare(ada)
    given_away = intrude(server.port, ada, ids["machine_id"][0], dice, max(4, examples))
    among = OPERATIONS[::every]
    given_away += strangers(eve, ids, dice, max(1, examples // 4), among)
    lookups(ada, ids, dice, max(1, examples // 4), among)
    sent = damaged_files(ada, ids, seed, each, time.monotonic() + 0.75 * max(0.0, until - time.monotonic()))
    fuzz(ada, ids, dice, examples, until, among)
    status, _ = ada.json("GET", "/api/session")
    assert status == 200, "the server is not there any more"
    ada.hang_up()
    eve.hang_up()
    return seen, sent, given_away


def main() -> int:
    """Attack, print what held, 1 where something did not."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--seconds", type=float, default=600.0)
    parser.add_argument("--each", type=int, default=5000, help="damaged files of each kind")
    parser.add_argument("--examples", type=int, default=40, help="requests made from each operation's schema")
    parser.add_argument("--seed", type=int, default=1)
    asked = parser.parse_args()
    with tempfile.TemporaryDirectory() as folder, served(Path(folder)) as server:
        seen, sent, given_away = attack(
            server, seconds=asked.seconds, each=asked.each, examples=asked.examples, seed=asked.seed
        )
        memory = server.memory_MB()
    print(f"{seen.requests} requests; by status {dict(sorted(seen.by_status.items()))}")
    print("damaged files: " + ", ".join(f"{count} {name}" for name, count in sent.items()))
    print(f"slowest {seen.slowest_s:.2f} s ({seen.slowest}); at most {memory:.0f} MB")
    for line in (*seen.faults[:40], *seen.hangs[:40], *given_away[:40]):
        print("FAULT", line)
    held = not seen.faults and not seen.hangs and not given_away and memory < MOST_MB
    print(
        "held"
        if held
        else f"did not hold: {len(seen.faults)} faults, {len(seen.hangs)} hangs, {len(given_away)} given away"
    )
    return 0 if held else 1


if __name__ == "__main__":
    sys.exit(main())
