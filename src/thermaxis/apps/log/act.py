"""The one door of every change of a workshop's data: may they, one transaction, read again, one entry in the log."""

from __future__ import annotations

import secrets
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass, field
from typing import Protocol, cast

from django.db.models import Model, ObjectDoesNotExist, QuerySet

from thermaxis.apps.accounts.changes import change
from thermaxis.apps.accounts.errors import Clash, Differs, NotAllowed, NotThere
from thermaxis.apps.accounts.models import MachineStamp, Role, Workshop
from thermaxis.apps.accounts.scope import Scope, machine_near
from thermaxis.apps.log.action import Action
from thermaxis.apps.log.models import LogEntry

LONGEST, MOST_NAMES = 200, 4
Plain = str | int | float | bool | None


class Joined(Protocol):
    """A row whose model says what is read along with it."""

    READ_WITH: tuple[str, ...]


@dataclass(kw_only=True)
class Entry:
    """What the log will say of a change; `row` is there from the beginning, so that rows can name what made them."""

    scope: Scope
    action: Action
    row: LogEntry
    nothing: bool = False
    # Whether more than its machine may look different after it.
    far: bool = False
    machine: Model | None = None
    _things: list[str] = field(default_factory=list)
    _names: list[str] = field(default_factory=list)

    def about(self, *rows: Model) -> None:
        """The rows that were made or changed."""
        for row in rows:
            words = f"{row._meta.verbose_name} {row.pk}"
            if words not in self._things:
                self._things.append(words)
            # A row that has no name of its own is nothing to read.
            named = type(row).__str__ is not Model.__str__
            if named and str(row) not in self._names:
                self._names.append(str(row))

    def costs(self, money: float | None) -> None:
        """What it cost, in the workshop's money."""
        self.row.cost = money

    def changed(self, path: str, before: object, after: object) -> None:
        """A value by its path, as it was and as it is now; nothing where both are the same."""
        first = self.row.changes[path][0] if path in self.row.changes else _plain(before)
        if first != _plain(after):
            self.row.changes[path] = [first, _plain(after)]

    def on(self, machine: Model) -> None:
        """The machine it concerns, where that was not known when it began."""
        self.machine = machine

    def saved(self) -> LogEntry:
        """The log's row, written already, so that rows made by this change can refer to it."""
        if self.row.pk is None:
            self.keep()
        return self.row

    def keep(self) -> None:
        """Write what is known by now."""
        self.row.things = self._things
        self.row.kind = self.action.kind
        names = ", ".join(self._names[:MOST_NAMES])
        self.row.summary = f"{self.action.words}{': ' if names else ''}{names}"[:240]
        if self.machine is not None:
            self.row.machine_id = self.machine.pk
            self.row.odometer_km = getattr(self.machine, "odometer_km", None)
        self.row.save()


_current: ContextVar[Entry | None] = ContextVar("entry", default=None)


@contextmanager
def act(scope: Scope, action: Action, *rows: Model) -> Iterator[Entry]:
    """One change in somebody's name. `rows` are read again inside the transaction, as others may have changed them.

    Whoever makes one change of several gives them one entry: an act within an act adds to what is under way. Raises
    NotAllowed where the role does not go so far, NotThere for a row of another workshop or one that is gone.
    """
    under_way = _current.get()
    if under_way is not None:
        _read_again(scope, rows, under_way)
        under_way.far |= not action.nearby
        yield under_way
        return
    action.must_be_open_to(scope)
    with change():
        row = LogEntry(workshop=scope.workshop, act=action.name, user=scope.user)
        entry = Entry(scope=scope, action=action, row=row, far=not action.nearby)
        entry.row.user_name = scope.user.get_username()
        _read_again(scope, rows, entry)
        if scope.role == Role.DRIVER and entry.machine is not None and not scope.drives(entry.machine):
            raise NotAllowed("A driver changes machines of their own only.")
        if scope.role == Role.DRIVER and action.begun_by_self:
            begun_by = {getattr(row, "started_by", scope.user.get_username()) for row in rows}
            if begun_by != {scope.user.get_username()}:
                raise NotAllowed("A driver ends jobs they began themselves.")
        token = _current.set(entry)
        try:
            yield entry
        finally:
            _current.reset(token)
        if not entry.nothing:
            entry.keep()
            _stamp(entry)


def _stamp(entry: Entry) -> None:
    """Say that what is kept of the machine, or of the whole workshop, is no longer what is there."""
    stamp, workshop, machine = secrets.token_hex(8), entry.scope.workshop, entry.machine
    if entry.far:
        Workshop.objects.filter(pk=workshop.pk).update(stamp=stamp)
    elif machine is not None:
        rows = MachineStamp.objects.filter(workshop=workshop, machine_id=machine.pk)
        if not rows.update(stamp=stamp):
            MachineStamp.objects.create(workshop=workshop, machine_id=machine.pk, stamp=stamp)


def _read_again(scope: Scope, rows: tuple[Model, ...], entry: Entry) -> None:
    for row in rows:
        if getattr(row, "workshop_id", scope.workshop.pk) != scope.workshop.pk:
            raise NotThere
        try:
            row.refresh_from_db(from_queryset=_with_what_it_needs(row))
        except ObjectDoesNotExist:
            raise NotThere from None
        if entry.machine is None:
            entry.machine = machine_near(row)


def _with_what_it_needs(row: Model) -> QuerySet[Model]:
    """Its table, joined with what its model says is read along with it: else each would be asked for by itself."""
    rows = type(row)._base_manager.all()
    return rows.select_related(*cast(Joined, row).READ_WITH) if hasattr(row, "READ_WITH") else rows


def _plain(value: object) -> Plain:
    if value is None or isinstance(value, bool | int | float):
        return value
    return str(value)[:LONGEST]


def must_be(kept: Mapping[str, object], seen: Mapping[str, object], wanted: Mapping[str, object]) -> None:
    """Refuse to overwrite what somebody else changed since it was `seen`. Raises Clash with both values.

    A value that is already as wanted is nobody's loss.
    """
    differing = [
        Differs(path=path, kept=kept.get(path), yours=wanted.get(path))
        for path, value in seen.items()
        if path in kept and not same(kept[path], value) and not same(kept[path], wanted.get(path))
    ]
    if differing:
        raise Clash(differing)


def same(one: object, other: object) -> bool:
    """Whether two values are the same, as far as arithmetic can tell."""
    if isinstance(one, int | float) and isinstance(other, int | float):
        return abs(one - other) <= 1e-9 * max(1.0, abs(one), abs(other))
    return one == other


def must_be_version(kept: int, seen: int, what: str) -> None:
    """Refuse to overwrite a newer version than the one that was read. Raises Clash."""
    if kept != seen:
        raise Clash([Differs(path=what, kept=f"version {kept}", yours=f"version {seen}")])
