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
from thermaxis.apps.job.models import Job, JobPhoto
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
    return schemas.JobRow(
        id=job.pk,
        axle=cast(Any, job.axle),
        work=cast(Any, job.work),
        label=WORK_LABELS[job.work],
        parts=closed["parts"] if closed else _parts(found) if found else "",
        started_at=job.started_at,
        started_by=job.started_by,
        closed_on=job.closed_on,
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
                "photos": [photo_out(row) for row in job.photos.all()],
            }
        )
    found = worked(job)
    took = seconds_of(job)
    return schemas.JobOut(
        id=job.pk,
        machine_id=job.machine_id,
        axle=cast(Any, job.axle),
        work=cast(Any, job.work),
        label=WORK_LABELS[job.work],
        parts=_parts(found),
        started_at=job.started_at,
        started_by=job.started_by,
        closed_at=None,
        closed_on=None,
        closed_km=None,
        abandoned=job.abandoned_at is not None,
        note=job.note,
        corners=list(found.sheet.task.corners),
        steps=_steps(found, took),
        notes=[schemas.NoteOut(text=step.text, school=step.school) for step in found.sheet.notes],
        schools=_schools(found),
        fasteners=[fastener_out(entry) for entry in table_of(job.machine, found.fitter.axles[job.axle])],
        values={row.name: row.value for row in job.values.all()},
        bleeding=_bleeding(found),
        cost=_cost(found),
        service=service_out(job) if "electric" in found.sheet.task.tags else None,
        push_school=found.check.push.school,
        push_reason=said_out(found.check.push.reason),
        against=[said_out(text) for text in against_closing(found.sheet, found.state)],
        photos=[photo_out(row) for row in job.photos.all()],
        off=_off(job),
        bolts_due_km=job.bolts_due_km,
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
    return schemas.StepOut(
        key=step.key,
        id=row.id,
        phase=cast(Any, step.phase),
        corner=step.corner,
        text=row.text,
        tool=row.tool,
        uses=row.uses,
        caution=row.caution,
        check=row.check,
        school=row.school,
        fastener=row.fastener,
        tighten=row.tighten,
        minutes=row.minutes,
        blocks=row.blocks,
        gate=row.gate,
        source=row.source,
        torque_Nm=fastener.torque_Nm if fastener and row.tighten else None,
        waits_for=waits_for(found.sheet, step),
        held=said_out(held) if held else None,
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
            options=[
                schemas.OptionOut(option=entry.option, label=entry.label, reason=entry.reason)
                for entry in options()[point]
            ],
        )
        for point in points
        if point
    ]


def fastener_out(entry: Fastener) -> schemas.FastenerOut:
    usual = usual_Nm(entry)
    return schemas.FastenerOut(
        kind=entry.kind,
        label=kinds()[entry.kind].label,
        drive=entry.drive,
        size_m=entry.size_m,
        counter_hold_m=entry.counter_hold_m,
        thread=entry.thread,
        torque_Nm=entry.torque_Nm,
        words=entry.words,
        source=entry.source,
        page=entry.page,
        treatment=entry.treatment,
        single_use=entry.single_use,
        left_hand=entry.left_hand,
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
    return schemas.BleedingOut(
        stroke_m3=bled.stroke_m3,
        corners=[
            schemas.BledOut(corner=entry.name, volume_m3=entry.volume_m3, strokes=entry.strokes)
            for entry in bled.corners
        ],
        refill_after=bled.refill_after,
        buy_m3=bled.buy_m3,
    )


def _cost(found: Worked) -> schemas.CostOut:
    job, cost = found.job, cost_of(found)
    return schemas.CostOut(
        parts_price=cost.parts,
        parts_said=job.parts_price is not None,
        consumables_price=job.consumables_price,
        rate_per_hour=job.rate_per_hour,
        quote=job.quote,
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


def photo_out(row: JobPhoto) -> schemas.JobPhotoOut:
    return schemas.JobPhotoOut(
        id=row.pk,
        corner=row.corner,
        when=cast(Any, row.when),
        taken_at=row.taken_at,
        removed=row.removed_at is not None,
    )
