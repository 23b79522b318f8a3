"""The duty's line on the rail."""

from __future__ import annotations

from thermaxis.apps.garage.models import Machine
from thermaxis.apps.solving.stage import Stage
from thermaxis.core.said import verbatim


def stage(machine: Machine) -> Stage:
    """Done once a duty is chosen."""
    return Stage(
        name="duty",
        state="done" if machine.duty else "empty",
        note=verbatim(machine.duty.name) if machine.duty else None,
    )
