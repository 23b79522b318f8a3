"""The machine's line on the rail."""

from __future__ import annotations

from thermaxis.apps.fitted.standing import Standing
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.solving.stage import Stage
from thermaxis.core.messages.machine import ESTIMATES


def stage(machine: Machine, standing: Standing | None) -> Stage:
    """Started while something is estimated; worth a look where a rotor is worn out."""
    worn_out = standing.worn_out() if standing else ()
    if worn_out:
        return Stage(name="machine", state="attention", note=worn_out[0].text)
    estimates = len(machine.estimates)
    return Stage(name="machine", state="started" if estimates else "done", note=ESTIMATES(count=estimates))
