"""A duty as curves, thinned for drawing."""

from __future__ import annotations

import itertools
from typing import Any

import numpy as np

from thermaxis.apps.fitted.standing import Standing
from thermaxis.apps.garage import duty_mapping as duties
from thermaxis.apps.garage.shapes import Plan
from thermaxis.apps.solving.in_force import case_now
from thermaxis.apps.solving.mapping import CaseBuilder
from thermaxis.apps.solving.solver import solve
from thermaxis.core.physics.simulate import history
from thermaxis.core.records import Case
from thermaxis.core.results import HISTORY_FIELDS, Result

TRACE_POINTS = 600


def duty_trace(
    standing: Standing, plan: Plan, until_s: float | None
) -> tuple[duties.DutyFacts, dict[str, list[float]], Result]:
    """Speed, brake power and ring temperatures of a duty with the fitted set, up to a time, thinned for drawing."""
    facts = duties.facts_of(standing.machine, plan)
    case = case_now(standing, CaseBuilder(standing, facts.duty, facts.conditions))
    rows = history(case)
    return facts, thinned(rows if until_s is None else rows[rows[:, 0] <= until_s], case), solve([case])[0]


def thinned(rows: np.ndarray[Any, np.dtype[np.float64]], case: Case) -> dict[str, list[float]]:
    """A history as columns of at most TRACE_POINTS rows: of each bucket the rows of least and greatest power.

    Power of all rotors is added up as `brake_power_W`.
    """
    columns = {name: rows[:, i] for i, name in enumerate(HISTORY_FIELDS)}
    power = columns["front_power_W"] * case.front.rotors + columns["rear_power_W"] * case.rear.rotors
    keep = np.arange(len(rows))
    if len(rows) > TRACE_POINTS:
        # Both ends of each bucket's power, so that thinning hides neither a stop nor the pause before it.
        edges = np.linspace(0, len(rows), TRACE_POINTS // 2 + 1).astype(int)
        found = [
            low + extreme(power[low:high])
            for low, high in itertools.pairwise(edges)
            for extreme in (np.argmin, np.argmax)
        ]
        keep = np.unique(found)
    chosen = ("t_s", "v_mps", "front_surface_C", "rear_surface_C", "front_fluid_C")
    out = {name: [round(float(value), 3) for value in columns[name][keep]] for name in chosen}
    out["brake_power_W"] = [round(float(value)) for value in power[keep]]
    return out
