"""Keep a bedding plan, mark it driven, and write down what a maker's leaflet says."""

from __future__ import annotations

import dataclasses
import datetime as dt
from collections.abc import Sequence

from thermaxis import __version__
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.bed.actions.results import MARK_PLAN_DONE, by_hand, take_back_hand
from thermaxis.apps.bed.content import content_of
from thermaxis.apps.bed.models import BeddingRecord
from thermaxis.apps.catalogue.models import MakersRows, Pad
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.act import act, must_be_version
from thermaxis.apps.log.action import DRIVERS, Action
from thermaxis.apps.solving.bedding import plan_of
from thermaxis.core.errors import SolveError
from thermaxis.core.planning.bedding.series import Row, check_rows
from thermaxis.core.planning.bedding.setting import Road

KEEP_PLAN = Action("keep_plan", "Bedding planned", kind="bedding", roles=DRIVERS, gives_history=True)
KEEP_MAKERS_ROWS = Action("keep_makers_rows", "Maker's rows kept", kind="bedding")
REMOVE_PLAN = Action("remove_plan", "Bedding plan taken out or brought back", kind="bedding", roles=DRIVERS)


def keep_plan(scope: Scope, machine: Machine, school: str, road: Road) -> BeddingRecord:
    """Compute the plan again from its order and keep both, so that what is kept is what the engine says.

    SolveError for a school that is not to be driven on this machine.
    """
    plan, setting = plan_of(standing_of(machine), road, school)
    if plan.refused is not None:
        raise SolveError("This school is not to be driven on this machine.")
    with act(scope, KEEP_PLAN, machine) as entry:
        standing = standing_of(machine)
        row = BeddingRecord.objects.create(
            workshop=scope.workshop,
            machine=machine,
            front_pads=standing.pads("front"),
            rear_pads=standing.pads("rear"),
            front_rotors=standing.rotors("front"),
            rear_rotors=standing.rotors("rear"),
            order={"school": school, **dataclasses.asdict(road)},
            plan=content_of(plan, setting),
            engine_version=__version__,
        )
        entry.about(row, standing.pads("front"), standing.pads("rear"))
    return row


def mark_done(scope: Scope, record: BeddingRecord, on: dt.date | None) -> BeddingRecord:
    """Say on which day the plan was driven; None takes that back, with what it said of the pads."""
    with act(scope, MARK_PLAN_DONE, record) as entry:
        entry.changed("done_on", record.done_on, on)
        if record.done_on is None and on is not None:
            by_hand(scope, record, on)
        if on is None:
            take_back_hand(scope, record)
        record.done_on = on
        record.save(update_fields=["done_on"])
        entry.about(record)
    return record


def keep_makers_rows(scope: Scope, pad: Pad, rows: Sequence[Row], version: int) -> MakersRows:
    """Write down the rows of a compound's leaflet, whole; none take them out. FieldError, Clash."""
    if rows:
        check_rows(rows)
    with act(scope, KEEP_MAKERS_ROWS, pad) as entry:
        row, _ = MakersRows.objects.get_or_create(workshop=scope.workshop, pad=pad, defaults={"version": 0})
        must_be_version(row.version, version, "rows")
        entry.changed("rows", len(row.rows), len(rows))
        row.rows = [dataclasses.asdict(one) for one in rows]
        row.version += 1
        row.save()
        entry.about(pad)
    return row
