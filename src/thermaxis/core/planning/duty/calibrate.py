"""Fit the two numbers nobody can look up to temperatures someone measured.

Cooling factor of the ring, and conductance from backing plates to caliper: what decides ring and fluid.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.checked import Checked, choice, number, numbers
from thermaxis.core.errors import FieldError, SolveError
from thermaxis.core.physics.batch import Watch, history_packed, run_packed
from thermaxis.core.physics.schedule import After
from thermaxis.core.planning.verdict.uncertainty import INPUTS, pack_draws
from thermaxis.core.records import MOST_HOURS, Case
from thermaxis.core.results import HISTORY_FIELDS

Array = NDArray[np.float64]
AXLES = ("front", "rear")
PARTS = ("ring", "caliper")
# Sigmas of the logarithm before any reading (estimates): as in the sweep; +-40 %, all alike, is 0.25.
COOLING_PRIOR = 0.20
BACKING_PRIOR = 0.25
# Evidence must take this share off the prior's sigma, or it says too little to be worth keeping.
LEAST_GAIN = 0.25
PAINT_SIGMA_K = 15.0
# Neighbouring rows of a log err together: a log counts as this many readings, however long it is (estimate).
LOG_READINGS = 12
LOG_ROWS = 120
LARGEST = 5.0
SUSPECT = 3.0
DIFFERENCE = 0.02


@dataclass(frozen=True, kw_only=True)
class Pyrometer(Checked):
    """A temperature of the ring's surface, or of the caliper, taken some time after the duty's last braking."""

    axle: str = choice(*AXLES)
    part: str = choice(*PARTS, default="ring")
    value_C: float = number(ge=-50, le=1300)
    since_s: float = number(ge=0, le=7200)
    speed_mps: float = number(ge=0, le=100)
    sigma_K: float = number(15.0, gt=0, le=200)


@dataclass(frozen=True, kw_only=True)
class Paint(Checked):
    """What temperature paint or a strip says of the hottest it has been: the ring at its edge, or the caliper."""

    axle: str = choice(*AXLES)
    part: str = choice(*PARTS, default="ring")
    bound: str = choice("at_least", "less_than")
    value_C: float = number(ge=-50, le=1300)


@dataclass(frozen=True, kw_only=True)
class Logged(Checked):
    """A rubbing thermocouple's log of the ring's surface; time runs from the start of the duty."""

    axle: str = choice(*AXLES)
    t_s: tuple[float, ...] = numbers((), ge=0.0, le=3600.0 * MOST_HOURS)
    value_C: tuple[float, ...] = numbers((), ge=-50.0, le=1300.0)
    sigma_K: float = number(15.0, gt=0, le=200)

    def check(self) -> None:
        if len(self.t_s) < 3 or len(self.t_s) != len(self.value_C):
            raise FieldError("t_s", len(self.t_s), "at least 3 times, one for each temperature")
        for index, (before, after) in enumerate(itertools.pairwise(self.t_s)):
            if after <= before:
                raise FieldError(f"t_s[{index + 1}]", after, f"more than the time before it ({before})")


Evidence = Pyrometer | Paint | Logged


@dataclass(frozen=True, kw_only=True)
class AxleFit:
    """What one axle's evidence says: factors on its cooling and on the conductance from plates to caliper, with spread.

    Sigmas are those of the logarithm; `correlation` ties the two, for they explain a reading in each other's place.
    """

    cooling: float
    cooling_sigma: float
    backing: float
    backing_sigma: float
    correlation: float


@dataclass(frozen=True, kw_only=True)
class Residual:
    """One piece of evidence against the model before and after the fit; for a log, means over its rows."""

    kind: str
    axle: str
    part: str
    measured_C: float
    before_C: float
    after_C: float
    sigma_K: float
    suspect: bool


@dataclass(frozen=True, kw_only=True)
class Calibration:
    """Fits by axle (None where an axle has no evidence) and how well each piece of evidence is met."""

    front: AxleFit | None
    rear: AxleFit | None
    residuals: tuple[Residual, ...]


def calibrate(case: Case, evidence: Sequence[Evidence], watch: Watch | None = None) -> Calibration:
    """Fit cooling factor and backing conductance of each axle that has evidence.

    Least squares in logarithms, with the priors as further residuals (a maximum a posteriori estimate); a paint bound
    pulls only while it is broken. The covariance is that of the linearised problem at the fit. Raises SolveError where
    the evidence cannot tell (the spread of cooling hardly shrinks) or no sensible factor explains it.
    """
    if not evidence:
        raise SolveError("Enter at least one measured temperature.")
    axles = [i for i, name in enumerate(AXLES) if any(entry.axle == name for entry in evidence)]
    priors = np.array([COOLING_PRIOR, BACKING_PRIOR] * len(axles))
    problem = _Problem(case, evidence, axles)
    steps = 0

    def residuals(x: Array) -> Array:
        nonlocal steps
        steps += 1
        if watch is not None:
            # How often the fit will ask is not known; it seldom asks more than ten times.
            watch(min(0.95, steps / 10.0))
        return np.concatenate([problem.misfit(x[None, :])[0], x / priors])

    def jacobian(x: Array) -> Array:
        shifts = np.concatenate([x + DIFFERENCE * np.eye(len(x)), x - DIFFERENCE * np.eye(len(x))])
        rows = problem.misfit(shifts)
        slopes = (rows[: len(x)] - rows[len(x) :]).T / (2.0 * DIFFERENCE)
        return np.concatenate([slopes, np.diag(1.0 / priors)])

    start = np.zeros(len(priors))
    limit = math.log(LARGEST)
    # A third of a second to load, for what is asked now and then.
    from scipy.optimize import least_squares

    try:
        found = least_squares(residuals, start, jac=jacobian, bounds=(-limit, limit), xtol=1e-4, ftol=1e-6)
        slopes = np.asarray(found.jac)
        covariance = np.linalg.inv(slopes.T @ slopes)
    except (ValueError, np.linalg.LinAlgError):
        # What the machine's numbers make of the duty is beyond all sense, so that nothing can be compared with it.
        raise SolveError("The machine on this duty gives no temperatures to compare with: check its numbers.") from None
    fits = {
        AXLES[i]: _fit(found.x[2 * k : 2 * k + 2], covariance[2 * k : 2 * k + 2, 2 * k : 2 * k + 2])
        for k, i in enumerate(axles)
    }
    for name, fit in fits.items():
        _refuse_if_silent(name, fit)
    return Calibration(
        front=fits.get("front"),
        rear=fits.get("rear"),
        residuals=tuple(
            _residual(entry, before, after)
            for entry, before, after in zip(evidence, problem.predict(start), problem.predict(found.x), strict=True)
        ),
    )


def predicted_C(case: Case, evidence: Sequence[Evidence]) -> tuple[float, ...]:
    """What the model says of each piece of evidence as the case stands, in degC; of a log the mean."""
    rows = _Problem(case, evidence, range(len(AXLES))).predict(np.zeros(2 * len(AXLES)))
    return tuple(float(row.mean()) for row in rows)


def _fit(x: Array, covariance: Array) -> AxleFit:
    cooling, backing = (math.sqrt(float(covariance[k, k])) for k in range(2))
    return AxleFit(
        cooling=math.exp(float(x[0])),
        cooling_sigma=cooling,
        backing=math.exp(float(x[1])),
        backing_sigma=backing,
        correlation=float(np.clip(covariance[0, 1] / (cooling * backing), -1.0, 1.0)),
    )


def _refuse_if_silent(axle: str, fit: AxleFit) -> None:
    if fit.cooling_sigma > (1.0 - LEAST_GAIN) * COOLING_PRIOR:
        raise SolveError(
            f"These readings cannot tell how well the {axle} brakes are cooled: the factor would be known to "
            f"±{100 * fit.cooling_sigma:.0f} % after them, against ±{100 * COOLING_PRIOR:.0f} % before. Take readings "
            "at higher temperatures, or several at different times after the last braking."
        )
    if not 0.25 <= fit.cooling <= 4.0:
        raise SolveError(
            f"Only a cooling factor of {fit.cooling:.2g} would explain the {axle} readings, and none between 0.25 "
            "and 4 does. Check the duty, the machine's mass and which axle was measured."
        )


def _residual(entry: Evidence, before: Array, after: Array) -> Residual:
    measured, sigma, kind = _measured(entry)
    off = after - measured
    if isinstance(entry, Paint):
        kind = entry.bound
        off = np.minimum(off, 0.0) if entry.bound == "at_least" else np.maximum(off, 0.0)
    return Residual(
        kind=kind,
        axle=entry.axle,
        part="ring" if isinstance(entry, Logged) else entry.part,
        measured_C=float(measured.mean()),
        before_C=float(before.mean()),
        after_C=float(after.mean()),
        sigma_K=sigma,
        suspect=bool(math.sqrt(float((off**2).mean())) > SUSPECT * sigma),
    )


def _measured(entry: Evidence) -> tuple[Array, float, str]:
    """What was measured, its sigma in K, and what kind of evidence it is; a log thinned to LOG_ROWS."""
    if isinstance(entry, Logged):
        return np.asarray(entry.value_C)[_thin(len(entry.t_s))], entry.sigma_K, "logged"
    if isinstance(entry, Paint):
        return np.array([entry.value_C]), PAINT_SIGMA_K, entry.bound
    return np.array([entry.value_C]), entry.sigma_K, "pyrometer"


def _thin(rows: int) -> NDArray[np.intp]:
    return np.unique(np.linspace(0, rows - 1, min(rows, LOG_ROWS)).astype(np.intp))


class _Problem:
    """Evidence against the engine, for many sets of parameters at once."""

    def __init__(self, case: Case, evidence: Sequence[Evidence], axles: Sequence[int]) -> None:
        self.case = case
        self.evidence = evidence
        self.columns = [
            INPUTS.index(f"{AXLES[i]}.{name}")
            for i in axles
            for name in ("cooling_factor", "backing_conductance_W_per_K")
        ]

    def predict(self, x: Array) -> list[Array]:
        """What the model says for each piece of evidence at one set of parameters (logarithms of the factors)."""
        return [rows[0] for rows in self._predict(x[None, :])]

    def misfit(self, x: Array) -> Array:
        """Weighed residuals of all evidence for P sets of parameters, (P, M); a kept paint bound counts nothing."""
        parts = []
        for entry, predicted in zip(self.evidence, self._predict(x), strict=True):
            measured, sigma, _ = _measured(entry)
            off = (predicted - measured) / sigma
            if isinstance(entry, Paint):
                off = np.minimum(off, 0.0) if entry.bound == "at_least" else np.maximum(off, 0.0)
            elif isinstance(entry, Logged):
                off *= math.sqrt(min(1.0, LOG_READINGS / len(measured)))
            parts.append(off)
        return np.concatenate(parts, axis=1)

    def _predict(self, x: Array) -> list[Array]:
        """For each piece of evidence an array (P, rows of it)."""
        scale = np.ones((len(x), len(INPUTS)))
        scale[:, self.columns] = np.exp(x)
        axles, vehicles = pack_draws(self.case, scale)
        duty = self.case.duty
        # Readings taken equally long after the same driving share a run.
        afters = dict.fromkeys(After(e.since_s, e.speed_mps) for e in self.evidence if isinstance(e, Pyrometer))
        runs = {after: run_packed(axles, vehicles, duty, after=after).axles for after in afters}
        if any(isinstance(entry, Paint) for entry in self.evidence):
            whole = run_packed(axles, vehicles, duty).axles
        if any(isinstance(entry, Logged) for entry in self.evidence):
            histories = [history_packed(axles[i], vehicles[i], duty) for i in range(len(x))]
        found = []
        for entry in self.evidence:
            axle = AXLES.index(entry.axle)
            if isinstance(entry, Pyrometer):
                name = "end_fluid" if entry.part == "caliper" else "end_surface"
                column = runs[After(entry.since_s, entry.speed_mps)][name][:, axle]
                found.append(column[:, None])
            elif isinstance(entry, Paint):
                # Paint sits at the edge, away from the face's flashes: it sees the ring's mean.
                name = "peak_fluid" if entry.part == "caliper" else "peak_bulk"
                found.append(whole[name][:, axle][:, None])
            else:
                times = np.asarray(entry.t_s)[_thin(len(entry.t_s))]
                surface = HISTORY_FIELDS.index(f"{entry.axle}_surface_C")
                found.append(np.array([np.interp(times, rows[:, 0], rows[:, surface]) for rows in histories]))
        return found
