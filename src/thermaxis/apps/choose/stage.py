"""The choice's line on the rail."""

from __future__ import annotations

from thermaxis.apps.choose.models import Decision
from thermaxis.apps.fitted.standing import Standing
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.solving.stage import Stage
from thermaxis.core.said import verbatim


def stage(machine: Machine, standing: Standing | None) -> Stage:
    """Done where something that is on was chosen here."""
    if standing is None:
        return Stage(name="choose", state="empty")
    begun = {row.begun_by_id for axle in standing.axles.values() for row in (axle.pads, axle.rotors)} - {None}
    chosen = bool(begun) and Decision.objects.filter(machine=machine, fitting_id__in=begun).exists()
    return Stage(name="choose", state="done" if chosen else "empty", note=verbatim(standing.pads("front").pad.name))
