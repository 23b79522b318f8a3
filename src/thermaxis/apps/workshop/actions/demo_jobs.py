"""The demo's jobs: worked through as far as its data says, by the same actions as anybody's."""

from __future__ import annotations

import datetime as dt
from typing import Any

from django.utils import timezone

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.fitted.actions.mount import new_pads
from thermaxis.apps.fitted.models import PadMounting, PadSet
from thermaxis.apps.fitted.offering import choices_of
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.garage.duty_mapping import duty_or_error
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.job.actions import work
from thermaxis.apps.job.actions.close import Off, close_job
from thermaxis.apps.job.actions.fasteners import keep_fastener
from thermaxis.apps.job.building import worked
from thermaxis.apps.job.models import Job

# A step of the demo takes as long as this.
STEP = dt.timedelta(minutes=2)


def load_fasteners(machine: Machine, scope: Scope, tables: dict[str, list[dict[str, Any]]]) -> None:
    """Torques of the demo, invented and marked so."""
    for axle, rows in tables.items():
        for row in rows:
            changes = {name: value for name, value in row.items() if name != "kind"}
            keep_fastener(scope, machine, axle, row["kind"], changes, {}, sure=True)


def load_job(machine: Machine, scope: Scope, row: dict[str, Any], today: dt.date) -> Job:
    """One job, begun so many days ago and ticked as far as it is; closed where the row says at which odometer."""
    pads = _shelved(machine, row["shelf"], row["axle"], today) if "shelf" in row else None
    job = work.start_job(scope, machine, row["axle"], row["work"], pads)
    began = timezone.now() - dt.timedelta(days=row["days"], hours=2)
    Job.objects.filter(pk=job.pk).update(
        started_at=began,
        service=row.get("service", ""),
        rate_per_hour=row.get("rate"),
        quote=row.get("quote"),
        consumables_price=row.get("consumables"),
        note=row.get("note", ""),
    )
    job.refresh_from_db()
    sheet = worked(job).sheet
    wanted = row["ticked"]
    steps = [
        step
        for step in sheet.steps
        if wanted == "all"
        or (wanted in ("before", "left") and step.phase == "before")
        or (wanted == "left" and step.corner == "left")
        or (isinstance(wanted, list) and step.step.id in wanted)
    ]
    marks = [work.Mark(key=step.key, kind="done", at=began + (i + 1) * STEP) for i, step in enumerate(steps)]
    marks += [work.Mark(key=step.key, kind="recheck") for step in steps if step.step.tighten]
    refused = work.mark(scope, job, marks).refused
    if refused:
        raise ValueError(f"{machine.name}, {job}: {refused}")
    if row.get("values"):
        work.write_values(scope, job, row["values"], {})
    if "closed_km" in row:
        # The page keeps what it shows; the demo has no page.
        from thermaxis.apps.job.api.present import job_out

        job = Job.objects.get(pk=job.pk)
        content = job_out(job).model_dump(mode="json")
        on = today - dt.timedelta(days=row["days"])
        close_job(scope, job, on, row["closed_km"], Off(), content)
        Job.objects.filter(pk=job.pk).update(bolts_done_at=timezone.now())
    return job


def _shelved(machine: Machine, name: str, axle: str, today: dt.date) -> PadSet:
    """A set that was on this axle last season and lies on the shelf."""
    standing = standing_of(machine)
    part = next(part for part in choices_of(standing).pads[axle].values() if part.pad.name == name)
    pads = new_pads(machine, part)
    now = standing.axles[axle].pads
    PadMounting.objects.create(
        workshop=machine.workshop,
        machine=machine,
        axle=axle,
        duty=duty_or_error(machine),
        pad_set=pads,
        from_on=now.from_on - dt.timedelta(days=60),
        from_km=now.from_km - 900.0,
        until_on=now.from_on,
        until_km=now.from_km,
    )
    return pads
