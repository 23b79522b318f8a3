"""Calibration: hidden truths are recovered, bands after it hold them, and silence is refused."""

from __future__ import annotations

import dataclasses
import math
from collections.abc import Sequence

import numpy as np
import pytest

from tests.cases_data import changed, load, plain_case
from thermaxis.core.errors import FieldError, SolveError
from thermaxis.core.physics.batch import run_packed
from thermaxis.core.physics.schedule import After
from thermaxis.core.physics.simulate import history, simulate_one
from thermaxis.core.planning.duty.calibrate import Calibration, Evidence, Logged, Paint, Pyrometer, calibrate
from thermaxis.core.planning.verdict.readings import CompoundLimits, Setup
from thermaxis.core.planning.verdict.uncertainty import INPUTS, AxleSpread, Spreads, pack_draws, sweep
from thermaxis.core.records import Case
from thermaxis.core.results import HISTORY_FIELDS, Result

COOLING, BACKING = INPUTS.index("front.cooling_factor"), INPUTS.index("front.backing_conductance_W_per_K")
TIMES = (60.0, 150.0, 300.0)


def read(case: Case, hidden: dict[int, float], noise: np.ndarray, sigma_K: float = 15.0) -> list[Evidence]:
    """Three pyrometer readings of a front ring whose truth is `hidden`, each with its own error in K."""
    scale = np.ones((1, len(INPUTS)))
    for column, factor in hidden.items():
        scale[0, column] = factor
    axles, vehicles = pack_draws(case, scale)
    return [
        Pyrometer(
            axle="front",
            value_C=float(
                run_packed(axles, vehicles, case.duty, after=After(since, 15.0)).axles["end_surface"][0, 0] + error
            ),
            since_s=since,
            speed_mps=15.0,
            sigma_K=sigma_K,
        )
        for since, error in zip(TIMES, noise, strict=True)
    ]


def numbers(result: Result) -> dict[str, float]:
    return {"peak": result.front.peak_surface_C}


def test_a_hidden_cooling_factor_comes_out_of_three_noisy_readings() -> None:
    case = load("roadster-circuit")
    rng = np.random.default_rng(1)
    errors = []
    for _ in range(12):
        hidden = math.exp(rng.uniform(-0.35, 0.35))
        found = calibrate(case, read(case, {COOLING: hidden}, 15.0 * rng.standard_normal(3)))
        assert found.front is not None
        assert found.rear is None
        errors.append(found.front.cooling / hidden - 1.0)
        assert not any(entry.suspect for entry in found.residuals)
        after = [entry.after_C - entry.measured_C for entry in found.residuals]
        before = [entry.before_C - entry.measured_C for entry in found.residuals]
        assert np.square(after).sum() <= np.square(before).sum() + 1.0
    assert np.abs(errors).max() < 0.10


def test_bands_after_a_calibration_are_narrower_and_still_hold_the_truth() -> None:
    case = load("roadster-circuit")
    limits = CompoundLimits(window_low_C=100.0, window_high_C=700.0, limit_C=800.0)
    rng = np.random.default_rng(11)
    still = AxleSpread(mu=0.0, cooling=0.0, wear=0.0)
    inside, widths = 0, []
    for _ in range(30):
        hidden = {COOLING: math.exp(0.2 * rng.standard_normal()), BACKING: math.exp(0.25 * rng.standard_normal())}
        found = calibrate(case, read(case, hidden, 15.0 * rng.standard_normal(3))).front
        assert found is not None
        axle = dataclasses.replace(
            case.front,
            cooling_factor=case.front.cooling_factor * found.cooling,
            backing_conductance_W_per_K=case.front.backing_conductance_W_per_K * found.backing,
        )
        spread = AxleSpread(
            mu=0.0,
            wear=0.0,
            cooling=found.cooling_sigma,
            fitted_backing=found.backing_sigma,
            correlation=found.correlation,
        )
        setup = Setup(
            case=dataclasses.replace(case, front=axle), front_limits=limits, rear_limits=limits, boiling_C=230.0
        )
        band = sweep(setup, numbers, Spreads(front=spread, rear=still, mass=0.0), count=64).bands[0]
        truth = changed(
            case,
            front__cooling_factor=case.front.cooling_factor * hidden[COOLING],
            front__backing_conductance_W_per_K=case.front.backing_conductance_W_per_K * hidden[BACKING],
        )
        inside += band.p10 <= simulate_one(truth).front.peak_surface_C <= band.p90
        widths.append(band.p90 - band.p10)
    assert 0.7 <= inside / 30 <= 0.97, inside
    setup = Setup(case=case, front_limits=limits, rear_limits=limits, boiling_C=230.0)
    before = sweep(setup, numbers, Spreads(rear=still, mass=0.0), count=64).bands[0]
    assert np.median(widths) < 0.6 * (before.p90 - before.p10)


def on_the_caliper(truth: Case, errors: Sequence[float], sigma_K: float) -> list[Evidence]:
    """Two readings of a front caliper, and the fields of a strip on either side of the hottest it has been."""
    peak = simulate_one(truth).front.peak_fluid_C
    found: list[Evidence] = [
        Paint(axle="front", part="caliper", bound="at_least", value_C=5.0 * math.floor(peak / 5.0)),
        Paint(axle="front", part="caliper", bound="less_than", value_C=5.0 * math.ceil(peak / 5.0)),
    ]
    for since, error in zip((30.0, 120.0), errors, strict=True):
        rows = history(truth, after=After(since, 0.0))
        value = float(rows[-1, HISTORY_FIELDS.index("front_fluid_C")] + error)
        found.append(
            Pyrometer(axle="front", part="caliper", value_C=value, since_s=since, speed_mps=0.0, sigma_K=sigma_K)
        )
    return found


def test_a_hidden_conductance_comes_out_of_readings_on_the_caliper() -> None:
    case, nominal = load("van-city-drag"), load("van-city-drag").front
    rng = np.random.default_rng(5)
    for _ in range(6):
        hidden = {COOLING: math.exp(rng.uniform(-0.3, 0.3)), BACKING: math.exp(rng.uniform(-0.4, 0.4))}
        truth = changed(
            case,
            front__cooling_factor=nominal.cooling_factor * hidden[COOLING],
            front__backing_conductance_W_per_K=nominal.backing_conductance_W_per_K * hidden[BACKING],
        )
        # Thermocouples on ring and caliper: both factors come out.
        sharp = calibrate(case, [*read(case, hidden, np.zeros(3), 1.0), *on_the_caliper(truth, (0.0, 0.0), 0.5)]).front
        assert sharp is not None
        assert sharp.cooling == pytest.approx(hidden[COOLING], rel=0.10)
        assert sharp.backing == pytest.approx(hidden[BACKING], rel=0.10)
        # A pyrometer from outside (3 K): the factors less well, but the fluid, which is what is acted on, does.
        rough = [*read(case, hidden, 15.0 * rng.standard_normal(3))]
        rough += on_the_caliper(truth, (3.0 * rng.standard_normal(2)).tolist(), 3.0)
        found = calibrate(case, rough).front
        assert found is not None
        fitted = changed(
            case,
            front__cooling_factor=nominal.cooling_factor * found.cooling,
            front__backing_conductance_W_per_K=nominal.backing_conductance_W_per_K * found.backing,
        )
        assert simulate_one(fitted).front.peak_fluid_C == pytest.approx(simulate_one(truth).front.peak_fluid_C, abs=5.0)


def test_conductance_in_the_case_is_the_sweeps_own() -> None:
    # The factor a calibration stores must do to a case what the fit did to the packed one.
    case = load("roadster-circuit")
    scale = np.ones((1, len(INPUTS)))
    scale[0, BACKING] = 1.4
    axles, vehicles = pack_draws(case, scale)
    packed = run_packed(axles, vehicles, case.duty).axles["peak_fluid"][0, 0]
    more = changed(case, front__backing_conductance_W_per_K=1.4 * case.front.backing_conductance_W_per_K)
    assert simulate_one(more).front.peak_fluid_C == pytest.approx(packed)


def test_a_log_is_followed_through_the_whole_duty() -> None:
    case = load("twin-repeated-stops")
    truth = changed(case, front__cooling_factor=1.5 * case.front.cooling_factor)
    rows = history(truth)
    surface = rows[:, HISTORY_FIELDS.index("front_surface_C")]
    log = Logged(axle="front", t_s=tuple(rows[5::4, 0].tolist()), value_C=tuple(surface[5::4].tolist()))
    found = calibrate(case, [log])
    assert found.front is not None
    assert found.front.cooling == pytest.approx(1.5, rel=0.08)
    assert found.residuals[0].kind == "logged"
    assert abs(found.residuals[0].after_C - found.residuals[0].measured_C) < 5.0


def paint(case: Case, axle: str, bound: str, off: float) -> Paint:
    """A bound that is `off` K over the ring's computed greatest mean."""
    peak = getattr(simulate_one(case), axle).peak_bulk_C
    return Paint(axle=axle, bound=bound, value_C=peak + off)


def test_paint_pulls_only_while_it_is_broken() -> None:
    case = load("roadster-circuit")
    # Hotter than computed is certain: less cooling than thought. The other bound is kept and must not pull.
    found = calibrate(case, [paint(case, "front", "at_least", 80.0), paint(case, "front", "less_than", 300.0)])
    assert found.front is not None
    assert found.front.cooling < 0.9
    cooler = calibrate(case, [paint(case, "rear", "less_than", -80.0)])
    assert cooler.front is None
    assert cooler.rear is not None
    assert cooler.rear.cooling > 1.1


def test_evidence_that_cannot_tell_is_refused() -> None:
    case = load("roadster-circuit")
    with pytest.raises(SolveError, match="at least one"):
        calibrate(case, [])
    # Two bounds that hold already say nothing.
    with pytest.raises(SolveError, match="cannot tell"):
        calibrate(case, [paint(case, "front", "at_least", -50.0), paint(case, "front", "less_than", 50.0)])
    # One gentle stop hardly warms the ring: no cooling to be seen in it.
    gentle = plain_case()
    with pytest.raises(SolveError, match="higher temperatures"):
        calibrate(gentle, [Pyrometer(axle="front", value_C=60.0, since_s=10.0, speed_mps=10.0)])


def test_contradicting_readings_are_suspect_and_impossible_ones_refused() -> None:
    case = load("roadster-circuit")
    peak = simulate_one(case).front.end_surface_C
    both: list[Evidence] = [
        Pyrometer(axle="front", value_C=peak + off, since_s=0.0, speed_mps=0.0) for off in (-150.0, 150.0)
    ]
    found: Calibration = calibrate(case, both)
    assert [entry.suspect for entry in found.residuals] == [True, True]
    with pytest.raises(SolveError, match=r"0\.25"):
        calibrate(
            case, [Pyrometer(axle="front", value_C=40.0, since_s=since, speed_mps=5.0, sigma_K=1.0) for since in TIMES]
        )


@pytest.mark.parametrize(
    ("build", "path"),
    [
        (lambda: Pyrometer(axle="left", value_C=300, since_s=1, speed_mps=1), "axle"),
        (lambda: Pyrometer(axle="front", value_C=3000, since_s=1, speed_mps=1), "value_C"),
        (lambda: Pyrometer(axle="front", value_C=300, since_s=-1, speed_mps=1), "since_s"),
        (lambda: Paint(axle="front", bound="about", value_C=300), "bound"),
        (lambda: Logged(axle="front", t_s=(0, 1, 2), value_C=(20, 30)), "t_s"),
        (lambda: Logged(axle="front", t_s=(0, 2, 1), value_C=(20, 30, 40)), "t_s[2]"),
        (lambda: Logged(axle="front", t_s=(0, 1, 2), value_C=(20, 30, 4000)), "value_C[2]"),
    ],
)
def test_evidence_checks_itself(build: object, path: str) -> None:
    with pytest.raises(FieldError) as caught:
        build()  # type: ignore[operator]
    assert caught.value.path == path
