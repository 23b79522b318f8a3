"""The workshop's plan: due next over all machines and parts, its calendar, its counts."""

from __future__ import annotations

import datetime as dt

import pytest

from tests.workshop import Api, assert_problem, today

pytestmark = pytest.mark.django_db


def plan(demo: Api, before: int = 30, after: int = 60) -> dict:  # type: ignore[type-arg]
    since, until = (today() + dt.timedelta(days=days) for days in (-before, after))
    found: dict = demo.get(f"/workshop/planner?since={since}&until={until}")  # type: ignore[type-arg]
    return found


def test_everything_due_stands_in_one_list_by_its_day(demo: Api) -> None:
    found = plan(demo)
    days = [item["on"] for item in found["due"]]
    assert days == sorted(days)
    assert {item["kind"] for item in found["due"]} >= {"part", "event", "job", "order", "bed"}
    asked = next(item for item in found["due"] if item["text"]["values"].get("event") == "Club evening")
    assert asked["text"]["template"].startswith("was {event} driven")
    # The fluid of the hatch boils at the final unless it is changed.
    hatch = [item for item in found["due"] if item["machine"] == "Electric hatch" and item["kind"] == "part"]
    assert any(item["text"]["values"]["part"] == "fluid" for item in hatch)
    assert all(0 <= item["sure_share"] <= 1 for item in hatch)


def test_the_counts_of_a_foreman_follow_what_is_done(demo: Api) -> None:
    before = plan(demo)
    orders = demo.get("/orders")
    open_one = next(row for row in orders if row["ordered_on"] is None)
    demo.put(f"/orders/{open_one['id']}/ticked", {"ordered_on": today().isoformat()})
    ordered = plan(demo)
    assert ordered["to_order"] == before["to_order"] - 1
    assert ordered["parts_waiting"] == before["parts_waiting"] + 1
    demo.put(f"/orders/{open_one['id']}/ticked", {"arrived_on": today().isoformat()})
    assert plan(demo)["parts_waiting"] == before["parts_waiting"]
    assert before["open_jobs"] == sum(
        item["kind"] == "job" and "open" in item["text"]["template"] for item in before["due"]
    )
    assert before["due_soon"] == sum(
        item["on"] <= (today() + dt.timedelta(days=14)).isoformat() and item["state"] != "fine"
        for item in before["due"]
    )


def test_events_that_are_over_stand_in_their_days(demo: Api) -> None:
    found = plan(demo, before=99, after=0)
    assert found["over"] == []
    since, until = (today() - dt.timedelta(days=days) for days in (200, 140))
    past = demo.get(f"/workshop/planner?since={since}&until={until}")["over"]
    assert [(row["name"], row["driven"]) for row in past] == [("Test evening", True), ("Relay, final", True)]
    assert_problem(demo.get("/workshop/planner?since=2026-01-01&until=2027-01-01", 422), 422, "until")


def test_owners_and_their_machines(demo: Api) -> None:
    owners = {row["name"]: row["machines"] for row in demo.get("/owners")}
    assert sum(owners.values()) == 5
    van = demo.machine("Parcel van")
    demo.put(f"/machines/{van['id']}/owner", {"owner": "N. Fellside"})
    assert {row["name"]: row["machines"] for row in demo.get("/owners")}["N. Fellside"] == 1
