"""Axle loads, brake balance and which axle locks first."""

from __future__ import annotations

import math
from dataclasses import dataclass

from thermaxis.core.physics.convection import GAS_CONSTANT, KELVIN
from thermaxis.core.physics.friction import friction_coefficient
from thermaxis.core.physics.hydraulics import line_pressure, rear_pressure
from thermaxis.core.physics.partition import rotor_heat_share
from thermaxis.core.physics.resistance import GRAVITY
from thermaxis.core.physics.torque import brake_torque
from thermaxis.core.records import Case, Statics, Vehicle
from thermaxis.core.results import StaticsResult


def axle_loads(vehicle: Vehicle, decel_g: float, speed_mps: float = 0.0, air_density: float = 1.2) -> tuple[float, float]:
    """Front and rear axle load in N at a deceleration in g (Limpert 1999, ch. 7; physics.md section 3).

    `N_f = m g phi + m g z h/L + 0.5 rho Cl_f A v^2`, rear with the signs turned. Negative rear load = lifted.
    """
    weight = vehicle.mass_kg * GRAVITY
    transfer = weight * decel_g * vehicle.cg_height_m / vehicle.wheelbase_m
    dynamic = 0.5 * air_density * speed_mps**2
    front = weight * vehicle.front_fraction + transfer + dynamic * vehicle.front_lift_area_m2
    rear = weight * (1.0 - vehicle.front_fraction) - transfer + dynamic * vehicle.rear_lift_area_m2
    return front, rear


def rear_lift_g(vehicle: Vehicle) -> float:
    """Deceleration in g at which the rear wheel leaves the ground, `(1 - phi) L/h`.

    >>> vehicle = None  # for 60 % front on a 2.5 m wheelbase with h = 0.5 m: 0.4 * 2.5 / 0.5
    >>> 0.4 * 2.5 / 0.5
    2.0
    """
    return (1.0 - vehicle.front_fraction) * vehicle.wheelbase_m / vehicle.cg_height_m


def axle_road_forces(case: Case, pressure_Pa: float, rotor_C: float) -> tuple[float, float]:
    """Road force in N of the front and the rear axle at one front line pressure and rotor temperature."""
    front, rear = _torques(case, pressure_Pa, rotor_C)
    vehicle = case.vehicle
    return (
        front * case.front.rotors / vehicle.wheel_radius_front_m,
        rear * case.rear.rotors / vehicle.wheel_radius_rear_m,
    )


def _torques(case: Case, pressure_Pa: float, rotor_C: float) -> tuple[float, float]:
    hydraulics = case.hydraulics
    knee = math.inf if hydraulics.rear_knee_Pa is None else hydraulics.rear_knee_Pa
    behind = rear_pressure(pressure_Pa, knee, hydraulics.rear_slope)
    front = brake_torque(friction_coefficient(rotor_C, case.front.pad.mu), pressure_Pa, case.front)
    rear = brake_torque(friction_coefficient(rotor_C, case.rear.pad.mu), behind, case.rear)
    return front, rear


def statics(case: Case, question: Statics) -> StaticsResult:
    """Answer 'what does this pedal force give': pressure, torques, forces, deceleration and adhesion used.

    Deceleration is brake force over the vehicle's own weight; the trailer's push and nose load are not in it.
    """
    pressure = line_pressure(question.pedal_force_N, case.hydraulics)
    front_torque, rear_torque = _torques(case, pressure, question.rotor_C)
    front_force, rear_force = axle_road_forces(case, pressure, question.rotor_C)
    decel = (front_force + rear_force) / (case.vehicle.mass_kg * GRAVITY)
    front_load, rear_load = axle_loads(case.vehicle, decel)
    return StaticsResult(
        pressure_Pa=pressure,
        front_torque_Nm=front_torque,
        rear_torque_Nm=rear_torque,
        front_force_N=front_force,
        rear_force_N=rear_force,
        decel_g=decel,
        front_adhesion=front_force / front_load,
        rear_adhesion=rear_force / rear_load,
        rear_lift_g=rear_lift_g(case.vehicle),
        front_heat_share=rotor_heat_share(case.front.rotor, case.front.pad),
        rear_heat_share=rotor_heat_share(case.rear.rotor, case.rear.pad),
    )


@dataclass(frozen=True, kw_only=True)
class LockUp:
    """Which axle reaches the tyre's grip first as the pedal goes down, and at which deceleration."""

    first_axle: str
    decel_g: float
    front_lock_g: float | None
    rear_lock_g: float | None
    best_possible_g: float
    pedal_limited: bool


@dataclass(frozen=True, kw_only=True)
class BalancePoint:
    """One point of the balance diagram: axle forces over weight, installed at a pressure and ideal at its sum."""

    decel_g: float
    front_installed: float
    rear_installed: float
    front_ideal: float
    rear_ideal: float


def lock_up(case: Case, rotor_C: float, speed_mps: float = 0.0) -> LockUp:
    """Find the deceleration at which each axle reaches `tyre_grip`, raising the pressure along the installed line.

    Both circuits share the pressure. An axle that does not lock within the greatest pedal force has None. The rear
    locks also where its load falls to zero (lift). Best possible = the grip, or rear lift where that comes first.
    """
    vehicle = case.vehicle
    grip = vehicle.tyre_grip
    density = case.environment.pressure_Pa / (GAS_CONSTANT * (case.environment.air_C + KELVIN))
    greatest = line_pressure(case.hydraulics.max_pedal_force_N, case.hydraulics)
    locks: list[float | None] = [None, None]
    weight = vehicle.mass_kg * GRAVITY
    share = vehicle.rider_front_share
    for step in range(1, 1201):
        pressure = greatest * step / 1200.0
        forces = axle_road_forces(case, pressure, rotor_C)
        if share is not None:
            # Separate circuits: the rider presses the front until it gives its share, the rear with the rest.
            forces = _rider_forces(forces, share)
        decel = sum(forces) / weight
        for index, (force, load) in enumerate(
            zip(forces, axle_loads(vehicle, decel, speed_mps, density), strict=True)
        ):
            if locks[index] is None and force >= grip * max(load, 0.0) and force > 0:
                locks[index] = decel
        if None not in locks:
            break
    front, rear = locks
    best = min(grip, rear_lift_g(vehicle))
    if front is None and rear is None:
        return LockUp(
            first_axle="none", decel_g=decel, front_lock_g=None, rear_lock_g=None, best_possible_g=best,
            pedal_limited=True,
        )  # fmt: skip
    rear_first = front is None or (rear is not None and rear <= front)
    first = rear if rear_first else front
    return LockUp(
        first_axle="rear" if rear_first else "front", decel_g=float(first or 0.0), front_lock_g=front,
        rear_lock_g=rear, best_possible_g=best, pedal_limited=False,
    )  # fmt: skip


def _rider_forces(forces: tuple[float, float], share: float) -> tuple[float, float]:
    """Forces of two circuits at the rider's share, the total limited by whichever circuit runs out first."""
    front_total = forces[0] / share if share > 0 else math.inf
    rear_total = forces[1] / (1.0 - share) if share < 1 else math.inf
    total = min(front_total, rear_total)
    return share * total, (1.0 - share) * total


def balance_curve(case: Case, rotor_C: float, points: int = 41) -> tuple[BalancePoint, ...]:
    """The installed line and the ideal distribution from no braking to the greatest pedal force.

    Ideal: each axle's force in proportion to its dynamic load, `F_i/W = z N_i/W` (Limpert 1999, ch. 7).
    """
    vehicle = case.vehicle
    weight = vehicle.mass_kg * GRAVITY
    greatest = line_pressure(case.hydraulics.max_pedal_force_N, case.hydraulics)
    curve = []
    for step in range(points):
        forces = axle_road_forces(case, greatest * step / (points - 1), rotor_C)
        if vehicle.rider_front_share is not None:
            forces = _rider_forces(forces, vehicle.rider_front_share)
        decel = sum(forces) / weight
        front_load, rear_load = axle_loads(vehicle, decel)
        curve.append(
            BalancePoint(
                decel_g=decel, front_installed=forces[0] / weight, rear_installed=forces[1] / weight,
                front_ideal=decel * front_load / weight, rear_ideal=decel * max(rear_load, 0.0) / weight,
            )  # fmt: skip
        )
    return tuple(curve)
