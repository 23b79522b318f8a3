"""Which of the catalogue's parts a machine takes: asked and said where they are chosen."""

from __future__ import annotations

from typing import Literal

from ninja import Path, Router
from pydantic import Field

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.fields import AxleName, RowId
from thermaxis.apps.accounts.api.said import SaidOut
from thermaxis.apps.accounts.api.signed_in import SIGNED_IN, ScopedRequest
from thermaxis.apps.choose import fitting
from thermaxis.apps.fitted.standing import machine_of
from thermaxis.apps.garage.actions.say_fits import say_fits
from thermaxis.apps.garage.models import Machine

router = Router(auth=SIGNED_IN)


class FitsOut(Wire):
    """One axle, with how many of the catalogue's parts it is offered and why no more."""

    axle: str
    pad_shape: str
    rotor_mount: str
    compounds: int
    rotors: int
    why: list[SaidOut]


class FitChoiceOut(Wire):
    name: str
    example: SaidOut
    count: int


class FitsAllOut(Wire):
    axles: list[FitsOut]
    shapes: list[FitChoiceOut]
    mounts: list[FitChoiceOut]


class FitsAsk(Wire):
    axle: AxleName
    name: Literal["pad_shape", "rotor_mount"]
    value: str = Field(max_length=24)


def _out(machine: Machine) -> FitsAllOut:
    def choices(rows: list[fitting.Choice]) -> list[FitChoiceOut]:
        return [FitChoiceOut.of(row) for row in rows]

    return FitsAllOut(
        axles=[FitsOut.of(row) for row in fitting.fits_of(machine)],
        shapes=choices(fitting.shapes_of(machine)),
        mounts=choices(fitting.mounts_of(machine)),
    )


@router.get("/machines/{machine_id}/fits", response=FitsAllOut, operation_id="fits")
def fits(request: ScopedRequest, machine_id: Path[RowId]) -> FitsAllOut:
    return _out(machine_of(request.auth, machine_id))


@router.put("/machines/{machine_id}/fits", response=FitsAllOut, operation_id="say_fits")
def put_fits(request: ScopedRequest, machine_id: Path[RowId], payload: FitsAsk) -> FitsAllOut:
    machine = machine_of(request.auth, machine_id)
    say_fits(request.auth, machine, payload.axle, payload.name, payload.value)
    return _out(machine_of(request.auth, machine_id))
