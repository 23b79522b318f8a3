"""People: one-time addresses, roles, second factor, sessions, keys, what is one's own; each rule by what it lets happen."""

from __future__ import annotations

import datetime as dt
from typing import Any

import pyotp
import pytest
from axes.models import AccessFailureLog
from django.contrib.auth import get_user_model
from django.core import mail
from django.test import Client
from django.utils import timezone

from tests.workshop import Api, assert_problem, today
from thermaxis.apps.accounts.models import ApiKey, Membership, OneTimeAddress, OpenSession, Role, Workshop
from thermaxis.apps.garage.models import Machine, Owner
from thermaxis.apps.job.models import Job
from thermaxis.apps.log.models import LogEntry
from thermaxis.apps.people.addresses import found_address

pytestmark = pytest.mark.django_db
GOOD, OTHER = "tarn-and-fell-91", "another-long-one-4"


def post(client: Client, path: str, body: Any, method: str = "post") -> Any:
    return getattr(client, method)(f"/api{path}", body, content_type="application/json")


def sign_in(name: str, password: str = GOOD, code: str = "", client: Client | None = None) -> Any:
    return post(client or Client(), "/session", {"username": name, "password": password, "code": code})


def person(workshop: Workshop, name: str, role: Role = Role.FITTER) -> Api:
    """A member with a password, signed in by it."""
    user = get_user_model().objects.create_user(name, password=GOOD)
    Membership.objects.create(user=user, workshop=workshop, role=role)
    client = Client(headers={"User-Agent": "Mozilla/5.0 (X11; Linux x86_64) Chromium"})
    assert sign_in(name, client=client).status_code == 200
    return Api(client)


def member_of(demo: Api, name: str) -> dict[str, Any]:
    found: dict[str, Any] = next(row for row in demo.get("/members")["members"] if row["name"] == name)
    return found


def test_the_first_person_founds_the_workshop_and_nobody_a_second_one(db: None) -> None:
    # Whoever is here from other tests is gone for this one.
    Membership.objects.all().delete()
    first, secret = found_address(), found_address()
    assert first
    assert secret
    client = Client()
    # Each start makes another address, and those of before lead nowhere.
    assert post(client, "/joining/look", {"secret": first}).status_code == 404
    assert post(client, "/joining/look", {"secret": secret}).json()["kind"] == "found"
    body = {"secret": secret, "username": "ada", "password": "short", "workshop": "Tarnside", "currency": "€"}
    assert_problem(post(client, "/joining/found", body).json(), 422, "password")
    assert_problem(post(client, "/joining/found", {**body, "password": "password123"}).json(), 422, "password")
    assert_problem(post(client, "/joining/found", {**body, "password": GOOD, "workshop": " "}).json(), 422, "workshop")
    assert_problem(
        post(client, "/joining/found", {**body, "password": GOOD, "username": "a b"}).json(), 422, "username"
    )
    # Nothing of what was wrong has used it up.
    assert post(client, "/joining/found", {**body, "password": GOOD}).status_code == 201
    assert post(client, "/joining/found", {**body, "password": GOOD, "username": "eve"}).status_code == 404
    assert found_address() is None
    row = sign_in("ada").json()
    assert (row["role"], row["workshop"], row["currency"]) == ("owner", "Tarnside", "€")
    assert LogEntry.objects.latest("pk").act == "found_workshop"


def test_an_invitation_is_good_once_for_its_role_and_until_it_is_withdrawn(demo: Api, workshop: Workshop) -> None:
    given = demo.post("/addresses", {"role": "fitter", "note": "Ben"}, 201)
    assert given["secret"] not in str(demo.get("/members"))
    assert not OneTimeAddress.objects.filter(print=given["secret"]).exists()
    ben = Client()
    look = post(ben, "/joining/look", {"secret": given["secret"]}).json()
    assert (look["workshop"], look["role"]) == (workshop.name, "fitter")
    body = {"secret": given["secret"], "username": "ben", "password": GOOD}
    # As whoever is signed in already nobody is founded, and a reset is no invitation.
    assert post(ben, "/joining/reset", {"secret": given["secret"], "password": GOOD}).status_code == 404
    assert post(ben, "/joining/join", body).status_code == 201
    assert post(ben, "/joining/join", {**body, "username": "eve"}).status_code == 404
    assert sign_in("ben").json()["role"] == "fitter"
    assert_problem(
        post(
            ben, "/joining/join", {**body, "secret": demo.post("/addresses", {"role": "reader"}, 201)["secret"]}
        ).json(),
        422,
        "username",
    )
    withdrawn = demo.post("/addresses", {"role": "driver"}, 201)
    demo.put(f"/addresses/{withdrawn['address']['id']}/withdrawn", {})
    assert post(ben, "/joining/look", {"secret": withdrawn["secret"]}).status_code == 404
    late = demo.post("/addresses", {"role": "driver"}, 201)
    OneTimeAddress.objects.filter(pk=late["address"]["id"]).update(ends_at=timezone.now() - dt.timedelta(seconds=1))
    assert post(ben, "/joining/look", {"secret": late["secret"]}).status_code == 404
    assert (timezone.now() + dt.timedelta(days=7)).date().isoformat() == given["address"]["ends_at"][:10]


def test_an_invitation_is_mailed_where_there_is_a_mail_server(demo: Api, settings: Any) -> None:
    ask = {"role": "fitter", "mail": "ben@example.org"}
    assert_problem(demo.post("/addresses", ask, 422), 422, "mail")
    settings.MAIL_FROM = "workshop@example.org"
    given = demo.post("/addresses", ask, 201)
    assert given["mailed"]
    assert f"/join#{given['secret']}" in mail.outbox[0].body
    assert_problem(demo.post("/addresses", {**ask, "mail": "a@b\nBcc: c@d"}, 422), 422, "mail")


def test_a_driver_is_invited_to_machines_of_their_own(demo: Api, workshop: Workshop) -> None:
    name = Machine.objects.of(workshop).get(name="Kit roadster").owner.name
    assert_problem(demo.post("/addresses", {"role": "driver", "machines_of": "Nobody"}, 422), 422, "machines_of")
    secret = demo.post("/addresses", {"role": "driver", "machines_of": name}, 201)["secret"]
    post(Client(), "/joining/join", {"secret": secret, "username": "dee", "password": GOOD})
    client = Client()
    sign_in("dee", client=client)
    dee = Api(client)
    own = {machine.name for machine in Machine.objects.of(workshop).filter(owner__name=name)}
    assert (
        {row["name"] for row in dee.get("/machines")} == own == {row["name"] for row in dee.get("/workshop/overview")}
    )
    assert dee.get("/catalogue", 403)["type"] == "/problems/role"
    other = Machine.objects.of(workshop).exclude(owner__name=name)[0]
    # Kept in memory by who has asked before: whose it is, is asked first.
    demo.post(f"/machines/{other.pk}/verdict", {})
    dee.post(f"/machines/{other.pk}/verdict", {}, 404)
    demo.post(f"/machines/{other.pk}/candidates", {})
    dee.post(f"/machines/{other.pk}/candidates", {}, 404)
    span = {"since": str(today()), "until": str(today() + dt.timedelta(days=90))}
    due = dee.client.get("/api/workshop/planner", span).json()["due"]
    assert {row["machine"] for row in due} <= own
    assert {row["machine"] for row in dee.get("/log")["entries"]} <= own | {None}
    demo.put(f"/members/{member_of(demo, 'dee')['id']}/machines", {"machines_of": ""})
    assert dee.get("/machines") == []


def test_a_driver_ends_no_job_of_another_s(demo: Api, workshop: Workshop) -> None:
    dee = person(workshop, "dee", Role.DRIVER)
    machine = Machine.objects.of(workshop).get(name="Kit roadster")
    Owner.objects.filter(pk=machine.owner_id).update(user=get_user_model().objects.get(username="dee"))
    job = Job.objects.create(
        workshop=workshop, machine=machine, axle="rear", work="clean", started_at=timezone.now(), started_by="demo"
    )
    dee.put(f"/jobs/{job.pk}/abandoned", {"abandoned": True}, 403)
    Job.objects.filter(pk=job.pk).update(started_by="dee")
    dee.put(f"/jobs/{job.pk}/abandoned", {"abandoned": True})


def test_who_belongs_to_two_workshops_joins_by_name_and_keeps_their_password(demo: Api, workshop: Workshop) -> None:
    ada = person(workshop, "ada")
    other = Workshop.objects.create(name="Second workshop")
    boss = person(other, "boss", Role.OWNER)
    secret = boss.post("/addresses", {"role": "reader"}, 201)["secret"]
    assert post(Client(), "/joining/join-too", {"secret": secret}).status_code == 401
    assert ada.post("/joining/join-too", {"secret": secret})["workshop"] == "Second workshop"
    assert [row["name"] for row in ada.get("/session")["workshops"]] == [workshop.name, "Second workshop"]
    again = boss.post("/addresses", {"role": "owner"}, 201)["secret"]
    assert_problem(ada.post("/joining/join-too", {"secret": again}, 422), 422, "secret")
    # Neither owner becomes her in the other's workshop.
    for owner in (demo, boss):
        number = member_of(owner, "ada")["id"]
        assert owner.post(f"/members/{number}/reset", {}, 403)["type"] == "/problems/role"
        owner.put(f"/members/{number}/out", {"forget": True}, 403)
    assert sign_in("ada").status_code == 200


def test_an_owner_s_reset_gives_another_password_and_ends_what_was(demo: Api, workshop: Workshop) -> None:
    ada = person(workshop, "ada")
    number = member_of(demo, "ada")["id"]
    first = demo.post(f"/members/{number}/reset", {}, 201)["secret"]
    secret = demo.post(f"/members/{number}/reset", {}, 201)["secret"]
    assert post(Client(), "/joining/look", {"secret": first}).status_code == 404
    assert post(Client(), "/joining/look", {"secret": secret}).json()["name"] == "ada"
    assert_problem(
        post(Client(), "/joining/reset", {"secret": secret, "password": "1234567890"}).json(), 422, "password"
    )
    assert post(Client(), "/joining/reset", {"secret": secret, "password": OTHER}).status_code == 200
    assert post(Client(), "/joining/reset", {"secret": secret, "password": OTHER}).status_code == 404
    ada.get("/session", 401)
    assert sign_in("ada").status_code == 401
    assert sign_in("ada", OTHER).status_code == 200


def test_a_workshop_keeps_an_owner(demo: Api, workshop: Workshop) -> None:
    number = member_of(demo, "demo")["id"]
    demo.put(f"/members/{number}/role", {"role": "fitter"}, 409)
    demo.put(f"/members/{number}/out", {"forget": False}, 409)
    ada = person(workshop, "ada", Role.OWNER)
    demo.put(f"/members/{number}/role", {"role": "fitter"})
    assert demo.get("/session")["role"] == "fitter"
    demo.get("/members", 403)
    ada.post("/me/leave", {"password": GOOD}, 409)
    ada.put(f"/members/{number}/out", {"forget": False}, 204)
    demo.get("/machines", 404)


def second(api: Api) -> tuple[pyotp.TOTP, list[str]]:
    """Set a second factor up as its page does."""
    begun = api.post("/me/second", {"password": GOOD})
    assert begun["picture"].startswith("data:image/svg+xml")
    totp = pyotp.TOTP(begun["secret"])
    return totp, api.put("/me/second", {"code": totp.now()})["codes"]


def rested(name: str) -> None:
    """A code is good once, and a wrong one is paid for by waiting: as if both were long ago."""
    from django_otp.plugins.otp_static.models import StaticDevice
    from django_otp.plugins.otp_totp.models import TOTPDevice

    for model in (StaticDevice, TOTPDevice):
        model.objects.filter(user__username=name).update(throttling_failure_timestamp=None, throttling_failure_count=0)
    TOTPDevice.objects.filter(user__username=name).update(last_t=-1)


def test_a_second_factor_is_asked_for_and_a_code_is_good_once(workshop: Workshop) -> None:
    ada = person(workshop, "ada")
    assert_problem(ada.post("/me/second", {"password": "wrong"}, 422), 422, "password")
    assert_problem(ada.put("/me/second", {"code": "123456"}, 422), 422, "code")
    totp, codes = second(ada)
    assert len(set(codes)) == 10
    assert ada.get("/me")["second_factor"]
    rested("ada")
    asked = sign_in("ada")
    assert (asked.status_code, asked.json()["type"]) == (401, "/problems/code")
    # Only who knows the password is told that there is a second question.
    assert sign_in("ada", "wrong", totp.now()).json()["type"] != "/problems/code"
    assert sign_in("ada", code="000000").status_code == 401
    rested("ada")
    code = totp.now()
    assert sign_in("ada", code=code).status_code == 200
    assert sign_in("ada", code=code).status_code == 401
    rested("ada")
    assert sign_in("ada", code=codes[0].upper().replace("-", " ")).status_code == 200
    assert sign_in("ada", code=codes[0]).status_code == 401
    assert ada.get("/me")["codes_left"] == 9
    rested("ada")
    fresh = ada.post("/me/second/codes", {"password": GOOD})["codes"]
    assert sign_in("ada", code=codes[1]).status_code == 401
    rested("ada")
    assert sign_in("ada", code=fresh[1]).status_code == 200
    # What is kept of the codes is not the codes.
    from django_otp.plugins.otp_static.models import StaticToken

    assert not set(fresh) & set(StaticToken.objects.values_list("token", flat=True))
    ada.post("/me/second/end", {"password": GOOD}, 204)
    assert sign_in("ada").status_code == 200
    ada.post("/me/second/codes", {"password": GOOD}, 409)


def test_wrong_codes_are_held_off_like_wrong_passwords(workshop: Workshop) -> None:
    second(person(workshop, "ada"))
    answers = [sign_in("ada", code="000000").status_code for _ in range(10)]
    assert answers[0] == 401
    assert answers[-1] == 429
    assert AccessFailureLog.objects.filter(username="ada").count() >= 8


def test_a_workshop_asks_for_a_second_factor(demo: Api, workshop: Workshop) -> None:
    seen = demo.get("/workshop/settings")
    ask = {"second_factor": True, "seen": seen}
    # Whoever asks it of all has one first.
    assert_problem(demo.put("/workshop/settings", ask, 422), 422, "second_factor")
    ada, ben = person(workshop, "ada", Role.OWNER), person(workshop, "ben")
    second(ada)
    assert ada.put("/workshop/settings", ask)["second_factor"]
    ada.get("/machines")
    assert ben.get("/machines", 403)["type"] == "/problems/second-factor"
    assert ben.get("/session")["second_missing"]
    # What leads out of it is open, and a key is no way around.
    assert ben.get("/me")["second_factor"] is False
    ben.post("/me/keys", {"name": "A", "reach": "all"}, 403)
    second(ben)
    ben.get("/machines")


def test_a_workshop_s_settings_are_changed_one_by_one_and_not_over_another_s(demo: Api, workshop: Workshop) -> None:
    seen = demo.get("/workshop/settings")
    assert demo.put("/workshop/settings", {"name": "Renamed", "seen": seen})["name"] == "Renamed"
    assert demo.put("/workshop/settings", {"name": "Mine", "seen": seen}, 409)["fields"][0]["allowed"] == "Renamed"
    assert demo.put("/workshop/settings", {"currency": "€", "seen": seen})["name"] == "Renamed"
    assert_problem(demo.put("/workshop/settings", {"name": "  ", "seen": seen}, 422), 422, "name")
    assert demo.get("/session")["currency"] == "€"


def test_sessions_are_listed_and_ended_one_or_all(workshop: Workshop) -> None:
    here, there, third = person(workshop, "ada"), Client(), Client()
    for client in (there, third):
        assert sign_in("ada", client=client).status_code == 200
    rows = here.get("/me")["sessions"]
    assert [row["here"] for row in sorted(rows, key=lambda row: row["id"])] == [True, False, False]
    assert next(row for row in rows if row["here"])["device"] == "Linux computer"
    assert {row["place"] for row in rows} == {"127.0.0.1"}
    number = sorted(row["id"] for row in rows)[1]
    here.put(f"/me/sessions/{number}/ended", {})
    assert (there.get("/api/session").status_code, third.get("/api/session").status_code) == (401, 200)
    # Nobody ends another's.
    stranger = person(workshop, "ben")
    stranger.put(f"/me/sessions/{stranger.get('/me')['sessions'][0]['id'] - 1}/ended", {}, 404)
    assert here.post("/me/sessions/end-others", {})["ended"] == 1
    assert third.get("/api/session").status_code == 401
    assert here.client.delete("/api/session").status_code == 204
    assert not OpenSession.objects.filter(user__username="ada").exists()


def bearer(secret: str) -> Client:
    return Client(headers={"Authorization": f"Bearer {secret}"}, enforce_csrf_checks=True)


def test_a_key_goes_as_far_as_it_says_and_not_further_than_its_person(demo: Api, workshop: Workshop) -> None:
    ben = person(workshop, "ben")
    made = {reach: ben.post("/me/keys", {"name": reach, "reach": reach}, 201) for reach in ("read", "readings", "all")}
    assert all(row["secret"] not in str(ben.get("/me")) for row in made.values())
    machine = Machine.objects.of(workshop).get(name="Kit roadster")
    ask = {"axle": "front", "thickness_m": 0.0079, "odometer_km": machine.odometer_km, "measured_on": str(today())}
    for reach, measured, renamed in (("read", 403, 403), ("readings", 200, 403), ("all", 200, 200)):
        client = bearer(made[reach]["secret"])
        assert client.get("/api/machines").status_code == 200
        assert post(client, f"/machines/{machine.pk}/measurements", ask).status_code == measured
        words = {"words": {"note": reach}, "seen": {}}
        assert post(client, f"/machines/{machine.pk}/words", words, "put").status_code == renamed
        # What is one's own, and the people, are no key's.
        assert [client.get(f"/api/{path}").status_code for path in ("me", "session", "members")] == [403] * 3
    assert ben.get("/me")["keys"][0]["used_at"]
    assert bearer("thx_" + "a" * 43).get("/api/machines").status_code == 401
    # In an address it is nothing.
    assert Client().get("/api/machines", {"key": made["all"]["secret"]}).status_code == 401
    ben.put(f"/me/keys/{made['all']['key']['id']}/withdrawn", {})
    assert bearer(made["all"]["secret"]).get("/api/machines").status_code == 401
    # An owner withdraws anybody's; whoever leaves leaves with their keys.
    demo.put(f"/members/keys/{made['read']['key']['id']}/withdrawn", {})
    assert bearer(made["read"]["secret"]).get("/api/machines").status_code == 401
    demo.put(f"/members/{member_of(demo, 'ben')['id']}/out", {"forget": False}, 204)
    assert bearer(made["readings"]["secret"]).get("/api/machines").status_code == 401
    assert ApiKey.objects.filter(withdrawn_at=None).count() == 0


def test_a_key_s_change_that_arrives_twice_is_one(demo: Api, workshop: Workshop) -> None:
    secret = demo.post("/me/keys", {"name": "logger", "reach": "readings"}, 201)["secret"]
    client, note = bearer(secret), {"text": "From the logger", "on": str(today())}
    first, again = (
        client.post("/api/log", note, content_type="application/json", HTTP_IDEMPOTENCY_KEY="abcdefgh-1")
        for _ in range(2)
    )
    assert first.json()["id"] == again.json()["id"]
    assert again.headers["Idempotency-Replayed"] == "true"


def test_one_s_data_as_a_file_and_being_forgotten(demo: Api, workshop: Workshop) -> None:
    ada = person(workshop, "ada")
    machine = Machine.objects.of(workshop).get(name="Kit roadster")
    job = ada.post(f"/machines/{machine.pk}/jobs", {"axle": "rear", "work": "clean"})["id"]
    marks = [{"key": "chocks", "kind": "words", "words": "on a lift", "at": timezone.now().isoformat()}]
    assert ada.put(f"/jobs/{job}/marks", {"marks": marks})["job"]["steps"][4]["by"] == "ada"
    ada.post("/log", {"text": "Written by ada herself", "on": str(today())}, 201)
    demo.post(f"/members/{member_of(demo, 'ada')['id']}/reset", {}, 201)
    file = ada.get("/me/file")
    assert (file["name"], file["workshops"][0]["role"]) == ("ada", "fitter")
    assert "Written by ada herself" in [row["text"] for row in file["log"]]
    assert "demo" not in str(file["log"])
    assert_problem(ada.post("/me/forget", {"password": "wrong"}, 422), 422, "password")
    entries = LogEntry.objects.filter(user_name="ada").count()
    ada.post("/me/forget", {"password": GOOD}, 204)
    ada.get("/session", 401)
    assert sign_in("ada").status_code == 401
    # What she did stays, in nobody's name; what she wrote is the workshop's.
    assert entries > 2
    assert not LogEntry.objects.filter(user_name="ada").exists()
    assert "ada" not in str(list(LogEntry.objects.filter(kind="people").values_list("changes", "summary")))
    shown = demo.get(f"/jobs/{job}")
    assert shown["started_by"].startswith("former member ")
    assert '"ada"' not in str(shown).replace("'", '"')
    assert Machine.objects.of(workshop).count() == 5


def test_the_last_owner_is_not_forgotten_by_others_nor_by_themselves(demo: Api, workshop: Workshop) -> None:
    user = get_user_model().objects.get(username="demo")
    user.set_password(GOOD)
    user.save()
    demo.client.force_login(user)
    demo.post("/me/forget", {"password": GOOD}, 409)
    ben = person(workshop, "ben")
    demo.put(f"/members/{member_of(demo, 'ben')['id']}/out", {"forget": True}, 204)
    ben.get("/session", 401)
    assert not get_user_model().objects.filter(username="ben").exists()
