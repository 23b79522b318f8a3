"""The point-mass lap: analytic circuits, driver levels, sessions."""

from __future__ import annotations

import math

import numpy as np
import pytest

from tests.cases_data import changed, plain_case
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.resistance import GRAVITY
from thermaxis.core.planning.duty.lap import DRIVER_LEVELS, Element, Lap, Powertrain, drive_lap, session
from thermaxis.core.records import Vehicle

ENGINE = Powertrain(power_W=90000, driven="both", top_speed_mps=55)
AIR = plain_case().environment


def vehicle(**changes: object) -> Vehicle:
    edits = {f"vehicle__{name}": value for name, value in changes.items()}
    return changed(plain_case(), **edits).vehicle


def oval(
    level: str = "intermediate", machine: Vehicle | None = None, straight: float = 300.0, radius: float = 30.0
) -> Lap:
    half = math.pi * radius
    elements = (
        Element(length_m=straight),
        Element(length_m=half, radius_m=radius),
        Element(length_m=straight),
        Element(length_m=half, radius_m=radius),
    )
    return drive_lap(elements, machine or vehicle(), ENGINE, level, AIR, closed=True)


def test_corner_speed_is_the_root_of_the_grip_used() -> None:
    lap = oval()
    wanted = math.sqrt(0.90 * 0.95 * GRAVITY * 30.0)
    assert lap.v_mps.min() == pytest.approx(wanted, rel=1e-9)


def test_two_corner_circuit_with_traction_only_against_the_closed_form() -> None:
    # Hand: no drag, no rolling, unlimited power: constant acceleration a and braking b between equal corners;
    # the straight's top speed obeys (V^2 - v^2)/(2a) + (V^2 - v^2)/(2b) = L.
    machine = vehicle(drag_area_m2=0.0, rolling_coefficient=0.0, rotating_mass_factor=1.0)
    engine = Powertrain(power_W=2e6, driven="both", top_speed_mps=150)
    half = math.pi * 30.0
    elements = tuple(Element(length_m=n, radius_m=r) for n, r in ((300, None), (half, 30), (300, None), (half, 30)))
    lap = drive_lap(elements, machine, engine, "intermediate", AIR, closed=True)
    driver = DRIVER_LEVELS["intermediate"]
    a, b = driver.traction * 0.95 * GRAVITY, driver.braking * 0.95 * GRAVITY
    corner = math.sqrt(driver.cornering * 0.95 * GRAVITY * 30.0)
    top = math.sqrt(corner**2 + 2 * 300 / (1 / a + 1 / b))
    time = 2 * ((top - corner) / a + (top - corner) / b + half / corner)
    assert lap.v_mps.max() == pytest.approx(top, rel=0.01)
    assert lap.duration_s == pytest.approx(time, rel=0.005)


def test_a_closed_lap_ends_as_it_starts_and_keeps_its_length() -> None:
    lap = oval()
    assert lap.v_mps[-1] == lap.v_mps[0]
    assert (np.diff(lap.t_s) > 0).all()
    driven = float(np.sum((lap.v_mps[1:] + lap.v_mps[:-1]) / 2 * np.diff(lap.t_s)))
    assert driven == pytest.approx(lap.length_m, rel=0.005)
    assert lap.length_m == pytest.approx(2 * (300 + math.pi * 30))


def test_a_faster_group_laps_faster_and_brakes_harder() -> None:
    laps = [oval(level) for level in ("novice", "intermediate", "advanced")]
    times = [lap.duration_s for lap in laps]
    hardest = [float(np.max(-np.diff(lap.v_mps) / np.diff(lap.t_s))) for lap in laps]
    assert times == sorted(times, reverse=True)
    assert hardest == sorted(hardest)
    assert hardest[2] == pytest.approx(0.92 * 0.95 * GRAVITY, rel=0.02)


def test_braking_never_passes_nine_tenths_of_rear_lift() -> None:
    tall = vehicle(cg_height_m=1.5, tyre_grip=1.2)
    lap = oval("advanced", tall)
    lift = 0.4 * 2.5 / 1.5
    hardest = float(np.max(-np.diff(lap.v_mps) / np.diff(lap.t_s)))
    assert hardest == pytest.approx(0.9 * lift * GRAVITY, rel=0.02)


def test_an_open_run_starts_from_rest_and_a_climb_is_slower() -> None:
    flat = drive_lap((Element(length_m=500),), vehicle(), ENGINE, "novice", AIR, closed=False)
    climb = drive_lap((Element(length_m=500, grade=0.15),), vehicle(), ENGINE, "novice", AIR, closed=False)
    assert flat.v_mps[0] < 1.0
    assert climb.duration_s > flat.duration_s
    assert set(climb.grade) == {0.15}


def test_an_open_run_ends_as_fast_as_it_can_whatever_it_began_with() -> None:
    corner, straight = Element(length_m=20, radius_m=10), Element(length_m=300)
    out = drive_lap((corner, straight), vehicle(), ENGINE, "novice", AIR, closed=False)
    assert out.v_mps[-1] == out.v_mps.max() > 2 * math.sqrt(0.8 * 0.95 * GRAVITY * 10)
    back = drive_lap((straight, corner), vehicle(), ENGINE, "novice", AIR, closed=False)
    assert back.v_mps[-1] == pytest.approx(math.sqrt(0.8 * 0.95 * GRAVITY * 10))


def test_top_speed_holds() -> None:
    assert oval(straight=5000.0).v_mps.max() <= 55.0


def test_a_session_repeats_cools_and_pauses() -> None:
    lap = oval()
    duty = session(lap, 5, cool_down_laps=1, soak_s=600)
    easing = 0.4 * lap.v_mps[-1] / 2.0
    parking = 0.6 * lap.v_mps[-1] / 3.0
    assert duty.t_s[-1] == pytest.approx(5 * lap.duration_s + easing + lap.duration_s / 0.6 + parking)
    assert duty.then_s == 600
    assert duty.grade is not None
    assert len(duty.grade) == len(duty.t_s) - 1
    # The last stop, into the pit, is driven: its energy is in the ring before it stands there.
    assert duty.v_mps[-1] == 0.0
    assert duty.v_mps[-2] == pytest.approx(0.6 * lap.v_mps[-1])


def test_between_the_runs_of_a_course_it_is_driven_back_and_then_stands() -> None:
    # 400 m up a tenth: back at 10 m/s is 40 s, downhill now; the rest of five minutes it stands.
    hill = drive_lap((Element(length_m=400, grade=0.1),), vehicle(), ENGINE, "novice", AIR, closed=False)
    duty = session(hill, 3, pause_s=300)
    assert duty.grade is not None
    steps = [
        (after - before, (low + high) / 2, grade)
        for before, after, low, high, grade in zip(
            duty.t_s, duty.t_s[1:], duty.v_mps, duty.v_mps[1:], duty.grade, strict=False
        )
    ]
    down = math.fsum(seconds * speed for seconds, speed, grade in steps if grade < 0)
    assert down == pytest.approx(2 * hill.length_m, rel=5e-3)
    assert max(speed for _, speed, grade in steps if grade < 0) == pytest.approx(10.0)
    standing = math.fsum(seconds for seconds, speed, _ in steps if speed == 0)
    slowing = (hill.v_mps[-1] - 10.0) / 3.0 + 10.0 / 3.0
    assert standing == pytest.approx(2 * (300 - 40.0 - slowing), abs=1.0)
    assert duty.t_s[-1] == pytest.approx(3 * hill.duration_s + 600 + hill.v_mps[-1] / 3.0, abs=3.0)
    # A pit stop between laps of a circuit needs no way back.
    pit = session(oval(), 2, pause_s=60)
    assert 0.0 in pit.v_mps[1:-1]
    with pytest.raises(FieldError, match="pause_s") as caught:
        session(hill, 3, pause_s=30)
    assert "way back" in str(caught.value)


@pytest.mark.parametrize(
    ("call", "path"),
    [
        (lambda: oval("racing"), "driver_level"),
        (lambda: drive_lap((), vehicle(), ENGINE, "novice", AIR, closed=True), "elements"),
        (lambda: session(oval(), 0), "laps"),
        (lambda: Element(length_m=-4), "length_m"),
        (lambda: Powertrain(power_W=1, driven="none", top_speed_mps=30), "driven"),
    ],
)
def test_what_cannot_be_driven_names_its_field(call: object, path: str) -> None:
    with pytest.raises(FieldError) as caught:
        call()  # type: ignore[operator]
    assert caught.value.path == path
