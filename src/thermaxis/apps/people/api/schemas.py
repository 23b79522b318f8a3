"""People, their sessions and keys, and what addresses lead to, as the API gives them."""

from __future__ import annotations

import datetime as dt
from typing import Literal

from ninja import Schema
from pydantic import Field

RoleName = Literal["owner", "fitter", "driver", "reader"]
ReachName = Literal["read", "readings", "all"]

Secret = Field(min_length=10, max_length=100)


class AddressOut(Schema):
    """A one-time address that leads somewhere still; `name` of whose password a reset is."""

    id: int
    kind: str
    role: str
    note: str
    machines_of: str
    name: str
    made_at: dt.datetime
    ends_at: dt.datetime


class NewAddress(Schema):
    """An address with its secret, shown once; whether it was mailed as well."""

    address: AddressOut
    secret: str
    mailed: bool


class InviteAsk(Schema):
    role: RoleName
    note: str = Field("", max_length=120)
    machines_of: str = Field("", max_length=120)
    mail: str = Field("", max_length=254)


class KeyOut(Schema):
    id: int
    name: str
    reach: ReachName
    person: str
    made_at: dt.datetime
    used_at: dt.datetime | None


class NewKey(Schema):
    key: KeyOut
    secret: str


class KeyAsk(Schema):
    name: str = Field(min_length=1, max_length=80)
    reach: ReachName


class MemberOut(Schema):
    """A member; `only_here`: belongs to no other workshop, so that its owner may reset and forget."""

    id: int
    name: str
    role: RoleName
    is_me: bool
    second_factor: bool
    only_here: bool
    machines_of: str
    last_seen: dt.datetime | None


class PeopleOut(Schema):
    members: list[MemberOut]
    addresses: list[AddressOut]
    keys: list[KeyOut]
    can_mail: bool


class RoleAsk(Schema):
    role: RoleName


class DrivesAsk(Schema):
    """Whose machines a member drives; empty for nobody's."""

    machines_of: str = Field("", max_length=120)


class OutAsk(Schema):
    forget: bool = False


class WorkshopOut(Schema):
    name: str
    currency: str
    second_factor: bool


class WorkshopAsk(Schema):
    """What is to be changed, and what stood there when it was read."""

    name: str | None = Field(None, max_length=120)
    currency: str | None = Field(None, max_length=4)
    second_factor: bool | None = None
    seen: WorkshopOut


class SessionOut(Schema):
    """A browser that is signed in; `here` is the one that asks."""

    id: int
    place: str
    device: str
    made_at: dt.datetime
    seen_at: dt.datetime
    here: bool


class MeOut(Schema):
    name: str
    role: RoleName
    workshop: str
    second_factor: bool
    codes_left: int
    sessions: list[SessionOut]
    keys: list[KeyOut]


class PasswordAsk(Schema):
    password: str = Field(min_length=1, max_length=200)


class BegunOut(Schema):
    """What a device is told to show codes: typed, or as a picture (a data address)."""

    secret: str
    picture: str


class CodeAsk(Schema):
    code: str = Field(min_length=1, max_length=40)


class CodesOut(Schema):
    """Codes to write down, each good once; shown once."""

    codes: list[str]


class EndedOut(Schema):
    ended: int


class AddressAsk(Schema):
    secret: str = Secret


class AddressLook(Schema):
    """What an address leads to."""

    kind: Literal["found", "join", "reset"]
    workshop: str
    role: str
    name: str
    ends_at: dt.datetime


class FoundAsk(Schema):
    secret: str = Secret
    username: str = Field(max_length=150)
    password: str = Field(max_length=200)
    workshop: str = Field(max_length=120)
    currency: str = Field("£", max_length=4)


class JoinAsk(Schema):
    secret: str = Secret
    username: str = Field(max_length=150)
    password: str = Field(max_length=200)


class ResetAsk(Schema):
    secret: str = Secret
    password: str = Field(max_length=200)


class JoinedOut(Schema):
    """Where one belongs now, to sign in to or to choose."""

    name: str
    workshop_id: int
    workshop: str


class NewsOut(Schema):
    """What changed by the upgrades this owner has not read about, up to the version that is installed."""

    version: str
    changed: list[str]
