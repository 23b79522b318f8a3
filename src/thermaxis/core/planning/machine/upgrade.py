"""What another part does to a machine: two set-ups side by side, and the usual mistakes by name."""

from __future__ import annotations

import dataclasses
import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, TypeVar

from thermaxis.core.errors import FieldError
from thermaxis.core.messages import machine as said
from thermaxis.core.physics.balance import (
    LockUp,
    axle_road_forces,
    lock_up,
    pushed_weight,
    rear_lift_g,
    road_forces_per_pressure,
)
from thermaxis.core.physics.chain import chain
from thermaxis.core.physics.friction import friction_coefficient
from thermaxis.core.physics.hydraulics import line_pressure, pedal_force, pressure_for_force
from thermaxis.core.physics.resistance import GRAVITY
from thermaxis.core.physics.torque import brake_torque
from thermaxis.core.records import Axle, Case
from thermaxis.core.results import Remark
from thermaxis.core.said import Said

WET_SHARE = 0.6
"""Grip on a wet road over that on a dry one (estimate: 0.5 to 0.7, Gillespie 1992, ch. 3)."""
WANTED_G = 0.8
LONG_PEDAL_M = 0.07
TIGHT_M = 0.003


def wet(case: Case) -> Case:
    """The machine on a wet road: its tyre grip times `WET_SHARE`, all else as it is; a case record."""
    vehicle = dataclasses.replace(case.vehicle, tyre_grip=case.vehicle.tyre_grip * WET_SHARE)
    return dataclasses.replace(case, vehicle=vehicle)


def as_hot(case: Case, front_C: float, rear_C: float) -> Case:
    """The machine with the friction its pads have at these ring temperatures in degC, whatever is asked of it."""

    def at(axle: Axle, ring_C: float) -> Axle:
        return dataclasses.replace(
            axle, pad=dataclasses.replace(axle.pad, mu=((0.0, friction_coefficient(ring_C, axle.pad.mu)),))
        )

    return dataclasses.replace(case, front=at(case.front, front_C), rear=at(case.rear, rear_C))


@dataclass(frozen=True, kw_only=True)
class Room:
    """Inside of the wheel, and how far the caliper stands out beyond the rotor's edge, in m; None = not known."""

    rim_radius_m: float | None
    caliper_reach_m: float | None

    def left(self, axle: Axle) -> float | None:
        """Clearance in m between caliper and wheel."""
        if self.rim_radius_m is None or self.caliper_reach_m is None:
            return None
        return self.rim_radius_m - axle.rotor.outer_radius_m - self.caliper_reach_m


@dataclass(frozen=True, kw_only=True)
class SetupFigures:
    """What one set-up of a machine gives; pedal force is None where no allowed force gives `WANTED_G`."""

    front_torque_Nm: float
    rear_torque_Nm: float
    decel_g: float
    front_share: float
    pedal_for_wanted_N: float | None
    fluid_m3: float
    pedal_travel_m: float
    dry: LockUp
    wet: LockUp
    front_room_m: float | None
    rear_room_m: float | None


def setup_figures(case: Case, pedal_force_N: float, rotor_C: float, front: Room, rear: Room) -> SetupFigures:
    """Torque, balance, pedal and room of one set-up at a pedal force in N and a rotor temperature in degC."""
    link = chain(case, pedal_force_N)
    pressure = link.front_pressure_Pa

    def torque(axle: Axle, at_Pa: float) -> float:
        return brake_torque(friction_coefficient(rotor_C, axle.pad.mu), at_Pa, axle)

    forces = axle_road_forces(case, pressure, rotor_C)
    total = max(1e-9, sum(forces))
    return SetupFigures(
        front_torque_Nm=torque(case.front, pressure),
        rear_torque_Nm=torque(case.rear, link.rear_pressure_Pa),
        decel_g=sum(forces) / pushed_weight(case),
        front_share=forces[0] / total,
        pedal_for_wanted_N=pedal_for(case, WANTED_G, rotor_C),
        fluid_m3=link.fluid_m3,
        pedal_travel_m=link.pedal_travel_m,
        dry=lock_up(case, rotor_C),
        wet=lock_up(wet(case), rotor_C),
        front_room_m=front.left(case.front),
        rear_room_m=rear.left(case.rear),
    )


def pedal_for(case: Case, decel_g: float, rotor_C: float) -> float | None:
    """Pedal force in N for a deceleration in g with cool brakes at `rotor_C`; None beyond the greatest.

    Brake force alone, as in `balance.statics`: drag and engine would help, tyres may lock first.
    """
    hydraulics = case.hydraulics
    wanted = decel_g * pushed_weight(case)
    knee = math.inf if hydraulics.rear_knee_Pa is None else hydraulics.rear_knee_Pa
    front, rear = road_forces_per_pressure(case, rotor_C)
    pressure = pressure_for_force(wanted, front, rear, knee, hydraulics.rear_slope)
    if pressure > line_pressure(hydraulics.max_pedal_force_N, hydraulics):
        return None
    return pedal_force(pressure, hydraulics)


def balance_warnings(case: Case, rotor_C: float, hot_front_C: float | None, hot_rear_C: float | None) -> list[Remark]:
    """Say in words what the balance diagram shows: which axle locks first, dry, wet and hot; lift; a pedal too weak.

    Hot temperatures in degC are the duty's peaks; None leaves fade out. Returns remark records, gravest first.
    """
    found: list[Remark] = []
    dry, rain = lock_up(case, rotor_C), lock_up(wet(case), rotor_C)
    rider = case.vehicle.rider_front_share is not None
    for road, lock in (("dry", dry), ("wet", rain)):
        if lock.first_axle == "rear":
            text = (said.REAR_FIRST_RIDER if rider else said.REAR_FIRST)(at=lock.decel_g * GRAVITY, road=road)
            found.append(Remark(code=f"rear_first_{road}", text=text))
    lift = rear_lift_g(case)
    if lift < case.vehicle.tyre_grip:
        text = said.LIFT(lift=lift * GRAVITY, grip=case.vehicle.tyre_grip * GRAVITY)
        found.append(Remark(code="lift", text=text))
    if dry.first_axle == "none":
        text = said.WEAK(given=dry.decel_g * GRAVITY, possible=dry.best_possible_g * GRAVITY)
        found.append(Remark(code="weak", text=text))
    if hot_front_C is not None and hot_rear_C is not None:
        found += _hot(case, rotor_C, hot_front_C, hot_rear_C, dry)
    return found


def _hot(case: Case, rotor_C: float, front_C: float, rear_C: float, dry: LockUp) -> list[Remark]:
    faded = as_hot(case, front_C, rear_C)
    greatest = line_pressure(case.hydraulics.max_pedal_force_N, case.hydraulics)
    cool_N, hot_N = sum(axle_road_forces(case, greatest, rotor_C)), sum(axle_road_forces(faded, greatest, rotor_C))
    found = []
    lost = 1.0 - hot_N / cool_N
    if lost > 0.05:
        found.append(Remark(code="fade", text=said.FADE(front=front_C, rear=rear_C, lost=lost)))
    lock = lock_up(faded, rotor_C)
    if lock.first_axle == "rear" and dry.first_axle != "rear":
        found.append(Remark(code="rear_first_hot", text=said.REAR_FIRST_HOT(at=lock.decel_g * GRAVITY)))
    return found


def differences(before: SetupFigures, after: SetupFigures, rider: bool) -> list[Remark]:
    """Name what the change of parts does and the usual mistakes in it, as remark records, gravest first."""
    found: list[Remark] = []

    def say(code: str, text: Said) -> None:
        found.append(Remark(code=code, text=text))

    for axle in ("front", "rear"):
        room = getattr(after, f"{axle}_room_m")
        if room is not None and room < 0:
            say("does_not_fit", said.CALIPER_TOO_BIG(axle=axle, over=-room))
        elif room is not None and room < TIGHT_M:
            say("tight", said.TIGHT(room=room, axle=axle))
    if after.dry.first_axle == "rear" and before.dry.first_axle != "rear" and not rider:
        say("rear_first", said.NOW_REAR_FIRST(at=after.dry.decel_g * GRAVITY))
    if after.pedal_for_wanted_N is None and before.pedal_for_wanted_N is not None:
        say("weak", said.NOW_WEAK(wanted=WANTED_G * GRAVITY))
    moved = after.front_share - before.front_share
    if abs(moved) >= 0.005:
        say("balance", _balance(before, after, moved))
    if after.pedal_travel_m > LONG_PEDAL_M and after.pedal_travel_m > 1.02 * before.pedal_travel_m:
        say("long", said.LONG_PEDAL(travel=after.pedal_travel_m))
    elif after.pedal_travel_m > 1.02 * before.pedal_travel_m:
        say("longer", said.LONGER_PEDAL(more=after.pedal_travel_m / before.pedal_travel_m - 1))
    elif after.pedal_travel_m < 0.98 * before.pedal_travel_m:
        say("shorter", said.SHORTER_PEDAL(less=1 - after.pedal_travel_m / before.pedal_travel_m))
    if after.decel_g > 1.02 * before.decel_g and before.dry.first_axle != "none":
        say("grip", said.GRIP())
    return found


def _balance(before: SetupFigures, after: SetupFigures, moved: float) -> Said:
    """Where the balance moves, and what that does to the best stop without a locked wheel."""
    moves = {"moved": abs(moved), "way": "forward" if moved > 0 else "to the rear"}
    gained = after.dry.decel_g - before.dry.decel_g
    if "none" in (before.dry.first_axle, after.dry.first_axle) or abs(gained) < 0.005:
        return said.BALANCE_MOVES(**moves)
    return said.BALANCE_MOVES_LOCK(
        when="later" if gained > 0 else "earlier",
        after=after.dry.decel_g * GRAVITY,
        before=before.dry.decel_g * GRAVITY,
        **moves,
    )


Record = TypeVar("Record")


def changed(record: Record, changes: Mapping[str, float | None]) -> Record:
    """The record with numbers replaced by their dotted paths, all at once; FieldError names the one that cannot be."""
    here: dict[str, Any] = {}
    below: dict[str, dict[str, float | None]] = {}
    for path, value in changes.items():
        head, _, rest = path.partition(".")
        if not dataclasses.is_dataclass(record) or head not in {field.name for field in dataclasses.fields(record)}:
            raise FieldError(path, value, "a number of the case format")
        if rest:
            below.setdefault(head, {})[rest] = value
        else:
            here[head] = value
    for head, inner in below.items():
        if getattr(record, head) is None:
            raise FieldError(head, None, "part of the machine before its numbers can change")
        try:
            here[head] = changed(getattr(record, head), inner)
        except FieldError as error:
            raise error.under(head) from None
    return dataclasses.replace(record, **here)  # type: ignore[type-var]
