"""The choice's line on the rail."""

from __future__ import annotations

from thermaxis.apps.choose.models import Decision
from thermaxis.apps.fitted.standing import Standing
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.solving.in_force import InForce
from thermaxis.apps.solving.stage import Stage
from thermaxis.apps.solving.strip import survives, verdict
from thermaxis.core.planning.choice.figures import pads_name
from thermaxis.core.said import verbatim


def stage(machine: Machine, standing: Standing | None, state: InForce | None) -> Stage:
    """Done where something that is on was chosen here; attention where the duty in force would reject what is on."""
    if standing is None:
        return Stage(name="choose", state="empty")
    if state is not None:
        found = survives(state, verdict(state))
        if found.rejects:
            return Stage(name="choose", state="attention", note=found.text)
    begun = {row.begun_by_id for axle in standing.axles.values() for row in (axle.pads, axle.rotors)} - {None}
    chosen = bool(begun) and Decision.objects.filter(machine=machine, fitting_id__in=begun).exists()
    pads = pads_name(*(standing.pads(axle).pad.name for axle in ("front", "rear")))
    return Stage(name="choose", state="done" if chosen else "empty", note=verbatim(pads))
