"""Duties to core records: rows and what a page sends become one plan, and a plan becomes what a machine drives."""

from __future__ import annotations

import dataclasses
import functools
import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from thermaxis.apps.garage import models
from thermaxis.apps.garage.mapping import (
    Conditions,
    environment_record,
    powertrain_record,
    trailer_record,
    under,
    vehicle_record,
)
from thermaxis.apps.garage.shapes import (
    Day,
    DayPart,
    Descent,
    Plan,
    Recorded,
    Sections,
    Session,
    Stops,
    UsualWeek,
    shape_of,
)
from thermaxis.core import records
from thermaxis.core.errors import Bounds, FieldError, SolveError
from thermaxis.core.planning.duty.duties import Part, combined, descent_in_sections, driving_day, with_soak
from thermaxis.core.planning.duty.lap import Element, Lap, Powertrain, drive_lap, session

# How a page names the rows a duty goes with.
NAMING_ROWS = ("circuit_id", "run_id", "parts")


@dataclass(frozen=True, kw_only=True)
class DutyFacts:
    """A duty as the core takes it, and what one event of it is."""

    duty: records.Duty
    event_km: float
    event_hours: float
    lap_km: float | None
    lap_s: float | None
    conditions: Conditions


def plan_of(duty: models.Duty) -> Plan:
    """The plan of a stored duty, whole."""
    if duty.kind != Day.kind:
        return _driven_plan_of(duty)
    return typed_plan_of(duty).shaped(
        parts=tuple(
            DayPart(plan=_driven_plan_of(row.part), times=row.times, gap_s=row.gap_s) for row in duty.parts.all()
        )
    )


def _driven_plan_of(duty: models.Duty) -> Plan:
    """What was typed and recorded of a duty, not what it is made of: nobody goes on into a day that is in a day."""
    plan = typed_plan_of(duty)
    return plan.shaped(trace=trace_of(duty.run.trace)) if isinstance(plan.shape, Recorded) and duty.run else plan


def typed_plan_of(duty: models.Duty) -> Plan:
    """What was typed of a stored duty: its plan without the recorded trace and the duties of a day, which are long."""
    return Plan(
        shape=shape_of(duty.shape, **_circuit_rows(duty.circuit)),
        event_km=duty.event_km,
        conditions=conditions_of(duty),
        then_s=duty.then_s,
        then_speed_mps=duty.then_speed_mps,
    )


def _circuit_rows(circuit: models.Circuit | None) -> dict[str, Any]:
    return {"elements": elements_of(circuit), "closed": bool(circuit and circuit.closed)}


def conditions_of(duty: models.Duty) -> Conditions:
    return Conditions(
        air_C=duty.air_C,
        altitude_m=duty.altitude_m,
        duct_factor=duty.duct_factor,
        without_trailer=duty.without_trailer,
        battery_full=duty.battery_full,
    )


def elements_of(circuit: models.Circuit | None) -> tuple[Element, ...]:
    rows = circuit.elements.all() if circuit else ()
    return tuple(Element(length_m=row.length_m, radius_m=row.radius_m, grade=row.grade) for row in rows)


def trace_of(stored: dict[str, Any]) -> records.TraceDuty:
    """A stored speed trace as the core takes it."""
    grade = stored.get("grade")
    return records.TraceDuty(
        kind="trace",
        t_s=tuple(stored["t_s"]),
        v_mps=tuple(stored["v_mps"]),
        grade=None if grade is None else tuple(grade),
        then_s=stored.get("then_s", 0.0),
        then_speed_mps=stored.get("then_speed_mps", 0.0),
    )


def duty_or_error(machine: models.Machine) -> models.Duty:
    """The duty in force. SolveError where there is none."""
    if machine.duty is None:
        raise SolveError("Choose a duty first: nothing can be computed without one.")
    return machine.duty


def duty_facts(machine: models.Machine, duty: models.Duty) -> DutyFacts:
    """A stored duty as this machine drives it."""
    return facts_of(machine, plan_of(duty))


def facts_of(
    machine: models.Machine, plan: Plan, *, repeats: int | None = None, cool_down_laps: int | None = None
) -> DutyFacts:
    """A plan as this machine drives it; `repeats` (laps, runs, series) and cool-down laps may be others than its own.

    FieldError names what cannot be driven.
    """
    if isinstance(plan.shape, Session):
        return _session(machine, plan, plan.shape, repeats, cool_down_laps)
    # What it stands parked afterwards is no driving.
    driven = _core(machine, dataclasses.replace(plan, then_s=0.0), repeats)
    return DutyFacts(
        duty=_core(machine, plan, repeats),
        event_km=plan.event_km,
        event_hours=_hours(driven),
        lap_km=None,
        lap_s=None,
        conditions=plan.conditions,
    )


def _core(machine: models.Machine, plan: Plan, repeats: int | None) -> records.Duty:
    shape, then = plan.shape, {"then_s": plan.then_s, "then_speed_mps": plan.then_speed_mps}
    match shape:
        case Descent():
            return records.DescentDuty(
                kind="descent", grade=shape.grade, speed_mps=shape.speed_mps, duration_s=shape.duration_s, **then
            )
        case Sections():
            vehicle, trailer = vehicle_record(machine, plan.conditions), trailer_record(machine, plan.conditions)
            return descent_in_sections(shape.sections, vehicle, trailer, **then)
        case UsualWeek():
            return with_soak(driving_day(shape), plan.then_s)
        case Stops():
            series = records.StopsDuty(kind="stops", stops=shape.stops, repeat=repeats or shape.repeat)
            return with_soak(series, plan.then_s)
        case Day():
            return combined([_part(machine, plan, index, part) for index, part in enumerate(shape.parts)])
        case Recorded(trace=trace) if trace is not None:
            return trace
    raise FieldError("run_id", None, "a recorded run")


def _part(machine: models.Machine, day: Plan, index: int, part: DayPart) -> Part:
    with under(f"parts[{index}]"):
        if isinstance(part.plan.shape, Day):
            raise FieldError("duty_id", "a day", "a duty that is not a day itself")
        # The day's own air, ducts and trailer hold for all of it.
        inner = facts_of(machine, dataclasses.replace(part.plan, conditions=day.conditions))
        return Part(duty=inner.duty, times=part.times, gap_s=part.gap_s)


def _hours(duty: records.Duty) -> float:
    """Time at the wheel in one event, standing not counted where the duty is a trace."""
    if isinstance(duty, records.DescentDuty):
        return duty.duration_s / 3600.0
    if isinstance(duty, records.StopsDuty):
        return duty.seconds / 3600.0
    moving = math.fsum(
        after - before
        for before, after, low, high in zip(duty.t_s, duty.t_s[1:], duty.v_mps, duty.v_mps[1:], strict=False)
        if low > 0 or high > 0
    )
    return moving / 3600.0


def _session(
    machine: models.Machine, plan: Plan, shape: Session, repeats: int | None, cool_down_laps: int | None
) -> DutyFacts:
    laps = repeats or shape.laps
    cool_down = shape.cool_down_laps if cool_down_laps is None else cool_down_laps
    lap = _lap(machine, shape, plan.conditions)
    return DutyFacts(
        duty=_repeated(lap, laps, cool_down, plan.then_s, shape.pause_s, shape.traffic),
        event_km=plan.event_km,
        event_hours=laps * lap.duration_s / 3600.0,
        lap_km=lap.length_m / 1000.0,
        lap_s=lap.duration_s,
        conditions=plan.conditions,
    )


def lap_of(machine: models.Machine, duty: models.Duty) -> records.TraceDuty | None:
    """One lap of a duty's circuit as this machine drives it alone, without its trailer; None where it is not laps."""
    plan = typed_plan_of(duty)
    if not isinstance(plan.shape, Session) or not plan.shape.closed:
        return None
    lap = _lap(machine, plan.shape, dataclasses.replace(plan.conditions, without_trailer=True))
    return records.TraceDuty(kind="trace", t_s=tuple(lap.t_s.tolist()), v_mps=tuple(lap.v_mps.tolist()))


def _lap(machine: models.Machine, shape: Session, conditions: Conditions) -> Lap:
    return _driven(
        shape.elements,
        vehicle_record(machine, conditions),
        powertrain_record(machine),
        shape.driver_level,
        environment_record(machine, conditions),
        shape.closed,
    )


@functools.lru_cache(maxsize=64)
def _driven(
    elements: tuple[Element, ...],
    vehicle: records.Vehicle,
    powertrain: Powertrain,
    level: str,
    environment: records.Environment,
    closed: bool,
) -> Lap:
    """A lap, kept: the same machine asks for the same one with every slider that moves."""
    return drive_lap(elements, vehicle, powertrain, level, environment, closed=closed)


@functools.lru_cache(maxsize=64)
def _repeated(
    lap: Lap, laps: int, cool_down_laps: int, soak_s: float, pause_s: float, traffic: float
) -> records.TraceDuty:
    return session(lap, laps, cool_down_laps=cool_down_laps, soak_s=soak_s, pause_s=pause_s, traffic=traffic)


def plan_from(
    fields: Mapping[str, Any],
    circuit: models.Circuit | None,
    run: models.RecordedRun | None,
    parts: list[tuple[models.Duty, int, float]],
) -> Plan:
    """The plan of a duty that is not stored (yet), from its fields as a page sends them; FieldError names one."""
    kind = fields["shape"]["kind"]
    needed = {Session.kind: ("circuit_id", circuit), Recorded.kind: ("run_id", run), Day.kind: ("parts", parts or None)}
    name, found = needed.get(kind, ("", True))
    rows = {
        **_circuit_rows(circuit),
        "trace": trace_of(run.trace) if run else None,
        "parts": tuple(DayPart(plan=_driven_plan_of(row), times=times, gap_s=gap_s) for row, times, gap_s in parts),
    }
    with under("shape"):
        if found is None:
            raise FieldError(name, None, f"given for a duty of kind {kind}")
        shape = shape_of({key: value for key, value in fields["shape"].items() if key not in NAMING_ROWS}, **rows)
    with under("conditions"):
        conditions = _conditions_from(fields["conditions"])
    return Plan(
        shape=shape,
        event_km=fields["event_km"],
        conditions=conditions,
        then_s=fields["then_s"],
        then_speed_mps=fields["then_speed_mps"],
    )


def _conditions_from(fields: dict[str, Any]) -> Conditions:
    duct, air = fields["duct_factor"], fields["air_C"]
    if not 0.1 <= duct <= 10:
        raise FieldError.outside("duct_factor", duct, Bounds(least=0.1, most=10))
    if air is not None and not -60 <= air <= 70:
        raise FieldError.outside("air_C", air, Bounds(least=-60, most=70), " or null")
    return Conditions(**fields)
