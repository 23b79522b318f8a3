"""Isolation and roles, made from the schema: every operation, with real ids of another workshop and in every role."""

from __future__ import annotations

import contextlib
import dis
import inspect
import json
import types
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.db import transaction
from django.test import Client
from ninja.constants import NOT_SET

from tests import builders
from tests.api.rows import OPEN, OPERATIONS, ROWS, name_of, number_of
from tests.workshop import Api, today
from thermaxis.api.mount import api
from thermaxis.apps.accounts.errors import NotAllowed, NotThere
from thermaxis.apps.accounts.models import ApiKey, Membership, Reach, Role, Workshop
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.accounts.secrets import new_secret, print_of
from thermaxis.apps.garage.models import Machine, Owner
from thermaxis.apps.job.models import Job
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import ACTIONS, Action

pytestmark = pytest.mark.django_db


def handlers() -> Iterator[tuple[str, Any, Any]]:
    """Every operation's name, its handler and the door before it."""
    for _, router in api._routers:
        for view in router.path_operations.values():
            for operation in view.operations:
                door = router.auth if operation.auth_param is NOT_SET else operation.auth_param
                yield str(operation.operation_id), inspect.unwrap(operation.view_func), door


def actions_of(function: Any, seen: set[Any]) -> set[Action]:
    """The actions a function may open first, by what its code names: one within another asks for nothing of its own."""
    code = list(dis.get_instructions(function))
    attributes = {str(step.argval) for step in code if step.opname in ("LOAD_ATTR", "LOAD_METHOD")}
    reached = [function.__globals__.get(str(step.argval)) for step in code if step.opname == "LOAD_GLOBAL"]
    for module in [found for found in reached if isinstance(found, types.ModuleType)]:
        reached += [getattr(module, attribute, None) for attribute in attributes]
    named = {found for found in reached if isinstance(found, Action)}
    if named:
        return named
    seen.add(function)
    return {
        action
        for found in reached
        if isinstance(found, types.FunctionType) and found not in seen and _may_act(function, found)
        for action in actions_of(inspect.unwrap(found), seen)
    }


def _may_act(function: Any, found: Any) -> bool:
    """Whether to look into what a function calls: an action, or a helper beside it that hands one on."""
    return ".actions" in found.__module__ or found.__module__ == function.__module__


ACTS = {name: actions_of(handler, set()) for name, handler, _ in handlers()}
# A key is withdrawn by its person, or by an owner under another name; who may share is asked to show the address.
ACTS |= {"withdraw_key": {ACTIONS["withdraw_key"]}, "decision": set()}
DOORS = {name: door for name, _, door in handlers()}


def test_the_table_knows_every_number_and_finds_every_change() -> None:
    for operation in OPERATIONS:
        for parameter in operation.definition.raw.get("parameters", []):
            if parameter["in"] == "path" and parameter["name"].endswith("_id"):
                assert parameter["name"] in ROWS, name_of(operation)
    reached = {action.name for actions in ACTS.values() for action in actions}
    assert reached == set(ACTIONS)
    assert not any(ACTS[name] for name in ("candidates", "verdict", "drive", "read_table", "balance"))


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


KEYS = {"key: all": Reach.ALL, "key: readings": Reach.READINGS, "key: read": Reach.READ}
ROLES = {"owner": Role.OWNER, "fitter": Role.FITTER, "driver": Role.DRIVER, "reader": Role.READER}
# Operation: who may, roles and an owner's keys, a dot for who may not. Written by hand: the code is held to it.
TABLE: dict[str, str] = json.loads((Path(__file__).parents[1] / "data" / "who_may.json").read_text("utf-8"))
LETTERS = dict(zip([*ROLES, *KEYS], "ofdrAWR", strict=True))


def granted(name: str) -> str:
    """Who may, as the code has it: through the door, and as far as each action it may open."""
    door, cells = DOORS[name], ""
    for who, letter in LETTERS.items():
        role, reach = ROLES.get(who, Role.OWNER), KEYS.get(who, Reach.ALL)
        enters = role in door.roles and (who in ROLES or door.by_key)
        cells += letter if enters and all(action.open_to(role, reach) for action in ACTS[name]) else "."
    return cells


def test_who_may_what_is_what_the_table_says() -> None:
    """Every operation, every role and key, exactly."""
    assert set(TABLE) == {name_of(operation) for operation in OPERATIONS} - OPEN
    assert {name: granted(name) for name in TABLE} == TABLE
    # A change that a reader or a key for reading may make is one of the person's own.
    own = {name for name, actions in ACTS.items() if actions and "r" in TABLE.get(name, "")}
    assert own == {"make_key", "withdraw_key", "leave_workshop", "forget_me", "join_workshop"}


def test_every_action_is_as_far_open_as_it_was_meant() -> None:
    """Whatever door is before it: an action alone, by every role and key, exactly."""
    found = {
        name: "".join(
            letter if action.open_to(ROLES.get(who, Role.OWNER), KEYS.get(who, Reach.ALL)) else "."
            for who, letter in LETTERS.items()
        )
        for name, action in ACTIONS.items()
    }
    assert found == json.loads((Path(__file__).parents[1] / "data" / "actions.json").read_text("utf-8"))


@pytest.mark.parametrize("action", ACTIONS.values(), ids=lambda action: str(action.name))
def test_the_one_door_holds_every_action_to_its_declaration(action: Action, workshop: Workshop) -> None:
    """Every role and key; and a driver does not end what somebody else began."""
    user = get_user_model().objects.get(username="demo")
    job = Job.objects.of(workshop)[0]
    Owner.objects.filter(pk=job.machine.owner_id).update(user=user)
    for who in LETTERS:
        for begun_by in ("demo", "somebody else"):
            Job.objects.filter(pk=job.pk).update(started_by=begun_by)
            role, reach = ROLES.get(who, Role.OWNER), KEYS.get(who, Reach.ALL)
            scope = Scope(workshop=workshop, user=user, role=role, reach=reach)
            not_theirs = action.begun_by_self and role == Role.DRIVER and begun_by != "demo"
            with contextlib.ExitStack() as stack:
                if not_theirs or not action.open_to(role, reach):
                    stack.enter_context(pytest.raises(NotAllowed))
                with act(scope, action, job) as entry:
                    entry.nothing = True


def test_no_action_reaches_a_row_of_another_workshop(workshop: Workshop) -> None:
    stranger = builders.owner(builders.workshop("Another workshop"))
    with pytest.raises(NotThere), act(stranger, ACTIONS["close_job"], Job.objects.of(workshop)[0]):
        pytest.fail("the door was open")


def test_what_a_driver_ends_they_began(workshop: Workshop) -> None:
    assert {name for name, action in ACTIONS.items() if action.begun_by_self} == {
        "close_job",
        "abandon_job",
        "reopen_job",
    }


def test_each_caller_is_let_in_or_told_no_over_http(filled: Workshop) -> None:
    """One reading, one change of the crew's, one of a driver's, one reading of a gauge and one of an owner's, by each."""
    clients = {who: with_key(filled, who[5:]) if who in KEYS else member(filled, Role(who)) for who in LETTERS}
    mine(filled, "driver")
    machine = Machine.objects.of(filled).get(name="Kit roadster")
    path = f"/api/machines/{machine.pk}"
    km = machine.odometer_km
    gauge = {"axle": "front", "thickness_m": 0.004, "odometer_km": km, "measured_on": str(today())}
    note = {"text": "a note", "on": str(today()), "machine_id": machine.pk}
    requests: dict[str, tuple[str, str, Any, int]] = {
        "machine": ("get", path, None, 200),
        "change_machine": ("patch", path, {"changes": {"vehicle.mass_kg": 701}}, 200),
        "measure": ("post", f"{path}/measurements", gauge, 200),
        "write_note": ("post", "/api/log", note, 201),
        "people": ("get", "/api/members", None, 200),
    }
    for name, (method, address, body, status) in requests.items():
        for cell, (who, client) in zip(TABLE[name], clients.items(), strict=True):
            with transaction.atomic():
                sent = {} if body is None else {"data": json.dumps(body), "content_type": "application/json"}
                answer = getattr(client, method)(address, **sent)
                transaction.set_rollback(True)
            assert answer.status_code == (status if cell != "." else 403), (name, who, answer.content[:200])


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
