"""Keys by which a device or a program works in a person's name: made, shown once, withdrawn."""

from __future__ import annotations

from django.utils import timezone

from thermaxis.apps.accounts.models import ApiKey, Reach
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.accounts.secrets import new_secret, print_of
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import EVERYBODY, OWNERS, Action
from thermaxis.core.checked import check_text
from thermaxis.core.errors import FieldError, SolveError

MAKE_KEY = Action("make_key", "Key made", kind="people", roles=EVERYBODY, nearby=True)
WITHDRAW_KEY = Action("withdraw_key", "Key withdrawn", kind="people", roles=EVERYBODY, nearby=True)
WITHDRAW_ANY_KEY = Action("withdraw_any_key", "Key of a member withdrawn", kind="people", roles=OWNERS, nearby=True)

BEGINS, MOST = "thx_", 30


def make_key(scope: Scope, name: str, reach: str) -> tuple[ApiKey, str]:
    """A key and its secret, which nobody is shown again. FieldError for a name or a reach that is none."""
    check_text("name", name)
    if not name.strip() or len(name) > 80:
        raise FieldError("name", name[:40], "1 to 80 characters")
    if reach not in Reach.values:
        raise FieldError("reach", reach[:20], "one of " + ", ".join(Reach.values))
    with act(scope, MAKE_KEY) as entry:
        mine = ApiKey.objects.filter(user=scope.user, workshop=scope.workshop, withdrawn_at=None)
        if mine.count() >= MOST:
            raise SolveError(f"{MOST} keys are in use already: withdraw one first.")
        secret = new_secret(BEGINS)
        row = ApiKey.objects.create(
            user=scope.user, workshop=scope.workshop, name=name.strip(), reach=reach, print=print_of(secret)
        )
        entry.changed("reach", None, reach)
        entry.about(row)
    return row, secret


def withdraw_key(scope: Scope, row: ApiKey) -> ApiKey:
    """A key opens nothing from now on; one's own, or as an owner any of the workshop's."""
    with act(scope, WITHDRAW_KEY if row.user_id == scope.user.pk else WITHDRAW_ANY_KEY, row) as entry:
        if row.withdrawn_at is None:
            row.withdrawn_at = timezone.now()
            row.save(update_fields=["withdrawn_at"])
        entry.about(row)
    return row
