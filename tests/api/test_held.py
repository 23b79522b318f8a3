"""What an attack found, each as it was done: keys of a body, another field's limit, sizes, days in days, odd input."""

from __future__ import annotations

import json
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import DatabaseError, OperationalError
from django.test import Client

from tests.pictures import picture
from tests.said import metric
from tests.workshop import Api, assert_problem, machine_named, today
from thermaxis.api import edge
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.catalogue.models import Fluid
from thermaxis.apps.garage import querysets as garage
from thermaxis.apps.garage.models import Duty, DutyPart
from thermaxis.core.records import MOST_HOURS, MOST_SEGMENTS

pytestmark = pytest.mark.django_db

STOP = {"from_mps": 30.0, "to_mps": 5.0, "decel_mps2": 5.0, "then_s": 30.0, "then_speed_mps": 20.0}


def duty(shape_kind: str, event_km: float = 10, **shape: Any) -> dict[str, Any]:
    plain = {"name": "Held", "use": "street", "events_per_month": 1, "event_km": event_km}
    return {**plain, "shape": {"kind": shape_kind, **shape}}


# --- 1: no key of a request reaches the ORM -------------------------------------------------------------------------


@pytest.mark.parametrize(
    "before",
    [
        {"workshop__members__password__regex": "^pbkdf2"},
        {"name": "Beck 4", "workshop__members__username": "demo"},
        {"price__gte": "0"},
        {"pk": "1"},
        {"name__regex": "(a+)+$"},
        {"name": "Beck 4", "second": "x"},
    ],
)
def test_a_part_is_found_by_the_fields_of_its_key_and_by_nothing_else(demo: Api, before: dict[str, str]) -> None:
    cells = demo.get("/catalogue/part/fluids?name=Beck%204")["cells"]
    names = set(Fluid.objects.values_list("name", flat=True))
    ask = {"table": "fluids", "cells": {**cells, "name": "Renamed"}, "before": before}
    assert_problem(demo.put("/catalogue/part", ask, 422), 422, "before")
    assert set(Fluid.objects.values_list("name", flat=True)) == names


def test_a_part_renamed_is_one_row_and_the_same_one(demo: Api) -> None:
    cells = demo.get("/catalogue/part/fluids?name=Beck%204")["cells"]
    row = Fluid.objects.get(name="Beck 4")
    ask = {"table": "fluids", "cells": {**cells, "name": "Beck 5"}, "before": {"name": "Beck 4"}}
    demo.put("/catalogue/part", ask)
    assert Fluid.objects.get(name="Beck 5").pk == row.pk
    # Somebody else has renamed it in the meantime.
    assert_problem(demo.put("/catalogue/part", ask, 422), 422, "before.name", "may have been renamed")


# --- 2: a discard thickness is nobody else's ------------------------------------------------------------------------


def test_a_worn_thickness_leaves_the_discard_alone_and_is_found(demo: Api) -> None:
    machine = f"/machines/{demo.machine('Kit roadster')['id']}"
    discard = demo.get(f"{machine}/parts")["values"]["front.rotor.discard_thickness_m"]
    worn = discard - 0.0006
    parts = demo.patch(f"{machine}/parts", {"changes": {"front.rotor.thickness_m": worn}})
    assert parts["values"]["front.rotor.discard_thickness_m"] == discard
    # Typed right again, nothing of it is left.
    balance = demo.post(f"{machine}/balance", {"pedal_force_N": 200, "rotor_C": 200})
    found = [metric(remark["text"]) for remark in balance["warnings"] if remark["code"] == "under_discard_front"]
    assert len(found) == 1
    assert f"{1e3 * discard:.1f} mm: replace it" in found[0]
    stages = {stage["name"]: stage for stage in demo.post(f"{machine}/verdict", {})["stages"]}
    assert (stages["machine"]["state"], metric(stages["machine"]["note"])) == ("attention", found[0])
    # No set is recommended on such a rotor.
    rejected = demo.post(f"{machine}/candidates", {})["rejected"]
    out = {row["front_rotor"] for row in rejected if row["rejected_for"] == "rotor worn out"}
    assert out == {parts["front_rotor"]}
    # The inspection opens and says so too, before anybody has measured.
    head = {"measured_on": today().isoformat(), "odometer_km": 8412}
    sheet = demo.post(f"{machine}/inspections", head)
    rulings = {ruling["subject"]: ruling for ruling in sheet["rulings"]}
    assert (rulings["front_left.rotor"]["word"], metric(rulings["front_left.rotor"]["rule"])) == ("replace", "discard")
    assert demo.get(f"{machine}/inspections")
    demo.patch(f"{machine}/parts", {"changes": {"front.rotor.thickness_m": discard + 0.001}})
    after = demo.post(f"{machine}/balance", {"pedal_force_N": 200, "rotor_C": 200})["warnings"]
    assert "under_discard_front" not in {remark["code"] for remark in after}
    # It is a number of its own, with a range of its own.
    changed = demo.patch(f"{machine}/parts", {"changes": {"front.rotor.discard_thickness_m": 0.0181}})
    assert changed["values"]["front.rotor.discard_thickness_m"] == 0.0181
    refused = demo.patch(f"{machine}/parts", {"changes": {"front.rotor.discard_thickness_m": -1}}, status=422)
    assert_problem(refused, 422, "front.rotor.discard_thickness_m")


def test_a_discard_nobody_has_read_is_marked(demo: Api) -> None:
    known = {"front.rotor.thickness_m": 0.010}
    machine = demo.post(
        "/workshop/machines",
        {"name": "Paper", "owner": "A", "vehicle_class": demo.get("/classes")[0]["name"], "known": known},
        201,
    )
    assert {"front.rotor.discard_thickness_m", "rear.rotor.discard_thickness_m"} <= set(machine["estimates"])
    path = f"/machines/{machine['id']}"
    demo.patch(f"{path}/parts", {"changes": {"front.rotor.thickness_m": 0.009}})
    balance = demo.post(f"{path}/balance", {"pedal_force_N": 200, "rotor_C": 200})["warnings"]
    (text,) = [metric(remark["text"]) for remark in balance if remark["code"] == "under_discard_front"]
    assert "That discard is an estimate" in text


# --- 3 and 6: what a duty may be ------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("body", "field"),
    [
        (duty("stops", stops=[{**STOP, "then_s": 600.0}] * 100, repeat=1000), "shape.repeat"),
        (duty("stops", stops=[{**STOP, "then_s": 0.0}] * 100, repeat=200), "shape.repeat"),
        (duty("week", town_km=5000, rural_km=10000, motorway_km=10000, days=1), "shape.town_km"),
        (
            duty("sections", sections=[{"length_m": 1e5, "grade": 0.05, "speed_mps": 1, "stops": 200}] * 100),
            "shape.sections",
        ),
        (duty("descent", grade=0.05, speed_mps=10, duration_s=36001), "shape.duration_s"),
        (duty("stops", stops=[STOP], event_km=5e-324), "event_km"),
    ],
)
def test_a_duty_longer_than_anything_drives_is_refused_before_it_is_built(
    demo: Api, body: dict[str, Any], field: str
) -> None:
    machine = demo.machine("Kit roadster")["id"]
    before = Duty.objects.count()
    for path in ("/duties", f"/machines/{machine}/drive"):
        assert_problem(demo.post(path, body, 422), 422, field)
    assert Duty.objects.count() == before
    assert (MOST_HOURS, MOST_SEGMENTS) == (48, 20_000)


def test_a_day_of_everything_fifty_times_is_refused(demo: Api) -> None:
    long = demo.post("/duties", duty("stops", stops=[STOP] * 100, repeat=20), 201)["id"]
    parts = [{"duty_id": long, "times": 50, "gap_s": 0}] * 20
    assert_problem(demo.post("/duties", duty("day", parts=parts), 422), 422, "shape.parts")
    stint = demo.duty("Relay stint, Tarn loop")
    assert_problem(demo.post("/duties", duty("day", parts=[{"duty_id": stint, "times": 49, "gap_s": 3600}]), 422), 422)
    demo.post("/duties", duty("day", parts=[{"duty_id": stint, "times": 10, "gap_s": 3600}]), 201)


def test_a_case_file_is_held_to_the_same_lengths(demo: Api) -> None:
    machine = demo.machine("Kit roadster")["id"]
    case = demo.get(f"/machines/{machine}/case")
    case["duty"] = {"kind": "stops", "stops": [{**STOP, "grade": 0.0}] * 100, "repeat": 10000}
    assert_problem(demo.post("/cases", case, 422), 422, "duty.repeat")
    case["duty"] = {
        "kind": "descent",
        "grade": 0.05,
        "speed_mps": 10,
        "duration_s": int("9" * 400),
        "then_s": 0,
        "then_speed_mps": 0,
    }
    assert_problem(demo.post("/cases", case, 422), 422)


def test_a_circuit_is_as_long_as_there_are(demo: Api) -> None:
    circuit = {"name": "Far", "closed": False, "elements": [{"length_m": 20000}] * 200}
    assert_problem(demo.post("/circuits", circuit, 422), 422, "elements")


def test_no_day_is_in_a_day_in_whichever_order(demo: Api, workshop: Workshop) -> None:
    day = demo.duty("Relay day with the drive")
    stint = demo.duty("Relay stint, Tarn loop")
    whole = next(row for row in demo.get("/duties") if row["id"] == day)
    itself = {**whole, "shape": {"kind": "day", "parts": [{"duty_id": day, "times": 1, "gap_s": 0}]}}
    assert_problem(demo.put(f"/duties/{day}", itself, 422), 422)
    # A plain duty cannot become a day that holds itself, nor a day while it is part of one.
    plain = next(row for row in demo.get("/duties") if row["id"] == stint)
    for parts in ([stint], [demo.duty("Street mix")]):
        rows = [{"duty_id": part, "times": 1, "gap_s": 0} for part in parts]
        changed = {**plain, "shape": {"kind": "day", "parts": rows}}
        assert_problem(demo.put(f"/duties/{stint}", changed, 422), 422)
    # What an earlier version let in is still read, and said where it is driven.
    DutyPart.objects.create(duty_id=day, order=99, part_id=day)
    assert len(demo.get("/duties")) == Duty.objects.of(workshop).filter(removed_at=None).count()
    machine = f"/machines/{demo.machine('Kit roadster')['id']}"
    demo.put(f"{machine}/duty", {"duty_id": day})
    assert_problem(demo.post(f"{machine}/verdict", {}, 422), 422, said="not a day itself")
    assert garage.duties(workshop).filter(pk=day).exists()


# --- 10: odd input is a problem, never a fault ----------------------------------------------------------------------


def send(demo: Api, path: str, **form: Any) -> Any:
    response = demo.client.post(f"/api{path}", form)
    assert response.status_code == 422, response.content
    assert response["Content-Type"] == "application/problem+json"
    return response.json()


def file(content: bytes) -> SimpleUploadedFile:
    return SimpleUploadedFile("file.csv", content)


@pytest.mark.parametrize(
    "content",
    [
        b"\xff\xfe",
        b"a," + b"x" * 200_000 + b"\n1,2\n",
        b"\n" * 300,
        b"time,speed\n" + b"9" * 400 + b",1\n",
        b"time,speed\n" + b"".join(b"%d:00,10\n" % (9 * 10**n) for n in range(3, 300, 30)),
        b"PK\x03\x04",
        b"time,speed\n0,10\n1e30,10\n" * 20,
        b"t,v\n" + b"".join(b"%d,10\n" % (i * 10**9) for i in range(20)),
    ],
    ids=range(8),
)
def test_odd_files_are_problems(demo: Api, content: bytes) -> None:
    machine = demo.machine("Kit roadster")["id"]
    uses = json.dumps([{"column": 0, "role": "time", "unit": "s"}, {"column": 1, "role": "speed", "unit": "m/s"}])
    send(demo, f"/machines/{machine}/runs/read", file=file(content), uses=uses)
    send(demo, "/catalogue/read", table="fluids", mapping="{}", file=file(content))


def test_numbers_and_letters_no_page_sends(demo: Api) -> None:
    machine = f"/machines/{demo.machine('Kit roadster')['id']}"

    def raw(method: str, path: str, body: str) -> Any:
        response = demo.client.generic(method, f"/api{path}", body, content_type="application/json")
        assert 400 <= response.status_code < 500, response.content
        assert_problem(response.json(), response.status_code)
        return response.json()

    assert_problem(raw("POST", "/circuits", '{"name": "\\ud800", "closed": true, "elements": []}'), 422, "name")
    raw("POST", "/circuits", '{"name": "a\\u0007b", "closed": true, "elements": [{"length_m": 10}]}')
    raw("POST", f"{machine}/verdict", '{"air_C": 1e999}')
    raw("POST", f"{machine}/verdict", '{"air_C": Infinity}')
    raw("POST", "/classes/hatch/estimates", '{"known": {"vehicle.mass_kg": 1e308}}')
    raw("POST", f"{machine}/friction", '{"pedal_N": 1e-300, "decel_mps2": 5, "speed_mps": 20}')
    raw("POST", "/duties", json.dumps(duty("day", parts=[{"duty_id": 10**16}])))
    raw("POST", "/duties", "[" * 5000)
    raw("POST", "/cases", json.dumps({"name": "x", "vehicle": {"mass_kg": 10**400}}))
    # Parts beside stops are not the day's, and do no harm.
    street = demo.duty("Street mix")
    demo.post("/duties", duty("stops", stops=[STOP], parts=[{"duty_id": street}]), 201)
    log = "\n".join(f"{t},{c}" for t, c in [(0, 20), ("nan", 300), (2, 400)])
    evidence = {"evidence": [{"kind": "logged", "axle": "front", "csv": log}]}
    assert_problem(demo.post(f"{machine}/calibrations", evidence, 422), 422, "evidence[0].t_s[1]")
    cells = demo.get("/catalogue/part/fluids")["cells"]
    named = {**cells, "name": "bell \x07", "standard": "DOT 4", "dry_C": "250", "wet_C": "160", "price": "9"}
    assert_problem(demo.put("/catalogue/part", {"table": "fluids", "cells": named}, 422), 422, "cells.name")
    # One that is in already does not keep the others from going out.
    Fluid.objects.filter(name="Beck 4").update(name="Beck\x07 4")
    for kind in ("csv", "xlsx"):
        assert demo.client.get(f"/api/catalogue/file/fluids/{kind}").status_code == 200


@pytest.fixture
def broken(monkeypatch: pytest.MonkeyPatch) -> Any:
    """Make the next query of machines fail as a disk or a file does."""

    def fail_with(error: BaseException) -> None:
        def fail(*_: Any, **__: Any) -> Any:
            raise error

        monkeypatch.setattr(garage, "machine_rows", fail)

    return fail_with


@pytest.mark.parametrize(
    ("error", "status", "kind"),
    [
        (OperationalError("database or disk is full"), 507, "disk-full"),
        (OperationalError("attempt to write a readonly database"), 503, "read-only"),
        (DatabaseError("database disk image is malformed"), 503, "damaged"),
        (OperationalError("database is locked"), 503, "busy"),
        (RuntimeError("a secret of ours"), 500, "fault"),
    ],
)
def test_what_fails_below_is_said_without_our_insides(
    demo: Api, broken: Any, error: BaseException, status: int, kind: str
) -> None:
    broken(error)
    demo.client.raise_request_exception = False
    response = demo.client.get("/api/machines")
    assert_problem(response.json(), status)
    assert response.json()["type"] == f"/problems/{kind}"
    assert "secret" not in response.content.decode()


def test_every_error_under_api_is_a_problem_document(demo: Api) -> None:
    strict = Client(enforce_csrf_checks=True, raise_request_exception=False)
    for method, path, body, status in (
        ("GET", "/api/nowhere", "", 404),
        ("GET", "/api/", "", 404),
        ("PATCH", "/api/session", "{}", 405),
        ("DELETE", "/api/machines", "", 405),
        ("POST", "/api/session", "{}", 403),
        ("GET", "/api/machines", "", 401),
        ("POST", "/api/duties", "x" * 400_000, 413),
        ("GET", "/api/shared/" + "x" * 3000, "", 414),
        ("POST", "/api/session", "not json", 403),
    ):
        response = strict.generic(method, path, body, content_type="application/json")
        assert response["Content-Type"] == "application/problem+json", (path, response.content)
        assert_problem(response.json(), status)
    response = demo.client.generic(
        "POST", "/api/runs", b"--x\r\nbroken", content_type="multipart/form-data; boundary=y"
    )
    assert_problem(response.json(), response.status_code)
    assert demo.client.get("/api/machines", headers={"host": "elsewhere.invalid"}).status_code == 400
    assert demo.client.get("/api/machines")["Cache-Control"] == "no-store"
    assert "GET" in strict.generic("DELETE", "/api/machines")["Allow"]


def test_each_kind_of_body_has_a_limit_of_its_own(demo: Api) -> None:
    paths = {
        "/api/runs": 16.5,
        "/api/inspections/1/photos": 12.5,
        "/api/jobs/1/photos": 12.5,
        "/api/log/1/photos": 12.5,
        "/api/machines/1/events/take-in": 2.2,
        "/api/catalogue/import": 2.2,
        "/api/cases": 3.0,
        "/api/machines/1/calibrations": 6.0,
        "/api/machines/1/verdict": 0.3,
    }
    for path, megabytes in paths.items():
        assert edge.limit_of(path) == megabytes * 1e6
        response = demo.client.generic("POST", path, b"", content_type="application/json", CONTENT_LENGTH="17000000")
        assert_problem(response.json(), 413, said="at most")


# --- 9: pictures carry nothing but the picture ----------------------------------------------------------------------


def test_a_picture_is_drawn_anew(demo: Api, workshop: Workshop) -> None:
    machine = machine_named(workshop, "Kit roadster")
    sheet = demo.post(f"/machines/{machine.pk}/inspections", {"measured_on": today().isoformat(), "odometer_km": 8412})
    place = b"GPS 54.4 N 3.1 W, phone of somebody"
    turned = (
        b"Exif\x00\x00II*\x00\x08\x00\x00\x00\x01\x00\x12\x01\x03\x00\x01\x00\x00\x00\x06\x00\x00\x00\x00\x00\x00\x00"
    )
    content = picture("JPEG", (40, 30), exif=turned, comment=place) + b"<script>alert(1)</script>"
    form = {"wheel": "front_left", "token": "token-0009", "file": SimpleUploadedFile("a.jpg", content)}
    kept = demo.client.post(f"/api/inspections/{sheet['id']}/photos", form).json()
    shown = demo.client.get(f"/api/photos/{kept['id']}")
    assert (shown["Content-Type"], shown["Cache-Control"]) == ("image/jpeg", "private, max-age=86400")
    for hidden in (place, b"Exif", b"script"):
        assert hidden in content
        assert hidden not in shown.content
    huge = picture("PNG", (6000, 5000))
    path = f"/inspections/{sheet['id']}/photos"
    refused = send(demo, path, wheel="front_left", token="token-0010", file=SimpleUploadedFile("b.png", huge))
    assert_problem(refused, 422, "file", "million points")
    demo.put(f"/photos/{kept['id']}/removed", {"removed": True})
    assert demo.client.get(f"/api/photos/{kept['id']}").status_code == 404
