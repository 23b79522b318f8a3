"""People, their sessions and keys, and what addresses lead to, as the API gives them."""

from __future__ import annotations

import datetime as dt
from typing import Literal

from pydantic import Field

from thermaxis.apps.accounts.api.base import Wire

RoleName = Literal["owner", "fitter", "driver", "reader"]
ReachName = Literal["read", "readings", "all"]

Secret = Field(min_length=10, max_length=100)


class AddressOut(Wire):
    """A one-time address that leads somewhere still; `name` of whose password a reset is."""

    id: int
    kind: str
    role: str
    note: str
    machines_of: str
    name: str
    made_at: dt.datetime
    ends_at: dt.datetime


class NewAddress(Wire):
    """An address with its secret, shown once; whether it was mailed as well."""

    address: AddressOut
    secret: str
    mailed: bool


class InviteAsk(Wire):
    role: RoleName
    note: str = Field("", max_length=120)
    machines_of: str = Field("", max_length=120)
    mail: str = Field("", max_length=254)


class KeyOut(Wire):
    id: int
    name: str
    reach: ReachName
    person: str
    made_at: dt.datetime
    used_at: dt.datetime | None


class NewKey(Wire):
    key: KeyOut
    secret: str


class KeyAsk(Wire):
    name: str = Field(min_length=1, max_length=80)
    reach: ReachName


class MemberOut(Wire):
    """A member; `only_here`: belongs to no other workshop, so that its owner may reset and forget."""

    id: int
    name: str
    role: RoleName
    is_me: bool
    second_factor: bool
    only_here: bool
    machines_of: str
    last_seen: dt.datetime | None


class PeopleOut(Wire):
    members: list[MemberOut]
    addresses: list[AddressOut]
    keys: list[KeyOut]
    can_mail: bool


class RoleAsk(Wire):
    role: RoleName


class DrivesAsk(Wire):
    """Whose machines a member drives; empty for nobody's."""

    machines_of: str = Field("", max_length=120)


class OutAsk(Wire):
    forget: bool = False


class WorkshopOut(Wire):
    name: str
    currency: str
    second_factor: bool


class WorkshopAsk(Wire):
    """What is to be changed, and what stood there when it was read."""

    name: str | None = Field(None, max_length=120)
    currency: str | None = Field(None, max_length=4)
    second_factor: bool | None = None
    seen: WorkshopOut


class SessionOut(Wire):
    """A browser that is signed in; `here` is the one that asks."""

    id: int
    place: str
    device: str
    made_at: dt.datetime
    seen_at: dt.datetime
    here: bool


class MeOut(Wire):
    name: str
    role: RoleName
    workshop: str
    second_factor: bool
    codes_left: int
    sessions: list[SessionOut]
    keys: list[KeyOut]


class PasswordAsk(Wire):
    password: str = Field(min_length=1, max_length=200)


class BegunOut(Wire):
    """What a device is told to show codes: typed, or as a picture (a data address)."""

    secret: str
    picture: str


class CodeAsk(Wire):
    code: str = Field(min_length=1, max_length=40)


class CodesOut(Wire):
    """Codes to write down, each good once; shown once."""

    codes: list[str]


class EndedOut(Wire):
    ended: int


class AddressAsk(Wire):
    secret: str = Secret


class AddressLook(Wire):
    """What an address leads to."""

    kind: Literal["found", "join", "reset"]
    workshop: str
    role: str
    name: str
    ends_at: dt.datetime


class FoundAsk(Wire):
    secret: str = Secret
    username: str = Field(max_length=150)
    password: str = Field(max_length=200)
    workshop: str = Field(max_length=120)
    currency: str = Field("£", max_length=4)


class JoinAsk(Wire):
    secret: str = Secret
    username: str = Field(max_length=150)
    password: str = Field(max_length=200)


class ResetAsk(Wire):
    secret: str = Secret
    password: str = Field(max_length=200)


class JoinedOut(Wire):
    """Where one belongs now, to sign in to or to choose."""

    name: str
    workshop_id: int
    workshop: str


class NewsOut(Wire):
    """What changed by the upgrades this owner has not read about, up to the version that is installed."""

    version: str
    changed: list[str]
