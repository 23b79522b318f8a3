"""Inspections: the sheet cell by cell, verdicts, causes, and the stand-ins for gauge and pyrometer."""

from __future__ import annotations

from typing import Literal, cast

from django.http import HttpResponse
from ninja import File, Form, Path, Router, Status
from ninja.files import UploadedFile
from pydantic import Field

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.fields import Removed, RowId
from thermaxis.apps.accounts.api.files import file_response, picture_response
from thermaxis.apps.accounts.api.kept_answers import kept_answer
from thermaxis.apps.accounts.api.signed_in import SIGNED_IN, ScopedRequest
from thermaxis.apps.accounts.errors import NotThere
from thermaxis.apps.fitted.standing import machine_of
from thermaxis.apps.inspect import devices, querysets
from thermaxis.apps.inspect.actions import inspect as inspecting
from thermaxis.apps.inspect.actions import keep_photo as photos
from thermaxis.apps.inspect.actions.keep_photo import REMOVE_PHOTO
from thermaxis.apps.inspect.api import schemas
from thermaxis.apps.inspect.api.present import entered_out, file_of, inspection_out, row_out
from thermaxis.apps.inspect.models import Inspection, InspectionPhoto
from thermaxis.apps.log.actions import set_removed
from thermaxis.core.planning.inspection.diagnose import asked_where, evidence_texts
from thermaxis.devices.gauge import GaugeSettings

router = Router(auth=SIGNED_IN)
Where = Literal["", "side", "wheel"]


class PhotoForm(Wire):
    """Where the picture was taken, and the page's own name for it: sent twice, it is kept once."""

    wheel: str = Field(min_length=1, max_length=16)
    token: str = Field(min_length=8, max_length=40)


def inspection_of(request: ScopedRequest, inspection_id: int) -> Inspection:
    """An inspection of the user's workshop, or 404."""
    return request.auth.one(querysets.inspections(request.auth.workshop), inspection_id)


@router.get("/symptoms", response=list[schemas.SymptomOut], operation_id="symptoms")
def symptoms(request: ScopedRequest) -> list[schemas.SymptomOut]:
    return [
        schemas.SymptomOut(evidence=name, kind=kind, text=text, where=cast(Where, asked_where(name)))
        for name, (kind, text) in evidence_texts().items()
        if kind != "found"
    ]


@router.get("/machines/{machine_id}/inspections", response=list[schemas.InspectionRow], operation_id="inspections")
def inspections(request: ScopedRequest, machine_id: Path[RowId]) -> HttpResponse:
    def build() -> list[schemas.InspectionRow]:
        machine = machine_of(request.auth, machine_id)
        rows = querysets.inspections(request.auth.workshop).filter(machine=machine).prefetch_related("cells")
        return [row_out(row) for row in rows]

    return kept_answer(request, list[schemas.InspectionRow], build, machine_id)


@router.post("/machines/{machine_id}/inspections", response=schemas.InspectionOut, operation_id="start_inspection")
def start(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.HeadIn) -> schemas.InspectionOut:
    machine = machine_of(request.auth, machine_id)
    return inspection_out(inspecting.start_inspection(request.auth, machine, payload.measured_on, payload.odometer_km))


@router.get("/inspections/{inspection_id}", response=schemas.InspectionOut, operation_id="inspection")
def inspection(request: ScopedRequest, inspection_id: Path[RowId]) -> HttpResponse:
    rows = querysets.inspections(request.auth.workshop).filter(pk=inspection_id)
    machine_id = rows.order_by().values_list("machine_id", flat=True).first()

    def build() -> schemas.InspectionOut:
        return inspection_out(inspection_of(request, inspection_id))

    return kept_answer(request, schemas.InspectionOut, build, machine_id)


@router.put("/inspections/{inspection_id}", response=schemas.InspectionOut, operation_id="change_inspection")
def change(request: ScopedRequest, inspection_id: Path[RowId], payload: schemas.HeadIn) -> schemas.InspectionOut:
    found = inspection_of(request, inspection_id)
    return inspection_out(inspecting.change_head(request.auth, found, payload.measured_on, payload.odometer_km))


@router.put("/inspections/{inspection_id}/cells", response=schemas.EnteredOut, operation_id="enter_cells")
def enter(request: ScopedRequest, inspection_id: Path[RowId], payload: schemas.CellsIn) -> schemas.EnteredOut:
    found = inspection_of(request, inspection_id)
    entries = {name: inspecting.Entry(**cell.model_dump(exclude_unset=True)) for name, cell in payload.cells.items()}
    return entered_out(found, inspecting.enter_cells(request.auth, found, entries))


@router.put("/inspections/{inspection_id}/finished", response=schemas.InspectionOut, operation_id="finish_inspection")
def finish(request: ScopedRequest, inspection_id: Path[RowId], payload: schemas.FinishedIn) -> schemas.InspectionOut:
    found = inspection_of(request, inspection_id)
    return inspection_out(
        inspecting.finish(request.auth, found) if payload.finished else inspecting.reopen(request.auth, found)
    )


@router.put("/inspections/{inspection_id}/removed", response=schemas.InspectionOut, operation_id="remove_inspection")
def remove(request: ScopedRequest, inspection_id: Path[RowId], payload: Removed) -> schemas.InspectionOut:
    return inspection_out(inspecting.set_removed(request.auth, inspection_of(request, inspection_id), payload.removed))


@router.put("/inspections/{inspection_id}/overruled", response=schemas.InspectionOut, operation_id="overrule")
def overrule(request: ScopedRequest, inspection_id: Path[RowId], payload: schemas.OverruleIn) -> schemas.InspectionOut:
    found = inspection_of(request, inspection_id)
    inspecting.overrule(request.auth, found, payload.subject, payload.word, payload.reason)
    return inspection_out(found)


@router.get("/inspections/{inspection_id}/file/{kind}", response=bytes, operation_id="inspection_file")
def inspection_file(request: ScopedRequest, inspection_id: Path[RowId], kind: str) -> HttpResponse:
    name, content, media_type = file_of(inspection_of(request, inspection_id), kind)
    return file_response(content, name, f"{media_type}; charset=utf-8")


# --- photos ------------------------------------------------------------------------------------------------------


@router.post("/inspections/{inspection_id}/photos", response={201: schemas.PhotoOut}, operation_id="keep_photo")
def keep_photo(
    request: ScopedRequest, inspection_id: Path[RowId], file: File[UploadedFile], form: Form[PhotoForm]
) -> Status[schemas.PhotoOut]:
    row = photos.keep_photo(request.auth, inspection_of(request, inspection_id), form.wheel, form.token, file.read())
    return Status(201, schemas.PhotoOut.of(row))


@router.get("/photos/{photo_id}", response=bytes, operation_id="photo")
def photo(request: ScopedRequest, photo_id: Path[RowId]) -> HttpResponse:
    row = _photo_of(request, photo_id)
    if row.removed_at is not None:
        raise NotThere
    return picture_response(row)


@router.put("/photos/{photo_id}/removed", response=schemas.PhotoOut, operation_id="remove_photo")
def remove_photo(request: ScopedRequest, photo_id: Path[RowId], payload: Removed) -> schemas.PhotoOut:
    return schemas.PhotoOut.of(set_removed(request.auth, REMOVE_PHOTO, _photo_of(request, photo_id), payload.removed))


def _photo_of(request: ScopedRequest, photo_id: int) -> InspectionPhoto:
    rows = InspectionPhoto.objects.filter(inspection__workshop=request.auth.workshop)
    return request.auth.one(rows, photo_id)


# --- stand-ins ---------------------------------------------------------------------------------------------------


@router.post("/inspections/{inspection_id}/gauge", response=schemas.TypedOut, operation_id="read_gauge")
def read_gauge(request: ScopedRequest, inspection_id: Path[RowId], payload: schemas.GaugeAsk) -> schemas.TypedOut:
    settings = GaugeSettings(scatter_m=payload.scatter_m, unit=payload.unit, story=payload.story)
    gauge = devices.gauge_at(inspection_of(request, inspection_id), settings, payload.seed)
    return schemas.TypedOut(typed=gauge.read(payload.cell))
