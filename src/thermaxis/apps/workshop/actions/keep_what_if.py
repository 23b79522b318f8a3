"""What was tried and is true: written into the machine and its duty."""

from __future__ import annotations

import dataclasses
from collections.abc import Collection

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.garage.actions.choose_duty import choose_duty
from thermaxis.apps.garage.actions.save_duty import save_duty
from thermaxis.apps.garage.duty_mapping import duty_or_error, facts_of, plan_of
from thermaxis.apps.garage.models import Duty, DutyPart, Machine
from thermaxis.apps.garage.shapes import Descent, Plan, Sections
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import Action
from thermaxis.apps.machine.actions.change_machine import change_machine
from thermaxis.apps.solving.trying import NOTHING, WhatIf, changed
from thermaxis.core.errors import FieldError
from thermaxis.core.planning.duty.duties import Section

KEEP_WHAT_IF = Action("keep_what_if", "What-if written down", kind="machine")

NAMES = tuple(field.name for field in dataclasses.fields(WhatIf))
# Facts of the machine; the rest belongs to the duty.
OF_MACHINE = ("cooling_factor", "extra_mass_kg", "fluid_age_months", "trailer_brake_share")
LONGEST_NAME = 120


def keep_what_if(scope: Scope, machine: Machine, what_if: WhatIf, names: Collection[str]) -> Machine:
    """Make those parts of a what-if true that are named: ducts, load, fluid and trailer brakes of the machine; air,
    driver, rounds, speed, gear and hill of its duty.

    A duty that another machine drives too, or a day is made of, stays as it is: the changed one is kept beside it and
    chosen. FieldError for a name that is none, or that changes nothing.
    """
    for index, name in enumerate(names):
        if name not in NAMES or getattr(what_if, name) == getattr(NOTHING, name):
            raise FieldError(f"names[{index}]", name, "one of what is tried")
    with act(scope, KEEP_WHAT_IF, machine):
        standing = standing_of(machine)
        now = standing.numbers()
        kept = dataclasses.replace(NOTHING, **{name: getattr(what_if, name) for name in names})
        numbers: dict[str, float | None] = {}
        if kept.cooling_factor != 1.0:
            for axle in ("front", "rear"):
                path = f"{axle}.cooling_factor"
                numbers[path] = (now[path] or 0.0) * kept.cooling_factor
        if kept.extra_mass_kg:
            numbers["vehicle.mass_kg"] = (now["vehicle.mass_kg"] or 0.0) + kept.extra_mass_kg
        if kept.fluid_age_months is not None:
            numbers["fluid.fluid_age_months"] = kept.fluid_age_months
        if kept.trailer_brake_share is not None:
            numbers["trailer.brake_share"] = kept.trailer_brake_share
        if numbers:
            change_machine(scope, machine, numbers)
        if any(name not in OF_MACHINE for name in names):
            duty = duty_or_error(machine)
            plan = _plan_with(machine, plan_of(duty), kept)
            facts_of(machine, plan)
            _keep_plan(scope, machine, duty, plan)
    return machine


def _plan_with(machine: Machine, plan: Plan, kept: WhatIf) -> Plan:
    """The plan with what was tried of it."""
    down = plan.shape
    if isinstance(down, Descent) and kept.gear:
        # A steady descent has no gear of its own: as one section it has.
        one = Section(length_m=down.length_m, grade=down.grade, speed_mps=down.speed_mps, gear="usual")
        plan = dataclasses.replace(plan, shape=Sections(sections=(one,)))
    only_duty = dataclasses.replace(kept, **{name: getattr(NOTHING, name) for name in OF_MACHINE})
    _, plan = changed(standing_of(machine), plan, only_duty)
    if kept.air_C is not None:
        plan = dataclasses.replace(plan, conditions=dataclasses.replace(plan.conditions, air_C=kept.air_C))
    return plan


def _keep_plan(scope: Scope, machine: Machine, duty: Duty, plan: Plan) -> None:
    words = {"name": duty.name, "use": duty.use, "note": duty.note, "events_per_month": duty.events_per_month}
    others = Machine.objects.filter(duty=duty, removed_at=None).exclude(pk=machine.pk).exists()
    shared = others or DutyPart.objects.filter(part=duty, duty__removed_at=None).exists()
    if shared:
        words["name"] = f"{duty.name}, {machine.name}"[:LONGEST_NAME]
    parts = [row.part for row in duty.parts.all()]
    kept = save_duty(scope, None if shared else duty, plan, words, circuit=duty.circuit, run=duty.run, parts=parts)
    choose_duty(scope, machine, kept)
