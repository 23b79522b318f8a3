"""Isolation and roles, made from the schema: every operation, with real ids of another workshop and in every role."""

from __future__ import annotations

import dis
import inspect
import json
import types
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any
from urllib.parse import quote

import pytest
from django.contrib.auth import get_user_model
from django.db import transaction
from django.test import Client
from hypothesis import HealthCheck, Phase, given, settings

from tests import builders
from tests.api.rows import OPEN, ROWS, number_of, with_rows_of
from tests.api.test_contract import OPERATIONS
from tests.workshop import Api, today
from thermaxis.api.mount import api
from thermaxis.apps.accounts.models import ApiKey, Membership, Role, Workshop
from thermaxis.apps.accounts.scope import hangs_on_machines
from thermaxis.apps.accounts.secrets import new_secret, print_of
from thermaxis.apps.garage.models import Machine, Owner
from thermaxis.apps.job.models import Job
from thermaxis.apps.log.models import LogEntry
from thermaxis.apps.log.roles import DRIVERS, ONE_S_OWN

pytestmark = pytest.mark.django_db
# Things the roadster is on, and no other: a set in its box, or one of the shelf, may be anybody's.
ANYBODY_S = {"pad_set_id", "thing_id"}


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


def each(operation: Any, check: Callable[[Any], None], examples: int = 3) -> None:
    # No search for the smallest case: what takes a second takes minutes to make smaller.
    @settings(
        phases=(Phase.generate,),
        max_examples=examples,
        deadline=None,
        derandomize=True,
        database=None,
        suppress_health_check=list(HealthCheck),
    )
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


def member(workshop: Workshop, role: Role, name: str = "") -> Client:
    user = get_user_model().objects.create_user(name or f"the {role}")
    Membership.objects.create(user=user, workshop=workshop, role=role)
    client = Client()
    client.force_login(user)
    return client


def mine(workshop: Workshop, role: str) -> None:
    """The machine the numbers are of belongs to this member."""
    owner = Machine.objects.of(workshop).get(name="Kit roadster").owner
    owner.user = get_user_model().objects.get(username=f"the {role}")
    owner.save()
    Job.objects.of(workshop).update(started_by=f"the {role}")


def with_key(workshop: Workshop, reach: str) -> Client:
    """A key of an owner, of this reach."""
    owner = Membership.objects.filter(workshop=workshop, role=Role.OWNER)[0].user
    secret = new_secret()
    ApiKey.objects.create(user=owner, workshop=workshop, name="B", reach=reach, print=print_of(secret))
    return Client(headers={"Authorization": f"Bearer {secret}"})


KEYS = ("key: all", "key: readings", "key: read")
WHO = ("owner", "fitter", "driver", "reader", *KEYS)
# Operation: who may, in the order above, a dot for who may not. Written by hand: what the code grants is held to it.
TABLE: dict[str, str] = json.loads((Path(__file__).parents[1] / "data" / "who_may.json").read_text("utf-8"))
LETTERS = "ofdrAWR"


def test_the_table_has_every_operation_and_no_other() -> None:
    assert set(TABLE) == {name_of(operation) for operation in OPERATIONS} - OPEN
    for name, cells in TABLE.items():
        assert all(cell in (letter, ".") for cell, letter in zip(cells, LETTERS, strict=True)), name
        # Who may more, may all that who may less may.
        for less, more in (("f", "o"), ("d", "o"), ("r", "o"), ("A", "o"), ("W", "A"), ("R", "W")):
            assert less not in cells or more in cells, name
    # A change that a reader or a key for reading may make is one of the person's own.
    assert {name for name in ACTS if "r" in TABLE[name]} == {"make_key", "withdraw_key", "leave_workshop", "forget_me"}


def numbers_in(operation: Any) -> set[str]:
    """The names of the row numbers in an operation's address."""
    parameters = operation.definition.raw.get("parameters", [])
    return {parameter["name"] for parameter in parameters if parameter["in"] == "path" and parameter["name"] in ROWS}


@pytest.mark.parametrize("operation", OPERATIONS, ids=lambda operation: operation.label)
def test_who_may_what(operation: Any, filled: Workshop, stranger: Api) -> None:
    """Every cell, a stranger and a driver of another machine: all of an operation at once, for its rows take long."""
    name = name_of(operation)
    clients = {who: with_key(filled, who[5:]) if who in KEYS else member(filled, Role(who)) for who in WHO}
    mine(filled, "driver")
    dan = member(filled, Role.DRIVER, "dan")
    Owner.objects.create(workshop=filled, name="Dan", user=get_user_model().objects.get(username="dan"))
    # Who keeps the server owns every workshop on it.
    everybody_s = get_user_model().objects.get(username="the owner")
    for workshop in Workshop.objects.exclude(pk=filled.pk):
        Membership.objects.create(user=everybody_s, workshop=workshop, role=Role.OWNER)

    def check(case: Any) -> None:
        a_stranger_gets_nothing(operation, stranger.client, case, filled)
        if name in OPEN:
            return
        a_driver_of_another_machine_gets_nothing(operation, dan, case, filled)
        for cell, (who, client) in zip(TABLE[name], clients.items(), strict=True):
            with transaction.atomic():
                before = LogEntry.objects.count()
                response = asked(client, case, filled)
                if cell == ".":
                    assert LogEntry.objects.count() == before, who
                transaction.set_rollback(True)
            assert response.status_code < 500
            if cell != ".":
                # Who may is never told that it is not theirs.
                assert response.status_code != 403, (who, response.content[:300])
            else:
                # Refused, or so wrong that nobody asked who it is.
                assert response.status_code in (400, 403, 404, 409, 422), (who, response.content[:300])

    # A sheet of paper takes seven people a second each.
    each(operation, check, 1 if any(word in name for word in ("pdf", "card", "book")) else 2)


def a_stranger_gets_nothing(operation: Any, client: Client, case: Any, workshop: Workshop) -> None:
    """With another workshop's numbers a stranger gets nothing, changes nothing, and is told it is not there."""
    before = LogEntry.objects.filter(workshop=workshop).count()
    response = asked(client, case, workshop)
    assert response.status_code < 500
    assert LogEntry.objects.filter(workshop=workshop).count() == before
    # A list may be asked for without a machine: then it is the stranger's own.
    in_query = any(key in ROWS and value is not None for key, value in (case.query or {}).items())
    if (numbers_in(operation) or in_query) and name_of(operation) not in OPEN:
        assert response.status_code in (404, 422), response.content[:200]
    for secret in ("Kit roadster", "Tarnside", "Corrie"):
        assert secret not in response.content.decode("utf-8", "replace")


def a_driver_of_another_machine_gets_nothing(operation: Any, client: Client, case: Any, workshop: Workshop) -> None:
    """Asked for by its number, or in any list: a driver of one machine does not find the others, nor change them."""
    before = LogEntry.objects.count()
    with transaction.atomic():
        response = asked(client, case, workshop)
        for entry in LogEntry.objects.order_by("-pk")[: LogEntry.objects.count() - before]:
            assert entry.act in DRIVERS | ONE_S_OWN
            assert entry.machine is None
        transaction.set_rollback(True)
    assert response.status_code < 500
    numbers = numbers_in(operation) - ANYBODY_S
    if any(hangs_on_machines(ROWS[number]()) for number in numbers):
        assert response.status_code in (400, 403, 404, 422), (response.status_code, response.content[:300])
    # Its name stands in no answer; a circuit and a duty of the workshop bear others.
    assert "Kit roadster" not in response.content.decode("utf-8", "replace")


def test_a_driver_measures_their_own_machine_and_nobody_elses(filled: Workshop) -> None:
    client = member(filled, Role.DRIVER)
    mine(filled, "driver")
    own = Machine.objects.of(filled).get(name="Kit roadster")
    other = Machine.objects.of(filled).exclude(owner=own.owner)[0]
    for machine, status in ((own, 200), (other, 404)):
        ask = {"axle": "front", "thickness_m": 0.004, "odometer_km": machine.odometer_km, "measured_on": str(today())}
        answer = client.post(f"/api/machines/{machine.pk}/measurements", ask, content_type="application/json")
        assert answer.status_code == status, answer.content
    refused = client.patch(f"/api/machines/{own.pk}", {"changes": {}}, content_type="application/json")
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
