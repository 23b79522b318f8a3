"""Machines, their parts and set-ups as the API gives them."""

from __future__ import annotations

from typing import Any

from thermaxis.apps.fitted.actions.correct import part_values
from thermaxis.apps.fitted.parts import AXLES, PAD_NUMBERS, as_bought
from thermaxis.apps.fitted.standing import Standing, standing_of
from thermaxis.apps.garage.models import Axle, Machine
from thermaxis.apps.machine import whatif
from thermaxis.apps.machine.actions.change_machine import words_of
from thermaxis.apps.machine.api import schemas
from thermaxis.apps.solving.api.schemas import RemarkOut
from thermaxis.core.planning.machine.upgrade import SetupFigures
from thermaxis.core.results import Result


def machine_row(machine: Machine) -> dict[str, Any]:
    return {
        "id": machine.pk,
        "name": machine.name,
        "note": machine.note,
        "owner": machine.owner.name,
        "kind": machine.kind,
        "odometer_km": machine.odometer_km,
        "duty": machine.duty.name if machine.duty else None,
    }


def machine_out(machine: Machine) -> schemas.MachineOut:
    standing = standing_of(machine)
    axles = {axle.position: axle for axle in machine.axles.all()}
    return schemas.MachineOut.of(
        machine,
        **machine_row(machine),
        fluid=standing.fill.fluid.name,
        fluid_standard=standing.fill.fluid.standard,
        duty_id=machine.duty.pk if machine.duty else None,
        front_caliper=axles["front"].caliper_kind,
        rear_caliper=axles["rear"].caliper_kind,
        words=words_of(standing),
        towing=machine.towing and machine.trailer_mass_kg is not None,
        values=standing.numbers(),
    )


def parts_out(standing: Standing) -> schemas.PartsOut:
    own = [f"{place}.rotor" for place in AXLES if not as_bought(standing.rotors(place))]
    own += [f"{axle.position}.pad" for axle in standing.machine.axles.all() if _measured(axle)]
    parts = standing.parts
    return schemas.PartsOut(
        values=part_values(standing),
        own=own,
        front_rotor=parts.front_rotor.name,
        rear_rotor=parts.rear_rotor.name,
        front_pad=standing.pads("front").pad.name,
        rear_pad=standing.pads("rear").pad.name,
    )


def _measured(axle: Axle) -> bool:
    return any(getattr(axle, f"pad_{name}") is not None for name in PAD_NUMBERS)


def compare_out(found: whatif.Compared) -> schemas.CompareOut:
    return schemas.CompareOut(
        before=_side(found.before, found.before_result, found.before_pedal_left),
        after=_side(found.after, found.after_result, found.after_pedal_left),
        remarks=[RemarkOut.of(remark) for remark in found.remarks],
    )


def _side(figures: SetupFigures, result: Result, left: float) -> schemas.SetupFiguresOut:
    return schemas.SetupFiguresOut.of(
        figures, front_peak_C=result.front.peak_surface_C, rear_peak_C=result.rear.peak_surface_C, pedal_left_N=left
    )
