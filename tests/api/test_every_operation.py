"""Every operation, made from the schema, with real ids: it keeps its contract, and nobody else's rows are reached."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any
from urllib.parse import quote

import pytest
from django.contrib.auth import get_user_model
from django.db import transaction
from django.test import Client
from hypothesis import HealthCheck, Phase, given, settings

from tests.api.rows import OPEN, OPERATIONS, ROWS, name_of, number_of, with_rows_of
from tests.api.test_who_may import member
from tests.workshop import Api, assert_problem
from thermaxis.api.mount import PROBLEMS
from thermaxis.apps.accounts.models import Role, Workshop
from thermaxis.apps.accounts.scope import hangs_on_machines
from thermaxis.apps.garage.models import Owner
from thermaxis.apps.log.action import ACTIONS
from thermaxis.apps.log.models import LogEntry

pytestmark = pytest.mark.django_db
# Things the roadster is on, and no other: a set in its box, or one of the shelf, may be anybody's.
ANYBODY_S = {"pad_set_id", "thing_id"}
EXAMPLES = 4


def examples_of(operation: Any) -> int:
    """One where nothing can be asked in more than one way; few of a sheet of paper, which takes a second each."""
    raw = operation.definition.raw
    if "requestBody" not in raw and all(parameter["name"] in ROWS for parameter in raw.get("parameters", [])):
        return 1
    return 2 if any(word in name_of(operation) for word in ("pdf", "card", "book", "sheet")) else EXAMPLES


def address_of(case: Any, workshop: Workshop) -> str:
    """The address of a case with the row numbers of a workshop."""
    path = str(case.path)
    for name, value in case.path_parameters.items():
        number = number_of(name, workshop) if name in ROWS else value
        path = path.replace(f"{{{name}}}", quote(str(number), safe=""))
    return path


def asked(client: Client, case: Any, workshop: Workshop) -> Any:
    """The request of a case with the row numbers of a workshop in address and body."""
    path = address_of(case, workshop)
    query = with_rows_of({key: value for key, value in (case.query or {}).items() if value is not None}, workshop)
    send: Callable[..., Any] = getattr(client, case.method.lower())
    if (case.media_type or "").startswith("multipart/"):
        return send(path, {})
    body = with_rows_of(case.body, workshop) if isinstance(case.body, dict | list) else None
    if case.method.upper() == "GET":
        return send(path, query)
    return send(path, json.dumps(body if body is not None else {}), content_type="application/json")


@pytest.mark.parametrize("operation", OPERATIONS, ids=lambda operation: operation.label)
def test_an_operation_keeps_its_contract_and_reaches_nobody_else(
    operation: Any, demo: Api, filled: Workshop, stranger: Api
) -> None:
    """Of rows that are there their owner gets JSON of the contract or a problem, never a server error; a stranger and
    a driver of another machine get nothing.
    """
    dan = member(filled, Role.DRIVER, "dan")
    Owner.objects.create(workshop=filled, name="Dan", user=get_user_model().objects.get(username="dan"))
    tried = 0

    # No search for the smallest case: what takes a second takes minutes to make smaller.
    @settings(
        phases=(Phase.generate,),
        max_examples=examples_of(operation),
        deadline=None,
        derandomize=True,
        database=None,
        suppress_health_check=list(HealthCheck),
    )
    @given(case=operation.as_strategy())
    def run(case: Any) -> None:
        nonlocal tried
        tried += 1
        # Each request meets the rows as they were.
        with transaction.atomic():
            the_contract_is_kept(operation, demo.client, case, filled)
            transaction.set_rollback(True)
        if tried > 2:
            return
        with transaction.atomic():
            a_stranger_gets_nothing(operation, stranger.client, case, filled)
            if name_of(operation) not in OPEN:
                a_driver_of_another_machine_gets_nothing(operation, dan, case, filled)
            transaction.set_rollback(True)

    run()


def the_contract_is_kept(operation: Any, client: Client, case: Any, workshop: Workshop) -> None:
    """The status is one of those the schema names, and an error is a problem document."""
    path = address_of(case, workshop)
    query = {key: value for key, value in (case.query or {}).items() if value is not None}
    body = json.dumps(with_rows_of(case.body, workshop)) if isinstance(case.body, dict | list) else ""
    response = client.generic(case.method, path, body, content_type="application/json", query_params=query)
    known = {int(status) for status in operation.definition.raw["responses"] if status != "default"}
    assert response.status_code in known | set(PROBLEMS), (path, response.content)
    if response.status_code >= 400:
        assert_problem(response.json(), response.status_code)


def numbers_in(operation: Any) -> set[str]:
    """The names of the row numbers in an operation's address."""
    parameters = operation.definition.raw.get("parameters", [])
    return {parameter["name"] for parameter in parameters if parameter["in"] == "path" and parameter["name"] in ROWS}


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
            assert Role.DRIVER in ACTIONS[entry.act].roles
            assert entry.machine is None
        transaction.set_rollback(True)
    assert response.status_code < 500
    numbers = numbers_in(operation) - ANYBODY_S
    if any(hangs_on_machines(ROWS[number]()) for number in numbers):
        assert response.status_code in (400, 403, 404, 422), (response.status_code, response.content[:300])
    # Its name stands in no answer; a circuit and a duty of the workshop bear others.
    assert "Kit roadster" not in response.content.decode("utf-8", "replace")
