"""A machine and its duty from a case file."""

from __future__ import annotations

import datetime as dt
import json
import math
from typing import Any

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.catalogue.models import MuPoint, Pad, Provenance
from thermaxis.apps.fitted.actions.correct import change_parts
from thermaxis.apps.fitted.parts import AXLES, PAD_NUMBERS, ROTOR_NUMBERS, ROTOR_WORDS
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.garage.actions.save_duty import save_duty
from thermaxis.apps.garage.mapping import AXLE, HYDRAULICS, TRAILER, VEHICLE
from thermaxis.apps.garage.models import Duty, Machine, RecordedRun
from thermaxis.apps.garage.shapes import Descent, Plan, Recorded, Stops
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import Action
from thermaxis.apps.machine.actions.add_machine import add_machine, free_name
from thermaxis.apps.machine.actions.change_machine import ANTI_LOCK
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.convection import altitude_of
from thermaxis.core.planning.duty.duties import as_trace
from thermaxis.core.records import Case, DescentDuty, StopsDuty, TraceDuty
from thermaxis.formats.case_file import read_case

IMPORT_CASE = Action("import_case", "Case opened as a machine", kind="machine")

CLASS_OF_KIND = {"car": "family", "truck": "four_by_four", "motorcycle": "motorcycle"}
USE_OF_DUTY = {"stops": "street", "descent": "tow", "trace": "track"}
# Where a compound stops being itself, told from its friction alone (estimates): shares of its best friction.
WORKS_FROM, FADED_AT = 0.9, 0.75


def import_case(scope: Scope, document: dict[str, Any], on: dt.date) -> Machine:
    """Add the machine, parts and duty of a case file, so that the page computes what `thermaxis solve` does.

    What a case does not say (engine power, who owns it) is estimated and marked. FieldError names what is wrong.
    """
    case = read_case(json.dumps(document))
    if case.environment.start_C is not None and case.environment.start_C != case.environment.air_C:
        raise FieldError("environment.start_C", case.environment.start_C, "left out: here everything starts at air_C")
    name = case.name or "From a case file"
    with act(scope, IMPORT_CASE) as entry:
        duty = _duty(scope, case, name)
        machine = add_machine(
            scope,
            name=name,
            owner="From a case file",
            note="",
            class_name=CLASS_OF_KIND[case.vehicle.kind],
            known=_known(case),
            duty=duty,
            on=on,
        )
        _fill(machine, case)
        words = {
            f"{position}.rotor.{word}": getattr(getattr(case, position).rotor, word)
            for position in AXLES
            for word in ROTOR_WORDS
        }
        change_parts(scope, machine, words)
        _pads(machine, case, name)
        # What a class would have had on is not what the file says is on.
        machine.own_pads.filter(as_found=True).delete()
        entry.about(machine)
    return machine


def _known(case: Case) -> dict[str, float]:
    found: dict[str, float | None] = {f"vehicle.{name}": getattr(case.vehicle, name) for name in VEHICLE}
    found |= {f"hydraulics.{name}": getattr(case.hydraulics, name) for name in HYDRAULICS}
    for position in AXLES:
        axle = getattr(case, position)
        found |= {f"{position}.{name}": getattr(axle, name) for name in AXLE}
        found |= {f"{position}.rotor.{name}": getattr(axle.rotor, name) for name in ROTOR_NUMBERS}
        found |= {f"{position}.pad.{name}": getattr(axle.pad, name) for name in PAD_NUMBERS}
    if case.trailer is not None:
        found |= {f"trailer.{name}": getattr(case.trailer, name) for name in TRAILER}
    found["environment.air_C"] = case.environment.air_C
    found["environment.altitude_m"] = altitude_of(case.environment.pressure_Pa)
    return {path: value for path, value in found.items() if value is not None}


def _fill(machine: Machine, case: Case) -> None:
    """What a class would have filled in although the case says that there is none, and the regen it says there is."""
    machine.rider_front_share = case.vehicle.rider_front_share
    machine.booster_runout_N = case.hydraulics.booster_runout_N
    machine.rear_knee_Pa = case.hydraulics.rear_knee_Pa
    nothing = {"vehicle.rider_front_share", "hydraulics.booster_runout_N", "hydraulics.rear_knee_Pa"}
    machine.estimates = [path for path in machine.estimates if path not in nothing]
    machine.anti_lock = case.vehicle.anti_lock
    # What an older file did not know is an estimate here, too; what this one says is none.
    told = {ANTI_LOCK, *(f"trailer.{name}" for name in TRAILER)}
    assumed = [path for path in (entry.split()[0] for entry in case.assumed) if path in told]
    machine.estimates = [*(path for path in machine.estimates if path not in told), *assumed]
    regen = case.vehicle.regen
    machine.regen_axle = regen.axle if regen else ""
    if regen:
        machine.regen_max_power_W, machine.regen_max_decel_mps2 = regen.max_power_W, regen.max_decel_mps2
        machine.regen_fade_out_mps = regen.fade_out_mps
    machine.save()


def _pads(machine: Machine, case: Case, name: str) -> None:
    standing = standing_of(machine)
    for position in AXLES:
        record = getattr(case, position).pad
        best = max(value for _, value in record.mu)
        limit = max(celsius for celsius, value in record.mu if value >= FADED_AT * best)
        low = min(celsius for celsius, value in record.mu if value >= WORKS_FROM * best)
        pad = Pad.objects.create(
            workshop=machine.workshop,
            machine=machine,
            provenance=Provenance.ESTIMATE,
            name=free_name(machine.workshop, f"{name}, {position} pad"[:120]),
            family="semi-metallic",
            window_low_C=min(low, limit - 20.0),
            window_high_C=limit - 10.0,
            limit_C=limit,
            bed_low_C=0.4 * limit,
            bed_high_C=0.7 * limit,
            noise=2.0,
            dust=2.0,
            density_kg_per_m3=record.density_kg_per_m3,
            specific_heat_J_per_kgK=record.specific_heat_J_per_kgK,
            conductivity_W_per_mK=record.conductivity_W_per_mK,
            wear_mm3_per_MJ=record.wear_mm3_per_MJ,
            wear_knee_C=record.wear_knee_C,
            wear_scale_C=record.wear_scale_C,
        )
        MuPoint.objects.bulk_create(
            MuPoint(pad=pad, temperature_C=celsius, mu=value, provenance=Provenance.ESTIMATE)
            for celsius, value in record.mu
        )
        pads = standing.pads(position)
        pads.pad = pad
        pads.save(update_fields=["pad"])


def _duty(scope: Scope, case: Case, name: str) -> Duty:
    duty, run = case.duty, None
    common: dict[str, Any] = {"event_km": max(0.1, round(metres(duty) / 1000.0, 2))}
    if isinstance(duty, TraceDuty):
        run = RecordedRun.objects.create(
            workshop=scope.workshop,
            name=f"{name}, trace"[:120],
            trace={
                "t_s": duty.t_s,
                "v_mps": duty.v_mps,
                "grade": duty.grade,
                "then_s": duty.then_s,
                "then_speed_mps": duty.then_speed_mps,
            },
        )
        plan = Plan(shape=Recorded(trace=duty), **common)
    elif isinstance(duty, DescentDuty):
        plan = Plan(
            shape=Descent(grade=duty.grade, speed_mps=duty.speed_mps, duration_s=duty.duration_s),
            then_s=duty.then_s,
            then_speed_mps=duty.then_speed_mps,
            **common,
        )
    else:
        plan = Plan(shape=Stops(stops=duty.stops, repeat=duty.repeat), **common)
    words = {
        "name": f"{name}, duty"[:120],
        "use": USE_OF_DUTY[duty.kind],
        "note": "from a case file",
        "events_per_month": 1.0,
    }
    return save_duty(scope, None, plan, words, circuit=None, run=run, parts=[])


def metres(duty: DescentDuty | StopsDuty | TraceDuty) -> float:
    """How far a duty goes, in m."""
    if isinstance(duty, DescentDuty):
        return duty.speed_mps * duty.duration_s
    trace = as_trace(duty)
    steps = zip(trace.t_s, trace.t_s[1:], trace.v_mps, trace.v_mps[1:], strict=False)
    return math.fsum((after - before) * (low + high) / 2.0 for before, after, low, high in steps)
