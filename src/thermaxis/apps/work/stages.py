"""Where each stage of a machine stands, computed from what is there."""

from __future__ import annotations

from dataclasses import dataclass

from thermaxis.apps.garage.models import Machine
from thermaxis.apps.work import compute, inspecting, querysets, whatif
from thermaxis.core.planning.verdict import readings


@dataclass(frozen=True, kw_only=True)
class Stage:
    """State of one stage on the rail, computed from what is there."""

    name: str
    state: str
    note: str


def stages(machine: Machine, state: compute.InForce | None = None) -> tuple[Stage, ...]:
    """The state of every stage of a machine; `state` saves solving it again where it was solved already."""
    fitted = state.fitted if state else querysets.set_in_force(machine)
    estimates = len(machine.estimates)
    inspect = _inspect(machine)
    machine_stage = Stage(name="machine", state="started" if estimates else "done", note=f"{estimates} estimates")
    worn_out = whatif.worn_out(machine, fitted) if fitted else ()
    if worn_out:
        machine_stage = Stage(name="machine", state="attention", note=worn_out[0].text)
    duty = Stage(name="duty", state="done" if machine.duty else "empty", note=machine.duty.name if machine.duty else "")
    chosen = fitted is not None and bool(fitted.inputs)
    choose = Stage(name="choose", state="done" if chosen else "empty", note=fitted.front_pad.pad.name if fitted else "")
    record = fitted.bedding.first() if fitted else None
    bed_state = "empty" if record is None else ("done" if record.done_on else "started")
    bed = Stage(name="bed", state=bed_state, note="")
    if fitted is None or machine.duty is None:
        return machine_stage, inspect, duty, choose, bed, Stage(name="life", state="empty", note="")
    rows = compute.life_rows(state or compute.in_force(machine), None)
    shortest = min(rows, key=lambda row: row.due_events)
    if readings.life_state(shortest.due_events, machine.duty.events_per_month) != "fine":
        life = Stage(name="life", state="attention", note=f"{shortest.axle} pads in {shortest.due_events:.1f} events")
    else:
        measured = any(row.measured for row in rows)
        life = Stage(name="life", state="done" if measured else "started", note="")
    return machine_stage, inspect, duty, choose, bed, life


def _inspect(machine: Machine) -> Stage:
    """Started while one is open; done, or worth a look where the last one found something grave nobody overruled."""
    rows = machine.inspections.filter(removed_at=None).prefetch_related("cells", "overrulings")
    open_one = rows.filter(finished_at=None).first()
    if open_one is not None:
        return Stage(name="inspect", state="started", note=f"{len(open_one.cells.all())} cells in")
    last = rows.first()
    if last is None:
        return Stage(name="inspect", state="empty", note="")
    overruled = {row.subject for row in last.overrulings.all() if row.removed_at is None}
    grave = [
        ruling for ruling in inspecting.assessment_of(last).rulings
        if ruling.state == "over" and ruling.subject not in overruled
    ]  # fmt: skip
    note = grave[0].headline if grave else f"on {last.measured_on.isoformat()}"
    return Stage(name="inspect", state="attention" if grave else "done", note=note)
