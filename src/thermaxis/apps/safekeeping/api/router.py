"""Backup, restore and the server's health, for owners; and one line for monitors."""

from __future__ import annotations

import contextlib
import sqlite3
from collections.abc import Iterator
from pathlib import Path

from django.db import DatabaseError, connection
from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import File, Form, Router, Status
from ninja import Path as InPath
from ninja.files import UploadedFile

from thermaxis import __version__
from thermaxis.apps.accounts.api.files import file_response
from thermaxis.apps.accounts.api.guessing import guessing
from thermaxis.apps.accounts.api.signed_in import OWNERS, ScopedRequest
from thermaxis.apps.accounts.errors import NotThere
from thermaxis.apps.accounts.gate import GATE
from thermaxis.apps.accounts.sessions import is_password
from thermaxis.apps.safekeeping import backing_up, coming_in, database, doctor, keeping, restoring
from thermaxis.apps.safekeeping.api import schemas
from thermaxis.apps.safekeeping.keepers import keeps_server, must_keep_server
from thermaxis.apps.solving.progress import stop_all
from thermaxis.core.errors import FieldError, SolveError

router = Router(auth=OWNERS)


def _backups() -> list[schemas.BackupOut]:
    return [
        schemas.BackupOut(
            name=path.name, made_at=at, bytes=path.stat().st_size, by_itself=keeping.moment_of(path.name) is not None
        )
        for at, path in keeping.all_of(backing_up.backups_folder())
    ]


def _findings(*, deep: bool) -> list[schemas.FindingOut]:
    found = doctor.examine(timezone.now(), deep=deep)
    return [schemas.FindingOut.of(row) for row in found]


def _out(request: ScopedRequest) -> schemas.SafekeepingOut:
    keeper = keeps_server(request.auth)
    return schemas.SafekeepingOut(
        version=__version__,
        keeper=keeper,
        locked_by_itself=keeper and backing_up.own_passphrase() is not None,
        backups=_backups() if keeper else [],
        findings=_findings(deep=False) if keeper else [],
    )


@contextlib.contextmanager
def _disk() -> Iterator[None]:
    """What the disk says against it, in words."""
    try:
        yield
    except (OSError, sqlite3.Error) as error:
        words = getattr(error, "strerror", None) or str(error)
        raise SolveError(f"The server's disk does not take it: {words}. Nothing was changed.") from None


@router.get("/safekeeping", response=schemas.SafekeepingOut, operation_id="safekeeping")
def safekeeping(request: ScopedRequest) -> schemas.SafekeepingOut:
    return _out(request)


@router.get("/safekeeping/doctor", response=list[schemas.FindingOut], operation_id="doctor")
def examine(request: ScopedRequest) -> list[schemas.FindingOut]:
    """Look through everything: it reads the whole database."""
    must_keep_server(request.auth)
    return _findings(deep=True)


@router.post("/safekeeping/backups", response={201: schemas.SafekeepingOut}, operation_id="make_backup")
def make(request: ScopedRequest, payload: schemas.BackupAsk) -> Status[schemas.SafekeepingOut]:
    """A backup of everything, kept on the server, to be taken away as a file."""
    must_keep_server(request.auth)
    with _disk():
        backing_up.keep_by_hand(timezone.now(), payload.passphrase or None)
    return Status(201, _out(request))


@router.put("/safekeeping/passphrase", response=schemas.SafekeepingOut, operation_id="lock_backups")
def lock(request: ScopedRequest, payload: schemas.LockAsk) -> schemas.SafekeepingOut:
    """Lock the backups the server makes by itself from now on, or no longer."""
    must_keep_server(request.auth)
    with guessing():
        is_password(request, request.auth.user, payload.password)
    with _disk():
        backing_up.set_own_passphrase(payload.passphrase or None)
    return _out(request)


def _kept(name: str) -> Path:
    path = backing_up.backups_folder() / name
    if not path.is_file():
        raise NotThere
    return path


@router.get("/safekeeping/backups/{name}", response=bytes, operation_id="backup_file")
def backup_file(request: ScopedRequest, name: InPath[schemas.BackupName]) -> HttpResponse:
    must_keep_server(request.auth)
    return file_response(_kept(name), name, "application/octet-stream")


@router.put("/safekeeping/backups/{name}/deleted", response=schemas.SafekeepingOut, operation_id="delete_backup")
def delete(request: ScopedRequest, name: InPath[schemas.BackupName]) -> schemas.SafekeepingOut:
    """One that was made by hand, or kept aside, goes for good; the nights' go by themselves."""
    must_keep_server(request.auth)
    path = _kept(name)
    if keeping.moment_of(name) is not None:
        raise SolveError("The nights' backups go by themselves when nobody needs them any more.")
    path.unlink(missing_ok=True)
    return _out(request)


@router.post("/safekeeping/incoming", response=schemas.PieceOut, operation_id="take_in_backup")
def incoming(request: ScopedRequest, file: File[UploadedFile], form: Form[schemas.PieceForm]) -> schemas.PieceOut:
    must_keep_server(request.auth)
    with _disk():
        return schemas.PieceOut(have_bytes=coming_in.take_in(form.token, form.offset, file.read()))


@contextlib.contextmanager
def _checked(payload: schemas.ChosenAsk) -> Iterator[restoring.Checked]:
    """A backup unpacked and looked through, for as long as the block lasts."""
    if (payload.token is None) == (payload.name is None):
        raise FieldError("token", payload.token, "either a file that has come in or a backup that is kept here")
    file = coming_in.file_of(payload.token) if payload.token is not None else _kept(str(payload.name))
    with _disk(), backing_up.workroom() as room:
        yield restoring.check(file, room, payload.passphrase or None)


@router.post("/safekeeping/look", response=schemas.CheckedOut, operation_id="look_at_backup")
def look(request: ScopedRequest, payload: schemas.ChosenAsk) -> schemas.CheckedOut:
    """What a backup holds, and that it is whole; nothing is touched."""
    must_keep_server(request.auth)
    with _checked(payload) as checked:
        return schemas.CheckedOut.of(
            checked.head,
            size_bytes=checked.head.size,
            older=checked.migrated,
            workshops=database.workshops_in(checked.database),
            ended=schemas.EndedAccessOut(**checked.ended),
        )


@router.post("/safekeeping/restore", response=schemas.RestoredOut, operation_id="restore_backup")
def restore(request: ScopedRequest, payload: schemas.RestoreAsk) -> schemas.RestoredOut:
    """Put a backup back. Everything is checked first, nobody else is inside meanwhile, and what was there is kept."""
    must_keep_server(request.auth)
    with guessing():
        is_password(request, request.auth.user, payload.password)
    with _checked(payload) as checked, GATE.closed(stop=stop_all if payload.stop else None):
        aside = restoring.put_back(checked)
        connection.close()
    coming_in.clear()
    ended = schemas.EndedAccessOut(**checked.ended)
    return schemas.RestoredOut(made_at=checked.head.made_at, aside=aside.name if aside else "", ended=ended)


@router.get("/health", response={200: schemas.HealthOut, 503: schemas.HealthOut}, operation_id="health", auth=None)
def health(request: HttpRequest) -> Status[schemas.HealthOut]:
    """Whether the server works: for monitors, without a word of what is in it."""
    readable, age = True, None
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT count(*) FROM django_migrations")
    except DatabaseError:
        readable = False
    with contextlib.suppress(OSError):
        rows = keeping.all_of(backing_up.backups_folder())
        if rows:
            age = round((timezone.now() - rows[0][0]).total_seconds() / 3600, 1)
    return Status(200 if readable else 503, schemas.HealthOut(process=True, database=readable, backup_age_hours=age))
