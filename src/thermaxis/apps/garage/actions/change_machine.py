"""Change numbers of a machine."""

from __future__ import annotations

from django.db import transaction

from thermaxis.apps.garage.mapping import apply_changes
from thermaxis.apps.garage.models import Machine


def change_machine(machine: Machine, changes: dict[str, float | None]) -> Machine:
    """Check and save changed numbers by their paths; all or none. FieldError names the one that is not allowed."""
    with transaction.atomic():
        for row in apply_changes(machine, changes):
            row.save()
    return machine
