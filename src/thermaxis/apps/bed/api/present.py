"""Bedding plans as the API gives them."""

from __future__ import annotations

import dataclasses

from thermaxis.apps.accounts.api.said import said_out
from thermaxis.apps.bed.api import schemas
from thermaxis.apps.bed.models import BeddingRecord
from thermaxis.apps.fitted.standing import Standing
from thermaxis.apps.solving import tracing
from thermaxis.apps.solving.in_force import SHORTEST
from thermaxis.apps.solving.mapping import CaseBuilder
from thermaxis.core.physics.simulate import history
from thermaxis.core.planning.bedding.plan import BeddingOrder, BeddingPlan, BeddingStop
from thermaxis.core.records import Case, StopsDuty
from thermaxis.formats.records_json import from_plain
from thermaxis.formats.units import said_of


def bedding_out(pad: str, plan: BeddingPlan, order: BeddingOrder, case: Case) -> schemas.BeddingOut:
    curve = tracing.thinned(history(case), case)
    return schemas.BeddingOut(
        pad=pad,
        window_low_C=order.window_low_C,
        window_high_C=order.window_high_C,
        reached=plan.reached,
        rear_reached=plan.rear_reached,
        peak_front_C=plan.peak_front_C,
        peak_rear_C=plan.peak_rear_C,
        cool_down_s=plan.cool_down_s,
        gap_s=plan.gap_s,
        text=said_out(plan.text),
        stops=[schemas.BeddingStopOut(**dataclasses.asdict(stop)) for stop in plan.stops],
        curve=schemas.CurveOut(
            t_s=curve["t_s"], front_surface_C=curve["front_surface_C"], rear_surface_C=curve["rear_surface_C"]
        ),
    )


def plan_record_out(record: BeddingRecord) -> schemas.PlanRecordOut:
    return schemas.PlanRecordOut(
        id=record.pk,
        made_at=record.made_at,
        done_on=record.done_on,
        top_speed_mps=record.order["top_speed_mps"],
        hard_g=record.order["hard_g"],
        stops=len(record.plan["stops"]),
        removed=record.removed_at is not None,
    )


def kept_plan_out(record: BeddingRecord, standing: Standing) -> schemas.KeptPlanOut:
    """The stops as they were kept; the curve is drawn for the machine as it stands, with the pads it was kept for."""
    kept = record.plan
    stops = tuple(BeddingStop(**stop) for stop in kept["stops"])
    duty = from_plain(StopsDuty, kept["duty"])
    plan = BeddingPlan(**{**kept, "stops": stops, "text": said_of(kept["text"]), "duty": duty})
    case = dataclasses.replace(CaseBuilder(standing, SHORTEST).case(standing.parts), duty=duty)
    shown = bedding_out(record.front_pads.pad.name, plan, BeddingOrder(**record.order), case)
    return schemas.KeptPlanOut(**plan_record_out(record).dict(), plan=shown)
