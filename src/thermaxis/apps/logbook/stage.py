"""The log's line on the rail."""

from __future__ import annotations

from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.models import LogEntry
from thermaxis.apps.logbook.reading import Asked, entries
from thermaxis.apps.solving.stage import Stage
from thermaxis.core.messages.machine import ENTRIES


def stage(machine: Machine) -> Stage:
    """How much has been written."""
    count = entries(LogEntry.objects.of(machine.workshop), Asked(machine_id=machine.pk)).count()
    if count == 0:
        return Stage(name="log", state="empty")
    return Stage(name="log", state="done", note=ENTRIES(count=float(count)))
