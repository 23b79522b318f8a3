"""What a workshop is called, in which money it reckons, and whether it asks for a second factor."""

from __future__ import annotations

from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.accounts.second import has_second
from thermaxis.apps.log.act import act, must_be
from thermaxis.apps.log.action import OWNERS, Action
from thermaxis.core.checked import check_text
from thermaxis.core.errors import FieldError

CHANGE_WORKSHOP = Action("change_workshop", "Workshop's settings changed", kind="people", roles=OWNERS)

COLUMNS = ("name", "currency", "second_factor")


def change_workshop(scope: Scope, changes: dict[str, str | bool], seen: dict[str, str | bool]) -> Workshop:
    """Change what is given. FieldError for an empty name, Clash where somebody else has changed the same."""
    for path, longest in (("name", 120), ("currency", 4)):
        text = str(changes.get(path, "-"))
        check_text(path, text)
        if not text.strip() or len(text) > longest:
            raise FieldError(path, text[:40], f"1 to {longest} characters")
    row = scope.workshop
    with act(scope, CHANGE_WORKSHOP) as entry:
        row.refresh_from_db()
        must_be({column: getattr(row, column) for column in COLUMNS}, seen, changes)
        if changes.get("second_factor") and not has_second(scope.user):
            raise FieldError("second_factor", "true", "a second factor of your own first: else you are locked out")
        for column in COLUMNS:
            if column in changes:
                entry.changed(column, getattr(row, column), changes[column])
                setattr(row, column, changes[column])
        row.save(update_fields=[*COLUMNS])
    return row
