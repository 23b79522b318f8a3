"""The log over the API: what writes itself, by hand, searched, in files; a thing's history; 10 years of it."""

from __future__ import annotations

import csv
import datetime as dt
import io
import json
from typing import Any

import openpyxl
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test.utils import CaptureQueriesContext

from tests.pictures import picture
from tests.workshop import Api, assert_problem, today
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.action import ACTIONS, KINDS, Action
from thermaxis.apps.log.models import LogEntry

pytestmark = pytest.mark.django_db


@pytest.fixture
def roadster(demo: Api) -> str:
    return f"/machines/{demo.machine('Kit roadster')['id']}"


def number_of(path: str) -> int:
    return int(path.rpartition("/")[2])


def log(demo: Api, **filters: Any) -> dict[str, Any]:
    query = "&".join(f"{name}={value}" for name, value in filters.items())
    found: dict[str, Any] = demo.get(f"/log?{query}")
    return found


def test_an_action_is_declared_once_and_the_log_knows_its_kind() -> None:
    assert all(action.words and action.kind in KINDS for action in ACTIONS.values())
    with pytest.raises(ValueError, match="declared twice: fit_set"):
        Action("fit_set", "Set fitted", kind="parts")
    with pytest.raises(ValueError, match="kind must be one of parts"):
        Action("no_such_action", "Nothing", kind="things")


def test_a_change_writes_its_entry_by_itself(demo: Api, roadster: str) -> None:
    life = demo.get(f"{roadster}/life")
    demo.post(
        f"{roadster}/measurements",
        {
            "axle": "front",
            "thickness_m": 0.0085,
            "odometer_km": life["odometer_km"],
            "measured_on": today().isoformat(),
        },
    )
    first = log(demo, machine_id=number_of(roadster))["entries"][0]
    assert (first["kind"], first["summary"]) == ("reading", "Pads measured: Garth Road")
    assert (first["user_name"], first["odometer_km"], first["on"]) == ("demo", 8412.0, today().isoformat())
    thing = next(words for words in first["things"] if words.startswith("pad set"))
    # Everything about one thing, and nothing about its neighbour: 1 is not 12.
    about = log(demo, thing=thing.replace(" ", "%20"))["entries"]
    assert first["id"] in [entry["id"] for entry in about]
    assert all(thing in entry["things"] for entry in about)


def test_the_log_is_searched_by_words_kind_person_machine_and_time(demo: Api, roadster: str) -> None:
    year_ago = (today() - dt.timedelta(days=365)).isoformat()
    note = {
        "machine_id": number_of(roadster),
        "on": year_ago,
        "text": "Caliper pins greased, boots sound",
        "cost": 12.5,
    }
    row = demo.post("/log", note, 201)
    assert row["by_hand"]
    for filters in (
        {"words": "PINS%20greased"},
        {"words": "greased", "kind": "note"},
        {"until": year_ago, "machine_id": number_of(roadster)},
        {"since": year_ago, "until": year_ago},
    ):
        assert row["id"] in [entry["id"] for entry in log(demo, **filters)["entries"]]
    for filters in (
        {"words": "greased", "kind": "job"},
        {"words": "greased", "person": "nobody"},
        {"words": "grease%25"},
    ):
        assert row["id"] not in [entry["id"] for entry in log(demo, **filters)["entries"]]
    # By day, not by when it was written: the latest day comes first.
    days = [entry["on"] for entry in log(demo)["entries"]]
    assert days == sorted(days, reverse=True)
    assert_problem(demo.post("/log", {**note, "text": "  "}, 422), 422, "text")
    assert_problem(demo.post("/log", {**note, "on": "1901-01-01"}, 422), 422, "on")
    assert_problem(demo.get("/log?thing=a'b", 422), 422, "thing")


def test_an_entry_by_hand_goes_out_and_comes_back_and_one_that_wrote_itself_stays(demo: Api, roadster: str) -> None:
    row = demo.post("/log", {"machine_id": number_of(roadster), "on": today().isoformat(), "text": "A note"}, 201)
    file = SimpleUploadedFile("a.jpg", picture("JPEG"))
    for _ in range(2):
        kept = demo.client.post(f"/api/log/{row['id']}/photos", {"file": file, "token": "token-000"}).json()
        file.seek(0)
    photo = demo.client.get(f"/api/log-photos/{kept['id']}")
    assert photo["Content-Type"] == "image/jpeg"
    assert demo.get(f"/log?words=note&machine_id={number_of(roadster)}")["entries"][0]["photos"] == [kept["id"]]
    demo.put(f"/log/{row['id']}/removed", {"removed": True})
    assert row["id"] not in [entry["id"] for entry in log(demo, words="note")["entries"]]
    assert row["id"] in [entry["id"] for entry in log(demo, words="note", removed="true")["entries"]]
    demo.put(f"/log/{row['id']}/removed", {"removed": False})
    own = next(entry for entry in log(demo)["entries"] if not entry["by_hand"])
    assert_problem(demo.put(f"/log/{own['id']}/removed", {"removed": True}, 409), 409, said="stays")


def test_the_log_as_files(demo: Api, roadster: str) -> None:
    text = '=1+1; "quoted", with a comma'
    demo.post(
        "/log",
        {"machine_id": number_of(roadster), "on": today().isoformat(), "text": text, "cost": 3, "odometer_km": 8400.5},
        201,
    )
    query = f"machine_id={number_of(roadster)}"
    content = demo.client.get(f"/api/log.csv?{query}").content.decode("utf-8-sig")
    rows = list(csv.DictReader(io.StringIO(content)))
    row = next(row for row in rows if "quoted" in row["text"])
    # A spreadsheet that opens it runs nothing.
    assert row["text"].startswith("'=")
    assert (row["odometer, km"], row["cost"], row["machine"]) == ("8400.5", "3.00", "Kit roadster")
    sheet = openpyxl.load_workbook(io.BytesIO(demo.client.get(f"/api/log.xlsx?{query}").content)).active
    assert sheet is not None
    assert sheet.max_row == len(rows) + 1
    book = demo.client.get(f"/api{roadster}/log-book?system=imperial")
    assert book["Content-Type"] == "application/pdf"
    assert book.content[:5] == b"%PDF-"


def test_an_older_log_comes_in_by_its_columns_once(demo: Api, roadster: str) -> None:
    content = (
        b"Date;Mileage (mi);Work done;Parts;Price\n"
        b"12.03.2019;40.000;Discs and pads, front;Tarn 260;186,50\n"
        b"2020-07-01;44100;Fluid flushed;;21\n"
        b"some day;1;lost;;\n"
    )

    def send(what: str, **form: str) -> Any:
        file = SimpleUploadedFile("log.csv", content)
        return demo.client.post(f"/api{roadster}/log/{what}", {"file": file, **form}).json()

    looked = send("look")
    assert looked["mapping"] == {
        "on": "Date",
        "odometer_km": "Mileage (mi)",
        "text": "Work done",
        "parts": "Parts",
        "cost": "Price",
    }
    mapping = json.dumps(looked["mapping"])
    read = send("read", mapping=mapping)
    assert (read["number"], read["taken_in"]) == (2, None)
    assert [row["row"] for row in read["wrong"]] == [4]
    assert read["rows"][0]["odometer_km"] == pytest.approx(40000 * 1.609344)
    assert read["rows"][0]["cost"] == 186.5
    assert read["rows"][0]["text"] == "Discs and pads, front; Tarn 260"
    assert send("take-in", mapping=mapping)["taken_in"] == 2
    assert send("take-in", mapping=mapping)["taken_in"] == 0
    found = log(demo, words="flushed")["entries"][0]
    assert (found["on"], found["by_hand"]) == ("2020-07-01", True)
    assert_problem(send("read", mapping='{"on": "Date"}'), 422, "mapping")
    assert_problem(send("read", mapping='{"on": "Date", "text": "Nowhere"}'), 422, "mapping")


def test_a_set_s_own_history(demo: Api, roadster: str) -> None:
    shelf = demo.get(f"{roadster}/shelf")
    track = next(row for row in shelf if row["name"] == "Fellmark R2" and row["axle"] == "front")
    history = demo.get(f"/pad-sets/{track['id']}/history")
    days = [line["on"] for line in history["lines"]]
    assert days == sorted(days)
    assert history["lines"][0]["what"] == "put on, front"
    assert sum(line["what"].startswith("driven") for line in history["lines"]) == 4
    assert sum(line["thickness_m"] is not None for line in history["lines"]) == 4
    assert history["driven_km"] == pytest.approx(6920 - 5650)
    # Seven sessions on a set of 88.
    assert history["price_per_event"] == pytest.approx(88 / 7)
    assert history["price_per_1000km"] == pytest.approx(88 / 1.27)
    rotors = next(row for row in shelf if row["kind"] == "rotors")
    assert demo.get(f"/rotor-pairs/{rotors['id']}/history")["kind"] == "rotors"


def test_ten_years_of_log_are_a_page_at_a_time(demo: Api, workshop: Workshop) -> None:
    machine = Machine.objects.get(workshop=workshop, name="Kit roadster")
    LogEntry.objects.bulk_create(
        LogEntry(
            workshop=workshop,
            machine=machine,
            act="write_note",
            kind="note",
            user_name="demo",
            on=today() - dt.timedelta(days=i % 3650),
            summary="Written by hand",
            text=f"entry {i}: {'pads' if i % 7 else 'hoses'} looked at",
        )
        for i in range(5000)
    )
    with CaptureQueriesContext(connection) as queries:
        page = log(demo, words="hoses", machine_id=machine.pk)
    assert len(queries) < 15
    assert (len(page["entries"]), page["more"]) == (50, True)
    seen, last = [entry["id"] for entry in page["entries"]], page["entries"][-1]
    while page["more"]:
        page = log(demo, words="hoses", machine_id=machine.pk, before_on=last["on"], before_id=last["id"])
        seen += [entry["id"] for entry in page["entries"]]
        last = page["entries"][-1]
    # Every one of them, and none twice.
    hand = LogEntry.objects.filter(text__contains="hoses", text__startswith="entry").count()
    assert len(seen) == len(set(seen)) >= hand
