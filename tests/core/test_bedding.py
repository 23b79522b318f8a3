"""Bedding in: a plan that ends in the window, and what it says where it cannot."""

from __future__ import annotations

import dataclasses
import re

import pytest

from tests.cases_data import plain_case
from tests.said import metric
from thermaxis.core.physics.simulate import simulate_one
from thermaxis.core.planning.bedding.plan import BeddingOrder, plan_bedding

ORDER = BeddingOrder(top_speed_mps=28.0, window_low_C=200.0, window_high_C=400.0)


def test_the_plan_ends_in_the_window_and_never_passes_it() -> None:
    case = plain_case()
    plan = plan_bedding(case, ORDER)
    assert plan.reached
    assert all(stop.front_C >= 200.0 for stop in plan.stops[-3:])
    assert plan.stops[-4].front_C < 200.0 or len(plan.stops) == ORDER.moderate_stops + 3
    assert max(plan.peak_front_C, plan.peak_rear_C) <= 400.0
    assert all(stop.to_mps > 2.0 for stop in plan.stops)
    # Independent of the plan's own bookkeeping: its duty, simulated again, gives the same temperatures.
    again = simulate_one(dataclasses.replace(case, duty=plan.duty))
    assert [stop.front_bulk_C for stop in again.stops] == pytest.approx([stop.front_C for stop in plan.stops])
    assert again.front.end_bulk_C <= 101.0


def test_a_road_too_slow_says_how_far_short_it_is() -> None:
    plan = plan_bedding(
        plain_case(), dataclasses.replace(ORDER, top_speed_mps=11.0, window_low_C=380, window_high_C=500)
    )
    assert not plan.reached
    hottest = max(stop.front_C for stop in plan.stops)
    assert f"{hottest:.0f} °C" in metric(plan.text)
    assert f"{380 - hottest:.0f} K short" in metric(plan.text)
    assert "closed course" in metric(plan.text)
    # What it says would do, does; and it names the least of the steps it tries.
    match = re.search(r"From (\d+) km/h it would be reached", metric(plan.text))
    assert match
    faster = dataclasses.replace(ORDER, top_speed_mps=int(match[1]) / 3.6, window_low_C=380, window_high_C=700)
    assert plan_bedding(plain_case(), faster).reached
    slower = dataclasses.replace(faster, top_speed_mps=faster.top_speed_mps - 10 / 3.6)
    assert not plan_bedding(plain_case(), slower).reached


def test_a_narrow_window_gets_longer_gaps() -> None:
    wide = plan_bedding(plain_case(), ORDER)
    narrow = plan_bedding(plain_case(), dataclasses.replace(ORDER, window_low_C=170, window_high_C=225))
    assert narrow.gap_s > wide.gap_s or not narrow.reached
    assert narrow.peak_front_C <= 225


def test_a_rear_that_stays_cold_is_said() -> None:
    case = plain_case(hydraulics__rear_knee_Pa=2e5, hydraulics__rear_slope=0.05)
    plan = plan_bedding(case, ORDER)
    assert not plan.rear_reached
    assert "rear only reaches" in metric(plan.text)
