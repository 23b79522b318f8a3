"""The verdict strip: five readings of a machine as it stands, and what moves each."""

from __future__ import annotations

import dataclasses
import functools
from collections.abc import Callable, Sequence

from thermaxis.apps.garage.duty_mapping import duty_or_error
from thermaxis.apps.solving.in_force import InForce
from thermaxis.apps.solving.life import life_rows
from thermaxis.apps.solving.solver import fluid_peaks
from thermaxis.core.errors import FieldError
from thermaxis.core.planning.choice.outcome import Outcome, outcome
from thermaxis.core.planning.explain import why
from thermaxis.core.planning.verdict import readings
from thermaxis.core.records import Case
from thermaxis.core.results import Result


def verdict(state: InForce) -> tuple[readings.Reading, ...]:
    """The five readings of a machine, its set and duty."""
    left = {row.axle: row.due_events for row in life_rows(state, None)}
    pace = duty_or_error(state.machine).events_per_month
    return readings.five_readings(state.setup, state.result, left, pace)


def survives(state: InForce, five: Sequence[readings.Reading]) -> Outcome:
    """Whether what is on survives its duty, in a line."""
    worn = fluid_peaks([state.worn_case])[0]
    return outcome(state.candidate, state.result, state.facts.event_hours, five, worn)


READING_OF: dict[str, Callable[[readings.Setup, Case, Result], float]] = {
    "rotor": lambda setup, case, result: readings.hottest_ring(_with(setup, case), result).value,
    "window": lambda setup, case, result: readings.outside_window(_with(setup, case), result).value,
    "pedal": lambda setup, case, result: readings.pedal_used(_with(setup, case), result).value,
    "fluid": lambda setup, case, result: readings.hottest_fluid(_with(setup, case), result).value,
}


def _with(setup: readings.Setup, case: Case) -> readings.Setup:
    return dataclasses.replace(setup, case=case)


def sensitivities_of(state: InForce, name: str) -> tuple[why.Sensitivity, ...]:
    """How far one reading of the strip moves for +10 % of each input; for life, wear of the shortest pad in um."""
    if name == "life":
        axle = min(life_rows(state, None), key=lambda row: row.due_events).axle
        return why.sensitivities(state.setup.case, lambda _, result: 1e6 * float(getattr(result, axle).pad_wear_m))
    if name not in READING_OF:
        raise FieldError("reading", name, "one of " + ", ".join([*READING_OF, "life"]))
    return why.sensitivities(state.setup.case, functools.partial(READING_OF[name], state.setup))
