"""Keep a calibration, take it out of use, or bring it back."""

from __future__ import annotations

import dataclasses
from collections.abc import Sequence
from typing import Any

from django.utils import timezone

from thermaxis import __version__
from thermaxis.apps.accounts.changes import change
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.work.compute import duty_or_error
from thermaxis.apps.work.forecast import fit_evidence
from thermaxis.apps.work.models import Calibration
from thermaxis.core.physics.batch import Watch


def keep_calibration(machine: Machine, evidence: Sequence[dict[str, Any]], watch: Watch | None = None) -> Calibration:
    """Fit the evidence and use it for the machine from now on; the calibration before it stays, out of use."""
    found = fit_evidence(machine, evidence, watch)
    with change():
        machine.calibrations.filter(removed_at=None).update(removed_at=timezone.now())
        return Calibration.objects.create(
            workshop=machine.workshop, machine=machine, duty=duty_or_error(machine), evidence=list(evidence),
            front=dataclasses.asdict(found.front) if found.front else None,
            rear=dataclasses.asdict(found.rear) if found.rear else None,
            residuals=[dataclasses.asdict(entry) for entry in found.residuals], engine_version=__version__,
        )  # fmt: skip


def set_removed(calibration: Calibration, removed: bool) -> Calibration:
    """Take a calibration out of use, or bring it back in place of the one that is; the rows stay."""
    with change():
        if not removed:
            calibration.machine.calibrations.filter(removed_at=None).exclude(pk=calibration.pk).update(
                removed_at=timezone.now()
            )
        calibration.removed_at = timezone.now() if removed else None
        calibration.save(update_fields=["removed_at"])
    return calibration
