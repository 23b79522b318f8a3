"""The case file: round trips, and every way to get it wrong names the field."""

from __future__ import annotations

import copy
import dataclasses
import json
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.cases_data import NAMES, case_text, changed, load, plain_case
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.simulate import simulate_one
from thermaxis.core.records import Regen, TraceDuty, Trailer
from thermaxis.formats.case_file import NEW_FIELDS, read_case, result_document, write_case


@pytest.mark.parametrize("name", NAMES)
def test_a_case_written_and_read_is_the_same_case(name: str) -> None:
    case = load(name)
    assert read_case(write_case(case)) == case


@given(
    mass=st.floats(1.0, 50000.0),
    grade=st.lists(st.floats(-0.3, 0.3), min_size=2, max_size=2),
    mu=st.lists(st.floats(0.01, 2.0), min_size=1, max_size=16),
    knee=st.none() | st.floats(1e3, 1e7),
)
def test_any_allowed_case_survives_the_file(
    mass: float, grade: list[float], mu: list[float], knee: float | None
) -> None:
    case = plain_case(
        duty=TraceDuty(kind="trace", t_s=(0.0, 1.5, 9.25), v_mps=(30.0, 12.0, 12.0), grade=tuple(grade)),
        vehicle__mass_kg=mass,
        vehicle__regen=Regen(axle="rear", max_power_W=3e4, max_decel_mps2=1.5, fade_out_mps=3.0),
        trailer=Trailer(mass_kg=500.0, brake_share=0.5, nose_load_N=400.0),
        hydraulics__rear_knee_Pa=knee,
    )
    case = changed(case, front__pad__mu=tuple((50.0 * i, value) for i, value in enumerate(mu)))
    assert read_case(write_case(case)) == case


def broken(path: str, value: Any) -> str:
    """The roadster's file with one entry replaced (or taken out, for the value `...`)."""
    data = copy.deepcopy(json.loads(case_text("roadster-single-stop")))
    *parents, last = [int(part) if part.isdigit() else part for part in path.split("/")]
    place = data
    for part in parents:
        place = place[part]
    if value is ...:
        del place[last]
    else:
        place[last] = value
    return json.dumps(data)


@pytest.mark.parametrize(
    ("entry", "value", "path", "allowed"),
    [
        ("vehicle/mass_kg", -2.0, "vehicle.mass_kg", "> 0"),
        ("vehicle/mass_kg", "690", "vehicle.mass_kg", "a number"),
        ("vehicle/mass_kg", True, "vehicle.mass_kg", "a number"),
        ("vehicle/mass_kg", ..., "vehicle.mass_kg", "given"),
        ("vehicle/colour", "red", "vehicle.colour", "unknown field"),
        ("vehicle/kind", "boat", "vehicle.kind", "car, truck, motorcycle"),
        ("vehicle/front_lift_area_m2", None, "vehicle.front_lift_area_m2", "a number"),
        ("hydraulics/booster_runout_N", ..., "hydraulics.booster_runout_N", "null where there is none"),
        ("hydraulics/rear_slope", 1.5, "hydraulics.rear_slope", "<= 1"),
        ("front/rotor/inner_radius_m", 0.14, "front.rotor.inner_radius_m", "less than outer_radius_m"),
        ("front/rotor/vanes", 31.5, "front.rotor.vanes", "a whole number"),
        ("rear/rotor/material", "chalk", "rear.rotor.material", "grey_iron"),
        ("rear/pad/mu", [], "rear.pad.mu", "1 to 16 points"),
        ("rear/pad/mu/2", [300], "rear.pad.mu[2]", "a list of 2 values"),
        ("rear/pad/mu/2/1", "high", "rear.pad.mu[2][1]", "a number"),
        ("rear/pad/mu/2/0", 50, "rear.pad.mu[2][0]", "more than the point before"),
        ("rear/pad/area_m2", 0.09, "rear.pad.area_m2", "swept ring"),
        ("front/rotors", 0, "front.rotors", ">= 1"),
        ("environment/air_C", 400, "environment.air_C", "<= 70"),
        ("duty/kind", "race", "duty.kind", "stops, descent, trace"),
        ("duty/stops/0/decel_mps2", 0, "duty.stops[0].decel_mps2", "> 0"),
        ("duty/stops/0/to_mps", 60, "duty.stops[0].to_mps", "less than from_mps"),
        ("duty/stops/0/grad", 0.1, "duty.stops[0].grad", "unknown field"),
        ("duty/stops", [], "duty.stops", "at least one stop"),
        ("duty", [1], "duty", "an object"),
        ("vehicle/anti_lock", "yes", "vehicle.anti_lock", "true or false"),
        ("assumed", ["x"], "assumed", "unknown field"),
        ("name", 7, "name", "text"),
        ("format", "thermaxis-case/9", "format", "thermaxis-case/1"),
    ],
)
def test_a_wrong_entry_is_named_by_its_path(entry: str, value: Any, path: str, allowed: str) -> None:
    with pytest.raises(FieldError) as caught:
        read_case(broken(entry, value))
    assert caught.value.path == path
    assert allowed in caught.value.allowed


@pytest.mark.parametrize(
    ("t", "v", "grade", "path"),
    [
        ([0], [1], None, "duty.t_s"),
        ([0, 1], [1, 2, 3], None, "duty.v_mps"),
        ([0, 1, 1], [1, 2, 3], None, "duty.t_s[2]"),
        ([0, 1], [1, -2], None, "duty.v_mps[1]"),
        ([0, 1e8], [1, 2], None, "duty.t_s[1]"),
        ([1e8, 1e8 + 5], [1, 2], None, "duty.t_s[0]"),
        ([0, 1], [1, 2], [0.1, 0.2], "duty.grade"),
        ([0, 1], [1, 2], [0.9], "duty.grade[0]"),
    ],
)
def test_a_wrong_trace_is_named_by_its_point(t: list[float], v: list[float], grade: Any, path: str) -> None:
    duty = {"kind": "trace", "t_s": t, "v_mps": v, "grade": grade}
    with pytest.raises(FieldError) as caught:
        read_case(broken("duty", duty))
    assert caught.value.path == path


@pytest.mark.parametrize(
    ("text", "allowed"),
    [("{", "valid JSON"), ("[1, 2]", "a JSON object"), ('{"format": NaN}', "finite numbers"), ("", "valid JSON")],
)
def test_what_is_no_case_at_all_is_said_in_one_line(text: str, allowed: str) -> None:
    with pytest.raises(FieldError) as caught:
        read_case(text)
    assert allowed in str(caught.value)
    assert "\n" not in str(caught.value)


def test_a_result_document_is_plain_json_with_its_account_and_assumptions() -> None:
    document = json.loads(json.dumps(result_document(simulate_one(load("hauler-descent"))), allow_nan=False))
    assert document["energy_account"]["friction_J"] > 1e6
    assert any("estimates" in text for text in document["assumptions"])
    assert document["warnings"] == []


def test_a_file_of_the_first_edition_is_read_and_its_defaults_are_named() -> None:
    data = json.loads(case_text("hauler-descent"))
    data["format"] = "thermaxis-case/1"
    for block, name in NEW_FIELDS:
        data[block].pop(name, None)
    case = read_case(json.dumps(data))
    assert case.trailer is not None
    assert (case.vehicle.anti_lock, case.trailer.hitch_height_m, case.trailer.hitch_overhang_m) == (True, 0.45, 1.1)
    assumed = [text for text in simulate_one(case).assumptions if "is assumed" in text]
    assert [text.split()[0] for text in assumed] == [
        "vehicle.anti_lock",
        "trailer.hitch_height_m",
        "trailer.hitch_overhang_m",
    ]
    assert "1.1" in assumed[2]
    # Written again it is of this edition, and says what was assumed as its own.
    again = read_case(write_case(case))
    assert again == dataclasses.replace(case, assumed=())
    assert not [text for text in simulate_one(again).assumptions if "is assumed" in text]
    # What the first edition did not know is no field of it.
    data["vehicle"]["anti_lock"] = False
    with pytest.raises(FieldError) as caught:
        read_case(json.dumps(data))
    assert caught.value.path == "vehicle.anti_lock"


@pytest.mark.parametrize("number", ["1e999", "-1e999", "1e8", "NaN", "Infinity"])
@pytest.mark.parametrize("place", ["t_s", "v_mps", "grade", "then_s"])
def test_what_is_no_time_and_no_number_is_refused_by_its_field(place: str, number: str) -> None:
    trace = {"kind": "trace", "t_s": [0, 5, 9], "v_mps": [20, 20, 5], "grade": [0, 0.1], "then_s": 10}
    data = {**json.loads(case_text("roadster-single-stop")), "duty": trace}
    if place == "then_s":
        trace[place] = "@"
    else:
        trace[place][1] = "@"  # type: ignore[index]
    with pytest.raises(FieldError) as caught:
        read_case(json.dumps(data).replace('"@"', number))
    # json itself names no field for what is not JSON at all.
    assert caught.value.path in ("file", f"duty.{place}", f"duty.{place}[1]")
    assert caught.value.path != "file" or number in ("NaN", "Infinity")
