"""Put a duty in force for a machine."""

from __future__ import annotations

from thermaxis.apps.accounts.changes import change
from thermaxis.apps.garage.models import Duty, Machine
from thermaxis.core.errors import FieldError


def choose_duty(machine: Machine, duty: Duty) -> Machine:
    """Set the machine's duty; both belong to the same workshop, which the caller's queries have seen to."""
    with change():
        duty.refresh_from_db(fields=["removed_at"])
        if duty.removed_at is not None:
            raise FieldError("duty_id", duty.pk, "a duty that has not been taken out")
        machine.duty = duty
        machine.save(update_fields=["duty"])
    return machine
