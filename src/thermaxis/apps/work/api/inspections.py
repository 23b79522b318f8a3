"""Inspections: the sheet cell by cell, verdicts, causes, and the stand-ins for gauge and pyrometer."""

from __future__ import annotations

from typing import Any

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import File, Form, Path, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import Field

from thermaxis.apps.accounts.api.router import workshop_of
from thermaxis.apps.garage.api.duty_schemas import RowId
from thermaxis.apps.garage.api.router import machine_of
from thermaxis.apps.work import devices, querysets
from thermaxis.apps.work.actions import inspect as inspecting
from thermaxis.apps.work.actions import keep_photo as photos
from thermaxis.apps.work.api import inspection_schemas as schemas
from thermaxis.apps.work.api.present_inspection import entered_out, file_of, inspection_out, row_out
from thermaxis.apps.work.api.schemas import RemovedAsk
from thermaxis.apps.work.models import Inspection, InspectionPhoto
from thermaxis.core.planning.inspection.diagnose import evidence_texts
from thermaxis.devices.gauge import GaugeSettings
from thermaxis.devices.pyrometer import PyrometerSettings

router = Router()


class PhotoForm(Schema):
    """Where the picture was taken, and the page's own name for it: sent twice, it is kept once."""

    wheel: str = Field(min_length=1, max_length=16)
    token: str = Field(min_length=8, max_length=40)


def inspection_of(request: HttpRequest, inspection_id: int) -> Inspection:
    """An inspection of the user's workshop, or 404."""
    return get_object_or_404(querysets.inspections(workshop_of(request)), pk=inspection_id)


@router.get("/symptoms", response=list[schemas.SymptomOut], operation_id="symptoms")
def symptoms(request: HttpRequest) -> Any:
    return [
        schemas.SymptomOut(evidence=name, kind=kind, text=text)
        for name, (kind, text) in evidence_texts().items() if kind != "found"
    ]  # fmt: skip


@router.get(
    "/machines/{machine_id}/inspections", response=list[schemas.InspectionRow], operation_id="inspections"
)  # fmt: skip
def inspections(request: HttpRequest, machine_id: Path[RowId]) -> Any:
    machine = machine_of(request, machine_id)
    rows = querysets.inspections(workshop_of(request)).filter(machine=machine).prefetch_related("cells")
    return [row_out(row) for row in rows]


@router.post(
    "/machines/{machine_id}/inspections", response=schemas.InspectionOut, operation_id="start_inspection"
)  # fmt: skip
def start(request: HttpRequest, machine_id: Path[RowId], payload: schemas.HeadIn) -> Any:
    machine = machine_of(request, machine_id)
    return inspection_out(inspecting.start_inspection(machine, payload.measured_on, payload.odometer_km))


@router.get("/inspections/{inspection_id}", response=schemas.InspectionOut, operation_id="inspection")
def inspection(request: HttpRequest, inspection_id: Path[RowId]) -> Any:
    return inspection_out(inspection_of(request, inspection_id))


@router.put("/inspections/{inspection_id}", response=schemas.InspectionOut, operation_id="change_inspection")
def change(request: HttpRequest, inspection_id: Path[RowId], payload: schemas.HeadIn) -> Any:
    found = inspection_of(request, inspection_id)
    return inspection_out(inspecting.change_head(found, payload.measured_on, payload.odometer_km))


@router.put("/inspections/{inspection_id}/cells", response=schemas.EnteredOut, operation_id="enter_cells")
def enter(request: HttpRequest, inspection_id: Path[RowId], payload: schemas.CellsIn) -> Any:
    found = inspection_of(request, inspection_id)
    entries = {name: inspecting.Entry(**cell.dict()) for name, cell in payload.cells.items()}
    return entered_out(found, inspecting.enter_cells(found, entries))


@router.put("/inspections/{inspection_id}/finished", response=schemas.InspectionOut, operation_id="finish_inspection")
def finish(request: HttpRequest, inspection_id: Path[RowId], payload: schemas.FinishedIn) -> Any:
    found = inspection_of(request, inspection_id)
    return inspection_out(inspecting.finish(found) if payload.finished else inspecting.reopen(found))


@router.put("/inspections/{inspection_id}/removed", response=schemas.InspectionOut, operation_id="remove_inspection")
def remove(request: HttpRequest, inspection_id: Path[RowId], payload: RemovedAsk) -> Any:
    return inspection_out(inspecting.set_removed(inspection_of(request, inspection_id), payload.removed))


@router.put("/inspections/{inspection_id}/overruled", response=schemas.InspectionOut, operation_id="overrule")
def overrule(request: HttpRequest, inspection_id: Path[RowId], payload: schemas.OverruleIn) -> Any:
    found = inspection_of(request, inspection_id)
    inspecting.overrule(found, payload.subject, payload.word, payload.reason)
    return inspection_out(found)


@router.get("/inspections/{inspection_id}/file/{kind}", response=bytes, operation_id="inspection_file")
def inspection_file(request: HttpRequest, inspection_id: Path[RowId], kind: str) -> Any:
    name, content, media_type = file_of(inspection_of(request, inspection_id), kind)
    response = HttpResponse(content, content_type=f"{media_type}; charset=utf-8")
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


# --- photos ------------------------------------------------------------------------------------------------------


@router.post("/inspections/{inspection_id}/photos", response={201: schemas.PhotoOut}, operation_id="keep_photo")
def keep_photo(
    request: HttpRequest, inspection_id: Path[RowId], file: File[UploadedFile], form: Form[PhotoForm]
) -> Any:  # fmt: skip
    row = photos.keep_photo(inspection_of(request, inspection_id), form.wheel, form.token, file.read())
    return Status(201, photo_out(row))


@router.get("/photos/{photo_id}", response=bytes, operation_id="photo")
def photo(request: HttpRequest, photo_id: Path[RowId]) -> Any:
    row = _photo_of(request, photo_id)
    if row.removed_at is not None:
        raise Http404
    # It never changes: this browser may keep it, and nobody on the way.
    headers = {"X-Content-Type-Options": "nosniff", "Cache-Control": "private, max-age=86400"}
    return HttpResponse(bytes(row.content), content_type=row.media_type, headers=headers)


@router.put("/photos/{photo_id}/removed", response=schemas.PhotoOut, operation_id="remove_photo")
def remove_photo(request: HttpRequest, photo_id: Path[RowId], payload: RemovedAsk) -> Any:
    return photo_out(photos.set_removed(_photo_of(request, photo_id), payload.removed))


def _photo_of(request: HttpRequest, photo_id: int) -> InspectionPhoto:
    rows = InspectionPhoto.objects.filter(inspection__workshop=workshop_of(request))
    return get_object_or_404(rows, pk=photo_id)


def photo_out(row: InspectionPhoto) -> schemas.PhotoOut:
    return schemas.PhotoOut(id=row.pk, wheel=row.wheel, taken_at=row.taken_at, removed=row.removed_at is not None)


# --- stand-ins ---------------------------------------------------------------------------------------------------


@router.post("/inspections/{inspection_id}/gauge", response=schemas.TypedOut, operation_id="read_gauge")
def read_gauge(request: HttpRequest, inspection_id: Path[RowId], payload: schemas.GaugeAsk) -> Any:
    settings = GaugeSettings(scatter_m=payload.scatter_m, unit=payload.unit, story=payload.story)
    gauge = devices.gauge_at(inspection_of(request, inspection_id), settings, payload.seed)
    return schemas.TypedOut(typed=gauge.read(payload.cell))


@router.post("/machines/{machine_id}/pyrometer", response=schemas.PyrometerOut, operation_id="read_pyrometer")
def read_pyrometer(request: HttpRequest, machine_id: Path[RowId], payload: schemas.PyrometerAsk) -> Any:
    settings = PyrometerSettings(cooling_factor=payload.cooling_factor)
    held = devices.pyrometer_at(machine_of(request, machine_id), settings, payload.seed)
    return schemas.PyrometerOut(value_C=held.read_C(payload.axle, payload.since_s, payload.speed_mps))
