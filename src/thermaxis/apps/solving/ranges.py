"""Ranges of the five readings, with the estimates as loose as they are."""

from __future__ import annotations

import dataclasses
from collections.abc import Sequence

from thermaxis.apps.garage.duty_mapping import duty_or_error
from thermaxis.apps.solving import in_force, life
from thermaxis.core.physics.batch import Watch
from thermaxis.core.planning.bedding.state import UNBEDDED_MU
from thermaxis.core.planning.duty.calibrate import AxleFit
from thermaxis.core.planning.life.wear import EVENT_SIGMA
from thermaxis.core.planning.verdict import readings
from thermaxis.core.planning.verdict.uncertainty import AxleSpread, Spreads, Sweep, sweep
from thermaxis.core.results import Result


def spreads_of(state: in_force.InForce, rows: Sequence[life.LifeRow]) -> Spreads:
    """How far each estimate may be off: what calibration and pad measurements have narrowed is narrower.

    The friction of pads that are not bedded lies within 20 %.
    """
    by_axle = {}
    for row in rows:
        spread = AxleSpread(wear=(row.scale.sigma**2 + EVENT_SIGMA**2) ** 0.5)
        fit = state.fits.get(row.axle)
        if fit is not None:
            spread = dataclasses.replace(narrowed(fit), wear=spread.wear)
        if not state.bedded[row.axle].bites:
            spread = dataclasses.replace(spread, mu=UNBEDDED_MU)
        by_axle[row.axle] = spread
    return Spreads(front=by_axle["front"], rear=by_axle["rear"])


def friction_spread(state: in_force.InForce) -> float:
    """How far friction is taken to be off at most, as a share of its curve."""
    return AxleSpread().mu if all(found.bites for found in state.bedded.values()) else UNBEDDED_MU


def narrowed(fit: AxleFit) -> AxleSpread:
    """The spread of an axle whose cooling has been fitted to measured temperatures."""
    return AxleSpread(cooling=fit.cooling_sigma, fitted_backing=fit.backing_sigma, correlation=fit.correlation)


def ranges(state: in_force.InForce, watch: Watch | None = None) -> Sweep:
    """Bands of the five readings (and of their place on the rule, `<name>.fill`) and the chance of each limit."""
    rows = life.life_rows(state, None)
    pace = duty_or_error(state.machine).events_per_month

    def wear_m(result: Result, axle: str) -> float:
        return float(getattr(result, axle).pad_wear_m)

    def strip(result: Result) -> dict[str, float]:
        left = {
            row.axle: min(
                row.old_events, row.remaining.events * row.computed_per_event_m / max(1e-12, wear_m(result, row.axle))
            )
            for row in rows
        }
        found = readings.five_readings(state.setup, result, left, pace)
        values = {reading.name: reading.value for reading in found}
        return values | {f"{reading.name}.fill": reading.fill for reading in found}

    return sweep(state.setup, strip, spreads_of(state, rows), watch=watch, worn=state.worn_case)
