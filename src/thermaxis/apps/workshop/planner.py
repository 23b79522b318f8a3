"""What is due next over all machines, parts, events, jobs and orders."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterable
from dataclasses import dataclass

from thermaxis.apps.accounts.kept import kept
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.fitted.parts import AXLES
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.garage.querysets import machine_rows
from thermaxis.apps.job.models import Job
from thermaxis.apps.life.advising import advice, part_words
from thermaxis.apps.season.models import Event, Order
from thermaxis.apps.season.querysets import events, orders
from thermaxis.apps.solving.following import state_of
from thermaxis.apps.solving.forecasting import Outlook, outlook
from thermaxis.apps.solving.in_force import InForce
from thermaxis.apps.solving.life import life_rows
from thermaxis.core.errors import FieldError, SolveError
from thermaxis.core.messages import workshop as say
from thermaxis.core.planning.life.changing import Terms
from thermaxis.core.planning.life.forecast import SURVIVES
from thermaxis.core.said import Said

SOON_DAYS, FAR_DAYS = 14, 400


@dataclass(frozen=True, kw_only=True)
class DueItem:
    """One thing to do: by when, on which machine, what, how sure (of a change: not to last), where it is done."""

    on: dt.date
    machine_id: int | None
    machine: str
    kind: str
    text: Said
    state: str
    stage: str
    event_id: int | None = None
    sure: float | None = None


@dataclass(frozen=True, kw_only=True)
class Counts:
    """What a foreman asks for."""

    open_jobs: int
    due_soon: int
    to_order: int
    parts_waiting: int


def due_items(scope: Scope, today: dt.date) -> list[DueItem]:
    """Everything that is due, the soonest first."""
    found: list[DueItem] = []
    for machine in scope.machines_seen(machine_rows(scope.workshop)):
        key = ("due", machine.pk)
        found += kept(scope.workshop, key, lambda machine=machine: _of_machine(scope, machine, today), machine.pk)  # type: ignore[misc]
    found += _events(scope, today)
    found += _jobs(scope, today)
    found += _orders(scope, today)
    return sorted(found, key=lambda item: (item.on, item.machine, item.kind))


def _of_machine(scope: Scope, machine: Machine, today: dt.date) -> list[DueItem]:
    """What the parts of one machine ask for; nothing where it cannot be computed."""
    try:
        state = state_of(scope, machine.pk)
        season = outlook(state)
        return [*_changes(scope, state, season, today), *_ageing(state, season, today), *_bedding(state, today)]
    except (SolveError, FieldError):
        return []


def _item(
    state: InForce, on: dt.date, kind: str, text: Said, word: str, stage: str, sure: float | None = None
) -> DueItem:
    machine = state.machine
    return DueItem(
        on=on, machine_id=machine.pk, machine=machine.name, kind=kind, text=text, state=word, stage=stage, sure=sure
    )


def _changes(scope: Scope, state: InForce, season: Outlook, today: dt.date) -> Iterable[DueItem]:
    planned = bool(season.asked) and season.asked[0].event.row is not None
    if not planned:
        # Without a calendar the usual pace says when.
        for row in life_rows(state, None):
            if row.due_on is not None and (row.due_on - today).days < FAR_DAYS:
                word = "over" if row.due_events < 1 else "close"
                yield _item(state, row.due_on, "part", say.PADS(axle=row.axle), word, "life")
        return
    for entry in advice(state.machine, season, today, Terms(currency=scope.workshop.currency)):
        change = entry.change
        event = season.asked[change.before].event
        chance = entry.forecast.ahead.chances[change.before]
        known = {"part": change.part, "event": event.name}
        text = say.CHANGE_FOR(**known, chance=min(0.99, chance))
        if chance > SURVIVES and change.reasons:
            # It would last, and is due for another reason.
            text = say.CHANGE_WHY(part=change.part, event=event.name, why=change.reasons[0])
        word = "over" if change.late or (event.on - today).days <= SOON_DAYS else "close"
        yield _item(state, event.on, "part", text, word, "life", sure=1.0 - chance)


def _ageing(state: InForce, season: Outlook, today: dt.date) -> Iterable[DueItem]:
    for forecast in season.forecasts:
        if forecast.due_on is None or (forecast.kind == "fluid" and forecast.due is not None):
            continue
        if (forecast.due_on - today).days < FAR_DAYS:
            word = "over" if forecast.due_on <= today else "close"
            yield _item(state, forecast.due_on, "age", say.AGE(part=part_words(forecast)), word, "life")


def _bedding(state: InForce, today: dt.date) -> Iterable[DueItem]:
    for axle in AXLES:
        if not state.bedded[axle].bites:
            yield _item(state, today, "bed", say.BED(axle=axle), "close", "bed")


def _events(scope: Scope, today: dt.date) -> Iterable[DueItem]:
    for row in scope.seen(events(scope.workshop).planned()):
        if row.machine.removed_at is not None:
            continue
        over = row.on < today
        yield DueItem(
            on=row.on,
            machine_id=row.machine_id,
            machine=row.machine.name,
            kind="event",
            text=say.DRIVEN(event=row.name) if over else say.EVENT(event=row.name, duty=row.duty.name),
            state="close" if over else "fine",
            stage="life" if over else f"ready/{row.pk}",
            event_id=row.pk,
        )


def _jobs(scope: Scope, today: dt.date) -> Iterable[DueItem]:
    jobs = Job.objects.of(scope.workshop).select_related("machine")
    rows = scope.seen(jobs.filter(machine__removed_at=None, abandoned_at=None))
    for job in rows.filter(closed_at=None):
        yield _job(job, today, say.JOB(work=job.work_words, axle=job.axle))
    for job in rows.exclude(closed_at=None).filter(bolts_due_km__isnull=False, bolts_done_at=None):
        yield _job(job, today, say.BOLTS(axle=job.axle))


def _job(job: Job, on: dt.date, text: Said) -> DueItem:
    return DueItem(
        on=on, machine_id=job.machine_id, machine=job.machine.name, kind="job", text=text, state="close", stage="job"
    )


def _orders(scope: Scope, today: dt.date) -> Iterable[DueItem]:
    for row in scope.seen(orders(scope.workshop).there().filter(arrived_on=None)):
        on = row.order_by if row.ordered_on is None else (row.event.on if row.event else row.ordered_on)
        late = row.ordered_on is None and row.order_by is not None and row.order_by < today
        yield DueItem(
            on=on or today,
            machine_id=row.machine_id,
            machine=row.machine.name if row.machine else "",
            kind="order",
            text=say.ORDER(name=row.name) if row.ordered_on is None else say.WAITS(name=row.name),
            state="over" if late else "close" if row.ordered_on is None else "fine",
            stage="life",
        )


def counts(scope: Scope, items: list[DueItem], today: dt.date) -> Counts:
    """What a foreman asks for: open jobs, due in 14 days, parts to order and parts on their way."""
    soon = today + dt.timedelta(days=SOON_DAYS)
    rows = scope.seen(Order.objects.of(scope.workshop).there().filter(arrived_on=None))
    return Counts(
        open_jobs=scope.seen(Job.objects.of(scope.workshop).open().filter(machine__removed_at=None)).count(),
        due_soon=sum(item.on <= soon and item.state != "fine" for item in items),
        to_order=rows.filter(ordered_on=None).count(),
        parts_waiting=rows.exclude(ordered_on=None).count(),
    )


def driven_between(scope: Scope, first: dt.date, last: dt.date) -> list[Event]:
    """Events that are over, in a time: a week or a month shows them too."""
    rows = scope.seen(events(scope.workshop).there()).exclude(state="planned").filter(on__gte=first, on__lte=last)
    return list(rows.filter(machine__removed_at=None))
