"""A machine as it stands, solved: what every stage asks first."""

from __future__ import annotations

import dataclasses
from dataclasses import dataclass

from thermaxis.apps.fitted.bedded import bedding_states, results_of
from thermaxis.apps.fitted.models import PadMounting, PadSet
from thermaxis.apps.fitted.parts import AXLES, Parts, pads_on
from thermaxis.apps.fitted.standing import Standing, standing_of, standing_or_none
from thermaxis.apps.fitted.wearing import PartWear, Past, parts_worn
from thermaxis.apps.garage import duty_mapping as duties
from thermaxis.apps.garage.mapping import school_of
from thermaxis.apps.garage.models import Duty, Machine
from thermaxis.apps.solving.mapping import CaseBuilder, change_mm
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
    """A machine with its things and duty, solved; `worn`, `past`, `fits` (its calibration) and `bedded` by axle. Never
    changed.

    Its case has the friction material that is left on its pads; `worn_case` what is left when they are changed.
    `machine` is the one that was solved: under a what-if another one than the standing's.
    """

    machine: Machine
    standing: Standing
    plan: duties.Plan
    facts: duties.DutyFacts
    setup: readings.Setup
    candidate: Candidate
    worn_case: Case
    result: Result
    worn: dict[str, tuple[PartWear, ...]]
    past: dict[str, Past]
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
    known = {(machine.pk, duty.pk): (solve([new.case])[0], facts)}
    past, worn = _wear(standing, known)
    case = with_material(new.case, *_thinnest_m(worn))
    setup = dataclasses.replace(new, case=case)
    school = school_of(machine, duty.use)
    changes = (1e-3 * change_mm(school, machine.kind, standing.pads(axle).size) for axle in AXLES)
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
        fits=builder.fits,
        bedded=bedding_states(standing),
    )


def case_now(standing: Standing, builder: CaseBuilder) -> Case:
    """A case with what is on, its pads as thin as they are today."""
    _, worn = _wear(standing, {})
    return with_material(builder.case(standing.parts), *_thinnest_m(worn))


Worn = dict[str, tuple[PartWear, ...]]


def _wear(standing: Standing, known: Known) -> tuple[dict[str, Past], Worn]:
    past = {axle: past_of(standing, standing.pads(axle), known) for axle in AXLES}
    odometer_km = standing.machine.odometer_km
    return past, {axle: parts_worn(standing.axles[axle].pads, odometer_km, past[axle]) for axle in AXLES}


def _thinnest_m(worn: Worn) -> tuple[float, float]:
    """All pads of an axle are taken to be as thin as the thinnest: the safe side for the fluid."""
    front, rear = (1e-3 * min(part.thickness_mm for part in worn[axle]) for axle in AXLES)
    return front, rear


Known = dict[tuple[int, int], tuple[Result, duties.DutyFacts]]


def past_of(standing: Standing, pads: PadSet, known: Known) -> Past:
    """What a pad set has done, each mounting on the machine and the duty it was for; `known` is what is solved."""
    rows = list(pads.mountings.select_related("machine").order_by("pk"))
    per_km = {}
    for row in rows:
        key = (row.machine_id, row.duty_id)
        if key not in known:
            known[key] = _driven(standing, row, pads)
        result, facts = known[key]
        per_km[row.pk] = getattr(result, row.axle).pad_wear_mm / facts.event_km
    return Past(mountings=rows, mm_per_km=per_km, bedded=results_of(pads))


def _driven(standing: Standing, row: PadMounting, pads: PadSet) -> tuple[Result, duties.DutyFacts]:
    """The duty of a mounting, driven by its machine as it stands now with these pads on.

    What else was on it then is not known to the engine any more; where that machine has nothing on it, this one drives.
    """
    there = standing if row.machine_id == standing.machine.pk else standing_or_none(row.machine)
    there = there or standing
    duty = Duty.objects.select_related("circuit", "run").get(pk=row.duty_id)
    facts = duties.duty_facts(there.machine, duty)
    parts = there.parts
    if there is not standing:
        mine = pads_on(pads)
        front, rear = (mine if row.axle == place else parts.pads(place) for place in AXLES)
        parts = Parts(front_pad=front, rear_pad=rear, front_rotor=parts.front_rotor, rear_rotor=parts.rear_rotor)
    return solve([CaseBuilder(there, facts.duty, facts.conditions).case(parts)])[0], facts


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
