"""The bedding plan of what is on a machine."""

from __future__ import annotations

import dataclasses

from thermaxis.apps.fitted.standing import Standing
from thermaxis.apps.solving.in_force import SHORTEST
from thermaxis.apps.solving.mapping import CaseBuilder
from thermaxis.core.planning.bedding.plan import BeddingOrder, BeddingPlan, plan_bedding
from thermaxis.core.records import Case


def bedding_plan(standing: Standing, top_speed_mps: float, hard_g: float) -> tuple[BeddingPlan, BeddingOrder, Case]:
    """The hard series with cool-down for the front compound that is on."""
    pad = standing.pads("front").pad
    order = BeddingOrder(
        top_speed_mps=top_speed_mps, hard_g=hard_g, window_low_C=pad.bed_low_C, window_high_C=pad.bed_high_C
    )
    # The plan brings its own stops; the shortest duty keeps the case complete.
    case = CaseBuilder(standing, SHORTEST).case(standing.parts)
    plan = plan_bedding(case, order)
    return plan, order, dataclasses.replace(case, duty=plan.duty)
