"""Bedding's line on the rail."""

from __future__ import annotations

from thermaxis.apps.bed.models import BeddingRecord, BeddingRun
from thermaxis.apps.fitted.bedded import bedding_states
from thermaxis.apps.fitted.standing import Standing
from thermaxis.apps.solving.stage import Stage
from thermaxis.core.messages.proof import TO_BE_BEDDED


def stage(standing: Standing | None) -> Stage:
    """Attention while pads are on that are not bedded and nothing was begun; done once a plan was driven."""
    if standing is None:
        return Stage(name="bed", state="empty")
    states = bedding_states(standing)
    record = BeddingRecord.objects.there().filter(front_pads=standing.pads("front")).first()
    begun = record is not None or BeddingRun.objects.filter(record__front_pads=standing.pads("front")).exists()
    if any(state.state in ("new", "unbedded") for state in states.values()) and not begun:
        return Stage(name="bed", state="attention", note=TO_BE_BEDDED())
    if record is None:
        return Stage(name="bed", state="empty")
    return Stage(name="bed", state="done" if record.done_on else "started")
