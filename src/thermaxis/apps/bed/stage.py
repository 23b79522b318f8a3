"""Bedding's line on the rail."""

from __future__ import annotations

from thermaxis.apps.bed.models import BeddingRecord
from thermaxis.apps.fitted.actions.mount import BY_JOB
from thermaxis.apps.fitted.parts import AXLES
from thermaxis.apps.fitted.standing import Standing
from thermaxis.apps.solving.stage import Stage
from thermaxis.core.messages.bedding import TO_BE_BEDDED


def stage(standing: Standing | None) -> Stage:
    """Started with a plan kept for the pads that are on, done once it was driven; attention after a job put them on."""
    record = BeddingRecord.objects.there().filter(front_pads=standing.pads("front")).first() if standing else None
    if record is None:
        begun = [standing.axles[axle].pads.begun_by for axle in AXLES] if standing else []
        # What a job has just put on is to be bedded.
        if any(entry is not None and entry.act == BY_JOB for entry in begun):
            return Stage(name="bed", state="attention", note=TO_BE_BEDDED())
        return Stage(name="bed", state="empty")
    return Stage(name="bed", state="done" if record.done_on else "started")
