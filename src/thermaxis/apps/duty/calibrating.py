"""What measured temperatures say of a machine; nothing here writes."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from thermaxis.apps.duty.mapping import evidence_record
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.garage import duty_mapping as duties
from thermaxis.apps.garage import mapping as garage
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.solving.in_force import case_now
from thermaxis.apps.solving.mapping import CaseBuilder
from thermaxis.core.physics.batch import Watch
from thermaxis.core.planning.duty.calibrate import Calibration, calibrate


def fit_evidence(machine: Machine, evidence: Sequence[dict[str, Any]], watch: Watch | None = None) -> Calibration:
    """Fit cooling and backing conductance to evidence of the machine's present set and duty, on the bare model."""
    entries = []
    for index, entry in enumerate(evidence):
        with garage.under(f"evidence[{index}]"):
            entries.append(evidence_record(entry))
    duty, standing = duties.duty_or_error(machine), standing_of(machine)
    facts = duties.duty_facts(machine, duty)
    case = case_now(standing, CaseBuilder(standing, facts.duty, facts.conditions, calibrated=False))
    return calibrate(case, entries, watch)
