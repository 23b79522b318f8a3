"""Backups and the server's health, as the API gives them."""

from __future__ import annotations

import datetime as dt
from typing import Annotated

from pydantic import Field

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.fields import State

Token = Annotated[str, Field(pattern=r"^[a-z0-9]{16,40}$", max_length=40)]
BackupName = Annotated[str, Field(pattern=r"^[a-z]+[a-z0-9-]*\.backup$", max_length=60)]


class BackupOut(Wire):
    """A backup the server keeps; `by_itself`: made at night, and taken away when nobody needs it any more."""

    name: str
    made_at: dt.datetime
    bytes: int
    by_itself: bool


class FindingOut(Wire):
    name: str
    state: State
    text: str
    do: str


class SafekeepingOut(Wire):
    """`keeper`: whether this person keeps the whole server, and so makes backups of it and puts them back."""

    version: str
    keeper: bool
    # What the server makes by itself is locked by a passphrase somebody set.
    locked_by_itself: bool
    backups: list[BackupOut]
    findings: list[FindingOut]


class BackupAsk(Wire):
    """Locked by a passphrase where one is given: without it nobody opens it again, we neither."""

    passphrase: str = Field("", max_length=1000)


class LockAsk(Wire):
    """A passphrase for the backups the server makes by itself; an empty one locks them no longer."""

    passphrase: str = Field("", max_length=1000)
    password: str = Field(min_length=1, max_length=200)


class PieceForm(Wire):
    token: Token
    offset: int = Field(ge=0, le=2**53)


class PieceOut(Wire):
    have_bytes: int


class ChosenAsk(Wire):
    """A backup: one that has come in, or one the server keeps."""

    token: Token | None = None
    name: BackupName | None = None
    passphrase: str = Field("", max_length=1000)


class RestoreAsk(ChosenAsk):
    password: str = Field(min_length=1, max_length=200)
    # Stop what is still running; else that is named, and nothing is touched.
    stop: bool = False


class EndedAccessOut(Wire):
    """What does not come back with a backup: how many of each ended since, or cannot be read here.

    `time_codes` are second factors that another server sealed; `pictures` are files that are none.
    """

    keys: int
    members: int
    roles: int
    addresses: int
    forgotten: int
    time_codes: int
    pictures: int


class CheckedOut(Wire):
    """A backup that can be put back: nothing was touched yet."""

    version: str
    made_at: str
    size_bytes: int
    older: bool
    workshops: list[str]
    ended: EndedAccessOut


class RestoredOut(Wire):
    """What is there now, and under which name what was there is kept."""

    made_at: str
    aside: str
    ended: EndedAccessOut


class HealthOut(Wire):
    """For monitors: no data."""

    process: bool
    database: bool
    backup_age_hours: float | None
