"""A duty as it was sent: the rows it names, and its plan."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.garage import duty_mapping, querysets
from thermaxis.apps.garage.mapping import under
from thermaxis.apps.garage.models import Circuit, Duty, RecordedRun
from thermaxis.apps.garage.shapes import Plan
from thermaxis.core.errors import FieldError


@dataclass(frozen=True)
class Planned:
    """A duty as it was sent, with the rows it names."""

    plan: Plan
    circuit: Circuit | None
    run: RecordedRun | None
    parts: list[Duty]


def planned(workshop: Workshop, fields: Mapping[str, Any]) -> Planned:
    """Find the rows that are named, in this workshop, and make the plan. FieldError for one that is not there."""
    shape, parts = fields["shape"], []
    with under("shape"):
        circuit = _found("circuit_id", querysets.circuits(workshop), shape.get("circuit_id"))
        run = _found("run_id", RecordedRun.objects.of(workshop), shape.get("run_id"))
        rows = {duty.pk: duty for duty in querysets.duties(workshop)} if shape.get("parts") else {}
        for index, part in enumerate(shape.get("parts", ())):
            if part["duty_id"] not in rows:
                raise FieldError(f"parts[{index}].duty_id", part["duty_id"], "a duty of this workshop")
            parts.append((rows[part["duty_id"]], part["times"], part["gap_s"]))
    plan = duty_mapping.plan_from(fields, circuit, run, parts)
    return Planned(plan, circuit, run, [row for row, _, _ in parts])


def _found(name: str, rows: Any, key: int | None) -> Any:
    if key is None:
        return None
    found = rows.filter(pk=key).first()
    if found is None:
        raise FieldError(name, key, "one of this workshop")
    return found
