"""Rows of people as the API gives them."""

from __future__ import annotations

from django_otp.plugins.otp_totp.models import TOTPDevice

from thermaxis.apps.accounts.models import ApiKey, Membership, OneTimeAddress, OpenSession
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.garage.models import Owner
from thermaxis.apps.people.addresses import open_addresses
from thermaxis.apps.people.api import schemas
from thermaxis.apps.people.mail import can_mail


def address_out(row: OneTimeAddress) -> schemas.AddressOut:
    return schemas.AddressOut.of(row, name=row.user.get_username() if row.user else "")


def key_out(row: ApiKey) -> schemas.KeyOut:
    return schemas.KeyOut.of(row, person=row.user.get_username())


def people_out(scope: Scope) -> schemas.PeopleOut:
    """Everybody of a workshop, the addresses that lead into it, and its keys."""
    workshop = scope.workshop
    members = list(Membership.objects.filter(workshop=workshop).select_related("user").order_by("pk"))
    users = [row.user_id for row in members]
    elsewhere = set(
        Membership.objects.filter(user__in=users).exclude(workshop=workshop).values_list("user_id", flat=True)
    )
    second = set(TOTPDevice.objects.filter(user__in=users, confirmed=True).values_list("user_id", flat=True))
    drives = {row.user_id: row.name for row in Owner.objects.of(workshop).filter(user__in=users)}
    seen = dict(OpenSession.objects.filter(user__in=users).order_by("seen_at").values_list("user_id", "seen_at"))
    keys = ApiKey.objects.filter(workshop=workshop, withdrawn_at=None).select_related("user").order_by("pk")
    return schemas.PeopleOut(
        members=[
            schemas.MemberOut.of(
                row,
                name=row.user.get_username(),
                is_me=row.user_id == scope.user.pk,
                second_factor=row.user_id in second,
                only_here=row.user_id not in elsewhere,
                machines_of=drives.get(row.user_id, ""),
                last_seen=seen.get(row.user_id),
            )
            for row in members
        ],
        addresses=[address_out(row) for row in open_addresses(workshop).select_related("user")],
        keys=[key_out(row) for row in keys],
        can_mail=can_mail(),
    )


def session_out(row: OpenSession, here: int) -> schemas.SessionOut:
    return schemas.SessionOut.of(row, here=row.pk == here)
