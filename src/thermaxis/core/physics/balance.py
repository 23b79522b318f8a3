"""Axle loads, brake balance and which axle locks first."""

from __future__ import annotations

import dataclasses
import math
from dataclasses import dataclass
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.physics.convection import GAS_CONSTANT, KELVIN
from thermaxis.core.physics.friction import friction_coefficient
from thermaxis.core.physics.hydraulics import line_pressure, rear_pressure
from thermaxis.core.physics.partition import rotor_heat_share
from thermaxis.core.physics.resistance import GRAVITY
from thermaxis.core.physics.torque import brake_torque
from thermaxis.core.records import Case, Hydraulics, Statics, Vehicle
from thermaxis.core.results import StaticsResult

Array = NDArray[np.float64]
LOCK_STEPS = 1200


Load = TypeVar("Load", float, Array)


def axle_loads(vehicle: Vehicle, decel_g: Load, speed_mps: float = 0.0, air_density: float = 1.2) -> tuple[Load, Load]:
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

    Braking harder would turn the vehicle over its front wheel (physics.md section 3).
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


def road_forces_per_pressure(case: Case, rotor_C: float) -> tuple[float, float]:
    """Road force of the front and the rear axle in N per Pa of its own line pressure, whatever the rear valve does."""
    return axle_road_forces(dataclasses.replace(case, hydraulics=_open_valve(case.hydraulics)), 1.0, rotor_C)


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
        front_heat_share=rotor_heat_share(case.front.rotor, case.front.pad, case.front.pad_heat_factor),
        rear_heat_share=rotor_heat_share(case.rear.rotor, case.rear.pad, case.rear.pad_heat_factor),
    )


@dataclass(frozen=True, kw_only=True)
class LockUp:
    """Which axle reaches the tyre's grip first as the pedal goes down, and at which deceleration."""

    first_axle: str
    decel_g: float
    front_lock_g: float | None
    rear_lock_g: float | None
    best_possible_g: float


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

    An axle that does not lock within the greatest pedal force has None. The rear locks also where its load falls to
    zero (lift). Best possible = the grip, or rear lift where that comes first. Resolved to 1/1200 of the pressure.
    """
    vehicle = case.vehicle
    grip = vehicle.tyre_grip
    density = case.environment.pressure_Pa / (GAS_CONSTANT * (case.environment.air_C + KELVIN))
    forces = _installed_line(case, rotor_C, LOCK_STEPS)
    decel = (forces[0] + forces[1]) / (vehicle.mass_kg * GRAVITY)
    locks: list[float | None] = []
    for force, load in zip(forces, axle_loads(vehicle, decel, speed_mps, density), strict=True):
        reached = np.flatnonzero((force >= grip * np.maximum(load, 0.0)) & (force > 0))
        locks.append(float(decel[reached[0]]) if len(reached) else None)
    front, rear = locks
    best = min(grip, rear_lift_g(vehicle))
    if front is None and rear is None:
        first, at = "none", float(decel[-1])
    elif front is None or (rear is not None and rear <= front):
        first, at = "rear", float(rear or 0.0)
    else:
        first, at = "front", front
    return LockUp(first_axle=first, decel_g=at, front_lock_g=front, rear_lock_g=rear, best_possible_g=best)


def _installed_line(case: Case, rotor_C: float, steps: int) -> tuple[Array, Array]:
    """Front and rear road force in N from no pressure to that of the greatest pedal force.

    Separate circuits (a rider): the total rises at the rider's share until one circuit runs out of pressure.
    """
    greatest = line_pressure(case.hydraulics.max_pedal_force_N, case.hydraulics)
    share = case.vehicle.rider_front_share
    if share is not None:
        front, rear = axle_road_forces(case, greatest, rotor_C)
        total = min(front / share if share > 0 else math.inf, rear / (1.0 - share) if share < 1 else math.inf)
        rising = np.linspace(0.0, total, steps + 1)
        return share * rising, (1.0 - share) * rising
    pressure = np.linspace(0.0, greatest, steps + 1)
    knee = math.inf if case.hydraulics.rear_knee_Pa is None else case.hydraulics.rear_knee_Pa
    per_pascal = road_forces_per_pressure(case, rotor_C)
    behind = np.minimum(pressure, knee) + case.hydraulics.rear_slope * np.maximum(pressure - knee, 0.0)
    return per_pascal[0] * pressure, per_pascal[1] * behind


def _open_valve(hydraulics: Hydraulics) -> Hydraulics:
    return dataclasses.replace(hydraulics, rear_knee_Pa=None)


def balance_curve(case: Case, rotor_C: float, points: int = 41) -> tuple[BalancePoint, ...]:
    """The installed line and the ideal distribution from no braking to the greatest pedal force.

    Ideal: each axle's force in proportion to its dynamic load, `F_i/W = z N_i/W` (Limpert 1999, ch. 7).
    """
    weight = case.vehicle.mass_kg * GRAVITY
    curve = []
    for front, rear in zip(*_installed_line(case, rotor_C, points - 1), strict=True):
        decel = float(front + rear) / weight
        front_load, rear_load = axle_loads(case.vehicle, decel)
        curve.append(
            BalancePoint(
                decel_g=decel,
                front_installed=float(front) / weight,
                rear_installed=float(rear) / weight,
                front_ideal=decel * front_load / weight,
                rear_ideal=decel * max(rear_load, 0.0) / weight,
            )
        )
    return tuple(curve)
