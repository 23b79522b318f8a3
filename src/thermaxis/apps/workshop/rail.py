"""The rail of a machine: every stage's line, put together."""

from __future__ import annotations

from thermaxis.apps.bed import stage as bed
from thermaxis.apps.choose import stage as choose
from thermaxis.apps.duty import stage as duty
from thermaxis.apps.fit import stage as fit
from thermaxis.apps.fitted.standing import standing_or_none
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.inspect import stage as inspect
from thermaxis.apps.job import stage as job
from thermaxis.apps.life import stage as life
from thermaxis.apps.logbook import stage as logbook
from thermaxis.apps.machine import stage as machines
from thermaxis.apps.solving.in_force import InForce, in_force
from thermaxis.apps.solving.stage import Stage


def stages(machine: Machine, state: InForce | None = None) -> tuple[Stage, ...]:
    """The state of every stage of a machine; `state` saves solving it again where it was solved already."""
    standing = state.standing if state else standing_or_none(machine)
    if state is None and standing is not None and machine.duty is not None:
        state = in_force(machine)
    return (
        machines.stage(machine, standing),
        inspect.stage(machine),
        duty.stage(machine),
        choose.stage(machine, standing, state),
        fit.stage(standing),
        job.stage(machine),
        bed.stage(standing),
        life.stage(state),
        logbook.stage(machine),
    )
