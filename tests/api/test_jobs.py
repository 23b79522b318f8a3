"""Jobs: begun, worked through, closed and opened again; torques, stand-ins, two people, what arrives twice."""

from __future__ import annotations

import csv
import datetime as dt
import io
import json
from typing import Any

import pytest
from django.test import Client
from django.utils import timezone

from tests.pictures import picture
from tests.said import metric
from tests.workshop import Api, today
from thermaxis.apps.fitted.models import PadReading, PadSet
from thermaxis.apps.job.models import Job
from thermaxis.formats import pdf_sheet

pytestmark = pytest.mark.django_db

TORQUES = {
    "wheel": 100.0,
    "bracket": 88.0,
    "guide_pin": 29.0,
    "bleed": 9.0,
    "fixing_screw": 11.0,
    "caliper_upright": 76.0,
}


@pytest.fixture
def hatch(demo: Api) -> str:
    return f"/machines/{demo.machine('Electric hatch')['id']}"


def rear_job(demo: Api, machine: str, torques: bool = True) -> dict[str, Any]:
    for row in demo.get(f"{machine}/jobs")["jobs"]:
        if not row["closed_on"] and not row["abandoned"]:
            demo.put(f"/jobs/{row['id']}/abandoned", {"abandoned": True})
    for kind, torque in TORQUES.items():
        changes = {"torque_Nm": torque if torques else None, "words": "", "thread": ""}
        demo.put(f"{machine}/fasteners", {"axle": "rear", "kind": kind, "changes": changes, "sure": True})
    job: dict[str, Any] = demo.post(f"{machine}/jobs", {"axle": "rear", "work": "pads"})
    return job


def service(demo: Api, job: int, *actions: str, **more: Any) -> Any:
    answer: Any = {}
    for action in actions:
        answer = demo.post(f"/jobs/{job}/service", {"action": action, **more})
        if action == "home" and answer["done"]:
            # The motors take their time: it is over.
            row = Job.objects.get(pk=job)
            assert row.service_since is not None
            row.service_since -= dt.timedelta(seconds=21)
            row.save()
    return answer


def prepared(demo: Api, job: dict[str, Any]) -> None:
    """Everything before anything comes apart, but service mode."""
    keys = [step["key"] for step in job["steps"] if step["phase"] == "before" and step["id"] != "service_mode"]
    found = demo.put(f"/jobs/{job['id']}/marks", {"marks": [{"key": key, "kind": "done"} for key in keys]})
    assert found["refused"] == []


def work_through(demo: Api, job: dict[str, Any]) -> dict[str, Any]:
    """Tick every step in order, and check again what was tightened."""
    path = f"/jobs/{job['id']}"
    if job["service"] is not None and job["service"]["state"] != "learned":
        prepared(demo, job)
        service(demo, job["id"], "connect", "release", "home")
        before = [step["key"] for step in job["steps"] if step["id"] != "service_learn"]
        at = next((i for i, step in enumerate(job["steps"]) if step["id"] == "service_learn"), len(before))
        keys = [step["key"] for step in job["steps"][:at]]
        found = demo.put(f"{path}/marks", {"marks": [{"key": key, "kind": "done"} for key in keys]})
        assert found["refused"] == []
        service(demo, job["id"], "leave")
    keys = [step["key"] for step in job["steps"]]
    marks = [{"key": key, "kind": "done"} for key in keys]
    marks += [{"key": step["key"], "kind": "recheck"} for step in job["steps"] if step["tighten"]]
    found = demo.put(f"{path}/marks", {"marks": marks})
    assert found["refused"] == []
    after: dict[str, Any] = found["job"]
    return after


def test_a_rear_job_from_beginning_to_end(demo: Api, hatch: str) -> None:
    job = rear_job(demo, hatch)
    path = f"/jobs/{job['id']}"
    assert (job["label"], job["parts"], job["corners"]) == ("Pads", "Sallow Slalom", ["left", "right"])
    # Sent again it is gone on with; another work on the same axle has to wait.
    assert demo.post(f"{hatch}/jobs", {"axle": "rear", "work": "pads"})["id"] == job["id"]
    demo.post(f"{hatch}/jobs", {"axle": "rear", "work": "clean"}, status=409)
    demo.put(f"{path}/values", {"values": {"level": 0.9, "pad.left.inner": 0.0031, "pad.right.outer": 0.0042}})
    demo.put(f"{path}/closed", {"closed": True}, status=422)
    done = work_through(demo, job)
    assert done["against"] == []
    assert all(step["done"] and step["by"] == "demo" for step in done["steps"])
    set_before = demo.get(f"{hatch}/set")
    wrong = demo.put(f"{path}/closed", {"closed": True, "off": {"pads": "scrap"}}, status=422)
    assert wrong["fields"][0]["field"] == "off.pads_reason"
    km = demo.get(hatch)["odometer_km"]
    ask = {"closed": True, "odometer_km": km + 5, "off": {"pads": "scrap", "pads_reason": "down to the tab"}}
    closed = demo.put(f"{path}/closed", ask)
    assert closed["closed_on"] == today().isoformat()
    assert closed["bolts_due_km"] == km + 105
    after = demo.get(f"{hatch}/set")
    assert (set_before["rear_pads"], after["rear_pads"]) == ("Burnside Town", "Sallow Slalom")
    assert after["front_pads"] == set_before["front_pads"]
    old = PadSet.objects.get(scrapped_for="down to the tab")
    assert {row.position: row.thickness_m for row in PadReading.objects.filter(pad_set=old)} == {
        "left.inner": 0.0031,
        "right.outer": 0.0042,
    }
    assert demo.get(hatch)["odometer_km"] == km + 5
    # Closed twice is closed once; closed, it reads as it was and takes nothing more.
    assert demo.put(f"{path}/closed", ask) == closed
    demo.put(f"{hatch}/fasteners", {"axle": "rear", "kind": "wheel", "changes": {"torque_Nm": 120}, "sure": True})
    wheel = next(step for step in demo.get(path)["steps"] if step["id"] == "wheel_torque")
    assert (wheel["torque_Nm"], wheel["reached_Nm"]) == (100.0, 100.0)
    demo.put(f"{path}/marks", {"marks": [{"key": "eyes", "kind": "open"}]}, status=409)
    # Choose does not take back what a job has done; reopening does, to the last row.
    demo.call("delete", f"{hatch}/set", status=409)
    again = demo.put(f"{path}/closed", {"closed": False})
    assert again["closed_at"] is None
    assert demo.get(f"{hatch}/set")["rear_pads"] == "Burnside Town"
    assert not PadSet.objects.exclude(scrapped_for="").exists()
    assert not PadReading.objects.filter(position="left.inner", thickness_m=0.0031).exists()
    stages = {row["name"]: row["state"] for row in demo.post(f"{hatch}/verdict", {})["stages"]}
    assert stages["job"] == "started"


def test_ticks_are_blocked_with_why(demo: Api, hatch: str) -> None:
    job = rear_job(demo, hatch, torques=False)
    path = f"/jobs/{job['id']}"
    steps = {step["id"]: step for step in job["steps"] if step["corner"] != "right"}
    assert "stands_under" in steps["wheel_off"]["waits_for"]
    assert "not in service mode" in metric(steps["push_electric"]["held"])

    def refused(*marks: dict[str, Any]) -> list[str]:
        found = demo.put(f"{path}/marks", {"marks": list(marks)})
        return [metric(entry["reason"]) for entry in found["refused"]]

    first = [{"key": step["key"], "kind": "done"} for step in job["steps"] if step["phase"] == "before"]
    assert "not in service mode" in refused(*first)[0]
    assert refused({"key": "service_mode", "kind": "words", "words": "wound back by hand by the manual"}) == []
    keys = [step["key"] for step in job["steps"] if step["corner"] == "left"]
    (why,) = refused(*[{"key": key, "kind": "done"} for key in keys[: keys.index("screw_shut@left") + 1]])
    assert "look it up in the vehicle's manual" in why
    assert refused({"key": "screw_shut@left", "kind": "words", "words": "snug by hand, no torque in the manual"}) == []
    assert refused({"key": "none", "kind": "done"}) == ["no step of this sheet"]
    assert "once it is tightened" in refused({"key": "guide_torque@left", "kind": "recheck"})[0]
    demo.put(f"{path}/marks", {"marks": [{"key": "eyes", "kind": "words", "words": "  "}]}, status=422)
    # Every number of a step opens what it waits for; what does not belong says why.
    reasons = {entry["text"]: metric(entry["reason"]) for entry in demo.get(f"{path}/left-out")}
    assert any(reason == "only for opposed calipers" for reason in reasons.values())


def test_two_on_one_sheet_and_what_arrives_twice(demo: Api, hatch: str, client: Client) -> None:
    job = rear_job(demo, hatch)
    path = f"/jobs/{job['id']}"
    at = (timezone.now() - dt.timedelta(minutes=4)).isoformat()
    Job.objects.filter(pk=job["id"]).update(started_at=timezone.now() - dt.timedelta(minutes=5))
    marks = [{"key": "manual_open", "kind": "done", "at": at}, {"key": "fluid_level", "kind": "done"}]
    once = demo.put(f"{path}/marks", {"marks": marks})["job"]
    twice = demo.put(f"{path}/marks", {"marks": marks})["job"]
    ticks = [(step["key"], step["done"], step["by"], step["at"]) for step in once["steps"]]
    assert ticks == [(step["key"], step["done"], step["by"], step["at"]) for step in twice["steps"]]
    # By the device's clock; one that runs ahead, or before the job, is the server's.
    took = {step["id"]: step["took_s"] for step in twice["steps"] if step["took_s"] is not None}
    assert took["manual_open"] == pytest.approx(60, abs=5)
    future = (timezone.now() + dt.timedelta(days=3)).isoformat()
    ahead = demo.put(f"{path}/marks", {"marks": [{"key": "eyes", "kind": "done", "at": future}]})["job"]
    eyes = next(step for step in ahead["steps"] if step["id"] == "eyes")
    assert dt.datetime.fromisoformat(eyes["at"]) <= timezone.now()
    # Readings, by what was seen.
    demo.put(f"{path}/values", {"values": {"strokes.rear_left": 4}, "seen": {"strokes.rear_left": None}})
    demo.put(f"{path}/values", {"values": {"strokes.rear_left": 9}, "seen": {"strokes.rear_left": 2}}, status=409)
    demo.put(f"{path}/values", {"values": {"strokes.rear_left": 4}, "seen": {"strokes.rear_left": None}})
    for values in ({"level": 3}, {"weight": 1}, {"pad.left.middle": 0.01}, {"strokes.moon": 1}):
        demo.put(f"{path}/values", {"values": values}, status=422)
    # A picture once per token.
    for _ in range(2):
        answer = client.post(
            f"/api{path}/photos", {"token": "token-123", "corner": "left", "when": "before", "file": picture_file()}
        )
        assert answer.status_code == 201, answer.content
    assert len(demo.get(path)["photos"]) == 1
    photo = demo.get(path)["photos"][0]["id"]
    assert client.get(f"/api/job-photos/{photo}")["Content-Type"] == "image/jpeg"
    demo.put(f"/job-photos/{photo}/removed", {"removed": True})
    assert client.get(f"/api/job-photos/{photo}").status_code == 404


def picture_file() -> Any:
    from django.core.files.uploadedfile import SimpleUploadedFile

    return SimpleUploadedFile("a.jpg", picture("JPEG"), "image/jpeg")


def test_torques_come_from_the_manual_or_not_at_all(demo: Api, hatch: str) -> None:
    table = {row["kind"]: row for row in demo.get(f"{hatch}/fasteners")["rear"]}
    ask = {"axle": "rear", "kind": "bracket", "changes": {"torque_Nm": 88.0, "thread": "M10", "size_m": 0.015}}
    assert table["bracket"]["torque_Nm"] is None
    # Ten times what the thread bears asks; said to be right it is kept.
    wild = {**ask, "changes": {"torque_Nm": 600.0, "thread": "M10"}}
    refused = demo.put(f"{hatch}/fasteners", wild, status=422)["fields"][0]
    assert "far from what M10 usually bears" in metric(refused["said"])
    demo.put(f"{hatch}/fasteners", {**wild, "changes": {"torque_Nm": 55.0, "thread": "M10", "page": "46-12"}})
    kept = {row["kind"]: row for row in demo.get(f"{hatch}/fasteners")["rear"]}["bracket"]
    assert (kept["torque_Nm"], kept["page"], kept["usual_low_Nm"]) == (55.0, "46-12", 25.0)
    # The front's value on the rear.
    demo.put(f"{hatch}/fasteners", {"axle": "front", "kind": "guide_pin", "changes": {"torque_Nm": 34.0}})
    same = {"axle": "rear", "kind": "guide_pin", "changes": {"torque_Nm": 34.0}}
    assert "other axle has" in metric(demo.put(f"{hatch}/fasteners", same, status=422)["fields"][0]["said"])
    demo.put(f"{hatch}/fasteners", {**same, "sure": True})
    for changes in ({"torque_Nm": -3}, {"drive": "claw"}, {"weight": 3}, {"single_use": "yes"}, {"thread": "M99"}):
        demo.put(f"{hatch}/fasteners", {"axle": "rear", "kind": "wheel", "changes": changes}, status=422)
    clash = {"axle": "rear", "kind": "bracket", "changes": {"torque_Nm": 60}, "seen": {"torque_Nm": 40}}
    demo.put(f"{hatch}/fasteners", clash, status=409)


def test_the_wrench_over_and_under(demo: Api, hatch: str) -> None:
    job = rear_job(demo, hatch)
    path = f"/jobs/{job['id']}"
    prepared(demo, job)
    service(demo, job["id"], "connect", "release", "home")
    keys = [step["key"] for step in job["steps"]]
    demo.put(
        f"{path}/marks", {"marks": [{"key": key, "kind": "done"} for key in keys[: keys.index("guide_torque@left")]]}
    )

    def pull(story: str) -> tuple[float, list[str]]:
        peak = demo.post(f"{path}/wrench", {"key": "guide_torque@left", "story": story, "seed": 3})["peak_Nm"]
        mark = {"key": "guide_torque@left", "kind": "done", "torque_Nm": peak, "source": "wrench"}
        refused = demo.put(f"{path}/marks", {"marks": [mark]})["refused"]
        return peak, [metric(entry["reason"]) for entry in refused]

    over, under, good = pull("over"), pull("under"), pull("good")
    assert over[0] > 29 * 1.05
    assert "loosen it" in over[1][0]
    assert under[0] < 29 * 0.95
    assert "go on until it clicks" in under[1][0]
    assert good[1] == []
    step = next(step for step in demo.get(path)["steps"] if step["key"] == "guide_torque@left")
    assert step["reached_Nm"] == good[0]
    demo.post(f"{path}/wrench", {"key": "eyes"}, status=422)


def test_the_service_tool_and_its_faults(demo: Api, hatch: str) -> None:
    job = rear_job(demo, hatch)
    for fault, said, step in (
        ("low voltage", "Put a charger on", "connect"),
        ("lost contact", "connect again", "connect"),
    ):
        answer = service(demo, job["id"], step, fault=fault)
        assert (answer["done"], answer["service"]["state"]) == (False, "")
        assert said in metric(answer["text"])
    assert "connect the tool first" in metric(service(demo, job["id"], "sensors")["text"])
    assert service(demo, job["id"], "connect")["volts"] == 12.6
    # Nothing is released before the machine stands on its stands, chocked.
    early = demo.post(f"/jobs/{job['id']}/service", {"action": "release"}, status=409)
    assert early["detail"].startswith("Not yet. First: Stands under")
    prepared(demo, job)
    assert "release the parking brake first" in metric(service(demo, job["id"], "home")["text"])
    assert service(demo, job["id"], "release")["service"]["state"] == "released"
    stalled = service(demo, job["id"], "home", fault="stall")
    assert (stalled["done"], stalled["service"]["state"]) == (False, "released")
    assert "Stop, look whether the lead and the caliper are free" in metric(stalled["text"])
    # On its way it is not home, and nothing else is asked of it.
    on_its_way = demo.post(f"/jobs/{job['id']}/service", {"action": "home", "seed": 5})
    assert on_its_way["service"]["state"] == "homing"
    assert 12 <= on_its_way["service"]["took_s"] <= 20
    demo.post(f"/jobs/{job['id']}/service", {"action": "leave"}, status=409)
    marks = [{"key": step["key"], "kind": "done"} for step in job["steps"] if step["phase"] == "before"]
    found = demo.put(f"/jobs/{job['id']}/marks", {"marks": marks})
    assert "has not said home yet" in metric(found["refused"][0]["reason"])
    row = Job.objects.get(pk=job["id"])
    assert row.service_since is not None
    row.service_since -= dt.timedelta(seconds=30)
    row.save()
    assert demo.get(f"/jobs/{job['id']}/service")["state"] == "home"
    # No piston meets an empty caliper: it is not left before all is together.
    early = demo.post(f"/jobs/{job['id']}/service", {"action": "leave"}, status=409)
    assert early["detail"].startswith("Not yet. First: ")
    # Contact lost and found again: it goes on where it was.
    service(demo, job["id"], "connect", fault="lost contact")
    assert service(demo, job["id"], "connect")["service"]["state"] == "home"
    done = {step["key"]: step for step in job["steps"]}
    marks = [{"key": key, "kind": "done"} for key, step in done.items() if step["id"] != "service_learn"]
    found = demo.put(f"/jobs/{job['id']}/marks", {"marks": marks})
    # Driving stays blocked until it has learned.
    assert "first_stops" in {entry["key"] for entry in found["refused"]}
    assert service(demo, job["id"], "leave")["service"]["state"] == "learned"
    marks = [{"key": "service_learn", "kind": "done"}, *marks]
    assert demo.put(f"/jobs/{job['id']}/marks", {"marks": marks})["refused"] == []


def test_fit_stops_a_job(demo: Api, hatch: str) -> None:
    job = demo.post(f"{hatch}/jobs", {"axle": "front", "work": "pads_rotors"})
    # A set of pads, and a rotor for each side, as the catalogue has them.
    pads, rotors = job["parts"].split(" on ")
    catalogue = demo.get("/catalogue")
    shapes = next(row["shapes"] for row in catalogue["compounds"] if row["name"] == pads)
    rotor = next(row["price"] for row in catalogue["rotors"] if row["name"] == rotors)
    assert job["cost"]["parts_price"] - 2 * rotor in [row["price"] for row in shapes]
    laid = next(step for step in job["steps"] if step["id"] == "parts_laid_out")
    assert "too thick" in metric(laid["held"])
    words = {"key": "parts_laid_out", "kind": "words", "words": "it will go"}
    assert len(demo.put(f"/jobs/{job['id']}/marks", {"marks": [words]})["refused"]) == 1
    # Without a set that is said, nothing can go on; a swap wants one of the shelf.
    demo.put(f"/jobs/{job['id']}/abandoned", {"abandoned": True})
    demo.put(f"{hatch}/intended", {"key": ""})
    demo.post(f"{hatch}/jobs", {"axle": "front", "work": "pads"}, status=409)
    assert (
        demo.post(f"{hatch}/jobs", {"axle": "front", "work": "swap"}, status=422)["fields"][0]["field"] == "pad_set_id"
    )


def test_the_printed_sheet_and_its_files(demo: Api, hatch: str, monkeypatch: pytest.MonkeyPatch) -> None:
    job = rear_job(demo, hatch, torques=False)
    said: list[str] = []
    say, grid = pdf_sheet.Sheet.say, pdf_sheet.Sheet.grid

    def heard(self: Any, text: str, *rest: Any, **named: Any) -> None:
        said.append(text)
        say(self, text, *rest, **named)

    def seen(self: Any, rows: Any, *rest: Any, **named: Any) -> None:
        said.extend(" | ".join(row) for row in rows)
        grid(self, rows, *rest, **named)

    monkeypatch.setattr(pdf_sheet.Sheet, "say", heard)
    monkeypatch.setattr(pdf_sheet.Sheet, "grid", seen)
    demo.put(f"{hatch}/fasteners", {"axle": "rear", "kind": "wheel", "changes": {"torque_Nm": 112.0}, "sure": True})
    content = demo.client.get(f"/api/jobs/{job['id']}/pdf").content
    assert content.count(b"/Type /Page\n") == 2
    sheet = said[len(said) // 2 :] if said.count("Electric hatch: Pads, rear") > 1 else said
    # Each step once, with a box for each wheel; torques in both units, and a blank where the manual must be looked up.
    (row,) = {text for text in sheet if "Push the piston home" in text}
    assert row.startswith("☐L ☐R | Push the piston home")
    assert any("112 N m · 83 lbf ft" in text for text in sheet)
    assert any("______ N m · ______ lbf ft" in text for text in sheet)
    assert sum("Springs fly" in text for text in {*sheet}) == 1
    # The largest work there is goes on two pages as well.
    for number in (row["id"] for row in demo.get(f"/machines/{demo.machine('Parcel van')['id']}/jobs")["jobs"]):
        assert demo.client.get(f"/api/jobs/{number}/pdf?units=imperial").content.count(b"/Type /Page\n") == 2
    rows = list(csv.reader(io.StringIO(demo.client.get(f"/api/jobs/{job['id']}/file/csv").content.decode())))
    assert {len(row) for row in rows} == {10}
    assert sum(row[0] == "step" for row in rows) == len(job["steps"])
    document = json.loads(demo.client.get(f"/api/jobs/{job['id']}/file/json").content)
    assert (document["machine"], len(document["steps"])) == ("Electric hatch", len(job["steps"]))
    demo.get(f"/jobs/{job['id']}/file/xls", status=422)


def test_words_of_an_axle_and_the_maker_s_order(demo: Api, hatch: str) -> None:
    words = {"front.wear_sensor": "both", "front.line": "pipe", "front.retention": "bolted", "driver_side": "left"}
    found = demo.put(f"{hatch}/words", {"words": words})
    assert {path: found["words"][path] for path in words} == words
    order = {"bleed_order": "front right, rear left, rear right, front left"}
    assert demo.put(f"{hatch}/words", {"words": order})["words"]["bleed_order"].startswith("front_right")
    flush = demo.post(f"{hatch}/jobs", {"axle": "front", "work": "flush"})
    corners = [row["corner"] for row in flush["bleeding"]["corners"]]
    assert corners == ["front_right", "rear_left", "rear_right", "front_left"]
    for path, word in (
        ("front.line", "string"),
        ("middle.line", "hose"),
        ("driver_side", "up"),
        ("bleed_order", "front left, front left"),
        ("bleed_order", "roof"),
    ):
        assert demo.put(f"{hatch}/words", {"words": {path: word}}, status=422)["fields"][0]["field"] == path
