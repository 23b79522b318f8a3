"""How long pads last: division, measurements against the computed wear, schools of the change."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from thermaxis.core.errors import FieldError
from thermaxis.core.planning.life import intervals


@given(thickness=st.floats(0.0035, 0.012), rate=st.floats(1e-6, 5e-4), sigma=st.floats(0.0, 0.5))
def test_life_by_division_inside_its_band(thickness: float, rate: float, sigma: float) -> None:
    left = intervals.remaining(thickness, 0.003, rate, intervals.WearScale(median=1.0, sigma=sigma))
    assert left.events == pytest.approx((thickness - 0.003) / rate)
    assert left.events_p10 < left.events < left.events_p90


def test_a_worn_pad_is_due_and_one_that_does_not_wear_is_not() -> None:
    scale = intervals.WearScale(median=1.0, sigma=0.3)
    assert intervals.remaining(0.002, 0.003, 1e-4, scale).events == 0.0
    assert intervals.remaining(0.009, 0.003, 0.0, scale).events == 99999.0


def test_schools_of_the_change_limit() -> None:
    assert intervals.change_limit_m("minimum", "car", 0.011, 0.0055) == 0.003
    assert intervals.change_limit_m("half", "car", 0.011, 0.0055) == 0.0055
    assert intervals.change_limit_m("backing", "car", 0.011, 0.0055) == 0.0055
    assert intervals.change_limit_m("backing", "motorcycle", 0.0045, 0.004) == pytest.approx(0.0036)
    assert intervals.default_school("track", "car") == "backing"
    assert intervals.default_school("track", "motorcycle") == intervals.default_school("tow", "truck") == "minimum"
    with pytest.raises(FieldError, match="school"):
        intervals.change_limit_m("never", "car", 0.011, 0.0055)
