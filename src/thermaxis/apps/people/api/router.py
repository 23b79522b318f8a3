"""People of a workshop: roles, one-time addresses, keys, the workshop's own settings. For owners."""

from __future__ import annotations

from ninja import Path, Router, Status
from ninja.decorators import decorate_view

from thermaxis import __version__
from thermaxis.apps.accounts.api.fields import RowId
from thermaxis.apps.accounts.api.signed_in import OWNERS, ScopedRequest, gives_secret
from thermaxis.apps.accounts.models import ApiKey, Membership, OneTimeAddress
from thermaxis.apps.accounts.public import public_address
from thermaxis.apps.garage.models import Owner
from thermaxis.apps.people.actions import addresses, keys, members
from thermaxis.apps.people.actions.settings import change_workshop
from thermaxis.apps.people.api import present, schemas
from thermaxis.apps.people.mail import can_mail, mail_address
from thermaxis.apps.people.news import say_read, unread
from thermaxis.core.errors import FieldError

router = Router(auth=OWNERS)


def _member(request: ScopedRequest, member_id: int) -> Membership:
    rows = Membership.objects.filter(workshop=request.auth.workshop).select_related("user")
    return request.auth.one(rows, member_id)


@router.get("/news", response=schemas.NewsOut, operation_id="news")
def news(request: ScopedRequest) -> schemas.NewsOut:
    """What changed since this owner was told last; nothing once they have read it."""
    mine = Membership.objects.filter(workshop=request.auth.workshop, user=request.auth.user)
    return schemas.NewsOut(version=__version__, changed=list(unread(mine.get().read_news_of)))


@router.put("/news/read", response={204: None}, operation_id="read_news")
def read(request: ScopedRequest) -> Status[None]:
    say_read(request.auth.user)
    return Status(204, None)


@router.get("/members", response=schemas.PeopleOut, operation_id="people")
def people(request: ScopedRequest) -> schemas.PeopleOut:
    return present.people_out(request.auth)


@router.put("/members/{member_id}/role", response=schemas.PeopleOut, operation_id="give_role")
def give_role(request: ScopedRequest, member_id: Path[RowId], payload: schemas.RoleAsk) -> schemas.PeopleOut:
    members.give_role(request.auth, _member(request, member_id), payload.role)
    return present.people_out(request.auth)


@router.put("/members/{member_id}/machines", response=schemas.PeopleOut, operation_id="say_drives")
def say_drives(request: ScopedRequest, member_id: Path[RowId], payload: schemas.DrivesAsk) -> schemas.PeopleOut:
    owner, name = None, payload.machines_of
    if name:
        owner = Owner.objects.of(request.auth.workshop).filter(name=name).first()
        if owner is None:
            raise FieldError("machines_of", name[:40], "an owner of machines in this workshop")
    members.say_drives(request.auth, _member(request, member_id), owner)
    return present.people_out(request.auth)


@router.put("/members/{member_id}/out", response={204: None}, operation_id="take_out_member")
def take_out(request: ScopedRequest, member_id: Path[RowId], payload: schemas.OutAsk) -> Status[None]:
    members.take_out_member(request.auth, _member(request, member_id), payload.forget)
    return Status(204, None)


@router.post("/members/{member_id}/reset", response={201: schemas.NewAddress}, operation_id="give_reset")
@decorate_view(gives_secret)
def give_reset(request: ScopedRequest, member_id: Path[RowId]) -> Status[schemas.NewAddress]:
    """An address by which a member sets another password."""
    row, secret = addresses.give_reset(request.auth, _member(request, member_id))
    return Status(201, schemas.NewAddress(address=present.address_out(row), secret=secret, mailed=False))


@router.post("/addresses", response={201: schemas.NewAddress}, operation_id="invite")
@decorate_view(gives_secret)
def invite(request: ScopedRequest, payload: schemas.InviteAsk) -> Status[schemas.NewAddress]:
    """An address that lets one person in; shown once, to copy."""
    if payload.mail and (not can_mail() or "@" not in payload.mail or any(c.isspace() for c in payload.mail)):
        raise FieldError("mail", payload.mail[:40], "a mail address, where this server has a mail server")
    row, secret = addresses.invite(request.auth, payload.role, payload.note, payload.machines_of)
    mailed = bool(payload.mail) and mail_address(
        payload.mail, request.auth.workshop.name, f"{public_address()}join#{secret}"
    )
    return Status(201, schemas.NewAddress(address=present.address_out(row), secret=secret, mailed=mailed))


@router.put("/addresses/{address_id}/withdrawn", response=schemas.AddressOut, operation_id="withdraw_address")
def withdraw(request: ScopedRequest, address_id: Path[RowId]) -> schemas.AddressOut:
    rows = OneTimeAddress.objects.filter(workshop=request.auth.workshop).select_related("user")
    return present.address_out(addresses.withdraw_address(request.auth, request.auth.one(rows, address_id)))


@router.put("/members/keys/{key_id}/withdrawn", response=schemas.KeyOut, operation_id="withdraw_any_key")
def withdraw_key(request: ScopedRequest, key_id: Path[RowId]) -> schemas.KeyOut:
    rows = ApiKey.objects.filter(workshop=request.auth.workshop).select_related("user")
    return present.key_out(keys.withdraw_key(request.auth, request.auth.one(rows, key_id)))


@router.get("/workshop/settings", response=schemas.WorkshopOut, operation_id="workshop_settings")
def settings(request: ScopedRequest) -> schemas.WorkshopOut:
    row = request.auth.workshop
    return schemas.WorkshopOut.of(row)


@router.put("/workshop/settings", response=schemas.WorkshopOut, operation_id="change_workshop")
def change_settings(request: ScopedRequest, payload: schemas.WorkshopAsk) -> schemas.WorkshopOut:
    given = {"name": payload.name, "currency": payload.currency, "second_factor": payload.second_factor}
    changes = {path: value for path, value in given.items() if value is not None}
    seen = {path: value for path, value in payload.seen.model_dump().items() if path in changes}
    row = change_workshop(request.auth, changes, seen)
    return schemas.WorkshopOut.of(row)
