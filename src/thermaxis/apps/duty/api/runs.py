"""Recorded runs in, and the stand-in logger that makes one."""

from __future__ import annotations

import dataclasses

from django.http import HttpResponse
from ninja import File, Form, Path, Router, Status
from ninja.files import UploadedFile
from pydantic import Field, TypeAdapter, ValidationError

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.fields import RowId
from thermaxis.apps.accounts.api.files import file_response
from thermaxis.apps.accounts.api.signed_in import SIGNED_IN, ScopedRequest
from thermaxis.apps.duty import recorded
from thermaxis.apps.duty.actions.keep_run import keep_run
from thermaxis.apps.duty.api import run_schemas
from thermaxis.apps.duty.api.duties import duty_out
from thermaxis.apps.duty.api.schemas import DutyOut, RunOut
from thermaxis.apps.fitted.standing import machine_of
from thermaxis.apps.garage.models import RecordedRun
from thermaxis.apps.garage.querysets import duties
from thermaxis.apps.solving.api.following import followed
from thermaxis.apps.solving.api.schemas import RemarkOut
from thermaxis.core.errors import FieldError
from thermaxis.core.planning.duty.recorded import SMOOTHING_S
from thermaxis.devices.run_logger import LoggerSettings
from thermaxis.formats.run_file import is_gpx
from thermaxis.formats.speed_log import UNITS, Use, layout_of
from thermaxis.formats.text import decode

router = Router(auth=SIGNED_IN)
SHOWN_BAD, SHOWN_POINTS, SHOWN_BRAKINGS = 200, 800, 400
USES = TypeAdapter(list[run_schemas.UseIO])


class ReadForm(Wire):
    """How to read an uploaded run: `uses` is JSON, a list of column, role and unit; empty for GPX."""

    uses: str = Field("[]", max_length=20_000)
    smoothing: str = Field("auto", max_length=8)


class KeepForm(ReadForm):
    name: str = Field(min_length=1, max_length=120)


def _written(name: str) -> str:
    """A file's name as far as it can be written."""
    return "".join(sign for sign in name if sign.isprintable())


def _uses(text: str) -> list[Use]:
    try:
        return [Use(**use.model_dump()) for use in USES.validate_json(text)]
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(part) for part in first["loc"])
        raise FieldError(f"uses.{place}".rstrip("."), text[:60], first["msg"]) from None


def _smoothing(word: str) -> str:
    if word not in ("auto", *SMOOTHING_S):
        raise FieldError("smoothing", word, "one of auto, " + ", ".join(SMOOTHING_S))
    return word


@router.post("/runs/look", response=run_schemas.LookOut, operation_id="look_at_run")
def look(request: ScopedRequest, file: File[UploadedFile]) -> run_schemas.LookOut:
    text = decode(file.read())
    roles = {role: list(units) for role, units in UNITS.items()}
    if is_gpx(text):
        return run_schemas.LookOut(
            kind="gpx", separator="", decimal=".", first_line=1, lines=text.count("\n") + 1, columns=[], roles=roles
        )
    return run_schemas.LookOut(kind="csv", roles=roles, **dataclasses.asdict(layout_of(text)))


@router.post("/machines/{machine_id}/runs/read", response=run_schemas.ReadOut, operation_id="read_run")
def read_run(
    request: ScopedRequest, machine_id: Path[RowId], file: File[UploadedFile], form: Form[ReadForm]
) -> run_schemas.ReadOut:
    machine, smoothing = machine_of(request.auth, machine_id), _smoothing(form.smoothing)
    with followed(request, "Reading the run") as watch:
        found = recorded.read_recorded(file.read(), _uses(form.uses), smoothing, machine, watch)
    cleaned, result = found.cleaned, found.result
    every = max(1, len(cleaned.t_s) // SHOWN_POINTS)
    plain = {
        field.name: getattr(cleaned, field.name)
        for field in dataclasses.fields(cleaned)
        if field.name not in ("duty", "t_s", "v_mps", "brakings", "laps", "remarks")
    }
    return run_schemas.ReadOut(
        **plain,
        rows=found.run.rows,
        bad_count=len(found.run.bad),
        duration_s=float(cleaned.t_s[-1]),
        points=len(cleaned.duty.t_s),
        bad=[run_schemas.BadRowOut(**dataclasses.asdict(row)) for row in found.run.bad[:SHOWN_BAD]],
        brakings=[run_schemas.BrakingOut(**dataclasses.asdict(row)) for row in cleaned.brakings[:SHOWN_BRAKINGS]],
        laps=[run_schemas.RecordedLapOut(**dataclasses.asdict(row)) for row in cleaned.laps],
        remarks=[RemarkOut.of(row) for row in cleaned.remarks],
        t_s=[round(float(value), 2) for value in cleaned.t_s[::every]],
        v_mps=[round(float(value), 3) for value in cleaned.v_mps[::every]],
        logged=recorded.logged_peaks(found),
        hottest_C={"front": result.front.peak_surface_C, "rear": result.rear.peak_surface_C} if result else {},
    )


@router.post("/runs", response={201: DutyOut}, operation_id="keep_run")
def keep(request: ScopedRequest, file: File[UploadedFile], form: Form[KeepForm]) -> Status[DutyOut]:
    with followed(request, "Reading the run") as watch:
        duty = keep_run(
            request.auth,
            form.name,
            _written(file.name or ""),
            file.read(),
            _uses(form.uses),
            _smoothing(form.smoothing),
            watch,
        )
    return Status(201, duty_out(duties(request.auth.workshop).get(pk=duty.pk)))


@router.post("/machines/{machine_id}/logger", response=bytes, operation_id="log_a_run")
def log_a_run(request: ScopedRequest, machine_id: Path[RowId], payload: run_schemas.LoggerAsk) -> HttpResponse:
    duty = request.auth.one(duties(request.auth.workshop), payload.duty_id)
    settings = LoggerSettings(rate_Hz=payload.rate_Hz, noise_mps=payload.noise_mps)
    delivered = recorded.log_a_run(machine_of(request.auth, machine_id), duty, settings, payload.kind, payload.seed)
    return file_response(delivered.content, delivered.name, "text/plain; charset=utf-8")


@router.get("/runs", response=list[RunOut], operation_id="runs")
def runs(request: ScopedRequest) -> list[RunOut]:
    return [run_out(run) for run in RecordedRun.objects.of(request.auth.workshop).order_by("-pk")]


@router.get("/runs/{run_id}/temperatures", response=dict[str, str], operation_id="run_temperatures")
def run_temperatures(request: ScopedRequest, run_id: Path[RowId]) -> dict[str, str]:
    return recorded.temperature_logs(request.auth.one(RecordedRun.objects.of(request.auth.workshop), run_id))


def run_out(run: RecordedRun) -> RunOut:
    return RunOut.of(run, distance_m=run.summary.get("distance_m"), duration_s=run.trace["t_s"][-1])
