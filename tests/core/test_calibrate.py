"""Calibration: hidden truths are recovered, bands after it hold them, and silence is refused."""

from __future__ import annotations

import dataclasses
import math

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

COOLING, PAD_HEAT = INPUTS.index("front.cooling_factor"), INPUTS.index("front.pad_heat_factor")
TIMES = (60.0, 150.0, 300.0)


def read(case: Case, hidden: dict[int, float], noise: np.ndarray) -> list[Evidence]:
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
        hidden = {COOLING: math.exp(0.2 * rng.standard_normal()), PAD_HEAT: math.exp(0.15 * rng.standard_normal())}
        found = calibrate(case, read(case, hidden, 15.0 * rng.standard_normal(3))).front
        assert found is not None
        axle = dataclasses.replace(
            case.front, cooling_factor=case.front.cooling_factor * found.cooling, pad_heat_factor=found.pad_heat
        )
        spread = AxleSpread(
            mu=0.0, wear=0.0, cooling=found.cooling_sigma, pad_heat=found.pad_heat_sigma, correlation=found.correlation
        )
        setup = Setup(
            case=dataclasses.replace(case, front=axle), front_limits=limits, rear_limits=limits, boiling_C=230.0
        )
        band = sweep(setup, numbers, Spreads(front=spread, rear=still, mass=0.0), count=64).bands[0]
        truth = changed(
            case,
            front__cooling_factor=case.front.cooling_factor * hidden[COOLING],
            front__pad_heat_factor=hidden[PAD_HEAT],
        )
        inside += band.p10 <= simulate_one(truth).front.peak_surface_C <= band.p90
        widths.append(band.p90 - band.p10)
    assert 0.7 <= inside / 30 <= 0.97, inside
    setup = Setup(case=case, front_limits=limits, rear_limits=limits, boiling_C=230.0)
    before = sweep(setup, numbers, Spreads(rear=still, mass=0.0), count=64).bands[0]
    assert np.median(widths) < 0.6 * (before.p90 - before.p10)


def test_partition_in_the_case_is_the_sweeps_own() -> None:
    # The factor a calibration stores must do to a case what the fit did to the packed one.
    case = load("roadster-circuit")
    scale = np.ones((1, len(INPUTS)))
    scale[0, PAD_HEAT] = 1.4
    axles, vehicles = pack_draws(case, scale)
    packed = run_packed(axles, vehicles, case.duty).axles["peak_surface"][0, 0]
    assert simulate_one(changed(case, front__pad_heat_factor=1.4)).front.peak_surface_C == pytest.approx(packed)


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
