"""Stand-ins for gauge and pyrometer: the wheel stays the same, the hand does not, and what they hide can be found."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.cases_data import load
from tests.core.test_inspection import CAR
from thermaxis.core.errors import FieldError
from thermaxis.core.planning.duty.calibrate import Pyrometer, calibrate, predicted_C
from thermaxis.core.planning.inspection.sheet import assess
from thermaxis.devices.gauge import STACK_M, GaugeSettings, StandInGauge
from thermaxis.devices.parts_counter import StandInCounter
from thermaxis.devices.pyrometer import PyrometerSettings, StandInPyrometer
from thermaxis.devices.service_tool import FAULTS, StandInTool, ToolSettings
from thermaxis.devices.torque_wrench import STORIES, StandInWrench

LEFT = {"front": 0.008, "rear": 0.009}
CELLS = [
    f"{wheel.name}.{cell}"
    for wheel in CAR
    for cell in ("pad_inner_1", "pad_outer_1", "rotor_1", "rotor_2", "rotor_3", "runout")
]


def gauge(seed: int = 1, **settings: object) -> StandInGauge:
    return StandInGauge(CAR, LEFT, GaugeSettings(**settings), seed)  # type: ignore[arg-type]


@pytest.mark.parametrize("cell", CELLS)
def test_scatter_is_what_it_says_and_the_wheel_does_not_change(cell: str) -> None:
    # 200 hands: their mean is the wheel's thickness to a few sigma of the mean and the rounding, 0.3 micrometres.
    readings = np.array([float(gauge(seed, scatter_m=2e-5).read(cell)) for seed in range(200)])
    steady = np.array([float(gauge(seed, scatter_m=0.0).read(cell)) for seed in range(5)])
    assert np.ptp(steady) == 0.0
    assert readings.mean() == pytest.approx(steady[0], abs=0.012)
    assert 0.012 < readings.std() < 0.030


@given(seed=st.integers(0, 2**31), cell=st.sampled_from(CELLS))
def test_inches_are_the_same_wheel(seed: int, cell: str) -> None:
    millimetres = float(gauge(seed, scatter_m=0.0).read(cell))
    inches = float(gauge(seed, scatter_m=0.0, unit="in").read(cell))
    assert inches * 25.4 == pytest.approx(millimetres, abs=0.002)


def test_each_story_leads_to_its_verdict() -> None:
    def sheet(story: str) -> dict[str, float]:
        held = gauge(4, story=story)
        return {name: float(held.read(name)) / 1e3 for name in [*CELLS, "washers"]}

    even = {name: value for name, value in sheet("even").items() if name != "washers"}
    assert {ruling.state for ruling in assess(CAR, even).rulings} == {"fine"}
    stuck = {name: value for name, value in sheet("stuck pin").items() if name != "washers"}
    found = assess(CAR, stuck)
    assert "front_left.inner and outer" in [ruling.subject for ruling in found.rulings]
    assert found.diagnosis is not None
    assert found.diagnosis.causes[0].name == "slide_pins"
    # Over the washers the lip is stepped past: without taking them off every rotor would be thicker than new.
    lip = sheet("worn lip")
    assert lip["washers"] == pytest.approx(STACK_M, abs=2e-5)
    assert all(lip[f"{wheel.name}.rotor_1"] > wheel.rotor.new_m for wheel in CAR)
    worn = assess(CAR, lip)
    assert all(report.least_m < wheel.rotor.new_m for wheel, report in zip(CAR, worn.rotors.values(), strict=True))


@pytest.mark.parametrize("cell", ["note", "front_left.pins", "middle.rotor_1", "rotor_1", ""])
def test_what_no_gauge_reaches_is_named(cell: str) -> None:
    with pytest.raises(FieldError, match="a pad, a rotor point"):
        gauge().read(cell)


def test_settings_of_a_stand_in_are_checked() -> None:
    with pytest.raises(FieldError, match="'story' must be one of"):
        GaugeSettings(story="rain")
    with pytest.raises(FieldError, match="cooling_factor"):
        PyrometerSettings(cooling_factor=9.0)


@pytest.mark.parametrize("hidden", [0.8, 1.0, 1.3])
def test_the_cooling_a_pyrometer_hides_is_found_by_the_fit(hidden: float) -> None:
    case = load("roadster-circuit")
    held = StandInPyrometer(case, PyrometerSettings(cooling_factor=hidden, scatter_K=3.0), seed=2)
    evidence = [
        Pyrometer(axle="front", value_C=held.read_C("front", since, 10.0), since_s=since, speed_mps=10.0)
        for since in (45.0, 120.0, 240.0, 400.0)
    ]
    found = calibrate(case, evidence)
    assert found.front is not None
    assert found.front.cooling == pytest.approx(hidden, rel=0.12)
    assert not any(entry.suspect for entry in found.residuals)


def test_without_scatter_the_pyrometer_reads_the_model_and_cools() -> None:
    case = load("roadster-circuit")
    held = StandInPyrometer(case, PyrometerSettings(cooling_factor=1.0, scatter_K=0.0), seed=1)
    times = (10.0, 100.0, 1000.0)
    readings = [held.read_C("rear", since, 0.0) for since in times]
    asked = [Pyrometer(axle="rear", value_C=0.0, since_s=since, speed_mps=0.0) for since in times]
    assert readings == pytest.approx(predicted_C(case, asked), abs=0.5)
    assert readings == sorted(readings, reverse=True)
    assert readings[-1] > case.environment.air_C


# --- the parts counter -------------------------------------------------------------------------------------------------


def test_the_counter_answers_the_same_for_the_same_part_and_within_its_bounds() -> None:
    counter = StandInCounter()
    offers = [counter.ask(f"Part {i}", 100.0) for i in range(200)]
    assert counter.ask("Part 7", 100.0) == offers[7]
    assert all(
        90.0 <= offer.price <= 110.0 and 0 <= offer.in_stock <= 6 and 2 <= offer.lead_days <= 35 for offer in offers
    )
    assert len({offer.in_stock for offer in offers}) > 3
    assert StandInCounter(seed=1).ask("Part 7", 100.0) != offers[7]
    with pytest.raises(FieldError, match="name"):
        counter.ask("", 1.0)


@pytest.mark.parametrize("seed", [1, 2, 3, 40])
def test_the_service_tool_goes_one_way_and_a_fault_never_moves_it_on(seed: int) -> None:
    tool = StandInTool(ToolSettings(), seed, ("left",))
    state, took = "", 0.0
    for action, wanted in (("connect", "connected"), ("release", "released"), ("home", "home"), ("leave", "learned")):
        answer = tool.ask(action, state)
        assert (answer.done, answer.state) == (True, wanted)
        state, took = answer.state, took + answer.took_s
    assert 12 <= took <= 20
    assert tool.ask("sensors", state).sensors == ("left",)
    for fault in FAULTS[1:]:
        broken = StandInTool(ToolSettings(fault=fault), seed)
        for action in ("connect", "release", "home", "leave"):
            for before in ("", "connected", "released", "home"):
                answer = broken.ask(action, before)
                # The motor stalls only where it turns.
                assert answer.state == before or (fault == "stall" and action in ("connect", "release"))
                assert answer.text.template
    assert not StandInTool(ToolSettings(volts=12.1), seed).ask("connect", "").done
    assert StandInTool(ToolSettings(volts=12.2), seed).ask("connect", "").done


def test_the_wrench_s_hand_is_within_the_tolerance_or_plainly_out_of_it() -> None:
    for seed in range(200):
        peaks = {story: StandInWrench(story, seed).peak_Nm(80.0) for story in STORIES}
        assert abs(peaks["good"] / 80 - 1) < 0.05
        assert peaks["over"] > 80 * 1.05
        assert peaks["under"] < 80 * 0.95
