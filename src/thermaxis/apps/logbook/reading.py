"""The log as it is read: what is asked for of it, by machine, part, kind, person, time and words."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass

from django.db.models import Count, Prefetch, Q

from thermaxis.apps.accounts.models import Role
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.action import ACTIONS
from thermaxis.apps.log.models import LogEntry, LogPhoto, RemovableQuerySet

MOST_SHOWN = 50
# Of the machines their names, of the pictures that they are there: a page of entries needs no more of either.
OF_AN_ENTRY = (Prefetch("machine", Machine.objects.only("name")), Prefetch("photos", LogPhoto.objects.defer("content")))


@dataclass(frozen=True, kw_only=True)
class Asked:
    """What is asked for; empty is everything. `quiet`: single ticks and cells too; `removed`: what was taken out."""

    machine_id: int | None = None
    kind: str = ""
    person: str = ""
    thing: str = ""
    since: dt.date | None = None
    until: dt.date | None = None
    words: str = ""
    quiet: bool = False
    removed: bool = False


def entries_seen(scope: Scope) -> RemovableQuerySet[LogEntry]:
    """A driver's are those about machines of their own, and what they did themselves."""
    rows = LogEntry.objects.of(scope.workshop)
    if scope.role == Role.DRIVER:
        return rows.filter(Q(machine__owner__user=scope.user) | Q(machine=None, user=scope.user))
    return rows


def entries(rows: RemovableQuerySet[LogEntry], asked: Asked) -> RemovableQuerySet[LogEntry]:
    """Entries that answer, the latest first."""
    rows = rows.order_by("-on", "-pk")
    if not asked.removed:
        rows = rows.there()
    if asked.machine_id is not None:
        rows = rows.filter(machine_id=asked.machine_id)
    if asked.kind:
        rows = rows.filter(kind=asked.kind)
    if asked.person:
        rows = rows.filter(user_name=asked.person)
    if asked.thing:
        # As it stands in the list: the number's end is the quote.
        rows = rows.filter(things__icontains=f'"{asked.thing}"')
    if asked.since is not None:
        rows = rows.filter(on__gte=asked.since)
    if asked.until is not None:
        rows = rows.filter(on__lte=asked.until)
    for word in asked.words.split()[:6]:
        rows = rows.filter(Q(summary__icontains=word) | Q(text__icontains=word) | Q(user_name__icontains=word))
    if not asked.quiet:
        rows = rows.exclude(act__in=[name for name, action in ACTIONS.items() if action.quiet])
    return rows


def page(scope: Scope, asked: Asked, before: tuple[dt.date, int] | None) -> tuple[list[LogEntry], bool]:
    """So many entries from a place on, and whether there are more."""
    rows = entries(entries_seen(scope), asked).prefetch_related(*OF_AN_ENTRY)
    if before is not None:
        day, pk = before
        rows = rows.filter(Q(on__lt=day) | Q(on=day, pk__lt=pk))
    found = list(rows[: MOST_SHOWN + 1])
    return found[:MOST_SHOWN], len(found) > MOST_SHOWN


def counts(scope: Scope, asked: Asked) -> dict[str, int]:
    """How many entries there are of each kind, whatever kind is asked for."""
    rows = entries(entries_seen(scope), Asked(machine_id=asked.machine_id, quiet=asked.quiet, removed=asked.removed))
    return dict(rows.order_by().values_list("kind").annotate(Count("pk")))


def people(scope: Scope) -> list[str]:
    """Who has written in it."""
    return sorted(entries_seen(scope).order_by().values_list("user_name", flat=True).distinct())
