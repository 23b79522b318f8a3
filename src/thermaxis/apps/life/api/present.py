"""Life and the shelf as the API gives them."""

from __future__ import annotations

import datetime as dt
import math
from typing import Literal

from thermaxis.apps.accounts.api.fields import AxleName
from thermaxis.apps.fitted.models import Hose, PadReading, PadSet
from thermaxis.apps.garage.duty_mapping import duty_or_error
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.life.api import schemas
from thermaxis.apps.life.shelf import Shelved
from thermaxis.apps.solving import life
from thermaxis.apps.solving.in_force import InForce
from thermaxis.core.constants import DAYS_A_MONTH
from thermaxis.core.planning.life.hoses import hose_life
from thermaxis.core.planning.life.intervals import P90, SCHOOLS
from thermaxis.core.planning.verdict.readings import life_state

What = Literal["hoses", "seals"]
RUBBER: tuple[What, ...] = ("hoses", "seals")
AXLE_NAMES: tuple[AxleName, ...] = ("front", "rear")


def life_out(state: InForce, school: str) -> schemas.LifeOut:
    machine, standing = state.machine, state.standing
    duty = duty_or_error(machine)
    readings = [
        measurement_out(row)
        for axle in standing.axles.values()
        for row in axle.pads.pad_set.readings.select_related("mounting")
    ]
    return schemas.LifeOut(
        school=school,
        schools=list(SCHOOLS),
        duty_id=duty.pk,
        duty=duty.name,
        event_km=state.facts.event_km,
        events_per_month=duty.events_per_month,
        odometer_km=machine.odometer_km,
        fitted_on=standing.since_on,
        fitted_km=standing.since_km,
        rows=[_life_row(row, state, duty.events_per_month) for row in life.life_rows(state, school)],
        measurements=sorted(readings, key=lambda row: (row.measured_on, row.id), reverse=True),
    )


def _life_row(row: life.LifeRow, state: InForce, pace: float) -> schemas.LifeRowOut:
    left, mounting = row.remaining, state.standing.axles[row.axle].pads
    return schemas.LifeRowOut.of(
        row,
        pad=mounting.pad_set.pad.name,
        fitted_on=mounting.from_on,
        fitted_km=mounting.from_km,
        parts=[_part_life(row, entry) for entry in row.parts],
        now_m=left.thickness_m,
        limit_m=left.limit_m,
        wear_per_event_m=left.wear_per_event_m,
        wear_scale=row.scale.median,
        events=row.due_events,
        events_p10=min(left.events_p10, row.old_events),
        events_p90=min(left.events_p90, row.old_events),
        state=life_state(row.due_events, pace),
    )


def _part_life(row: life.LifeRow, entry: life.PartLife) -> schemas.PartLifeOut:
    part, left = entry.part, entry.remaining
    per_1000km = left.wear_per_event_m / row.event_km
    spread = math.exp(P90 * part.scale.sigma)
    return schemas.PartLifeOut.of(
        left,
        position=part.position,
        now_m=part.thickness_m,
        measurements=part.measurements,
        wear_per_1000km_m=per_1000km,
        wear_per_1000km_low_m=per_1000km / spread,
        wear_per_1000km_high_m=per_1000km * spread,
        wear_per_100MJ_m=1e8 * left.wear_per_event_m / row.event_energy_J if row.event_energy_J > 0 else 0.0,
    )


def hoses_out(machine: Machine, day: dt.date) -> list[schemas.HosesOut]:
    on = {(row.what, row.axle): row for row in Hose.objects.filter(machine=machine, until_on=None)}
    return [_hoses(what, axle, on.get((what, axle)), day) for what in RUBBER for axle in AXLE_NAMES]


def _hoses(what: What, axle: AxleName, row: Hose | None, day: dt.date) -> schemas.HosesOut:
    if row is None:
        return schemas.HosesOut(
            what=what, axle=axle, kind=None, age_months=None, fitted_on=None, fitted_km=None, state=None, change_on=None
        )
    months = row.months_on(day)
    found = hose_life(months)
    return schemas.HosesOut.of(
        row,
        what=what,
        axle=axle,
        age_months=months,
        state=found.state,
        change_on=day + dt.timedelta(days=found.months_left * DAYS_A_MONTH),
    )


def shelf_out(entry: Shelved, machine: Machine) -> schemas.ShelfThing:
    thing, last = entry.thing, entry.last
    own, column = (thing.shape, "pad_shape") if isinstance(thing, PadSet) else (thing.mount, "rotor_mount")
    takes = {axle.position: getattr(axle, column) for axle in machine.axles.all()}
    axle = last.axle if last else next(place for place, shape in takes.items() if shape == own)
    return schemas.ShelfThing.of(
        thing,
        kind="pads" if isinstance(thing, PadSet) else "rotors",
        name=str(thing),
        axle=axle,
        machine=last.machine.name if last else None,
        on_machine=last is not None and last.until_on is None,
        fits=(last is not None and last.machine_id == machine.pk) or bool(own and own == takes[axle]),
        fitted_on=last.from_on if last else None,
        removed_on=last.until_on if last else None,
        driven_km=entry.driven_km,
        readings=[schemas.ShelfReading.of(row, position=position) for position, row in sorted(entry.readings.items())],
    )


def measurement_out(row: PadReading) -> schemas.MeasurementOut:
    return schemas.MeasurementOut.of(row, axle=row.mounting.axle)
