"""Ranges, inverse questions and calibration of a machine, and the progress of work that takes a while."""

from __future__ import annotations

import dataclasses
from contextlib import AbstractContextManager
from typing import Any

from django.http import Http404, HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Path, Router, Status

from thermaxis.apps.accounts.api.router import workshop_of
from thermaxis.apps.garage.api.duty_schemas import RowId
from thermaxis.apps.garage.api.router import machine_of
from thermaxis.apps.work import compute, forecast, progress
from thermaxis.apps.work.actions import calibrate as calibrating
from thermaxis.apps.work.api import estimate_schemas, schemas
from thermaxis.apps.work.api.present import influences_out
from thermaxis.apps.work.kept import kept
from thermaxis.apps.work.models import Calibration
from thermaxis.core.physics.batch import Watch
from thermaxis.core.planning.duty import calibrate

router = Router()
LONGEST_NAME = 64


def followed(request: HttpRequest, doing: str) -> AbstractContextManager[Watch]:
    """Wait for one's turn; then a watch the page can ask about and stop by the name it sent along, if it did."""
    name = request.headers.get("X-Work", "")
    # A server that knows says so; where it does not, nobody is ever gone.
    gone = request.META.get("waitress.client_disconnected", lambda: False)
    return progress.watched(request.user.pk or 0, name if 0 < len(name) <= LONGEST_NAME else None, doing, gone)


def state_of(request: HttpRequest, machine_id: int) -> compute.InForce:
    """The machine of the user's workshop with its set and duty, solved; kept until something is written."""
    workshop = workshop_of(request)
    return kept(("state", workshop.pk, machine_id), lambda: compute.in_force(machine_of(request, machine_id)))


@router.get("/work/{name}", response=estimate_schemas.WorkOut, operation_id="work")
def work(request: HttpRequest, name: str) -> Any:
    found = _found(request, name)
    return estimate_schemas.WorkOut(doing=found.doing, done_share=found.share, place=found.place)


@router.delete("/work/{name}", response={204: None}, operation_id="stop_work")
def stop_work(request: HttpRequest, name: str) -> Any:
    _found(request, name).stopped = True
    return Status(204, None)


def _found(request: HttpRequest, name: str) -> progress.Work:
    found = progress.find((request.user.pk or 0, name))
    if found is None:
        raise Http404
    return found


@router.post("/machines/{machine_id}/ranges", response=estimate_schemas.RangesOut, operation_id="ranges")
def ranges(request: HttpRequest, machine_id: Path[RowId], payload: schemas.WhatIf) -> Any:
    state = compute.tried(state_of(request, machine_id), payload.record())
    with followed(request, "Running the duty under 128 draws of the estimates") as watch:
        found = forecast.ranges(state, watch)
    bands = {band.name: band for band in found.bands}
    return estimate_schemas.RangesOut(
        draws=found.draws, calibrated=bool(state.fits),
        ranges=[
            estimate_schemas.RangeOut(
                name=name, p10=band.p10, p50=band.p50, p90=band.p90,
                fill_low=bands[f"{name}.fill"].p10, fill_high=bands[f"{name}.fill"].p90,
                influences=influences_out(band),
            )
            for name, band in bands.items() if "." not in name
        ],
        crossings=[estimate_schemas.CrossingOut(**dataclasses.asdict(entry)) for entry in found.crossings],
    )  # fmt: skip


@router.get("/machines/{machine_id}/questions", response=estimate_schemas.QuestionsOut, operation_id="questions")
def questions(request: HttpRequest, machine_id: Path[RowId]) -> Any:
    machine = machine_of(request, machine_id)
    noun = forecast.noun_of(compute.duty_or_error(machine))
    return estimate_schemas.QuestionsOut(questions=list(forecast.questions(machine)), noun=noun)


@router.post("/machines/{machine_id}/answer", response=estimate_schemas.AnswerOut, operation_id="answer")
def answer(request: HttpRequest, machine_id: Path[RowId], payload: estimate_schemas.QuestionAsk) -> Any:
    state = state_of(request, machine_id)
    with followed(request, "Trying values on the engine") as watch:
        found = forecast.answer(compute.tried(state, payload.record()), payload.question, watch)
    return dataclasses.asdict(found)


@router.get(
    "/machines/{machine_id}/calibrations", response=list[estimate_schemas.CalibrationOut], operation_id="calibrations"
)
def calibrations(request: HttpRequest, machine_id: Path[RowId]) -> Any:
    machine = machine_of(request, machine_id)
    return [_kept(row) for row in machine.calibrations.select_related("duty")]


@router.post("/machines/{machine_id}/calibrations", response=estimate_schemas.CalibrationOut, operation_id="calibrate")
def calibrate_machine(request: HttpRequest, machine_id: Path[RowId], payload: estimate_schemas.CalibrationAsk) -> Any:
    machine = machine_of(request, machine_id)
    evidence = [entry.dict() for entry in payload.evidence]
    with followed(request, "Fitting cooling and heat partition to the readings") as watch:
        if payload.keep:
            return _kept(calibrating.keep_calibration(machine, evidence, watch))
        return _tried(forecast.fit_evidence(machine, evidence, watch), compute.duty_or_error(machine).name)


@router.put(
    "/calibrations/{calibration_id}/removed",
    response=estimate_schemas.CalibrationOut,
    operation_id="remove_calibration",
)
def remove_calibration(request: HttpRequest, calibration_id: Path[RowId], payload: schemas.RemovedAsk) -> Any:
    row = get_object_or_404(Calibration.objects.of(workshop_of(request)), pk=calibration_id)
    return _kept(calibrating.set_removed(row, payload.removed))


def _kept(row: Calibration) -> dict[str, Any]:
    return {
        "id": row.pk, "duty": row.duty.name, "made_at": row.made_at, "removed": row.removed_at is not None,
        "front": row.front, "rear": row.rear, "residuals": row.residuals,
    }  # fmt: skip


def _tried(found: calibrate.Calibration, duty: str) -> dict[str, Any]:
    return {"id": None, "duty": duty, "made_at": None, "removed": False, **dataclasses.asdict(found)}
