"""In whose name something is read or done: the first argument of every action, and where it says who sees what.

A driver sees machines of their own and what hangs on them, and what belongs to no machine: duties, circuits, runs.
"""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterator
from dataclasses import dataclass
from typing import TypeVar

from django.contrib.auth.models import User
from django.db.models import Model, QuerySet, Subquery

from thermaxis.apps.accounts.errors import NotThere
from thermaxis.apps.accounts.models import ApiKey, Membership, OpenSession, Reach, Role, Workshop

Row = TypeVar("Row", bound=Model)
# By which of its columns a row is of a machine, the nearest first.
NEAR = ("machine", "mounting", "inspection", "job", "record", "entry")


@dataclass(frozen=True, kw_only=True)
class Scope:
    """A person at work in one workshop; `reach` is less than everything where a key of theirs is at work."""

    workshop: Workshop
    user: User
    role: Role
    reach: Reach = Reach.ALL
    # When the session that asks was seen last; None where there is none, or where it was ended.
    session_seen_at: dt.datetime | None = None

    def one(self, rows: QuerySet[Row], pk: int | None) -> Row:
        """The row with this number, of rows that are this workshop's already. Raises NotThere."""
        found = rows.filter(pk=pk).first()
        if found is None or not self.sees(found):
            raise NotThere
        return found

    def sees(self, row: Model) -> bool:
        """Whether a row of this workshop is this person's to see."""
        if self.role != Role.DRIVER or not hangs_on_machines(row):
            return True
        machines = list(machines_of(row))
        if not machines:
            # What is about no machine is whose it is by name; a thing that was on none is anybody's.
            return getattr(row, "user_id", self.user.pk) == self.user.pk
        return any(self.drives(machine) for machine in machines)

    def drives(self, machine: Model) -> bool:
        """Whether a machine is this person's own."""
        return getattr(getattr(machine, "owner", None), "user_id", None) == self.user.pk

    def seen(self, rows: QuerySet[Row]) -> QuerySet[Row]:
        """Of this workshop's rows that name their machine those this person sees."""
        return rows.filter(machine__owner__user=self.user) if self.role == Role.DRIVER else rows

    def own_rows(self, rows: QuerySet[Row]) -> QuerySet[Row]:
        """Of this workshop's rows that name a person those this person sees."""
        return rows.filter(user=self.user) if self.role == Role.DRIVER else rows

    def machines_seen(self, rows: QuerySet[Row]) -> QuerySet[Row]:
        """Of this workshop's machines those this person sees."""
        return rows.filter(owner__user=self.user) if self.role == Role.DRIVER else rows


def hangs_on_machines(row: Model) -> bool:
    """Whether rows of this kind are of a machine at all."""
    return row._meta.label == "garage.Machine" or any(hasattr(type(row), name) for name in (*NEAR, "mountings"))


def machine_near(row: Model) -> Model | None:
    """The machine a row is of, or is about by what it hangs on."""
    if row._meta.label == "garage.Machine":
        return row
    for name in NEAR:
        near = getattr(row, name, None)
        if isinstance(near, Model):
            return near if name == "machine" else machine_near(near)
    return None


def machines_of(row: Model) -> Iterator[Model]:
    """Every machine a row is of: a set of pads has been on several."""
    near = machine_near(row)
    if near is not None:
        yield near
    elif hasattr(type(row), "mountings"):
        for mounting in getattr(row, "mountings").select_related("machine__owner"):  # noqa: B009
            yield mounting.machine


def scope_for(user: User, workshop_id: int | None = None, session_id: int = 0) -> Scope:
    """The person's scope in the workshop they chose, else in the first they belong to. Raises NotThere for none.

    Asked in a session, the same question finds when that was seen last: every request asks it.
    """
    session = OpenSession.objects.filter(pk=session_id, user=user).values("seen_at")
    rows = Membership.objects.filter(user=user).select_related("workshop").order_by("workshop_id")
    memberships = rows.annotate(session_seen_at=Subquery(session)) if session_id else rows
    chosen = memberships.filter(workshop_id=workshop_id).first() if workshop_id is not None else None
    member = chosen or memberships.first()
    if member is None:
        raise NotThere
    seen_at = getattr(member, "session_seen_at", None)
    return Scope(workshop=member.workshop, user=user, role=Role(member.role), session_seen_at=seen_at)


def scope_of_key(key: ApiKey) -> Scope:
    """What a key reaches: at most what its person may in its workshop. Raises NotThere where they belong no more."""
    member = Membership.objects.filter(user=key.user_id, workshop=key.workshop_id).select_related("workshop").first()
    if member is None:
        raise NotThere
    assert isinstance(key.user, User)
    return Scope(workshop=member.workshop, user=key.user, role=Role(member.role), reach=Reach(key.reach))


def workshops_of(user: User) -> QuerySet[Workshop]:
    """Every workshop a person belongs to."""
    return Workshop.objects.filter(members=user).order_by("pk")


def scope_of_owner(workshop: Workshop) -> Scope:
    """The scope of the workshop's first owner: for what the server does by itself, the demo data among it."""
    member = Membership.objects.filter(workshop=workshop, role=Role.OWNER).select_related("user").order_by("pk").first()
    if member is None:
        raise NotThere
    assert isinstance(member.user, User)
    return Scope(workshop=workshop, user=member.user, role=Role.OWNER)
