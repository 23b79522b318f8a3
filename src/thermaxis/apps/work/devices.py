"""The stand-ins of gauge and pyrometer, held at a machine of the workshop."""

from __future__ import annotations

from thermaxis.apps.garage.duty_mapping import duty_facts
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.work import compute, inspecting, querysets
from thermaxis.apps.work.mapping import CaseBuilder
from thermaxis.apps.work.models import Inspection
from thermaxis.devices.gauge import Gauge, GaugeSettings, StandInGauge
from thermaxis.devices.parts_counter import PartsCounter, StandInCounter
from thermaxis.devices.pyrometer import PyrometerSettings, RingPyrometer, StandInPyrometer


def gauge_at(inspection: Inspection, settings: GaugeSettings, seed: int) -> Gauge:
    """A gauge held at the machine of an inspection, its pads as worn as they are thought to be."""
    machine = inspection.machine
    state = compute.in_force(machine) if machine.duty else None
    wheels, pads_m = inspecting.limits_of(inspection), {}
    for wheel in wheels:
        worn = [part.thickness_mm for part in state.worn[wheel.axle]] if state else [600.0 * wheel.pads.new_m]
        pads_m[wheel.axle] = 1e-3 * min(worn)
    return StandInGauge(wheels, pads_m, settings, seed)


def pyrometer_at(machine: Machine, settings: PyrometerSettings, seed: int) -> RingPyrometer:
    """A pyrometer held at the machine after its duty, on the bare model: what a calibration is to find is in it."""
    facts = duty_facts(machine, compute.duty_or_error(machine))
    builder = CaseBuilder(machine, facts.duty, facts.conditions, calibrated=False)
    return StandInPyrometer(builder.case(querysets.parts_of(compute.set_or_error(machine))), settings, seed)


def counter() -> PartsCounter:
    """Who is asked for prices, stock and lead times: the stand-in, as no shop is connected."""
    return StandInCounter()
