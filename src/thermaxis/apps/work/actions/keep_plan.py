"""Keep a bedding plan, and mark it done."""

from __future__ import annotations

import dataclasses
import datetime as dt

from thermaxis import __version__
from thermaxis.apps.accounts.changes import change
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.work.compute import bedding_plan, set_or_error
from thermaxis.apps.work.models import BeddingRecord


def keep_plan(machine: Machine, top_speed_mps: float, hard_g: float) -> BeddingRecord:
    """Compute the plan again from its order and keep both, so that what is kept is what the engine says."""
    plan, order, _ = bedding_plan(machine, top_speed_mps, hard_g)
    with change():
        return BeddingRecord.objects.create(
            workshop=machine.workshop, fitted_set=set_or_error(machine), order=dataclasses.asdict(order),
            plan=dataclasses.asdict(plan), engine_version=__version__,
        )  # fmt: skip


def mark_done(record: BeddingRecord, on: dt.date | None) -> BeddingRecord:
    """Say on which day the plan was driven; None takes that back."""
    record.done_on = on
    record.save(update_fields=["done_on"])
    return record
