"""How long pads last: division, measurements against the computed wear, schools of the change."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from thermaxis.core.errors import FieldError
from thermaxis.core.planning.life import intervals


@given(thickness=st.floats(3.5, 12.0), rate=st.floats(0.001, 0.5), sigma=st.floats(0.0, 0.5))
def test_life_by_division_inside_its_band(thickness: float, rate: float, sigma: float) -> None:
    left = intervals.remaining(thickness, 3.0, rate, intervals.WearScale(median=1.0, sigma=sigma))
    assert left.events == pytest.approx((thickness - 3.0) / rate)
    assert left.events_p10 < left.events < left.events_p90


def test_a_worn_pad_is_due_and_one_that_does_not_wear_is_not() -> None:
    scale = intervals.WearScale(median=1.0, sigma=0.3)
    assert intervals.remaining(2.0, 3.0, 0.1, scale).events == 0.0
    assert intervals.remaining(9.0, 3.0, 0.0, scale).events == 99999.0


def test_a_measurement_moves_the_scale_by_its_weight() -> None:
    # Hand, to first order in ln s: 4 mm worn where 3 mm was computed is x = ln 1.333 with error hypot(0.15, 0.2)/4 =
    # 0.0625; against the prior 0.35 it weighs 0.35^2/(0.35^2 + 0.0625^2) = 0.969: 1.333^0.969 = 1.322, sigma
    # 0.35 sqrt(0.031) = 0.0615.
    scale = intervals.wear_scale([3.0], [7.0], 11.0)
    assert scale.median == pytest.approx(1.322, rel=0.01)
    assert scale.sigma == pytest.approx(0.0615, rel=0.05)
    assert intervals.wear_scale([], [], 11.0) == intervals.WearScale(median=1.0, sigma=0.35)


def test_all_measurements_of_a_pad_count_and_a_new_pad_that_was_thinner_is_seen_through() -> None:
    # Three readings 1 mm apart at 1 mm computed each, all 0.3 mm thinner than the catalogue's new pad says.
    three = intervals.wear_scale([1.0, 2.0, 3.0], [9.7, 8.7, 7.7], 11.0)
    last = intervals.wear_scale([3.0], [7.7], 11.0)
    assert three.sigma < last.sigma
    assert 1.0 < three.median < last.median


@given(
    computed=st.lists(st.floats(0.0, 5.0), min_size=1, max_size=6), scale=st.floats(0.4, 2.5), new=st.floats(8.0, 30.0)
)
def test_measurements_never_widen_the_range_and_pull_towards_the_truth(
    computed: list[float], scale: float, new: float
) -> None:
    exact = intervals.wear_scale(computed, [new - scale * value for value in computed], new)
    assert exact.sigma <= 0.35
    # Weak evidence is flatter towards slow wear (ln s), which pulls the mean down by a few hundredths.
    assert min(1.0, scale) * 0.92 <= exact.median <= max(1.0, scale) * 1.02
    more = intervals.wear_scale([*computed, 4.0], [new - scale * value for value in [*computed, 4.0]], new)
    assert abs(math.log(more.median / scale)) <= abs(math.log(exact.median / scale)) + 0.05


def test_as_many_thicknesses_as_computed_wears() -> None:
    with pytest.raises(FieldError, match="as many as computed_mm"):
        intervals.wear_scale([1.0], [9.0, 8.0], 11.0)


def test_schools_of_the_change_limit() -> None:
    assert intervals.change_limit_mm("minimum", "car", 11, 5.5) == 3.0
    assert intervals.change_limit_mm("half", "car", 11, 5.5) == 5.5
    assert intervals.change_limit_mm("backing", "car", 11, 5.5) == 5.5
    assert intervals.change_limit_mm("backing", "motorcycle", 4.5, 4.0) == pytest.approx(3.6)
    assert intervals.default_school("track", "car") == "backing"
    assert intervals.default_school("track", "motorcycle") == intervals.default_school("tow", "truck") == "minimum"
    with pytest.raises(FieldError, match="school"):
        intervals.change_limit_mm("never", "car", 11, 5.5)
