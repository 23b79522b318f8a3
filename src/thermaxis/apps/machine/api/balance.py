"""Torque and balance while numbers are typed."""

from __future__ import annotations

from ninja import Path, Router

from thermaxis.apps.accounts.api.fields import RowId
from thermaxis.apps.accounts.api.signed_in import SIGNED_IN, ScopedRequest
from thermaxis.apps.fitted.standing import machine_of
from thermaxis.apps.machine import whatif
from thermaxis.apps.machine.api import schemas
from thermaxis.apps.solving.following import state_of

router = Router(auth=SIGNED_IN)


@router.post("/machines/{machine_id}/balance", response=schemas.BalanceOut, operation_id="balance")
def balance(request: ScopedRequest, machine_id: Path[RowId], payload: schemas.BalanceAsk) -> schemas.BalanceOut:
    machine = machine_of(request.auth, machine_id)
    state = state_of(request.auth, machine_id) if machine.duty else None
    found = whatif.balance_of(machine, payload.pedal_force_N, payload.rotor_C, payload.changes, state)
    return schemas.BalanceOut.of(found)
