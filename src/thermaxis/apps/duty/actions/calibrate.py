"""Keep a calibration, take it out of use, or bring it back."""

from __future__ import annotations

import dataclasses
from collections.abc import Sequence
from typing import Any

from django.utils import timezone

from thermaxis import __version__
from thermaxis.apps.accounts.models import Reach
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.duty.calibrating import fit_evidence
from thermaxis.apps.fitted.models import Calibration
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.garage.duty_mapping import duty_or_error
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log import actions as log
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import DRIVERS, Action
from thermaxis.core.errors import SolveError
from thermaxis.core.physics.batch import Watch

KEEP_CALIBRATION = Action(
    "keep_calibration",
    "Calibrated by temperatures",
    kind="reading",
    roles=DRIVERS,
    keys=Reach.READINGS,
    gives_history=True,
)
REMOVE_CALIBRATION = Action(
    "remove_calibration", "Calibration taken out or brought back", kind="reading", roles=DRIVERS
)


def keep_calibration(
    scope: Scope, machine: Machine, evidence: Sequence[dict[str, Any]], watch: Watch | None = None
) -> Calibration:
    """Fit the evidence and use it for the machine from now on; the calibration before it stays, out of use.

    SolveError where a reading does not fit: numbers it contradicts are no ground to choose parts by.
    """
    found = fit_evidence(machine, evidence, watch)
    wrong = sum(residual.suspect for residual in found.residuals)
    if wrong:
        readings = "One reading does" if wrong == 1 else f"{wrong} readings do"
        raise SolveError(f"{readings} not fit: read again, correct or take out what is marked, then try the fit again.")
    with act(scope, KEEP_CALIBRATION, machine) as entry:
        standing = standing_of(machine)
        machine.calibrations.there().update(removed_at=timezone.now())
        row = Calibration.objects.create(
            workshop=scope.workshop,
            machine=machine,
            duty=duty_or_error(machine),
            evidence=list(evidence),
            front_rotors=standing.rotors("front"),
            rear_rotors=standing.rotors("rear"),
            front=dataclasses.asdict(found.front) if found.front else None,
            rear=dataclasses.asdict(found.rear) if found.rear else None,
            residuals=[dataclasses.asdict(entry) for entry in found.residuals],
            engine_version=__version__,
        )
        entry.about(row, standing.rotors("front"), standing.rotors("rear"))
    return row


def set_removed(scope: Scope, calibration: Calibration, removed: bool) -> Calibration:
    """Take a calibration out of use, or bring it back in place of the one that is; the rows stay."""
    with act(scope, REMOVE_CALIBRATION, calibration):
        if not removed:
            calibration.machine.calibrations.there().exclude(pk=calibration.pk).update(removed_at=timezone.now())
        return log.set_removed(scope, REMOVE_CALIBRATION, calibration, removed)
