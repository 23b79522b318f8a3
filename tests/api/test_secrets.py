"""What is shown once, who is given it, and where else it stands: each of these was found open by an attack."""

from __future__ import annotations

import contextlib
import datetime as dt
import json
import sqlite3
from pathlib import Path
from typing import Any

import pyotp
import pytest
from django.db import transaction
from django.test import Client
from django.utils import timezone
from django_otp.plugins.otp_totp.models import TOTPDevice

from tests.api.test_people import GOOD, bearer, member_of, person, post, sign_in
from tests.workshop import Api, assert_problem, today
from thermaxis.api.mount import api
from thermaxis.apps.accounts.ended import note_ended
from thermaxis.apps.accounts.models import ChangeKey, Membership, OneTimeAddress, Role, Workshop
from thermaxis.apps.accounts.sealing import is_sealed, opened
from thermaxis.apps.people.addresses import reset_address
from thermaxis.apps.safekeeping.restoring import Checked, put_back
from thermaxis.apps.season.models import CalendarFeed
from thermaxis.config.access_log import OWN
from thermaxis.core.errors import SolveError
from thermaxis.formats.backup_file import Head, read_backup

pytestmark = pytest.mark.django_db
KEY = {"idempotency-key": "one-key-of-mine"}
WORDS = "horse battery staple 9"


def ask(client: Client, path: str, body: Any, **headers: str) -> Any:
    return client.post(f"/api{path}", body, content_type="application/json", headers={**KEY, **headers})


# --- what is asked twice ---------------------------------------------------------------------------------------------


def secret_operations() -> dict[str, Any]:
    """Of each operation whose answer has a secret in it, by its schema, what it is declared with."""
    document = api.get_openapi_schema(path_prefix="/api/")
    schemas = document["components"]["schemas"]
    found = {}
    for path in document["paths"].values():
        for method, operation in path.items():
            answers = [row.get("content", {}) for row in operation["responses"].values()]
            names = {
                content["application/json"]["schema"].get("$ref", "").rpartition("/")[2]
                for content in answers
                if "application/json" in content
            }
            shown = {name for name in names if name and {"secret", "codes"} & set(schemas[name].get("properties", {}))}
            if shown and method != "get":
                found[operation["operationId"]] = shown
    return found


def test_every_operation_that_shows_a_secret_is_marked_as_such() -> None:
    marked = {
        operation.operation_id
        for _, router in api._routers
        for view in router.path_operations.values()
        for operation in view.operations
        if getattr(operation.run, "gives_secret", False)
    }
    assert marked == set(secret_operations())
    assert marked == {"invite", "give_reset", "make_key", "begin_second", "finish_second", "new_codes"}


def test_a_secret_is_shown_once_and_stored_nowhere(demo: Api, workshop: Workshop) -> None:
    """An invitation, a reset and a key were given again for three days, out of plain text."""
    ben = person(workshop, "ben")
    asks = {
        "/me/keys": {"name": "logger", "reach": "all"},
        "/addresses": {"role": "fitter", "note": "", "machines_of": ""},
        f"/members/{member_of(demo, 'ben')['id']}/reset": {},
    }
    for number, (path, body) in enumerate(asks.items()):
        headers = {"idempotency-key": f"secret-number-{number}"}
        first = demo.client.post(f"/api{path}", body, content_type="application/json", headers=headers)
        assert first.status_code == 201
        again = demo.client.post(f"/api{path}", body, content_type="application/json", headers=headers)
        assert_problem(again.json(), 409, said="make a new one")
        assert first.json()["secret"] not in again.content.decode()
    begun = ask(ben.client, "/me/second", {"password": GOOD})
    assert_problem(ask(ben.client, "/me/second", {"password": GOOD}).json(), 409, said="make a new one")
    assert begun.status_code == 200
    assert not ChangeKey.objects.exclude(content=b"").exists()
    assert OneTimeAddress.objects.count() == 2


def test_a_key_is_looked_up_behind_the_door(demo: Api, workshop: Workshop) -> None:
    """It answered a narrower API key, an ended session, and a request without CSRF token."""
    ada = person(workshop, "ada")
    note = {"text": "Written once", "on": str(today())}
    first = ask(ada.client, "/log", note)
    assert first.status_code == 201
    assert ask(ada.client, "/log", note)["Idempotency-Replayed"] == "true"
    # Without the token that guards cookies.
    guarded = Client(enforce_csrf_checks=True)
    guarded.cookies["sessionid"] = ada.client.cookies["sessionid"].value
    assert ask(guarded, "/log", note).status_code == 403
    # By a key of hers that only reads, and by one that may: neither is given what her page was answered.
    for reach in ("read", "all"):
        secret = ada.post("/me/keys", {"name": reach, "reach": reach}, 201)["secret"]
        told = ask(bearer(secret), "/log", note)
        assert (told.status_code, told.json()["type"]) == (409, "/problems/already-done")
        assert "Written once" not in told.content.decode()
    # From another session, and in another workshop.
    other = Client()
    assert sign_in("ada", client=other).status_code == 200
    assert ask(other, "/log", note).json()["type"] == "/problems/already-done"
    there = Workshop.objects.create(name="There")
    Membership.objects.create(user=Membership.objects.get(user__username="ada").user, workshop=there)
    ada.put("/session/workshop", {"workshop_id": there.pk})
    assert_problem(ask(ada.client, "/log", note).json(), 422, "Idempotency-Key")
    ada.put("/session/workshop", {"workshop_id": workshop.pk})
    # A session that was ended.
    ended = ada.client.cookies["sessionid"].value
    ada.call("delete", "/session", status=204)
    late = Client()
    late.cookies["sessionid"] = ended
    assert ask(late, "/log", note).status_code == 401


def test_a_page_never_sends_for_somebody_else(demo: Api, workshop: Workshop) -> None:
    ada = person(workshop, "ada")
    note = {"text": "By whom?", "on": str(today())}
    whose = {"x-acts-for": f"ben/{workshop.pk}"}
    told = ask(ada.client, "/log", note, **whose)
    assert told.json()["type"] == "/problems/somebody-else"
    assert_problem(told.json(), 409, said="signed in as ada now")
    assert ask(ada.client, "/log", note, **{"x-acts-for": "ada/999999"}).json()["type"] == "/problems/somebody-else"
    assert ask(ada.client, "/log", note, **{"x-acts-for": f"ada/{workshop.pk}"}).status_code == 201


# --- another password -------------------------------------------------------------------------------------------------


def reset(demo: Api, name: str) -> str:
    return str(demo.post(f"/members/{member_of(demo, name)['id']}/reset", {}, 201)["secret"])


def leads_nowhere(secret: str) -> None:
    for path, body in (("look", {}), ("reset", {"password": "another long one 12"})):
        assert post(Client(), f"/joining/{path}", {"secret": secret, **body}).status_code == 404


def test_a_reset_reaches_no_other_workshop(demo: Api, workshop: Workshop) -> None:
    """One that was given while the person was only here was good after they had joined another as its owner."""
    ada = person(workshop, "ada")
    there = Workshop.objects.create(name="There")
    secret = reset(demo, "ada")
    user = Membership.objects.get(user__username="ada").user
    # However the other membership came about, it is looked at when the address is used.
    second = Membership.objects.create(user=user, workshop=there, role=Role.OWNER)
    leads_nowhere(secret)
    second.delete()
    assert post(Client(), "/joining/look", {"secret": secret}).status_code == 200
    # Joining by an invitation, another role, another password, leaving: each withdraws it for good.
    owner = person(workshop, "boss")
    Membership.objects.create(user=_user("boss"), workshop=there)
    owner.put("/session/workshop", {"workshop_id": there.pk})
    invitation = owner.post("/addresses", {"role": "fitter", "note": "", "machines_of": ""}, 201)["secret"]
    ada.post("/joining/join-too", {"secret": invitation})
    Membership.objects.filter(workshop=there, user=user).delete()
    leads_nowhere(secret)
    secret = reset(demo, "ada")
    demo.put(f"/members/{member_of(demo, 'ada')['id']}/role", {"role": "reader"})
    leads_nowhere(secret)
    secret = reset(demo, "ada")
    ada.put("/session/password", {"current": GOOD, "new": "quite another one 12"}, 204)
    leads_nowhere(secret)
    secret = reset(demo, "ada")
    demo.put(f"/members/{member_of(demo, 'ada')['id']}/out", {"forget": False}, 204)
    leads_nowhere(secret)


def _user(name: str) -> Any:
    return Membership.objects.get(user__username=name).user


def test_whoever_runs_the_server_gives_a_password_wherever_the_person_works(demo: Api, workshop: Workshop) -> None:
    person(workshop, "ada")
    Membership.objects.create(user=_user("ada"), workshop=Workshop.objects.create(name="There"))
    secret = reset_address("ada")
    assert post(Client(), "/joining/reset", {"secret": secret, "password": "another long one 12"}).status_code == 200


@pytest.mark.parametrize(("password", "status"), [("elevenletts", 422), ("twelveletter", 204)])
def test_a_new_password_has_twelve_characters(demo: Api, workshop: Workshop, password: str, status: int) -> None:
    person(workshop, "ada").put("/session/password", {"current": GOOD, "new": password}, status)


# --- addresses --------------------------------------------------------------------------------------------------------


def test_a_calendar_s_address_is_seen_by_who_may_give_it_out_and_renewed_when_a_member_goes(
    demo: Api, workshop: Workshop
) -> None:
    machine = f"/machines/{demo.machine('Kit roadster')['id']}"
    token = demo.put(f"{machine}/feed", {"shared": True})["token"]
    reader, fitter = (person(workshop, name, role) for name, role in (("rea", Role.READER), ("fin", Role.FITTER)))
    assert (reader.get(f"{machine}/season")["feed"], fitter.get(f"{machine}/season")["feed"]) == (None, token)
    looking = bearer(fitter.post("/me/keys", {"name": "a", "reach": "read"}, 201)["secret"])
    assert looking.get(f"/api{machine}/season").json()["feed"] is None
    assert Client().get(f"/api/feeds/{token}.ics").status_code == 200
    assert OWN.sub("*", f"/api/feeds/{token}.ics") == "/api/feeds/*"
    demo.put(f"/members/{member_of(demo, 'rea')['id']}/out", {"forget": False}, 204)
    assert Client().get(f"/api/feeds/{token}.ics").status_code == 404
    renewed = demo.get(f"{machine}/season")["feed"]
    assert renewed == CalendarFeed.objects.get().token != token
    # A decision that is shared is read by everybody, and its address told as narrowly.
    key = demo.post(f"{machine}/candidates", {})["ranked"][0]["key"]
    row = demo.post(f"{machine}/decisions", {"keys": [key], "title": "A"}, 201)["id"]
    address = demo.put(f"/decisions/{row}/shared", {"shared": True, "notes": False})["token"]
    assert address
    watcher = person(workshop, "wes", Role.READER)
    assert watcher.get(f"/decisions/{row}")["token"] == ""
    assert fitter.get(f"/decisions/{row}")["token"] == address


def test_an_address_that_is_handed_on_is_the_settings_and_not_the_request_s(demo: Api, settings: Any) -> None:
    """A Host header chose where an invitation by mail led to."""
    settings.PUBLIC_ADDRESS = "https://brakes.example"
    settings.MAIL_FROM, settings.ALLOWED_HOSTS = "bench@brakes.example", ["testserver", "evil.example"]
    settings.EMAIL_BACKEND = "django.core.mail.backends.locmem.EmailBackend"
    body = {"role": "fitter", "note": "", "machines_of": "", "mail": "new@person.example"}
    answer = demo.client.post("/api/addresses", body, content_type="application/json", headers={"host": "evil.example"})
    from django.core import mail

    assert f"https://brakes.example/join#{answer.json()['secret']}" in mail.outbox[0].body
    assert "evil" not in mail.outbox[0].body
    assert demo.client.get("/api/session", headers={"host": "evil.example"}).json()["address"] == (
        "https://brakes.example/"
    )


def test_no_host_of_the_tests_is_one_of_the_server_s() -> None:
    from thermaxis.config import settings

    text = Path(settings.__file__).read_text("utf-8")
    assert "testserver" not in text


# --- what a backup holds ----------------------------------------------------------------------------------------------


@pytest.fixture
def backed_up(transactional_db: None, demo: Api, workshop: Workshop) -> tuple[Api, dict[str, str]]:
    """Somebody who was given everything that is shown once; the secrets, by what they are."""
    ada = person(workshop, "ada", Role.OWNER)
    body = {"role": "fitter", "note": "", "machines_of": ""}
    secrets = {"invitation": ask(ada.client, "/addresses", body).json()["secret"]}
    secrets["reset"] = reset(demo, "ada")
    secrets["api key"] = ada.post("/me/keys", {"name": "logger", "reach": "all"}, 201)["secret"]
    begun = ada.post("/me/second", {"password": GOOD})["secret"]
    secrets["second factor"] = begun
    for code in ada.put("/me/second", {"code": pyotp.TOTP(begun).now()})["codes"]:
        secrets[f"recovery code {code}"] = code
    secrets["session"] = ada.client.cookies["sessionid"].value
    ada.post("/log", {"text": "A change whose answer is stored", "on": str(today())}, 201)
    return ada, secrets


def unpacked(api: Api, folder: Path, passphrase: str = "") -> Path:
    name = api.post("/safekeeping/backups", {"passphrase": passphrase}, 201)["backups"][0]["name"]
    file, database = folder / "a.backup", folder / f"a{len(passphrase)}.sqlite3"
    file.write_bytes(b"".join(api.client.get(f"/api/safekeeping/backups/{name}")))
    assert file.stat().st_size
    read_backup(file, database, passphrase or None)
    return database


def test_no_secret_is_in_a_backup(backed_up: tuple[Api, dict[str, str]], tmp_path: Path) -> None:
    ada, secrets = backed_up
    content = unpacked(ada, tmp_path).read_bytes()
    told = bytes.fromhex(_told(secrets["second factor"]))
    for name, secret in secrets.items():
        for form in (secret, secret.replace("-", ""), secret.lower()):
            assert form.encode() not in content, name
    assert told not in content
    assert told.hex().encode() not in content
    with contextlib.closing(sqlite3.connect(tmp_path / "a0.sqlite3")) as database:
        for table in ("django_session", "accounts_opensession", "accounts_onetimeaddress", "accounts_changekey"):
            assert database.execute(f"SELECT count(*) FROM {table}").fetchone() == (0,), table
        ((key,),) = database.execute("SELECT key FROM otp_totp_totpdevice")
    assert is_sealed(key)
    # This server reads it again; it asked for a code all along.
    assert opened(key) == told
    assert TOTPDevice.objects.get().key == key


def test_under_the_lock_a_second_factor_goes_along(backed_up: tuple[Api, dict[str, str]], tmp_path: Path) -> None:
    ada, secrets = backed_up
    with contextlib.closing(sqlite3.connect(unpacked(ada, tmp_path, WORDS))) as database:
        assert database.execute("SELECT key FROM otp_totp_totpdevice").fetchall() == [
            (_told(secrets["second factor"]),)
        ]
    assert secrets["second factor"].encode() not in (tmp_path / "a.backup").read_bytes()


def _told(secret: str) -> str:
    return pyotp.TOTP(secret).byte_secret().hex()


def test_stored_answers_go_after_a_day_and_are_packed(demo: Api) -> None:
    note = {"text": "word " * 400, "on": str(today())}
    first = ask(demo.client, "/log", note)
    row = ChangeKey.objects.get()
    assert 0 < len(bytes(row.content)) < len(first.content) / 4
    assert json.loads(ask(demo.client, "/log", note).content) == first.json()
    ChangeKey.objects.update(made_at=timezone.now() - dt.timedelta(days=1, minutes=1))
    demo.post("/log", {"text": "Another", "on": str(today())}, 201)
    demo.client.post(
        "/api/log", {"text": "b", "on": str(today())}, "application/json", headers={"idempotency-key": "another-key"}
    )
    assert [row.key for row in ChangeKey.objects.all()] == ["another-key"]


@pytest.mark.django_db(transaction=True)
def test_access_that_ends_while_a_backup_is_looked_through_does_not_come_back(tmp_path: Path, settings: Any) -> None:
    settings.VAR = tmp_path
    now = dt.datetime.now(dt.UTC)
    head = Head(version="x", made_at=now.isoformat(), size=0, migrations={})
    checked = Checked(head=head, database=tmp_path / "none", migrated=False, ended={}, prepared_at=now)
    with transaction.atomic():
        note_ended("member", name="ben", workshop=1)
    with pytest.raises(SolveError, match="look through the backup again"):
        put_back(checked)
