"""Wear from measurements on several duties, and how honest the forecast made of it is."""

from __future__ import annotations

import dataclasses
import math
from collections.abc import Sequence

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from numpy.typing import NDArray

from thermaxis.core.errors import FieldError
from thermaxis.core.planning.life.forecast import Draws, ahead, draws_of, thickness_ahead, word_of
from thermaxis.core.planning.life.scoring import score
from thermaxis.core.planning.life.wear import (
    EVENT_SIGMA,
    PADS,
    RINGS,
    WearPrior,
    WearState,
    Worn,
    found_rings,
    wear_state,
)

Array = NDArray[np.float64]
# Told in mm, as one measures; the code takes m.
MM = 1e-3
NEW_MM, AHEAD = 11.0, 6


def worn(*by_duty_mm: float, squares: float = 0.0) -> Worn:
    return Worn(by_duty_m=tuple(MM * value for value in by_duty_mm), squares_m2=MM**2 * squares)


def state_of(
    readings_mm: Sequence[float], at: Sequence[Worn], now: Worn, new_mm: float = NEW_MM, prior: WearPrior = PADS
) -> WearState:
    return wear_state([MM * value for value in readings_mm], at, now, MM * new_mm, prior)


def one_duty(computed: Sequence[float], thickness: Sequence[float], new_mm: float = NEW_MM) -> tuple[float, float]:
    at = [worn(value) for value in computed]
    return state_of(thickness, at, worn(max(computed, default=0.0)), new_mm).scale(0)


def test_a_measurement_moves_the_scale_by_its_weight() -> None:
    # Hand, to first order in ln s: 4 mm worn where 3 mm was computed is x = ln 1.333 with error hypot(0.15, 0.2)/4 =
    # 0.0625; against the prior 0.35 it weighs 0.35^2/(0.35^2 + 0.0625^2) = 0.969: 1.333^0.969 = 1.322, sigma
    # 0.35 sqrt(0.031) = 0.0615.
    median, sigma = one_duty([3.0], [7.0])
    assert median == pytest.approx(1.322, rel=0.01)
    assert sigma == pytest.approx(0.0615, rel=0.05)
    median, sigma = one_duty([], [])
    assert median == pytest.approx(1.0, abs=0.01)
    assert sigma == pytest.approx(0.35, rel=0.02)


def test_one_duty_against_the_posterior_summed_by_hand() -> None:
    """The same posterior on a grid, written down another way: covariance of the readings by their pairs."""
    computed, thickness, squares = np.array([0.4, 1.1, 2.0]), np.array([10.7, 10.2, 8.6]), np.array([0.1, 0.3, 0.6])
    x = np.linspace(-2, 2, 4001)
    miss = thickness - NEW_MM + np.exp(x)[:, None] * computed
    scale = np.exp(0.29)
    pairs = [[(PADS.new_m / MM) ** 2 + (EVENT_SIGMA * scale) ** 2 * min(a, b) for a in squares] for b in squares]
    weight = np.linalg.inv(np.array(pairs) + (PADS.gauge_m / MM) ** 2 * np.eye(3))
    log = -0.5 * (np.einsum("ni,ij,nj->n", miss, weight, miss) + (x / PADS.sigma) ** 2)
    density = np.exp(log - log.max())
    density /= density.sum()
    mean = float(density @ x)
    at = [worn(c, squares=q) for c, q in zip(computed, squares, strict=True)]
    median, sigma = state_of(thickness.tolist(), at, at[-1]).scale(0)
    assert median == pytest.approx(math.exp(mean), rel=0.01)
    assert sigma == pytest.approx(math.sqrt(float(density @ (x - mean) ** 2)), rel=0.03)


def test_all_measurements_of_a_pad_count_and_a_new_pad_that_was_thinner_is_seen_through() -> None:
    # Three readings 1 mm apart at 1 mm computed each, all 0.3 mm thinner than the catalogue's new pad says.
    three, last = one_duty([1.0, 2.0, 3.0], [9.7, 8.7, 7.7]), one_duty([3.0], [7.7])
    assert three[1] < last[1]
    assert 1.0 < three[0] < last[0]


@given(
    computed=st.lists(st.floats(0.0, 5.0), min_size=1, max_size=6), scale=st.floats(0.4, 2.5), new=st.floats(8.0, 30.0)
)
def test_measurements_never_widen_the_range_and_pull_towards_the_truth(
    computed: list[float], scale: float, new: float
) -> None:
    median, sigma = one_duty(computed, [new - scale * value for value in computed], new)
    assert sigma <= 0.36
    # Weak evidence is flatter towards slow wear (ln s), which pulls the mean down by a few hundredths.
    assert min(1.0, scale) * 0.9 <= median <= max(1.0, scale) * 1.03
    more, _ = one_duty([*computed, 4.0], [new - scale * value for value in [*computed, 4.0]], new)
    assert abs(math.log(more / scale)) <= abs(math.log(median / scale)) + 0.05


def test_as_many_thicknesses_as_computed_wears() -> None:
    with pytest.raises(FieldError, match="as many as computed wears"):
        wear_state([9.0, 8.0], [worn(1.0)], worn(1.0), NEW_MM)


def test_wear_per_duty_is_recovered_from_alternating_readings() -> None:
    """Read after every spell of street (0.7 of what was computed) and of track (1.4), as sets are used up one by one."""
    truth, rng = np.array([0.7, 1.4]), np.random.default_rng(18)
    computed = np.cumsum([[2.5, 0.0] if i % 2 else [0.0, 2.5] for i in range(4)], axis=0)
    readings = 14.0 - computed @ truth + rng.normal(0.0, 0.05, 4)
    at = [worn(*row) for row in computed]
    alternating = state_of(readings.tolist(), at, at[-1], 14.0)
    for duty, scale in enumerate(truth):
        median, sigma = alternating.scale(duty)
        assert median == pytest.approx(scale, rel=0.1)
        assert abs(math.log(median / scale)) < 2.0 * sigma
    # What one duty says is not wholly the other's: measured on the street only, the track keeps most of its doubt.
    street = [worn(0.5 * i, 0.0) for i in range(1, 6)]
    one = state_of([NEW_MM - 0.35 * i for i in range(1, 6)], street, street[-1])
    assert one.scale(1)[1] > 2.0 * one.scale(0)[1]
    assert 0.7 < one.scale(1)[0] < 1.0


def test_the_first_measurement_narrows_the_range_by_half_or_more() -> None:
    draws, steps = draws_of(3, 512), np.full((3, 1), MM)

    def spread(state: WearState) -> float:
        _, left = thickness_ahead("p", state, steps, draws)
        low, high = np.percentile(left[:, -1], (10, 90))
        return float(high - low)

    before = state_of([], [], worn(3.0, squares=3.0))
    after = state_of([7.4], [worn(3.0, squares=3.0)], worn(3.0, squares=3.0))
    assert spread(after) <= 0.5 * spread(before)


@dataclasses.dataclass
class Car:
    """A hidden truth: real over computed wear by duty, and a history of events with some readings."""

    prior: WearPrior
    rng: np.random.Generator
    base: Array
    new: float = NEW_MM

    def __post_init__(self) -> None:
        x = self.rng.normal(0.0, self.prior.common) + self.rng.normal(0.0, self.prior.own, len(self.base))
        self.scale, self.now = np.exp(x), self.new + self.rng.normal(0.0, self.prior.new_m / MM)
        self.computed, self.squares = np.zeros(len(self.base)), 0.0
        self.readings: list[float] = []
        self.at: list[Worn] = []

    def event(self) -> Array:
        step = np.zeros(len(self.base))
        step[self.rng.integers(len(self.base))] = 1.0
        return step * self.base

    def wear(self, step: Array) -> float:
        """Drive an event; what it really took off."""
        taken = float(self.scale @ step * np.exp(EVENT_SIGMA * self.rng.normal()))
        self.now -= taken
        self.computed, self.squares = self.computed + step, self.squares + float(step.sum()) ** 2
        return taken

    def state(self) -> Worn:
        return worn(*self.computed, squares=self.squares)

    def measure(self) -> None:
        self.readings.append(self.now + self.rng.normal(0.0, self.prior.gauge_m / MM))
        self.at.append(self.state())


def driven(prior: WearPrior, rng: np.random.Generator, most: float) -> Car:
    car = Car(prior, rng, base=rng.uniform(0.2 * most, most, 2))
    for _ in range(rng.integers(0, 8)):
        car.wear(car.event())
        if rng.random() < 0.5:
            car.measure()
    return car


@pytest.mark.parametrize(("prior", "most"), [(PADS, 0.7), (RINGS, 0.09)], ids=["pads", "rings"])
def test_the_forecast_is_honest(prior: WearPrior, most: float) -> None:
    """300 cars with hidden rates, readings and mixed duties: P10 to P90 hold 76 to 86 % at 1, 3 and 6 events ahead. Over
    1200 of them a likelihood to survive comes true as often as it says, within 5 points in every tenth: a tenth in the
    middle has too few of 300 to tell 5 points from chance.
    """
    rng, draws = np.random.default_rng(1818), draws_of(AHEAD, 512)
    inside = np.zeros(AHEAD)
    said: list[Array] = []
    came: list[NDArray[np.bool_]] = []
    for number in range(1200):
        car = driven(prior, rng, most)
        state = state_of(car.readings, car.at, car.state(), prior=prior)
        steps = np.array([car.event() for _ in range(AHEAD)])
        now, left = (values / MM for values in thickness_ahead("pad", state, MM * steps, draws))
        truth = []
        for step in steps:
            car.wear(step)
            truth.append(car.now)
        low, high = np.percentile(left, (10, 90), axis=0)
        inside += (low <= truth) & (truth <= high) & (number < 300)
        for limit in np.percentile(left[:, -1], rng.uniform(1.0, 99.0, 12)):
            said.append((left >= limit).mean(axis=0))
            came.append(np.array(truth) >= limit)
        part = ahead(left - limit, now - limit)
        assert part.until[0] <= part.until[1] <= part.until[2]
    for k in (1, 3, 6):
        assert 0.76 <= inside[k - 1] / 300 <= 0.86, (k, inside / 300)
    chances, outcomes = np.concatenate(said), np.concatenate(came)
    for tenth in range(10):
        chosen = (chances >= tenth / 10) & (chances <= (tenth + 1) / 10)
        assert abs(chances[chosen].mean() - outcomes[chosen].mean()) < 0.05, (tenth, chosen.sum())


def test_the_running_score_of_honest_cars_is_about_four_in_five() -> None:
    rng = np.random.default_rng(7)
    found = []
    for _ in range(100):
        car = driven(PADS, rng, 0.7)
        scored = score([MM * value for value in car.readings], car.at, MM * NEW_MM, PADS)
        assert [entry.measured_m for entry in scored] == [MM * value for value in car.readings]
        found += [entry.inside for entry in scored]
    assert len(found) > 150
    assert 0.72 <= sum(found) / len(found) <= 0.90


def test_rings_that_nobody_saw_new_are_known_by_their_first_reading() -> None:
    # 1.6 mm from their size to the discard: half a millimetre off the size is no surprise, and the reading settles it.
    found = found_rings(1.6 * MM)
    assert found.new_m == pytest.approx(0.56 * MM)
    assert found_rings(0.01 * MM).new_m == RINGS.new_m
    (wide,), (narrow,) = (score([19.49 * MM], [worn(0.02)], 20.0 * MM, prior) for prior in (found, RINGS))
    assert wide.inside
    assert not narrow.inside
    _, now = state_of([19.49], [worn(0.02)], worn(0.02), 20.0, found).draws(np.zeros(8))
    assert now / MM == pytest.approx(19.49, abs=0.01)


def test_all_parts_go_by_the_same_events_and_words_by_their_likelihood() -> None:
    draws = draws_of(4, 256)
    sure = WearState(
        points=np.zeros((256, 1)),
        weights=np.full(256, 1 / 256),
        now_a_m=9.0,
        now_b_m=(0.0,),
        now_sigma_m=0.0,
        measurements=1,
    )
    now, left = thickness_ahead("front", sure, np.ones((4, 1)), draws)
    _, other = thickness_ahead("rear", sure, np.full((4, 1), 2.0), draws)
    # Nothing but the events is uncertain: the rear wears exactly twice as much in every draw.
    assert 9.0 - other == pytest.approx(2.0 * (9.0 - left))
    part = ahead(left - 6.5, now - 6.5)
    assert part.words == ("survives", "survives", "change before", "change before")
    assert part.until[1] == pytest.approx(2.5, abs=0.05)
    assert part.change_before == 2
    assert word_of(0.95) == "take spares"
    for wrong in ({"events": 61}, {"events": 3, "count": 100}):
        with pytest.raises(FieldError):
            draws_of(**wrong)
    assert isinstance(draws, Draws)
