"""What a database says that later versions must say too: printed as JSON, run in an environment of its own."""

from __future__ import annotations

import json
from typing import Any

import django


def told() -> dict[str, Any]:
    """Names, sizes, readings and histories of everything in it."""
    from thermaxis.apps.accounts.models import Workshop
    from thermaxis.apps.choose.models import Decision
    from thermaxis.apps.fitted.models import PadReading, RotorReading
    from thermaxis.apps.fitted.standing import standing_of
    from thermaxis.apps.garage.models import Machine
    from thermaxis.apps.inspect.models import InspectionCell
    from thermaxis.apps.log.models import LogEntry

    machines = {}
    for machine in Machine.objects.order_by("pk"):
        standing = standing_of(machine)
        on_it = {
            axle: [
                str(standing.pads(axle)),
                standing.pads(axle).size.thickness_m,
                str(standing.rotors(axle)),
                standing.rotors(axle).size.thickness_m,
                standing.axles[axle].pads.from_km,
            ]
            for axle in ("front", "rear")
        }
        machines[machine.name] = {"on": on_it, "mass_kg": machine.mass_kg, "fluid": standing.fill.fluid.name}
    return {
        "workshops": list(Workshop.objects.values_list("name", flat=True)),
        "machines": machines,
        "pads_m": sorted(PadReading.objects.values_list("position", "thickness_m")),
        "rotors_m": sorted(RotorReading.objects.values_list("disc__side", "thickness_m")),
        "cells": InspectionCell.objects.count(),
        "decisions": list(Decision.objects.values_list("title", "note")),
        "acts": list(LogEntry.objects.order_by("pk").values_list("act", "user_name")),
    }


if __name__ == "__main__":
    django.setup()
    print(json.dumps(told()))
