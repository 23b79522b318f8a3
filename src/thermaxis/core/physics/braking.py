"""What the brakes are asked for and give at one instant: road force, its split, the films around the rings."""

from __future__ import annotations

from typing import Any

from thermaxis.core.physics.compiled import compiled
from thermaxis.core.physics.conduction import press, settle_face
from thermaxis.core.physics.convection import CALIPER_MOVING, CALIPER_STILL, face_film, powers_at, vane_film
from thermaxis.core.physics.friction import mu_at
from thermaxis.core.physics.grip import (
    axle_limits,
    give_in_stop,
    lifting_decel,
    needed_force,
    pressure_of,
    share_of_imposed,
)
from thermaxis.core.physics.resistance import air_drag, regen_force, resisting_on
from thermaxis.core.physics.schedule import CRUISE, STOP


@compiled
def regen_at(speed: float, vehicle: Any) -> float:
    """Greatest regenerative force in N of a packed vehicle at a speed (physics.md section 4)."""
    return regen_force(speed, vehicle.mass, vehicle.regen_power, vehicle.regen_decel, vehicle.regen_fade)


@compiled
def resistance_at(speed: float, sine: float, cosine: float, vehicle: Any) -> float:
    """Drag, rolling, engine, regeneration and the vehicle's own grade in N at a speed and grade angle.

    Source: physics.md section 4.
    """
    drag = air_drag(speed, vehicle.air_density, vehicle.drag_area)
    return resisting_on(drag, vehicle.rolling, vehicle.engine, regen_at(speed, vehicle), vehicle.mass, sine, cosine)


@compiled
def wanted_force(speed: float, decel: float, sine: float, cosine: float, vehicle: Any) -> float:
    """Road force in N wanted of the friction brakes at a speed, deceleration and grade angle (physics.md section 4)."""
    return needed_force(decel, sine, resistance_at(speed, sine, cosine, vehicle), vehicle)


@compiled
def brake(
    kind: int,
    speed: float,
    decel: float,
    sine: float,
    cosine: float,
    passes: int,
    axles: Any,
    vehicle: Any,
    discs: Any,
    motion: Any,
) -> None:
    """Find both axles' forces at their own face temperatures and what the vehicle really does at `speed` (m/s).

    Source: physics.md sections 3, 4 and 9.

    In a stop grip and the greatest pedal force limit what it does; an imposed speed (`kind`) is kept. Friction and face
    temperature are found in turn, `passes` times: a face leads its first cell by a few kelvin, so each pass gains two
    digits.
    """
    motion.speed, motion.decel, motion.power, motion.pressure = speed, decel, 0.0, 0.0
    motion.short, motion.at_grip, motion.regen_beyond = 0, 0, 0
    for i in range(2):
        discs[i].force, discs[i].inflow = 0.0, 0.0
        press(axles[i], discs[i])
    if kind == CRUISE:
        return
    resisting, regen = resistance_at(speed, sine, cosine, vehicle), regen_at(speed, vehicle)
    wanted = needed_force(decel, sine, resisting, vehicle)
    if regen > 0.0:
        # No more is drawn than is needed to slow as wanted.
        drawn = min(regen, needed_force(decel, sine, resisting - regen, vehicle))
        front, rear = axle_limits(speed, decel, sine, cosine, 0.0, vehicle)
        if drawn > vehicle.regen_front * front + (1.0 - vehicle.regen_front) * rear:
            motion.regen_beyond = 1
    if wanted <= 0.0:
        return
    front_limit, rear_limit = axle_limits(speed, decel, sine, cosine, regen, vehicle)
    for _ in range(passes):
        for i in range(2):
            ring = axles[i]
            discs[i].mu = mu_at(discs[i].surface, ring.mu_C, ring.mu_value, ring.mu_slope, ring.mu_count)
        f, r = axles[0].force_per_pressure * discs[0].mu, axles[1].force_per_pressure * discs[1].mu
        if kind == STOP:
            front, rear, motion.decel, motion.at_grip = give_in_stop(
                speed, decel, sine, cosine, resisting, regen, f, r, vehicle
            )
        else:
            front, rear = share_of_imposed(wanted, front_limit, rear_limit, f, r, vehicle)
        motion.pressure = pressure_of(front, rear, f, r, vehicle)
        discs[0].force, discs[1].force = front, rear
        for i in range(2):
            ring, disc = axles[i], discs[i]
            disc.inflow = disc.force * speed / (ring.rotors * 2.0 * ring.ring_area)
            press(ring, disc)
            settle_face(vehicle.air_C, ring, disc)
    if kind == STOP:
        motion.short = 1 if motion.decel < decel * (1.0 - 1e-9) else 0
    else:
        lifts = vehicle.rider_share >= 0.0 and decel > lifting_decel(speed, sine, cosine, vehicle)
        if lifts or wanted > (front_limit + rear_limit) * (1.0 + 1e-9):
            motion.at_grip = 1
    motion.power = (discs[0].force + discs[1].force) * speed


@compiled
def renew_films(speed: float, axles: Any, vehicle: Any, discs: Any) -> None:
    """Films of faces, vanes and calipers in W/m2K (the last per swept area) at this speed and the walls there are.

    Source: physics.md section 7.
    """
    powers = powers_at(speed, vehicle.pressure_Pa)
    caliper = CALIPER_STILL + CALIPER_MOVING * powers.speed
    for i in range(2):
        axle, disc = axles[i], discs[i]
        disc.face_film = axle.face_factor * face_film(powers, disc.surface, vehicle.air_C, axle)
        disc.vane_film = 0.0
        if axle.gap > 0.0:
            disc.vane_film = axle.cooling_factor * vane_film(powers, disc.nodes[disc.last], vehicle.air_C, axle)
        disc.face_film *= axle.cooling_factor
        disc.caliper_film = caliper * axle.caliper_area
