"""Bedding plans: computed, kept, driven."""

from __future__ import annotations

from django.utils import timezone
from ninja import Path, Router

from thermaxis.apps.accounts.api.fields import Removed, RowId
from thermaxis.apps.accounts.api.signed_in import SIGNED_IN, ScopedRequest
from thermaxis.apps.bed.actions import keep_plan as plans
from thermaxis.apps.bed.api import present, schemas
from thermaxis.apps.bed.models import BeddingRecord
from thermaxis.apps.fitted.standing import machine_of, standing_of
from thermaxis.apps.log.actions import set_removed
from thermaxis.apps.solving.api.following import followed
from thermaxis.apps.solving.api.schemas import BeddingAsk
from thermaxis.apps.solving.bedding import bedding_plan

router = Router(auth=SIGNED_IN)


@router.post("/machines/{machine_id}/bedding", response=schemas.BeddingOut, operation_id="bedding")
def bedding(request: ScopedRequest, machine_id: Path[RowId], payload: BeddingAsk) -> schemas.BeddingOut:
    standing = standing_of(machine_of(request.auth, machine_id))
    with followed(request, "Planning the bedding-in"):
        plan, order, case = bedding_plan(standing, payload.top_speed_mps, payload.hard_g)
    return present.bedding_out(standing.pads("front").pad.name, plan, order, case)


@router.get("/machines/{machine_id}/plans", response=list[schemas.PlanRecordOut], operation_id="plans")
def kept_plans(request: ScopedRequest, machine_id: Path[RowId]) -> list[schemas.PlanRecordOut]:
    standing = standing_of(machine_of(request.auth, machine_id))
    rows = BeddingRecord.objects.of(request.auth.workshop).filter(front_pads=standing.pads("front"))
    return [present.plan_record_out(record) for record in rows]


@router.post("/machines/{machine_id}/plans", response=schemas.PlanRecordOut, operation_id="keep_plan")
def keep_plan(request: ScopedRequest, machine_id: Path[RowId], payload: BeddingAsk) -> schemas.PlanRecordOut:
    machine = machine_of(request.auth, machine_id)
    with followed(request, "Planning the bedding-in"):
        kept_plan = plans.keep_plan(request.auth, machine, payload.top_speed_mps, payload.hard_g)
    return present.plan_record_out(kept_plan)


@router.get("/plans/{plan_id}", response=schemas.KeptPlanOut, operation_id="kept_plan")
def kept_plan(request: ScopedRequest, plan_id: Path[RowId]) -> schemas.KeptPlanOut:
    record = request.auth.one(BeddingRecord.objects.of(request.auth.workshop), plan_id)
    return present.kept_plan_out(record, standing_of(machine_of(request.auth, record.machine_id)))


@router.put("/plans/{plan_id}/removed", response=schemas.PlanRecordOut, operation_id="remove_plan")
def remove_plan(request: ScopedRequest, plan_id: Path[RowId], payload: Removed) -> schemas.PlanRecordOut:
    record = request.auth.one(BeddingRecord.objects.of(request.auth.workshop), plan_id)
    return present.plan_record_out(set_removed(request.auth, "remove_plan", record, payload.removed))


@router.put("/plans/{plan_id}/done", response=schemas.PlanRecordOut, operation_id="mark_plan_done")
def mark_plan_done(request: ScopedRequest, plan_id: Path[RowId], payload: schemas.DoneAsk) -> schemas.PlanRecordOut:
    record = request.auth.one(BeddingRecord.objects.of(request.auth.workshop), plan_id)
    on = timezone.localdate() if payload.done else None
    return present.plan_record_out(plans.mark_done(request.auth, record, on))
