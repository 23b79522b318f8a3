"""One-time addresses as rows: found by their secret, used up once, and the first one of a server nobody belongs to."""

from __future__ import annotations

import datetime as dt

from django.contrib.auth.models import User
from django.db.models import QuerySet
from django.utils import timezone

from thermaxis.apps.accounts.changes import change
from thermaxis.apps.accounts.errors import NotThere
from thermaxis.apps.accounts.models import Membership, OneTimeAddress, Role, Workshop
from thermaxis.apps.accounts.secrets import new_secret, print_of

GOOD_FOR = dt.timedelta(days=7)
Kind = OneTimeAddress.Kind


def open_addresses(workshop: Workshop | None) -> QuerySet[OneTimeAddress]:
    """Addresses that still lead somewhere, the latest first."""
    rows = OneTimeAddress.objects.filter(workshop=workshop, used_at=None, withdrawn_at=None)
    return rows.filter(ends_at__gt=timezone.now()).order_by("-pk")


def withdraw_all(rows: QuerySet[OneTimeAddress]) -> None:
    """Those of the rows that still led somewhere lead nowhere from now on."""
    rows.filter(used_at=None, withdrawn_at=None).update(withdrawn_at=timezone.now())


def withdraw_of(user: User) -> None:
    """The same for whatever was made for one person."""
    withdraw_all(OneTimeAddress.objects.filter(user=user))


def new_reset(user: User, workshop: Workshop | None = None) -> tuple[OneTimeAddress, str]:
    """Within a change: an address by which a person sets another password, and its secret; earlier ones end."""
    withdraw_all(OneTimeAddress.objects.filter(kind=Kind.RESET, user=user))
    secret = new_secret()
    return made(secret, kind=Kind.RESET, workshop=workshop, user=user), secret


def made(secret: str, **values: object) -> OneTimeAddress:
    """A row for a secret, kept."""
    row = OneTimeAddress(print=print_of(secret), ends_at=timezone.now() + GOOD_FOR)
    for name, value in values.items():
        setattr(row, name, value)
    row.save()
    return row


def found_address() -> str | None:
    """For a server nobody belongs to yet: the secret with which the first person makes the workshop. Else None.

    Whoever starts the server reads it there; each start makes another, and those of before lead nowhere.
    """
    with change():
        if Membership.objects.exists():
            return None
        withdraw_all(OneTimeAddress.objects.filter(kind=Kind.FOUND))
        secret = new_secret()
        made(secret, kind=Kind.FOUND, role=Role.OWNER)
    return secret


def address_of(secret: str) -> OneTimeAddress:
    """The address of a secret. Raises NotThere for one that never was, was used or withdrawn, or is too old."""
    row = OneTimeAddress.objects.filter(print=print_of(secret)).select_related("workshop", "user").first()
    if row is None or not row.is_open() or not reaches_no_further(row):
        raise NotThere
    return row


def reaches_no_further(row: OneTimeAddress) -> bool:
    """Whether every workshop of the person an address is for is the giver's. One of the server itself reaches any."""
    if row.kind != Kind.RESET or row.workshop_id is None:
        return True
    return not Membership.objects.filter(user=row.user_id).exclude(workshop=row.workshop_id).exists()


def use_up(row: OneTimeAddress) -> None:
    """Within a change: nobody uses it again. Raises NotThere where somebody just has."""
    used = OneTimeAddress.objects.filter(pk=row.pk, used_at=None, withdrawn_at=None, ends_at__gt=timezone.now())
    if not reaches_no_further(row) or not used.update(used_at=timezone.now()):
        raise NotThere


def reset_address(username: str) -> str | None:
    """For whoever runs the server, where no owner can help: the secret of another password. None: no such name."""
    user = User.objects.filter(username=username).first()
    if user is None:
        return None
    with change():
        return new_reset(user)[1]
