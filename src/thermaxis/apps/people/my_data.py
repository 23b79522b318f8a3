"""Everything about one person, as they may ask for it."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import User

from thermaxis.apps.accounts.models import ApiKey, Membership
from thermaxis.apps.accounts.second import has_second
from thermaxis.apps.accounts.sessions import sessions_of
from thermaxis.apps.garage.models import Owner
from thermaxis.apps.log.models import LogEntry

MOST_ENTRIES = 200_000


def my_data(user: User) -> dict[str, Any]:
    """What is kept of a person, plainly: nothing secret in it, nothing about others."""
    return {
        "format": "thermaxis-person",
        "name": user.get_username(),
        "since": user.date_joined.isoformat(),
        "last_signed_in": user.last_login.isoformat() if user.last_login else None,
        "second_factor": has_second(user),
        "workshops": [
            {"workshop": row.workshop.name, "role": row.role}
            for row in Membership.objects.filter(user=user).select_related("workshop")
        ],
        "owner_of_machines_as": [row.name for row in Owner.objects.filter(user=user)],
        "signed_in": [
            {
                "place": row.place,
                "device": row.device,
                "since": row.made_at.isoformat(),
                "seen": row.seen_at.isoformat(),
            }
            for row in sessions_of(user)
        ],
        "keys": [
            {
                "name": row.name,
                "reach": row.reach,
                "made": row.made_at.isoformat(),
                "last_used": row.used_at.isoformat() if row.used_at else None,
                "withdrawn": row.withdrawn_at is not None,
            }
            for row in ApiKey.objects.filter(user=user)
        ],
        "log": [
            {
                "workshop": row.workshop.name,
                "at": row.made_at.isoformat(),
                "on": row.on.isoformat(),
                "what": row.summary,
                "text": row.text,
            }
            for row in LogEntry.objects.filter(user=user).select_related("workshop").order_by("pk")[:MOST_ENTRIES]
        ],
    }
