"""Life's line on the rail."""

from __future__ import annotations

from thermaxis.apps.garage.duty_mapping import duty_or_error
from thermaxis.apps.solving.in_force import InForce
from thermaxis.apps.solving.life import life_rows
from thermaxis.apps.solving.stage import Stage
from thermaxis.core.messages.machine import PADS_DUE, PADS_DUE_NOW
from thermaxis.core.planning.verdict import readings


def stage(state: InForce | None) -> Stage:
    """Worth a look where pads are due soon; done once they were measured."""
    if state is None:
        return Stage(name="life", state="empty")
    rows = life_rows(state, None)
    shortest = min(rows, key=lambda row: row.due_events)
    if readings.life_state(shortest.due_events, duty_or_error(state.machine).events_per_month) != "fine":
        axle, events = shortest.axle, shortest.due_events
        note = PADS_DUE(axle=axle, events=events) if events >= 0.05 else PADS_DUE_NOW(axle=axle)
        return Stage(name="life", state="attention", note=note)
    return Stage(name="life", state="done" if any(row.measured for row in rows) else "started")
