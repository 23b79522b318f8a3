"""In whose name something is read or done: the first argument of every action."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TypeVar

from django.contrib.auth.models import User
from django.db.models import Model, QuerySet

from thermaxis.apps.accounts.errors import NotThere
from thermaxis.apps.accounts.models import Membership, Role, Workshop

Row = TypeVar("Row", bound=Model)


@dataclass(frozen=True, kw_only=True)
class Scope:
    """A person at work in one workshop."""

    workshop: Workshop
    user: User
    role: Role

    def one(self, rows: QuerySet[Row], pk: int | None) -> Row:
        """The row with this number, of rows that are this workshop's already. Raises NotThere."""
        found = rows.filter(pk=pk).first()
        if found is None:
            raise NotThere
        return found


def scope_for(user: User, workshop_id: int | None = None) -> Scope:
    """The person's scope in the workshop they chose, else in the first they belong to. Raises NotThere for none."""
    memberships = Membership.objects.filter(user=user).select_related("workshop").order_by("workshop_id")
    chosen = memberships.filter(workshop_id=workshop_id).first() if workshop_id is not None else None
    member = chosen or memberships.first()
    if member is None:
        raise NotThere
    return Scope(workshop=member.workshop, user=user, role=Role(member.role))


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
