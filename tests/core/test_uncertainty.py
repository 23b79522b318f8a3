"""Bands over the estimates: coverage of synthetic truths, limits, and first-order shares with known answers."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import pytest

from tests.cases_data import NAMES, load
from tests.said import metric
from thermaxis.core.errors import FieldError, Stopped
from thermaxis.core.physics.simulate import simulate_one
from thermaxis.core.planning.explain.chance import chance_text
from thermaxis.core.planning.verdict.limits import margins
from thermaxis.core.planning.verdict.readings import CompoundLimits, Setup, rotor_limit_C
from thermaxis.core.planning.verdict.uncertainty import (
    INPUTS,
    AxleSpread,
    Spreads,
    draw_results,
    factors,
    first_order,
    sweep,
    unit_draws,
)
from thermaxis.core.results import Result

STILL = AxleSpread(mu=0.0, cooling=0.0, wear=0.0, backing=0.0, gap=0.0, caliper=0.0)
NUMBERS: dict[str, Callable[[Result], float]] = {
    "front_peak": lambda result: result.front.peak_surface_C,
    "rear_peak": lambda result: result.rear.peak_surface_C,
    "front_fluid": lambda result: result.front.peak_fluid_C,
    "front_wear": lambda result: result.front.pad_wear_m,
    "pedal": lambda result: result.peak_pedal_force_N,
}


def numbers(result: Result) -> dict[str, float]:
    return {name: number(result) for name, number in NUMBERS.items()}


def nothing(result: Result) -> dict[str, float]:
    return {}


def setup(name: str = "roadster-circuit", limit_C: float = 760.0) -> Setup:
    limits = CompoundLimits(window_low_C=150.0, window_high_C=700.0, limit_C=limit_C)
    return Setup(case=load(name), front_limits=limits, rear_limits=limits, boiling_C=200.0)


def test_bands_hold_most_synthetic_truths() -> None:
    # Independent: truths from numpy's own generator and numpy's own distributions, not from the sweep's points.
    rng = np.random.default_rng(7)
    count = 1500
    truth = np.ones((count, len(INPUTS)))
    for start in (0, 7):
        truth[:, start] = 1.0 + 0.08 * rng.uniform(-1, 1, count)
        truth[:, start + 1] = np.exp(0.20 * rng.standard_normal(count))
        truth[:, start + 2] = np.exp(0.35 * rng.standard_normal(count))
        for column, share in ((3, 0.40), (4, 0.40), (5, 0.20), (6, 0.20)):
            truth[:, start + column] = 1.0 + share * rng.uniform(-1, 1, count)
    truth[:, 14] = 1.0 + 0.03 * rng.uniform(-1, 1, count)
    question = setup()
    bands = {band.name: band for band in sweep(question, numbers, Spreads()).bands}
    results = draw_results(question.case, truth)
    for name, number in NUMBERS.items():
        values = np.array([number(result) for result in results])
        inside = ((values >= bands[name].p10) & (values <= bands[name].p90)).mean()
        # 8 in 10, with what 128 draws leave open of the two ends.
        assert 0.76 <= inside <= 0.86, (name, inside)
        assert 0.44 <= (values < bands[name].p50).mean() <= 0.56, name


def test_the_chance_of_crossing_is_the_share_of_truths_that_cross() -> None:
    question = setup()
    found = {(entry.limit, entry.axle): entry.probability for entry in sweep(question, nothing, Spreads()).crossings}
    unit = np.random.default_rng(3).random((150, len(INPUTS)))
    results = draw_results(question.case, factors(unit, Spreads()))
    crossed = np.mean([result.front.peak_surface_C > 760.0 for result in results])
    assert 0.1 < crossed < 0.9
    assert found["pad", "front"] == pytest.approx(crossed, abs=0.12)
    assert found["fluid", "front"] == 0.0
    out_of_reach = sweep(setup(limit_C=1500.0), nothing, Spreads(), count=32).crossings
    assert all(entry.probability == 0.0 for entry in out_of_reach if entry.limit == "pad")


@pytest.mark.parametrize("name", NAMES)
def test_no_spread_gives_the_plain_result(name: str) -> None:
    question = setup(name)
    plain = simulate_one(question.case)
    drawn = draw_results(question.case, np.ones((1, len(INPUTS))))[0]
    found = sweep(question, numbers, Spreads(front=STILL, rear=STILL, mass=0.0), count=32)
    for band in found.bands:
        assert band.p10 == band.p90 == pytest.approx(NUMBERS[band.name](drawn), rel=1e-12)
        assert band.influences == ()
    # The draws step further than a plain run; what that may cost is small beside any band.
    for temperature in ("front_peak", "rear_peak", "front_fluid"):
        assert NUMBERS[temperature](drawn) == pytest.approx(NUMBERS[temperature](plain), abs=0.5)
    assert drawn.front.pad_wear_m == pytest.approx(plain.front.pad_wear_m, rel=0.01)
    assert drawn.peak_pedal_force_N == pytest.approx(plain.peak_pedal_force_N, rel=0.002)


def test_each_column_moves_its_own_input() -> None:
    case = load("roadster-circuit")
    plain = draw_results(case, np.ones((1, len(INPUTS))))[0]

    def moved(field: str, factor: float = 1.2) -> Result:
        scale = np.ones((1, len(INPUTS)))
        scale[0, INPUTS.index(field)] = factor
        return draw_results(case, scale)[0]

    assert moved("front.pad.wear_mm3_per_MJ").front.pad_wear_m == pytest.approx(1.2 * plain.front.pad_wear_m)
    assert moved("front.pad.wear_mm3_per_MJ").rear.pad_wear_m == pytest.approx(plain.rear.pad_wear_m)
    assert moved("rear.cooling_factor").rear.peak_surface_C < plain.rear.peak_surface_C
    more_grip = moved("front.pad.mu").front.friction_energy_J / plain.front.friction_energy_J
    assert 1.0 < more_grip < 1.2
    for field, warmer in (
        ("front.backing_conductance_W_per_K", True),
        ("front.caliper_mass_kg", False),
        ("front.caliper_area_m2", False),
    ):
        fluid = moved(field).front.peak_fluid_C
        assert (fluid > plain.front.peak_fluid_C + 0.1) is warmer, field
        assert moved(field).rear.peak_fluid_C == pytest.approx(plain.rear.peak_fluid_C, abs=1e-3)
    assert moved("front.gap_conductance_W_per_K").front.peak_pad_C > plain.front.peak_pad_C
    # Hand: mass moves every force but drag and engine, so energy by a little more than its own share.
    energy = moved("vehicle.mass_kg").energy_account.friction_J / plain.energy_account.friction_J
    assert 1.2 < energy < 1.3


def test_correlated_factors_stay_together() -> None:
    axle = AxleSpread(cooling=0.1, fitted_backing=0.1, correlation=-0.9)
    scale = np.log(factors(unit_draws(512), Spreads(front=axle)))
    assert np.corrcoef(scale[:, 1], scale[:, 3])[0, 1] == pytest.approx(-0.9, abs=0.03)
    assert scale[:, 3].std() == pytest.approx(0.1, rel=0.05)


def test_first_order_shares_by_hand() -> None:
    # Hand: variances of 3 u1 + u2 are 9/12 and 1/12; of u^2, 4/45 in all, 1/12 of it linear; both degrees count.
    unit = unit_draws(256)
    shares = first_order(unit, 3.0 * unit[:, 0] + unit[:, 1])
    assert shares[:3] == pytest.approx([0.9, 0.1, 0.0], abs=0.01)
    assert first_order(unit, unit[:, 4] ** 2)[4] == pytest.approx(1.0, abs=0.01)
    # A pure product has no first-order part.
    assert first_order(unit, (unit[:, 0] - 0.5) * (unit[:, 1] - 0.5)).max() < 0.02
    assert first_order(unit, np.full(256, 5.0)).tolist() == [0.0] * len(INPUTS)
    with pytest.raises(FieldError, match="values"):
        first_order(unit[:16], unit[:16, 0])


def test_what_a_number_hangs_on_is_named() -> None:
    found = sweep(setup(), numbers, Spreads())
    bands = {band.name: band for band in found.bands}
    assert bands["front_wear"].influences[0].field == "front.pad.wear_mm3_per_MJ"
    assert bands["front_peak"].influences[0].field == "front.cooling_factor"
    assert bands["pedal"].influences[0].field in ("front.pad.mu", "rear.pad.mu")
    assert sum(entry.share for entry in bands["front_peak"].influences) == pytest.approx(1.0, abs=0.1)
    # What is left to the nearest limit is that limit less the peak, draw by draw.
    assert found.nearest.name == "rear rotor"
    assert found.nearest.p10 == pytest.approx(rotor_limit_C(setup(), "rear") - bands["rear_peak"].p90)
    assert found.nearest.influences[0].field == "rear.cooling_factor"
    # On a few laps it is the caliper's heat capacity the fluid hangs on, on a long drag what lets the heat in and out.
    assert bands["front_fluid"].influences[0].field == "front.caliper_mass_kg"
    drag = sweep(setup("van-city-drag"), numbers, Spreads())
    fluid = next(band for band in drag.bands if band.name == "front_fluid")
    assert {entry.field for entry in fluid.influences[:2]} == {
        "front.cooling_factor",
        "front.backing_conductance_W_per_K",
    }
    shares = {(entry.axle, entry.limit): entry.probability for entry in found.crossings}
    assert f"front pad {128 * shares['front', 'pad']:.0f} of 128" in metric(chance_text(found))
    # Where none is crossed, the nearest is the one with the least room in its own spread.
    none = sweep(setup("roadster-single-stop"), numbers, Spreads(), count=32)
    assert metric(chance_text(none)).startswith("runs over a limit: 0 of 32 (none crosses any); nearest, ")
    assert none.nearest.p10 > 0


def test_a_sweep_can_be_watched_and_stopped() -> None:
    heard: list[float] = []
    sweep(setup(), nothing, Spreads(), count=64, watch=heard.append)
    assert heard == sorted(heard)
    assert heard[-1] == 1.0
    assert len(heard) > 5

    def enough(share: float) -> None:
        raise Stopped("enough")

    with pytest.raises(Stopped):
        sweep(setup(), nothing, Spreads(), count=64, watch=enough)

    # The run with worn pads is heard of, and so can be stopped, too; the share never goes back.
    with_worn: list[float] = []
    sweep(setup(), nothing, Spreads(), count=64, watch=with_worn.append, worn=setup().case)
    assert with_worn == sorted(with_worn)
    assert with_worn[-1] == 1.0
    assert len(with_worn) > 1.5 * len(heard)


@pytest.mark.parametrize("count", [0, 7, 100])
def test_draws_come_in_powers_of_two(count: int) -> None:
    with pytest.raises(FieldError, match="count"):
        unit_draws(count)


def test_margins_name_every_limit_once_and_a_limited_stop_crosses_the_pedal() -> None:
    question = setup()
    found = margins(question, simulate_one(question.case))
    assert len({(entry.limit, entry.axle) for entry in found}) == len(found) == 7
    assert all(entry.left == pytest.approx(entry.allowed - entry.value) for entry in found)
    assert all(entry.sentence for entry in found)
