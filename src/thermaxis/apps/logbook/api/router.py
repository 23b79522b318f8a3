"""The log: read, searched, written by hand, taken out as files; a thing's own history."""

from __future__ import annotations

import json

from django.http import HttpResponse
from django.utils import timezone
from ninja import File, Form, Path, Query, Router, Status
from ninja.files import UploadedFile

from thermaxis.apps.accounts.api.fields import Removed, RowId
from thermaxis.apps.accounts.api.files import file_response, picture_response
from thermaxis.apps.accounts.api.kept_answers import written_answer
from thermaxis.apps.accounts.api.signed_in import SIGNED_IN, ScopedRequest
from thermaxis.apps.fitted.models import PadSet, RotorPair
from thermaxis.apps.fitted.standing import machine_of
from thermaxis.apps.log.models import LogEntry, LogPhoto
from thermaxis.apps.logbook.actions import write
from thermaxis.apps.logbook.api import schemas
from thermaxis.apps.logbook.book import book_of
from thermaxis.apps.logbook.history import History, history_of
from thermaxis.apps.logbook.reading import Asked, counts, entries, entries_seen, page, people
from thermaxis.core.errors import FieldError
from thermaxis.formats.log_book_pdf import log_book
from thermaxis.formats.log_table import COLUMNS, HEADINGS, LogRead, guess_columns, log_rows, read_log
from thermaxis.formats.table import read_table, write_csv, write_sheet

router = Router(auth=SIGNED_IN)
MOST_EXPORTED = 50_000
SHOWN_ROWS = 8
SHEET = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


def _asked(request: ScopedRequest, query: schemas.LogFilter) -> Asked:
    machine = machine_of(request.auth, query.machine_id) if query.machine_id is not None else None
    return Asked(
        machine_id=machine.pk if machine else None,
        kind=query.kind,
        person=query.person,
        thing=query.thing,
        since=query.since,
        until=query.until,
        words=query.words,
        quiet=query.quiet,
        removed=query.removed,
    )


def _out(row: LogEntry) -> schemas.LogOut:
    return schemas.LogOut.of(
        row,
        machine=row.machine.name if row.machine else None,
        changes=[
            schemas.LogChange(path=path, before=before, after=after) for path, (before, after) in row.changes.items()
        ],
        photos=[photo.pk for photo in row.photos.all() if photo.removed_at is None],
        by_hand=row.act in write.BY_HAND,
    )


@router.get("/log", response=schemas.LogPage, operation_id="read_log")
def read(request: ScopedRequest, query: Query[schemas.LogQuery]) -> HttpResponse:
    asked, workshop = _asked(request, query), request.auth.workshop
    before = None
    if query.before_on is not None and query.before_id is not None:
        before = (query.before_on, query.before_id)
    number_of = sorted(counts(request.auth, asked).items())
    rows, more = page(request.auth, asked, before)
    found = schemas.LogPage(
        entries=[_out(row) for row in rows],
        more=more,
        kinds=[schemas.KindCount(kind=kind, number=number) for kind, number in number_of],
        people=people(request.auth),
        currency=workshop.currency,
    )
    return written_answer(schemas.LogPage, found)


@router.post("/log", response={201: schemas.LogOut}, operation_id="write_note")
def write_note(request: ScopedRequest, payload: schemas.LogNoteAsk) -> Status[schemas.LogOut]:
    machine = machine_of(request.auth, payload.machine_id) if payload.machine_id is not None else None
    row = write.write_note(
        request.auth, machine, on=payload.on, text=payload.text, odometer_km=payload.odometer_km, cost=payload.cost
    )
    return Status(201, _out(row))


@router.put("/log/{entry_id}/removed", response=schemas.LogOut, operation_id="remove_note")
def remove_note(request: ScopedRequest, entry_id: Path[RowId], payload: Removed) -> schemas.LogOut:
    row = request.auth.one(LogEntry.objects.of(request.auth.workshop), entry_id)
    return _out(write.remove_note(request.auth, row, payload.removed))


@router.post("/log/{entry_id}/photos", response={201: schemas.LogPhotoOut}, operation_id="keep_note_photo")
def keep_photo(
    request: ScopedRequest, entry_id: Path[RowId], file: File[UploadedFile], form: Form[schemas.LogPhotoForm]
) -> Status[schemas.LogPhotoOut]:
    row = request.auth.one(LogEntry.objects.of(request.auth.workshop), entry_id)
    photo = write.keep_note_photo(request.auth, row, form.token, file.read())
    return Status(201, schemas.LogPhotoOut.of(photo))


@router.get("/log-photos/{log_photo_id}", response=bytes, operation_id="note_photo")
def photo(request: ScopedRequest, log_photo_id: Path[RowId]) -> HttpResponse:
    rows = LogPhoto.objects.filter(entry__workshop=request.auth.workshop)
    return picture_response(request.auth.one(rows, log_photo_id))


def _exported(request: ScopedRequest, query: schemas.LogFilter) -> list[list[str]]:
    rows = entries(entries_seen(request.auth), _asked(request, query)).select_related("machine")[:MOST_EXPORTED]
    return log_rows(
        [
            {
                "on": row.on.isoformat(),
                "machine": row.machine.name if row.machine else "",
                "odometer_km": row.odometer_km,
                "kind": row.kind,
                "summary": row.summary,
                "text": row.text,
                "cost": row.cost,
                "user_name": row.user_name,
                "changes": "; ".join(f"{path}: {was} > {now}" for path, (was, now) in row.changes.items()),
            }
            for row in rows
        ]
    )


@router.get("/log.csv", response=bytes, operation_id="log_csv")
def as_csv(request: ScopedRequest, query: Query[schemas.LogFilter]) -> HttpResponse:
    return file_response(write_csv(HEADINGS, _exported(request, query)), "log.csv", "text/csv; charset=utf-8")


@router.get("/log.xlsx", response=bytes, operation_id="log_sheet")
def as_sheet(request: ScopedRequest, query: Query[schemas.LogFilter]) -> HttpResponse:
    return file_response(write_sheet("Log", HEADINGS, _exported(request, query)), "log.xlsx", SHEET)


@router.get("/machines/{machine_id}/log-book", response=bytes, operation_id="log_book")
def book(request: ScopedRequest, machine_id: Path[RowId], query: Query[schemas.BookQuery]) -> HttpResponse:
    machine = machine_of(request.auth, machine_id)
    content = log_book(book_of(machine, timezone.localdate(), query.system), query.system)
    return file_response(content, "log-book.pdf", "application/pdf", shown=True)


def _history(found: History, name: str, kind: str, currency: str) -> schemas.HistoryOut:
    return schemas.HistoryOut.of(found, name=name, kind=kind, sessions=found.events, currency=currency)


@router.get("/pad-sets/{pad_set_id}/history", response=schemas.HistoryOut, operation_id="pad_set_history")
def pad_history(request: ScopedRequest, pad_set_id: Path[RowId]) -> schemas.HistoryOut:
    workshop = request.auth.workshop
    pads = request.auth.one(PadSet.objects.of(workshop).select_related("pad"), pad_set_id)
    return _history(history_of(pads), str(pads), "pads", workshop.currency)


@router.get("/rotor-pairs/{rotor_pair_id}/history", response=schemas.HistoryOut, operation_id="rotor_pair_history")
def rotor_history(request: ScopedRequest, rotor_pair_id: Path[RowId]) -> schemas.HistoryOut:
    workshop = request.auth.workshop
    pair = request.auth.one(RotorPair.objects.of(workshop), rotor_pair_id)
    return _history(history_of(pair), str(pair), "rotors", workshop.currency)


@router.post("/machines/{machine_id}/log/look", response=schemas.OlderLook, operation_id="look_at_log")
def look(request: ScopedRequest, machine_id: Path[RowId], file: File[UploadedFile]) -> schemas.OlderLook:
    """An older log's headings, and which of them holds what as far as they tell."""
    machine_of(request.auth, machine_id)
    table = read_table(file.read())
    return schemas.OlderLook(headings=list(table.headings), mapping=guess_columns(table.headings), fields=list(COLUMNS))


def _older(file: UploadedFile, mapping: str) -> LogRead:
    try:
        chosen = json.loads(mapping)
    except ValueError:
        raise FieldError("mapping", mapping[:40], "a JSON object") from None
    if not isinstance(chosen, dict) or not all(isinstance(value, str) for value in chosen.values()):
        raise FieldError("mapping", mapping[:40], "a heading for each column")
    return read_log(read_table(file.read()), chosen)


def _read_out(found: LogRead, taken_in: int | None) -> schemas.OlderRead:
    return schemas.OlderRead(
        number=len(found.entries),
        miles=found.miles,
        rows=[schemas.OlderRow.of(row) for row in found.entries[:SHOWN_ROWS]],
        wrong=[schemas.OlderWrong(row=number, why=why) for number, why in found.wrong[:SHOWN_ROWS]],
        taken_in=taken_in,
    )


@router.post("/machines/{machine_id}/log/read", response=schemas.OlderRead, operation_id="read_older_log")
def read_older(
    request: ScopedRequest, machine_id: Path[RowId], file: File[UploadedFile], form: Form[schemas.OlderForm]
) -> schemas.OlderRead:
    machine_of(request.auth, machine_id)
    return _read_out(_older(file, form.mapping), None)


@router.post("/machines/{machine_id}/log/take-in", response=schemas.OlderRead, operation_id="take_in_log")
def take_in(
    request: ScopedRequest, machine_id: Path[RowId], file: File[UploadedFile], form: Form[schemas.OlderForm]
) -> schemas.OlderRead:
    found = _older(file, form.mapping)
    number = write.take_in_log(request.auth, machine_of(request.auth, machine_id), found.entries)
    return _read_out(found, number)
