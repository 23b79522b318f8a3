"""Fit: the set that is to go on, checked on paper; the same verdict in Choose; what is typed is kept once and checked."""

from __future__ import annotations

from typing import Any

import pytest

from tests.said import metric
from tests.workshop import Api

pytestmark = pytest.mark.django_db


@pytest.fixture
def hatch(demo: Api) -> str:
    return f"/machines/{demo.machine('Electric hatch')['id']}"


def refused(demo: Api, path: str, body: dict[str, Any]) -> list[str]:
    return [entry["field"] for entry in demo.put(path, body, status=422)["fields"]]


def front(fit: dict[str, Any]) -> dict[str, Any]:
    return next(axle for axle in fit["axles"] if axle["axle"] == "front")


def test_the_set_that_fits_by_number_and_is_too_thick(demo: Api, hatch: str) -> None:
    fit = demo.get(f"{hatch}/fit")
    axle = front(fit)
    assert (fit["said"], fit["verdict"], axle["stack"]["verdict"]) == (True, "does not fit", "does not fit")
    assert metric(axle["headline"]) == (
        "Front does not go in: 1.6 mm ± 0.2 mm too thick with the pistons home. The ring measures 27.2 mm, its number "
        "says 25.0 mm."
    )
    # By its number alone it fits.
    assert axle["stack"]["opening"]["value_m"] - (axle["ring_stated_m"] + 2 * 0.0165 + 0.0005) == pytest.approx(0.0006)
    kinds = [way["kind"] for way in axle["ways"]]
    assert kinds == ["rotor", "send_back", "caliper"]
    # The way out leads to a set that goes in.
    other = demo.get(f"{hatch}/fit?key={axle['ways'][0]['key']}")
    assert front(other)["stack"]["verdict"] == "fits"
    # Choose says the same, and does not offer it.
    choice = demo.post(f"{hatch}/candidates", {})
    rows = {row["key"]: row for row in [*choice["ranked"], *choice["rejected"]]}
    thick = [row for row in rows.values() if row["front_rotor"] == "Moss 288 slotted"]
    assert {row["rejected_for"] for row in thick} == {"too thick"}
    assert {metric(row["fit"]["text"]) for row in thick} == {"1.6 mm too thick"}
    assert "Fit has the ways out" in metric(rows[fit["key"]]["reason"])
    plain = rows[axle["ways"][0]["key"]]
    assert (plain["fit"]["verdict"], plain["fit"]["axle"]) == ("fits", "front")
    assert demo.post(f"{hatch}/sets/ways-out", {"key": fit["key"]})["ways"] == []


def test_a_way_out_leaves_more_room_than_there_is(demo: Api, hatch: str) -> None:
    demo.patch(hatch, {"changes": {"front.opening_m": 0.0608}})
    axle = front(demo.get(f"{hatch}/fit"))
    assert (axle["stack"]["verdict"], axle["stack"]["room_m"]) == ("tight", pytest.approx(0.0001))
    # Pads of other compounds that are as thick would be no way out.
    kinds = [way["kind"] for way in axle["ways"]]
    assert kinds == ["rotor", "send_back", "caliper"]
    for way in axle["ways"][:1]:
        assert front(demo.get(f"{hatch}/fit?key={way['key']}"))["stack"]["room_m"] > 0.0002


def test_the_last_resort_shows_its_cost(demo: Api, hatch: str) -> None:
    fit = demo.get(f"{hatch}/fit")
    found = demo.get(f"{hatch}/fit/last-resort?axle=front&key={fit['key']}")
    values = found["text"]["values"]
    # 1.6 mm over: 0.8 mm from each pad of 11 mm, changed at its plate's 5.5: 14.5 %.
    assert values["each"] == pytest.approx(0.0008)
    assert values["share"] == pytest.approx(0.0008 / 0.0055)
    life = next(row for row in demo.post(f"{hatch}/candidates", {})["rejected"] if row["key"] == fit["key"])
    # The set lasts as long as its shorter axle, these pads at least as long.
    assert values["events"] >= 0.999 * values["share"] * life["life_events"]
    assert "Most would send the parts back" in metric(found["caution"])
    assert demo.get(f"{hatch}/fit/last-resort?axle=rear&key={fit['key']}")["text"] is None


def test_a_measure_of_a_part_counts_for_every_machine_and_comes_off_again(demo: Api, hatch: str) -> None:
    key = demo.get(f"{hatch}/fit")["key"]
    ask = {"key": key, "axle": "front", "part": "rotor", "name": "thickness_m", "value": None, "seen": 0.0272}
    fit = demo.put(f"{hatch}/part-measure", ask)
    assert front(fit)["stack"]["verdict"] == "fits"
    assert front(fit)["ring_measured_m"] is None
    # Somebody else has seen it otherwise.
    demo.put(f"{hatch}/part-measure", {**ask, "value": 0.026}, status=409)
    kept = demo.put(f"{hatch}/part-measure", {**ask, "value": 0.0251, "seen": None})
    assert front(kept)["ring_measured_m"] == 0.0251
    for wrong, field in (
        ({"value": 25.1, "seen": 0.0251}, "value"),
        ({"name": "vanes", "value": 3}, "name"),
        ({"key": "1-2-3"}, "key"),
        ({"key": f"{key.rpartition('-')[0]}-99999"}, "key"),
    ):
        assert refused(demo, f"{hatch}/part-measure", {**ask, **wrong}) == [field]


def test_what_is_in_the_boxes(demo: Api, hatch: str) -> None:
    axle = front(demo.get(f"{hatch}/fit"))
    lines = {line["name"]: line for line in axle["lines"]}
    assert (lines["tabs.left"]["verdict"], lines["sensors"]["verdict"]) == ("swap", "order")
    box = {"tabs.left": 1, "tabs.right": 1, "rotor.left": "left", "rotor.right": "left", "sensors": 1}
    fit = demo.put(f"{hatch}/box", {"axle": "front", "items": box})
    lines = {line["name"]: line for line in front(fit)["lines"]}
    assert [lines[name]["verdict"] for name in ("tabs.left", "tabs.right", "sensors", "rotor.left", "rotor.right")] == [
        "there",
        "there",
        "there",
        "there",
        "stop",
    ]
    # What arrives twice is one change; what somebody else has counted is not written over.
    demo.put(f"{hatch}/box", {"axle": "front", "items": box})
    clash = {"axle": "front", "items": {"sensors": 2}, "seen": {"sensors": 0}}
    demo.put(f"{hatch}/box", clash, status=409)
    for items in ({"pads": 2.5}, {"wheels": 1}, {"rotor.left": "up"}, {"sensors": 2, "pads": -1}):
        demo.put(f"{hatch}/box", {"axle": "front", "items": items}, status=422)
    lines = {line["name"]: line for line in front(demo.get(f"{hatch}/fit"))["lines"]}
    assert lines["sensors"]["have"] == 1
    # Another set has other boxes; the same one said again keeps its own.
    key = demo.get(f"{hatch}/fit")["key"]
    demo.put(f"{hatch}/intended", {"key": key})
    assert any(line["counted"] for line in front(demo.get(f"{hatch}/fit"))["lines"])
    way = front(demo.get(f"{hatch}/fit"))["ways"][0]["key"]
    other = demo.put(f"{hatch}/intended", {"key": way})
    assert not any(line["counted"] for line in front(other)["lines"])


def test_parts_picked_one_by_one_all_count(demo: Api, hatch: str) -> None:
    """As two quick picks send them: each says its own place, whatever the page knew of the other."""
    demo.put(f"{hatch}/intended", {"key": ""})
    before = demo.get(f"{hatch}/fit")
    front_pads, rear_pads, *rotors = before["key"].split("-")
    picks = {}
    for place, axle, now in (("front_pads", 0, front_pads), ("rear_pads", 1, rear_pads)):
        picks[place] = next(row["key"] for row in before["choices"][axle]["pads"] if row["key"] != now)
        demo.put(f"{hatch}/intended/{place}", {"part": picks[place]})
    after = demo.get(f"{hatch}/fit")
    assert after["key"] == "-".join([picks["front_pads"], picks["rear_pads"], *rotors])
    for place, part, field in (
        ("wheel", "1", "place"),
        ("front_pads", "999999", "part"),
        ("rear_rotors", "1-1", "part"),
    ):
        answer = demo.put(f"{hatch}/intended/{place}", {"part": part}, status=422)
        assert [entry["field"] for entry in answer["fields"]] == [field]
    assert demo.get(f"{hatch}/fit")["key"] == after["key"]


def test_nothing_said_shows_what_is_on(demo: Api, hatch: str) -> None:
    demo.put(f"{hatch}/intended", {"key": ""})
    fit = demo.get(f"{hatch}/fit")
    assert (fit["said"], fit["gone"], fit["verdict"]) == (False, False, "fits")
    assert [axle["is_on"] for axle in fit["axles"]] == [True, True]
    assert metric(front(fit)["headline"]) == "Front stays as it is: these pads on these rings are in there."
    demo.put(f"{hatch}/box", {"axle": "front", "items": {"pads": 4}}, status=409)
    assert refused(demo, f"{hatch}/intended", {"key": "1-1-1-1"}) == ["key"]
    assert demo.get(f"{hatch}/fit?key=9-9-9-9", status=422)["fields"][0]["field"] == "key"
    stages = {row["name"]: row["state"] for row in demo.post(f"{hatch}/verdict", {})["stages"]}
    assert stages["fit"] == "empty"


def test_a_machine_s_own_measures(demo: Api, hatch: str) -> None:
    # The opening is the machine's, kept like any number of it; wider, and the thick ring goes in.
    before = demo.get(hatch)["values"]
    assert (before["front.opening_m"], "rear.reservoir_level" in before) == (0.0591, False)
    demo.call("patch", hatch, {"changes": {"front.opening_m": 0.063}, "seen": {"front.opening_m": 0.0591}})
    assert front(demo.get(f"{hatch}/fit"))["stack"]["verdict"] == "fits"
    for path, value in (("front.opening_m", 0.5), ("front.stud_holes", 4.5), ("front.reservoir_level", 2)):
        demo.call("patch", hatch, {"changes": {path: value}}, status=422)
    # Not known: a bound by what was in there, which never says that parts do not fit.
    demo.call("patch", hatch, {"changes": {"front.opening_m": None}})
    axle = front(demo.get(f"{hatch}/fit"))
    assert (axle["stack"]["opening_bound"], axle["stack"]["verdict"]) == (True, "not known")
    assert "nobody has measured the opening" in metric(axle["headline"])
    assert axle["end"]["travel_m"] is None
    # The level of a full reservoir: what comes back runs over.
    push = axle["push"]
    assert (push["level"], push["school"], push["after"]) == (0.9, "bleed screw", 1)
    twin = demo.get(f"/machines/{demo.machine('Middleweight twin')['id']}")["values"]
    assert "rear.reservoir_level" in twin
