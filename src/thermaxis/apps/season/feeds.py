"""The secret addresses machines' calendars are read at."""

from __future__ import annotations

import secrets

from thermaxis.apps.accounts.ended import note_ended
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.season.models import CalendarFeed


def renew_feeds(workshop: Workshop) -> int:
    """Within a change: every calendar address of a workshop becomes another one. Gives how many there are.

    Somebody who has left may have written them down.
    """
    rows = list(CalendarFeed.objects.of(workshop))
    for row in rows:
        note_ended("address", name=row.token)
        row.token = new_token()
        row.save(update_fields=["token"])
    return len(rows)


def new_token() -> str:
    """The end of an address nobody can guess."""
    return secrets.token_urlsafe(24)
