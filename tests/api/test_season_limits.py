"""A season on its very days and by its numbers: what is too late, what was driven, what comes in pairs."""

from __future__ import annotations

import datetime as dt

import pytest

from tests import builders
from tests.api.test_season import day, demo_order, forecast, planned, roadster
from tests.workshop import Api, assert_problem, today
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.fitted.models import PadMounting, PadSet
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.season.actions.orders import ToBuy, save_order
from thermaxis.apps.season.models import Event
from thermaxis.apps.solving.driven import Driving, past_of
from thermaxis.core.errors import FieldError

__all__ = ["roadster"]

pytestmark = pytest.mark.django_db


def test_the_road_to_an_event_is_part_of_what_was_driven(demo: Api, roadster: str, workshop: Workshop) -> None:
    season, km = demo.get(f"{roadster}/season"), demo.get(f"{roadster}/life")["odometer_km"]
    order = demo.post("/orders", {**demo_order(demo, roadster, season), "name": "Track set"}, 201)
    demo.put(f"/orders/{order['id']}/ticked", {"ordered_on": day(-3), "arrived_on": day(0)})
    track = PadSet.objects.of(workshop).latest("pk")
    event = planned(demo, roadster, 0, sessions=2, road_km=50, front_pads_id=track.pk)
    demo.put(f"/events/{event['id']}/driven", {"sessions": 2, "odometer_km": km + 400})
    row = Event.objects.get(pk=event["id"])
    total_km = 2 * row.duty.event_km + 50
    assert PadMounting.objects.get(pad_set=track).from_km == pytest.approx(km + 400 - total_km)
    standing = standing_of(row.machine)
    (drive,) = past_of(standing, track, Driving(standing)).drives
    assert drive.total_km == pytest.approx(total_km)


def test_what_is_still_to_come_was_not_driven_fitted_or_ordered(demo: Api, roadster: str, workshop: Workshop) -> None:
    tomorrow = planned(demo, roadster, 1)
    km = demo.get(f"{roadster}/life")["odometer_km"]
    assert_problem(demo.put(f"/events/{tomorrow['id']}/driven", {"sessions": 1, "odometer_km": km}, 422), 422, "on")
    # A day more than today has come somewhere on earth, two have not.
    fitted = {"places": ["front_pads"], "odometer_km": km}
    demo.put(f"{roadster}/fitted", {**fitted, "on": day(2)}, 422)
    with pytest.raises(FieldError, match="quantity"):
        save_order(builders.owner(workshop), None, ToBuy(name="Pads", quantity=0))


def test_hoses_hold_up_to_the_day_they_are_too_old_and_not_on_it(demo: Api, roadster: str) -> None:
    demo.put(f"{roadster}/hoses", {"axle": "front", "kind": "rubber", "age_months": 119})
    due_on = dt.date.fromisoformat(forecast(demo.get(f"{roadster}/season"), "hoses", "front")["due_on"])
    ahead = (due_on - today()).days
    for days in (ahead - 1, ahead):
        planned(demo, roadster, days)
    chances = forecast(demo.get(f"{roadster}/season"), "hoses", "front")["chances"]
    assert [entry["word"] for entry in chances] == ["survives", "change before"]


def test_a_pair_of_rotors_is_thrown_away_as_two(demo: Api, roadster: str) -> None:
    for i in range(9):
        planned(demo, roadster, 30 + 7 * i, sessions=40)
    season = demo.get(f"{roadster}/season")
    rings = forecast(season, "rings", "front")
    change = next(row for row in season["changes"] if row["key"] == rings["key"])
    assert change["draft"]["quantity"] == 2
    assert change["draft"]["price"] > 0
    left = rings["chances"][change["before"]]["left"]
    assert change["lost"] == pytest.approx(left * 2 * change["draft"]["price"])
