"""Say when the pads of a machine are changed."""

from __future__ import annotations

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import DRIVERS, Action
from thermaxis.core.errors import FieldError
from thermaxis.core.planning.life.intervals import SCHOOLS

CHOOSE_SCHOOL = Action("choose_school", "Change limit chosen", kind="machine", roles=DRIVERS)


def choose_school(scope: Scope, machine: Machine, school: str) -> Machine:
    """Change pads by this school from now on; empty for the one of their use. FieldError for one that is none."""
    if school and school not in SCHOOLS:
        raise FieldError("school", school, "one of " + ", ".join(SCHOOLS))
    with act(scope, CHOOSE_SCHOOL, machine) as entry:
        entry.changed("change_school", machine.change_school, school)
        machine.change_school = school
        machine.save(update_fields=["change_school"])
    return machine
