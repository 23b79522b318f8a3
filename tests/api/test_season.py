"""A season over the API: events, what lasts through them, what to change, orders, the calendar at its address."""

from __future__ import annotations

import datetime as dt
from typing import Any

import pytest

from tests.workshop import Api, assert_problem, today
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.fitted.models import PadSet
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.season.models import Event, Order

pytestmark = pytest.mark.django_db


def day(ahead: int) -> str:
    return (today() + dt.timedelta(days=ahead)).isoformat()


@pytest.fixture
def roadster(demo: Api) -> str:
    """The kit roadster without the events of the demo's season."""
    machine = f"/machines/{demo.machine('Kit roadster')['id']}"
    Event.objects.filter(machine__name="Kit roadster").delete()
    Order.objects.filter(machine__name="Kit roadster").delete()
    return machine


def planned(demo: Api, machine: str, ahead: int = 10, **more: Any) -> dict[str, Any]:
    duty = demo.duty("Relay stint, Tarn loop")
    body = {"name": "Relay, round 1", "on": day(ahead), "duty_id": duty, **more}
    found: dict[str, Any] = demo.post(f"{machine}/events", body, 201)[0]
    return found


def forecast(season: dict[str, Any], kind: str, axle: str | None = None) -> dict[str, Any]:
    return next(row for row in season["forecasts"] if row["kind"] == kind and row["axle"] == axle and row["on_it"])


def test_without_a_plan_the_axis_is_the_usual_pace_and_says_so(demo: Api, roadster: str) -> None:
    season = demo.get(f"{roadster}/season")
    assert season["usual"]
    assert [row["event_id"] for row in season["axis"]] == [None] * 6
    assert {row["kind"] for row in season["forecasts"]} >= {"pads", "rings", "fluid", "hoses"}
    planned(demo, roadster)
    assert not demo.get(f"{roadster}/season")["usual"]


def test_every_part_goes_along_the_events_and_every_number_can_be_opened(demo: Api, roadster: str) -> None:
    for i in range(8):
        planned(demo, roadster, 10 + 7 * i, sessions=2)
    season = demo.get(f"{roadster}/season")
    pads = forecast(season, "pads", "front")
    chances = [entry["chance"] for entry in pads["chances"]]
    assert chances == sorted(chances, reverse=True)
    assert chances[-1] < chances[0]
    assert pads["until_low"] <= pads["until"] <= pads["until_high"] <= 8
    assert pads["limits"][0]["limit_m"] == pads["limit_m"]
    for row in season["forecasts"]:
        assert row["explained"]["formula"]
        assert row["explained"]["lines"]
        assert row["explained"]["source"]
        counted = [line["values"]["count"] for line in row["explained"]["lines"] if "count" in line["values"]]
        assert all(count >= 2 for count in counted), "one reading is said in words"
    changes = {row["key"]: row for row in season["changes"]}
    change = changes[pads["key"]]
    # With the rings of the same axle, or when it is its own turn.
    doubtful = next(k for k, entry in enumerate(pads["chances"]) if entry["chance"] <= 0.95)
    assert change["before"] <= doubtful
    assert change["order_by"] is not None
    # What is on the list already is not asked for again.
    assert (change["draft"] is None) == (change["ordered"] is not None)
    # The fluid's margin is P10, P50, P90 of each event.
    for row in season["axis"]:
        assert row["margin_low_K"] <= row["margin_K"] <= row["margin_high_K"]


def test_what_was_driven_counts_as_its_own_duty(demo: Api, roadster: str) -> None:
    before = demo.get(f"{roadster}/life")["rows"][0]
    row = planned(demo, roadster, 0, sessions=2, road_km=100)
    km = demo.get(f"{roadster}/life")["odometer_km"]
    demo.put(f"/events/{row['id']}/driven", {"sessions": 2, "odometer_km": km + 300})
    after = demo.get(f"{roadster}/life")["rows"][0]
    per_event = {entry["key"]: entry for entry in demo.get(f"{roadster}/season")["forecasts"]}
    assert per_event
    # Two sessions and 100 km of road take far more than 300 km of the street duty the pads were fitted for.
    street = before["wear_per_event_m"] * 300 / demo.get(f"{roadster}/life")["event_km"]
    assert before["now_m"] - after["now_m"] > 5 * street
    assert_problem(
        demo.put(f"/events/{row['id']}/driven", {"sessions": 2, "odometer_km": km + 300}, 409), 409, said="over already"
    )
    demo.put(f"/events/{row['id']}/planned", {})
    again = demo.get(f"{roadster}/life")["rows"][0]
    # The odometer stays where it was read; the distance is the street duty's again.
    assert before["now_m"] - again["now_m"] == pytest.approx(street, rel=0.05)


def test_two_sets_swapped_keep_their_own_histories(demo: Api, roadster: str, workshop: Workshop) -> None:
    """A track set and a street set, each worn by what was driven on it alone, to the last 0.01 mm."""
    duty, km = demo.duty("Relay stint, Tarn loop"), demo.get(f"{roadster}/life")["odometer_km"]
    season = demo.get(f"{roadster}/season")
    street = forecast(season, "pads", "front")
    order = demo.post("/orders", {**demo_order(demo, roadster, season), "name": "Track set"}, 201)
    came = demo.put(f"/orders/{order['id']}/ticked", {"ordered_on": day(-3), "arrived_on": day(0)})
    track = PadSet.objects.of(workshop).latest("pk")
    assert came["on_shelf"] == str(track)
    new_m = track.size.thickness_m
    worn = []
    for i in range(3):
        row = planned(demo, roadster, 0, name=f"Round {i}", duty_id=duty, front_pads_id=track.pk)
        km += 200
        demo.put(f"/events/{row['id']}/driven", {"sessions": 1, "odometer_km": km})
        planned(demo, roadster, 20 + i, front_pads_id=track.pk)
        season = demo.get(f"{roadster}/season")
        worn.append(next(row for row in season["forecasts"] if row["thing_id"] == track.pk and row["kind"] == "pads"))
    one = new_m - worn[0]["now_m"]
    assert one > 1e-5
    assert [new_m - row["now_m"] for row in worn] == pytest.approx([one, 2 * one, 3 * one], abs=1e-5)
    # The street set lost only what was driven between the events and is nobody's logged distance.
    left = forecast(season, "pads", "front")
    assert left["thing_id"] == street["thing_id"]
    assert street["now_m"] - left["now_m"] < 0.2 * one
    # On the events of the track set the street set is not on.
    assert {entry["chance"] for entry in left["chances"]} == {None}


def demo_order(demo: Api, roadster: str, season: dict[str, Any]) -> dict[str, Any]:
    """An order for another front set of what is on."""
    for i in range(9):
        planned(demo, roadster, 300 + i, sessions=9)
    draft: dict[str, Any] = next(
        row["draft"] for row in demo.get(f"{roadster}/season")["changes"] if row["part"] == "front pads"
    )
    Event.objects.filter(on__gt=today() + dt.timedelta(days=290)).delete()
    return draft | {"event_id": None}


def test_an_event_that_cannot_be_is_refused_by_its_field(demo: Api, roadster: str, stranger: Api) -> None:
    for field, value in (
        ("name", "  "),
        ("on", "1999-01-01"),
        ("until_on", day(0)),
        ("ends_at", "10:00"),
        ("sessions", 51),
        ("front_pads_id", 10**9),
        ("duty_id", 10**9),
    ):
        body = {"name": "A", "on": day(5), "duty_id": demo.duty("Relay stint, Tarn loop"), field: value}
        assert_problem(demo.post(f"{roadster}/events", body, 422), 422, field)
    rear = PadSet.objects.filter(mountings__machine__name="Kit roadster", mountings__axle="rear")[0]
    body = {"name": "A", "on": day(5), "duty_id": demo.duty("Relay stint, Tarn loop"), "front_pads_id": rear.pk}
    assert_problem(demo.post(f"{roadster}/events", body, 422), 422, "front_pads_id")
    row = planned(demo, roadster, 5)
    later = {key: row[key] for key in ("name", "duty_id", "sessions")} | {"on": day(6), "version": 1}
    demo.put(f"/events/{row['id']}", later)
    assert_problem(demo.put(f"/events/{row['id']}", later, 409), 409)
    assert_problem(demo.put(f"/events/{row['id']}/driven", {"sessions": 1, "odometer_km": 1e5}, 422), 422, "on")
    stranger.put(f"/events/{row['id']}/removed", {"removed": True}, 404)


def test_ready_names_what_speaks_against_it_and_prints(demo: Api, roadster: str) -> None:
    row = planned(demo, roadster, 5)
    ready = demo.get(f"/events/{row['id']}/ready")
    states = [reason["state"] for reason in ready["reasons"]]
    assert states == sorted(states, key=["over", "close", "fine"].index)
    assert ready["word"] == {"over": "no-go", "close": "look", "fine": "go"}[states[0]]
    hot = demo.get(f"/events/{row['id']}/ready?air_C=45")
    assert hot["air_C"] == 45

    def margin(found: dict[str, Any]) -> float:
        reason = next(row for row in found["reasons"] if row["text"]["template"].startswith("fluid"))
        values = reason["text"]["values"]
        return float(values["margin"]) if "margin" in values else -float(values["over"])

    assert margin(hot) < margin(ready)
    response = demo.client.get(f"/api/events/{row['id']}/ready/pdf")
    assert response.content[:5] == b"%PDF-"
    assert response.content.count(b"/Type /Page\n") == 1
    demo.put(f"/events/{row['id']}/removed", {"removed": True})
    assert_problem(demo.get(f"/events/{row['id']}/ready", 409), 409, said="ready for")


def test_the_fluid_is_read_and_the_forecast_follows(demo: Api, roadster: str) -> None:
    planned(demo, roadster, 5)
    before = demo.get(f"{roadster}/season")
    row = demo.post(f"{roadster}/fluid-readings", {"measured_on": day(0), "boiling_C": 170}, 201)
    wet = demo.get(f"{roadster}/season")
    assert wet["axis"][0]["margin_K"] < before["axis"][0]["margin_K"] - 10
    demo.put(f"/fluid-readings/{row['id']}/removed", {"removed": True})
    assert demo.get(f"{roadster}/season")["axis"][0]["margin_K"] == pytest.approx(before["axis"][0]["margin_K"])
    demo.post(f"{roadster}/fluid-readings", {"measured_on": day(0), "overheated": True}, 201)
    fluid = forecast(demo.get(f"{roadster}/season"), "fluid")
    assert fluid["state"] == "over"
    assert "change it" in fluid["notes"][0]["template"]
    for field, body in (
        ("boiling_C", {}),
        ("boiling_C", {"boiling_C": 20}),
        ("water_share", {"boiling_C": 180, "water_share": 0.02}),
        ("measured_on", {"boiling_C": 180, "measured_on": day(-4000)}),
    ):
        problem = demo.post(f"{roadster}/fluid-readings", {"measured_on": day(0), **body}, 422)
        assert_problem(problem, 422, "water_percent" if field == "water_share" else field)


def test_what_has_come_is_on_the_shelf_and_can_go_back(demo: Api, roadster: str, workshop: Workshop) -> None:
    draft = demo_order(demo, roadster, {})
    order = demo.post("/orders", draft, 201)
    sets = PadSet.objects.of(workshop).count()
    came = demo.put(f"/orders/{order['id']}/ticked", {"ordered_on": None, "arrived_on": day(0)})
    assert came["ordered_on"] == day(0)
    assert PadSet.objects.of(workshop).count() == sets + 1
    thing = next(row for row in demo.get(f"{roadster}/shelf") if row["machine"] is None)
    assert (thing["fits"], thing["arrived_on"]) == (True, day(0))
    assert_problem(demo.put(f"/orders/{order['id']}", {**draft, "version": came["version"]}, 409), 409)
    demo.put(f"/orders/{order['id']}/ticked", {})
    assert PadSet.objects.of(workshop).count() == sets
    demo.put(f"/orders/{order['id']}/ticked", {"arrived_on": day(0)})
    thing = next(row for row in demo.get(f"{roadster}/shelf") if row["machine"] is None)
    demo.post(f"{roadster}/shelf/pads/{thing['id']}/mount", {"axle": "front"})
    assert_problem(demo.put(f"/orders/{order['id']}/ticked", {}, 409), 409, said="has been on a machine")
    # Taken back, the mounting leaves the set where it came from: on the shelf.
    demo.client.delete(f"/api{roadster}/set/last")
    assert PadSet.objects.filter(pk=thing["id"]).exists()


def inspected(demo: Api, machine: str, **cells: Any) -> None:
    """A finished inspection of today with these cells."""
    km = demo.get(f"{machine}/life")["odometer_km"]
    head = {"measured_on": today().isoformat(), "odometer_km": km}
    sheet = f"/inspections/{demo.post(f'{machine}/inspections', head)['id']}"
    body = {name.replace("__", "."): {"value": value} for name, value in cells.items()}
    answer = demo.put(f"{sheet}/cells", {"cells": body})
    assert answer is not None
    demo.put(f"{sheet}/finished", {"finished": True})


def test_hairlines_that_were_seen_move_the_forecast_and_are_never_cleared(demo: Api, roadster: str) -> None:
    for i in range(2):
        planned(demo, roadster, 10 + 7 * i, duty_id=demo.duty("Relay stint, fast group"))
    before = forecast(demo.get(f"{roadster}/season"), "rings", "front")
    assert "likely" in before["notes"][0]["template"]
    inspected(demo, roadster, front_left__crazed=True, front_left__plain=True)
    after = forecast(demo.get(f"{roadster}/season"), "rings", "front")
    assert "hairlines were seen" in after["notes"][0]["template"]
    for was, now in zip(before["chances"], after["chances"], strict=True):
        assert now["word"] == "look"
        assert now["chance"] < was["chance"]
    # It is a look, not a change: the ring is as thick as it was.
    changes = [row["part"] for row in demo.get(f"{roadster}/season")["changes"]]
    assert "front rings" not in changes


def test_a_hose_that_was_found_cracked_is_said_beside_its_age(demo: Api, roadster: str) -> None:
    planned(demo, roadster)
    inspected(demo, roadster, front_left__hose="cracked", rear_left__boot="torn")
    demo.put(f"{roadster}/hoses", {"axle": "rear", "kind": "seals", "age_months": 20})
    season = demo.get(f"{roadster}/season")
    assert forecast(season, "hoses", "front")["notes"][0]["values"]["what"] == "hose cracked"
    assert forecast(season, "seals", "rear")["notes"][0]["values"]["what"] == "boot torn or burnt"


def test_a_fluid_test_moves_the_strip_as_well(demo: Api, roadster: str) -> None:
    def limit() -> float:
        readings = demo.post(f"{roadster}/verdict", {})["readings"]
        return float(next(row["limit"] for row in readings if row["name"] == "fluid"))

    label = limit()
    row = demo.post(f"{roadster}/fluid-readings", {"measured_on": day(0), "boiling_C": label - 60}, 201)
    assert limit() < label - 30
    demo.put(f"/fluid-readings/{row['id']}/removed", {"removed": True})
    assert limit() == pytest.approx(label)


def test_fresh_fluid_at_an_event_holds_from_then_on(demo: Api, roadster: str) -> None:
    fluid = next(row["id"] for row in demo.get("/fluids") if row["name"] == "Fellmark 310")
    for ahead in (10, 40, 70):
        planned(demo, roadster, ahead)
    before = [row["margin_K"] for row in demo.get(f"{roadster}/season")["axis"]]
    second = demo.get(f"{roadster}/season")["planned"][1]
    kept = ("name", "on", "duty_id", "sessions", "road_km", "version")
    demo.put(f"/events/{second['id']}", {name: second[name] for name in kept} | {"fluid_id": fluid})
    after = [row["margin_K"] for row in demo.get(f"{roadster}/season")["axis"]]
    assert after[0] == pytest.approx(before[0])
    assert all(now > was + 15 for now, was in zip(after[1:], before[1:], strict=True))


def test_an_event_left_out_wears_nothing_and_a_set_on_another_machine_is_not_taken(
    demo: Api, roadster: str, workshop: Workshop
) -> None:
    row = planned(demo, roadster, 0)
    before = demo.get(f"{roadster}/life")["rows"][0]["now_m"]
    km = demo.get(f"{roadster}/life")["odometer_km"]
    left = demo.put(f"/events/{row['id']}/driven", {"sessions": 0, "odometer_km": km, "left_out": True})
    assert left["state"] == "left out"
    assert demo.get(f"{roadster}/life")["rows"][0]["now_m"] == pytest.approx(before)
    # The odometer never runs backwards between events.
    first = planned(demo, roadster, 0, name="First")
    demo.put(f"/events/{first['id']}/driven", {"sessions": 1, "odometer_km": km + 500})
    second = planned(demo, roadster, 0, name="Second")
    problem = demo.put(f"/events/{second['id']}/driven", {"sessions": 1, "odometer_km": km + 400}, 422)
    assert_problem(problem, 422, "odometer_km")
    track = PadSet.objects.get(workshop=workshop, pad__name="Fellmark R2", mountings__axle="front")
    track.mountings.update(
        until_on=None, until_km=None, machine_id=Machine.objects.get(name="Electric hatch").pk, axle="x"
    )
    other = planned(demo, roadster, 0, name="Third")
    Event.objects.filter(pk=other["id"]).update(front_pads=track)
    problem = demo.put(f"/events/{other['id']}/driven", {"sessions": 1, "odometer_km": km + 700}, 422)
    assert_problem(problem, 422, "front_pads_id")


def test_what_an_event_had_on_is_taken_back_with_it_unless_it_was_read_since(
    demo: Api, roadster: str, workshop: Workshop
) -> None:
    track = PadSet.objects.get(workshop=workshop, pad__name="Fellmark R2", mountings__axle="front")
    row = planned(demo, roadster, 0, front_pads_id=track.pk)
    km = demo.get(f"{roadster}/life")["odometer_km"] + 300
    demo.put(f"/events/{row['id']}/driven", {"sessions": 1, "odometer_km": km, "back_on": False})
    on_it = next(one for one in demo.get(f"{roadster}/shelf") if one["id"] == track.pk and one["kind"] == "pads")
    assert on_it["on_machine"]
    demo.put(f"/events/{row['id']}/planned", {})
    back = next(one for one in demo.get(f"{roadster}/shelf") if one["id"] == track.pk and one["kind"] == "pads")
    assert not back["on_machine"]
    demo.put(f"/events/{row['id']}/driven", {"sessions": 1, "odometer_km": km, "back_on": False})
    measured = {"axle": "front", "thickness_m": 0.0035, "odometer_km": km, "measured_on": day(0)}
    demo.post(f"{roadster}/measurements", measured)
    assert_problem(demo.put(f"/events/{row['id']}/planned", {}, 409), 409, said="stays driven")


def test_a_set_on_the_shelf_wore_as_what_it_is_whatever_is_on_now(demo: Api, roadster: str) -> None:
    """What the second set has left does not move when another compound goes on in its place."""

    def track() -> dict[str, Any]:
        planned(demo, roadster, 30, front_pads_id=track_id)
        rows = demo.get(f"{roadster}/season")["forecasts"]
        return next(row for row in rows if row["kind"] == "pads" and row["thing_id"] == track_id)

    shelf = demo.get(f"{roadster}/shelf")
    track_id = next(row["id"] for row in shelf if row["name"] == "Fellmark R2" and row["axle"] == "front")
    before = track()
    key = next(row["key"] for row in demo.post(f"{roadster}/candidates", {})["ranked"])
    demo.post(f"{roadster}/set", {"key": key, "reason": ""})
    after = track()
    assert after["now_m"] == pytest.approx(before["now_m"], abs=2e-6)
    readings = [line for line in after["explained"]["lines"] if "readings" in line["template"]]
    assert readings[0]["values"]["count"] == 4
