"""Keep a decision or a shortlist, share it for reading, or take it out of the list."""

from __future__ import annotations

import secrets
from typing import Any

from django.utils import timezone

from thermaxis import __version__
from thermaxis.apps.accounts.changes import change
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.work.models import Decision, FittedSet


def keep_decision(
    machine: Machine, content: dict[str, Any], title: str, note: str = "", fitted: FittedSet | None = None
) -> Decision:
    """Keep what was shown, with the engine's version; `fitted` is the set that was put on by it."""
    with change():
        return Decision.objects.create(
            workshop=machine.workshop, machine=machine, fitted_set=fitted, title=title, note=note, content=content,
            engine_version=__version__,
        )  # fmt: skip


def set_shared(decision: Decision, shared: bool, notes: bool = False) -> Decision:
    """Give the decision an address of its own that cannot be guessed, or take that away; a new one is new each time.

    `notes`: what was noted of it, of the machine and of the duty is read there too.
    """
    with change():
        decision.refresh_from_db(fields=["token"])
        if shared and not decision.token:
            decision.token = secrets.token_urlsafe(24)
        elif not shared:
            decision.token = None
        decision.share_notes = shared and notes
        decision.save(update_fields=["token", "share_notes"])
    return decision


def set_removed(decision: Decision, removed: bool) -> Decision:
    """Take a decision out of the list, or bring it back; one that is out is not shared either."""
    decision.removed_at = timezone.now() if removed else None
    if removed:
        decision.token = None
    decision.save(update_fields=["removed_at", "token"])
    return decision
