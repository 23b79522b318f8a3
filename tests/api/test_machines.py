"""Machines over the API: added from a paper spec, estimated, measured, copied, compared; case files in and out."""

from __future__ import annotations

import json
from typing import Any

import pytest

from tests.cases_data import NAMES, case_text, load
from tests.said import metric
from tests.workshop import Api, assert_problem
from thermaxis.apps.catalogue.models import PadVariant, Rotor
from thermaxis.core.physics.simulate import simulate_one
from thermaxis.formats.case_file import read_case

WHAT_IF = {"cooling_factor": 1.0, "air_C": None}
# What stands on one page of paper: nothing but this is known.
PAPER = {
    "vehicle.mass_kg": 1320.0,
    "vehicle.wheelbase_m": 2.56,
    "front.rotor.outer_radius_m": 0.14,
    "front.rotor.thickness_m": 0.022,
    "rear.rotor.outer_radius_m": 0.13,
    "rear.rotor.thickness_m": 0.01,
}
HATCH = {"name": "Paper hatch", "owner": "L. Dunmail", "vehicle_class": "hatch", "known": PAPER}


@pytest.fixture
def roadster(demo: Api) -> str:
    return f"/machines/{demo.machine('Kit roadster')['id']}"


def test_a_machine_from_a_paper_spec_is_whole_marked_and_computes(demo: Api) -> None:
    machine = demo.post("/workshop/machines", HATCH, status=201)
    assert machine["owner"] == "L. Dunmail"
    values, estimates = machine["values"], set(machine["estimates"])
    assert values["vehicle.mass_kg"] == 1320.0
    assert not estimates & set(PAPER)
    assert {
        "vehicle.cg_height_m",
        "hydraulics.booster_gain",
        "front.piston_area_m2",
        "fluid.fluid_age_months",
    } <= estimates
    parts = demo.get(f"/machines/{machine['id']}/parts")
    assert parts["values"]["front.rotor.outer_radius_m"] == 0.14
    # The band, the air gap and the pad follow the rotor that is known.
    assert parts["values"]["front.rotor.gap_m"] == pytest.approx(0.4 * 0.022)
    assert parts["values"]["rear.rotor.vanes"] == 0
    assert parts["own"] == ["front.rotor", "rear.rotor", "front.pad", "rear.pad"]
    verdict = demo.post(f"/machines/{machine['id']}/verdict", WHAT_IF)
    assert len(verdict["readings"]) == 5
    assert demo.post(f"/machines/{machine['id']}/candidates", WHAT_IF)["total"] >= 10


@pytest.mark.parametrize(
    "name", ["light_sports", "hatch", "family", "electric", "four_by_four", "van", "motorcycle", "touring_motorcycle"]
)
def test_every_class_alone_makes_a_machine_that_computes(demo: Api, name: str) -> None:
    machine = demo.post("/workshop/machines", {**HATCH, "vehicle_class": name, "known": {}}, status=201)
    force = 60 if machine["kind"] == "motorcycle" else 150
    balance = demo.post(f"/machines/{machine['id']}/balance", {"pedal_force_N": force, "rotor_C": 100})
    # An estimate that locks the rear first, or cannot stop at all, would be no help to anyone.
    assert balance["lock"]["first_axle"] == "front" or machine["kind"] == "motorcycle"
    assert 0.2 < balance["statics"]["decel_g"] < 1.3
    assert 0.005 < balance["chain"]["pedal_travel_m"] < 0.12
    assert demo.post(f"/machines/{machine['id']}/verdict", WHAT_IF)["readings"][0]["value"] > 30


def test_what_cannot_be_added_is_refused_by_name_and_leaves_nothing(demo: Api) -> None:
    before = len(demo.get("/machines")), Rotor.objects.count(), PadVariant.objects.count()
    for known, field in (
        ({"vehicle.mass_kg": -5}, "vehicle.mass_kg"),
        ({"vehicle.colour": 1}, "vehicle.colour"),
        ({"front.rotor.inner_radius_m": 0.2}, "front.rotor.inner_radius_m"),
        ({"front.pad.area_m2": 0.09}, "front.pad.area_m2"),
        ({"front.rotors": 1.5}, "front.rotors"),
    ):
        assert_problem(demo.post("/workshop/machines", {**HATCH, "known": known}, status=422), 422, field)
    assert_problem(
        demo.post("/workshop/machines", {**HATCH, "vehicle_class": "boat"}, status=422), 422, "vehicle_class"
    )
    assert_problem(demo.post("/workshop/machines", {**HATCH, "name": ""}, status=422), 422, "name")
    assert (len(demo.get("/machines")), Rotor.objects.count(), PadVariant.objects.count()) == before


def test_a_number_can_be_typed_and_left_open_again(demo: Api) -> None:
    machine = demo.post("/workshop/machines", HATCH, status=201)
    path = f"/machines/{machine['id']}"
    guess = machine["values"]["vehicle.cg_height_m"]
    typed = demo.patch(path, {"changes": {"vehicle.cg_height_m": 0.61}})
    assert "vehicle.cg_height_m" not in typed["estimates"]
    opened = demo.patch(path, {"left_open": ["vehicle.cg_height_m"]})
    assert opened["values"]["vehicle.cg_height_m"] == guess
    assert "vehicle.cg_height_m" in opened["estimates"]
    assert_problem(demo.patch(path, {"left_open": ["log.odometer_km"]}, status=422), 422, "log.odometer_km")


def test_words_owner_trailer_and_regen(demo: Api, roadster: str) -> None:
    changed = demo.put(
        f"{roadster}/words",
        {"words": {"owner": "New Owner", "note": "", "trailer": "yes", "regen": "rear", "driven": "both"}},
    )
    assert (changed["owner"], changed["note"], changed["towing"], changed["driven"]) == ("New Owner", "", True, "both")
    assert {"trailer.mass_kg", "regen.max_power_W"} <= set(changed["estimates"])
    heavy = demo.patch(roadster, {"changes": {"trailer.mass_kg": 640}})
    off = demo.put(f"{roadster}/words", {"words": {"trailer": "no"}})
    assert off["towing"] is False
    # Off the hook is not forgotten.
    on = demo.put(f"{roadster}/words", {"words": {"trailer": "yes"}})
    assert on["values"]["trailer.mass_kg"] == heavy["values"]["trailer.mass_kg"] == 640
    for words, field in (
        ({"driven": "none"}, "powertrain.driven"),
        ({"fluid": "Water"}, "fluid"),
        ({"name": " "}, "name"),
        ({"colour": "red"}, "colour"),
        ({"vehicle_class": "motorcycle"}, "vehicle_class"),
        ({"trailer": "maybe"}, "trailer"),
    ):
        assert_problem(demo.put(f"{roadster}/words", {"words": words}, status=422), 422, field)


def test_masses_in_parts_make_mass_and_split(demo: Api, roadster: str) -> None:
    parts = [
        {"name": "empty", "mass_kg": 580, "front_share": 0.48},
        {"name": "two up", "mass_kg": 160, "front_share": 0.43},
    ]
    machine = demo.put(f"{roadster}/masses", {"parts": parts})
    assert machine["values"]["vehicle.mass_kg"] == 740
    assert machine["values"]["vehicle.front_fraction"] == pytest.approx((580 * 0.48 + 160 * 0.43) / 740)
    assert [part["name"] for part in machine["masses"]] == ["empty", "two up"]
    # A total typed over them ends the sum.
    assert demo.patch(roadster, {"changes": {"vehicle.mass_kg": 750}})["masses"] == []
    refused = demo.put(f"{roadster}/masses", {"parts": [{**parts[0], "mass_kg": -1}]}, status=422)
    assert_problem(refused, 422, "masses[0].mass_kg")


def test_a_measured_part_is_the_machine_s_own_and_the_catalogue_stays(demo: Api, roadster: str) -> None:
    catalogue = Rotor.objects.get(name="Tarn 260 plain")
    parts = demo.patch(
        f"{roadster}/parts", {"changes": {"front.rotor.thickness_m": 0.0194, "front.pad.area_m2": 0.0033}}
    )
    assert parts["values"]["front.rotor.thickness_m"] == 0.0194
    assert set(parts["own"]) == {"front.rotor", "front.pad"}
    catalogue.refresh_from_db()
    assert catalogue.thickness_m == 0.02
    assert PadVariant.objects.filter(shape="RF-36", area_m2=0.0036).exists()
    rows = Rotor.objects.count()
    # A second reading corrects the same row.
    again = demo.patch(f"{roadster}/parts", {"changes": {"front.rotor.thickness_m": 0.0193}})
    assert (again["front_rotor"], Rotor.objects.count()) == (parts["front_rotor"], rows)
    # Nobody else is offered it.
    other = demo.post("/workshop/machines", {**HATCH, "vehicle_class": "light_sports"}, status=201)
    offered = demo.post(f"/machines/{other['id']}/candidates", WHAT_IF)
    assert parts["front_rotor"] not in {row["front_rotor"] for row in offered["ranked"] + offered["rejected"]}
    for changes, field in (
        ({"front.rotor.gap_m": 0.03}, "front.rotor.gap_m"),
        ({"front.rotor.material": "brass"}, "front.rotor.material"),
        ({"front.rotor.material": 3.0}, "front.rotor.material"),
        ({"front.hub": 1.0}, "front.hub"),
        ({"rear.pad.area_m2": 0.09}, "rear.pad.area_m2"),
    ):
        assert_problem(demo.patch(f"{roadster}/parts", {"changes": changes}, status=422), 422, field)


def test_a_copy_starts_equal_and_lives_its_own_life(demo: Api, roadster: str) -> None:
    original = demo.get(roadster)
    copy = demo.post(f"{roadster}/copy", {"name": "Kit roadster, wets"}, status=201)
    assert copy["values"] == original["values"]
    path = f"/machines/{copy['id']}"
    # Its pads are new ones: all but what is left of them is the same.
    hottest = [demo.post(f"{each}/verdict", WHAT_IF)["readings"][0]["value"] for each in (path, roadster)]
    assert hottest[0] == pytest.approx(hottest[1], rel=0.01)
    demo.patch(path, {"changes": {"vehicle.tyre_grip": 0.8}})
    demo.patch(f"{path}/parts", {"changes": {"front.rotor.thickness_m": 0.019}})
    assert demo.get(roadster)["values"] == original["values"]
    assert demo.get(f"{roadster}/parts")["values"]["front.rotor.thickness_m"] == 0.02


def test_a_machine_can_leave_and_come_back(demo: Api, roadster: str) -> None:
    demo.put(f"{roadster}/removed", {"removed": True}, status=204)
    assert "Kit roadster" not in [row["name"] for row in demo.get("/machines")]
    demo.get(roadster, status=404)
    demo.put(f"{roadster}/removed", {"removed": False}, status=204)
    assert demo.get(roadster)["name"] == "Kit roadster"


def test_balance_tells_the_chain_wet_hot_and_the_words(demo: Api, roadster: str) -> None:
    demo.put(f"{roadster}/duty", {"duty_id": demo.duty("Relay stint, Tarn loop")})
    found = demo.post(f"{roadster}/balance", {"pedal_force_N": 200, "rotor_C": 100})
    chain, statics = found["chain"], found["statics"]
    assert chain["pushrod_N"] == pytest.approx(200 * 5.2 * 0.92)
    assert chain["front_pressure_Pa"] == pytest.approx(statics["pressure_Pa"])
    assert found["wet"]["decel_g"] < found["lock"]["decel_g"]
    peak = demo.post(f"{roadster}/verdict", WHAT_IF)["readings"][0]["value"]
    assert max(found["hot_front_C"], found["hot_rear_C"]) == pytest.approx(peak, abs=0.5)
    assert len(found["hot_curve"]) == len(found["curve"])
    assert "fade" in [remark["code"] for remark in found["warnings"]]


def test_a_set_up_is_compared_kept_put_on_and_taken_off_again(demo: Api, roadster: str) -> None:
    before = demo.get(roadster)["values"]
    changes = {"front.piston_area_m2": 0.0026, "front.rotor.outer_radius_m": 0.142, "front.rotor.inner_radius_m": 0.094}
    found = demo.post(f"{roadster}/compare", {"changes": changes, "pedal_force_N": 300})
    ratio = 0.0026 / 0.001963 * (0.142 + 0.094) / (0.13 + 0.086)
    assert found["after"]["front_torque_Nm"] == pytest.approx(ratio * found["before"]["front_torque_Nm"], rel=1e-6)
    assert found["after"]["front_peak_C"] != found["before"]["front_peak_C"]
    said = {remark["code"]: metric(remark["text"]) for remark in found["remarks"]}
    assert {"does_not_fit", "balance", "longer"} <= set(said)
    assert said["does_not_fit"].startswith("the front caliper does not fit inside the wheel: 6 mm")
    kept = demo.post(f"{roadster}/set-ups", {"name": "Big front", "changes": changes}, status=201)
    machine = demo.post(f"/set-ups/{kept['id']}/use", None)
    assert machine["values"]["front.piston_area_m2"] == 0.0026
    assert demo.get(f"{roadster}/parts")["values"]["front.rotor.outer_radius_m"] == 0.142
    (back,) = demo.get(f"{roadster}/set-ups")
    assert back["name"].startswith("Before Big front")
    assert (kept["price"], back["price"]) == (None, 0.0)
    assert demo.post(f"/set-ups/{back['id']}/use", None)["values"] == before
    assert demo.get(f"{roadster}/parts")["values"]["front.rotor.outer_radius_m"] == 0.13
    for changes, field in (
        ({"front.rotor.outer_radius_m": 0.05}, "front.rotor.outer_radius_m"),
        ({"vehicle.colour": 1.0}, "vehicle.colour"),
    ):
        assert demo.post(f"{roadster}/set-ups", {"name": "x", "changes": changes}, status=422)["fields"][0][
            "field"
        ] in (field, "front.rotor.inner_radius_m")


def test_each_estimate_tells_how_far_it_moves_the_answer(demo: Api, roadster: str) -> None:
    estimates = set(demo.get(roadster)["estimates"])
    found = demo.get(f"{roadster}/moves")
    assert {row["field"] for row in found} <= estimates
    by_field = {row["field"]: row for row in found}
    cooling = by_field["front.cooling_factor"]
    assert (cooling["low"], cooling["high"]) == (pytest.approx(1.2), pytest.approx(1.8))
    assert cooling["rotor_K"][0] >= 0 >= cooling["rotor_K"][1]
    weak, strong = by_field["hydraulics.pedal_efficiency"]["pedal_N"]
    assert weak < 0 < strong
    assert [max(map(abs, row["rotor_K"])) for row in found] == sorted(
        (max(map(abs, row["rotor_K"])) for row in found), reverse=True
    )


@pytest.mark.parametrize("name", NAMES)
def test_a_case_goes_in_and_comes_out_with_the_same_numbers(demo: Api, name: str) -> None:
    machine = demo.post("/cases", json.loads(case_text(name)), status=201)
    out = demo.get(f"/machines/{machine['id']}/case")
    back, first = read_case(json.dumps(out)), load(name)
    assert back.duty == first.duty
    mine, theirs = simulate_one(back), simulate_one(first)
    for axle in ("front", "rear"):
        for field in ("peak_surface_C", "peak_fluid_C", "friction_energy_J", "pad_wear_m"):
            assert getattr(getattr(mine, axle), field) == pytest.approx(
                getattr(getattr(theirs, axle), field), rel=1e-9
            ), (axle, field)
    shown = demo.post(f"/machines/{machine['id']}/verdict", WHAT_IF)["readings"][0]["value"]
    assert shown == pytest.approx(max(theirs.front.peak_surface_C, theirs.rear.peak_surface_C), abs=1e-6)


def test_a_broken_case_is_refused_by_its_field(demo: Api) -> None:
    case: dict[str, Any] = json.loads(case_text(NAMES[0]))
    machines = len(demo.get("/machines"))
    assert_problem(demo.post("/cases", {**case, "format": "other/2"}, status=422), 422, "format")
    broken = {**case, "front": {**case["front"], "rotor": {**case["front"]["rotor"], "thickness_m": "thick"}}}
    assert_problem(demo.post("/cases", broken, status=422), 422, "front.rotor.thickness_m")
    warm = {**case, "environment": {**case["environment"], "start_C": 90}}
    assert_problem(demo.post("/cases", warm, status=422), 422, "environment.start_C")
    assert len(demo.get("/machines")) == machines


def test_a_stranger_gets_none_of_it(demo: Api, stranger: Api, roadster: str) -> None:
    kept = demo.post(f"{roadster}/set-ups", {"name": "mine", "changes": {"vehicle.tyre_grip": 1.0}}, status=201)
    for method, path, body in (
        ("get", f"{roadster}/parts", None),
        ("patch", f"{roadster}/parts", {"changes": {}}),
        ("post", f"{roadster}/copy", {"name": "x"}),
        ("get", f"{roadster}/moves", None),
        ("put", f"{roadster}/words", {"words": {}}),
        ("put", f"{roadster}/removed", {"removed": True}),
        ("post", f"/set-ups/{kept['id']}/use", None),
        ("put", f"/set-ups/{kept['id']}/removed", {"removed": True}),
        ("post", f"{roadster}/compare", {"changes": {}, "pedal_force_N": 100}),
    ):
        stranger.call(method, path, body, status=404)
