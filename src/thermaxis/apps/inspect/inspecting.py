"""Inspections to core records and back: the wheels of a machine, its cells, what was read last time, the assessment."""

from __future__ import annotations

import dataclasses
import datetime as dt
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from thermaxis.apps.catalogue.mapping import wear_of_rotor_m
from thermaxis.apps.fitted.models import PadMounting, PadReading, PadSize, RotorMounting, RotorReading
from thermaxis.apps.fitted.parts import AXLES
from thermaxis.apps.fitted.wearing import parts_worn
from thermaxis.apps.garage.mapping import school_of
from thermaxis.apps.garage.models import Axle, Machine
from thermaxis.apps.inspect import querysets
from thermaxis.apps.inspect.models import Inspection
from thermaxis.apps.solving import in_force
from thermaxis.apps.solving.driven import past_of
from thermaxis.apps.solving.mapping import change_m
from thermaxis.core.planning.inspection.cells import (
    PAD_CELLS,
    ROTOR_CELLS,
    Doubt,
    Value,
    discard_doubt,
    doubt_of,
    washers_m,
)
from thermaxis.core.planning.inspection.look import Wheel
from thermaxis.core.planning.inspection.sheet import Assessment, assess
from thermaxis.core.planning.inspection.wheel import MOST_RUNOUT_M, PadLimits, RotorLimits

# Thin discs of these materials are not turned on a lathe.
NOT_MACHINED = ("stainless", "carbon_ceramic")
LIP_HINT = "Are the washers, or the lip, in it?"
# Where a car's wear tab touches, in m of friction material; a motorcycle's pads have a groove instead.
TAB_M = {"car": 0.0025, "truck": 0.0025, "motorcycle": 0.0015}


def wheels_of(inspection: Inspection) -> tuple[Wheel, ...]:
    """Every disc of the machine with its limits: those kept with a finished inspection, today's for an open one."""
    if inspection.wheels:
        return wheels_from(inspection.wheels)
    return _wheels_today(inspection, _per_event_m(inspection, measurements_of(inspection)))


def limits_of(inspection: Inspection) -> tuple[Wheel, ...]:
    """The same discs without how fast their pads wear, which takes the engine: enough to check an entry by."""
    if inspection.wheels:
        return wheels_of(inspection)
    return _wheels_today(inspection, {})


def _wheels_today(inspection: Inspection, per_event_m: Mapping[tuple[str, str], float]) -> tuple[Wheel, ...]:
    machine = inspection.machine
    school = school_of(machine, machine.duty.use if machine.duty else "")
    return tuple(
        _wheel(inspection, axle, side, school, per_event_m.get((axle.position, side), 0.0))
        for axle, side in _places(machine)
    )


def _places(machine: Machine) -> list[tuple[Axle, str]]:
    """Axle and side of every disc; no side where the axle has one disc only."""
    return [(axle, side) for axle in machine.axles.all() for side in axle.sides]


def _name(axle: Axle, side: str) -> str:
    return f"{axle.position}_{side}".rstrip("_")


def pads_of(inspection: Inspection, axle: str) -> PadMounting:
    """The pads that were on an axle."""
    return inspection.front_pads if axle == "front" else inspection.rear_pads


def rotors_of(inspection: Inspection, axle: str) -> RotorMounting:
    """The rotors that were on an axle."""
    return inspection.front_rotors if axle == "front" else inspection.rear_rotors


def rotor_readings_of(inspection: Inspection) -> list[RotorReading]:
    """The least thickness the sheet says of each rotor, washers taken off, as readings that are not saved."""
    values = values_of(inspection)
    found = []
    for axle, side in _places(inspection.machine):
        name = _name(axle, side)
        points = [float(values[f"{name}.{cell}"]) for cell in ROTOR_CELLS if f"{name}.{cell}" in values]
        mounting = rotors_of(inspection, axle.position)
        disc = next((disc for disc in mounting.rotor_pair.discs.all() if disc.side == side), None)
        if points and disc is not None:
            found.append(
                RotorReading(
                    workshop_id=inspection.workshop_id,
                    disc=disc,
                    mounting=mounting,
                    size=mounting.rotor_pair.size,
                    inspection=inspection,
                    measured_on=inspection.measured_on,
                    odometer_km=inspection.odometer_km,
                    thickness_m=min(points) - washers_m(name, values),
                )
            )
    return found


def measurements_of(inspection: Inspection) -> list[PadReading]:
    """What the sheet says of each pad, the thinner of two ends, as readings that are not saved."""
    values = values_of(inspection)
    found = []
    for axle, side in _places(inspection.machine):
        mounting = pads_of(inspection, axle.position)
        for pad, cells in PAD_CELLS.items():
            names = [f"{_name(axle, side)}.{cell}" for cell in cells]
            ends = [float(values[name]) for name in names if name in values]
            if ends:
                found.append(
                    PadReading(
                        workshop_id=inspection.workshop_id,
                        pad_set=mounting.pad_set,
                        mounting=mounting,
                        size=mounting.pad_set.size,
                        inspection=inspection,
                        position=f"{side}.{pad}".strip("."),
                        measured_on=inspection.measured_on,
                        odometer_km=inspection.odometer_km,
                        thickness_m=min(ends),
                    )
                )
    return found


def _per_event_m(inspection: Inspection, readings: list[PadReading]) -> dict[tuple[str, str], float]:
    """Wear of the faster pad of each disc on the duty in force, in m, these readings counted; empty without a duty."""
    machine = inspection.machine
    if machine.duty is None:
        return {}
    state = in_force.in_force(machine)
    worn = {}
    for place in AXLES:
        mounting = pads_of(inspection, place)
        past = past_of(state.standing, mounting.pad_set, state.driving)
        worn[place] = parts_worn(mounting, machine.odometer_km, past, machine.duty.pk, readings)
    found: dict[tuple[str, str], float] = {}
    for axle, side in _places(machine):
        parts = worn[axle.position]
        # Until its pads are told apart a disc wears as the axle does.
        own = [part for part in parts if part.position.split(".")[0] in (side, "inner", "outer")] or parts
        computed = getattr(state.result, axle.position).pad_wear_m
        found[axle.position, side] = computed * max(part.scale.median for part in own)
    return found


def _wheel(inspection: Inspection, axle: Axle, side: str, school: str, per_event_m: float) -> Wheel:
    machine = inspection.machine
    pads = pads_of(inspection, axle.position).pad_set
    size, rotor = pads.size, rotors_of(inspection, axle.position).rotor_pair.size
    return Wheel(
        name=_name(axle, side),
        label=f"{axle.position} {side}".strip().capitalize(),
        axle=axle.position,
        sliding=axle.caliper_kind.startswith("sliding"),
        per_event_m=per_event_m,
        planned_wear_m=wear_of_rotor_m(pads.pad),
        pads=_pad_limits(size, school, machine),
        rotor=RotorLimits(
            new_m=rotor.thickness_m,
            discard_m=rotor.discard_thickness_m,
            most_runout_m=MOST_RUNOUT_M[machine.kind],
            machinable=rotor.material not in NOT_MACHINED,
        ),
    )


def _pad_limits(size: PadSize, school: str, machine: Machine) -> PadLimits:
    return PadLimits(new_m=size.thickness_m, change_m=change_m(school, machine.kind, size), tab_m=TAB_M[machine.kind])


def kept_wheels(wheels: tuple[Wheel, ...]) -> list[dict[str, Any]]:
    """Wheels as they are stored with a finished inspection."""
    return [dataclasses.asdict(wheel) for wheel in wheels]


def wheels_from(kept: Sequence[Mapping[str, Any]]) -> tuple[Wheel, ...]:
    """Wheels as they were stored. Raises where they are none."""
    return tuple(map(_wheel_from, kept))


def _wheel_from(kept: Mapping[str, Any]) -> Wheel:
    return Wheel(**{**kept, "pads": PadLimits(**kept["pads"]), "rotor": RotorLimits(**kept["rotor"])})


def values_of(inspection: Inspection) -> dict[str, Value]:
    """The entered cells by name."""
    return {cell.name: cell.value for cell in inspection.cells.all()}


@dataclass(frozen=True, kw_only=True)
class Before:
    """Thicknesses of the same parts at the last inspection, by cell, in m."""

    on: dt.date
    values_m: dict[str, float]


def before_of(inspection: Inspection) -> Before | None:
    """What was read last time on the parts that are still on; washers taken off."""
    last = querysets.inspection_before(inspection)
    if last is None:
        return None
    wheels, values = wheels_of(last), values_of(last)
    found: dict[str, float] = {}
    for wheel in wheels:
        if pads_of(last, wheel.axle).pad_set_id == pads_of(inspection, wheel.axle).pad_set_id:
            names = [f"{wheel.name}.{cell}" for cells in PAD_CELLS.values() for cell in cells]
            found |= {name: float(values[name]) for name in names if name in values}
        if rotors_of(last, wheel.axle).rotor_pair_id == rotors_of(inspection, wheel.axle).rotor_pair_id:
            off = washers_m(wheel.name, values)
            names = [f"{wheel.name}.{cell}" for cell in ROTOR_CELLS]
            found |= {name: float(values[name]) - off for name in names if name in values}
    return Before(on=last.measured_on, values_m=found)


def doubt_about(
    name: str, value: float, wheels: tuple[Wheel, ...], values: Mapping[str, Value], before: Before | None
) -> Doubt | None:
    """Whether a thickness of the sheet cannot be, by what is new, last time's reading and the rotor's other points."""
    place, _, cell = name.rpartition(".")
    wheel = next((wheel for wheel in wheels if wheel.name == place), None)
    if cell == "discard":
        rotor = next((wheel.rotor for wheel in wheels if wheel.axle == place), None)
        return discard_doubt(value, rotor.new_m) if rotor else None
    last = before.values_m.get(name) if before else None
    if wheel is not None and cell.startswith("pad_"):
        return doubt_of(value, wheel.pads.new_m, last, hint="Is the backing plate in it?")
    if wheel is not None and cell in ROTOR_CELLS:
        off = washers_m(place, values)
        others = [float(values[f"{place}.{c}"]) - off for c in ROTOR_CELLS if c != cell and f"{place}.{c}" in values]
        return doubt_of(value, wheel.rotor.new_m, last, others, off_m=off, hint="" if off else LIP_HINT)
    return None


def assessment_of(inspection: Inspection, wheels: tuple[Wheel, ...] | None = None) -> Assessment:
    """Everything the rules say about an inspection as it stands; `wheels` where they are known already."""
    return assess(wheels_of(inspection) if wheels is None else wheels, values_of(inspection))
