"""What arrives together or twice is one change, whatever it is and whenever somebody is killed."""

from __future__ import annotations

import json
import threading
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import pytest
from django.apps import apps
from django.contrib.auth import get_user_model
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test import Client

from tests.pictures import picture
from tests.workshop import Api, assert_problem, today
from thermaxis.api import once
from thermaxis.apps.accounts.changes import AlreadyDone, Asked, asked_by, change
from thermaxis.apps.accounts.models import ChangeKey, Workshop
from thermaxis.apps.fitted.models import PadMounting, PadReading, RotorMounting
from thermaxis.apps.inspect.models import Inspection, InspectionPhoto

pytestmark = pytest.mark.django_db(transaction=True)
HANDS = 4


def together(workshop: Workshop, call: Callable[[Client], Any]) -> list[Any]:
    """The same call by four hands at the same moment, each with a connection of its own; their answers."""
    user = get_user_model().objects.get(username="demo")
    clients = []
    for _ in range(HANDS):
        client = Client(raise_request_exception=False)
        client.force_login(user)
        clients.append(client)
    gate = threading.Barrier(HANDS)

    def hand(client: Client) -> Any:
        try:
            gate.wait(60)
            return call(client)
        finally:
            connection.close()

    with ThreadPoolExecutor(HANDS) as pool:
        return list(pool.map(hand, clients))


def rows() -> dict[str, int]:
    """How many rows every table of ours has."""
    ours = (model for model in apps.get_models() if model.__module__.startswith("thermaxis."))
    return {model.__name__: model._default_manager.count() for model in ours if model is not ChangeKey}


def test_an_inspection_started_filled_and_finished_by_four_hands_is_one(workshop: Workshop, demo: Api) -> None:
    machine = f"/machines/{demo.machine('Kit roadster')['id']}"
    head = {"measured_on": today().isoformat(), "odometer_km": 8412}
    before = Inspection.objects.count()

    def post(path: str, body: Any) -> Callable[[Client], Any]:
        return lambda client: client.post(f"/api{path}", body, content_type="application/json")

    started = together(workshop, post(f"{machine}/inspections", head))
    assert [answer.status_code for answer in started] == [200] * HANDS
    assert len({answer.json()["id"] for answer in started}) == 1
    assert Inspection.objects.count() == before + 1
    sheet = f"/inspections/{started[0].json()['id']}"
    demo.put(f"{sheet}/cells", {"cells": {"front_left.pad_inner_1": {"value": 0.0088}}})
    measured = PadReading.objects.count()
    photo = picture("PNG")

    def keep_photo(client: Client) -> Any:
        form = {"wheel": "front_left", "token": "token-0001", "file": SimpleUploadedFile("a.png", photo)}
        return client.post(f"/api{sheet}/photos", form)

    photos = together(workshop, keep_photo)
    assert [answer.status_code for answer in photos] == [201] * HANDS
    assert InspectionPhoto.objects.count() == 1

    def finish(client: Client) -> Any:
        return client.put(f"/api{sheet}/finished", {"finished": True}, content_type="application/json")

    assert [answer.status_code for answer in together(workshop, finish)] == [200] * HANDS
    assert PadReading.objects.count() == measured + 1


def body_of(demo: Api, operation: str) -> tuple[str, str, Any]:
    """Method, path and body of a change that adds something each time it is made."""
    machine = f"/machines/{demo.machine('Kit roadster')['id']}"
    street = {
        "name": "Twice",
        "use": "street",
        "events_per_month": 1,
        "event_km": 10,
        "shape": {
            "kind": "stops",
            "stops": [{"from_mps": 30, "to_mps": 5, "decel_mps2": 5, "then_s": 30, "then_speed_mps": 20}],
        },
    }
    best = demo.post(f"{machine}/candidates", {})["ranked"]
    other = next(entry["key"] for entry in best if not entry["fitted"])
    pad = demo.get("/catalogue")["compounds"][0]["id"]
    bodies: dict[str, tuple[str, str, Any]] = {
        "add_machine": (
            "POST",
            "/workshop/machines",
            {"name": "Twice", "owner": "A", "vehicle_class": demo.get("/classes")[0]["name"]},
        ),
        "copy_machine": ("POST", f"{machine}/copy", {"name": "Twice"}),
        "import_case": ("POST", "/cases", demo.get(f"{machine}/case")),
        "add_duty": ("POST", "/duties", street),
        "add_circuit": ("POST", "/circuits", {"name": "Twice", "closed": False, "elements": [{"length_m": 400}]}),
        "keep_set_up": ("POST", f"{machine}/set-ups", {"name": "Twice", "changes": {"vehicle.mass_kg": 700}}),
        "keep_plan": ("POST", f"{machine}/plans", {"school": "rising", "top_speed_mps": 27.8, "hard_g": 0.5}),
        "measure": (
            "POST",
            f"{machine}/measurements",
            {"axle": "front", "thickness_m": 0.005, "odometer_km": 8500, "measured_on": today().isoformat()},
        ),
        "keep_decision": ("POST", f"{machine}/decisions", {"keys": [other], "title": "Twice"}),
        "fit_set": ("POST", f"{machine}/set", {"key": other}),
        "keep_reading": (
            "POST",
            f"/catalogue/compounds/{pad}/readings",
            {"temperature_C": 200, "mu": 0.4, "measured_on": today().isoformat()},
        ),
        "keep_part": (
            "PUT",
            "/catalogue/part",
            {
                "table": "fluids",
                "cells": {
                    **demo.get("/catalogue/part/fluids")["cells"],
                    "name": "Twice",
                    "standard": "DOT 4",
                    "dry_C": "250",
                    "wet_C": "160",
                    "price": "9",
                },
            },
        ),
    }
    return bodies[operation]


OPERATIONS = (
    "add_machine",
    "copy_machine",
    "import_case",
    "add_duty",
    "add_circuit",
    "keep_set_up",
    "keep_plan",
    "measure",
    "keep_decision",
    "fit_set",
    "keep_reading",
    "keep_part",
)


@pytest.mark.parametrize("operation", OPERATIONS)
def test_a_change_sent_twice_with_the_page_s_key_is_one(demo: Api, operation: str) -> None:
    method, path, body = body_of(demo, operation)

    def send(key: str) -> Any:
        return demo.client.generic(
            method, f"/api{path}", json.dumps(body), content_type="application/json", headers={"idempotency-key": key}
        )

    before = rows()
    first = send("key-0001-first")
    assert first.status_code in (200, 201), first.content
    after = rows()
    assert after != before
    again = send("key-0001-first")
    assert rows() == after
    assert (again.status_code, again.content) == (first.status_code, first.content)
    assert again["Idempotency-Replayed"] == "true"
    # The same words with another key are meant.
    other = send("key-0002-other")
    if operation in ("keep_part",):
        assert_problem(other.json(), 422, "cells.name")
    else:
        assert other.status_code == first.status_code


def test_taking_a_fitting_back_twice_takes_back_one(demo: Api) -> None:
    machine = f"/machines/{demo.machine('Kit roadster')['id']}"
    keys = [entry["key"] for entry in demo.post(f"{machine}/candidates", {})["ranked"] if not entry["fitted"]][:2]
    for key in keys:
        demo.post(f"{machine}/set", {"key": key})
    count = PadMounting.objects.count() + RotorMounting.objects.count()
    for _ in range(2):
        response = demo.client.delete(f"/api{machine}/set", headers={"idempotency-key": "take-back-1"})
        assert response.status_code == 200
    assert PadMounting.objects.count() + RotorMounting.objects.count() < count
    # The first of the two is on again.
    assert demo.get(f"{machine}/set")["can_undo"] is True


def test_four_hands_with_one_key_make_one_machine(workshop: Workshop, demo: Api) -> None:
    path = f"/api/machines/{demo.machine('Kit roadster')['id']}/copy"
    before = len(demo.get("/machines"))

    def copy(client: Client) -> Any:
        headers = {"idempotency-key": "one-key-for-all"}
        return client.post(path, {"name": "Once"}, content_type="application/json", headers=headers)

    page = demo.client.cookies["sessionid"].value

    def from_one_page(client: Client) -> Any:
        client.cookies["sessionid"] = page
        return copy(client)

    answers = together(workshop, from_one_page)
    assert {answer.content for answer in answers} == {answers[0].content}
    assert [answer.status_code for answer in answers] == [201] * HANDS
    # Another session of the same person is told that it is done, and not what was answered.
    for answer in together(workshop, copy):
        assert (answer.status_code, answer.json()["type"]) == (409, "/problems/already-done")
    assert len(demo.get("/machines")) == before + 1


def test_a_key_is_one_person_s_for_one_change(demo: Api, stranger: Api) -> None:
    headers = {"idempotency-key": "key-of-mine-1"}
    circuit = {"name": "Mine", "closed": False, "elements": [{"length_m": 400}]}

    def send(api: Api, body: Any, path: str = "/api/circuits") -> Any:
        return api.client.post(path, body, content_type="application/json", headers=headers)

    assert send(demo, circuit).status_code == 201
    for answer in (send(demo, {**circuit, "name": "Other"}), send(demo, circuit, "/api/duties")):
        assert_problem(answer.json(), 422, once.HEADER)
    assert send(stranger, circuit).json()["id"] != send(demo, circuit).json()["id"]
    # A question keeps no key, so that it is answered anew each time.
    machine = demo.machine("Kit roadster")["id"]
    for _ in range(2):
        answer = demo.client.post(
            f"/api/machines/{machine}/verdict",
            {},
            content_type="application/json",
            headers={"idempotency-key": "ask-1-ask-1"},
        )
        assert "Idempotency-Replayed" not in answer
    refused = demo.client.post(
        "/api/circuits", circuit, content_type="application/json", headers={"idempotency-key": "a b"}
    )
    assert_problem(refused.json(), 422, once.HEADER)
    assert ChangeKey.objects.count() == 2


def test_the_key_is_kept_with_the_change_or_not_at_all(demo: Api) -> None:
    """As it is after a kill: between the change and its answer, and before the change was whole."""
    user = get_user_model().objects.get(username="demo")
    circuit = {"name": "Killed", "closed": False, "elements": [{"length_m": 400}]}

    def send() -> Any:
        headers = {"idempotency-key": "killed-in-between"}
        return demo.client.post("/api/circuits", circuit, content_type="application/json", headers=headers)

    assert send().status_code == 201
    ChangeKey.objects.update(status=None, content=b"")
    before = rows()
    answer = send()
    assert_problem(answer.json(), 409)
    assert answer.json()["type"] == "/problems/already-done"
    assert rows() == before

    def asked() -> Asked:
        workshop = Workshop.objects.get(members=user)
        return Asked(user_id=user.pk, key="half-done", operation="x", fingerprint="y", workshop_id=workshop.pk)

    def half() -> None:
        with asked_by(asked()), change():
            Workshop.objects.create(name="Half")
            raise ZeroDivisionError

    with pytest.raises(ZeroDivisionError):
        half()
    assert not Workshop.objects.filter(name="Half").exists()
    assert not ChangeKey.objects.filter(key="half-done").exists()
    for number in range(2):
        with asked_by(asked()):
            if number == 0:
                with change(), change():
                    Workshop.objects.create(name="Whole")
            else:
                with pytest.raises(AlreadyDone), change():
                    Workshop.objects.create(name="Whole")
    assert Workshop.objects.filter(name="Whole").count() == 1


@pytest.mark.parametrize(
    ("pragma", "undo", "status", "kind"),
    [
        ("PRAGMA query_only = ON", "PRAGMA query_only = OFF", 503, "read-only"),
        ("PRAGMA max_page_count = 1", "PRAGMA max_page_count = 1073741823", 507, "disk-full"),
    ],
)
def test_a_database_that_cannot_grow_or_be_written_says_so_and_keeps_what_it_has(
    demo: Api, pragma: str, undo: str, status: int, kind: str
) -> None:
    before = rows()
    circuit = {"name": "x" * 100, "closed": False, "elements": [{"length_m": 400}] * 200}
    with connection.cursor() as cursor:
        cursor.execute(pragma)
        try:
            for _ in range(60):
                answer = demo.client.post("/api/circuits", circuit, content_type="application/json")
                if answer.status_code != 201:
                    break
        finally:
            cursor.execute(undo)
    assert_problem(answer.json(), status)
    assert answer.json()["type"] == f"/problems/{kind}"
    kept = rows()
    # Whatever was answered as kept is there whole; what was not is not there at all.
    assert kept["CircuitElement"] - before["CircuitElement"] == 200 * (kept["Circuit"] - before["Circuit"])
    assert demo.post("/circuits", circuit, 201)
