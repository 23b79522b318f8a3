"""Put a duty in force for a machine."""

from __future__ import annotations

from thermaxis.apps.garage.models import Duty, Machine


def choose_duty(machine: Machine, duty: Duty) -> Machine:
    """Set the machine's duty; both belong to the same workshop, which the caller's queries have seen to."""
    machine.duty = duty
    machine.save(update_fields=["duty"])
    return machine
