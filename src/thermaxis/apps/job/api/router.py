"""Jobs: begun, worked through, closed; fasteners; the stand-ins of service tool and torque wrench."""

from __future__ import annotations

from django.db.models import Prefetch
from django.http import HttpResponse
from django.utils import timezone
from ninja import File, Form, Path, Router, Status
from ninja.files import UploadedFile
from pydantic import Field

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.fields import Removed, RowId
from thermaxis.apps.accounts.api.files import file_response, picture_response
from thermaxis.apps.accounts.api.kept_answers import kept_answer, written_answer
from thermaxis.apps.accounts.api.said import said_out
from thermaxis.apps.accounts.api.signed_in import SIGNED_IN, ScopedRequest
from thermaxis.apps.accounts.errors import NotThere
from thermaxis.apps.fitted.models import PadSet
from thermaxis.apps.fitted.standing import machine_of
from thermaxis.apps.job.actions import close as closing
from thermaxis.apps.job.actions import work
from thermaxis.apps.job.actions.fasteners import keep_fastener
from thermaxis.apps.job.actions.keep_photo import REMOVE_JOB_PHOTO, keep_photo
from thermaxis.apps.job.actions.service import ask_tool
from thermaxis.apps.job.api import present, schemas
from thermaxis.apps.job.building import HOMING, worked
from thermaxis.apps.job.models import Job, JobPhoto
from thermaxis.apps.log.actions import set_removed
from thermaxis.apps.solving.api.following import followed
from thermaxis.core.errors import FieldError, SolveError
from thermaxis.devices.service_tool import ToolSettings
from thermaxis.devices.torque_wrench import StandInWrench
from thermaxis.formats.inspection_file import write_json
from thermaxis.formats.job_file import write_csv
from thermaxis.formats.units import System

router = Router(auth=SIGNED_IN)


class PhotoForm(Wire):
    """Where and when the picture was taken, and the page's own name for it: sent twice, it is kept once."""

    corner: str = Field("", max_length=16)
    when: str = Field("before", max_length=6)
    token: str = Field(min_length=8, max_length=40)


def _mine(request: ScopedRequest, job_id: int) -> Job:
    """A job of the user's workshop, or 404."""
    rows = Job.objects.of(request.auth.workshop).filter(machine__removed_at=None)
    rows = rows.select_related("machine__duty", "machine__owner", "pad_set__pad", "fitting")
    pictures = Prefetch("photos", JobPhoto.objects.defer("content"))
    return request.auth.one(rows.prefetch_related("ticks", "values", pictures), job_id)


def _out(request: ScopedRequest, job_id: int) -> schemas.JobOut:
    return present.job_out(_mine(request, job_id))


@router.get("/machines/{machine_id}/jobs", response=schemas.JobsOut, operation_id="jobs")
def jobs(request: ScopedRequest, machine_id: Path[RowId]) -> HttpResponse:
    def build() -> schemas.JobsOut:
        return present.jobs_out(machine_of(request.auth, machine_id))

    return kept_answer(request, schemas.JobsOut, build, machine_id)


@router.post("/machines/{machine_id}/jobs", response=schemas.JobOut, operation_id="start_job")
def start(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.StartAsk) -> schemas.JobOut:
    machine = machine_of(request.auth, machine_id)
    pads = None
    if payload.pad_set_id is not None:
        pads = request.auth.one(PadSet.objects.of(request.auth.workshop), payload.pad_set_id)
    job = work.start_job(request.auth, machine, payload.axle, payload.work, pads)
    return _out(request, job.pk)


@router.get("/jobs/{job_id}", response=schemas.JobOut, operation_id="job")
def job(request: ScopedRequest, job_id: Path[RowId]) -> HttpResponse:
    near = Job.objects.of(request.auth.workshop).filter(pk=job_id).values_list("machine_id", "service").first()
    # While the pistons travel home, the answer is another one every second.
    if near is None or near[1] == HOMING:
        return written_answer(schemas.JobOut, _out(request, job_id))
    return kept_answer(request, schemas.JobOut, lambda: _out(request, job_id), near[0])


@router.get("/jobs/{job_id}/left-out", response=list[schemas.LeftOutOut], operation_id="left_out_steps")
def left_out(request: ScopedRequest, job_id: Path[RowId]) -> list[schemas.LeftOutOut]:
    """Every step of the library that does not belong to this job, and why."""
    return present.left_out(_mine(request, job_id))


@router.put("/jobs/{job_id}/marks", response=schemas.MarkedOut, operation_id="mark_steps")
def mark(request: ScopedRequest, job_id: Path[RowId], payload: schemas.MarksAsk) -> schemas.MarkedOut:
    marks = [work.Mark(**entry.model_dump()) for entry in payload.marks]
    found = work.mark(request.auth, _mine(request, job_id), marks)
    return schemas.MarkedOut(
        job=_out(request, job_id),
        refused=[
            schemas.RefusedMark(place=place, key=marks[place].key, reason=said_out(reason))
            for place, reason in found.refused.items()
        ],
    )


@router.put("/jobs/{job_id}/values", response=schemas.JobOut, operation_id="write_job_values")
def values(request: ScopedRequest, job_id: Path[RowId], payload: schemas.ValuesAsk) -> schemas.JobOut:
    work.write_values(request.auth, _mine(request, job_id), payload.values, payload.seen)
    return _out(request, job_id)


@router.put("/jobs/{job_id}/school", response=schemas.JobOut, operation_id="choose_option")
def school(request: ScopedRequest, job_id: Path[RowId], payload: schemas.OptionAsk) -> schemas.JobOut:
    work.choose_option(request.auth, _mine(request, job_id), payload.point, payload.option)
    return _out(request, job_id)


@router.put("/jobs/{job_id}/cost", response=schemas.JobOut, operation_id="say_cost")
def cost(request: ScopedRequest, job_id: Path[RowId], payload: schemas.CostAsk) -> schemas.JobOut:
    work.say_cost(request.auth, _mine(request, job_id), payload.costs, payload.seen)
    return _out(request, job_id)


@router.get("/jobs/{job_id}/lasting", response=schemas.LastingOut, operation_id="lasting_cost")
def lasting(request: ScopedRequest, job_id: Path[RowId]) -> schemas.LastingOut:
    """What it costs for each 1000 km and each hour on the duty in force."""
    found = _mine(request, job_id)
    with followed(request, "Working out how long it lasts"):
        return present.lasting_out(found)


@router.put("/jobs/{job_id}/note", response=schemas.JobOut, operation_id="write_job_note")
def note(request: ScopedRequest, job_id: Path[RowId], payload: schemas.NoteAsk) -> schemas.JobOut:
    work.write_note(request.auth, _mine(request, job_id), payload.note, payload.seen)
    return _out(request, job_id)


@router.put("/jobs/{job_id}/abandoned", response=schemas.JobOut, operation_id="abandon_job")
def abandon(request: ScopedRequest, job_id: Path[RowId], payload: schemas.AbandonedAsk) -> schemas.JobOut:
    work.set_abandoned(request.auth, _mine(request, job_id), payload.abandoned)
    return _out(request, job_id)


@router.put("/jobs/{job_id}/closed", response=schemas.JobOut, operation_id="close_job")
def close(request: ScopedRequest, job_id: Path[RowId], payload: schemas.CloseAsk) -> schemas.JobOut:
    found = _mine(request, job_id)
    if not payload.closed:
        closing.reopen_job(request.auth, found)
    elif found.closed_at is None:
        km = found.machine.odometer_km if payload.odometer_km is None else payload.odometer_km
        content = present.job_out(found).model_dump(mode="json")
        off = closing.Off(**payload.off.model_dump())
        closing.close_job(request.auth, found, payload.on or timezone.localdate(), km, off, content)
    return _out(request, job_id)


@router.put("/jobs/{job_id}/bolts", response=schemas.JobOut, operation_id="bolts_done")
def bolts(request: ScopedRequest, job_id: Path[RowId], payload: schemas.BoltsAsk) -> schemas.JobOut:
    closing.bolts_done(request.auth, _mine(request, job_id), payload.done)
    return _out(request, job_id)


@router.get("/jobs/{job_id}/pdf", response=bytes, operation_id="job_pdf")
def pdf(request: ScopedRequest, job_id: Path[RowId], units: System = "metric") -> HttpResponse:
    # Asked for seldom, and its libraries take longer to load than the rest of the application.
    from thermaxis.formats.job_pdf import job_pdf

    found = _mine(request, job_id)
    document = present.job_out(found).model_dump(mode="json")
    content = job_pdf(document, found.machine.name, request.auth.workshop.name, timezone.localdate(), units)
    return file_response(content, f"job-{found.pk}.pdf", "application/pdf", shown=True)


@router.get("/jobs/{job_id}/file/{kind}", response=bytes, operation_id="job_file")
def job_file(request: ScopedRequest, job_id: Path[RowId], kind: str) -> HttpResponse:
    """The job as csv or json."""
    if kind not in ("csv", "json"):
        raise FieldError("kind", kind, "csv or json")
    found = _mine(request, job_id)
    document = present.job_out(found).model_dump(mode="json")
    whole = {"machine": found.machine.name, **document}
    content = write_csv(document, found.machine.name) if kind == "csv" else write_json(whole)
    media = "text/csv" if kind == "csv" else "application/json"
    return file_response(content, f"job-{found.pk}.{kind}", f"{media}; charset=utf-8")


# --- photos ------------------------------------------------------------------------------------------------------


@router.post("/jobs/{job_id}/photos", response={201: schemas.JobPhotoOut}, operation_id="keep_job_photo")
def add_photo(
    request: ScopedRequest, job_id: Path[RowId], file: File[UploadedFile], form: Form[PhotoForm]
) -> Status[schemas.JobPhotoOut]:
    row = keep_photo(request.auth, _mine(request, job_id), form.corner, form.when, form.token, file.read())
    return Status(201, schemas.JobPhotoOut.of(row))


@router.get("/job-photos/{job_photo_id}", response=bytes, operation_id="job_photo")
def photo(request: ScopedRequest, job_photo_id: Path[RowId]) -> HttpResponse:
    row = _photo_of(request, job_photo_id)
    if row.removed_at is not None:
        raise NotThere
    return picture_response(row)


@router.put("/job-photos/{job_photo_id}/removed", response=schemas.JobPhotoOut, operation_id="remove_job_photo")
def remove_photo(request: ScopedRequest, job_photo_id: Path[RowId], payload: Removed) -> schemas.JobPhotoOut:
    row = _photo_of(request, job_photo_id)
    return schemas.JobPhotoOut.of(set_removed(request.auth, REMOVE_JOB_PHOTO, row, payload.removed))


def _photo_of(request: ScopedRequest, job_photo_id: int) -> JobPhoto:
    rows = JobPhoto.objects.filter(job__workshop=request.auth.workshop).select_related("job__machine")
    return request.auth.one(rows, job_photo_id)


# --- fasteners and stand-ins -------------------------------------------------------------------------------------


@router.get("/machines/{machine_id}/fasteners", response=schemas.FastenersOut, operation_id="fasteners")
def fasteners(request: ScopedRequest, machine_id: Path[RowId]) -> schemas.FastenersOut:
    return present.fasteners_out(machine_of(request.auth, machine_id))


@router.put("/machines/{machine_id}/fasteners", response=schemas.FastenersOut, operation_id="keep_fastener")
def write_fastener(
    request: ScopedRequest, machine_id: Path[RowId], payload: schemas.FastenerAsk
) -> schemas.FastenersOut:
    machine = machine_of(request.auth, machine_id)
    keep_fastener(request.auth, machine, payload.axle, payload.kind, payload.changes, payload.seen, sure=payload.sure)
    return present.fasteners_out(machine_of(request.auth, machine_id))


@router.get("/jobs/{job_id}/service", response=schemas.ServiceOut, operation_id="service_state")
def service_state(request: ScopedRequest, job_id: Path[RowId]) -> schemas.ServiceOut:
    return present.service_out(_mine(request, job_id))


@router.post("/jobs/{job_id}/service", response=schemas.ToolOut, operation_id="ask_tool")
def service(request: ScopedRequest, job_id: Path[RowId], payload: schemas.ToolAsk) -> schemas.ToolOut:
    answer = ask_tool(
        request.auth, _mine(request, job_id), payload.action, ToolSettings(fault=payload.fault), payload.seed
    )
    return schemas.ToolOut.of(answer, service=present.service_out(_mine(request, job_id)))


@router.post("/jobs/{job_id}/wrench", response=schemas.WrenchOut, operation_id="read_wrench")
def wrench(request: ScopedRequest, job_id: Path[RowId], payload: schemas.WrenchAsk) -> schemas.WrenchOut:
    """The peak of one tightening, as the stand-in sends it; nothing is kept until the step is ticked with it."""
    found = worked(_mine(request, job_id))
    step = found.sheet.step(payload.key)
    if step is None or not step.step.tighten:
        raise FieldError("key", payload.key, "a step of this sheet that tightens something")
    fastener = found.state.fasteners.get(step.step.fastener)
    if fastener is None or fastener.torque_Nm is None:
        raise SolveError("No torque is written down for it: look it up in the vehicle's manual first.")
    return schemas.WrenchOut(peak_Nm=StandInWrench(payload.story, payload.seed).peak_Nm(fastener.torque_Nm))
