"""Duties put together: distances, energies and shapes against hand-worked numbers."""

from __future__ import annotations

import dataclasses
import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.cases_data import changed, load, plain_case
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.simulate import simulate_one
from thermaxis.core.planning.duty.duties import (
    GEARS,
    ROADS,
    Part,
    Section,
    Week,
    as_trace,
    combined,
    descent_in_sections,
    driving_day,
    with_soak,
)
from thermaxis.core.planning.duty.lap import TRAFFIC_PACE, Lap, session
from thermaxis.core.records import DescentDuty, Stop, StopsDuty, TraceDuty


def way_m(duty: TraceDuty) -> float:
    return float(np.trapezoid(duty.v_mps, duty.t_s))


def pass_down(*sections: Section, engine_N: float = 0.0, parked_s: float = 0.0) -> TraceDuty:
    vehicle = changed(plain_case(), vehicle__engine_braking_N=engine_N).vehicle
    return descent_in_sections(sections, vehicle, None, then_s=parked_s, then_speed_mps=0)


@given(lengths=st.lists(st.floats(400, 4000), min_size=1, max_size=5), speed=st.floats(6, 18), stops=st.integers(0, 2))
def test_sections_are_as_long_as_they_say_and_stop_as_often(lengths: list[float], speed: float, stops: int) -> None:
    duty = pass_down(*(Section(length_m=length, grade=0.08, speed_mps=speed, stops=stops) for length in lengths))
    assert way_m(duty) == pytest.approx(sum(lengths), rel=1e-9)
    at_rest = sum(1 for before, v in zip(duty.v_mps, duty.v_mps[1:], strict=False) if v == 0 and before > 0)
    assert at_rest == stops * len(lengths)
    assert duty.grade is not None
    assert set(np.round(duty.grade, 9)) == {-0.08}


def test_one_section_is_the_steady_descent() -> None:
    duty = pass_down(Section(length_m=4000, grade=0.09, speed_mps=12.5))
    steady = DescentDuty(kind="descent", grade=0.09, speed_mps=12.5, duration_s=320, then_s=0, then_speed_mps=0)
    # Independent: the engine's own descent kind.
    mine, theirs = (simulate_one(changed(plain_case(), duty=entry)) for entry in (duty, steady))
    assert mine.front.peak_surface_C == pytest.approx(theirs.front.peak_surface_C, abs=0.3)
    assert mine.energy_account.friction_J == pytest.approx(theirs.energy_account.friction_J, rel=1e-6)
    # Parked at the bottom, it has been stopped first.
    parked = pass_down(Section(length_m=4000, grade=0.09, speed_mps=12.5), parked_s=600.0)
    assert (parked.v_mps[-1], parked.then_s) == (0.0, 600.0)
    assert way_m(parked) == pytest.approx(4000 + 12.5**2 / (2 * 2.5))


def test_a_lower_gear_takes_its_force_off_the_brakes() -> None:
    # Hand: F_engine 200 N in the usual gear; two lower 2.2 times it, so 240 N less over 2000 m: 480 kJ.
    case = changed(plain_case(), vehicle__engine_braking_N=200.0)
    energies = [
        simulate_one(
            changed(case, duty=pass_down(Section(length_m=2000, grade=0.1, speed_mps=12, gear=gear), engine_N=200.0))
        ).energy_account.friction_J
        for gear in GEARS
    ]
    assert energies[0] - energies[2] == pytest.approx(480e3, rel=5e-3)
    assert energies[0] - energies[1] == pytest.approx(200e3, rel=5e-3)


@pytest.mark.parametrize(
    ("sections", "path"),
    [
        ([Section(length_m=60, grade=0.1, speed_mps=15, stops=3)], "sections[0].stops"),
        (
            [Section(length_m=500, grade=0.1, speed_mps=30), Section(length_m=20, grade=0.1, speed_mps=5)],
            "sections[1].length_m",
        ),
        ([], "sections"),
    ],
)
def test_a_section_too_short_is_named(sections: list[Section], path: str) -> None:
    with pytest.raises(FieldError) as caught:
        pass_down(*sections)
    assert caught.value.path == path


def test_a_week_keeps_its_distance_and_its_brakings() -> None:
    week = Week(town_km=60, rural_km=80, motorway_km=100, days=4)
    day = driving_day(week)
    moving = sum(stop.then_s * stop.then_speed_mps for stop in day.stops)
    assert moving == pytest.approx(1000 * week.km / week.days, rel=1e-9)
    for name, km in (("town", 15), ("rural", 20), ("motorway", 25)):
        for road in ROADS[name]:
            count = sum(1 for stop in day.stops if (stop.from_mps, stop.to_mps) == (road.from_mps, road.to_mps))
            assert count == max(1, round(road.per_km * km))
    # The town is driven first and last, the motorway between.
    assert day.stops[0].from_mps < 14
    assert day.stops[-1].from_mps < 14
    assert max(stop.from_mps for stop in day.stops) == 31.0
    with pytest.raises(FieldError, match="town_km"):
        Week(town_km=0, rural_km=0, motorway_km=0)


def test_stops_as_a_trace_put_the_same_energy_into_the_brakes() -> None:
    stop = Stop(from_mps=25, to_mps=0, decel_mps2=5, then_s=60, then_speed_mps=20)
    duty = StopsDuty(kind="stops", stops=(stop,), repeat=4)
    mine, theirs = (simulate_one(changed(plain_case(), duty=entry)) for entry in (as_trace(duty), duty))
    assert mine.energy_account.friction_J == pytest.approx(theirs.energy_account.friction_J, rel=0.01)
    assert mine.front.peak_surface_C == pytest.approx(theirs.front.peak_surface_C, rel=0.03)


def test_a_day_is_its_parts_one_after_the_other() -> None:
    lap = Lap(
        t_s=np.array([0.0, 20.0, 24.0, 40.0]),
        v_mps=np.array([20.0, 40.0, 15.0, 20.0]),
        grade=np.zeros(3),
        length_m=1000,
        closed=True,
    )
    stint = session(lap, 5, soak_s=100)
    road = StopsDuty(
        kind="stops", stops=(Stop(from_mps=20, to_mps=0, decel_mps2=2, then_s=60, then_speed_mps=20),), repeat=3
    )
    day = combined(
        [Part(duty=road, times=1, gap_s=600), Part(duty=stint, times=2, gap_s=1800), Part(duty=road, times=1, gap_s=0)]
    )
    assert list(np.diff(day.t_s) > 0) == [True] * (len(day.t_s) - 1)
    alone = [
        simulate_one(changed(plain_case(), duty=as_trace(duty))).energy_account.friction_J for duty in (road, stint)
    ]
    whole = simulate_one(changed(plain_case(), duty=day)).energy_account.friction_J
    # Pulling up to park between the parts adds a little and drag takes it.
    assert whole == pytest.approx(2 * alone[0] + 2 * alone[1], rel=0.05)
    assert day.t_s[-1] >= 2 * as_trace(road).t_s[-1] + 2 * as_trace(stint).t_s[-1] + 600 + 2 * 1800
    with pytest.raises(FieldError, match="parts"):
        combined([])


def test_traffic_slows_the_laps_it_says() -> None:
    lap = Lap(
        t_s=np.array([0.0, 20.0, 24.0, 40.0]),
        v_mps=np.array([20.0, 40.0, 15.0, 20.0]),
        grade=np.zeros(3),
        length_m=1000,
        closed=True,
    )
    free, held = session(lap, 8), session(lap, 8, traffic=0.25)
    pit = 20.0 / 3.0
    assert math.isclose(free.t_s[-1], 8 * 40.0 + pit)
    # Two of eight laps take 1/0.9 of the time; going in and out of them takes a little more.
    assert held.t_s[-1] == pytest.approx(6 * 40 + 2 * 40 / TRAFFIC_PACE + pit, abs=8)
    assert sum(1 for v in held.v_mps if v == 40 * TRAFFIC_PACE) == 2
    with pytest.raises(FieldError, match="traffic"):
        session(lap, 8, traffic=1.2)


def test_stops_are_parked_after_the_last_one() -> None:
    rolling = Stop(from_mps=20.0, to_mps=5.0, decel_mps2=3.0, then_s=30.0, then_speed_mps=15.0)
    series = StopsDuty(kind="stops", stops=(rolling,), repeat=3)
    parked = with_soak(series, 600.0)
    assert len(parked.stops) == 4
    assert parked.stops[:3] == (rolling,) * 3
    assert (parked.stops[3].from_mps, parked.stops[3].to_mps, parked.stops[3].then_s) == (15.0, 0.0, 600.0)
    # One that stands already stands longer; no soak asked for changes nothing.
    still = dataclasses.replace(rolling, to_mps=0.0, then_speed_mps=0.0)
    assert [stop.then_s for stop in with_soak(dataclasses.replace(series, stops=(still,)), 600.0).stops] == [
        30,
        30,
        600,
    ]
    assert with_soak(series, 0.0) is series
    # And that is when the fluid is hottest.
    many = dataclasses.replace(series, repeat=20)
    hot, cool = (simulate_one(changed(load("roadster-circuit"), duty=duty)) for duty in (with_soak(many, 900.0), many))
    assert hot.front.peak_fluid_s > cool.duration_s
    assert hot.front.peak_fluid_C > cool.front.peak_fluid_C + 2.0
