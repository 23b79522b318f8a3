"""Own time and cost of a job beside the shop's quote; nothing here writes."""

from __future__ import annotations

from dataclasses import dataclass

from thermaxis.apps.garage import duty_mapping as duties
from thermaxis.apps.job.building import PUTS_ON, Worked
from thermaxis.apps.job.models import Job
from thermaxis.apps.solving.ways import life_events
from thermaxis.core.planning.job.timing import expected_s, own_cost, per_distance, per_hour, step_seconds


@dataclass(frozen=True, kw_only=True)
class Cost:
    """Money in the workshop's, times in s; `own_jobs` is from how many jobs of one's own the expected time is."""

    parts: float
    seconds: float
    expected_s: float
    own_jobs: int
    total: float


@dataclass(frozen=True, kw_only=True)
class Lasting:
    """Money for each 1000 km and each hour of the duty; None where it cannot be told."""

    per_1000_km: float | None = None
    per_hour: float | None = None


def seconds_of(job: Job) -> dict[str, float]:
    """Seconds each step took, by its key, as ticked."""
    rows = sorted((row for row in job.ticks.all() if row.done), key=lambda row: (row.at, row.pk))
    took = step_seconds(job.started_at.timestamp(), [row.at.timestamp() for row in rows])
    return {row.key: seconds for row, seconds in zip(rows, took, strict=True)}


def parts_price(found: Worked) -> float:
    """What the catalogue asks for what goes on: pads of the axle, and its rings where they are new."""
    axle = found.check.axle
    if found.job.work not in PUTS_ON or found.job.pad_set_id is not None:
        return 0.0
    price = found.parts.pads(axle).price
    if found.job.work == "pads_rotors":
        price += len(found.sheet.task.corners) * found.parts.rotors(axle).price
    return price


def own_times(job: Job) -> list[float]:
    """How long the same person's closed jobs of the same kind took, in s."""
    rows = (
        Job.objects.of(job.workshop)
        .filter(work=job.work, started_by=job.started_by, closed_at__isnull=False)
        .exclude(pk=job.pk)
        .prefetch_related("ticks")
    )
    return [sum(seconds_of(row).values()) for row in rows]


def cost_of(found: Worked) -> Cost:
    """Time and cost of a job."""
    job = found.job
    own = own_times(job)
    took = sum(seconds_of(job).values())
    parts = parts_price(found) if job.parts_price is None else job.parts_price
    return Cost(
        parts=parts,
        seconds=took,
        expected_s=expected_s(60.0 * sum(step.step.minutes for step in found.sheet.steps), own),
        own_jobs=len(own),
        total=own_cost(parts, job.consumables_price or 0.0, took, job.rate_per_hour or 0.0),
    )


def lasting_of(found: Worked) -> Lasting:
    """What a job costs by what is driven on what it puts on. It solves the set: slow, asked for by itself."""
    job, duty = found.job, found.job.machine.duty
    if duty is None or job.work not in PUTS_ON:
        return Lasting()
    events = life_events(found.fitter, job.axle, found.parts)
    if events is None:
        return Lasting()
    total, hours = cost_of(found).total, duties.duty_facts(job.machine, duty).event_hours
    return Lasting(per_1000_km=per_distance(total, events, duty.event_km), per_hour=per_hour(total, events, hours))
