"""Duties to core records: rows and what a page sends become one plan, and a plan becomes what a machine drives."""

from __future__ import annotations

import dataclasses
import functools
import math
from dataclasses import dataclass, field
from typing import Any

from thermaxis.apps.garage import models
from thermaxis.apps.garage.mapping import (
    AS_IT_STANDS,
    Conditions,
    environment_record,
    powertrain_record,
    trailer_record,
    under,
    vehicle_record,
)
from thermaxis.core import records
from thermaxis.core.errors import Bounds, FieldError, SolveError
from thermaxis.core.planning.duty.duties import (
    Part,
    Section,
    Week,
    combined,
    descent_in_sections,
    driving_day,
    with_soak,
)
from thermaxis.core.planning.duty.lap import Element, Lap, Powertrain, drive_lap, session

Kind = models.Duty.Kind
PLAIN = (
    "kind",
    "event_km",
    "then_s",
    "then_speed_mps",
    "laps",
    "driver_level",
    "traffic",
    "cool_down_laps",
    "pause_s",
    "grade",
    "speed_mps",
    "duration_s",
    "repeat",
)


@dataclass(frozen=True, kw_only=True)
class Plan:
    """Everything that makes a duty what it is, whether it is stored or only tried."""

    kind: str
    event_km: float
    conditions: Conditions = AS_IT_STANDS
    then_s: float = 0.0
    then_speed_mps: float = 0.0
    elements: tuple[Element, ...] = ()
    closed: bool = False
    laps: int = 1
    driver_level: str = ""
    traffic: float = 0.0
    cool_down_laps: int = 0
    pause_s: float = 0.0
    grade: float = 0.0
    speed_mps: float = 0.0
    duration_s: float = 0.0
    sections: tuple[Section, ...] = ()
    stops: tuple[records.Stop, ...] = ()
    repeat: int = 1
    week: Week | None = None
    trace: records.TraceDuty | None = None
    parts: tuple[PlanPart, ...] = field(default=())


@dataclass(frozen=True, kw_only=True)
class PlanPart:
    """One duty of a day."""

    plan: Plan
    times: int
    gap_s: float


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
    parts = duty.parts.all() if duty.kind == Kind.DAY else ()
    return dataclasses.replace(
        _driven_plan_of(duty),
        parts=tuple(PlanPart(plan=_driven_plan_of(row.part), times=row.times, gap_s=row.gap_s) for row in parts),
    )


def _driven_plan_of(duty: models.Duty) -> Plan:
    """What was typed and recorded of a duty, not what it is made of: nobody goes on into a day that is in a day."""
    return dataclasses.replace(typed_plan_of(duty), trace=trace_of(duty.run.trace) if duty.run else None)


def typed_plan_of(duty: models.Duty) -> Plan:
    """What was typed of a stored duty: its plan without the recorded trace and the duties of a day, which are long."""
    circuit, week = duty.circuit, None
    if duty.kind == Kind.WEEK:
        week = Week(
            town_km=duty.town_km or 0.0,
            rural_km=duty.rural_km or 0.0,
            motorway_km=duty.motorway_km or 0.0,
            days=duty.days or 5,
        )
    return Plan(
        kind=duty.kind,
        event_km=duty.event_km,
        conditions=conditions_of(duty),
        then_s=duty.then_s,
        then_speed_mps=duty.then_speed_mps,
        elements=elements_of(circuit),
        closed=bool(circuit and circuit.closed),
        laps=duty.laps or 1,
        driver_level=duty.driver_level,
        traffic=duty.traffic,
        cool_down_laps=duty.cool_down_laps,
        pause_s=duty.pause_s,
        grade=duty.grade or 0.0,
        speed_mps=duty.speed_mps or 0.0,
        duration_s=duty.duration_s or 0.0,
        sections=tuple(
            Section(length_m=row.length_m, grade=row.grade, speed_mps=row.speed_mps, stops=row.stops, gear=row.gear)
            for row in duty.sections.all()
        ),
        stops=tuple(
            records.Stop(
                from_mps=row.from_mps,
                to_mps=row.to_mps,
                decel_mps2=row.decel_mps2,
                grade=row.grade,
                then_s=row.then_s,
                then_speed_mps=row.then_speed_mps,
            )
            for row in duty.stops.all()
        ),
        repeat=duty.repeat or 1,
        week=week,
    )


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
    if plan.kind == Kind.SESSION:
        return _session(machine, plan, repeats, cool_down_laps)
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
    if plan.kind == Kind.DESCENT:
        return records.DescentDuty(
            kind="descent",
            grade=plan.grade,
            speed_mps=plan.speed_mps,
            duration_s=plan.duration_s,
            then_s=plan.then_s,
            then_speed_mps=plan.then_speed_mps,
        )
    if plan.kind == Kind.SECTIONS:
        return descent_in_sections(
            plan.sections,
            vehicle_record(machine, plan.conditions),
            trailer_record(machine, plan.conditions),
            then_s=plan.then_s,
            then_speed_mps=plan.then_speed_mps,
        )
    if plan.kind == Kind.WEEK:
        assert plan.week is not None
        return with_soak(driving_day(plan.week), plan.then_s)
    if plan.kind == Kind.RECORDED:
        if plan.trace is None:
            raise FieldError("run_id", None, "a recorded run")
        return plan.trace
    if plan.kind == Kind.DAY:
        parts = []
        for index, part in enumerate(plan.parts):
            with under(f"parts[{index}]"):
                if part.plan.kind == Kind.DAY:
                    raise FieldError("duty_id", "a day", "a duty that is not a day itself")
                # The day's own air, ducts and trailer hold for all of it.
                inner = facts_of(machine, dataclasses.replace(part.plan, conditions=plan.conditions))
                parts.append(Part(duty=inner.duty, times=part.times, gap_s=part.gap_s))
        return combined(parts)
    series = records.StopsDuty(kind="stops", stops=plan.stops, repeat=repeats or plan.repeat)
    return with_soak(series, plan.then_s)


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


def _session(machine: models.Machine, plan: Plan, repeats: int | None, cool_down_laps: int | None) -> DutyFacts:
    laps = repeats or plan.laps
    cool_down = plan.cool_down_laps if cool_down_laps is None else cool_down_laps
    lap = _driven(
        plan.elements,
        vehicle_record(machine, plan.conditions),
        powertrain_record(machine),
        plan.driver_level,
        environment_record(machine, plan.conditions),
        plan.closed,
    )
    return DutyFacts(
        duty=_repeated(lap, laps, cool_down, plan.then_s, plan.pause_s, plan.traffic),
        event_km=plan.event_km,
        event_hours=laps * lap.duration_s / 3600.0,
        lap_km=lap.length_m / 1000.0,
        lap_s=lap.duration_s,
        conditions=plan.conditions,
    )


def lap_of(machine: models.Machine, duty: models.Duty) -> records.TraceDuty | None:
    """One lap of a duty's circuit as this machine drives it alone, without its trailer; None where it is not laps."""
    plan = typed_plan_of(duty)
    if plan.kind != Kind.SESSION or not plan.closed:
        return None
    alone = dataclasses.replace(plan.conditions, without_trailer=True)
    lap = _driven(
        plan.elements,
        vehicle_record(machine, alone),
        powertrain_record(machine),
        plan.driver_level,
        environment_record(machine, alone),
        plan.closed,
    )
    return records.TraceDuty(kind="trace", t_s=tuple(lap.t_s.tolist()), v_mps=tuple(lap.v_mps.tolist()))


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
    fields: dict[str, Any],
    circuit: models.Circuit | None,
    run: models.RecordedRun | None,
    parts: list[tuple[models.Duty, int, float]],
) -> Plan:
    """The plan of a duty that is not stored (yet), from its fields by the names of `Plan`; FieldError names one."""
    kind = fields["kind"]
    needed = {Kind.SESSION: ("circuit_id", circuit), Kind.RECORDED: ("run_id", run), Kind.DAY: ("parts", parts or None)}
    name, found = needed.get(kind, ("", True))
    if found is None:
        raise FieldError(name, None, f"given for a duty of kind {kind}")
    with under("conditions"):
        conditions = _conditions_from(fields["conditions"])
    kept = {name: fields[name] for name in PLAIN}
    week = None
    if kind == Kind.WEEK:
        with under("week"):
            week = Week(**(fields["week"] or {"town_km": 0.0, "rural_km": 0.0, "motorway_km": 0.0}))
    return Plan(
        **kept,
        conditions=conditions,
        elements=elements_of(circuit),
        closed=bool(circuit and circuit.closed),
        sections=_each("sections", Section, fields["sections"]) if kind == Kind.SECTIONS else (),
        stops=_each("stops", records.Stop, fields["stops"]) if kind == Kind.STOPS else (),
        week=week,
        trace=trace_of(run.trace) if run and kind == Kind.RECORDED else None,
        parts=tuple(PlanPart(plan=_driven_plan_of(row), times=times, gap_s=gap_s) for row, times, gap_s in parts)
        if kind == Kind.DAY
        else (),
    )


def _conditions_from(fields: dict[str, Any]) -> Conditions:
    duct, air = fields["duct_factor"], fields["air_C"]
    if not 0.1 <= duct <= 10:
        raise FieldError.outside("duct_factor", duct, Bounds(least=0.1, most=10))
    if air is not None and not -60 <= air <= 70:
        raise FieldError.outside("air_C", air, Bounds(least=-60, most=70), " or null")
    return Conditions(**fields)


def _each(name: str, record: type[Any], rows: list[dict[str, Any]]) -> tuple[Any, ...]:
    found = []
    for index, row in enumerate(rows):
        with under(f"{name}[{index}]"):
            found.append(record(**row))
    return tuple(found)


def checked_elements(rows: list[dict[str, Any]]) -> tuple[Element, ...]:
    """Straights and corners from their fields; FieldError names the one that cannot be."""
    return _each("elements", Element, rows)
