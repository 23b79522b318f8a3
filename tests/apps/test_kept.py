"""What is kept between requests: until the workshop changes or its file does, and never inside a transaction."""

from __future__ import annotations

import datetime as dt
import os
import shutil
import threading
from collections import OrderedDict
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any
from unittest.mock import patch

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection, transaction

from tests import builders
from tests.pictures import picture
from tests.workshop import Api, machine_named, today
from thermaxis.apps.accounts import locks
from thermaxis.apps.accounts.database import reopen_if_replaced
from thermaxis.apps.accounts.kept import KEPT, kept
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.log.action import ACTIONS
from thermaxis.apps.log.models import LogEntry
from thermaxis.apps.machine.actions.change_machine import change_words

pytestmark = pytest.mark.django_db(transaction=True)


def test_a_value_lives_until_something_is_changed_in_the_workshop(workshop: Workshop) -> None:
    built: list[int] = []

    def build() -> list[int]:
        built.append(len(built))
        return built[:]

    first = kept(workshop, "a value", build)
    assert kept(workshop, "a value", build) is first
    assert kept(workshop, "another", build) is not first
    machine = machine_named(workshop, "Kit roadster")
    # What another workshop changes is no matter here.
    other = builders.workshop("Elsewhere")
    theirs = kept(other, "a value", build)
    assert kept(workshop, "a value", build) is first
    assert theirs is not first
    change_words(builders.owner(workshop), machine, {"note": "changed"})
    assert kept(workshop, "a value", build) is not first
    assert kept(other, "a value", build) is theirs
    with transaction.atomic():
        inside = kept(workshop, "a value", build)
        assert kept(workshop, "a value", build) is not inside


def test_another_file_in_the_place_of_the_database_is_another_memory(workshop: Workshop) -> None:
    """A backup put back while the server runs: nothing of what was solved before, and the file itself opened anew."""
    path = Path(str(connection.settings_dict["NAME"]))
    with connection.cursor() as cursor:
        cursor.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    aside = path.with_name("aside.sqlite3")
    shutil.copy(path, aside)
    try:
        first: list[int] = kept(workshop, "a value", list)
        change_words(builders.owner(workshop), machine_named(workshop, "Kit roadster"), {"note": "lost again"})
        second: list[int] = kept(workshop, "a value", list)
        assert second is not first
        reopen_if_replaced()
        with connection.cursor() as cursor:
            cursor.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        os.replace(aside, path)
        reopen_if_replaced()
        assert machine_named(workshop, "Kit roadster").note != "lost again"
        # As it was at the first, and yet not the same: nobody knows what was done to the file meanwhile.
        assert kept(workshop, "a value", list) is not first
    finally:
        aside.unlink(missing_ok=True)


def test_what_is_asked_for_twice_at_once_is_built_once(workshop: Workshop) -> None:
    begun, go = threading.Event(), threading.Event()
    built: list[int] = []

    def build() -> int:
        built.append(1)
        begun.set()
        assert go.wait(60)
        return 7

    with ThreadPoolExecutor(3) as pool:
        first = pool.submit(kept, workshop, "slow", build)
        assert begun.wait(60)
        others = [pool.submit(kept, workshop, "slow", build) for _ in range(2)]
        # Another key is not held up.
        assert kept(workshop, "quick", lambda: 1) == 1
        go.set()
        assert {entry.result(60) for entry in (first, *others)} == {7}
    assert built == [1]
    assert locks._locks == {}


def test_only_so_much_is_kept(workshop: Workshop) -> None:
    first: list[int] = kept(workshop, "first", list)
    for number in range(KEPT):
        kept(workshop, number, list)
    assert kept(workshop, "first", list) is not first


def test_the_strip_follows_every_write(demo: Api) -> None:
    path = f"/machines/{demo.machine('Horse-box 4x4')['id']}"
    what_if = {"cooling_factor": 1.0, "air_C": None}
    before = demo.post(f"{path}/verdict", what_if)["readings"][0]["value"]
    assert demo.post(f"{path}/verdict", what_if)["readings"][0]["value"] == before
    demo.patch(path, {"changes": {"vehicle.mass_kg": demo.get(path)["values"]["vehicle.mass_kg"] + 300.0}})
    heavier = demo.post(f"{path}/verdict", what_if)["readings"][0]["value"]
    assert heavier > before + 5.0
    hotter = demo.post(f"{path}/candidates", what_if)
    assert any(entry["fitted"] for entry in [*hotter["ranked"], *hotter["rejected"]])


# What is kept of a machine, and of no machine.
OF_A_MACHINE = (
    "{machine}",
    "{machine}/parts",
    "{machine}/inspections",
    "{machine}/jobs",
    "{machine}/plans",
    "{machine}/shelf",
)
OF_NONE = ("/workshop/overview", "/workshop/planner?since={since}&until={until}", "/catalogue", "/duties")
WITHOUT_A_MACHINE = {"invite", "withdraw_address", "give_reset", "make_key", "withdraw_key", "withdraw_any_key"}


def form(demo: Api, path: str, **fields: str) -> int:
    file = SimpleUploadedFile("a.jpg", picture("JPEG"), content_type="image/jpeg")
    answer = demo.client.post(f"/api{path}", {**fields, "file": file})
    assert answer.status_code == 201, answer.content
    return int(answer.json()["id"])


def everything_nearby(demo: Api, machine: str) -> Iterator[None]:
    """Every change that is said to concern its machine only, one after the other."""
    head = {"measured_on": today().isoformat(), "odometer_km": demo.get(machine)["odometer_km"]}
    sheet = f"/inspections/{demo.post(f'{machine}/inspections', head)['id']}"
    yield
    demo.put(sheet, {**head, "odometer_km": head["odometer_km"] + 3.0})
    yield
    demo.put(f"{sheet}/cells", {"cells": {"front_left.pad_inner_1": {"value": 0.0061, "confirmed": True}}})
    yield
    photo = form(demo, f"{sheet}/photos", token="token-1234", wheel="front_left")
    yield
    demo.put(f"/photos/{photo}/removed", {"removed": True})
    yield
    job = next(row for row in demo.get(f"{machine}/jobs")["jobs"] if not row["closed_on"] and not row["abandoned"])
    steps = demo.get(f"/jobs/{job['id']}")["steps"]
    path = f"/jobs/{job['id']}"
    demo.put(f"{path}/marks", {"marks": [{"key": step["key"], "kind": "words", "words": "seen"} for step in steps]})
    yield
    demo.put(f"{path}/values", {"values": {"level": 0.4}})
    yield
    demo.put(f"{path}/note", {"note": "left bleed nipple is tight"})
    yield
    photo = form(demo, f"{path}/photos", token="token-2345", corner="left", when="before")
    yield
    demo.put(f"/job-photos/{photo}/removed", {"removed": True})
    yield
    demo.post(f"{path}/service", {"action": "connect"})
    yield
    option = next(row for row in demo.get(path)["schools"] if len(row["options"]) > 1)
    other = next(entry["option"] for entry in option["options"] if entry["option"] != option["taken"])
    demo.put(f"{path}/school", {"point": option["point"], "option": other})
    yield
    number = int(machine.rpartition("/")[2])
    note = demo.post("/log", {"text": "a note", "on": today().isoformat(), "machine_id": number}, 201)["id"]
    yield
    form(demo, f"/log/{note}/photos", token="token-3456")
    yield
    demo.put(f"/log/{note}/removed", {"removed": True})
    yield


def test_what_concerns_one_machine_is_seen_on_it_and_changes_nothing_elsewhere(demo: Api, workshop: Workshop) -> None:
    """After every such change each answer is what it is when nothing is kept at all; others' are not built again."""
    hatch, other = demo.machine("Electric hatch"), demo.machine("Kit roadster")
    paths = {
        row["id"]: [path.format(machine=f"/machines/{row['id']}") for path in OF_A_MACHINE] for row in (hatch, other)
    }
    paths[hatch["id"]] += [f"/jobs/{row['id']}" for row in demo.get(f"/machines/{hatch['id']}/jobs")["jobs"]]
    days = {"since": today(), "until": today() + dt.timedelta(days=60)}
    of_none = [path.format(**days) for path in OF_NONE]
    paths[hatch["id"]].append(f"/machines/{hatch['id']}/verdict")

    def ask(path: str) -> Any:
        return demo.post(path, {}) if path.endswith("verdict") else demo.get(path)

    def build() -> object:
        return object()

    theirs, ours = kept(workshop, "theirs", build, other["id"]), kept(workshop, "of all", build)

    def compare(*among: str) -> None:
        for path in among:
            given = ask(path)
            with patch("thermaxis.apps.accounts.kept._entries", OrderedDict()):
                assert ask(path) == given, path

    # Kept from here on: none of it is built again, so that any change in between would show at the end.
    compare(*paths[other["id"]], *of_none)
    for _ in everything_nearby(demo, f"/machines/{hatch['id']}"):
        compare(*paths[hatch["id"]])
    assert kept(workshop, "theirs", build, other["id"]) is theirs
    assert kept(workshop, "of all", build) is ours
    compare(*paths[other["id"]], *of_none)
    nearby = {name for name, action in ACTIONS.items() if action.nearby}
    assert set(LogEntry.objects.order_by("-pk").values_list("act", flat=True)[:40]) >= nearby - WITHOUT_A_MACHINE - {
        "say_run"
    }
