"""Duties drawn: as they are stored, and while they are typed."""

from __future__ import annotations

from ninja import Path, Query, Router

from thermaxis.apps.accounts.api.fields import RowId
from thermaxis.apps.accounts.api.said import said_out
from thermaxis.apps.accounts.api.signed_in import SIGNED_IN, ScopedRequest
from thermaxis.apps.duty.api import run_schemas
from thermaxis.apps.duty.api.schemas import DutyIn
from thermaxis.apps.duty.planned import planned
from thermaxis.apps.fitted.standing import machine_of, standing_of
from thermaxis.apps.garage import duty_mapping
from thermaxis.apps.garage.mapping import under
from thermaxis.apps.garage.querysets import duties
from thermaxis.apps.solving import tracing
from thermaxis.core.results import Result

router = Router(auth=SIGNED_IN)


@router.get("/machines/{machine_id}/duties/{duty_id}/trace", response=run_schemas.TraceOut, operation_id="duty_trace")
def duty_trace(
    request: ScopedRequest, machine_id: Path[RowId], duty_id: Path[RowId], query: Query[run_schemas.TraceQuery]
) -> run_schemas.TraceOut:
    duty = request.auth.one(duties(request.auth.workshop), duty_id)
    standing = standing_of(machine_of(request.auth, machine_id))
    return _trace_out(tracing.duty_trace(standing, duty_mapping.plan_of(duty), query.until_s))


@router.post("/machines/{machine_id}/drive", response=run_schemas.TraceOut, operation_id="drive")
def drive(request: ScopedRequest, machine_id: Path[RowId], payload: DutyIn) -> run_schemas.TraceOut:
    standing = standing_of(machine_of(request.auth, machine_id))
    plan = planned(request.auth.workshop, payload.model_dump()).plan
    with under("shape"):
        return _trace_out(tracing.duty_trace(standing, plan, None))


def _trace_out(found: tuple[duty_mapping.DutyFacts, dict[str, list[float]], Result]) -> run_schemas.TraceOut:
    facts, columns, result = found
    energy = result.energy_account.friction_J
    return run_schemas.TraceOut(
        event_km=facts.event_km,
        event_hours=facts.event_hours,
        lap_km=facts.lap_km,
        lap_s=facts.lap_s,
        energy_per_event_J=energy,
        energy_per_km_J=energy / facts.event_km,
        braking_share=result.braking_s / result.duration_s,
        warnings=[said_out(w.text) for w in result.warnings],
        **columns,
    )
