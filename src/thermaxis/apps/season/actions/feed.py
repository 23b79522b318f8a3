"""Give a machine's calendar a secret address, or withdraw it."""

from __future__ import annotations

from thermaxis.apps.accounts.ended import note_ended
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import DRIVERS, Action
from thermaxis.apps.season.feeds import new_token
from thermaxis.apps.season.models import CalendarFeed

SET_FEED = Action("set_feed", "Calendar address made or withdrawn", kind="event", roles=DRIVERS)


def set_feed(scope: Scope, machine: Machine, shared: bool) -> CalendarFeed | None:
    """Share the calendar at an address nobody can guess; withdrawn, that address never works again."""
    with act(scope, SET_FEED, machine) as entry:
        row = CalendarFeed.objects.filter(machine=machine).first()
        entry.changed("shared", row is not None, shared)
        if shared and row is None:
            row = CalendarFeed.objects.create(workshop=scope.workshop, machine=machine, token=new_token())
        if not shared and row is not None:
            note_ended("address", name=row.token)
            row.delete()
            row = None
    return row
