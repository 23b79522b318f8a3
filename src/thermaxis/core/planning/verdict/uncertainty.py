"""How far the numbers may be off: a quasi-random sweep over the estimates, its bands, and what they hang on."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.checked import Checked, number
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.batch import Grid, Watch, part_of, run_packed
from thermaxis.core.physics.packing import Records, pack
from thermaxis.core.physics.simulate import result_of
from thermaxis.core.planning.verdict.limits import fluid_left, margins
from thermaxis.core.planning.verdict.readings import Setup
from thermaxis.core.planning.verdict.worn import FLUID_GRID
from thermaxis.core.records import Case
from thermaxis.core.results import Result
from thermaxis.core.sampling import normal_quantile, sobol

Array = NDArray[np.float64]
DRAWS = 128
SEED = 690
# Longer steps for the draws only, two thirds of the time: on the demo duties each draw's peaks stay within 0.5 K of
# the engine's own grid (fluid 0.1 K), wear within 0.6 %, pressure within 0.1 %, where bands are tens of kelvin wide.
SWEEP_GRID = Grid(first_step_s=0.2, braking_step_s=0.5, cooling_step_s=12.0, growth=2.5, braking_share=1.0 / 6.0)
# Of a sweep that asks for worn pads too, what the run with the pads there are takes.
PLAIN_SHARE = 0.6
AXLE_INPUTS = (
    "pad.mu",
    "cooling_factor",
    "pad.wear_mm3_per_MJ",
    "backing_conductance_W_per_K",
    "gap_conductance_W_per_K",
    "caliper_mass_kg",
    "caliper_area_m2",
)
# Columns of a sweep, as dotted paths of the case.
INPUTS = (*(f"{axle}.{name}" for axle in ("front", "rear") for name in AXLE_INPUTS), "vehicle.mass_kg")


@dataclass(frozen=True, kw_only=True)
class AxleSpread(Checked):
    """Spread of one axle's estimates (physics.md sections 10 and 11).

    `cooling`, `wear` and `fitted_backing` are sigmas of the logarithm, the rest shares, all values within them equally
    likely. A calibration puts `fitted_backing` in the place of `backing`; `correlation` ties it to cooling then.
    """

    mu: float = number(0.08, ge=0, le=0.5)
    cooling: float = number(0.20, ge=0, le=1)
    wear: float = number(0.35, ge=0, le=2)
    backing: float = number(0.40, ge=0, le=0.9)
    fitted_backing: float | None = number(None, ge=0, le=1, optional=True)
    correlation: float = number(0.0, ge=-1, le=1)
    gap: float = number(0.40, ge=0, le=0.9)
    caliper: float = number(0.20, ge=0, le=0.9)


@dataclass(frozen=True, kw_only=True)
class Spreads(Checked):
    """Spreads of every estimate of a sweep; `mass` is a share, all values within it equally likely."""

    front: AxleSpread = field(default_factory=AxleSpread)
    rear: AxleSpread = field(default_factory=AxleSpread)
    mass: float = number(0.03, ge=0, le=0.5)


@dataclass(frozen=True, kw_only=True)
class Influence:
    """Share of a band's variance that one estimate alone explains (first-order index), 0 to 1."""

    field: str
    share: float


@dataclass(frozen=True, kw_only=True)
class Band:
    """P10, P50 and P90 of one number over the sweep, and the estimates it hangs on, greatest first."""

    name: str
    p10: float
    p50: float
    p90: float
    influences: tuple[Influence, ...]


@dataclass(frozen=True, kw_only=True)
class Crossing:
    """How likely one limit is crossed, as the share of the sweep's draws that cross it."""

    limit: str
    axle: str
    probability: float


@dataclass(frozen=True, kw_only=True)
class Sweep:
    """Bands of the numbers asked for, every limit with its likelihood of being crossed, and that of any of them.

    `nearest` is what is left, in K or N, to the limit that is crossed most often, or that lies the fewest of its own
    standard deviations away; negative is crossed.
    """

    draws: int
    bands: tuple[Band, ...]
    crossings: tuple[Crossing, ...]
    any_crossed: float
    nearest: Band


def unit_draws(count: int, seed: int = SEED) -> Array:
    """Scrambled Sobol points in the unit cube, (count, inputs); `count` a power of two (Owen 1998; scipy.stats.qmc)."""
    if count < 8 or count & (count - 1):
        raise FieldError("count", count, "a power of two, at least 8")
    points: Array = sobol(count, len(INPUTS), seed)
    return points


def factors(unit: Array, spreads: Spreads) -> Array:
    """Turn points of the unit cube, (N, inputs), into factors on the inputs, the same shape."""
    normal = normal_quantile(np.clip(unit, 1e-9, 1.0 - 1e-9))
    even = 2.0 * unit - 1.0
    columns, wide = [], len(AXLE_INPUTS)
    for start, axle in ((0, spreads.front), (wide, spreads.rear)):
        cooling, wear, backing = (normal[:, start + i] for i in (1, 2, 3))
        columns.append(1.0 + axle.mu * even[:, start])
        columns.append(np.exp(axle.cooling * cooling))
        columns.append(np.exp(axle.wear * wear))
        if axle.fitted_backing is None:
            columns.append(1.0 + axle.backing * even[:, start + 3])
        else:
            tied = axle.correlation * cooling + np.sqrt(1.0 - axle.correlation**2) * backing
            columns.append(np.exp(axle.fitted_backing * tied))
        columns.append(1.0 + axle.gap * even[:, start + 4])
        columns.append(1.0 + axle.caliper * even[:, start + 5])
        columns.append(1.0 + axle.caliper * even[:, start + 6])
    columns.append(1.0 + spreads.mass * even[:, -1])
    return np.column_stack(columns)


# Packed fields that a column of `AXLE_INPUTS` multiplies.
PACKED = (
    ("mu_value", "mu_slope"),
    ("cooling_factor",),
    ("wear",),
    ("backing_to_caliper",),
    ("gap_conductance",),
    ("caliper_capacity",),
    ("caliper_area",),
)


def pack_draws(case: Case, scale: Array) -> tuple[Records, Records]:
    """Pack one case N times with its estimates multiplied by `scale`, (N, inputs): see `INPUTS` for the columns."""
    one_axles, one_vehicle = pack([case])
    axles, vehicles = np.repeat(one_axles, len(scale), axis=0), np.repeat(one_vehicle, len(scale))
    for i in range(2):
        for k, names in enumerate(PACKED):
            factor = scale[:, i * len(PACKED) + k]
            for name in names:
                column = axles[name][:, i]
                column *= factor.reshape(-1, *[1] * (column.ndim - 1))
    for name in ("inertia", "mass", "rolling"):
        vehicles[name] *= scale[:, -1]
    return axles, vehicles


def draw_results(case: Case, scale: Array, watch: Watch | None = None) -> list[Result]:
    """Results of one case under N sets of factors on its estimates, (N, inputs)."""
    outcome = run_packed(*pack_draws(case, scale), case.duty, SWEEP_GRID, watch=watch)
    return [result_of(case, outcome.axles[i], outcome.runs[i], outcome.stops[i]) for i in range(len(scale))]


def sweep(
    setup: Setup,
    numbers_of: Callable[[Result], Mapping[str, float]],
    spreads: Spreads,
    *,
    count: int = DRAWS,
    seed: int = SEED,
    watch: Watch | None = None,
    worn: Case | None = None,
) -> Sweep:
    """Run the setup's case under `count` draws of its estimates; band what `numbers_of` takes from each result.

    With `worn`, the case with its pads as thin as when they are changed, its fluid is one more limit of both axles.

    Draws are quasi-random with a fixed seed, so the same question gives the same answer. Every draw is a whole run
    of the engine with the true couplings; nothing is linearised.
    """
    unit = unit_draws(count, seed)
    scale, plain = factors(unit, spreads), 1.0 if worn is None else PLAIN_SHARE
    results = draw_results(setup.case, scale, part_of(watch, 0.0, plain))
    numbers = [numbers_of(result) for result in results]
    bands = tuple(_band(name, np.array([row[name] for row in numbers]), unit) for name in numbers[0])
    left = [list(margins(setup, result)) for result in results]
    if worn is not None:
        rest = part_of(watch, plain, 1.0)
        peaks = run_packed(*pack_draws(worn, scale), worn.duty, FLUID_GRID, watch=rest).axles["peak_fluid"]
        for row, values in zip(left, peaks.tolist(), strict=True):
            row += [fluid_left(setup, axle, value) for axle, value in zip(("front", "rear"), values, strict=True)]
    crossings = tuple(
        Crossing(limit=first.limit, axle=first.axle, probability=sum(row[i].left < 0 for row in left) / count)
        for i, first in enumerate(left[0])
    )
    crossed = sum(any(margin.left < 0 for margin in row) for row in left) / count
    room = np.array([[margin.left for margin in row] for row in left])
    distance = room.mean(axis=0) / np.maximum(1e-9, room.std(axis=0))
    i = min(range(len(crossings)), key=lambda i: (-crossings[i].probability, distance[i]))
    nearest = _band(f"{crossings[i].axle} {crossings[i].limit}".strip(), room[:, i], unit)
    return Sweep(draws=count, bands=bands, crossings=crossings, any_crossed=crossed, nearest=nearest)


def _band(name: str, values: Array, unit: Array) -> Band:
    p10, p50, p90 = (float(value) for value in np.percentile(values, (10, 50, 90)))
    shares = first_order(unit, values)
    order = np.argsort(-shares)
    influences = tuple(Influence(field=INPUTS[i], share=float(shares[i])) for i in order if shares[i] >= 0.01)
    return Band(name=name, p10=p10, p50=p50, p90=p90, influences=influences)


def first_order(unit: Array, values: Array) -> Array:
    """First-order sensitivity indices of `values` (N,) to each column of `unit` (N, d), each 0 to 1.

    Least squares on an additive polynomial chaos, Legendre polynomials of degree 1 and 2 of each input: the variance an
    input's own polynomials carry over the whole (Sudret, Reliab. Eng. Syst. Saf. 93, 2008). Zero where nothing
    varies. Needs N well over 2 d + 1.
    """
    count, width = unit.shape
    if count < 2 * width + 2:
        raise FieldError("values", count, f"at least {2 * width + 2} draws")
    total = float(values.var())
    if total <= 1e-18 * max(1.0, float(np.abs(values).max()) ** 2):
        return np.zeros(width)
    x = 2.0 * unit - 1.0
    basis = np.concatenate([np.sqrt(3.0) * x, np.sqrt(5.0) * (1.5 * x**2 - 0.5)], axis=1)
    design = np.column_stack([np.ones(count), basis])
    coefficients = np.linalg.lstsq(design, values, rcond=None)[0][1:]
    shares: Array = (coefficients[:width] ** 2 + coefficients[width:] ** 2) / total
    return np.clip(shares, 0.0, 1.0)
