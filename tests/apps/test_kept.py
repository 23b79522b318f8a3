"""What is kept between requests: for as long as nothing is written, and never inside a transaction."""

from __future__ import annotations

import threading
from concurrent.futures import ThreadPoolExecutor

import pytest
from django.db import transaction

from tests.workshop import Api, machine_named
from thermaxis.apps.accounts import locks
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.work.kept import KEPT, kept

pytestmark = pytest.mark.django_db(transaction=True, reset_sequences=True)


def test_a_value_lives_until_anything_is_written(workshop: Workshop) -> None:
    built: list[int] = []

    def build() -> list[int]:
        built.append(len(built))
        return built[:]

    first = kept("a value", build)
    assert kept("a value", build) is first
    assert kept("another", build) is not first
    machine = machine_named(workshop, "Kit roadster")
    assert kept("a value", build) is first
    machine.note = "changed"
    machine.save(update_fields=["note"])
    assert kept("a value", build) is not first
    with transaction.atomic():
        inside = kept("a value", build)
        assert kept("a value", build) is not inside


def test_what_is_asked_for_twice_at_once_is_built_once(workshop: Workshop) -> None:
    begun, go = threading.Event(), threading.Event()
    built: list[int] = []

    def build() -> int:
        built.append(1)
        begun.set()
        assert go.wait(60)
        return 7

    with ThreadPoolExecutor(3) as pool:
        first = pool.submit(kept, "slow", build)
        assert begun.wait(60)
        others = [pool.submit(kept, "slow", build) for _ in range(2)]
        # Another key is not held up.
        assert kept("quick", lambda: 1) == 1
        go.set()
        assert {entry.result(60) for entry in (first, *others)} == {7}
    assert built == [1]
    assert locks._locks == {}


def test_only_so_much_is_kept(workshop: Workshop) -> None:
    first: list[int] = kept("first", list)
    for number in range(KEPT):
        kept(number, list)
    assert kept("first", list) is not first


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
