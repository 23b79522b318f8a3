"""Who belongs to a workshop and as what; and a person who is forgotten."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.utils import timezone

from thermaxis.apps.accounts.ended import note_ended
from thermaxis.apps.accounts.errors import NotAllowed
from thermaxis.apps.accounts.models import ApiKey, Membership, Role
from thermaxis.apps.accounts.scope import Scope, workshops_of
from thermaxis.apps.accounts.sessions import withdraw_resets
from thermaxis.apps.garage.models import Owner
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import EVERYBODY, OWNERS, Action
from thermaxis.apps.people.addresses import withdraw_of
from thermaxis.apps.season.feeds import renew_feeds
from thermaxis.apps.workshop.forgetting import forget_person, nameless
from thermaxis.core.errors import FieldError, SolveError

GIVE_ROLE = Action("give_role", "Role given", kind="people", roles=OWNERS)
SAY_DRIVES = Action("say_drives", "Said whose machines a member drives", kind="people", roles=OWNERS)
TAKE_OUT_MEMBER = Action("take_out_member", "Member taken out", kind="people", roles=OWNERS)
FORGET_MEMBER = Action("forget_member", "Member taken out, their name forgotten", kind="people", roles=OWNERS)
LEAVE_WORKSHOP = Action("leave_workshop", "Left the workshop", kind="people", roles=EVERYBODY)


def give_role(scope: Scope, member: Membership, role: str) -> Membership:
    """A member is something else from now on. FieldError for another role, SolveError for the last owner."""
    if role not in Role.values:
        raise FieldError("role", role[:20], "one of " + ", ".join(Role.values))
    with act(scope, GIVE_ROLE, member) as entry:
        if member.role == Role.OWNER and role != Role.OWNER:
            _another_owner(member)
        entry.changed("role", member.role, role)
        member.role = role
        member.save(update_fields=["role"])
        assert isinstance(member.user, User)
        withdraw_resets(member.user)
        note_ended("role", name=member.user.get_username(), workshop=member.workshop_id, role=role)
        entry.about(member)
    return member


def say_drives(scope: Scope, member: Membership, owner: Owner | None) -> None:
    """Whose machines are a member's own: an owner's, or nobody's."""
    with act(scope, SAY_DRIVES, member) as entry:
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
    with act(scope, FORGET_MEMBER if forget else TAKE_OUT_MEMBER, member) as entry:
        if member.role == Role.OWNER:
            _another_owner(member)
        if forget and workshops_of(user).exclude(pk=scope.workshop.pk).exists():
            raise NotAllowed("This person works in another workshop too: only they themselves can be forgotten there.")
        entry.about(member)
        entry.changed("calendar addresses renewed", 0, _end(member))
        if forget:
            entry.saved()
            forget_person(user)


def leave_workshop(scope: Scope) -> None:
    """A person belongs to a workshop no more, by their own wish. SolveError for the last owner."""
    with act(scope, LEAVE_WORKSHOP) as entry:
        member = Membership.objects.get(user=scope.user, workshop=scope.workshop)
        if member.role == Role.OWNER:
            _another_owner(member)
        entry.about(member)
        entry.changed("calendar addresses renewed", 0, _end(member))


def forget_me(scope: Scope) -> None:
    """Everything about a person goes; what they did stays, without a name. SolveError for a last owner."""
    with act(scope, LEAVE_WORKSHOP) as entry:
        for member in Membership.objects.filter(user=scope.user).select_related("workshop"):
            if member.role == Role.OWNER:
                _another_owner(member)
            renew_feeds(member.workshop)
        entry.saved()
        forget_person(scope.user)
        # Written once more as the block is left, and not in the name that has just gone.
        entry.row.user, entry.row.user_name = None, nameless(scope.user)


def _another_owner(member: Membership) -> None:
    others = Membership.objects.filter(workshop=member.workshop_id, role=Role.OWNER).exclude(pk=member.pk)
    if not others.exists():
        raise SolveError("A workshop has an owner: make somebody else one first.")


def _end(member: Membership) -> int:
    """A membership and what hangs on it end; gives how many calendar addresses were renewed."""
    now = timezone.now()
    ApiKey.objects.filter(user=member.user, workshop=member.workshop, withdrawn_at=None).update(withdrawn_at=now)
    Owner.objects.of(member.workshop).filter(user=member.user).update(user=None)
    withdraw_of(member.user)
    Membership.objects.filter(pk=member.pk).delete()
    note_ended("member", name=member.user.get_username(), workshop=member.workshop_id)
    return renew_feeds(member.workshop)
