"""A duty as it was sent: the rows it names, and its plan."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.garage import duty_mapping, querysets
from thermaxis.apps.garage.models import Circuit, Duty, RecordedRun
from thermaxis.core.errors import FieldError


@dataclass(frozen=True)
class Planned:
    """A duty as it was sent, with the rows it names."""

    plan: duty_mapping.Plan
    circuit: Circuit | None
    run: RecordedRun | None
    parts: list[Duty]


def planned(workshop: Workshop, fields: Mapping[str, Any]) -> Planned:
    """Find the rows that are named, in this workshop, and make the plan. FieldError for one that is not there."""
    circuit = _found("circuit_id", querysets.circuits(workshop), fields["circuit_id"])
    run = _found("run_id", RecordedRun.objects.of(workshop), fields["run_id"])
    rows = {duty.pk: duty for duty in querysets.duties(workshop)} if fields["parts"] else {}
    parts = []
    for index, part in enumerate(fields["parts"]):
        if part["duty_id"] not in rows:
            raise FieldError(f"parts[{index}].duty_id", part["duty_id"], "a duty of this workshop")
        parts.append((rows[part["duty_id"]], part["times"], part["gap_s"]))
    plan = duty_mapping.plan_from(dict(fields), circuit, run, parts)
    return Planned(plan, circuit, run, [row for row, _, _ in parts])


def _found(name: str, rows: Any, key: int | None) -> Any:
    if key is None:
        return None
    found = rows.filter(pk=key).first()
    if found is None:
        raise FieldError(name, key, "one of this workshop")
    return found
