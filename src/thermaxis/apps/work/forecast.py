"""Ranges of the readings, answers to inverse questions, and calibration of a machine: stateless."""

from __future__ import annotations

import dataclasses
from collections.abc import Callable, Sequence
from typing import Any

from thermaxis.apps.garage import duty_mapping as duties
from thermaxis.apps.garage import mapping as garage
from thermaxis.apps.garage.models import Duty, Machine
from thermaxis.apps.work import compute, querysets
from thermaxis.apps.work.mapping import CaseBuilder, evidence_record
from thermaxis.core import records
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.batch import Watch
from thermaxis.core.planning.duty import answers
from thermaxis.core.planning.duty.calibrate import AxleFit, Calibration, calibrate
from thermaxis.core.planning.life import intervals
from thermaxis.core.planning.verdict import readings
from thermaxis.core.planning.verdict.uncertainty import AxleSpread, Spreads, Sweep, sweep
from thermaxis.core.results import Result

MOST_REPEATS = 120
MOST_COOL_DOWN_LAPS = 12
HIGHEST_SPEED_MPS = 25.0
HEAVIEST_TRAILER_KG = 5000.0


# --- ranges ------------------------------------------------------------------------------------------------------


def spreads_of(state: compute.InForce, rows: Sequence[compute.LifeRow]) -> Spreads:
    """How far each estimate may be off: what calibration and pad measurements have narrowed is narrower."""
    by_axle = {}
    for row in rows:
        spread = AxleSpread(wear=(row.scale.sigma**2 + intervals.EVENT_SIGMA**2) ** 0.5)
        fit = state.fits.get(row.axle)
        if fit is not None:
            spread = dataclasses.replace(narrowed(fit), wear=spread.wear)
        by_axle[row.axle] = spread
    return Spreads(front=by_axle["front"], rear=by_axle["rear"])


def narrowed(fit: AxleFit) -> AxleSpread:
    """The spread of an axle whose cooling has been fitted to measured temperatures."""
    return AxleSpread(cooling=fit.cooling_sigma, pad_heat=fit.pad_heat_sigma, correlation=fit.correlation)


def ranges(state: compute.InForce, watch: Watch | None = None) -> Sweep:
    """Bands of the five readings (and of their place on the rule, `<name>.fill`) and the chance of each limit."""
    rows = compute.life_rows(state, None)
    pace = compute.duty_or_error(state.machine).events_per_month

    def strip(result: Result) -> dict[str, float]:
        left = {
            row.axle: row.due_events * row.computed_per_event_mm / max(1e-12, getattr(result, row.axle).pad_wear_mm)
            for row in rows
        }
        found = readings.five_readings(state.setup, result, left, pace)
        values = {reading.name: reading.value for reading in found}
        return values | {f"{reading.name}.fill": reading.fill for reading in found}

    return sweep(state.setup, strip, spreads_of(state, rows), watch=watch)


# --- inverse questions -------------------------------------------------------------------------------------------


def questions(machine: Machine) -> tuple[str, ...]:
    """The questions that make sense for the machine's duty, most telling first."""
    duty = compute.duty_or_error(machine)
    if duty.kind == Duty.Kind.DESCENT:
        towing = machine.trailer_mass_kg is not None and machine.towing and not duty.without_trailer
        trailer = ("greatest_trailer",) if towing else ()
        return ("greatest_speed", *trailer, "cooling_needed")
    if duty.kind == Duty.Kind.STOPS:
        return ("most_repeats", "cooling_needed")
    if duty.circuit is None:
        return ("cooling_needed",)
    return (
        ("most_repeats", "cooling_needed", "cool_down") if duty.circuit.closed else ("most_repeats", "cooling_needed")
    )


def answer(state: compute.InForce, question: str, watch: Watch | None = None) -> answers.Answer:
    """Solve one of the machine's questions. FieldError for one that its duty does not pose."""
    machine, setup = state.machine, state.setup
    allowed = questions(machine)
    if question not in allowed:
        raise FieldError("question", question, "one of " + ", ".join(allowed))
    duty = compute.duty_or_error(machine)
    if question == "greatest_speed":
        return answers.greatest_speed(setup, low_mps=3.0, high_mps=HIGHEST_SPEED_MPS, watch=watch)
    if question == "greatest_trailer":
        return answers.greatest_trailer(setup, high_kg=HEAVIEST_TRAILER_KG, watch=watch)
    if question == "cooling_needed":
        return answers.cooling_needed(setup, watch)
    if question == "cool_down":

        def with_cool_down(count: int) -> records.Duty:
            return duties.facts_of(machine, state.plan, cool_down_laps=count).duty

        return answers.cool_down_needed(
            setup, with_cool_down, most=MOST_COOL_DOWN_LAPS, noun="cool-down lap", watch=watch
        )

    def repeated(count: int) -> records.Duty:
        return duties.facts_of(machine, state.plan, repeats=count).duty

    most = _most_that_fit(repeated)
    return answers.most_repeats(setup, repeated, most=most, noun=noun_of(duty), watch=watch)


def _most_that_fit(repeated: Callable[[int], records.Duty]) -> int:
    """The most repeats up to `MOST_REPEATS` that make a duty short enough to compute."""

    def fits(count: int) -> bool:
        try:
            repeated(count)
        except FieldError:
            return False
        return True

    if fits(MOST_REPEATS):
        return MOST_REPEATS
    good, bad = 1, MOST_REPEATS
    while bad - good > 1:
        middle = (good + bad) // 2
        good, bad = (middle, bad) if fits(middle) else (good, middle)
    return good


def noun_of(duty: Duty) -> str:
    """What one repeat of a duty is called."""
    if duty.circuit is None:
        return "round"
    return "lap" if duty.circuit.closed else "run"


# --- calibration -------------------------------------------------------------------------------------------------


def fit_evidence(machine: Machine, evidence: Sequence[dict[str, Any]], watch: Watch | None = None) -> Calibration:
    """Fit cooling and heat partition to evidence taken on the machine's present set and duty, from the bare model."""
    entries = []
    for index, entry in enumerate(evidence):
        with garage.under(f"evidence[{index}]"):
            entries.append(evidence_record(entry))
    duty, fitted = compute.duty_or_error(machine), compute.set_or_error(machine)
    facts = duties.duty_facts(machine, duty)
    case = CaseBuilder(machine, facts.duty, facts.conditions, calibrated=False).case(querysets.parts_of(fitted))
    return calibrate(case, entries, watch)
