"""A workshop or a machine as a file, out and in; owners, and handing a machine over."""

from __future__ import annotations

import json
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from typing import Any

from django.db.models import Count, Q
from django.http import HttpResponse
from django.utils.text import slugify
from ninja import File, Path, Router, Status
from ninja.files import UploadedFile
from pydantic import Field

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.fields import RowId
from thermaxis.apps.accounts.api.files import file_response
from thermaxis.apps.accounts.api.signed_in import OWNERS, SIGNED_IN, ScopedRequest
from thermaxis.apps.fitted.standing import machine_of
from thermaxis.apps.garage.models import Owner
from thermaxis.apps.log.action import Action
from thermaxis.apps.solving.turns import Busy
from thermaxis.apps.workshop.actions.take_in import (
    TAKE_IN_MACHINE,
    TAKE_IN_WORKSHOP,
    hand_over,
    take_in_machine,
    take_in_workshop,
)
from thermaxis.apps.workshop.api.drawing import draw
from thermaxis.apps.workshop.portable.going_out import machine_document, workshop_document
from thermaxis.core.errors import FieldError
from thermaxis.formats.bounded_json import read_bounded
from thermaxis.formats.workshop_archive import read_archive, write_archive

router = Router(auth=SIGNED_IN)
JSON = "application/json"
_one = threading.Lock()


@dataclass(frozen=True, kw_only=True)
class Limits:
    """How large a file of a kind may be unpacked, and what of memory its values may take."""

    unpacked_bytes: int
    built_bytes: int


LIMITS = {
    TAKE_IN_MACHINE: Limits(unpacked_bytes=40_000_000, built_bytes=80_000_000),
    TAKE_IN_WORKSHOP: Limits(unpacked_bytes=64_000_000, built_bytes=250_000_000),
}


class TakenIn(Wire):
    rows: int


class TakenMachine(Wire):
    id: int
    name: str


class HandOverAsk(Wire):
    owner: str = Field(max_length=120)


class OwnerOut(Wire):
    """An owner and how many machines they have here."""

    id: int
    name: str
    machines: int


def _written(document: dict[str, Any]) -> str:
    return json.dumps(document, ensure_ascii=False, allow_nan=False, separators=(",", ":"))


@contextmanager
def _coming_in(request: ScopedRequest, what: Action, file: UploadedFile) -> Iterator[Any]:
    """A file's document, for as long as it is imported: only for those who may, and one at a time on this server."""
    what.must_be_open_to(request.auth)
    if not _one.acquire(blocking=False):
        raise Busy("Another file is being imported: try again when that is done.")
    try:
        most = LIMITS[what]
        content = file.read(most.unpacked_bytes + 1)
        if len(content) > most.unpacked_bytes:
            raise FieldError("file", f"{len(content)} bytes", f"at most {most.unpacked_bytes} bytes")
        text = read_archive(content, most.unpacked_bytes) if content.startswith(b"PK") else content
        del content
        yield read_bounded(text, most.built_bytes)
    finally:
        _one.release()


@router.get("/workshop/export", response=bytes, operation_id="export_workshop", auth=OWNERS)
def export(request: ScopedRequest) -> HttpResponse:
    """Everything the workshop has, but its people: as JSON, to be read in again, and as a CSV for each table."""
    workshop = request.auth.workshop
    name = f"{slugify(workshop.name) or 'workshop'}.thermaxis.zip"
    return file_response(write_archive(workshop_document(workshop)), name, "application/zip")


@router.post("/workshop/take-in", response=TakenIn, operation_id="take_in_workshop", auth=OWNERS)
def take_in(request: ScopedRequest, file: File[UploadedFile]) -> TakenIn:
    with _coming_in(request, TAKE_IN_WORKSHOP, file) as document:
        return TakenIn(rows=take_in_workshop(request.auth, document, draw))


@router.get("/machines/{machine_id}/export", response=bytes, operation_id="export_machine")
def export_machine(request: ScopedRequest, machine_id: Path[RowId]) -> HttpResponse:
    """A machine with everything that happened to it, for another workshop."""
    machine = machine_of(request.auth, machine_id)
    name = f"{slugify(machine.name) or 'machine'}.thermaxis.json"
    return file_response(_written(machine_document(machine)), name, JSON)


@router.post("/workshop/machine-files", response={201: TakenMachine}, operation_id="take_in_machine")
def machine_in(request: ScopedRequest, file: File[UploadedFile]) -> Status[TakenMachine]:
    with _coming_in(request, TAKE_IN_MACHINE, file) as document:
        machine = take_in_machine(request.auth, document, draw)
    return Status(201, TakenMachine.of(machine))


@router.get("/owners", response=list[OwnerOut], operation_id="owners")
def owners(request: ScopedRequest) -> list[OwnerOut]:
    there = Count("machines", filter=Q(machines__removed_at=None))
    rows = request.auth.own_rows(Owner.objects.of(request.auth.workshop)).annotate(number=there).order_by("name")
    return [OwnerOut.of(row, machines=row.number) for row in rows]


@router.put("/machines/{machine_id}/owner", response=TakenMachine, operation_id="hand_over")
def give(request: ScopedRequest, machine_id: Path[RowId], payload: HandOverAsk) -> TakenMachine:
    machine = hand_over(request.auth, machine_of(request.auth, machine_id), payload.owner)
    return TakenMachine.of(machine)
