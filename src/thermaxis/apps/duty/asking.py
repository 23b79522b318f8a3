"""Inverse questions of a machine on its duty; nothing here writes."""

from __future__ import annotations

from collections.abc import Callable

from thermaxis.apps.garage import duty_mapping as duties
from thermaxis.apps.garage.models import Duty, Machine
from thermaxis.apps.garage.shapes import Descent, Stops
from thermaxis.apps.solving import in_force
from thermaxis.core import records
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.batch import Watch
from thermaxis.core.planning.duty import answers

MOST_REPEATS = 120
MOST_COOL_DOWN_LAPS = 12
HIGHEST_SPEED_MPS = 25.0
HEAVIEST_TRAILER_KG = 5000.0


def questions(machine: Machine) -> tuple[str, ...]:
    """The questions that make sense for the machine's duty, most telling first."""
    duty = duties.duty_or_error(machine)
    if duty.kind == Descent.kind:
        towing = machine.trailer_mass_kg is not None and machine.towing and not duty.without_trailer
        trailer = ("greatest_trailer",) if towing else ()
        return ("greatest_speed", *trailer, "cooling_needed")
    if duty.kind == Stops.kind:
        return ("most_repeats", "cooling_needed")
    if duty.circuit is None:
        return ("cooling_needed",)
    return (
        ("most_repeats", "cooling_needed", "cool_down") if duty.circuit.closed else ("most_repeats", "cooling_needed")
    )


def answer(state: in_force.InForce, question: str, watch: Watch | None = None) -> answers.Answer:
    """Solve one of the machine's questions. FieldError for one that its duty does not pose."""
    machine, setup = state.machine, state.setup
    allowed = questions(machine)
    if question not in allowed:
        raise FieldError("question", question, "one of " + ", ".join(allowed))
    duty = duties.duty_or_error(machine)
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
