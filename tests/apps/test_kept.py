"""What is kept between requests: until the workshop changes or its file does, and never inside a transaction."""

from __future__ import annotations

import os
import shutil
import threading
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import pytest
from django.db import connection, transaction

from tests import builders
from tests.workshop import Api, machine_named
from thermaxis.apps.accounts import locks
from thermaxis.apps.accounts.database import reopen_if_replaced
from thermaxis.apps.accounts.kept import KEPT, kept
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.machine.actions.change_machine import change_words

pytestmark = pytest.mark.django_db(transaction=True, reset_sequences=True)


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
