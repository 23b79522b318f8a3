"""Isolation and roles, made from the schema: every operation, with real ids of another workshop and in every role."""

from __future__ import annotations

import dis
import inspect
import json
import types
from collections.abc import Callable, Iterator
from typing import Any
from urllib.parse import quote

import pytest
from django.contrib.auth import get_user_model
from django.db import transaction
from django.test import Client
from hypothesis import HealthCheck, given, settings

from tests import builders
from tests.api.rows import ROWS, number_of, with_rows_of
from tests.api.test_contract import OPERATIONS
from tests.workshop import Api, today
from thermaxis.api.mount import api
from thermaxis.apps.accounts.models import Membership, Role, Workshop
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.models import LogEntry
from thermaxis.apps.log.roles import DRIVERS

pytestmark = pytest.mark.django_db
# Without a session, and of the session itself.
OPEN = {"sign_in", "shared", "shared_pdf", "calendar_feed"}
OWN = {"session", "sign_out", "change_password", "choose_workshop"}


def asked(client: Client, case: Any, workshop: Workshop) -> Any:
    """The request of a case with the row numbers of a workshop in address and body."""
    path = case.path
    for name, value in case.path_parameters.items():
        number = number_of(name, workshop) if name in ROWS else value
        path = path.replace(f"{{{name}}}", quote(str(number), safe=""))
    query = with_rows_of({key: value for key, value in (case.query or {}).items() if value is not None}, workshop)
    send: Callable[..., Any] = getattr(client, case.method.lower())
    if (case.media_type or "").startswith("multipart/"):
        return send(path, {})
    body = with_rows_of(case.body, workshop) if isinstance(case.body, dict | list) else None
    if case.method.upper() == "GET":
        return send(path, query)
    return send(path, json.dumps(body if body is not None else {}), content_type="application/json")


def each(operation: Any, check: Callable[[Any], None]) -> None:
    @settings(max_examples=3, deadline=None, derandomize=True, database=None, suppress_health_check=list(HealthCheck))
    @given(case=operation.as_strategy())
    def run(case: Any) -> None:
        with transaction.atomic():
            check(case)
            transaction.set_rollback(True)

    run()


def name_of(operation: Any) -> str:
    return str(operation.definition.raw["operationId"])


def acting() -> Iterator[str]:
    """Operations whose handler reaches an action, by what its code names; one step into helpers beside it."""
    for _, router in api._routers:
        for view in router.path_operations.values():
            for operation in view.operations:
                if any(_is_action(found) for found in _reached(inspect.unwrap(operation.view_func))):
                    yield str(operation.operation_id)


def _reached(function: Any, deep: bool = True) -> Iterator[Any]:
    code = list(dis.get_instructions(function))
    attributes = {str(step.argval) for step in code if step.opname in ("LOAD_ATTR", "LOAD_METHOD")}
    for name in {str(step.argval) for step in code if step.opname == "LOAD_GLOBAL"}:
        found = function.__globals__.get(name)
        yield found
        if isinstance(found, types.ModuleType):
            yield from (getattr(found, attribute, None) for attribute in attributes)
        if deep and isinstance(found, types.FunctionType) and found.__module__ == function.__module__:
            yield from _reached(found, deep=False)


def _is_action(found: Any) -> bool:
    if not isinstance(found, types.FunctionType):
        return False
    return ".actions" in found.__module__ and "scope" in inspect.signature(found).parameters


ACTS = frozenset(acting())


def test_the_table_knows_every_number_and_finds_every_change() -> None:
    for operation in OPERATIONS:
        for parameter in operation.definition.raw.get("parameters", []):
            if parameter["in"] == "path" and parameter["name"].endswith("_id"):
                assert parameter["name"] in ROWS, name_of(operation)
    assert {"change_machine", "fit_set", "enter_cells", "import_table", "remove_photo", "keep_run"} <= ACTS
    assert not {"candidates", "verdict", "drive", "read_table", "balance"} & ACTS
    assert len(ACTS) > 40


@pytest.mark.parametrize("operation", OPERATIONS, ids=lambda operation: operation.label)
def test_nobody_reaches_into_another_workshop(operation: Any, filled: Workshop, stranger: Api) -> None:
    """With another workshop's numbers a stranger gets nothing, changes nothing, and is told it is not there."""
    parameters = operation.definition.raw.get("parameters", [])
    in_path = any(parameter["name"] in ROWS for parameter in parameters if parameter["in"] == "path")
    before = LogEntry.objects.filter(workshop=filled).count()

    def check(case: Any) -> None:
        response = asked(stranger.client, case, filled)
        assert response.status_code < 500
        assert LogEntry.objects.filter(workshop=filled).count() == before
        # A list may be asked for without a machine: then it is the stranger's own.
        named = in_path or any(key in ROWS and value is not None for key, value in (case.query or {}).items())
        if named and name_of(operation) not in OPEN:
            assert response.status_code in (404, 422), response.content[:200]
        for secret in ("Kit roadster", "Tarnside", "Corrie"):
            assert secret not in response.content.decode("utf-8", "replace")

    each(operation, check)


def member(workshop: Workshop, role: Role) -> Client:
    user = get_user_model().objects.create_user(f"the {role}")
    Membership.objects.create(user=user, workshop=workshop, role=role)
    client = Client()
    client.force_login(user)
    return client


@pytest.mark.parametrize("operation", OPERATIONS, ids=lambda operation: operation.label)
def test_a_reader_sees_everything_and_changes_nothing(operation: Any, filled: Workshop) -> None:
    client, name = member(filled, Role.READER), name_of(operation)
    before = LogEntry.objects.count()

    def check(case: Any) -> None:
        response = asked(client, case, filled)
        assert LogEntry.objects.count() == before
        if name in ACTS:
            # Not allowed, or so wrong that nobody asked who it is.
            assert response.status_code in (400, 403, 409, 422, 404), (response.status_code, response.content[:200])
        elif name not in OPEN | OWN:
            assert response.status_code != 403, response.content[:200]

    each(operation, check)


@pytest.mark.parametrize("operation", [entry for entry in OPERATIONS if name_of(entry) in ACTS], ids=lambda o: o.label)
def test_a_driver_changes_what_is_a_drivers_on_machines_of_their_own(operation: Any, filled: Workshop) -> None:
    client = member(filled, Role.DRIVER)
    before = LogEntry.objects.count()

    def check(case: Any) -> None:
        response = asked(client, case, filled)
        assert response.status_code < 500
        # No machine here is theirs: what is left are duties, circuits and runs, which belong to no machine.
        for entry in LogEntry.objects.order_by("-pk")[: LogEntry.objects.count() - before]:
            assert entry.act in DRIVERS
            assert entry.machine is None

    each(operation, check)


def test_a_driver_measures_their_own_machine_and_nobody_elses(filled: Workshop) -> None:
    client = member(filled, Role.DRIVER)
    mine = Machine.objects.of(filled).get(name="Kit roadster")
    mine.owner.user = get_user_model().objects.get(username="the driver")
    mine.owner.save()
    other = Machine.objects.of(filled).exclude(owner=mine.owner)[0]
    for machine, status in ((mine, 200), (other, 403)):
        ask = {"axle": "front", "thickness_m": 0.004, "odometer_km": machine.odometer_km, "measured_on": str(today())}
        answer = client.post(f"/api/machines/{machine.pk}/measurements", ask, content_type="application/json")
        assert answer.status_code == status, answer.content
    refused = client.patch(f"/api/machines/{mine.pk}", {"changes": {}}, content_type="application/json")
    assert refused.json()["type"] == "/problems/role"


def test_a_member_of_two_workshops_chooses(filled: Workshop, demo: Api) -> None:
    other = builders.workshop("Second workshop")
    user = get_user_model().objects.get(username="demo")
    Membership.objects.create(user=user, workshop=other, role=Role.READER)
    assert [row["name"] for row in demo.get("/session")["workshops"]] == [filled.name, "Second workshop"]
    assert demo.put("/session/workshop", {"workshop_id": other.pk})["role"] == "reader"
    assert demo.get("/machines") == []
    answer = demo.client.post("/api/circuits", {"name": "A", "closed": False}, content_type="application/json")
    assert answer.status_code in (403, 422)
    demo.put("/session/workshop", {"workshop_id": filled.pk})
    assert len(demo.get("/machines")) == 5
    demo.put("/session/workshop", {"workshop_id": builders.workshop("Not mine").pk}, 404)


def test_two_people_who_change_the_same_are_both_told(filled: Workshop, demo: Api) -> None:
    path = f"/machines/{number_of('machine_id', filled)}"
    demo.patch(path, {"changes": {"vehicle.mass_kg": 700}, "seen": {"vehicle.mass_kg": 690}})
    answer = demo.patch(path, {"changes": {"vehicle.mass_kg": 710}, "seen": {"vehicle.mass_kg": 690}}, 409)
    (field,) = answer["fields"]
    assert answer["type"] == "/problems/changed"
    assert (field["field"], float(field["value"]), float(field["allowed"])) == ("vehicle.mass_kg", 710, 700)
    assert demo.get(path)["values"]["vehicle.mass_kg"] == 700
    # Another value of the same machine, and the same value once more, are nobody's loss.
    demo.patch(path, {"changes": {"vehicle.cg_height_m": 0.41}, "seen": {"vehicle.cg_height_m": 0.43}}, 409)
    now = demo.get(path)["values"]["vehicle.cg_height_m"]
    demo.patch(path, {"changes": {"vehicle.cg_height_m": 0.41}, "seen": {"vehicle.cg_height_m": now}})
    demo.patch(path, {"changes": {"vehicle.mass_kg": 700}, "seen": {"vehicle.mass_kg": 690}})
    demo.put(f"{path}/words", {"words": {"note": "mine"}, "seen": {"note": "not this"}}, 409)
    parts = {"changes": {"front.rotor.thickness_m": 0.0195}, "seen": {"front.rotor.thickness_m": 0.019}}
    demo.patch(f"{path}/parts", parts, 409)
    duty = demo.get("/duties")[0]
    body = {key: value for key, value in duty.items() if key not in ("id", "circuit", "run")}
    demo.put(f"/duties/{duty['id']}", {**body, "note": "first"})
    assert demo.put(f"/duties/{duty['id']}", {**body, "note": "second"}, 409)["type"] == "/problems/changed"
    circuit = demo.get("/circuits")[0]
    renamed = {**circuit, "name": "Renamed"}
    demo.put(f"/circuits/{circuit['id']}", renamed)
    demo.put(f"/circuits/{circuit['id']}", renamed, 409)
    sheet = demo.post(f"{path}/inspections", {"measured_on": str(today()), "odometer_km": 8412})["id"]

    def enter(value: float, seen: float | None) -> Any:
        cells = {"front_left.pad_inner_1": {"value": value, "seen": seen, "confirmed": True}}
        return demo.put(f"/inspections/{sheet}/cells", {"cells": cells})["clashes"]

    assert enter(0.0088, None) == []
    assert enter(0.0086, None) == [{"name": "front_left.pad_inner_1", "kept": 0.0088}]
    assert enter(0.0086, 0.0088) == []
