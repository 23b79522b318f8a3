"""Friction from one's own brakings: the inverse of the torque chain, and how readings lie to a curve."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.cases_data import changed, plain_case
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.balance import statics
from thermaxis.core.physics.friction import friction_coefficient
from thermaxis.core.planning.choice.own_friction import READING_SIGMA, Braking, friction_from_braking, own_friction
from thermaxis.core.records import Statics

CURVE = ((0.0, 0.30), (200.0, 0.42), (600.0, 0.36))


@given(mu=st.floats(0.15, 0.7), pedal=st.floats(60, 400), knee=st.none() | st.floats(5e5, 4e6))
def test_it_gives_back_the_friction_that_made_the_braking(mu: float, pedal: float, knee: float | None) -> None:
    case = plain_case(hydraulics__rear_knee_Pa=knee, hydraulics__max_pedal_force_N=500.0)
    case = changed(case, front__pad__mu=((0.0, mu),), rear__pad__mu=((0.0, mu),))
    # Drag and rolling taken out: statics know the brakes alone.
    bare = changed(
        case,
        vehicle__drag_area_m2=0.0,
        vehicle__rolling_coefficient=0.0,
        vehicle__engine_braking_N=0.0,
        vehicle__rotating_mass_factor=1.0,
    )
    g = statics(bare, Statics(pedal_force_N=pedal, rotor_C=200.0)).decel_g
    decel = g * 9.80665
    if not 0.31 < decel < 15:
        return
    found = friction_from_braking(
        changed(bare, front__pad__mu=((0.0, 0.33),), rear__pad__mu=((0.0, 0.33),)),
        Braking(pedal_N=pedal, decel_mps2=decel, speed_mps=15),
    )
    assert found == pytest.approx(mu, rel=1e-9)


def test_what_slows_the_vehicle_anyway_is_not_the_pads() -> None:
    case = plain_case()
    slow = friction_from_braking(case, Braking(pedal_N=150, decel_mps2=5, speed_mps=10))
    fast = friction_from_braking(case, Braking(pedal_N=150, decel_mps2=5, speed_mps=50))
    assert fast < slow
    dragging = changed(case, vehicle__engine_braking_N=2000.0)
    with pytest.raises(FieldError, match="which drag and engine do alone"):
        friction_from_braking(dragging, Braking(pedal_N=150, decel_mps2=0.4, speed_mps=60))
    with pytest.raises(FieldError, match="pedal_N"):
        Braking(pedal_N=0, decel_mps2=5, speed_mps=10)


def test_readings_beside_a_curve_by_hand() -> None:
    exact = own_friction([(0.0, 0.30), (600.0, 0.36)], CURVE)
    assert exact.ratio == pytest.approx(1.0)
    assert exact.count == 2
    assert exact.sigma == pytest.approx(READING_SIGMA / math.sqrt(2))
    low = own_friction([(200.0, 0.42 * 0.9), (300.0, friction_coefficient(300.0, CURVE) * 0.9)], CURVE)
    assert low.ratio == pytest.approx(0.9)
    wild = own_friction([(200.0, 0.42 * 0.8), (200.0, 0.42 * 1.25)], CURVE)
    assert wild.ratio == pytest.approx(1.0)
    assert wild.sigma == pytest.approx(math.log(1.25))
    assert own_friction([], CURVE).ratio == 1.0
    with pytest.raises(FieldError, match=r"readings\[0\]"):
        own_friction([(20.0, 0.0)], CURVE)
