"""Inspection's line on the rail."""

from __future__ import annotations

from thermaxis.apps.garage.models import Machine
from thermaxis.apps.inspect import inspecting
from thermaxis.apps.inspect.models import Inspection
from thermaxis.apps.solving.stage import Stage
from thermaxis.core.messages.machine import CELLS_IN
from thermaxis.core.said import verbatim


def stage(machine: Machine) -> Stage:
    """Started while one is open; done, or worth a look where the last one found something grave nobody overruled."""
    rows = machine.inspections.there().select_related(*Inspection.READ_WITH).prefetch_related("cells", "overrulings")
    open_one = rows.filter(finished_at=None).first()
    if open_one is not None:
        return Stage(name="inspect", state="started", note=CELLS_IN(count=len(open_one.cells.all())))
    last = rows.first()
    if last is None:
        return Stage(name="inspect", state="empty")
    overruled = {row.subject for row in last.overrulings.all() if row.removed_at is None}
    grave = [
        ruling
        for ruling in inspecting.assessment_of(last).rulings
        if ruling.state == "over" and ruling.subject not in overruled
    ]
    note = grave[0].headline if grave else verbatim(f"on {last.measured_on.isoformat()}")
    return Stage(name="inspect", state="attention" if grave else "done", note=note)
