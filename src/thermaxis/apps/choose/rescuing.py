"""What would have to change for a rejected set to pass; nothing here writes."""

from __future__ import annotations

import dataclasses

from thermaxis.apps.catalogue.mapping import boiling_C
from thermaxis.apps.choose.choosing import Offer, known_keys, under
from thermaxis.apps.garage import duty_mapping as duties
from thermaxis.apps.garage.shapes import Plan
from thermaxis.apps.solving import trying
from thermaxis.apps.solving.solver import fluid_peaks, solve
from thermaxis.apps.solving.trying import WhatIf
from thermaxis.core.physics.batch import Watch
from thermaxis.core.planning.choice import rescue
from thermaxis.core.planning.choice.choose import DEFAULT_WEIGHTS, TOO_THICK, WORN, judge_candidates
from thermaxis.core.planning.duty import answers
from thermaxis.core.planning.duty.lap import DRIVER_LEVELS
from thermaxis.core.planning.verdict.readings import Setup
from thermaxis.core.records import Case


def ways_out(offer: Offer, key: str, what_if: WhatIf, watch: Watch | None = None) -> list[answers.Answer]:
    """What would have to change for a rejected set to pass: each lever the duty has, alone; empty for one that passes.

    FieldError for a key the offer has not.
    """
    known_keys(offer, [key])
    (entry,), facts = under(offer, what_if, [key])
    result = solve([entry.setup.case])[0]
    judged = judge_candidates([entry], DEFAULT_WEIGHTS[offer.use], facts.event_hours, [result], fluid_peaks)[0]
    if judged.rejected_for in (None, "rotor worn out", TOO_THICK):
        # What is too thick for its caliper has its ways out under Fit, where it is measured.
        return []
    if judged.rejected_for == "does not fit":
        rooms = (entry.front_room_m, entry.rear_room_m)
        return [rescue.room_to_pass(-min(room for room in rooms if room is not None))]
    if judged.rejected_for == "rear locks first":
        return [rescue.rear_friction_to_pass(entry.setup)]
    machine, plan = trying.changed(offer.standing, offer.plan, what_if)
    setup = entry.setup
    if judged.rejected_for == WORN:
        # What has to pass is the set as it will be when it is changed.
        setup = dataclasses.replace(setup, case=entry.worn_case)
        result = solve([setup.case])[0]
    found = [rescue.cooling_to_pass(setup, watch)]
    if judged.rejected_for in ("fluid boils", WORN):
        fluid, pressure = offer.standing.fill.fluid, setup.case.environment.pressure_Pa
        found.insert(0, rescue.fluid_to_pass(setup, result, boiling_C(fluid, 0.0, pressure)))
    if judged.rejected_for == WORN:
        found.insert(0, rescue.change_to_pass(entry))
    levers = trying.levers_of(dataclasses.replace(offer.standing, machine=machine), plan)
    if levers.repeats is not None and levers.repeats > 1:
        found.append(
            answers.most_repeats(
                setup,
                lambda count: duties.facts_of(machine, plan, repeats=count).duty,
                most=levers.repeats,
                noun=levers.noun,
            )
        )
    if levers.driver_level is not None:
        levels = list(DRIVER_LEVELS)
        slower = levels[: levels.index(levers.driver_level)][::-1]
        plans = {level: plan.shaped(driver_level=level) for level in slower}
        found.append(
            rescue.driver_to_pass(setup, {level: duties.facts_of(machine, each).duty for level, each in plans.items()})
        )
    if levers.speed_mps is not None:
        found.append(_slower(setup, offer, plan, levers.speed_mps))
    found.append(rescue.mass_to_pass(setup))
    return found


def _slower(setup: Setup, offer: Offer, plan: Plan, now_mps: float) -> answers.Answer:
    def case_at(speed: float) -> Case:
        slower = WhatIf(speed_factor=speed / now_mps)
        other, slow = trying.changed(offer.standing, plan, slower)
        return dataclasses.replace(setup.case, duty=duties.facts_of(other, slow).duty)

    return rescue.speed_to_pass(setup, low_mps=0.3 * now_mps, high_mps=now_mps, case_at=case_at)
