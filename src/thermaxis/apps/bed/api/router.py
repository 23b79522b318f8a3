"""Bedding: schools side by side, plans kept and driven, what a run says, whether it worked."""

from __future__ import annotations

from django.http import HttpResponse
from django.utils import timezone
from ninja import Path, Router, Status

from thermaxis.apps.accounts.api.fields import Removed, RowId
from thermaxis.apps.accounts.api.files import file_response
from thermaxis.apps.accounts.api.kept_answers import kept_answer
from thermaxis.apps.accounts.api.signed_in import SIGNED_IN, ScopedRequest
from thermaxis.apps.bed.actions import keep_plan as plans
from thermaxis.apps.bed.actions import results
from thermaxis.apps.bed.actions import run as running_acts
from thermaxis.apps.bed.actions.keep_plan import REMOVE_PLAN
from thermaxis.apps.bed.actions.results import REMOVE_BEDDING_RESULT
from thermaxis.apps.bed.api import present, schemas
from thermaxis.apps.bed.models import BeddingRecord, BeddingRun
from thermaxis.apps.bed.proving import prove_run
from thermaxis.apps.bed.running import pyrometer_of, running, setting_for
from thermaxis.apps.catalogue.models import Pad
from thermaxis.apps.fitted.models import BeddingResult
from thermaxis.apps.fitted.standing import machine_of, standing_of
from thermaxis.apps.garage.models import RecordedRun
from thermaxis.apps.log.actions import set_removed
from thermaxis.apps.solving.api.following import followed
from thermaxis.apps.solving.api.schemas import BeddingAsk, RoadAsk
from thermaxis.apps.solving.bedding import plan_of, schools_of
from thermaxis.core.errors import FieldError
from thermaxis.core.planning.bedding.run import Event
from thermaxis.core.planning.bedding.series import Row
from thermaxis.formats.units import System

router = Router(auth=SIGNED_IN)


@router.post("/machines/{machine_id}/bedding", response=schemas.SchoolsOut, operation_id="bedding")
def bedding(request: ScopedRequest, machine_id: Path[RowId], payload: RoadAsk) -> schemas.SchoolsOut:
    standing = standing_of(machine_of(request.auth, machine_id))
    with followed(request, "Planning every school"):
        return present.schools_out(schools_of(standing, payload.record()), standing)


@router.post("/machines/{machine_id}/bedding/curve", response=schemas.CurveOut, operation_id="bedding_curve")
def curve(request: ScopedRequest, machine_id: Path[RowId], payload: BeddingAsk) -> schemas.CurveOut:
    """Both faces through one school."""
    standing = standing_of(machine_of(request.auth, machine_id))
    with followed(request, "Planning the bedding-in"):
        plan, setting = plan_of(standing, payload.record(), payload.school)
        if not plan.rows:
            raise FieldError("school", payload.school, "a school this machine can be driven by")
        return present.curve_out(setting, plan.rows)


@router.put("/pads/{pad_id}/makers-rows", response=schemas.MakersOut, operation_id="keep_makers_rows")
def makers_rows(request: ScopedRequest, pad_id: Path[RowId], payload: schemas.MakersAsk) -> schemas.MakersOut:
    pad = request.auth.one(Pad.objects.of(request.auth.workshop), pad_id)
    rows = [Row(**{**row.model_dump(), "phase": "leaflet", "stretch": 0}) for row in payload.rows]
    return present.makers_out(plans.keep_makers_rows(request.auth, pad, rows, payload.version))


@router.get("/machines/{machine_id}/plans", response=list[schemas.PlanRecordOut], operation_id="plans")
def kept_plans(request: ScopedRequest, machine_id: Path[RowId]) -> HttpResponse:
    def build() -> list[schemas.PlanRecordOut]:
        standing = standing_of(machine_of(request.auth, machine_id))
        rows = BeddingRecord.objects.of(request.auth.workshop).filter(front_pads=standing.pads("front"))
        return [present.plan_record_out(record) for record in rows.prefetch_related("runs")]

    return kept_answer(request, list[schemas.PlanRecordOut], build, machine_id)


@router.post("/machines/{machine_id}/plans", response=schemas.PlanRecordOut, operation_id="keep_plan")
def keep_plan(request: ScopedRequest, machine_id: Path[RowId], payload: BeddingAsk) -> schemas.PlanRecordOut:
    machine = machine_of(request.auth, machine_id)
    with followed(request, "Planning the bedding-in"):
        kept_plan = plans.keep_plan(request.auth, machine, payload.school, payload.record())
    return present.plan_record_out(kept_plan)


@router.get("/plans/{plan_id}", response=schemas.KeptPlanOut, operation_id="kept_plan")
def kept_plan(request: ScopedRequest, plan_id: Path[RowId]) -> schemas.KeptPlanOut:
    record = _plan(request, plan_id)
    return present.kept_plan_out(record, setting_for(record))


@router.put("/plans/{plan_id}/removed", response=schemas.PlanRecordOut, operation_id="remove_plan")
def remove_plan(request: ScopedRequest, plan_id: Path[RowId], payload: Removed) -> schemas.PlanRecordOut:
    record = _plan(request, plan_id)
    return present.plan_record_out(set_removed(request.auth, REMOVE_PLAN, record, payload.removed))


@router.put("/plans/{plan_id}/done", response=schemas.PlanRecordOut, operation_id="mark_plan_done")
def mark_plan_done(request: ScopedRequest, plan_id: Path[RowId], payload: schemas.DoneAsk) -> schemas.PlanRecordOut:
    on = timezone.localdate() if payload.done else None
    return present.plan_record_out(plans.mark_done(request.auth, _plan(request, plan_id), on))


@router.get("/plans/{plan_id}/card", response=bytes, operation_id="bedding_card")
def card(request: ScopedRequest, plan_id: Path[RowId], units: System = "metric") -> HttpResponse:
    """The rows on A5, big enough to be read out in a moving car."""
    # Asked for seldom, and its libraries take longer to load than the rest of the application.
    from thermaxis.formats.bedding_card import bedding_card

    record = _plan(request, plan_id)
    document = present.plan_out(record.plan).model_dump(mode="json")
    content = bedding_card(document, record.machine.name, record.front_pads.pad.name, units)
    return file_response(content, f"bedding-{record.pk}.pdf", "application/pdf", shown=True)


# --- the run -----------------------------------------------------------------------------------------------------


@router.post("/plans/{plan_id}/runs", response={201: schemas.BedRunOut}, operation_id="start_bedding_run")
def start_run(request: ScopedRequest, plan_id: Path[RowId], payload: schemas.RunAsk) -> Status[schemas.BedRunOut]:
    run = running_acts.start_run(request.auth, _plan(request, plan_id), payload.token)
    return Status(201, _run_out(request, run.pk))


@router.get("/bedding-runs/{bedding_run_id}", response=schemas.BedRunOut, operation_id="bedding_run")
def run_there(request: ScopedRequest, bedding_run_id: Path[RowId]) -> schemas.BedRunOut:
    return _run_out(request, bedding_run_id)


@router.put("/bedding-runs/{bedding_run_id}/events", response=schemas.BedRunOut, operation_id="say_bedding_run")
def events(request: ScopedRequest, bedding_run_id: Path[RowId], payload: schemas.EventsAsk) -> schemas.BedRunOut:
    """What the passenger said, in order; said twice it is one. The rest of the series comes back planned anew."""
    said = [
        running_acts.Said(token=one.token, event=Event(**one.model_dump(exclude={"token"}))) for one in payload.events
    ]
    running_acts.say_run(request.auth, _run(request, bedding_run_id), said)
    return _run_out(request, bedding_run_id)


@router.put("/bedding-runs/{bedding_run_id}/ended", response=schemas.BedRunOut, operation_id="end_bedding_run")
def end_run(request: ScopedRequest, bedding_run_id: Path[RowId]) -> schemas.BedRunOut:
    running_acts.end_run(request.auth, _run(request, bedding_run_id))
    return _run_out(request, bedding_run_id)


@router.post("/bedding-runs/{bedding_run_id}/pyrometer", response=schemas.HeldOut, operation_id="hold_pyrometer")
def pyrometer(request: ScopedRequest, bedding_run_id: Path[RowId], payload: schemas.HoldAsk) -> schemas.HeldOut:
    """What the stand-in reads of a simulated car that nobody knows."""
    held = pyrometer_of(_run(request, bedding_run_id))
    return schemas.HeldOut(value_C=held.read_C(payload.axle, payload.since_s, payload.moving_mps))


# --- did it work -------------------------------------------------------------------------------------------------


@router.get("/machines/{machine_id}/bedded", response=schemas.BedStateOut, operation_id="bedded")
def bedded(request: ScopedRequest, machine_id: Path[RowId]) -> schemas.BedStateOut:
    return present.state_out(standing_of(machine_of(request.auth, machine_id)))


@router.post("/machines/{machine_id}/bedding/proof", response=schemas.ProofOut, operation_id="prove_bedding")
def prove(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.ProofAsk) -> schemas.ProofOut:
    standing = standing_of(machine_of(request.auth, machine_id))
    with followed(request, "Driving the recorded run"):
        return schemas.ProofOut.of(prove_run(standing, _recorded(request, payload.run_id)))


@router.post("/machines/{machine_id}/bedding/proofs", response={201: schemas.ProofOut}, operation_id="keep_proof")
def keep_proof(
    request: ScopedRequest, machine_id: Path[RowId], payload: schemas.KeepProofAsk
) -> Status[schemas.ProofOut]:
    machine = machine_of(request.auth, machine_id)
    with followed(request, "Driving the recorded run"):
        proof = results.keep_proof(request.auth, machine, _recorded(request, payload.run_id), payload.on)
    return Status(201, schemas.ProofOut.of(proof))


@router.post("/machines/{machine_id}/ring-looks", response={201: schemas.ResultOut}, operation_id="look_at_ring")
def look_at_ring(
    request: ScopedRequest, machine_id: Path[RowId], payload: schemas.LookAsk
) -> Status[schemas.ResultOut]:
    machine = machine_of(request.auth, machine_id)
    return Status(
        201, present.result_out(results.look_at_ring(request.auth, machine, payload.axle, payload.look, payload.on))
    )


@router.put(
    "/bedding-results/{bedding_result_id}/removed", response=schemas.ResultOut, operation_id="remove_bedding_result"
)
def remove_result(request: ScopedRequest, bedding_result_id: Path[RowId], payload: Removed) -> schemas.ResultOut:
    row = request.auth.one(BeddingResult.objects.of(request.auth.workshop), bedding_result_id)
    return present.result_out(set_removed(request.auth, REMOVE_BEDDING_RESULT, row, payload.removed))


def _plan(request: ScopedRequest, plan_id: int) -> BeddingRecord:
    rows = BeddingRecord.objects.of(request.auth.workshop)
    return request.auth.one(rows.select_related("machine", "front_pads__pad"), plan_id)


def _run(request: ScopedRequest, run_id: int) -> BeddingRun:
    # An answer needs what was said more than once: how it stands, what stands of it, what has arrived.
    rows = BeddingRun.objects.of(request.auth.workshop).prefetch_related("events")
    return request.auth.one(rows.select_related("record__machine__duty__circuit", "record__front_pads__pad"), run_id)


def _recorded(request: ScopedRequest, run_id: int) -> RecordedRun:
    return request.auth.one(RecordedRun.objects.of(request.auth.workshop), run_id)


def _run_out(request: ScopedRequest, run_id: int) -> schemas.BedRunOut:
    return present.run_out(running(_run(request, run_id)))
