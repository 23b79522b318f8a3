"""Keep a bedding plan, and mark it done."""

from __future__ import annotations

import dataclasses
import datetime as dt

from thermaxis import __version__
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.bed.models import BeddingRecord
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.act import act
from thermaxis.apps.solving.bedding import bedding_plan


def keep_plan(scope: Scope, machine: Machine, top_speed_mps: float, hard_g: float) -> BeddingRecord:
    """Compute the plan again from its order and keep both, so that what is kept is what the engine says."""
    plan, order, _ = bedding_plan(standing_of(machine), top_speed_mps, hard_g)
    with act(scope, "keep_plan", machine) as entry:
        standing = standing_of(machine)
        row = BeddingRecord.objects.create(
            workshop=scope.workshop,
            machine=machine,
            front_pads=standing.pads("front"),
            rear_pads=standing.pads("rear"),
            front_rotors=standing.rotors("front"),
            rear_rotors=standing.rotors("rear"),
            order=dataclasses.asdict(order),
            plan=dataclasses.asdict(plan),
            engine_version=__version__,
        )
        entry.about(row, standing.pads("front"), standing.pads("rear"))
    return row


def mark_done(scope: Scope, record: BeddingRecord, on: dt.date | None) -> BeddingRecord:
    """Say on which day the plan was driven; None takes that back."""
    with act(scope, "mark_plan_done", record) as entry:
        entry.changed("done_on", record.done_on, on)
        record.done_on = on
        record.save(update_fields=["done_on"])
        entry.about(record)
    return record
