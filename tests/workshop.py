"""A loaded demo workshop, a signed-in client, and a stranger's workshop beside it."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.test import Client

from thermaxis.apps.accounts.models import Membership, Workshop
from thermaxis.apps.garage import querysets
from thermaxis.apps.garage.models import Duty, Machine
from thermaxis.apps.workshop.actions.load_demo import load_demo


def today() -> dt.date:
    """The day it is when it is asked: a run that starts before midnight ends after it."""
    return dt.date.today()


@pytest.fixture
def workshop(db: None) -> Workshop:
    """The demo workshop, as the database has it before any test."""
    return load_demo(today())


@pytest.fixture
def demo(workshop: Workshop, client: Client) -> Api:
    """The API as the demo user sees it."""
    client.force_login(get_user_model().objects.get(username="demo"))
    return Api(client)


@pytest.fixture
def relay_roadster(demo: Api) -> str:
    """The path of the kit roadster, its duty the relay stint."""
    machine = f"/machines/{demo.machine('Kit roadster')['id']}"
    demo.put(f"{machine}/duty", {"duty_id": demo.duty("Relay stint, Tarn loop")})
    return machine


@pytest.fixture
def stranger(workshop: Workshop) -> Api:
    """The API as a member of another workshop sees it."""
    other = Workshop.objects.create(name="Other workshop")
    user = get_user_model().objects.create_user("stranger", password="long enough 7")
    Membership.objects.create(user=user, workshop=other)
    client = Client()
    client.force_login(user)
    return Api(client)


def machine_named(workshop: Workshop, name: str) -> Machine:
    return querysets.machines(workshop).get(name=name)


def duty_named(workshop: Workshop, name: str) -> Duty:
    return querysets.duties(workshop).get(name=name)


class Api:
    """A thin client: JSON in, JSON out, the status checked on the way."""

    def __init__(self, client: Client) -> None:
        self.client = client

    def call(self, method: str, path: str, body: Any = None, status: int = 200) -> Any:
        send: Callable[..., Any] = getattr(self.client, method)
        arguments = {} if body is None else {"data": body, "content_type": "application/json"}
        response = send(f"/api{path}", **arguments)
        assert response.status_code == status, response.content
        return response.json() if response.content else None

    def get(self, path: str, status: int = 200) -> Any:
        return self.call("get", path, status=status)

    def post(self, path: str, body: Any, status: int = 200) -> Any:
        return self.call("post", path, body, status)

    def put(self, path: str, body: Any, status: int = 200) -> Any:
        return self.call("put", path, body, status)

    def patch(self, path: str, body: Any, status: int = 200) -> Any:
        return self.call("patch", path, body, status)

    def machine(self, name: str) -> dict[str, Any]:
        """A machine of the list, by its name."""
        found: dict[str, Any] = next(row for row in self.get("/machines") if row["name"] == name)
        return found

    def duty(self, name: str) -> int:
        return int(next(row["id"] for row in self.get("/duties") if row["name"] == name))


def assert_problem(document: Any, status: int, field: str | None = None, said: str = "") -> None:
    """An RFC 9457 document with the status, and with the field it is about."""
    assert set(document) == {"type", "title", "status", "detail", "fields"}
    assert document["status"] == status
    assert document["type"].startswith("/problems/")
    assert said in document["detail"]
    if field is not None:
        assert field in [entry["field"] for entry in document["fields"]], document
