"""What is tried and not kept: a machine and its duty with a few things different, from ducts to a lower gear."""

from __future__ import annotations

import copy
import dataclasses
from dataclasses import dataclass

from thermaxis.apps.catalogue.mapping import boiling_C
from thermaxis.apps.fitted.standing import Standing
from thermaxis.apps.garage import duty_mapping as duties
from thermaxis.apps.garage.mapping import trailer_record, vehicle_record
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.garage.shapes import Descent, Plan, Sections, Session, Stops
from thermaxis.apps.solving.mapping import with_what_if
from thermaxis.core.errors import FieldError
from thermaxis.core.planning.duty.duties import GEARS, grade_in_gear
from thermaxis.core.planning.duty.lap import DRIVER_LEVELS
from thermaxis.core.planning.verdict.readings import Setup


@dataclass(frozen=True, kw_only=True)
class WhatIf:
    """Changes that are tried: factors multiply, None leaves what there is.

    `repeats` is laps of a session or rounds of a series; `gear` counts from the usual one of the descent;
    `grade_factor` and `length_factor` make a descent steeper and longer; of `trailer_brake_share` nothing is left
    where the trailer's brakes have failed.
    """

    cooling_factor: float = 1.0
    air_C: float | None = None
    extra_mass_kg: float = 0.0
    driver_level: str | None = None
    repeats: int | None = None
    speed_factor: float = 1.0
    gear: str | None = None
    fluid_age_months: float | None = None
    trailer_brake_share: float | None = None
    grade_factor: float = 1.0
    length_factor: float = 1.0

    @property
    def drives(self) -> bool:
        """Whether the duty has to be driven again: cooling, air and fluid leave the speed trace as it is."""
        factors = (self.speed_factor, self.grade_factor, self.length_factor)
        other = self.extra_mass_kg or self.driver_level or self.repeats or self.gear
        return bool(other) or self.trailer_brake_share is not None or factors != (1.0, 1.0, 1.0)


NOTHING = WhatIf()


@dataclass(frozen=True, kw_only=True)
class Levers:
    """What can be tried on a machine's duty, with what holds now; None or empty where its duty has no such thing."""

    air_C: float
    mass_kg: float
    fluid_age_months: float
    driver_level: str | None
    driver_levels: tuple[str, ...]
    repeats: int | None
    noun: str
    speed_mps: float | None
    gears: tuple[str, ...]
    grade: float | None
    length_m: float | None
    trailer_brake_share: float | None


def levers_of(standing: Standing, plan: Plan) -> Levers:
    """The levers of a machine on a duty."""
    machine = standing.machine
    air, shape = plan.conditions.air_C, plan.shape
    speed = grade = length = None
    if isinstance(shape, Sections) and shape.sections:
        speed = max(part.speed_mps for part in shape.sections)
        length = sum(part.length_m for part in shape.sections)
        grade = sum(part.grade * part.length_m for part in shape.sections) / length
    elif isinstance(shape, Descent):
        speed, length, grade = shape.speed_mps, shape.length_m, shape.grade
    trailer = trailer_record(machine, plan.conditions)
    laps = shape if isinstance(shape, Session) else None
    return Levers(
        air_C=machine.air_C if air is None else air,
        mass_kg=machine.mass_kg,
        fluid_age_months=standing.fluid_months,
        driver_level=laps.driver_level if laps else None,
        driver_levels=tuple(DRIVER_LEVELS) if laps else (),
        repeats=laps.laps if laps else shape.repeat if isinstance(shape, Stops) else None,
        noun=("lap" if laps.closed else "run") if laps else "round",
        speed_mps=speed,
        gears=tuple(GEARS) if speed is not None and machine.engine_braking_N > 0 else (),
        grade=grade,
        length_m=length,
        trailer_brake_share=trailer.brake_share if trailer else None,
    )


def changed(standing: Standing, plan: Plan, what_if: WhatIf) -> tuple[Machine, Plan]:
    """The machine and its plan as they would be, in memory only. FieldError for a lever the duty has not."""
    levers = levers_of(standing, plan)
    for name, there in (("driver_level", levers.driver_levels), ("repeats", levers.repeats), ("gear", levers.gears)):
        if getattr(what_if, name) is not None and not there:
            raise FieldError(name, getattr(what_if, name), f"null: this duty ({plan.kind}) has none to change")
    for name, what in (("speed_factor", "speed"), ("grade_factor", "slope"), ("length_factor", "length")):
        if getattr(what_if, name) != 1.0 and levers.speed_mps is None:
            raise FieldError(name, getattr(what_if, name), f"1: only a descent has a {what} to change")
    if what_if.trailer_brake_share is not None and levers.trailer_brake_share is None:
        raise FieldError("trailer_brake_share", what_if.trailer_brake_share, "null: no trailer is pulled on this duty")
    other = copy.copy(standing.machine)
    other.mass_kg += what_if.extra_mass_kg
    if what_if.trailer_brake_share is not None:
        other.trailer_brake_share = what_if.trailer_brake_share
    if isinstance(plan.shape, Session):
        level = what_if.driver_level or plan.shape.driver_level
        return other, plan.shaped(driver_level=level, laps=what_if.repeats or plan.shape.laps)
    if isinstance(plan.shape, Stops):
        return other, plan.shaped(repeat=what_if.repeats or plan.shape.repeat)
    return other, _down(other, plan, what_if)


def _down(machine: Machine, plan: Plan, what_if: WhatIf) -> Plan:
    """A descent at another speed or in another gear, steeper or longer; at another speed it stays as long as it is."""
    shape = plan.shape
    if isinstance(shape, Sections):
        return plan.shaped(
            sections=tuple(
                dataclasses.replace(
                    part,
                    length_m=part.length_m * what_if.length_factor,
                    grade=part.grade * what_if.grade_factor,
                    speed_mps=part.speed_mps * what_if.speed_factor,
                    gear=what_if.gear or part.gear,
                )
                for part in shape.sections
            )
        )
    if not isinstance(shape, Descent):
        return plan
    vehicle, trailer = vehicle_record(machine, plan.conditions), trailer_record(machine, plan.conditions)
    return plan.shaped(
        speed_mps=shape.speed_mps * what_if.speed_factor,
        duration_s=shape.duration_s * what_if.length_factor / what_if.speed_factor,
        # On a gentle slope the engine holds it all, and would slow it down: then nothing is left to the brakes.
        grade=max(0.0, -grade_in_gear(-shape.grade * what_if.grade_factor, what_if.gear or "usual", vehicle, trailer)),
    )


def setup_under(setup: Setup, what_if: WhatIf, standing: Standing, facts: duties.DutyFacts) -> Setup:
    """One setup under a what-if; `facts` are those of `changed`, driven."""
    case = with_what_if(setup.case, what_if.cooling_factor, what_if.air_C)
    vehicle = case.vehicle
    if what_if.extra_mass_kg:
        vehicle = dataclasses.replace(vehicle, mass_kg=vehicle.mass_kg + what_if.extra_mass_kg)
    trailer = case.trailer
    if what_if.trailer_brake_share is not None and trailer is not None:
        trailer = dataclasses.replace(trailer, brake_share=what_if.trailer_brake_share)
    boils = setup.boiling_C
    if what_if.fluid_age_months is not None:
        boils = boiling_C(standing.fill.fluid, what_if.fluid_age_months, case.environment.pressure_Pa)
    case = dataclasses.replace(case, vehicle=vehicle, trailer=trailer, duty=facts.duty)
    return dataclasses.replace(setup, case=case, boiling_C=boils)
