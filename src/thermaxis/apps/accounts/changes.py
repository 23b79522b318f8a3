"""One door for changes of data: a transaction, and in it the page's own key, so that what arrives twice is one change.

A page gives a change a key of its own. The key is written in the same transaction as the change: either both are there
or neither, whatever is killed when. `api/once.py` stores the answer beside it and gives it again: only to the caller
who was answered first, only behind the door.
"""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass

from django.db import IntegrityError, transaction
from django.utils import timezone

from thermaxis.apps.accounts.gate import GATE
from thermaxis.apps.accounts.models import ChangeKey

KEPT_FOR = dt.timedelta(days=1)


class AlreadyDone(Exception):
    """A change with this key was kept by another request in the meantime."""


class AnsweredBefore(Exception):
    """This change was answered: the answer that is given again, or what stands in its place."""

    def __init__(self, row: ChangeKey, asked: Asked) -> None:
        self.row, self.asked = row, asked
        super().__init__(row.pk)


@dataclass(kw_only=True)
class Asked:
    """Who asks for a change, by which key of the page's own, and what for; `kept` once the key is written.

    `caller` is the session or API key and `workshop_id` where they work, both known once a door was passed. The answer
    to one that gives a `secret` is stored nowhere.
    """

    user_id: int
    key: str
    operation: str
    fingerprint: str
    caller: str = ""
    workshop_id: int | None = None
    secret: bool = False
    kept: bool = False

    def passed(self, caller: str, workshop_id: int) -> None:
        """A door was passed. Raises AnsweredBefore where this change was made already."""
        self.caller, self.workshop_id = caller, workshop_id
        row = ChangeKey.objects.filter(user_id=self.user_id, key=self.key).first()
        if row is not None:
            raise AnsweredBefore(row, self)

    def is_same(self, row: ChangeKey) -> bool:
        """Whether a stored change is this very one."""
        known = (row.operation, row.fingerprint, row.workshop_id)
        return known == (self.operation, self.fingerprint, self.workshop_id)


_asked: ContextVar[Asked | None] = ContextVar("asked", default=None)


@contextmanager
def asked_by(asked: Asked) -> Iterator[None]:
    """Changes made in this block are one change, known by the page's key."""
    token = _asked.set(asked)
    try:
        yield
    finally:
        _asked.reset(token)


@contextmanager
def change() -> Iterator[None]:
    """One change of data, all or nothing. Raises AlreadyDone where the same change has been made already.

    Writers wait for each other here (transactions begin IMMEDIATE): what decides is read again inside the block. Raises
    Stopped where a backup was restored since the request began.
    """
    asked = _asked.get()
    with transaction.atomic():
        GATE.check()
        if asked is None or asked.kept or asked.workshop_id is None:
            yield
            return
        _write(asked)
        try:
            yield
        except BaseException:
            asked.kept = False
            raise


def _write(asked: Asked) -> None:
    assert asked.workshop_id is not None
    ChangeKey.objects.filter(made_at__lt=timezone.now() - KEPT_FOR).delete()
    try:
        with transaction.atomic():
            ChangeKey.objects.create(
                user_id=asked.user_id,
                key=asked.key,
                operation=asked.operation,
                fingerprint=asked.fingerprint,
                caller=asked.caller,
                workshop_id=asked.workshop_id,
                secret=asked.secret,
            )
    except IntegrityError:
        raise AlreadyDone from None
    asked.kept = True
