"""Inspections as the API and its files give them."""

from __future__ import annotations

import dataclasses
from collections.abc import Mapping
from typing import Any, cast

from thermaxis.apps.accounts.api.fields import State
from thermaxis.apps.accounts.api.said import said_out
from thermaxis.apps.inspect import inspecting
from thermaxis.apps.inspect.actions.inspect import Outcome
from thermaxis.apps.inspect.api import schemas
from thermaxis.apps.inspect.models import Inspection
from thermaxis.apps.inspect.querysets import inspections
from thermaxis.core.errors import FieldError
from thermaxis.core.planning.choice.figures import pads_name
from thermaxis.core.planning.inspection.cells import cell_of
from thermaxis.core.planning.inspection.diagnose import evidence_texts
from thermaxis.core.planning.inspection.look import Wheel
from thermaxis.core.planning.inspection.sheet import ORDER, Ruling
from thermaxis.formats.inspection_file import write_csv, write_json
from thermaxis.formats.units import worded


def row_out(inspection: Inspection) -> schemas.InspectionRow:
    found = inspecting.assessment_of(inspection)
    overruled = _overruled(inspection)
    states = [ruling.state for ruling in found.rulings if ruling.subject not in overruled]
    return schemas.InspectionRow(
        **_head(inspection),
        readings=len([cell for cell in inspection.cells.all() if "." in cell.name]),
        worst=cast(State, min(states, key=ORDER.index)) if states else None,
    )


def inspection_out(inspection: Inspection) -> schemas.InspectionOut:
    # Read once, and anew: what was entered a moment ago is among them.
    rows = inspections(inspection.workshop).prefetch_related("cells", "overrulings")
    inspection = rows.get(pk=inspection.pk)
    wheels = inspecting.wheels_of(inspection)
    found = inspecting.assessment_of(inspection, wheels)
    before = inspecting.before_of(inspection)
    overruled = _overruled(inspection)
    return schemas.InspectionOut.of(
        found,
        **_head(inspection),
        machine_id=inspection.machine_id,
        engine_version=inspection.engine_version,
        wheels=[_wheel_out(wheel) for wheel in wheels],
        cells=list(inspection.cells.all()),
        before_on=before.on if before else None,
        before_m=before.values_m if before else {},
        rotors=[schemas.RotorOut.of(rotor, wheel=name) for name, rotor in found.rotors.items()],
        rulings=[_ruling_out(ruling, overruled) for ruling in found.rulings],
        seen=[schemas.SeenOut.of(entry, text=evidence_texts()[entry.evidence][1]) for entry in found.seen],
        causes=[schemas.CauseOut(**_cause(cause)) for cause in found.diagnosis.causes] if found.diagnosis else [],
        next_check=found.diagnosis.next_check if found.diagnosis else "",
        photos=[
            schemas.PhotoOut.of(row, removed=False)
            for row in inspection.photos.filter(removed_at=None).defer("content")
        ],
    )


def entered_out(inspection: Inspection, outcome: Outcome) -> schemas.EnteredOut:
    return schemas.EnteredOut(
        inspection=inspection_out(inspection),
        asks=[schemas.AskOut.of(doubt, name=name) for name, doubt in outcome.asks.items()],
        refused=[schemas.RefusedOut(name=name, allowed=said_out(allowed)) for name, allowed in outcome.refused.items()],
        clashes=[schemas.ClashOut(name=name, kept=cast(Any, kept)) for name, kept in outcome.clashes.items()],
    )


def file_of(inspection: Inspection, kind: str) -> tuple[str, str, str]:
    """Name, text and media type of an inspection's file: csv or json."""
    document = inspection_out(inspection)
    name = f"inspection-{inspection.measured_on.isoformat()}.{kind}"
    if kind == "json":
        whole = {"machine": inspection.machine.name, "owner": inspection.machine.owner.name}
        return name, write_json(whole | document.model_dump(mode="json")), "application/json"
    if kind != "csv":
        raise FieldError("kind", kind, "csv or json")
    head = {
        "machine": inspection.machine.name,
        "owner": inspection.machine.owner.name,
        "set": document.set_name,
        "measured on": inspection.measured_on.isoformat(),
        "odometer, km": f"{inspection.odometer_km:g}",
    }
    wheels = [wheel.name for wheel in document.wheels]
    cells = [
        (cell.name, cell_of(cell.name, wheels).kind, cell.value, "confirmed" if cell.confirmed else "")
        for cell in document.cells
    ]
    verdicts = [_line_of(ruling) for ruling in worded(document.model_dump(mode="json"))["rulings"]]
    return name, write_csv(head, cells, verdicts), "text/csv"


def _head(inspection: Inspection) -> dict[str, Any]:
    front, rear = str(inspection.front_pads.pad_set), str(inspection.rear_pads.pad_set)
    return {
        "id": inspection.pk,
        "measured_on": inspection.measured_on,
        "odometer_km": inspection.odometer_km,
        "finished": inspection.finished_at is not None,
        "removed": inspection.removed_at is not None,
        "set_name": f"{pads_name(front, rear)} on {inspection.front_rotors.rotor_pair}",
    }


def _overruled(inspection: Inspection) -> dict[str, schemas.OverruledOut]:
    return {row.subject: schemas.OverruledOut.of(row) for row in inspection.overrulings.all() if row.removed_at is None}


def _line_of(ruling: Mapping[str, Any]) -> tuple[str, str, str]:
    """A verdict in a file: on what, its word, and why; of a ruling whose sentences are said already."""
    subject, word, overruled = ruling["subject"], ruling["word"], ruling["overruled"]
    if overruled:
        return subject, overruled["word"], f"overruled: {overruled['reason']}; computed: {word}"
    text = f" {ruling['text']}" if ruling["text"] else ""
    return subject, word, f"{ruling['headline']}.{text}"


def _ruling_out(ruling: Ruling, overruled: dict[str, schemas.OverruledOut]) -> schemas.RulingOut:
    return schemas.RulingOut.of(ruling, overruled=overruled.get(ruling.subject))


def _cause(cause: Any) -> dict[str, Any]:
    return dataclasses.asdict(cause) | {
        "reasons": [{"text": reason.text, "weight": reason.weight} for reason in cause.reasons]
    }


def _wheel_out(wheel: Wheel) -> schemas.WheelOut:
    return schemas.WheelOut.of(
        wheel,
        pad_new_m=wheel.pads.new_m,
        pad_change_m=wheel.pads.change_m,
        pad_least_m=wheel.pads.least_m,
        rotor_new_m=wheel.rotor.new_m,
        discard_m=wheel.rotor.discard_m,
        most_runout_m=wheel.rotor.most_runout_m,
    )
