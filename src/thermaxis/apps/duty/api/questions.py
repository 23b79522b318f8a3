"""Inverse questions, calibration, and the pyrometer that gives it something to go by."""

from __future__ import annotations

from ninja import Path, Router

from thermaxis.apps.accounts.api.fields import Removed, RowId
from thermaxis.apps.accounts.api.signed_in import SIGNED_IN, ScopedRequest
from thermaxis.apps.duty import asking, devices
from thermaxis.apps.duty.actions import calibrate as calibrating
from thermaxis.apps.duty.api import calibration_schemas as schemas
from thermaxis.apps.duty.calibrating import fit_evidence
from thermaxis.apps.fitted.models import Calibration
from thermaxis.apps.fitted.standing import machine_of
from thermaxis.apps.garage.duty_mapping import duty_or_error
from thermaxis.apps.solving.api.following import followed
from thermaxis.apps.solving.api.schemas import AnswerOut
from thermaxis.apps.solving.following import state_of
from thermaxis.apps.solving.in_force import tried
from thermaxis.core.planning.duty import calibrate
from thermaxis.devices.pyrometer import PyrometerSettings

router = Router(auth=SIGNED_IN)


@router.get("/machines/{machine_id}/questions", response=schemas.QuestionsOut, operation_id="questions")
def questions(request: ScopedRequest, machine_id: Path[RowId]) -> schemas.QuestionsOut:
    machine = machine_of(request.auth, machine_id)
    noun = asking.noun_of(duty_or_error(machine))
    return schemas.QuestionsOut(questions=list(asking.questions(machine)), noun=noun)


@router.post("/machines/{machine_id}/answer", response=AnswerOut, operation_id="answer")
def answer(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.QuestionAsk) -> AnswerOut:
    state = state_of(request.auth, machine_id)
    with followed(request, "Trying values on the engine") as watch:
        found = asking.answer(tried(state, payload.record()), payload.question, watch)
    return AnswerOut.of(found)


@router.get("/machines/{machine_id}/calibrations", response=list[schemas.CalibrationOut], operation_id="calibrations")
def calibrations(request: ScopedRequest, machine_id: Path[RowId]) -> list[schemas.CalibrationOut]:
    machine = machine_of(request.auth, machine_id)
    return [_kept(row) for row in machine.calibrations.select_related("duty")]


@router.post("/machines/{machine_id}/calibrations", response=schemas.CalibrationOut, operation_id="calibrate")
def calibrate_machine(
    request: ScopedRequest, machine_id: Path[RowId], payload: schemas.CalibrationAsk
) -> schemas.CalibrationOut:
    machine = machine_of(request.auth, machine_id)
    evidence = [entry.model_dump() for entry in payload.evidence]
    with followed(request, "Fitting cooling and heat partition to the readings") as watch:
        if payload.keep:
            return _kept(calibrating.keep_calibration(request.auth, machine, evidence, watch))
        return _tried(fit_evidence(machine, evidence, watch), duty_or_error(machine).name)


@router.put(
    "/calibrations/{calibration_id}/removed", response=schemas.CalibrationOut, operation_id="remove_calibration"
)
def remove_calibration(request: ScopedRequest, calibration_id: Path[RowId], payload: Removed) -> schemas.CalibrationOut:
    row = request.auth.one(Calibration.objects.of(request.auth.workshop), calibration_id)
    return _kept(calibrating.set_removed(request.auth, row, payload.removed))


@router.post("/machines/{machine_id}/pyrometer", response=schemas.PyrometerOut, operation_id="read_pyrometer")
def read_pyrometer(
    request: ScopedRequest, machine_id: Path[RowId], payload: schemas.PyrometerAsk
) -> schemas.PyrometerOut:
    settings = PyrometerSettings(cooling_factor=payload.cooling_factor)
    held = devices.pyrometer_at(machine_of(request.auth, machine_id), settings, payload.seed)
    return schemas.PyrometerOut(value_C=held.read_C(payload.axle, payload.since_s, payload.speed_mps))


def _kept(row: Calibration) -> schemas.CalibrationOut:
    return schemas.CalibrationOut.of(row, duty=row.duty.name)


def _tried(found: calibrate.Calibration, duty: str) -> schemas.CalibrationOut:
    return schemas.CalibrationOut.of(found, id=None, duty=duty, made_at=None, removed=False)
