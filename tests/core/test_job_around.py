"""Around a job: bleeding, points on which mechanics disagree, time and cost."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from thermaxis.core.errors import FieldError
from thermaxis.core.planning.job.bleeding import Corner, bleeding, line_length_m, order_of
from thermaxis.core.planning.job.schools import options, taken
from thermaxis.core.planning.job.timing import expected_s, own_cost, per_distance, per_hour, step_seconds


def test_bleeding_by_hand() -> None:
    # 20 mm of a 20 mm bore: 6.283 ml a stroke. A line of 5 m is 40 ml, 25 cm2 half out 10 mm are 25 ml, 8 ml dead.
    corner = Corner(name="rear_left", line_m=5.0, piston_area_m2=25e-4, out_m=0.010)
    assert corner.volume_m3 == pytest.approx(73e-6)
    found = bleeding([corner], master_bore_m=0.02, stroke_m=0.02, reservoir_m3=80e-6)
    assert found.stroke_m3 == pytest.approx(6.2832e-6, rel=1e-4)
    # 1.5 x 73 = 109.5 ml are 17.4 strokes; two thirds of 80 ml are 8.5.
    assert (found.corners[0].strokes, found.refill_after) == (18, 8)
    assert found.buy_m3 == pytest.approx(18 * 6.2832e-6 + 100e-6, rel=1e-4)
    with pytest.raises(FieldError, match="reservoir_m3"):
        bleeding([corner], master_bore_m=0.02, stroke_m=0.02, reservoir_m3=8e-6)
    four = ("front_left", "front_right", "rear_left", "rear_right")
    assert order_of(four, said=(), driver_right=True, motorcycle=False) == (
        "rear_left",
        "rear_right",
        "front_left",
        "front_right",
    )
    assert order_of(four, said=(), driver_right=False, motorcycle=False)[0] == "rear_right"
    said = ("front_right", "rear_left", "rear_right", "front_left")
    assert order_of(four, said=said, driver_right=True, motorcycle=False) == said
    assert order_of(four[:2], said=said, driver_right=True, motorcycle=False) == ("front_right", "front_left")
    assert order_of(("front_left", "rear"), said=(), driver_right=True, motorcycle=True)[0] == "front_left"
    lengths = [
        line_length_m(name, 2.6, driver_right=True) for name in ("rear_left", "rear_right", "front_left", "front_right")
    ]
    assert lengths == sorted(lengths, reverse=True)


@given(st.floats(0.012, 0.03), st.floats(0.005, 0.03), st.floats(3e-5, 3e-4), st.floats(0.5, 8.0))
def test_the_reservoir_never_runs_dry(bore: float, stroke: float, reservoir: float, line: float) -> None:
    corner = Corner(name="front_left", line_m=line, piston_area_m2=2e-3, out_m=0.01)
    try:
        found = bleeding([corner], master_bore_m=bore, stroke_m=stroke, reservoir_m3=reservoir)
    except FieldError:
        assert math.pi / 4 * bore**2 * stroke > (2 / 3) * reservoir - 1e-12
        return
    assert reservoir - found.refill_after * found.stroke_m3 >= reservoir / 3 - 1e-9
    assert found.corners[0].strokes * found.stroke_m3 >= 1.5 * corner.volume_m3 - 1e-9
    assert (found.corners[0].strokes - 1) * found.stroke_m3 < 1.5 * corner.volume_m3


def test_schools() -> None:
    assert taken("pins", "", oiled=False).option == "silicone"
    assert (taken("wash", "", oiled=True).option, taken("wash", "", oiled=False).option) == ("wash", "wipe")
    assert taken("hub", "dry", oiled=False).option == "dry"
    assert all(sum(entry.default for entry in entries) == (point != "wash") for point, entries in options().items())
    for point, option in (("hub", "paint"), ("paint", "dry")):
        with pytest.raises((FieldError, KeyError)):
            taken(point, option, oiled=False)


def test_time_and_cost() -> None:
    assert step_seconds(0.0, [60.0, 50.0, 4000.0]) == [60.0, 0.0, 600.0]
    assert expected_s(3600.0, [5000.0, 6000.0]) == 3600.0
    assert expected_s(3600.0, [5000.0, 6000.0, 9000.0]) == 6000.0
    assert own_cost(120.0, 8.0, 5400.0, 40.0) == pytest.approx(188.0)
    assert own_cost(120.0, 8.0, 5400.0, 0.0) == 128.0
    assert per_distance(188.0, 20.0, 150.0) == pytest.approx(62.667, abs=1e-3)
    assert per_hour(188.0, 20.0, 1.5) == pytest.approx(6.267, abs=1e-3)
    assert (per_distance(1.0, 0.0, 9.0), per_hour(1.0, 2.0, 0.0)) == (None, None)
