"""Ruler and scales: each method against a hand-worked example, and what cannot be."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.cases_data import plain_case
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.balance import axle_loads
from thermaxis.core.planning.explain.why import scaled
from thermaxis.core.planning.machine.measuring import METHODS, work_out

# Hand: a 1000 kg car, 600 kg in front, CG 0.5 m up, hubs 0.3 m up, wheelbase 2.5 m, rear lifted 0.5 m:
# tan(asin 0.2) = 0.204124, so 1000 * 0.2 * 0.204124 / 2.5 = 16.33 kg move to the front.
LIFT = {"mass_kg": 1000, "level_kg": 600, "lifted_kg": 616.33, "lift_m": 0.5, "wheelbase_m": 2.5, "wheel_radius_m": 0.3}
EXAMPLES: dict[str, tuple[dict[str, float], dict[str, float]]] = {
    "corner_scales": (
        {"front_left_kg": 190, "front_right_kg": 176, "rear_left_kg": 170, "rear_right_kg": 154},
        {"mass_kg": 690, "front_fraction": 366 / 690},
    ),
    "roll_out": ({"distance_m": 5.655, "turns": 3}, {"wheel_radius_m": 0.3000}),
    "lifted_axle": (LIFT, {"cg_height_m": 0.5}),
    "pedal_lever": ({"foot_m": 0.24, "rod_m": 0.05}, {"pedal_ratio": 4.8}),
    # Hand: A = pi (0.14^2 - 0.092^2) = 0.034985 m2, vanes 36 * 0.0055 * 0.048 = 0.009504 m2; 4.0 kg of ring are 5.5556e-4 m3,
    # so w = (0.034985 * 0.025 - 5.5556e-4)/(0.034985 - 0.009504) = 12.52 mm.
    "weighed_rotor": (
        {
            "mass_kg": 5.0,
            "hat_kg": 1.0,
            "outer_radius_m": 0.14,
            "inner_radius_m": 0.092,
            "thickness_m": 0.025,
            "vanes": 36,
            "vane_thickness_m": 0.0055,
        },
        {"gap_m": 0.012522},
    ),
    "pistons": ({"first_m": 0.038, "second_m": 0.042}, {"piston_area_m2": math.pi / 4 * (0.038**2 + 0.042**2)}),
}


@pytest.mark.parametrize("method", METHODS)
def test_each_name_reaches_its_own_method_and_its_hand_worked_value(method: str) -> None:
    numbers, wanted = EXAMPLES[method]
    assert work_out(method, numbers) == pytest.approx(wanted, rel=2e-4)


@given(height=st.floats(0.35, 1.2), share=st.floats(0.2, 0.8), radius=st.floats(0.2, 0.34), lift=st.floats(0.3, 1.0))
def test_the_lift_finds_the_height_that_moved_the_weight(
    height: float, share: float, radius: float, lift: float
) -> None:
    # Independent: the ground tilted under the car; weight's line of action through the CG, moments about the lower hub.
    mass, wheelbase = 1400.0, 2.6
    angle = math.asin(lift / wheelbase)
    along = (1 - share) * wheelbase * math.cos(angle) - (height - radius) * math.sin(angle)
    front = mass * (1.0 - along / (wheelbase * math.cos(angle)))
    found = work_out(
        "lifted_axle",
        {
            "mass_kg": mass,
            "level_kg": mass * share,
            "lifted_kg": front,
            "lift_m": lift,
            "wheelbase_m": wheelbase,
            "wheel_radius_m": radius,
        },
    )
    assert found["cg_height_m"] == pytest.approx(height, rel=1e-9)


def test_load_transfer_against_hand_worked_numbers() -> None:
    # Hand: 1100 kg, 60 % in front, h/L = 0.52/2.5; at 0.8 g 1100 * 9.80665 * 0.8 * 0.208 = 1795.0 N move forward.
    front, rear = axle_loads(plain_case(), 0.8)
    assert front == pytest.approx(0.6 * 1100 * 9.80665 + 1795.0, abs=0.1)
    assert rear == pytest.approx(0.4 * 1100 * 9.80665 - 1795.0, abs=0.1)
    taller = scaled(plain_case(), "vehicle.cg_height_m", 1.1)
    assert axle_loads(taller, 0.8)[0] - front == pytest.approx(179.5, abs=0.1)


@pytest.mark.parametrize(
    ("method", "changes", "path"),
    [
        ("tape", {}, "method"),
        ("roll_out", {"turns": 0.5}, "turns"),
        ("roll_out", {"girth_m": 2.0}, "girth_m"),
        ("roll_out", {"distance_m": None}, "distance_m"),
        ("lifted_axle", {"lifted_kg": 590}, "lifted_kg"),
        ("lifted_axle", {"level_kg": 1000}, "level_kg"),
        ("lifted_axle", {"lift_m": 2.4}, "lift_m"),
        ("corner_scales", {"front_left_kg": 0, "front_right_kg": 0}, "front_left_kg"),
        ("pedal_lever", {"rod_m": 0}, "rod_m"),
        ("pistons", {"third_m": 0.2}, "third_m"),
        ("weighed_rotor", {"mass_kg": 9.0}, "mass_kg"),
        ("weighed_rotor", {"hat_kg": 5.0}, "hat_kg"),
        ("weighed_rotor", {"inner_radius_m": 0.15}, "inner_radius_m"),
    ],
)
def test_what_cannot_be_is_named(method: str, changes: dict[str, float | None], path: str) -> None:
    with pytest.raises(FieldError) as caught:
        work_out(method, {**EXAMPLES.get(method, ({}, {}))[0], **changes})
    assert caught.value.path == path


def test_a_missing_number_is_asked_for() -> None:
    with pytest.raises(FieldError, match="turns"):
        work_out("roll_out", {"distance_m": 2.0})
