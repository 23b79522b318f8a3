"""Axle loads, brake balance and which axle locks first."""

from __future__ import annotations

import dataclasses
import math
from dataclasses import dataclass
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.physics.convection import KELVIN, air_density
from thermaxis.core.physics.friction import friction_coefficient
from thermaxis.core.physics.hydraulics import line_pressure, rear_pressure
from thermaxis.core.physics.partition import rotor_heat_share
from thermaxis.core.physics.resistance import GRAVITY
from thermaxis.core.physics.torque import brake_torque
from thermaxis.core.records import Case, Hydraulics, Statics
from thermaxis.core.results import StaticsResult

Array = NDArray[np.float64]
LOCK_STEPS = 1200


Load = TypeVar("Load", float, Array)


def axle_loads(case: Case, decel_g: Load, speed_mps: float = 0.0) -> tuple[Load, Load]:
    """Front and rear axle load in N on the flat at a deceleration in g (Limpert 1999, ch. 7; physics.md section 3).

    `N_f = m g phi + m g z h/L + F_t h_h/L - W_n b/L + 0.5 rho Cl_f A v^2`, `N_r` with the signs turned and
    `W_n (1 + b/L)`, `F_t = (1 - s_t) m_t g z`. Where `N_r` would be negative it is 0 and `N_f` carries both. The
    engine's own, for one instant on any slope, is `grip.dynamic_loads`.

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> front, rear = axle_loads(small_case(), 0.8)
    >>> round(front), round(rear)
    (8267, 2520)
    """
    vehicle, trailer, length = case.vehicle, case.trailer, case.vehicle.wheelbase_m
    weight = vehicle.mass_kg * GRAVITY
    moved = weight * decel_g * vehicle.cg_height_m / length
    on_front = on_rear = 0.0
    if trailer is not None:
        moved = moved + trailer.pushed_mass_kg * GRAVITY * decel_g * trailer.hitch_height_m / length
        on_front = -trailer.nose_load_N * trailer.hitch_overhang_m / length
        on_rear = trailer.nose_load_N - on_front
    dynamic = 0.5 * _density(case) * speed_mps**2
    front = weight * vehicle.front_fraction + moved + on_front + dynamic * vehicle.front_lift_area_m2
    rear = weight * (1.0 - vehicle.front_fraction) - moved + on_rear + dynamic * vehicle.rear_lift_area_m2
    lifted = np.minimum(rear, 0.0)
    if isinstance(decel_g, float):
        return front + float(lifted), rear - float(lifted)
    return front + lifted, rear - lifted


def _density(case: Case) -> float:
    return air_density(case.environment.air_C + KELVIN, case.environment.pressure_Pa)


def pushed_weight(case: Case) -> float:
    """Weight in N that a brake force slows: the vehicle's and what of the trailer its own brakes do not hold.

    Source: physics.md section 3.
    """
    pushed = case.trailer.pushed_mass_kg if case.trailer is not None else 0.0
    return (case.vehicle.mass_kg + pushed) * GRAVITY


def rear_lift_g(case: Case) -> float:
    """Deceleration in g at which the rear wheels leave the ground, `(m g (1 - phi) L + W_n (L + b))/(m h + m_p h_h)/g`.

    `m_p` what of the trailer pushes; without one `(1 - phi) L/h`. Braking harder would turn a motorcycle over its front
    wheel (physics.md section 3).

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> round(rear_lift_g(small_case()), 2)
    1.92
    """
    vehicle, trailer = case.vehicle, case.trailer
    holding = vehicle.mass_kg * GRAVITY * (1.0 - vehicle.front_fraction) * vehicle.wheelbase_m
    turning = vehicle.mass_kg * vehicle.cg_height_m
    if trailer is not None:
        holding += trailer.nose_load_N * (vehicle.wheelbase_m + trailer.hitch_overhang_m)
        turning += trailer.pushed_mass_kg * trailer.hitch_height_m
    return holding / (turning * GRAVITY)


def best_possible_g(case: Case) -> float:
    """Greatest deceleration in g the tyres allow, both axles at their grip, or rear lift where that comes first.

    Source: physics.md section 3.

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> round(best_possible_g(small_case()), 2)
    0.95
    """
    nose = case.trailer.nose_load_N if case.trailer is not None else 0.0
    held = case.vehicle.tyre_grip * (case.vehicle.mass_kg * GRAVITY + nose)
    return min(held / pushed_weight(case), rear_lift_g(case))


def axle_road_forces(case: Case, pressure_Pa: float, rotor_C: float) -> tuple[float, float]:
    """Road force in N of the front and the rear axle at one front line pressure and rotor temperature.

    Source: physics.md section 3.

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> [round(force) for force in axle_road_forces(small_case(), 5e6, 200.0)]
    [5541, 3989]
    """
    front, rear = _torques(case, pressure_Pa, rotor_C)
    vehicle = case.vehicle
    return (
        front * case.front.rotors / vehicle.wheel_radius_front_m,
        rear * case.rear.rotors / vehicle.wheel_radius_rear_m,
    )


def road_forces_per_pressure(case: Case, rotor_C: float) -> tuple[float, float]:
    """Road force of the front and the rear axle in N per Pa of its own line pressure, whatever the rear valve does.

    Source: physics.md section 3.

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> [round(1e6 * force) for force in road_forces_per_pressure(small_case(), 200.0)]
    [1108, 1108]
    """
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

    Source: physics.md section 3.

    Deceleration is brake force over the weight it slows, that of the trailer its own brakes do not hold included. Rear
    adhesion is None where the rear has no load left.
    """
    pressure = line_pressure(question.pedal_force_N, case.hydraulics)
    front_torque, rear_torque = _torques(case, pressure, question.rotor_C)
    front_force, rear_force = axle_road_forces(case, pressure, question.rotor_C)
    decel = (front_force + rear_force) / pushed_weight(case)
    front_load, rear_load = axle_loads(case, decel)
    return StaticsResult(
        pressure_Pa=pressure,
        front_torque_Nm=front_torque,
        rear_torque_Nm=rear_torque,
        front_force_N=front_force,
        rear_force_N=rear_force,
        decel_g=decel,
        front_adhesion=front_force / front_load,
        rear_adhesion=rear_force / rear_load if rear_load > 0.0 else None,
        rear_lift_g=rear_lift_g(case),
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


@dataclass(frozen=True, kw_only=True)
class BalancePoint:
    """One point of the balance diagram: axle forces over the weight they slow, installed at a pressure and ideal."""

    decel_g: float
    front_installed: float
    rear_installed: float
    front_ideal: float
    rear_ideal: float


def lock_up(case: Case, rotor_C: float, speed_mps: float = 0.0) -> LockUp:
    """Find the deceleration at which each axle reaches `tyre_grip`, raising the pressure along the installed line.

    Source: physics.md section 3.

    An axle that does not lock within the greatest pedal force has None. The rear locks also where its load falls to
    zero (lift). Push and nose load of a trailer are in. Resolved to 1/1200 of the pressure.

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> found = lock_up(small_case(), 200.0)
    >>> found.first_axle, round(found.decel_g, 2)
    ('rear', 0.55)
    """
    grip = case.vehicle.tyre_grip
    forces = _installed_line(case, rotor_C, LOCK_STEPS)
    decel = (forces[0] + forces[1]) / pushed_weight(case)
    locks: list[float | None] = []
    for force, load in zip(forces, axle_loads(case, decel, speed_mps), strict=True):
        reached = np.flatnonzero((force >= grip * load) & (force > 0))
        locks.append(float(decel[reached[0]]) if len(reached) else None)
    front, rear = locks
    best = best_possible_g(case)
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

    Ideal: each axle's force in proportion to its dynamic load, `F_i/W = z N_i/(N_f + N_r)`, a trailer's push and nose
    load in (Limpert 1999, ch. 7).
    """
    weight = pushed_weight(case)
    curve = []
    for front, rear in zip(*_installed_line(case, rotor_C, points - 1), strict=True):
        decel = float(front + rear) / weight
        front_load, rear_load = axle_loads(case, decel)
        curve.append(
            BalancePoint(
                decel_g=decel,
                front_installed=float(front) / weight,
                rear_installed=float(rear) / weight,
                front_ideal=decel * front_load / (front_load + rear_load),
                rear_ideal=decel * rear_load / (front_load + rear_load),
            )
        )
    return tuple(curve)
