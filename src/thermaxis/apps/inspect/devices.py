"""The stand-in of a gauge, held at the machine of an inspection."""

from __future__ import annotations

from thermaxis.apps.inspect import inspecting
from thermaxis.apps.inspect.models import Inspection
from thermaxis.apps.solving import in_force
from thermaxis.devices.gauge import Gauge, GaugeSettings, StandInGauge


def gauge_at(inspection: Inspection, settings: GaugeSettings, seed: int) -> Gauge:
    """A gauge held at the machine of an inspection, its pads as worn as they are thought to be."""
    machine = inspection.machine
    state = in_force.in_force(machine) if machine.duty else None
    wheels, pads_m = inspecting.limits_of(inspection), {}
    for wheel in wheels:
        worn = [part.thickness_m for part in state.worn[wheel.axle]] if state else [0.6 * wheel.pads.new_m]
        pads_m[wheel.axle] = min(worn)
    return StandInGauge(wheels, pads_m, settings, seed)
