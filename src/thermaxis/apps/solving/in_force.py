"""A machine as it stands, solved: what every stage asks first."""

from __future__ import annotations

import dataclasses
from dataclasses import dataclass

from thermaxis.apps.fitted.bedded import bedding_states
from thermaxis.apps.fitted.parts import AXLES
from thermaxis.apps.fitted.standing import Standing, standing_of
from thermaxis.apps.fitted.wearing import PartWear, Past, parts_worn
from thermaxis.apps.garage import duty_mapping as duties
from thermaxis.apps.garage.mapping import school_of
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.garage.shapes import Plan
from thermaxis.apps.solving.driven import Driving, past_of
from thermaxis.apps.solving.limits import Limit, computed_limits
from thermaxis.apps.solving.mapping import CaseBuilder, change_m
from thermaxis.apps.solving.solver import solve
from thermaxis.apps.solving.trying import NOTHING, WhatIf, changed, setup_under
from thermaxis.core.planning.bedding.state import Bedding
from thermaxis.core.planning.choice.figures import Candidate
from thermaxis.core.planning.duty.calibrate import AxleFit
from thermaxis.core.planning.verdict import readings
from thermaxis.core.planning.verdict.worn import with_material
from thermaxis.core.records import Case, DescentDuty
from thermaxis.core.results import Result

SHORTEST = DescentDuty(kind="descent", grade=0.0, speed_mps=10.0, duration_s=1.0, then_s=0.0, then_speed_mps=0.0)


@dataclass(frozen=True, kw_only=True)
class InForce:
    """A machine with its things and duty, solved; `worn`, `past`, `fits` (its calibration) and `bedded` by axle,
    `driving` what solves other duties of it, `limits` what computation asks to be left of a pad. Never changed.

    Its case has the friction material that is left on its pads; `worn_case` what is left when they are changed.
    `machine` is the one that was solved: under a what-if another one than the standing's.
    """

    machine: Machine
    standing: Standing
    plan: Plan
    facts: duties.DutyFacts
    setup: readings.Setup
    candidate: Candidate
    worn_case: Case
    result: Result
    worn: dict[str, tuple[PartWear, ...]]
    past: dict[str, Past]
    driving: Driving
    limits: dict[str, tuple[Limit, ...]]
    fits: dict[str, AxleFit]
    bedded: dict[str, Bedding]


def in_force(machine: Machine) -> InForce:
    """Solve the machine as it stands: what is on it, on its duty."""
    duty, standing = duties.duty_or_error(machine), standing_of(machine)
    plan = duties.plan_of(duty)
    facts = duties.facts_of(machine, plan)
    builder = CaseBuilder(standing, facts.duty, facts.conditions)
    # As the choice sees it, so that both judge it by the same limits.
    candidate = builder.candidate(standing.parts, duty.use, currency="")
    new = candidate.setup
    # What they have worn by is computed with the pads as they were bought, the rest with what is left of them.
    driving = Driving(standing, {(machine.pk, duty.pk): (solve([new.case])[0], facts)})
    past, worn = _wear(standing, driving)
    case = with_material(new.case, *_thinnest_m(worn))
    setup = dataclasses.replace(new, case=case)
    school = school_of(machine, duty.use)
    changes = (change_m(school, machine.kind, standing.pads(axle).size) for axle in AXLES)
    return InForce(
        machine=machine,
        standing=standing,
        plan=plan,
        facts=facts,
        setup=setup,
        candidate=dataclasses.replace(candidate, setup=setup),
        worn_case=with_material(new.case, *changes),
        result=solve([case])[0],
        worn=worn,
        past=past,
        driving=driving,
        limits=computed_limits(standing, new.case, new.boiling_C, duty.name),
        fits=builder.fits,
        bedded=bedding_states(standing),
    )


def case_now(standing: Standing, builder: CaseBuilder) -> Case:
    """A case with what is on, its pads as thin as they are today."""
    _, worn = _wear(standing, Driving(standing))
    return with_material(builder.case(standing.parts), *_thinnest_m(worn))


Worn = dict[str, tuple[PartWear, ...]]


def _wear(standing: Standing, driving: Driving) -> tuple[dict[str, Past], Worn]:
    past = {axle: past_of(standing, standing.pads(axle), driving) for axle in AXLES}
    machine = standing.machine
    worn = {}
    for axle in AXLES:
        mounting = standing.axles[axle].pads
        worn[axle] = parts_worn(mounting, machine.odometer_km, past[axle], machine.duty_id or mounting.duty_id)
    return past, worn


def _thinnest_m(worn: Worn) -> tuple[float, float]:
    """All pads of an axle are taken to be as thin as the thinnest: the safe side for the fluid."""
    front, rear = (min(part.thickness_m for part in worn[axle]) for axle in AXLES)
    return front, rear


def tried(state: InForce, what_if: WhatIf) -> InForce:
    """The same machine and things under a what-if; past wear stays as it is."""
    if what_if == NOTHING:
        return state
    machine, plan = changed(state.standing, state.plan, what_if)
    facts = duties.facts_of(machine, plan) if what_if.drives else state.facts
    setup = setup_under(state.setup, what_if, state.standing, facts)
    worn = setup_under(dataclasses.replace(state.setup, case=state.worn_case), what_if, state.standing, facts)
    return dataclasses.replace(
        state,
        machine=machine,
        plan=plan,
        facts=facts,
        setup=setup,
        candidate=dataclasses.replace(state.candidate, setup=setup),
        worn_case=worn.case,
        result=solve([setup.case])[0],
    )
