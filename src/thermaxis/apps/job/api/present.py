"""Jobs as the API gives them."""

from __future__ import annotations

from typing import Any, cast

from django.utils import timezone

from thermaxis.apps.accounts.api.said import said_out
from thermaxis.apps.fitted.models import Intended
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.job.api import schemas
from thermaxis.apps.job.building import HOMING, Worked, service_of, table_of, worked
from thermaxis.apps.job.costing import cost_of, lasting_of, seconds_of
from thermaxis.apps.job.models import Job
from thermaxis.core.messages.job import CAUTIONS
from thermaxis.core.planning.job.fasteners import DRIVES, TREATMENTS, Fastener, kinds, threads, usual_Nm
from thermaxis.core.planning.job.library import WORK_LABELS
from thermaxis.core.planning.job.schools import POINT_LABELS, options, taken
from thermaxis.core.planning.job.sheet import Step
from thermaxis.core.planning.job.ticking import against_closing, waits_for, why_held, why_not_as_written


def jobs_out(machine: Machine) -> schemas.JobsOut:
    rows = Job.objects.filter(machine=machine).prefetch_related("ticks")
    return schemas.JobsOut(
        jobs=sorted((row_out(row) for row in rows), key=lambda row: row.closed_on is not None or row.abandoned),
        works=[schemas.OptionOut(option=name, label=label, reason="") for name, label in WORK_LABELS.items()],
        intended=Intended.objects.filter(machine=machine).exists(),
    )


def row_out(job: Job) -> schemas.JobRow:
    closed = job.content if job.closed_at is not None else None
    ticked = sum(1 for row in job.ticks.all() if row.done or row.words)
    found = None if closed else worked(job)
    return schemas.JobRow.of(
        job,
        label=WORK_LABELS[job.work],
        parts=closed["parts"] if closed else _parts(found) if found else "",
        abandoned=job.abandoned_at is not None,
        ticked=ticked,
        steps=len(closed["steps"]) if closed else len(found.sheet.steps) if found else 0,
    )


def _parts(found: Worked) -> str:
    """What goes on, in a few words."""
    job = found.job
    if job.pad_set is not None:
        return str(job.pad_set)
    if job.work not in ("pads", "pads_rotors"):
        return ""
    pads = found.parts.pads(job.axle).pad.name
    return pads if job.work == "pads" else f"{pads} on {found.parts.rotors(job.axle).name}"


def job_out(job: Job) -> schemas.JobOut:
    if job.closed_at is not None and job.content:
        # As it was: only what happened to it since is of today.
        kept = schemas.JobOut(**job.content)
        return kept.model_copy(
            update={
                "closed_at": job.closed_at,
                "closed_on": job.closed_on,
                "closed_km": job.closed_km,
                "off": _off(job),
                "bolts_due_km": job.bolts_due_km,
                "bolts_done": job.bolts_done_at is not None,
                "photos": [schemas.JobPhotoOut.of(row) for row in job.photos.all()],
            }
        )
    found = worked(job)
    took = seconds_of(job)
    return schemas.JobOut.of(
        job,
        label=WORK_LABELS[job.work],
        parts=_parts(found),
        closed_at=None,
        closed_on=None,
        closed_km=None,
        abandoned=job.abandoned_at is not None,
        corners=list(found.sheet.task.corners),
        steps=_steps(found, took),
        notes=found.sheet.notes,
        schools=_schools(found),
        fasteners=[fastener_out(entry) for entry in table_of(job.machine, found.fitter.axles[job.axle])],
        values={row.name: row.value for row in job.values.all()},
        bleeding=_bleeding(found),
        cost=_cost(found),
        service=service_out(job) if "electric" in found.sheet.task.tags else None,
        push_school=found.check.push.school,
        push_reason=found.check.push.reason,
        against=against_closing(found.sheet, found.state),
        photos=list(job.photos.all()),
        off=_off(job),
        bolts_done=job.bolts_done_at is not None,
        cautions={name: CAUTIONS[name] for name in sorted({s.step.caution for s in found.sheet.steps} - {""})},
    )


def left_out(job: Job) -> list[schemas.LeftOutOut]:
    found = worked(job)
    return [schemas.LeftOutOut(text=step.text, reason=said_out(reason)) for step, reason in found.sheet.left_out]


def _off(job: Job) -> dict[str, str]:
    return {name: str(job.off[name]) for name in ("pads", "rotors") if name in job.off}


def _steps(found: Worked, took: dict[str, float]) -> list[schemas.StepOut]:
    ticks = {row.key: row for row in found.job.ticks.all()}
    return [_step(found, step, ticks.get(step.key), took.get(step.key)) for step in found.sheet.steps]


def _step(found: Worked, step: Step, tick: Any, took_s: float | None) -> schemas.StepOut:
    row = step.step
    fastener = found.state.fasteners.get(row.fastener)
    held = (why_held(found.sheet, step, found.state) if tick is None else None) or why_not_as_written(step, found.state)
    return schemas.StepOut.of(
        row,
        key=step.key,
        phase=step.phase,
        corner=step.corner,
        torque_Nm=fastener.torque_Nm if fastener and row.tighten else None,
        waits_for=waits_for(found.sheet, step),
        held=held,
        done=bool(tick and tick.done),
        words=tick.words if tick else "",
        reached_Nm=tick.torque_Nm if tick else None,
        by=tick.by if tick else "",
        at=tick.at if tick else None,
        rechecked_by=tick.rechecked_by if tick else "",
        rechecked_at=tick.rechecked_at if tick else None,
        took_s=took_s,
    )


def _schools(found: Worked) -> list[schemas.SchoolOut]:
    """The points this sheet has, each with what is taken."""
    points = dict.fromkeys(
        [step.step.school for step in found.sheet.steps] + [step.school for step in found.sheet.notes]
    )
    chosen = found.job.schools
    return [
        schemas.SchoolOut(
            point=point,
            label=POINT_LABELS[point],
            taken=taken(point, chosen.get(point, ""), oiled=found.sheet.task.oiled).option,
            chosen=point in chosen,
            options=[schemas.OptionOut.of(entry) for entry in options()[point]],
        )
        for point in points
        if point
    ]


def fastener_out(entry: Fastener) -> schemas.FastenerOut:
    usual = usual_Nm(entry)
    return schemas.FastenerOut.of(
        entry,
        label=kinds()[entry.kind].label,
        usual_low_Nm=usual[0] if usual else None,
        usual_high_Nm=usual[1] if usual else None,
    )


def fasteners_out(machine: Machine) -> schemas.FastenersOut:
    tables = {axle.position: [fastener_out(entry) for entry in table_of(machine, axle)] for axle in machine.axles.all()}
    return schemas.FastenersOut(
        front=tables["front"],
        rear=tables["rear"],
        drives=list(DRIVES),
        threads=list(threads()),
        treatments=[word for word in TREATMENTS if word],
    )


def _bleeding(found: Worked) -> schemas.BleedingOut | None:
    bled = found.bleeding
    if bled is None:
        return None
    return schemas.BleedingOut.of(
        bled, corners=[schemas.BledOut.of(entry, corner=entry.name) for entry in bled.corners]
    )


def _cost(found: Worked) -> schemas.CostOut:
    job, cost = found.job, cost_of(found)
    return schemas.CostOut.of(
        job,
        parts_price=cost.parts,
        parts_said=job.parts_price is not None,
        took_s=cost.seconds,
        expected_s=cost.expected_s,
        own_jobs=cost.own_jobs,
        total_price=cost.total,
    )


def lasting_out(job: Job) -> schemas.LastingOut:
    found = lasting_of(worked(job))
    return schemas.LastingOut(per_1000_km_price=found.per_1000_km, per_hour_price=found.per_hour)


def service_out(job: Job) -> schemas.ServiceOut:
    state, left = service_of(job), 0.0
    if job.service == HOMING and state != "home" and job.service_since is not None:
        state = HOMING
        left = max(0.0, (job.service_s or 0.0) - (timezone.now() - job.service_since).total_seconds())
    return schemas.ServiceOut(state=cast(Any, state), left_s=left, took_s=job.service_s or 0.0)
