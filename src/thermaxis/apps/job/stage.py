"""The job's line on the rail."""

from __future__ import annotations

from thermaxis.apps.garage.models import Machine
from thermaxis.apps.job.models import Job
from thermaxis.apps.solving.stage import Stage
from thermaxis.core.messages import job as say


def stage(machine: Machine) -> Stage:
    """Started while one is open; attention where wheel bolts are due again; done once one was closed."""
    rows = Job.objects.filter(machine=machine, abandoned_at=None)
    if rows.open().exists():
        return Stage(name="job", state="started")
    due = rows.filter(bolts_due_km__lte=machine.odometer_km, bolts_done_at=None).first()
    if due is not None:
        return Stage(name="job", state="attention", note=say.BOLTS_DUE(at=due.bolts_due_km or 0.0))
    return Stage(name="job", state="done" if rows.exists() else "empty")
