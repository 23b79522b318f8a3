"""How long pads last: division, measurements against the computed wear, schools of the change."""

from __future__ import annotations

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


def test_schools_of_the_change_limit() -> None:
    assert intervals.change_limit_mm("minimum", "car", 11, 5.5) == 3.0
    assert intervals.change_limit_mm("half", "car", 11, 5.5) == 5.5
    assert intervals.change_limit_mm("backing", "car", 11, 5.5) == 5.5
    assert intervals.change_limit_mm("backing", "motorcycle", 4.5, 4.0) == pytest.approx(3.6)
    assert intervals.default_school("track", "car") == "backing"
    assert intervals.default_school("track", "motorcycle") == intervals.default_school("tow", "truck") == "minimum"
    with pytest.raises(FieldError, match="school"):
        intervals.change_limit_mm("never", "car", 11, 5.5)
