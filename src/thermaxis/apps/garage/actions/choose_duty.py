"""Put a duty in force for a machine."""

from __future__ import annotations

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.garage.models import Duty, Machine
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import DRIVERS, Action
from thermaxis.core.errors import FieldError

CHOOSE_DUTY = Action("choose_duty", "Duty chosen", kind="duty", roles=DRIVERS)


def choose_duty(scope: Scope, machine: Machine, duty: Duty) -> Machine:
    """Set the machine's duty. FieldError for one that has been taken out."""
    with act(scope, CHOOSE_DUTY, machine, duty) as entry:
        if duty.removed_at is not None:
            raise FieldError("duty_id", duty.pk, "a duty that has not been taken out")
        entry.changed("duty", machine.duty and machine.duty.name, duty.name)
        machine.duty = duty
        machine.save(update_fields=["duty"])
    return machine
