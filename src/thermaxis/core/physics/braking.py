"""What the brakes are asked for and give at one instant: road force, its split, the films around the rings."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.physics.compiled import compiled
from thermaxis.core.physics.convection import caliper_coefficient, face_coefficient, vane_coefficient
from thermaxis.core.physics.friction import mu_at
from thermaxis.core.physics.hydraulics import pressure_for_force, rear_pressure
from thermaxis.core.physics.resistance import air_drag, regen_force, resisting_force

Array = NDArray[np.float64]


@compiled
def resistance_at(speed: float, angle: float, vehicle: Any) -> float:
    """Drag, rolling, engine, regeneration and grade in N of a packed vehicle at a speed and grade angle."""
    drag = air_drag(speed, vehicle.air_density, vehicle.drag_area)
    regen = regen_force(speed, vehicle.mass, vehicle.regen_power, vehicle.regen_decel, vehicle.regen_fade)
    return resisting_force(drag, vehicle.rolling, vehicle.engine, regen, vehicle.grade_mass, angle)


@compiled
def axle_forces(wanted: float, axles: Any, vehicle: Any, limited: bool, discs: Any) -> float:
    """Split a road force over the axles by the friction each face has now; set force and mu, return the pressure.

    One circuit: the common pressure that gives the force. Separate circuits: the rider's share, each at its own
    pressure (the greater is returned). `limited` caps the pressure at the greatest pedal force.
    """
    for i in range(2):
        ring = axles[i]
        discs[i].mu = mu_at(discs[i].nodes[0], ring.mu_C, ring.mu_value, ring.mu_slope, ring.mu_count)
    f, r = axles[0].force_per_pressure * discs[0].mu, axles[1].force_per_pressure * discs[1].mu
    if vehicle.rider_share >= 0.0:
        pressure_front = wanted * vehicle.rider_share / f
        pressure_rear = wanted * (1.0 - vehicle.rider_share) / r
        if limited:
            pressure_front = min(pressure_front, vehicle.max_pressure)
            pressure_rear = min(pressure_rear, vehicle.max_pressure)
        discs[0].force, discs[1].force = f * pressure_front, r * pressure_rear
        return max(pressure_front, pressure_rear)
    pressure = pressure_for_force(wanted, f, r, vehicle.knee, vehicle.slope)
    if limited:
        pressure = min(pressure, vehicle.max_pressure)
    discs[0].force = f * pressure
    discs[1].force = r * rear_pressure(pressure, vehicle.knee, vehicle.slope)
    return pressure


@compiled
def renew_films(speed: float, axles: Any, vehicle: Any, discs: Any) -> None:
    """Convection of faces, vanes (W/m2K) and calipers (W/K) at this speed and the walls there are."""
    caliper = caliper_coefficient(speed)
    for i in range(2):
        axle, disc = axles[i], discs[i]
        face = face_coefficient(speed, 2.0 * axle.outer_radius, disc.nodes[0], vehicle.air_C, vehicle.pressure_Pa)
        disc.face_film = face * axle.face_factor * axle.cooling_factor
        disc.vane_film = 0.0
        if axle.gap > 0.0:
            vane = vane_coefficient(
                speed,
                axle.passage_air,
                axle.passage_diameter,
                axle.passage_laminar,
                axle.passage_turbulent,
                disc.nodes[disc.cells + 1],
                vehicle.air_C,
                vehicle.pressure_Pa,
            )
            disc.vane_film = vane * axle.cooling_factor
        disc.caliper_film = caliper * axle.caliper_area
