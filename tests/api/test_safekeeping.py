"""Backups by way of the API: who may, a file in pieces, what is refused, the gate, and one line for monitors."""

from __future__ import annotations

import datetime as dt
from pathlib import Path
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client

from tests.workshop import Api, assert_problem
from thermaxis.apps.accounts.gate import GATE
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.safekeeping import backing_up, nightly

pytestmark = pytest.mark.django_db
TOKEN = "abcdef0123456789"


@pytest.fixture(autouse=True)
def folder(settings: Any, tmp_path: Path) -> Path:
    """A folder of one's own for what a test keeps."""
    settings.VAR = tmp_path
    return tmp_path


def send(demo: Api, offset: int, content: bytes, token: str = TOKEN) -> Any:
    file = SimpleUploadedFile("piece", content)
    return demo.client.post("/api/safekeeping/incoming", {"file": file, "token": token, "offset": offset})


def test_a_backup_is_made_listed_taken_away_and_deleted(demo: Api) -> None:
    state = demo.post("/safekeeping/backups", {}, 201)
    (row,) = state["backups"]
    assert state["keeper"]
    assert not row["by_itself"]
    answer = demo.client.get(f"/api/safekeeping/backups/{row['name']}")
    content = b"".join(answer.streaming_content)  # type: ignore[attr-defined]
    assert len(content) == row["bytes"]
    assert "attachment" in answer["Content-Disposition"]
    found = demo.post("/safekeeping/look", {"name": row["name"]})
    assert found["workshops"][0] == "Tarnside Brake & Chassis"
    # As a file from elsewhere, piece by piece: one that came already changes nothing, one out of turn says what is next.
    half = len(content) // 2
    assert send(demo, 0, content[:half]).json() == {"have_bytes": half}
    assert send(demo, 0, content[:half]).json() == {"have_bytes": half}
    clash = send(demo, half + 5, content[half:])
    assert (clash.status_code, clash.json()["fields"][0]["allowed"]) == (409, str(half))
    assert_problem(demo.post("/safekeeping/look", {"token": TOKEN}, 422), 422, "file")
    assert send(demo, half, content[half:]).json() == {"have_bytes": len(content)}
    assert demo.post("/safekeeping/look", {"token": TOKEN})["made_at"] == found["made_at"]
    # Another file begins: what somebody left lying goes.
    send(demo, 0, b"something else", "0123456789abcdef")
    assert_problem(demo.post("/safekeeping/look", {"token": TOKEN}, 422), 422, "token")
    assert demo.put(f"/safekeeping/backups/{row['name']}/deleted", {})["backups"] == []
    demo.get(f"/safekeeping/backups/{row['name']}", 404)


def test_a_locked_one_opens_by_its_words_only(demo: Api) -> None:
    assert_problem(demo.post("/safekeeping/backups", {"passphrase": "short"}, 422), 422, "passphrase")
    name = demo.post("/safekeeping/backups", {"passphrase": "horse battery staple 9"}, 201)["backups"][0]["name"]
    assert_problem(demo.post("/safekeeping/look", {"name": name}, 422), 422, "passphrase")
    assert demo.post("/safekeeping/look", {"name": name, "passphrase": "horse battery staple 9"})["workshops"]


def test_two_of_one_second_are_two(demo: Api) -> None:
    now = dt.datetime(2026, 3, 1, 12, tzinfo=dt.UTC)
    first, second = (backing_up.keep_by_hand(now, words) for words in (None, "horse battery staple 9"))
    assert first != second
    names = {row["name"]: row["by_itself"] for row in demo.get("/safekeeping")["backups"]}
    assert names == {first.name: False, second.name: False}
    assert demo.post("/safekeeping/look", {"name": first.name})["workshops"]


def test_who_owns_some_workshops_of_a_server_keeps_none_of_the_others_data(demo: Api, stranger: Api) -> None:
    for owner in (demo, stranger):
        state = owner.get("/safekeeping")
        assert (state["keeper"], state["backups"], state["findings"]) == (False, [], [])
        refused = owner.post("/safekeeping/backups", {}, 403)
        assert "workshops of others" in refused["detail"]
        owner.get("/safekeeping/doctor", 403)
        assert send(owner, 0, b"a").status_code == 403
        owner.post("/safekeeping/look", {"token": TOKEN}, 403)
        owner.post("/safekeeping/restore", {"token": TOKEN, "password": "a"}, 403)
    assert not backing_up.backups_folder().joinpath("a").exists()


@pytest.mark.parametrize("name", ["../secret", "..%2Fsecret", "a.sqlite3", "secret", "thermaxis-1.backup/../../secret"])
def test_no_name_leads_out_of_the_folder(demo: Api, folder: Path, name: str) -> None:
    (folder / "secret").write_text("secret")
    answer = demo.client.get(f"/api/safekeeping/backups/{name}")
    assert answer.status_code in (404, 422)
    assert b"secret" not in answer.content.replace(b"secret", b"", 1) or answer.status_code == 422
    demo.post("/safekeeping/look", {"name": name}, 422)
    demo.post("/safekeeping/look", {"token": "../secret"}, 422)


def test_putting_back_asks_for_the_password_and_for_one_backup(demo: Api) -> None:
    name = demo.post("/safekeeping/backups", {}, 201)["backups"][0]["name"]
    refused = demo.post("/safekeeping/restore", {"name": name, "password": "wrong"}, 422)
    assert_problem(refused, 422, "password")
    assert_problem(demo.post("/safekeeping/look", {}, 422), 422, "token")
    assert_problem(demo.post("/safekeeping/look", {"token": TOKEN, "name": name}, 422), 422, "token")


def test_the_nights_backups_are_made_once_a_day_and_not_deleted_by_hand(demo: Api) -> None:
    now = dt.datetime.now(dt.UTC)
    for _ in range(2):
        nightly.do_due(now)
    (row,) = demo.get("/safekeeping")["backups"]
    assert row["by_itself"]
    demo.put(f"/safekeeping/backups/{row['name']}/deleted", {}, 409)
    assert 0 <= Client().get("/api/health").json()["backup_age_hours"] < 1


def test_a_disk_without_room_is_told(demo: Api, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("shutil.disk_usage", lambda path: type("Usage", (), {"free": 1000}))
    refused = demo.post("/safekeeping/backups", {}, 409)
    assert "not room enough" in refused["detail"]
    assert send(demo, 0, b"abc").status_code == 409
    states = {row["name"]: row["state"] for row in demo.get("/safekeeping")["findings"]}
    assert states["disk"] == "over"


def test_nobody_asks_the_database_while_another_one_is_put_in_its_place(demo: Api) -> None:
    with GATE.closed(mine=0):
        answer = demo.client.get("/api/machines")
        assert_problem(answer.json(), 503)
        assert answer["Retry-After"] == "5"
    demo.get("/machines")


def test_health_says_nothing_of_what_is_in_it(demo: Api, workshop: Workshop) -> None:
    answer = Client().get("/api/health")
    assert answer.json() == {"process": True, "database": True, "backup_age_hours": None}
