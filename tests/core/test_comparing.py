"""Sets side by side: traces at the same instants, peaks kept, the year's cost by hand; sets that are beaten."""

from __future__ import annotations

import dataclasses

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_planning import HOT_STOPS, TOWN, field, judged
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.friction import friction_coefficient
from thermaxis.core.physics.hydraulics import line_pressure
from thermaxis.core.planning.choice.choose import DEFAULT_WEIGHTS, Judged, dominators, judge_candidates
from thermaxis.core.planning.choice.comparing import Comparison, compare, cost_per_year


def entries(duty: object = HOT_STOPS) -> list[Judged]:
    return judge_candidates(field(duty), DEFAULT_WEIGHTS["track"], 0.5)  # type: ignore[arg-type]


@pytest.fixture(scope="module")
def found() -> Comparison:
    return compare(entries(), 2.0)


def test_all_share_their_times_and_no_peak_falls_between_them(found: Comparison) -> None:
    assert list(found.t_s) == sorted(set(found.t_s))
    assert len(found.sets) == 3
    for one in found.sets:
        assert {len(values) for values in one.traces.values()} == {len(found.t_s)}
        for axle in ("front", "rear"):
            result = getattr(one.judged.result, axle)
            assert max(one.traces[f"{axle}_surface_C"]) == pytest.approx(result.peak_surface_C, abs=0.5)
            assert max(one.traces[f"{axle}_fluid_C"]) == pytest.approx(result.peak_fluid_C, abs=0.5)


def test_friction_and_pedal_are_those_of_the_trace_itself(found: Comparison) -> None:
    for one in found.sets:
        case, traces = one.judged.candidate.setup.case, one.traces
        for surface, mu in list(zip(traces["front_surface_C"], traces["front_mu"], strict=True))[::37]:
            assert mu == pytest.approx(friction_coefficient(surface, case.front.pad.mu), abs=1e-9)
        # Rows of the history stand at the ends of steps; the worst moment may lie within one.
        worst = one.judged.result.peak_pedal_force_N
        assert 0.8 * worst <= max(traces["pedal_N"]) <= 1.001 * worst
        # Forwards again: the pressure of the greatest pedal force is no more than the greatest there can be.
        greatest = line_pressure(case.hydraulics.max_pedal_force_N, case.hydraulics)
        assert line_pressure(max(traces["pedal_N"]), case.hydraulics) <= greatest * 1.001


def test_a_year_s_pads_by_hand() -> None:
    entry = entries(TOWN)[0]
    prices = dataclasses.replace(entry.candidate, front_pads_price=70.0, rear_pads_price=30.0)
    entry = dataclasses.replace(entry, candidate=prices)
    # 70 of money that last 8 events in front and 30 that last 24 behind, 3 events a month: of the 36 events of a year
    # 4.5 sets in front and 1.5 behind, each axle by its own life.
    lives = dataclasses.replace(entry.figures, front_life_events=8.0, rear_life_events=24.0, life_events=8.0)
    entry = dataclasses.replace(entry, figures=lives)
    assert cost_per_year(entry, 3.0) == pytest.approx(4.5 * 70 + 1.5 * 30)
    worn_out = dataclasses.replace(entry, figures=dataclasses.replace(entry.figures, front_life_events=0.0))
    assert cost_per_year(worn_out, 3.0) == float("inf")


def test_two_to_four_sets() -> None:
    one = entries()[:1]
    for wrong in (one, one * 5):
        with pytest.raises(FieldError, match="2 to 4 sets"):
            compare(wrong, 1.0)


# --- what is beaten whatever the weights ---------------------------------------------------------------------------


def test_the_same_pad_on_dearer_rotors_is_dominated_whatever_the_weights() -> None:
    entries = {entry.candidate.key: entry for entry in judged(HOT_STOPS, "track")}
    assert entries["track"].dominated_by is None
    assert entries["track dear"].dominated_by == "track"


@given(
    merits=st.lists(st.tuples(*[st.integers(-3, 3).map(float)] * 3), max_size=8),
    weights=st.tuples(*[st.floats(0, 5)] * 3),
)
def test_no_weights_put_a_dominated_one_first(merits: list[tuple[float, ...]], weights: tuple[float, ...]) -> None:
    def total(index: int) -> float:
        return sum(weight * value for weight, value in zip(weights, merits[index], strict=True))

    found = dominators(merits)
    assert len(found) == len(merits)
    for index, above in enumerate(found):
        if above is not None:
            assert total(above) >= total(index) - 1e-9
            assert merits[above] != merits[index]
    # Someone is always left: being dominated does not go round in circles.
    assert not merits or None in found


def test_what_is_dominated_has_no_figure_in_its_favour() -> None:
    for duty in (TOWN, HOT_STOPS):
        entries = {entry.candidate.key: entry for entry in judged(duty, "track")}
        for entry in entries.values():
            if entry.dominated_by is not None:
                above = entries[entry.dominated_by]
                assert above.figures.lowest_margin_K >= entry.figures.lowest_margin_K
                assert above.figures.cost_per_hour <= entry.figures.cost_per_hour
                assert above.score >= entry.score - 1e-9


def test_rotor_wear_counts_where_it_is_weighed() -> None:
    gentle, harsh = (
        dataclasses.replace(field(HOT_STOPS)[1], key=key, rotor_wear_m=wear)
        for key, wear in (("gentle", 0.00015), ("harsh", 0.0005))
    )
    order = [entry.candidate.key for entry in judge_candidates([harsh, gentle], DEFAULT_WEIGHTS["delivery"], 0.5)]
    assert order == ["gentle", "harsh"]
    # By hand: 0.15 mm is a tenth of the way from 0.1 to 0.6 mm, 0.5 mm four fifths.
    scores = {
        entry.candidate.key: entry.scores for entry in judge_candidates([harsh, gentle], DEFAULT_WEIGHTS["tow"], 0.5)
    }
    assert scores["gentle"]["rotor_wear"] == pytest.approx(0.9)
    assert scores["harsh"]["rotor_wear"] == pytest.approx(0.2)
