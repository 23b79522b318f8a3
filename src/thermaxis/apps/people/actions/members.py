"""Who belongs to a workshop and as what; and a person who is forgotten."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import User
from django.utils import timezone

from thermaxis.apps.accounts.errors import NotAllowed
from thermaxis.apps.accounts.models import ApiKey, Membership, Role, Workshop
from thermaxis.apps.accounts.scope import Scope, workshops_of
from thermaxis.apps.bed.models import RunEvent
from thermaxis.apps.garage.models import Owner
from thermaxis.apps.job.models import Job, JobTick
from thermaxis.apps.log.act import act
from thermaxis.apps.log.models import LogEntry
from thermaxis.apps.people.addresses import withdraw_of
from thermaxis.apps.workshop.portable.tables import WHO
from thermaxis.core.errors import FieldError, SolveError

# The kind of entries that may name others.
ABOUT_PEOPLE = "people"


def give_role(scope: Scope, member: Membership, role: str) -> Membership:
    """A member is something else from now on. FieldError for another role, SolveError for the last owner."""
    if role not in Role.values:
        raise FieldError("role", role[:20], "one of " + ", ".join(Role.values))
    with act(scope, "give_role", member) as entry:
        if member.role == Role.OWNER and role != Role.OWNER:
            _another_owner(member)
        entry.changed("role", member.role, role)
        member.role = role
        member.save(update_fields=["role"])
        entry.about(member)
    return member


def say_drives(scope: Scope, member: Membership, owner: Owner | None) -> None:
    """Whose machines are a member's own: an owner's, or nobody's."""
    with act(scope, "say_drives", member) as entry:
        before = Owner.objects.of(scope.workshop).filter(user=member.user)
        entry.changed("machines of", ", ".join(row.name for row in before), owner.name if owner else "")
        before.update(user=None)
        if owner is not None:
            owner.user = member.user
            owner.save(update_fields=["user"])
        entry.about(member)


def take_out_member(scope: Scope, member: Membership, forget: bool) -> None:
    """A member belongs to the workshop no more; `forget`: and their name goes, where they belong to no other."""
    user = member.user
    assert isinstance(user, User)
    with act(scope, "forget_member" if forget else "take_out_member", member) as entry:
        if member.role == Role.OWNER:
            _another_owner(member)
        if forget and workshops_of(user).exclude(pk=scope.workshop.pk).exists():
            raise NotAllowed("This person works in another workshop too: only they themselves can be forgotten there.")
        entry.about(member)
        _end(member)
        if forget:
            entry.saved()
            _forget(user)


def leave_workshop(scope: Scope) -> None:
    """A person belongs to a workshop no more, by their own wish. SolveError for the last owner."""
    with act(scope, "leave_workshop") as entry:
        member = Membership.objects.get(user=scope.user, workshop=scope.workshop)
        if member.role == Role.OWNER:
            _another_owner(member)
        entry.about(member)
        _end(member)


def forget_me(scope: Scope) -> None:
    """Everything about a person goes; what they did stays, without a name. SolveError for a last owner."""
    with act(scope, "leave_workshop") as entry:
        for member in Membership.objects.filter(user=scope.user).select_related("workshop"):
            if member.role == Role.OWNER:
                _another_owner(member)
        entry.saved()
        _forget(scope.user)
        # Written once more as the block is left, and not in the name that has just gone.
        entry.row.user, entry.row.user_name = None, nameless(scope.user)


def nameless(user: User) -> str:
    """What stands where a name stood: the same for everything one person did."""
    return f"former member {user.pk}"


def _another_owner(member: Membership) -> None:
    others = Membership.objects.filter(workshop=member.workshop_id, role=Role.OWNER).exclude(pk=member.pk)
    if not others.exists():
        raise SolveError("A workshop has an owner: make somebody else one first.")


def _end(member: Membership) -> None:
    now = timezone.now()
    ApiKey.objects.filter(user=member.user, workshop=member.workshop, withdrawn_at=None).update(withdrawn_at=now)
    Owner.objects.of(member.workshop).filter(user=member.user).update(user=None)
    withdraw_of(member.user)
    Membership.objects.filter(pk=member.pk).delete()


def _forget(user: User) -> None:
    """The name goes from everything that was done in it; what hangs on the person goes with them."""
    name, instead = user.get_username(), nameless(user)
    mine = LogEntry.objects.filter(user=user)
    workshops = set(mine.values_list("workshop_id", flat=True)) | set(workshops_of(user).values_list("pk", flat=True))
    mine.update(user_name=instead)
    Job.objects.filter(workshop__in=workshops, started_by=name).update(started_by=instead)
    JobTick.objects.filter(job__workshop__in=workshops, by=name).update(by=instead)
    JobTick.objects.filter(job__workshop__in=workshops, rechecked_by=name).update(rechecked_by=instead)
    RunEvent.objects.filter(run__workshop__in=workshops, by=name).update(by=instead)
    for entry in LogEntry.objects.filter(workshop__in=workshops, kind=ABOUT_PEOPLE):
        entry.changes = {
            path: [instead if value == name else value for value in values] for path, values in entry.changes.items()
        }
        entry.save(update_fields=["changes"])
    for job in Job.objects.filter(workshop__in=workshops).exclude(content={}):
        job.content = _without(job.content, name, instead)
        job.save(update_fields=["content"])
    Workshop.objects.filter(pk__in=workshops).update(stamp="")
    user.delete()


def _without(value: object, name: str, instead: str) -> Any:
    """A kept sheet with a name replaced where it says who did something, and nowhere else."""
    if isinstance(value, list):
        return [_without(entry, name, instead) for entry in value]
    if isinstance(value, dict):
        return {
            key: instead if key in WHO and entry == name else _without(entry, name, instead)
            for key, entry in value.items()
        }
    return value
