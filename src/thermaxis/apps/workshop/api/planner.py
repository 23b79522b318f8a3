"""The workshop's plan: what is due next, and weeks or months of it."""

from __future__ import annotations

import datetime as dt

from django.utils import timezone
from ninja import Query, Router

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.fields import State
from thermaxis.apps.accounts.api.said import SaidOut
from thermaxis.apps.accounts.api.signed_in import SIGNED_IN, ScopedRequest
from thermaxis.apps.workshop.planner import DueItem, counts, driven_between, due_items
from thermaxis.core.errors import FieldError

router = Router(auth=SIGNED_IN)
MOST_DAYS = 100


class PlannerQuery(Wire):
    """From which day to which the calendar goes."""

    since: dt.date
    until: dt.date


class DueOut(Wire):
    """One thing to do; `sure` of a change is how likely it would not last, `stage` where it is done."""

    on: dt.date
    machine_id: int | None
    machine: str
    kind: str
    text: SaidOut
    state: State
    stage: str
    event_id: int | None
    sure_share: float | None


class OverOut(Wire):
    """An event that is over."""

    on: dt.date
    machine_id: int
    machine: str
    name: str
    driven: bool


class PlannerOut(Wire):
    """Everything due, soonest first; the events that were, and what a foreman asks for."""

    today: dt.date
    currency: str
    due: list[DueOut]
    over: list[OverOut]
    open_jobs: int
    due_soon: int
    to_order: int
    parts_waiting: int


def _due(item: DueItem) -> DueOut:
    return DueOut.of(item, sure_share=item.sure)


@router.get("/workshop/planner", response=PlannerOut, operation_id="planner")
def planner(request: ScopedRequest, query: Query[PlannerQuery]) -> PlannerOut:
    """What every machine asks for, and what stands in the calendar."""
    if not 0 <= (query.until - query.since).days <= MOST_DAYS:
        raise FieldError("until", query.until.isoformat(), f"from since to {MOST_DAYS} days later")
    today, workshop = timezone.localdate(), request.auth.workshop
    items = due_items(request.auth, today)
    number = counts(request.auth, items, today)
    return PlannerOut.of(
        number,
        today=today,
        currency=workshop.currency,
        due=[_due(item) for item in items],
        over=[
            OverOut.of(row, machine=row.machine.name, driven=row.state == "driven")
            for row in driven_between(request.auth, query.since, query.until)
        ],
    )
