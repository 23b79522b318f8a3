"""Bedding's line on the rail."""

from __future__ import annotations

from thermaxis.apps.bed.models import BeddingRecord
from thermaxis.apps.fitted.standing import Standing
from thermaxis.apps.solving.stage import Stage


def stage(standing: Standing | None) -> Stage:
    """Started with a plan kept for the pads that are on, done once it was driven."""
    record = BeddingRecord.objects.there().filter(front_pads=standing.pads("front")).first() if standing else None
    if record is None:
        return Stage(name="bed", state="empty")
    return Stage(name="bed", state="done" if record.done_on else "started")
