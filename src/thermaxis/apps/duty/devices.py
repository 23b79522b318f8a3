"""The stand-in of a pyrometer, held at a machine of the workshop."""

from __future__ import annotations

from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.garage.duty_mapping import duty_facts, duty_or_error
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.solving.in_force import case_now
from thermaxis.apps.solving.mapping import CaseBuilder
from thermaxis.devices.pyrometer import PyrometerSettings, RingPyrometer, StandInPyrometer


def pyrometer_at(machine: Machine, settings: PyrometerSettings, seed: int) -> RingPyrometer:
    """A pyrometer held at the machine after its duty, on the bare model: what a calibration is to find is in it."""
    facts, standing = duty_facts(machine, duty_or_error(machine)), standing_of(machine)
    builder = CaseBuilder(standing, facts.duty, facts.conditions, calibrated=False)
    return StandInPyrometer(case_now(standing, builder), settings, seed)
