"""A backup's database before it takes the place of the live one: looked through row by row, and nothing that was ended
since comes back with it.
"""

from __future__ import annotations

import contextlib
import datetime as dt
import hashlib
import sqlite3
from collections.abc import Iterable, Iterator
from pathlib import Path
from typing import Any, TypedDict

from django.contrib.auth.models import User
from django.contrib.sessions.models import Session
from django.db import transaction
from django.utils import timezone

from thermaxis.apps.accounts.ended import Ended, digest_of, ended_since
from thermaxis.apps.accounts.models import ApiKey, ChangeKey, Membership, OneTimeAddress, OpenSession, Role, TimeCode
from thermaxis.apps.accounts.sealing import BrokenSeal
from thermaxis.apps.accounts.shaped import shaped_columns
from thermaxis.apps.choose.models import Decision
from thermaxis.apps.season.models import CalendarFeed
from thermaxis.apps.workshop.forgetting import forget_person
from thermaxis.apps.workshop.portable.tables import is_photo, tables
from thermaxis.core.errors import FieldError
from thermaxis.formats.picture import redrawn


class EndedCounts(TypedDict):
    """What of a backup does not come back, and what cannot be read."""

    keys: int
    members: int
    roles: int
    addresses: int
    forgotten: int
    time_codes: int
    pictures: int


def prepare(made_at: dt.datetime, live: Path) -> EndedCounts:
    """Check and redraw what is in the database, end all access, and end again what was ended since `made_at`.

    FieldError for a row whose column holds another shape.
    """
    _check_shapes()
    with transaction.atomic():
        pictures = _redraw(live)
        keys = _end_access()
        since = list(ended_since(made_at))
        return EndedCounts(
            keys=keys,
            members=_end_members(since),
            roles=_give_roles(since),
            addresses=_end_addresses(since),
            forgotten=_forget(since),
            time_codes=_seal(),
            pictures=pictures,
        )


def _check_shapes() -> None:
    for model in tables():
        for field in shaped_columns(model):
            for number, value in model._default_manager.values_list("pk", field.name).iterator():
                try:
                    field.check_shape(value)
                except FieldError as error:
                    raise FieldError(f"{model._meta.label} {number}", error.value, error.allowed) from None


def _redraw(live: Path) -> int:
    """Draw every picture again that is not one of the live database's; gives how many were none, and are left out."""
    known, left_out = _pictures_of(live), 0
    for model in filter(is_photo, tables()):
        rows: Iterable[Any] = model._default_manager.iterator(chunk_size=20)
        for row in rows:
            content = bytes(row.content)
            if hashlib.sha256(content).digest() in known:
                continue
            try:
                row.content = redrawn(content)
                row.save(update_fields=["content"])
            except FieldError:
                row.delete()
                left_out += 1
    return left_out


def _pictures_of(live: Path) -> set[bytes]:
    """What pictures were drawn here already: a second drawing only makes them worse."""
    found: set[bytes] = set()
    names = [model._meta.db_table for model in filter(is_photo, tables())]
    # A live database that is damaged or not there tells nothing: all of them are drawn.
    with (
        contextlib.suppress(sqlite3.Error),
        contextlib.closing(sqlite3.connect(f"{live.resolve().as_uri()}?mode=ro", uri=True)) as one,
    ):
        for name in names:
            found.update(
                hashlib.sha256(content).digest() for (content,) in one.execute(f'SELECT content FROM "{name}"')
            )
    return found


def _end_access() -> int:
    """Sessions, addresses and stored answers go, keys are withdrawn; gives how many keys that were."""
    for rows in (Session.objects, OpenSession.objects, OneTimeAddress.objects, ChangeKey.objects):
        rows.all().delete()
    return ApiKey.objects.filter(withdrawn_at=None).update(withdrawn_at=timezone.now())


def _members(since: list[Ended], *what: str) -> Iterator[tuple[Membership, Ended]]:
    """Each membership of which something like this was written down, with what became of it last."""
    latest = {(row.who, row.workshop): row for row in since if row.what in what}
    for member in Membership.objects.select_related("user"):
        assert isinstance(member.user, User)
        row = latest.get((digest_of(member.user.get_username()), member.workshop_id))
        if row is not None:
            yield member, row


def _is_last_owner(member: Membership) -> bool:
    """Whether a workshop would have no owner without them: whoever came after is not in the backup."""
    owners = Membership.objects.filter(workshop=member.workshop_id, role=Role.OWNER)
    return member.role == Role.OWNER and not owners.exclude(pk=member.pk).exists()


def _end_members(since: list[Ended]) -> int:
    count = 0
    for member, row in _members(since, "member", "joined"):
        if row.what == "member" and not _is_last_owner(member):
            member.delete()
            count += 1
    return count


def _give_roles(since: list[Ended]) -> int:
    count = 0
    for member, row in _members(since, "role"):
        if row.role != member.role and not _is_last_owner(member):
            member.role = row.role
            member.save(update_fields=["role"])
            count += 1
    return count


def _end_addresses(since: list[Ended]) -> int:
    ended, count = {row.who for row in since if row.what == "address"}, 0
    for feed in CalendarFeed.objects.all():
        if digest_of(feed.token) in ended:
            feed.delete()
            count += 1
    for decision in Decision.objects.exclude(token=None):
        if digest_of(decision.token or "") in ended:
            decision.token = None
            decision.save(update_fields=["token"])
            count += 1
    return count


def _forget(since: list[Ended]) -> int:
    forgotten = {row.who for row in since if row.what == "forgotten"}
    people = [
        user
        for user in User.objects.all()
        if digest_of(user.get_username()) in forgotten
        and not any(map(_is_last_owner, Membership.objects.filter(user=user)))
    ]
    for user in people:
        forget_person(user)
    return len(people)


def _seal() -> int:
    """Seal what came open, out of a locked backup; gives how many were sealed by another server, and open nothing."""
    count = 0
    for device in TimeCode.objects.all():
        try:
            _ = device.bin_key
        except BrokenSeal:
            count += device.confirmed
            continue
        device.seal()
        device.save(update_fields=["key"])
    return count
