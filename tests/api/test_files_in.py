"""Files of strangers, each as an attacker made it: scripts, rights, forged entries, odd values, far too many of them."""

from __future__ import annotations

import io
import json
import zipfile
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import transaction
from PIL import Image

from tests import builders
from tests.pictures import picture
from tests.test_house import ROOT
from tests.workshop import Api, assert_problem, machine_named
from thermaxis.apps.accounts.models import Membership, Role, Workshop
from thermaxis.apps.accounts.shaped import shaped_columns
from thermaxis.apps.fitted.models import PadReading
from thermaxis.apps.garage.models import Machine, Owner
from thermaxis.apps.job.models import Job
from thermaxis.apps.log.models import LogEntry, LogPhoto
from thermaxis.apps.workshop.api import portable
from thermaxis.apps.workshop.portable.tables import tables
from thermaxis.core.errors import FieldError
from thermaxis.formats import bounded_json
from thermaxis.formats.bounded_json import built_bytes, read_bounded

pytestmark = pytest.mark.django_db
WRONG: tuple[Any, ...] = ("text", [{"odd": [None]}], {"odd": {"x": [[]]}}, [1e400], 7.5)
SCRIPT = b"fetch('/api/me/keys',{method:'POST'})//"


@pytest.fixture
def document(demo: Api, filled: Workshop) -> dict[str, Any]:
    """A hand-over file of a machine that has at least one row of everything."""
    machine = demo.machine("Kit roadster")["id"]
    found: dict[str, Any] = json.loads(b"".join(demo.client.get(f"/api/machines/{machine}/export")))
    return found


def send(api: Api, document: Any, status: int = 201, path: str = "/workshop/machine-files") -> Any:
    content = document if isinstance(document, bytes) else json.dumps(document).encode()
    answer = api.client.post(f"/api{path}", {"file": SimpleUploadedFile("a.json", content)})
    assert answer.status_code == status, answer.content[:500]
    return answer.json()


def contained(answer: Any) -> None:
    assert answer["Content-Security-Policy"] == "sandbox; default-src 'none'"
    assert answer["X-Content-Type-Options"] == "nosniff"
    assert answer["Content-Disposition"].startswith(("inline; filename=", "attachment; filename="))
    for close in answer._resource_closers:
        close()


def test_a_script_called_a_picture_is_refused_and_a_picture_is_drawn_again(demo: Api, document: dict[str, Any]) -> None:
    """`text/html` in a file was served inline from our own address, and made an owner's key in her name."""
    label = "log.LogPhoto"
    before = LogPhoto.objects.count()
    for content in (SCRIPT, b"<html><script src=/api/log-photos/1></script>", b"GIF89a/*", b""):
        row = {**document["tables"][label][0], "media_type": "text/html", "content": _text(content)}
        assert_problem(send(demo, {**document, "tables": {**document["tables"], label: [row]}}, 422), 422, "file")
    assert LogPhoto.objects.count() == before
    # A polyglot: a picture with a script in it and behind it.
    with_words = picture("JPEG", comment=SCRIPT) + SCRIPT
    for row in (row for name in document["tables"] if name.endswith("Photo") for row in document["tables"][name]):
        row.update(media_type="text/html", content=_text(with_words))
    machine = send(demo, document)["id"]
    stored = LogPhoto.objects.filter(entry__machine=machine).latest("pk")
    assert SCRIPT not in bytes(stored.content)
    assert Image.open(io.BytesIO(bytes(stored.content))).size == (40, 30)
    answer = demo.client.get(f"/api/log-photos/{stored.pk}")
    assert answer["Content-Type"] == "image/jpeg"
    contained(answer)


def _text(content: bytes) -> str:
    import base64

    return base64.b64encode(content).decode()


def test_all_stored_bytes_are_served_by_one_function(demo: Api, filled: Workshop) -> None:
    machine = demo.machine("Kit roadster")["id"]
    job = Job.objects.filter(machine=machine)[0].pk
    for path in (f"machines/{machine}/export", f"machines/{machine}/events.ics", f"jobs/{job}/pdf", "log.csv"):
        contained(demo.client.get(f"/api/{path}"))
    backup = demo.post("/safekeeping/backups", {"passphrase": "horse battery staple"}, 201)["backups"][0]
    contained(demo.client.get(f"/api/safekeeping/backups/{backup['name']}"))
    # Nothing else in the applications makes an answer of bytes with a media type of its own choice.
    apps = ROOT / "src" / "thermaxis" / "apps"
    making = {
        path.relative_to(apps).as_posix()
        for path in apps.rglob("*.py")
        if "content_type=" in path.read_text("utf-8") and "/api/" in path.as_posix()
    }
    assert making == {"accounts/api/files.py", "accounts/api/kept_answers.py"}


def test_people_in_a_file_are_text(demo: Api, document: dict[str, Any], workshop: Workshop) -> None:
    """A driver was given a vehicle by a file, and an entry appeared as the owner's."""
    driver = builders.workshop("Elsewhere", Role.DRIVER)
    user = Membership.objects.get(workshop=driver).user
    user.username = "olga"
    user.save()
    Membership.objects.create(user=user, workshop=workshop, role=Role.DRIVER)
    Owner.objects.create(workshop=workshop, name="Olga", user=user)
    tables_ = document["tables"]
    tables_["garage.Owner"][0].update(name="Olga", user="olga")
    for row in tables_["log.LogEntry"]:
        row.update(user="demo", user_name="demo")
    for row in tables_["job.Job"]:
        row["started_by"] = "olga"
    machine = Machine.objects.get(pk=send(demo, document)["id"])
    assert (machine.owner.name, machine.owner.user) == ("Olga (from a file)", None)
    entries = LogEntry.objects.filter(machine=machine).exclude(act="take_in_machine")
    assert {(row.user, row.user_name, row.from_file) for row in entries} == {(None, "from a file: demo", True)}
    assert set(Job.objects.filter(machine=machine).values_list("started_by", flat=True)) == {"from a file: olga"}
    own = LogEntry.objects.get(machine=machine, act="take_in_machine")
    assert (own.user_name, own.from_file) == ("demo", False)
    # Out again and in again: it says so for good, and once.
    again = json.loads(b"".join(demo.client.get(f"/api/machines/{machine.pk}/export")))
    for row in again["tables"]["log.LogEntry"]:
        row["from_file"] = False
    there = send(demo, again)["id"]
    assert set(LogEntry.objects.filter(machine=there).values_list("user_name", "from_file")) == {
        ("from a file: demo", True),
        ("demo", False),
    }
    listed = demo.get(f"/log?machine_id={there}&act=x")["entries"]
    assert {row["from_file"] for row in listed} == {True, False}


def test_a_file_names_no_row_that_is_not_in_it(demo: Api, document: dict[str, Any], workshop: Workshop) -> None:
    """Opening its job again would have deleted readings of another machine."""
    other = builders.pads_read(machine_named(workshop, "Parcel van"), "front", "left_inner", 9.0, 1.0, _day(document))
    job = document["tables"]["job.Job"][0]
    job["off"] = {"pad_readings": [other.pk], "rotor_readings": [], "fill": 10**6, "pads": "shelf", "rotors": "shelf"}
    for row in document["tables"]["log.LogEntry"]:
        row["things"] = [f"pad reading {other.pk}"]
    document["tables"]["choose.Decision"][0]["token"] = "chosen-by-the-writer-of-the-file"
    machine = send(demo, document)["id"]
    offs = [row.off for row in Job.objects.filter(machine=machine) if row.off]
    assert {"pad_readings": [], "rotor_readings": [], "pads": "shelf", "rotors": "shelf"} in offs
    assert PadReading.objects.filter(pk=other.pk).exists()
    assert f"pad reading {other.pk}" not in str(LogEntry.objects.filter(machine=machine).values_list("things"))
    assert demo.client.get("/api/shared/chosen-by-the-writer-of-the-file").status_code == 404


def _day(document: dict[str, Any]) -> Any:
    import datetime as dt

    return dt.date.fromisoformat(document["tables"]["fitted.PadReading"][0]["measured_on"])


def test_every_column_of_every_table_refuses_what_it_cannot_hold(stranger: Api, document: dict[str, Any]) -> None:
    """Odd JSON in valid columns was imported, and then pages answered 500."""
    labels = {model._meta.label: model for model in tables()}
    shaped = {(label, field.name) for label, model in labels.items() for field in shaped_columns(model)}
    tried = set()
    for label, rows in document["tables"].items():
        for name in [name for name in rows[0] if (label, name) in shaped]:
            for wrong in WRONG:
                if _holds(labels[label], name, wrong):
                    continue
                spoilt = json.loads(json.dumps(document))
                spoilt["tables"][label][0][name] = wrong
                with transaction.atomic():
                    found = send(stranger, spoilt, 422)
                assert_problem(found, 422)
            tried.add((label, name))
    # What no machine of the demo has is of the catalogue's and the circuit's own, and held by its column as well.
    assert len(tried) >= 18, sorted(shaped - tried)


def _holds(model: Any, name: str, value: Any) -> bool:
    field = model._meta.get_field(name)
    try:
        field.check_shape(value)
    except FieldError:
        return False
    return True


def test_what_has_the_shape_and_cannot_be_drawn_is_refused(demo: Api, document: dict[str, Any]) -> None:
    """The last net: every page is drawn before anything stays."""
    before = Machine.objects.count()
    for row in document["tables"]["inspect.InspectionCell"]:
        row["value"] = "a word where a thickness stands"
    found = send(demo, document, 422)
    assert_problem(found, 422, "file", "every page can show")
    assert Machine.objects.count() == before


@pytest.mark.parametrize(
    "text",
    [b"[" + b"{}," * 400_000 + b"{}]", b"[" + b"[]," * 1_000_000 + b"1]", b"[" + b"1," * 1_400_000 + b"1]"],
    ids=["objects", "lists", "values"],
)
def test_a_bomb_is_refused_before_anything_is_built_of_it(demo: Api, text: bytes, monkeypatch: Any) -> None:
    """Sixty kilobytes took two gigabytes and sixteen seconds."""
    monkeypatch.setattr(bounded_json, "json", None)
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("workshop.json", text)
    assert len(packed.getvalue()) < len(text) / 100
    assert_problem(send(demo, packed.getvalue(), 422), 422, "file", "fewer values")


def test_who_may_not_is_refused_before_the_file_is_read(demo: Api, workshop: Workshop, monkeypatch: Any) -> None:
    monkeypatch.setattr(portable, "read_archive", lambda *_: pytest.fail("it was read"))
    Membership.objects.filter(workshop=workshop, user__username="demo").update(role=Role.READER)
    assert_problem(send(demo, b"PK\x03\x04", 403), 403)


def test_one_file_is_imported_at_a_time(demo: Api, document: dict[str, Any]) -> None:
    assert portable._one.acquire(blocking=False)
    try:
        assert_problem(send(demo, document, 429), 429, said="Another file is being imported")
    finally:
        portable._one.release()
    send(demo, document)


def test_json_of_a_stranger_is_bounded() -> None:
    assert read_bounded(b'{"a": [1, 2.5, "x"]}', 10_000) == {"a": [1, 2.5, "x"]}
    assert built_bytes(b"{}" * 1000) == 300_000
    wrongs: tuple[bytes, ...] = (
        b"\xff\xfe{",
        b"[NaN]",
        b"[" * 100_000,
        b"[" * 60 + b"]" * 60,
        b'["\\ud800"]',
        b'{"\\udfff": 1}',
        b"[1" + b"0" * 30 + b"]",
        b"{",
    )
    for wrong in wrongs:
        with pytest.raises(FieldError, match="file"):
            read_bounded(wrong, 100_000_000)
