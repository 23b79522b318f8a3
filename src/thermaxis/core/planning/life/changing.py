"""When to change what: before the event it may not last, together where that is cheaper, ordered in time."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass, replace

from thermaxis.core.checked import Checked, number
from thermaxis.core.errors import FieldError
from thermaxis.core.messages import life as say
from thermaxis.core.planning.life.forecast import SURVIVES
from thermaxis.core.said import Said, day_text

RESERVE_DAYS = 5
LEAD_DAYS = 10


@dataclass(frozen=True, kw_only=True)
class Terms(Checked):
    """What a change is weighed by (estimates): work in money a job, what a spoilt event costs, days of reserve."""

    work: float = number(60.0, ge=0, le=1e6)
    spoilt: float = number(250.0, ge=0, le=1e6)
    reserve_days: int = number(RESERVE_DAYS, ge=0, le=365, whole=True)
    currency: str = "£"


@dataclass(frozen=True, kw_only=True)
class Coming:
    """An event ahead."""

    name: str
    on: dt.date


@dataclass(frozen=True, kw_only=True)
class Due:
    """A part along the events: likelihood to hold through each, and the share of its life that is left before each.

    `key` is whose it is, `part` its name in a sentence, `job` the work it is changed in: parts of one job are changed
    together. `shelf` names what lies ready, `lead_days` is what the counter says. `due` is an event it must be changed
    before anyhow, `why` its reason.
    """

    key: str
    part: str
    job: str
    chances: tuple[float, ...]
    left: tuple[float, ...]
    price: float
    shelf: str = ""
    lead_days: int = LEAD_DAYS
    due: int | None = None
    why: Said | None = None


@dataclass(frozen=True, kw_only=True)
class Change:
    """A change: before which event, why then, what it throws away, what waiting would risk, and the order.

    `order_by` is None where nothing is to be ordered; `late` says that it comes after the event however it is ordered.
    """

    key: str
    part: str
    job: str
    before: int
    reasons: tuple[Said, ...]
    lost: float
    risk: float
    order_by: dt.date | None
    late: bool
    order: Said


def changes(parts: Sequence[Due], events: Sequence[Coming], today: dt.date, terms: Terms) -> tuple[Change, ...]:
    """What to change before which event, soonest first; a record for each part that does not last.

    Before the first event a part holds through with 95 % or less (or the one it is due by); a part of the same job that
    is due later comes along where the life it loses costs less than the work done once instead of twice. Order date:
    the event's, less the lead time and the reserve. Raises FieldError where a part has not a likelihood for each event.

    >>> import datetime as dt
    >>> part = Due(key="p", part="front pads", job="front", chances=(0.99, 0.9), left=(0.5, 0.3), price=120.0)
    >>> days = [Coming(name=f"round {k}", on=dt.date(2026, 12, 10 * k)) for k in (1, 2)]
    >>> [change.before for change in changes([part], days, dt.date(2026, 11, 1), Terms())]
    [1]
    """
    first: dict[str, int] = {}
    for part in parts:
        if len(part.chances) != len(events) or len(part.left) != len(events):
            raise FieldError("chances", len(part.chances), f"one for each of {len(events)} events")
        before = _first_doubt(part)
        if before is not None:
            first[part.key] = before
    found = []
    for part in parts:
        if part.key not in first:
            continue
        before = first[part.key]
        mates = [other for other in parts if other.job == part.job and first.get(other.key, before) < before]
        reasons: list[Said] = [part.why] if part.why is not None else []
        if mates:
            mate = min(mates, key=lambda other: first[other.key])
            sooner = first[mate.key]
            lost = part.left[sooner] * part.price
            if lost <= terms.work:
                reasons.append(
                    say.CHANGE_EARLY(
                        other=mate.part,
                        day=day_text(events[sooner].on),
                        share=part.left[sooner],
                        lost=lost,
                        saved=terms.work,
                        currency=terms.currency,
                    )
                )
                before = sooner
            else:
                reasons.append(say.CHANGE_LATE(other=mate.part, lost=lost, saved=terms.work, currency=terms.currency))
        found.append(_change(part, before, tuple(reasons), events, today, terms))
    return tuple(sorted(found, key=lambda change: (change.before, change.job, change.part)))


def _first_doubt(part: Due) -> int | None:
    doubts = [k for k, chance in enumerate(part.chances) if chance <= SURVIVES]
    first = min(doubts, default=None)
    if part.due is None:
        return first
    return part.due if first is None else min(first, part.due)


def _change(
    part: Due, before: int, reasons: tuple[Said, ...], events: Sequence[Coming], today: dt.date, terms: Terms
) -> Change:
    event = events[before]
    lost, risk = part.left[before] * part.price, (1.0 - part.chances[before]) * terms.spoilt
    if part.chances[before] <= SURVIVES:
        known: dict[str, float | str] = {"chance": 1.0 - part.chances[before], "risk": risk, "currency": terms.currency}
        reasons += (say.RISK(lost=lost, **known) if lost >= 1.0 else say.RISK_ONLY(**known),)
    change = Change(
        key=part.key,
        part=part.part,
        job=part.job,
        before=before,
        reasons=reasons,
        lost=lost,
        risk=risk,
        order_by=None,
        late=False,
        order=say.ON_SHELF(name=part.shelf),
    )
    if part.shelf:
        return change
    order_by = event.on - dt.timedelta(days=part.lead_days + terms.reserve_days)
    comes = today + dt.timedelta(days=part.lead_days)
    if comes >= event.on:
        late = say.TOO_LATE(day=day_text(comes), event=event.name)
        return replace(change, order_by=order_by, late=True, order=late)
    order = say.ORDER_NOW if order_by < today else say.ORDER_BY
    return replace(change, order_by=order_by, order=order(day=day_text(order_by)))
