"""First use through the API: what is refused says so for a reader, what was tried can be made true, words count right."""

from __future__ import annotations

import datetime as dt
import json
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from tests.said import metric
from tests.workshop import Api, assert_problem, today
from thermaxis.formats.units import said_of


def the_one(problem: Any, field: str) -> Any:
    (entry,) = [entry for entry in problem["fields"] if entry["field"] == field]
    return entry


@pytest.fixture
def horse_box(demo: Api) -> str:
    return f"/machines/{demo.machine('Horse-box 4x4')['id']}"


def test_a_refusal_carries_its_bounds_and_why(demo: Api, relay_roadster: str) -> None:
    ask = {"axle": "front", "thickness_m": 0.0071, "odometer_km": 9000, "measured_on": today().isoformat()}
    demo.post(f"{relay_roadster}/measurements", ask)
    wrong = demo.post(f"{relay_roadster}/measurements", {**ask, "thickness_m": 0.011}, status=422)
    entry = the_one(wrong, "thickness_m")
    assert (entry["least"], entry["most"]) == (0, 0.0071)
    day = today()
    assert metric(said_of(entry["said"])) == f"as measured on {day.day} {day:%b} {day.year}"
    back = the_one(demo.post(f"{relay_roadster}/measurements", {**ask, "odometer_km": 1}, status=422), "odometer_km")
    assert back["least"] == 9000
    wheel = demo.patch(relay_roadster, {"changes": {"vehicle.wheel_radius_front_m": 5}}, status=422)
    assert the_one(wheel, "vehicle.wheel_radius_front_m")["most"] == 2
    shape = demo.post(f"{relay_roadster}/verdict", {"repeats": 0}, status=422)
    assert (the_one(shape, "repeats")["least"], the_one(shape, "repeats")["most"]) == (1, None)


def test_a_rotor_that_leaves_no_room_for_its_vanes_names_both(demo: Api, relay_roadster: str) -> None:
    thin = demo.get(f"{relay_roadster}/parts")["values"]["front.rotor.gap_m"] - 0.001
    wrong = demo.patch(f"{relay_roadster}/parts", {"changes": {"front.rotor.thickness_m": thin}}, status=422)
    entry = the_one(wrong, "front.rotor.gap_m")
    assert entry["most"] == pytest.approx(thin)
    assert entry["below"] is True


def test_a_trailer_whose_brakes_fail_and_a_longer_steeper_hill_are_hotter(demo: Api, horse_box: str) -> None:
    levers = demo.get(f"{horse_box}/levers")
    assert levers["trailer_brake_share"] > 0
    assert 0 < levers["grade"] < 0.2

    def peak(**tried: float) -> float:
        rows = demo.post(f"{horse_box}/verdict", tried)["readings"]
        return float(next(row["value"] for row in rows if row["name"] == "rotor"))

    now = peak()
    assert peak(trailer_brake_share=0) > now + 20
    assert peak(grade_factor=1.3) > now + 20
    assert peak(length_factor=2) > now + 5
    assert peak(trailer_brake_share=levers["trailer_brake_share"]) == pytest.approx(now)
    roadster = f"/machines/{demo.machine('Kit roadster')['id']}"
    for name, value in (("trailer_brake_share", 0.5), ("grade_factor", 1.2), ("length_factor", 1.2)):
        assert_problem(demo.post(f"{roadster}/verdict", {name: value}, status=422), 422, name)


def test_what_was_tried_can_be_made_true_part_by_part(demo: Api, relay_roadster: str) -> None:
    tried = {"cooling_factor": 1.6, "driver_level": "novice", "fluid_age_months": 0, "extra_mass_kg": 40}
    before = demo.get(relay_roadster)
    wanted = demo.post(f"{relay_roadster}/verdict", tried)
    names = ["cooling_factor", "driver_level", "fluid_age_months"]
    demo.post(f"{relay_roadster}/what-if", {**tried, "names": names})
    after = demo.get(relay_roadster)
    for axle in ("front", "rear"):
        path = f"{axle}.cooling_factor"
        assert after["values"][path] == pytest.approx(1.6 * before["values"][path])
    assert after["values"]["vehicle.mass_kg"] == before["values"]["vehicle.mass_kg"]
    assert after["values"]["fluid.fluid_age_months"] == 0
    assert demo.get(f"{relay_roadster}/levers")["driver_level"] == "novice"
    # What is computed now is what was seen under the what-if, but for the load that was not true.
    light = demo.post(f"{relay_roadster}/verdict", {"extra_mass_kg": 40})
    for now, then in zip(light["readings"], wanted["readings"], strict=True):
        if now["name"] != "life":
            assert now["value"] == pytest.approx(then["value"], rel=1e-4), now["name"]
    wrong = demo.post(f"{relay_roadster}/what-if", {"cooling_factor": 1.2, "names": ["air_C"]}, status=422)
    assert_problem(wrong, 422, "names[0]")


def test_a_duty_others_drive_stays_as_it_is(demo: Api, relay_roadster: str, horse_box: str) -> None:
    duty = demo.get(relay_roadster)["duty_id"]
    (before,) = [row for row in demo.get("/duties") if row["id"] == duty]
    demo.put(f"/machines/{demo.machine('Middleweight twin')['id']}/duty", {"duty_id": duty})
    demo.post(f"{relay_roadster}/what-if", {"repeats": 5, "names": ["repeats"]})
    rows = {row["id"]: row for row in demo.get("/duties")}
    assert rows[duty] == before
    mine = rows[demo.get(relay_roadster)["duty_id"]]
    assert mine["shape"]["laps"] == 5
    assert mine["name"].startswith(before["name"])
    # A steady descent has no gear: as one section it has, and its last stop heats the rings a little more.
    lower = demo.post(f"{horse_box}/verdict", {"gear": "one_lower"})
    demo.post(f"{horse_box}/what-if", {"gear": "one_lower", "grade_factor": 1, "names": ["gear"]})
    now = demo.post(f"{horse_box}/verdict", {})
    assert lower["readings"][0]["value"] < now["readings"][0]["value"] < lower["readings"][0]["value"] + 40


def test_rotors_that_are_on_cost_nothing_until_they_are_worn_out(demo: Api, relay_roadster: str) -> None:
    def price_of(key: str) -> float:
        keys = [key, next(row["key"] for row in rows if row["key"] != key)]
        return float(demo.post(f"{relay_roadster}/sets/compare", {"keys": keys})["sets"][0]["rotors_price"])

    found = demo.post(f"{relay_roadster}/candidates", {})
    rows = found["ranked"] + found["rejected"]
    on_it = next(row for row in rows if row["fitted"])
    names = ("front_rotor", "rear_rotor")
    same = next(row for row in rows if not row["fitted"] and all(row[name] == on_it[name] for name in names))
    other = next(row for row in rows if row["front_rotor"] != on_it["front_rotor"])
    assert (price_of(on_it["key"]), price_of(same["key"])) == (0, 0)
    assert price_of(other["key"]) > 0
    discard = demo.get(f"{relay_roadster}/parts")["values"]["front.rotor.discard_thickness_m"]
    demo.patch(f"{relay_roadster}/parts", {"changes": {"front.rotor.thickness_m": discard}})
    found = demo.post(f"{relay_roadster}/candidates", {})
    rows = found["ranked"] + found["rejected"]
    assert price_of(next(row["key"] for row in rows if row["fitted"])) > 0


def test_a_fit_that_readings_contradict_is_not_used(demo: Api, relay_roadster: str) -> None:
    reading = {"kind": "pyrometer", "axle": "front", "part": "ring", "since_s": 0, "speed_mps": 0}
    evidence = [{**reading, "value_C": value} for value in (250, 520)]
    tried = demo.post(f"{relay_roadster}/calibrations", {"evidence": evidence, "keep": False})
    assert any(row["suspect"] for row in tried["residuals"])
    refused = demo.post(f"{relay_roadster}/calibrations", {"evidence": evidence, "keep": True}, status=409)
    assert_problem(refused, 409, said="not fit")
    assert demo.get(f"{relay_roadster}/calibrations") == []


def test_a_kept_plan_opens_as_it_was_and_can_be_taken_out(demo: Api, relay_roadster: str) -> None:
    road = {"top_speed_mps": 25.0, "hard_g": 0.5}
    order = {"school": "rising", **road}
    schools = demo.post(f"{relay_roadster}/bedding", road)["plans"]
    planned = next(plan for plan in schools if plan["school"] == "rising")
    kept = demo.post(f"{relay_roadster}/plans", order)
    opened = demo.get(f"/plans/{kept['id']}")
    assert (opened["top_speed_mps"], opened["hard_g"]) == (25.0, 0.5)
    assert opened["plan"] == planned
    # Another machine mass since: the brakings stay those that were kept.
    demo.patch(relay_roadster, {"changes": {"vehicle.mass_kg": 760}})
    assert demo.get(f"/plans/{kept['id']}")["plan"]["items"] == planned["items"]
    demo.put(f"/plans/{kept['id']}/removed", {"removed": True})
    rows = {row["id"]: row["removed"] for row in demo.get(f"{relay_roadster}/plans")}
    assert rows[kept["id"]] is True
    demo.put(f"/plans/{kept['id']}/removed", {"removed": False})


def test_the_change_rule_stays_with_the_machine_and_counts_everywhere(demo: Api, relay_roadster: str) -> None:
    def fluid_worn() -> float:
        return float(next(row for row in demo.post(asked, {})["ranked"] if row["key"] == best)["worn_margin_K"])

    asked = f"{relay_roadster}/candidates"
    best = max(demo.post(asked, {})["ranked"], key=lambda row: row["worn_margin_K"])["key"]
    usual, before = demo.get(f"{relay_roadster}/life"), fluid_worn()
    chosen = demo.put(f"{relay_roadster}/school", {"school": "minimum"})
    assert chosen["school"] == "minimum" != usual["school"]
    assert demo.get(f"{relay_roadster}/life")["rows"] == chosen["rows"]
    assert chosen["rows"][0]["limit_m"] < usual["rows"][0]["limit_m"]
    # Pads that are changed later leave the fluid less, in Choose too.
    assert fluid_worn() < before

    assert_problem(demo.put(f"{relay_roadster}/school", {"school": "never"}, status=422), 422, "school")
    demo.put(f"{relay_roadster}/school", {"school": ""})
    assert demo.get(f"{relay_roadster}/life")["school"] == usual["school"]


@pytest.mark.parametrize("pads", ["", "Blue ones of the last owner"])
def test_a_new_machine_has_what_was_found_on_it(demo: Api, pads: str) -> None:
    body = {"name": "My hatch", "owner": "A. Newcomer", "vehicle_class": "hatch", "known": {"log.odometer_km": 61000}}
    machine = f"/machines/{demo.post('/workshop/machines', {**body, 'pads': pads}, 201)['id']}"
    on_it = demo.get(f"{machine}/set")
    assert on_it["front_pads"] == on_it["rear_pads"] == (pads or "As found on My hatch")
    assert on_it["front_pads"] not in {row["name"] for row in demo.get("/catalogue")["compounds"]}
    rows = demo.post(f"{machine}/candidates", {})
    found = [row for row in rows["ranked"] + rows["rejected"] if row["pad"] == on_it["front_pads"]]
    assert [row["fitted"] for row in found] == [True]
    # What is chosen instead goes on, and on the shelf lies what was really there.
    better = next(row for row in rows["ranked"] + rows["rejected"] if not row["fitted"])
    demo.post(f"{machine}/set", {"key": better["key"]})
    shelf = [
        entry["name"] for entry in demo.get(f"{machine}/shelf") if entry["kind"] == "pads" and not entry["on_machine"]
    ]
    assert set(shelf) == {on_it["front_pads"]}
    # Off, it is nothing one could buy.
    rows = demo.post(f"{machine}/candidates", {})
    assert not [row for row in rows["ranked"] + rows["rejected"] if row["pad"] == on_it["front_pads"]]


def test_pads_somebody_knows_are_those_of_the_catalogue(demo: Api) -> None:
    body = {"name": "My hatch", "owner": "A", "vehicle_class": "hatch", "pads": "garth road"}
    machine = f"/machines/{demo.post('/workshop/machines', body, 201)['id']}"
    assert demo.get(f"{machine}/set")["front_pads"] == "Garth Road"


def test_parts_fitted_last_year_begin_then(demo: Api, relay_roadster: str) -> None:
    now = demo.get(f"{relay_roadster}/set")
    km = demo.get(relay_roadster)["odometer_km"]
    rows = demo.post(f"{relay_roadster}/candidates", {})["ranked"]
    other = next(row for row in rows if not row["fitted"])
    day = now["fitted_on"]
    read = demo.get(f"{relay_roadster}/life")["measurements"]
    last_km = max([now["fitted_km"], *(row["odometer_km"] for row in read)])
    last_on = max([day, *(row["measured_on"] for row in read)])
    early = demo.post(f"{relay_roadster}/set", {"key": other["key"], "on": "2001-01-01"}, status=422)
    assert_problem(early, 422, "on")
    short = demo.post(f"{relay_roadster}/set", {"key": other["key"], "on": last_on, "odometer_km": 1}, status=422)
    assert the_one(short, "odometer_km")["least"] >= now["fitted_km"]
    tomorrow = (today() + dt.timedelta(days=5)).isoformat()
    assert_problem(demo.post(f"{relay_roadster}/set", {"key": other["key"], "on": tomorrow}, status=422), 422, "on")
    fitted = demo.post(f"{relay_roadster}/set", {"key": other["key"], "on": last_on, "odometer_km": last_km + 1})
    assert fitted["fitted_km"] == last_km + 1
    # Corrected afterwards, and never past what was read or what the odometer shows.
    ask = {"places": ["front_pads"], "on": last_on, "odometer_km": last_km + 2}
    demo.put(f"{relay_roadster}/fitted", ask)
    far = demo.put(f"{relay_roadster}/fitted", {**ask, "odometer_km": km + 500}, status=422)
    assert the_one(far, "odometer_km")["most"] == km
    front = next(row for row in demo.get(f"{relay_roadster}/life")["rows"] if row["axle"] == "front")
    assert front["now_m"] < front["new_m"]


def test_inches_that_were_millimetres_ask(demo: Api, relay_roadster: str) -> None:
    head = {"measured_on": today().isoformat(), "odometer_km": demo.get(relay_roadster)["odometer_km"]}
    sheet = f"/inspections/{demo.post(f'{relay_roadster}/inspections', head)['id']}"
    typed = {"value": 6.2 * 0.0254, "confirmed": False, "source": "hand", "seen": None}
    found = demo.put(
        f"{sheet}/cells", {"cells": {"front_left.pad_inner_1": typed, "front_left.lip": {**typed, "value": 3}}}
    )
    (asks,) = found["asks"]
    assert asks["name"] == "front_left.pad_inner_1"
    assert asks["in_mm_m"] == pytest.approx(0.0062)
    assert [row["name"] for row in found["refused"]] == ["front_left.lip"]
    kept = demo.put(f"{sheet}/cells", {"cells": {"front_left.pad_inner_1": {**typed, "value": asks["in_mm_m"]}}})
    assert kept["asks"] == []
    rows = {row["evidence"]: row["where"] for row in demo.get("/symptoms")}
    assert (rows["pulls_hard_braking"], rows["one_wheel_dusty"], rows["soft_pedal"]) == ("side", "wheel", "")


ROTOR = {
    "name": "Trial ring",
    "mount": "trial",
    "provenance": "estimate",
    "outer_radius_m": "256",
    "inner_radius_m": "80",
    "thickness_m": "22",
    "discard_thickness_m": "20.4",
    "material": "grey_iron",
    "pattern": "plain",
    "hub_conductance_W_per_K": "2",
    "price": "50",
}


def test_a_ring_half_a_metre_across_asks_once(demo: Api) -> None:
    cells = {**demo.get("/catalogue/part/rotors")["cells"], **ROTOR}
    asked = demo.put("/catalogue/part", {"table": "rotors", "cells": cells}, 422)
    entry = the_one(asked, "cells.outer_radius_m")
    assert metric(said_of(entry["said"])).startswith("a ring 512.0 mm across")
    assert demo.put("/catalogue/part", {"table": "rotors", "cells": cells, "sure": True})["added"]
    # What stands there already is not asked about again.
    price = {**cells, "price": "60"}
    kept = demo.put(
        "/catalogue/part", {"table": "rotors", "cells": price, "before": {"name": "Trial ring", "mount": "trial"}}
    )
    assert kept["changes"] == [[{"column": "price of one", "before": "50", "after": "60"}]]
    usual = {**cells, "name": "Usual ring", "outer_radius_m": "128"}
    assert demo.put("/catalogue/part", {"table": "rotors", "cells": usual})["doubts"] == []


def test_a_file_asks_before_it_takes_in_what_is_hardly_meant(demo: Api) -> None:
    headings = [column["heading"] for column in demo.get("/catalogue/part/rotors")["columns"]]
    fields = [column["field"] for column in demo.get("/catalogue/part/rotors")["columns"]]
    row = "\t".join(ROTOR.get(field, "") for field in fields)
    content = ("\t".join(headings) + "\n" + row).encode()

    def send(path: str, status: int = 200, **more: str) -> Any:
        file = SimpleUploadedFile("rotors.csv", content, content_type="text/csv")
        mapping = json.dumps(dict(zip(fields, headings, strict=True)))
        response = demo.client.post(
            f"/api/catalogue/{path}", {"file": file, "table": "rotors", "mapping": mapping, **more}
        )
        assert response.status_code == status, response.content
        return response.json()

    assert [doubt["column"] for doubt in send("read")["doubts"]] == ["outer radius, mm"]
    assert_problem(send("import", 422), 422, "sure")
    assert send("import", sure="true")["added"] == ["Trial ring, trial"]


def test_a_machine_of_ones_own_is_told_why_little_is_offered_and_says_what_fits(demo: Api) -> None:
    body = {"name": "My hatch", "owner": "A", "vehicle_class": "hatch"}
    machine = f"/machines/{demo.post('/workshop/machines', body, 201)['id']}"
    fits = demo.get(f"{machine}/fits")
    front = next(axle for axle in fits["axles"] if axle["axle"] == "front")
    assert (front["pad_shape"], front["rotor_mount"], front["rotors"]) == ("", "", 0)
    assert [metric(said_of(text)).split(".")[0] for text in front["why"]] == [
        "The front pads' shape is not known: every compound made for such vehicles is offered in the size measured",
        "No rotor of the catalogue is offered for the front: nobody has said which mount it has",
    ]
    before = demo.post(f"{machine}/candidates", {})["total"]
    mount = fits["mounts"][0]
    said = demo.put(f"{machine}/fits", {"axle": "front", "name": "rotor_mount", "value": mount["name"]})
    assert next(axle for axle in said["axles"] if axle["axle"] == "front")["rotors"] == mount["count"]
    assert demo.post(f"{machine}/candidates", {})["total"] > before
    wrong = demo.put(f"{machine}/fits", {"axle": "front", "name": "pad_shape", "value": "nothing"}, 422)
    assert_problem(wrong, 422, "value")
    # A compound without a shape says so when it is taken in.
    cells = {**demo.get("/catalogue/part/compounds?name=Garth Road")["cells"], "name": "Trial compound"}
    assert demo.put("/catalogue/part", {"table": "compounds", "cells": cells})["without_shape"] == ["Trial compound"]


def test_a_job_that_is_over_is_no_error(demo: Api) -> None:
    assert demo.get("/work/never-begun")["under_way"] is False
    assert demo.call("delete", "/work/never-begun", status=204) is None


def test_an_empty_workshop_gets_the_demo_machine_once(stranger: Api, demo: Api) -> None:
    """It answers as it does in the demo, with a catalogue to choose from, and leaves what is there as it is."""
    cells = demo.get("/catalogue/part/fluids?name=Beck 3")["cells"]
    stranger.put("/catalogue/part", {"table": "fluids", "cells": {**cells, "dry_C": "239"}})
    added = stranger.post("/workshop/demo-machine", {}, status=201)["id"]
    own = demo.machine("Kit roadster")["id"]
    one, other = (api.post(f"/machines/{machine}/verdict", {}) for api, machine in ((stranger, added), (demo, own)))
    assert one["readings"] == other["readings"]
    assert one["outcome"] == other["outcome"]
    assert len(stranger.post(f"/machines/{added}/candidates", {})["ranked"]) > 5
    assert {duty["name"] for duty in stranger.get("/duties")} > {"Street mix", "Relay stint, Tarn loop"}
    kept = [fluid for fluid in stranger.get("/catalogue")["fluids"] if fluid["name"] == "Beck 3"]
    assert [fluid["dry_C"] for fluid in kept] == [239]
    again = stranger.post("/workshop/demo-machine", {}, status=422)
    assert "a workshop without a machine" in json.dumps(again)
    assert len(stranger.get("/machines")) == 1
    # Taken out and added again, what it is driven on is there once.
    duties = len(stranger.get("/duties"))
    stranger.put(f"/machines/{added}/removed", {"removed": True}, status=204)
    stranger.post("/workshop/demo-machine", {}, status=201)
    assert len(stranger.get("/duties")) == duties
