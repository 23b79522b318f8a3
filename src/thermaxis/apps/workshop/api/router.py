"""What is seen of a machine from everywhere: strip, rail, ranges; and every machine at once."""

from __future__ import annotations

from django.http import HttpResponse
from django.utils import timezone
from ninja import Path, Router, Status

from thermaxis.apps.accounts.api.fields import RowId
from thermaxis.apps.accounts.api.kept_answers import kept_answer
from thermaxis.apps.accounts.api.said import said_out
from thermaxis.apps.accounts.api.signed_in import SIGNED_IN, ScopedRequest
from thermaxis.apps.accounts.kept import EVERY_MACHINE, kept
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.fitted.bedded import not_bedded
from thermaxis.apps.fitted.standing import machine_of
from thermaxis.apps.garage.duty_mapping import duty_or_error
from thermaxis.apps.garage.querysets import machine_rows
from thermaxis.apps.solving import ranges as solving
from thermaxis.apps.solving.api.following import followed
from thermaxis.apps.solving.api.present import influences_out
from thermaxis.apps.solving.api.schemas import WhatIf
from thermaxis.apps.solving.following import state_of
from thermaxis.apps.solving.in_force import InForce, tried
from thermaxis.apps.solving.strip import survives
from thermaxis.apps.solving.strip import verdict as verdict_of
from thermaxis.apps.workshop.actions.keep_what_if import keep_what_if
from thermaxis.apps.workshop.actions.load_demo import add_demo_machine
from thermaxis.apps.workshop.api import schemas
from thermaxis.apps.workshop.rail import stages
from thermaxis.core.errors import FieldError, SolveError

router = Router(auth=SIGNED_IN)


def _verdict_out(scope: Scope, state: InForce, shown: InForce) -> schemas.VerdictOut:
    # A slider asks for the strip ten times a second: where the stages stand does not depend on it.
    rail = kept(scope.workshop, ("stages", state.machine.pk), lambda: stages(state.machine, state), state.machine.pk)
    bite = not_bedded(state.bedded)
    five = verdict_of(shown)
    return schemas.VerdictOut(
        set_name=state.standing.name,
        duty=duty_or_error(state.machine).name,
        outcome=schemas.OutcomeOut.of(survives(shown, five)),
        bite=said_out(bite) if bite is not None else None,
        readings=[schemas.ReadingOut.of(reading) for reading in five],
        stages=[schemas.StageOut.of(stage) for stage in rail],
    )


@router.get("/workshop/overview", response=list[schemas.OverviewRow], operation_id="overview")
def overview(request: ScopedRequest) -> HttpResponse:
    """Every machine with its verdict, in one answer."""
    return kept_answer(request, list[schemas.OverviewRow], lambda: _overview(request), EVERY_MACHINE)


def _overview(request: ScopedRequest) -> list[schemas.OverviewRow]:
    found, scope = [], request.auth
    for machine in scope.machines_seen(machine_rows(scope.workshop)):
        verdict, why_not = None, ""
        try:
            state = state_of(scope, machine.pk)
            verdict = _verdict_out(scope, state, state)
        except (SolveError, FieldError) as error:
            why_not = str(error)
        found.append(
            schemas.OverviewRow.of(
                machine,
                owner=machine.owner.name,
                duty=machine.duty.name if machine.duty else None,
                verdict=verdict,
                why_not=why_not,
            )
        )
    return found


@router.post("/workshop/demo-machine", response={201: schemas.AddedOut}, operation_id="add_demo_machine")
def demo_machine(request: ScopedRequest) -> Status[schemas.AddedOut]:
    """A machine to try things on, with the catalogue it is driven through; for a workshop that has none yet."""
    return Status(201, schemas.AddedOut.of(add_demo_machine(request.auth, timezone.localdate())))


@router.post("/machines/{machine_id}/verdict", response=schemas.VerdictOut, operation_id="verdict")
def verdict(request: ScopedRequest, machine_id: Path[RowId], payload: WhatIf) -> schemas.VerdictOut:
    state = state_of(request.auth, machine_id)
    return _verdict_out(request.auth, state, tried(state, payload.record()))


@router.post("/machines/{machine_id}/what-if", response=schemas.VerdictOut, operation_id="keep_what_if")
def keep_tried(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.KeepWhatIf) -> schemas.VerdictOut:
    keep_what_if(request.auth, machine_of(request.auth, machine_id), payload.record(), payload.names)
    state = state_of(request.auth, machine_id)
    return _verdict_out(request.auth, state, state)


@router.post("/machines/{machine_id}/ranges", response=schemas.RangesOut, operation_id="ranges")
def ranges(request: ScopedRequest, machine_id: Path[RowId], payload: WhatIf) -> schemas.RangesOut:
    state = tried(state_of(request.auth, machine_id), payload.record())
    with followed(request, "Running the duty under 128 draws of the estimates") as watch:
        found = solving.ranges(state, watch)
    bands = {band.name: band for band in found.bands}
    return schemas.RangesOut.of(
        found,
        calibrated=bool(state.fits),
        friction=solving.friction_spread(state),
        any_probability=found.any_crossed,
        ranges=[
            schemas.RangeOut.of(
                band,
                name=name,
                fill_low=bands[f"{name}.fill"].p10,
                fill_high=bands[f"{name}.fill"].p90,
                influences=influences_out(band),
            )
            for name, band in bands.items()
            if "." not in name
        ],
    )
