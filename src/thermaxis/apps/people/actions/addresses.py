"""Invite somebody, give somebody another password; each address is used once, or withdrawn."""

from __future__ import annotations

from thermaxis.apps.accounts.errors import NotAllowed
from thermaxis.apps.accounts.models import Membership, OneTimeAddress, Role
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.accounts.secrets import new_secret
from thermaxis.apps.garage.models import Owner
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import OWNERS, Action
from thermaxis.apps.people.addresses import Kind, made, new_reset, open_addresses, withdraw_all
from thermaxis.core.checked import check_text
from thermaxis.core.errors import FieldError, SolveError

INVITE = Action("invite", "Somebody invited", kind="people", roles=OWNERS, nearby=True)
WITHDRAW_ADDRESS = Action("withdraw_address", "One-time address withdrawn", kind="people", roles=OWNERS, nearby=True)
GIVE_RESET = Action("give_reset", "Address for another password given", kind="people", roles=OWNERS, nearby=True)

MOST_OPEN = 100


def invite(scope: Scope, role: str, note: str, machines_of: str) -> tuple[OneTimeAddress, str]:
    """An address that lets one person in, in this role. FieldError for another role or no such owner."""
    if role not in Role.values:
        raise FieldError("role", role[:20], "one of " + ", ".join(Role.values))
    check_text("note", note)
    with act(scope, INVITE) as entry:
        if open_addresses(scope.workshop).count() >= MOST_OPEN:
            raise SolveError(f"{MOST_OPEN} invitations are open already: withdraw some first.")
        if machines_of and not Owner.objects.of(scope.workshop).filter(name=machines_of).exists():
            raise FieldError("machines_of", machines_of[:40], "an owner of machines in this workshop")
        secret = new_secret()
        row = made(secret, kind=Kind.JOIN, workshop=scope.workshop, role=role, note=note, machines_of=machines_of or "")
        entry.changed("role", None, role)
        entry.about(row)
    return row, secret


def give_reset(scope: Scope, member: Membership) -> tuple[OneTimeAddress, str]:
    """An address by which a member sets another password, and signs in without a code until they set one up again."""
    with act(scope, GIVE_RESET, member) as entry:
        if Membership.objects.filter(user=member.user_id).exclude(workshop=scope.workshop).exists():
            # Else one workshop's owner would come into the other's by this person's name.
            raise NotAllowed("This person works in another workshop too: they change their password themselves.")
        row, secret = new_reset(member.user, scope.workshop)
        entry.changed("password of", None, member.user.get_username())
        entry.about(row)
    return row, secret


def withdraw_address(scope: Scope, row: OneTimeAddress) -> OneTimeAddress:
    """An address leads nowhere from now on."""
    with act(scope, WITHDRAW_ADDRESS, row) as entry:
        withdraw_all(OneTimeAddress.objects.filter(pk=row.pk))
        row.refresh_from_db()
        entry.about(row)
    return row
