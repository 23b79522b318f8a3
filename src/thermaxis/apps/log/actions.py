"""Take a row out of sight, or bring it back: the same for everything that can be."""

from __future__ import annotations

from typing import TypeVar

from django.utils import timezone

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import Action
from thermaxis.apps.log.models import Removable

Row = TypeVar("Row", bound=Removable)


def set_removed(scope: Scope, what: Action, row: Row, removed: bool) -> Row:
    """Take a row out, or bring it back; it stays in the database."""
    with act(scope, what, row) as entry:
        entry.changed("removed", row.removed_at is not None, removed)
        if removed != (row.removed_at is not None):
            row.removed_at = timezone.now() if removed else None
            row.save(update_fields=["removed_at"])
        entry.about(row)
    return row
