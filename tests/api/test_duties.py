"""Duties over the API: every kind added, driven, changed and removed; recorded runs in, from the stand-in too."""

from __future__ import annotations

import json
from typing import Any

import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from tests.said import metric
from tests.workshop import Api, assert_problem
from thermaxis.apps.garage.models import RecordedRun

WHAT_IF = {"cooling_factor": 1.0, "air_C": None}
STOP = {"from_mps": 25, "to_mps": 0, "decel_mps2": 6, "then_s": 60, "then_speed_mps": 20}
SECTION = {"length_m": 2000, "grade": 0.1, "speed_mps": 12, "stops": 1, "gear": "one_lower"}
KINDS: dict[str, dict[str, Any]] = {
    "session": {"driver_level": "novice", "laps": 8, "cool_down_laps": 1, "traffic": 0.25},
    "descent": {"grade": 0.08, "speed_mps": 14, "duration_s": 400},
    "sections": {"sections": [SECTION, {**SECTION, "stops": 0, "gear": "usual"}]},
    "stops": {"stops": [STOP, {**STOP, "to_mps": 10}], "repeat": 3},
    "week": {"town_km": 60, "rural_km": 80, "motorway_km": 40, "days": 5},
    "day": {},
}
LISTS = ("stops", "sections")
OF_ANY = ("name", "use", "note", "events_per_month", "event_km", "then_s", "then_speed_mps", "conditions")


def body(demo: Api, kind: str, /, **changes: Any) -> dict[str, Any]:
    """A duty to send; changes go where they belong: to what any has, or to the shape."""
    shape = {"kind": kind, **KINDS[kind]}
    if kind == "session":
        shape["circuit_id"] = demo.get("/circuits")[0]["id"]
    if kind == "day":
        stint, week = demo.duty("Relay stint, Tarn loop"), demo.duty("Commuter's week")
        shape["parts"] = [{"duty_id": week, "times": 1, "gap_s": 1800}, {"duty_id": stint, "times": 2, "gap_s": 3600}]
    shape |= {name: value for name, value in changes.items() if name not in OF_ANY}
    plain = {"name": f"A {kind}", "use": "street", "events_per_month": 2, "event_km": 30, "shape": shape}
    if kind in ("descent", "sections"):
        plain["then_s"] = 600
    return {**plain, **{name: value for name, value in changes.items() if name in OF_ANY}}


@pytest.fixture
def roadster(demo: Api) -> str:
    return f"/machines/{demo.machine('Kit roadster')['id']}"


@pytest.mark.parametrize("kind", KINDS)
def test_each_kind_is_tried_kept_driven_and_comes_back_as_it_was_sent(demo: Api, roadster: str, kind: str) -> None:
    asked = body(demo, kind)
    tried = demo.post(f"{roadster}/drive", asked)
    assert tried["energy_per_event_J"] > 1e5
    kept = demo.post("/duties", asked, status=201)
    assert {key: kept[key] for key in asked if key != "shape"} == {key: asked[key] for key in asked if key != "shape"}
    sent, found = asked["shape"], kept["shape"]
    assert {key: found[key] for key in sent if key not in LISTS} == {key: sent[key] for key in sent if key not in LISTS}
    for name in LISTS:
        assert [
            {key: row[key] for key in one} for row, one in zip(found.get(name, []), sent.get(name, []), strict=True)
        ] == sent.get(name, [])
    # What is another kind's is in none.
    assert set(found) - set(sent) <= {"pause_s"}
    demo.put(f"{roadster}/duty", {"duty_id": kept["id"]})
    assert demo.post(f"{roadster}/verdict", WHAT_IF)["duty"] == asked["name"]
    # The pads are as thin to a few nanometres: how fast they wear is asked of one duty more.
    driven = demo.get(f"{roadster}/duties/{kept['id']}/trace")["energy_per_event_J"]
    assert driven == pytest.approx(tried["energy_per_event_J"], rel=1e-9)
    # Sent back with a change of one field, all the rest stays.
    again = demo.put(
        f"/duties/{kept['id']}",
        {**{k: v for k, v in kept.items() if k not in ("id", "circuit", "run")}, "note": "noted"},
    )
    assert again == {**kept, "note": "noted", "version": 2}


def test_conditions_of_a_duty_act_on_it_alone(demo: Api, roadster: str) -> None:
    def hottest(**conditions: Any) -> float:
        tried = demo.post(f"{roadster}/drive", body(demo, "session", driver_level="advanced", conditions=conditions))
        return float(max(tried["front_surface_C"]))

    as_it_stands = hottest()
    assert hottest(duct_factor=2.0) < as_it_stands - 10
    assert hottest(air_C=40.0) > as_it_stands + 10
    assert hottest(altitude_m=2500.0) > as_it_stands
    electric = f"/machines/{demo.machine('Electric hatch')['id']}"
    hill = body(demo, "stops")
    full = demo.post(f"{electric}/drive", {**hill, "conditions": {"battery_full": True}})
    assert full["energy_per_event_J"] > 1.1 * demo.post(f"{electric}/drive", hill)["energy_per_event_J"]
    tow = f"/machines/{demo.machine('Horse-box 4x4')['id']}"
    down = body(demo, "sections")
    alone = demo.post(f"{tow}/drive", {**down, "conditions": {"without_trailer": True}})
    assert alone["energy_per_event_J"] < 0.9 * demo.post(f"{tow}/drive", down)["energy_per_event_J"]


@pytest.mark.parametrize(
    ("kind", "changes", "field"),
    [
        ("session", {"circuit_id": None}, "shape.circuit_id"),
        ("session", {"circuit_id": 999}, "shape.circuit_id"),
        ("session", {"driver_level": ""}, "shape.driver_level"),
        ("session", {"conditions": {"duct_factor": 0}}, "conditions.duct_factor"),
        ("sections", {"sections": []}, "shape.sections"),
        ("sections", {"sections": [{**SECTION, "stops": 200}]}, "shape.sections[0].stops"),
        ("sections", {"sections": [{**SECTION, "grade": 0.9}]}, "shape.sections[0].grade"),
        ("stops", {"stops": [{**STOP, "to_mps": 30}]}, "shape.stops[0].to_mps"),
        ("stops", {"stops": []}, "shape.stops"),
        ("descent", {"speed_mps": 0}, "shape.speed_mps"),
        ("week", {"town_km": 0, "rural_km": 0, "motorway_km": 0}, "shape.town_km"),
        ("week", {"kind": "fortnight"}, "shape"),
        ("day", {"parts": []}, "shape.parts"),
        ("day", {"parts": [{"duty_id": 999}]}, "shape.parts[0].duty_id"),
        ("day", {"event_km": 0}, "event_km"),
    ],
)
def test_a_duty_that_cannot_be_driven_is_not_kept(demo: Api, kind: str, changes: dict[str, Any], field: str) -> None:
    count = len(demo.get("/duties"))
    assert_problem(demo.post("/duties", body(demo, kind, **changes), status=422), 422, field)
    assert len(demo.get("/duties")) == count


def test_a_day_is_no_part_of_a_day(demo: Api) -> None:
    day = demo.duty("Relay day with the drive")
    refused = demo.post("/duties", body(demo, "day", parts=[{"duty_id": day}]), status=422)
    assert_problem(refused, 422, "shape.parts[0].duty_id")


def test_a_duty_in_use_stays_and_one_that_is_not_can_come_back(demo: Api, roadster: str) -> None:
    kept = demo.post("/duties", body(demo, "week"), status=201)
    demo.put(f"{roadster}/duty", {"duty_id": kept["id"]})
    assert_problem(demo.put(f"/duties/{kept['id']}/removed", {"removed": True}, status=409), 409, said="Kit roadster")
    demo.put(f"{roadster}/duty", {"duty_id": demo.duty("Street mix")})
    demo.put(f"/duties/{kept['id']}/removed", {"removed": True}, status=204)
    assert kept["id"] not in [row["id"] for row in demo.get("/duties")]
    demo.put(f"/duties/{kept['id']}/removed", {"removed": False}, status=204)
    assert kept["id"] in [row["id"] for row in demo.get("/duties")]


def test_a_circuit_is_drawn_changed_and_driven(demo: Api, roadster: str) -> None:
    elements = [{"length_m": 400, "radius_m": None, "grade": 0.0}, {"length_m": 80, "radius_m": 30, "grade": 0.02}] * 2
    circuit = demo.post("/circuits", {"name": "Two corners", "closed": True, "elements": elements}, status=201)
    assert circuit["elements"] == elements
    asked = body(demo, "session", circuit_id=circuit["id"])
    short = demo.post(f"{roadster}/drive", asked)
    assert short["lap_km"] == pytest.approx(0.96)
    demo.put(f"/circuits/{circuit['id']}", {**circuit, "elements": [*elements, elements[0]]})
    assert demo.post(f"{roadster}/drive", asked)["lap_km"] == pytest.approx(1.36)
    for change, field in (
        ({"elements": []}, "elements"),
        ({"elements": elements[:1]}, "elements"),
        ({"elements": [{"length_m": -1}]}, "elements[0].length_m"),
    ):
        assert_problem(demo.put(f"/circuits/{circuit['id']}", {**circuit, **change}, status=422), 422, field)


def upload(demo: Api, path: str, content: bytes, status: int = 200, **form: str) -> Any:
    answer = demo.client.post(f"/api{path}", {"file": SimpleUploadedFile("run.csv", content), **form})
    assert answer.status_code == status, answer.content
    return answer.json()


def columns(look: dict[str, Any]) -> str:
    return json.dumps(
        [{"column": i, "role": c["role"], "unit": c["unit"]} for i, c in enumerate(look["columns"]) if c["role"]]
    )


@pytest.mark.parametrize("kind", ["csv", "gpx"])
def test_the_stand_in_s_run_comes_in_and_gives_the_peaks_of_the_duty(demo: Api, roadster: str, kind: str) -> None:
    duty = demo.duty("Relay stint, Tarn loop")
    content = demo.client.post(
        f"/api{roadster}/logger",
        {"duty_id": duty, "kind": kind, "rate_Hz": 10, "seed": 4},
        content_type="application/json",
    ).content
    look = upload(demo, "/runs/look", content)
    assert look["kind"] == kind
    uses = columns(look)
    read = upload(demo, f"{roadster}/runs/read", content, uses=uses)
    clean = demo.get(f"{roadster}/duties/{duty}/trace")
    for axle in ("front", "rear"):
        assert read["hottest_C"][axle] - 18 == pytest.approx(max(clean[f"{axle}_surface_C"]) - 18, rel=0.05)
    assert 31 <= len(read["laps"]) <= 34
    assert read["bad_count"] == 0
    kept = upload(demo, "/runs", content, status=201, uses=uses, name="Stint, recorded")
    assert (kept["shape"]["kind"], kept["run"]) == ("recorded", "Stint, recorded")
    demo.put(f"{roadster}/duty", {"duty_id": kept["id"]})
    hottest = demo.post(f"{roadster}/verdict", WHAT_IF)["readings"][0]["value"]
    assert hottest == pytest.approx(max(read["hottest_C"].values()), abs=0.1)
    row = RecordedRun.objects.get(pk=kept["shape"]["run_id"])
    # The file itself is kept, smaller than it came.
    assert 100 < len(row.file.content) < len(content)
    assert demo.get("/runs")[0]["distance_m"] == pytest.approx(read["distance_m"])


def test_temperatures_recorded_with_a_run_can_calibrate(demo: Api, roadster: str) -> None:
    duty = demo.duty("Relay stint, Tarn loop")
    trace = demo.get(f"{roadster}/duties/{duty}/trace")
    # A logger whose rings run a fifth cooler than the model says: its thermocouple is the model's own, scaled.
    t = [i / 5 for i in range(5 * 1200)]
    v = np.interp(t, trace["t_s"], trace["v_mps"])
    front = 18 + 0.8 * (np.interp(t, trace["t_s"], trace["front_surface_C"]) - 18)
    rows = [f"{a:.1f},{b:.2f},{c:.1f},{20 + d:.1f}" for a, b, c, d in zip(t, v, front, v, strict=True)]
    content = "\n".join(["time (s),speed (m/s),front disc temp (°C),brake press (bar)", *rows]).encode()
    look = upload(demo, "/runs/look", content)
    assert [column["role"] for column in look["columns"]] == ["time", "speed", "front_temperature", "brake_pressure"]
    read = upload(demo, f"{roadster}/runs/read", content, uses=columns(look))
    assert read["logged"]["front_temperature_C"] == pytest.approx(float(front.max()), abs=0.1)
    assert read["logged"]["brake_pressure_Pa"] == pytest.approx(1e5 * (20 + float(v.max())), rel=1e-3)
    kept = upload(demo, "/runs", content, status=201, uses=columns(look), name="With a thermocouple")
    demo.put(f"{roadster}/duty", {"duty_id": kept["id"]})
    logs = demo.get(f"/runs/{kept['shape']['run_id']}/temperatures")
    assert set(logs) == {"front"}
    fit = demo.post(
        f"{roadster}/calibrations",
        {"evidence": [{"kind": "logged", "axle": "front", "csv": logs["front"]}], "keep": False},
    )
    assert fit["front"]["cooling"] > 1.05
    stint = demo.post("/duties", body(demo, "week"), status=201)
    assert "run_id" not in stint["shape"]


def test_bad_rows_and_bad_files_are_named(demo: Api, roadster: str) -> None:
    rows = [f"{i / 10:.1f};{(40 + 20 * (i % 60 > 30)):.1f}".replace(".", ",") for i in range(400)]
    rows[50] = "junk"
    text = "\n".join(["Zeit time (s);Speed (km/h)", *rows])
    look = upload(demo, "/runs/look", b"\xef\xbb\xbf" + text.encode())
    assert (look["separator"], look["decimal"]) == (";", ",")
    read = upload(demo, f"{roadster}/runs/read", text.encode(), uses=columns(look))
    assert [row["line"] for row in read["bad"]] == [52]
    wrong = upload(
        demo, f"{roadster}/runs/read", text.encode(), uses='[{"column":0,"role":"time","unit":"s"}]', status=422
    )
    assert_problem(wrong, 422, "uses")
    assert_problem(upload(demo, f"{roadster}/runs/read", text.encode(), uses="nonsense", status=422), 422, "uses")
    assert_problem(
        upload(demo, f"{roadster}/runs/read", text.encode(), uses=columns(look), smoothing="lots", status=422),
        422,
        "smoothing",
    )
    assert_problem(upload(demo, "/runs/look", b"\x00\x00\x01", status=422), 422, "file")
    for name in ("", "x" * 121):
        upload(demo, "/runs", text.encode(), uses=columns(look), name=name, status=422)
    assert not RecordedRun.objects.exclude(name="Bedding drive, old airfield").exists()


def test_a_stranger_sees_no_duties_circuits_or_runs(demo: Api, stranger: Api, roadster: str) -> None:
    duty, circuit = demo.duty("Street mix"), demo.get("/circuits")[0]
    assert stranger.get("/duties") == stranger.get("/circuits") == stranger.get("/runs") == []
    stranger.put(f"/duties/{duty}", body(demo, "week"), status=404)
    stranger.put(f"/duties/{duty}/removed", {"removed": True}, status=404)
    stranger.put(f"/circuits/{circuit['id']}", circuit, status=404)
    stranger.post(f"{roadster}/drive", body(demo, "week"), status=404)
    assert_problem(stranger.post("/duties", body(demo, "session"), status=422), 422, "shape.circuit_id")


def test_a_lower_gear_on_a_gentle_slope_leaves_nothing_to_the_brakes_and_says_so(demo: Api) -> None:
    hauler = f"/machines/{demo.machine('Horse-box 4x4')['id']}"
    gentle = body(demo, "descent", grade=0.03, speed_mps=12.0, duration_s=300.0)
    kept = demo.post("/duties", gentle, status=201)
    demo.put(f"{hauler}/duty", {"duty_id": kept["id"]})
    low = demo.post(f"{hauler}/verdict", {"gear": "two_lower"})["readings"]
    air = demo.get(hauler)["values"]["environment.air_C"]
    assert low[0]["value"] == pytest.approx(air, abs=0.1)
    why = demo.post(f"{hauler}/why/rotor", {"gear": "two_lower"})
    assert any("the brakes are not used" in metric(text) for text in why["assumptions"])


def test_a_series_of_stops_is_parked_afterwards(demo: Api, roadster: str) -> None:
    def fluid(then_s: float) -> float:
        kept = demo.post("/duties", body(demo, "stops", repeat=30, then_s=then_s), status=201)
        demo.put(f"{roadster}/duty", {"duty_id": kept["id"]})
        return float(demo.post(f"{roadster}/verdict", WHAT_IF)["readings"][3]["value"])

    assert fluid(900.0) > fluid(0.0) + 1.0
