"""Bedding plans as the API gives them."""

from __future__ import annotations

import dataclasses

from thermaxis.apps.bed.api import schemas
from thermaxis.apps.bed.models import BeddingRecord
from thermaxis.apps.solving import tracing
from thermaxis.apps.solving.api.present import said_out
from thermaxis.core.physics.simulate import history
from thermaxis.core.planning.bedding.plan import BeddingOrder, BeddingPlan
from thermaxis.core.records import Case


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
    )
