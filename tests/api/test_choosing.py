"""The choice through the API: what is tried, how likely limits are crossed, ways out, fluids; told by the core's numbers."""

from __future__ import annotations

from typing import Any

import pytest

from tests.said import metric
from tests.workshop import Api, assert_problem
from thermaxis.core.physics.convection import standard_pressure
from thermaxis.core.physics.fluid import altitude_drop, boiling_point
from thermaxis.core.planning.explain.explain import TOPICS


@pytest.fixture
def horse_box(demo: Api) -> str:
    return f"/machines/{demo.machine('Horse-box 4x4')['id']}"


def strip(demo: Api, machine: str, **what_if: Any) -> dict[str, float]:
    rows = demo.post(f"{machine}/verdict", what_if)["readings"]
    return {row["name"]: row["left"] if row["name"] == "fluid" else row["value"] for row in rows}


def test_every_lever_moves_the_strip_the_way_it_should(demo: Api, relay_roadster: str) -> None:
    levers = demo.get(f"{relay_roadster}/levers")
    assert (levers["driver_level"], levers["repeats"], levers["noun"]) == ("intermediate", 32, "lap")
    assert levers["speed_mps"] is None
    assert levers["gears"] == []
    now = strip(demo, relay_roadster)
    assert strip(demo, relay_roadster, extra_mass_kg=150)["rotor"] > now["rotor"] + 20
    assert strip(demo, relay_roadster, driver_level="advanced")["rotor"] > now["rotor"] + 20
    assert strip(demo, relay_roadster, driver_level="novice")["rotor"] < now["rotor"] - 20
    assert strip(demo, relay_roadster, repeats=3)["rotor"] < now["rotor"] - 1
    older = strip(demo, relay_roadster, fluid_age_months=44)
    assert older["fluid"] < now["fluid"] - 10
    assert older["rotor"] == now["rotor"]
    assert strip(demo, relay_roadster) == now


def test_a_descent_has_speed_and_gears_to_try(demo: Api, horse_box: str) -> None:
    levers = demo.get(f"{horse_box}/levers")
    assert levers["repeats"] is None
    assert levers["gears"] == ["usual", "one_lower", "two_lower"]
    now = strip(demo, horse_box)
    gears = [strip(demo, horse_box, gear=gear)["rotor"] for gear in levers["gears"]]
    assert gears[0] == pytest.approx(now["rotor"])
    assert gears[0] > gears[1] > gears[2]
    # The hill stays as long: slower is less power for longer, and cooler.
    assert strip(demo, horse_box, speed_factor=0.6)["rotor"] < now["rotor"]
    demo.put(f"{horse_box}/duty", {"duty_id": demo.duty("Hause pass, section by section")})
    by_section = strip(demo, horse_box)
    assert strip(demo, horse_box, gear="two_lower")["rotor"] < by_section["rotor"]


@pytest.mark.parametrize(
    ("what_if", "field"),
    [
        ({"gear": "one_lower"}, "gear"),
        ({"speed_factor": 0.8}, "speed_factor"),
        ({"driver_level": "reckless"}, "driver_level"),
        ({"extra_mass_kg": -900}, "vehicle.mass_kg"),
        ({"repeats": 0}, "repeats"),
        ({"fluid_age_months": -1}, "fluid_age_months"),
    ],
)
def test_a_lever_that_is_not_there_is_named(
    demo: Api, relay_roadster: str, what_if: dict[str, Any], field: str
) -> None:
    assert_problem(demo.post(f"{relay_roadster}/verdict", what_if, status=422), 422, field)


def test_the_list_is_judged_under_the_same_what_if(demo: Api, relay_roadster: str) -> None:
    plain = demo.post(f"{relay_roadster}/candidates", {})
    heavy = demo.post(f"{relay_roadster}/candidates", {"extra_mass_kg": 200, "driver_level": "advanced"})
    peaks = {row["key"]: row["front"]["peak_C"] for row in plain["ranked"] + plain["rejected"]}
    assert all(row["front"]["peak_C"] > peaks[row["key"]] for row in heavy["ranked"] + heavy["rejected"])
    assert len(heavy["rejected"]) > len(plain["rejected"])


def test_mixed_compounds_are_offered_judged_and_fitted(demo: Api, relay_roadster: str) -> None:
    plain = demo.post(f"{relay_roadster}/candidates", {})
    mixed = demo.post(f"{relay_roadster}/candidates", {"mixed": True})
    same = [row for row in mixed["ranked"] + mixed["rejected"] if row["pad"] == row["rear_pad"]]
    assert len(same) == plain["total"] < mixed["total"]
    two = next(row for row in mixed["ranked"] if row["pad"] != row["rear_pad"])
    assert two["pads"] == f"{two['pad']} with {two['rear_pad']} behind"
    side = demo.post(f"{relay_roadster}/sets/compare", {"mixed": True, "keys": [two["key"], same[0]["key"]]})["sets"]
    assert 0.4 < side[0]["front_share"] < 0.9
    fitted = demo.post(f"{relay_roadster}/set", {"mixed": True, "key": two["key"], "reason": metric(two["reason"])})
    assert fitted["name"].startswith(f"{two['pad']} with {two['rear_pad']} behind on ")
    assert demo.get(f"{relay_roadster}/set")["rear_pads"] == two["rear_pad"]
    # What is on is weighed beside the others although they are alike, and every question about it has an answer.
    plain = demo.post(f"{relay_roadster}/candidates", {})
    (on_it,) = [row for row in plain["ranked"] + plain["rejected"] if row["fitted"]]
    assert on_it["pads"] == two["pads"]
    assert demo.post(f"{relay_roadster}/fluids", {})["fluids"]
    assert demo.post(f"{relay_roadster}/sets/compare", {"keys": [on_it["key"], same[0]["key"]]})["sets"]
    assert demo.post(f"{relay_roadster}/verdict", {})["set_name"] == fitted["name"]


def test_the_strip_and_the_workshop_say_what_the_choice_says(demo: Api, relay_roadster: str, horse_box: str) -> None:
    # Nine hundred kilos more than it may pull, down the longest hill: every set is out there.
    demo.put(f"{horse_box}/duty", {"duty_id": demo.duty("Scar brow, overloaded")})
    choice = demo.post(f"{horse_box}/candidates", {})
    (on_it,) = [row for row in choice["ranked"] + choice["rejected"] if row["fitted"]]
    verdict = demo.post(f"{horse_box}/verdict", {})
    outcome = verdict["outcome"]
    assert on_it["rejected_for"]
    assert (outcome["state"], outcome["rejects"]) == ("over", True)
    assert outcome["limit"] == on_it["rejected_for"]
    stage = next(stage for stage in verdict["stages"] if stage["name"] == "choose")
    assert (stage["state"], stage["note"]) == ("attention", outcome["text"])
    row = next(row for row in demo.get("/workshop/overview") if f"/machines/{row['id']}" == horse_box)
    assert row["verdict"]["outcome"] == outcome
    assert demo.post(f"{horse_box}/ranges", {})["any_probability"] > 0.5
    # And a duty it bears is fine in all three places.
    easy = demo.post(f"{relay_roadster}/verdict", {"repeats": 1})["outcome"]
    assert not easy["rejects"]


def test_a_kept_set_up_stands_in_the_same_list_and_cannot_be_fitted_as_parts(demo: Api, relay_roadster: str) -> None:
    before = demo.post(f"{relay_roadster}/candidates", {})["total"]
    values = demo.get(relay_roadster)["values"]
    changes = {"front.piston_area_m2": 1.15 * values["front.piston_area_m2"], "vehicle.cg_height_m": 0.4}
    sent = {"name": "Bigger front pistons", "changes": changes, "price": 640.0}
    demo.post(f"{relay_roadster}/set-ups", sent, status=201)
    choice = demo.post(f"{relay_roadster}/candidates", {})
    rows = choice["ranked"] + choice["rejected"]
    ups = [row for row in rows if row["set_up"]]
    assert choice["total"] == before + len(ups) > before
    assert {(row["set_up"], row["set_up_price"]) for row in ups} == {("Bigger front pistons", 640.0)}
    plain = {row["key"]: row for row in rows}
    for row in ups:
        # More piston, less pedal for the same stop.
        assert row["pedal_worst_N"] < plain[row["key"].split("+")[0]]["pedal_worst_N"]
    # What it costs counts once, whatever the rotors among it cost.
    sides = demo.post(f"{relay_roadster}/sets/compare", {"keys": [ups[0]["key"], ups[1]["key"]]})["sets"]
    assert [side["rotors_price"] for side in sides] == [640.0, 640.0]
    assert_problem(demo.post(f"{relay_roadster}/set-ups", {**sent, "price": -1}, status=422), 422, "price")
    assert_problem(demo.post(f"{relay_roadster}/set", {"key": ups[0]["key"], "reason": ""}, status=422), 422, "key")


def test_a_set_up_too_big_for_the_wheel_is_out_whatever_it_bears(demo: Api, relay_roadster: str) -> None:
    values = demo.get(relay_roadster)["values"]
    room = values["front.rim_radius_m"] - values["front.caliper_reach_m"]
    changes = {"front.rotor.outer_radius_m": room + 0.0042}
    demo.post(f"{relay_roadster}/set-ups", {"name": "Plates", "changes": changes}, status=201)
    rows = [row for row in demo.post(f"{relay_roadster}/candidates", {})["rejected"] if row["set_up"] == "Plates"]
    assert rows
    for row in rows:
        assert row["rejected_for"] == "does not fit"
        assert (
            metric(row["reason"])
            == "It does not fit inside the front wheel: 4.2 mm are missing between caliper and rim."
        )
    (way,) = demo.post(f"{relay_roadster}/sets/ways-out", {"key": rows[0]["key"]})["ways"]
    assert "4.2 mm more radius inside" in metric(way["text"])
    assert way["value"] == pytest.approx(0.0042)


def test_rotors_are_bought_in_pairs(demo: Api, relay_roadster: str) -> None:
    ask = {"cooling_factor": 1.0, "air_C": None, "mixed": False}
    on_it = demo.get(f"{relay_roadster}/set")
    ranked = demo.post(f"{relay_roadster}/candidates", {**ask, "weights": None})["ranked"]
    other = next(row["key"] for row in ranked if row["front_rotor"] == on_it["front_rotor"])
    key = next(row["key"] for row in ranked if row["front_rotor"] != on_it["front_rotor"])
    row, _ = demo.post(f"{relay_roadster}/sets/compare", {**ask, "keys": [key, other]})["sets"]
    prices = {rotor["name"]: rotor["price"] for rotor in demo.get("/catalogue")["rotors"]}
    bought = [row[place] for place in ("front_rotor", "rear_rotor") if row[place] != on_it[place]]
    assert row["rotors_price"] > 0
    assert row["rotors_price"] == pytest.approx(sum(2 * prices[name] for name in bought))
    lines = demo.post(f"{relay_roadster}/sets/parts", {**ask, "key": key})["lines"]
    assert [line["count"] for line in lines if line["kind"].startswith("rotors")] == [2] * len(bought)


def test_chances_go_with_margins(demo: Api, relay_roadster: str) -> None:
    choice = demo.post(f"{relay_roadster}/candidates", {})
    best, worst = choice["ranked"][0], choice["rejected"][-1]
    found = demo.post(f"{relay_roadster}/sets/chances", {"keys": [best["key"], worst["key"]]})
    sure, out = found["sets"]
    assert found["draws"] == 64
    assert [sure["key"], out["key"]] == [best["key"], worst["key"]]
    # The best one's fluid has little left with worn pads, and what decides the fluid is known least.
    assert sure["any_probability"] < 0.4 < 0.8 < out["any_probability"]
    worn = [entry["probability"] for entry in sure["crossings"] if entry["limit"] == "fluid, worn pads"]
    assert len(worn) == 2
    assert 0 < max(worn) == sure["any_probability"]
    for one, row in ((sure, best), (out, worst)):
        assert one["front_p10_C"] < row["front"]["peak_C"] < one["front_p90_C"]
        assert one["any_probability"] >= max(entry["probability"] for entry in one["crossings"])
    unknown = demo.post(f"{relay_roadster}/sets/chances", {"keys": ["1-1-1-1"]}, status=422)
    assert_problem(unknown, 422, "keys[0]")


def test_ways_out_hold_when_they_are_tried(demo: Api, relay_roadster: str) -> None:
    choice = demo.post(f"{relay_roadster}/candidates", {})
    out = choice["rejected"][0]
    ways = {way["question"]: way for way in demo.post(f"{relay_roadster}/sets/ways-out", {"key": out["key"]})["ways"]}
    assert {"cooling_to_pass", "most_laps", "driver_to_pass", "mass_to_pass"} <= set(ways)

    def still_out(**what_if: Any) -> bool:
        again = demo.post(f"{relay_roadster}/candidates", {"only": [out["key"]], **what_if})
        return bool(again["rejected"])

    assert still_out()
    cooling = ways["cooling_to_pass"]["value"]
    assert cooling is not None
    assert not still_out(cooling_factor=cooling)
    assert still_out(cooling_factor=0.95 * cooling)
    laps = ways["most_laps"]
    if laps["value"]:
        assert not still_out(repeats=int(laps["value"]))
        assert still_out(repeats=int(laps["value"]) + 1)
    assert demo.post(f"{relay_roadster}/sets/ways-out", {"key": choice["ranked"][0]["key"]})["ways"] == []


def test_the_ladder_is_scrubbed_at_shared_times(demo: Api, relay_roadster: str) -> None:
    choice = demo.post(f"{relay_roadster}/candidates", {})
    rows = choice["ranked"][:2] + choice["rejected"][:1]
    found = demo.post(f"{relay_roadster}/sets/scrub", {"keys": [row["key"] for row in rows]})
    assert [entry["key"] for entry in found["sets"]] != []
    for entry in found["sets"]:
        row = next(row for row in rows if row["key"] == entry["key"])
        assert len(entry["front_surface_C"]) == len(found["t_s"])
        assert max(entry["front_surface_C"]) == pytest.approx(row["front"]["peak_C"], abs=2)
        assert max(entry["fluid_C"]) == pytest.approx(row["fluid_peak_C"], abs=1)


def test_fluids_by_the_hot_soak_of_the_chosen_set(demo: Api, relay_roadster: str) -> None:
    found = demo.post(f"{relay_roadster}/fluids", {})
    months = [row["change_months"] for row in found["fluids"]]
    assert months == sorted(months, reverse=True)
    (inside,) = [row for row in found["fluids"] if row["in_machine"]]
    verdict = strip(demo, relay_roadster)
    # With the pads as thin as when they are changed: no more than today's leave.
    assert 0 < inside["now_K"] < verdict["fluid"]
    drop = altitude_drop(standard_pressure(demo.get(relay_roadster)["values"]["environment.altitude_m"]))
    fresh = boiling_point(inside["dry_C"], inside["wet_C"], found["age_months"]) - drop
    assert inside["now_K"] == pytest.approx(fresh - found["peak_C"])
    assert inside["fresh_K"] == pytest.approx(inside["dry_C"] - drop - found["peak_C"])
    other = next(row for row in found["fluids"] if not row["in_machine"])
    filled = demo.put(f"{relay_roadster}/fluid", {"fluid_id": other["id"]})
    assert (filled["name"], filled["age_months"], filled["before"]) == (other["name"], 0, inside["name"])
    gained = strip(demo, relay_roadster)["fluid"] - verdict["fluid"]
    assert gained == pytest.approx(other["fresh_K"] - inside["now_K"], abs=0.1)
    demo.put(f"{relay_roadster}/fluid", {"fluid_id": filled["before_id"], "age_months": filled["before_months"]})
    assert strip(demo, relay_roadster) == verdict
    assert_problem(demo.put(f"{relay_roadster}/fluid", {"fluid_id": 9999}, status=422), 422, "fluid_id")


# --- Why ---------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("topic", [name for name in TOPICS if not name.endswith("_rear")])
def test_any_number_of_any_set_can_be_opened(demo: Api, relay_roadster: str, topic: str) -> None:
    key = demo.post(f"{relay_roadster}/candidates", {})["ranked"][0]["key"]
    series = (
        {"bedding": {"school": "rising", "top_speed_mps": 25, "hard_g": 0.6}, "stop": 4}
        if TOPICS[topic].of_stop
        else {}
    )
    for asked in (series, {"key": key, **series}):
        found = demo.post(f"{relay_roadster}/why/{topic}", asked)
        assert metric(found["numbers"])
        assert found["source"]
        # Nothing but the speed trace decides how long the brakes are on.
        assert len(found["inputs"]) <= 8
        assert found["inputs"] or topic == "braking_share"
        sizes = [abs(entry["change"]) for entry in found["inputs"]]
        assert sizes == sorted(sizes, reverse=True)
        if TOPICS[topic].simulated:
            account = found["energy"]
            into = account["friction"]
            out = sum(joules for name, joules in account.items() if name.startswith(("stored", "lost ", "radiated")))
            assert out == pytest.approx(into, rel=1e-3)
        else:
            assert found["energy"] == {}


def test_a_number_is_opened_for_the_set_the_what_if_and_the_pedal_it_was_shown_for(
    demo: Api, relay_roadster: str
) -> None:
    choice = demo.post(f"{relay_roadster}/candidates", {"extra_mass_kg": 100})
    for row in (choice["ranked"][0], choice["rejected"][0]):
        found = demo.post(f"{relay_roadster}/why/peak_front", {"key": row["key"], "extra_mass_kg": 100})
        said = float(metric(found["numbers"]).split("face at most ")[1].split(" ")[0])
        assert said == pytest.approx(row["front"]["peak_C"], abs=0.6)
        assert row["pads"] in found["title"]
        sure = demo.post(f"{relay_roadster}/sets/chances", {"keys": [row["key"]], "extra_mass_kg": 100})
        chance = demo.post(f"{relay_roadster}/why/chance", {"key": row["key"], "extra_mass_kg": 100})
        crossing = round(sure["sets"][0]["any_probability"] * sure["draws"])
        assert f"runs over a limit: {crossing} of {sure['draws']} " in metric(chance["numbers"])
        assert 0.5 < sum(entry["variance_share"] for entry in chance["decided_by"]) < 1.3
        assert "friction ±8 %" in metric(chance["assumptions"][-1])
    balance = demo.post(f"{relay_roadster}/balance", {"pedal_force_N": 120, "rotor_C": 200, "changes": {}})
    torque = demo.post(f"{relay_roadster}/why/torque_front", {"pedal_force_N": 120, "rotor_C": 200})
    assert f"= {balance['statics']['front_torque_Nm']:.0f} N m" in metric(torque["numbers"])
    road = {"top_speed_mps": 25, "hard_g": 0.6}
    plans = {plan["school"]: plan for plan in demo.post(f"{relay_roadster}/bedding", road)["plans"]}
    for school in ("rising", "gentle"):
        plan, series = plans[school], {"bedding": {"school": school, **road}}
        bed = demo.post(f"{relay_roadster}/why/peak_front", series)
        assert f"face at most {plan['peak_front_C']:.0f} °C" in metric(bed["numbers"])
        for item in (plan["items"][0], plan["items"][-1]):
            opened = demo.post(f"{relay_roadster}/why/stop_rear", {**series, "stop": item["stop"]})
            assert f"ring's mean = {item['rear_C']:.0f} °C" in metric(opened["numbers"])
        for wrong in ({**series, "stop": plan["items"][-1]["stop"] + 1}, series, {"stop": 1}):
            assert_problem(demo.post(f"{relay_roadster}/why/stop_front", wrong, status=422), 422, "stop")
    by_feel = {"bedding": {"school": "by feel", **road}}
    assert_problem(demo.post(f"{relay_roadster}/why/peak_front", by_feel, status=422), 422, "school")


def test_estimated_parts_are_marked_among_the_inputs(demo: Api, relay_roadster: str) -> None:
    rows = demo.post(f"{relay_roadster}/candidates", {})
    both = rows["ranked"] + rows["rejected"]
    guessed = next(row for row in both if row["provenance"] == "estimate")
    known = next(row for row in both if row["provenance"] == "maker")

    def marked(key: str) -> bool:
        inputs = demo.post(f"{relay_roadster}/why/cold_mu", {"key": key})["inputs"]
        return {entry["field"]: entry["estimate"] for entry in inputs}["front.pad.mu"] is True

    assert (marked(guessed["key"]), marked(known["key"])) == (True, False)
    assert_problem(demo.post(f"{relay_roadster}/why/colour", {}, status=422), 422, "reading")
    assert_problem(demo.post(f"{relay_roadster}/why/stress", {"key": "1-1-1-1"}, status=422), 422, "key")
