"""Signing in: guessing is held off by name and address together, passwords are strong, a change ends other sessions."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest
from axes.models import AccessFailureLog
from django.contrib.auth import get_user_model
from django.test import Client

from tests.workshop import assert_problem
from thermaxis.api.edge import LIMITS
from thermaxis.apps.accounts.models import Membership, Workshop
from thermaxis.apps.accounts.sessions import MOST_BY_ADDRESS, MOST_BY_NAME
from thermaxis.config import server

pytestmark = pytest.mark.django_db
GOOD, BAD = "tarn-and-fell-91", "wrong"


@pytest.fixture
def ada(workshop: Workshop) -> str:
    for name in ("ada", "ben"):
        user = get_user_model().objects.create_user(name, password=GOOD)
        Membership.objects.create(user=user, workshop=workshop)
    return "ada"


def sign_in(name: str, password: str, address: str = "192.0.2.1", client: Client | None = None) -> Any:
    body = {"username": name, "password": password}
    return (client or Client()).post("/api/session", body, content_type="application/json", REMOTE_ADDR=address)


def test_one_person_s_guesses_lock_nobody_else_out(ada: str) -> None:
    for _ in range(8):
        sign_in("ada", BAD)
    assert_problem(sign_in("ada", GOOD).json(), 429)
    # The same door, another person; the same person, another door.
    assert sign_in("ben", GOOD).status_code == 200
    assert sign_in("ada", GOOD, "192.0.2.2").status_code == 200


def test_a_wrong_name_and_a_wrong_password_are_told_alike(ada: str) -> None:
    known, unknown = sign_in("ada", BAD), sign_in("nobody at all", BAD)
    assert known.json() == unknown.json()
    assert_problem(known.json(), 401, said="The name or the password is wrong")


def test_many_addresses_do_not_guess_one_name_for_ever(ada: str) -> None:
    home = "198.51.100.7"
    assert sign_in("ada", GOOD, home).status_code == 200
    tried = 0
    for address in range(30):
        for _ in range(8):
            answer = sign_in("ada", BAD, f"203.0.113.{address}")
            tried += answer.status_code == 401
    assert tried <= MOST_BY_NAME
    assert sign_in("ada", GOOD, "203.0.113.200").status_code == 429
    # Where she has been before, she still comes in; and everybody else anywhere.
    assert sign_in("ada", GOOD, home).status_code == 200
    assert sign_in("ben", GOOD, "203.0.113.200").status_code == 200


def test_one_address_does_not_try_every_name(ada: str) -> None:
    assert sign_in("ben", GOOD, "203.0.113.9").status_code == 200
    AccessFailureLog.objects.bulk_create(
        AccessFailureLog(username=f"name {n}", ip_address="203.0.113.9", http_accept="", path_info="")
        for n in range(MOST_BY_ADDRESS)
    )
    assert sign_in("ada", GOOD, "203.0.113.9").status_code == 429
    assert sign_in("ben", GOOD, "203.0.113.9").status_code == 200
    assert sign_in("ada", GOOD, "203.0.113.10").status_code == 200


def change(client: Client, current: str, new: str) -> Any:
    body = {"current": current, "new": new}
    return client.put("/api/session/password", body, content_type="application/json")


@pytest.mark.parametrize("new", ["short7", "password123", "1234567890123"])
def test_weak_passwords_are_refused_with_the_reason(ada: str, new: str) -> None:
    client = Client()
    sign_in("ada", GOOD, client=client)
    answer = change(client, GOOD, new)
    assert_problem(answer.json(), 422, "new")
    assert new not in answer.content.decode()
    assert sign_in("ada", GOOD).status_code == 200


def test_another_password_ends_every_other_session(ada: str) -> None:
    here, there = Client(), Client()
    for client in (here, there):
        assert sign_in("ada", GOOD, client=client).status_code == 200
    assert_problem(change(here, BAD, "another-long-one-4").json(), 422, "current")
    assert there.get("/api/session").status_code == 200
    assert change(here, GOOD, "another-long-one-4").status_code == 204
    assert here.get("/api/session").status_code == 200
    assert there.get("/api/session").status_code == 401
    assert sign_in("ada", GOOD, "192.0.2.3").status_code == 401
    assert sign_in("ada", "another-long-one-4", "192.0.2.3").status_code == 200


def test_guessing_the_present_password_is_held_off_as_well(ada: str) -> None:
    client = Client()
    sign_in("ada", GOOD, "127.0.0.1", client)
    answers = [change(client, BAD, "another-long-one-4").status_code for _ in range(9)]
    assert answers[0] == 422
    assert answers[-1] == 429


def test_one_setting_makes_a_public_server_s_settings_safe(tmp_path: Path) -> None:
    environment = {
        **os.environ,
        "THERMAXIS_VAR": str(tmp_path),
        "THERMAXIS_HTTPS": "1",
        "THERMAXIS_HOSTS": "brakes.example",
        "DJANGO_SETTINGS_MODULE": "thermaxis.config.settings",
    }
    # Set for these tests only.
    del environment["DJANGO_ALLOW_ASYNC_UNSAFE"]
    done = subprocess.run(
        [sys.executable, "manage.py", "check", "--deploy", "--fail-level", "WARNING"],
        cwd=Path(__file__).parents[2],
        env=environment,
        capture_output=True,
        text=True,
    )
    assert done.returncode == 0, done.stderr
    show = (
        "from django.conf import settings as s; "
        "print(s.SESSION_COOKIE_SECURE, s.CSRF_COOKIE_SECURE, s.SECURE_SSL_REDIRECT, s.SECURE_HSTS_SECONDS)"
    )
    shown = subprocess.run(
        [sys.executable, "-c", show], cwd=Path(__file__).parents[2], env=environment, capture_output=True, text=True
    )
    assert shown.stdout.split() == ["True", "True", "True", "31536000"]
    debug = {**environment, "THERMAXIS_DEBUG": "1"}
    refused = subprocess.run(
        [sys.executable, "-m", "thermaxis.config.server"],
        cwd=Path(__file__).parents[2],
        env=debug,
        capture_output=True,
        text=True,
    )
    assert refused.returncode == 1
    assert "THERMAXIS_DEBUG" in refused.stderr


def test_the_server_takes_in_whatever_an_address_may_bring() -> None:
    """What it refuses before the application sees it, nobody is told the limit of: that is the address's to say."""
    assert max(most for _, most in LIMITS) < server.MOST_BYTES
