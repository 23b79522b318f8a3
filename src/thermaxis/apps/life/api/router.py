"""What is left of the pads, what was measured, and the shelf."""

from __future__ import annotations

from django.http import HttpResponse
from django.utils import timezone
from ninja import Path, Query, Router

from thermaxis.apps.accounts.api.fields import Removed, RowId
from thermaxis.apps.accounts.api.kept_answers import kept_answer
from thermaxis.apps.accounts.api.signed_in import SIGNED_IN, ScopedRequest
from thermaxis.apps.fitted.actions import mount
from thermaxis.apps.fitted.actions.date_fitting import date_fitting
from thermaxis.apps.fitted.actions.fit_hoses import fit_hoses
from thermaxis.apps.fitted.actions.measure import REMOVE_MEASUREMENT
from thermaxis.apps.fitted.actions.measure import measure as keep_reading
from thermaxis.apps.fitted.models import PadReading, PadSet, RotorPair
from thermaxis.apps.fitted.standing import machine_of, standing_of
from thermaxis.apps.garage.actions.choose_school import choose_school
from thermaxis.apps.garage.duty_mapping import duty_or_error
from thermaxis.apps.garage.mapping import school_of
from thermaxis.apps.life.api import present, schemas
from thermaxis.apps.life.shelf import shelf_of
from thermaxis.apps.log.actions import set_removed
from thermaxis.apps.solving.api.present import set_out
from thermaxis.apps.solving.api.schemas import SetOut
from thermaxis.apps.solving.following import state_of

router = Router(auth=SIGNED_IN)


@router.get("/machines/{machine_id}/shelf", response=list[schemas.ShelfThing], operation_id="shelf")
def shelf(request: ScopedRequest, machine_id: Path[RowId]) -> HttpResponse:
    def build() -> list[schemas.ShelfThing]:
        machine = machine_of(request.auth, machine_id)
        return [present.shelf_out(entry, machine) for entry in shelf_of(machine) if request.auth.sees(entry.thing)]

    return kept_answer(request, list[schemas.ShelfThing], build, machine_id)


@router.post("/machines/{machine_id}/shelf/pads/{thing_id}/mount", response=SetOut, operation_id="mount_pads")
def mount_pads(
    request: ScopedRequest, machine_id: Path[RowId], thing_id: Path[RowId], payload: schemas.MountAsk
) -> SetOut:
    machine = machine_of(request.auth, machine_id)
    pads = request.auth.one(PadSet.objects.of(request.auth.workshop), thing_id)
    mount.mount_pads(request.auth, machine, pads, payload.axle, timezone.localdate())
    return set_out(standing_of(machine))


@router.post("/machines/{machine_id}/shelf/rotors/{thing_id}/mount", response=SetOut, operation_id="mount_rotors")
def mount_rotors(
    request: ScopedRequest, machine_id: Path[RowId], thing_id: Path[RowId], payload: schemas.MountAsk
) -> SetOut:
    machine = machine_of(request.auth, machine_id)
    pair = request.auth.one(RotorPair.objects.of(request.auth.workshop), thing_id)
    mount.mount_rotors(request.auth, machine, pair, payload.axle, timezone.localdate())
    return set_out(standing_of(machine))


@router.get("/machines/{machine_id}/hoses", response=list[schemas.HosesOut], operation_id="hoses")
def hoses(request: ScopedRequest, machine_id: Path[RowId]) -> list[schemas.HosesOut]:
    return present.hoses_out(machine_of(request.auth, machine_id), timezone.localdate())


@router.put("/machines/{machine_id}/hoses", response=list[schemas.HosesOut], operation_id="fit_hoses")
def put_hoses(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.HosesAsk) -> list[schemas.HosesOut]:
    machine, today = machine_of(request.auth, machine_id), timezone.localdate()
    fit_hoses(request.auth, machine, payload.axle, payload.kind, payload.age_months, today)
    return present.hoses_out(machine, today)


@router.get("/machines/{machine_id}/life", response=schemas.LifeOut, operation_id="life")
def life(request: ScopedRequest, machine_id: Path[RowId], query: Query[schemas.LifeQuery]) -> schemas.LifeOut:
    state = state_of(request.auth, machine_id)
    default = school_of(state.machine, duty_or_error(state.machine).use)
    return present.life_out(state, query.school or default)


@router.put("/machines/{machine_id}/fitted", response=SetOut, operation_id="date_fitting")
def put_fitted(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.FittedAsk) -> SetOut:
    machine = machine_of(request.auth, machine_id)
    return set_out(date_fitting(request.auth, machine, payload.places, payload.on, payload.odometer_km))


@router.put("/machines/{machine_id}/school", response=schemas.LifeOut, operation_id="choose_school")
def put_school(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.SchoolAsk) -> schemas.LifeOut:
    choose_school(request.auth, machine_of(request.auth, machine_id), payload.school)
    state = state_of(request.auth, machine_id)
    return present.life_out(state, school_of(state.machine, duty_or_error(state.machine).use))


@router.post("/machines/{machine_id}/measurements", response=schemas.MeasurementOut, operation_id="measure")
def measure(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.MeasureAsk) -> schemas.MeasurementOut:
    machine = machine_of(request.auth, machine_id)
    row = keep_reading(
        request.auth, machine, payload.axle, payload.thickness_m, payload.odometer_km, payload.measured_on
    )
    return present.measurement_out(row)


@router.put(
    "/measurements/{measurement_id}/removed", response=schemas.MeasurementOut, operation_id="remove_measurement"
)
def remove_measurement(request: ScopedRequest, measurement_id: Path[RowId], payload: Removed) -> schemas.MeasurementOut:
    row = request.auth.one(PadReading.objects.of(request.auth.workshop), measurement_id)
    return present.measurement_out(set_removed(request.auth, REMOVE_MEASUREMENT, row, payload.removed))
