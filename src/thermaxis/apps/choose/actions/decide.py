"""Keep a shortlist, share a decision for reading, or take one out of the list."""

from __future__ import annotations

import secrets
from typing import Any

from thermaxis import __version__
from thermaxis.apps.accounts.ended import note_ended
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.choose.models import Decision
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log import actions as log
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import Action
from thermaxis.core.errors import FieldError

KEEP_DECISION = Action("keep_decision", "Decision kept", kind="decision")
SHARE_DECISION = Action("share_decision", "Decision shared or withdrawn", kind="decision")
REMOVE_DECISION = Action("remove_decision", "Decision taken out or brought back", kind="decision")


def keep_decision(scope: Scope, machine: Machine, content: dict[str, Any], title: str, note: str = "") -> Decision:
    """Keep what was shown, with the engine's version."""
    with act(scope, KEEP_DECISION, machine) as entry:
        row = Decision.objects.create(
            workshop=scope.workshop,
            machine=machine,
            title=title,
            note=note,
            content=content,
            engine_version=__version__,
        )
        entry.about(row)
    return row


def set_shared(scope: Scope, decision: Decision, shared: bool, notes: bool = False) -> Decision:
    """Give the decision an address of its own that cannot be guessed, or take that away; a new one is new each time.

    `notes`: what was noted of it, of the machine and of the duty is read there too. FieldError while it is taken out.
    """
    with act(scope, SHARE_DECISION, decision) as entry:
        if shared and decision.removed_at is not None:
            raise FieldError("shared", True, "false while it is taken out of the list")
        entry.changed("shared", decision.token is not None, shared)
        entry.changed("notes", decision.share_notes, shared and notes)
        if shared and not decision.token:
            decision.token = secrets.token_urlsafe(24)
        elif not shared:
            if decision.token:
                note_ended("address", name=decision.token)
            decision.token = None
        decision.share_notes = shared and notes
        decision.save(update_fields=["token", "share_notes"])
        entry.about(decision)
    return decision


def set_removed(scope: Scope, decision: Decision, removed: bool) -> Decision:
    """Take a decision out of the list, or bring it back; one that is out is not shared either."""
    with act(scope, REMOVE_DECISION, decision):
        if removed:
            set_shared(scope, decision, False)
        return log.set_removed(scope, REMOVE_DECISION, decision, removed)
