"""Lay records out as numpy structured arrays, the form the compiled engine reads and writes."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.breath import breathing
from thermaxis.core.physics import caliper, partition
from thermaxis.core.physics.convection import KELVIN, VanePassage, air_density, vane_passage
from thermaxis.core.physics.friction import mu_table
from thermaxis.core.physics.hydraulics import line_pressure
from thermaxis.core.physics.materials import PATTERN_FACTORS, materials
from thermaxis.core.physics.resistance import GRAVITY
from thermaxis.core.physics.torque import torque_per_pressure
from thermaxis.core.records import MAX_MU_POINTS, Axle, Case

HEAT_BINS = 120
HEAT_BIN_K = 10.0

AXLE = np.dtype(
    [
        # hydraulics and friction
        ("force_per_pressure", "f8"),
        ("rotors", "f8"),
        ("mu_count", "i8"),
        ("mu_C", "f8", (MAX_MU_POINTS,)),
        ("mu_value", "f8", (MAX_MU_POINTS,)),
        ("mu_slope", "f8", (MAX_MU_POINTS,)),
        # ring
        ("ring_area", "f8"),
        ("cheek", "f8"),
        ("density", "f8"),
        ("k0", "f8"),
        ("k1", "f8"),
        ("k_min", "f8"),
        ("c0", "f8"),
        ("c1", "f8"),
        ("c_max", "f8"),
        ("emissivity", "f8"),
        ("open_share", "f8"),
        ("vane_mass_per_area", "f8"),
        ("wetted_ratio", "f8"),
        ("hub_per_area", "f8"),
        # convection
        ("gap", "f8"),
        ("face_diameter", "f8"),
        ("face_laminar", "f8"),
        ("face_turbulent", "f8"),
        ("passage_length", "f8"),
        ("passage_laminar", "f8"),
        ("passage_turbulent", "f8"),
        ("face_factor", "f8"),
        ("cooling_factor", "f8"),
        # one pad and half a caliper, per swept area of one face: m, W/mK, J/m3K, J/m2K, W/m2K, m2/m2
        ("pad_thickness", "f8"),
        ("pad_conductivity", "f8"),
        ("pad_heat", "f8"),
        ("backing_capacity", "f8"),
        ("backing_to_caliper", "f8"),
        ("caliper_capacity", "f8"),
        ("caliper_area", "f8"),
        ("gap_conductance", "f8"),
        # wear
        ("wear", "f8"),
        ("wear_knee", "f8"),
        ("wear_scale", "f8"),
    ],
    align=True,
)

VEHICLE = np.dtype(
    [
        ("inertia", "f8"),
        ("mass", "f8"),
        # axle loads: share on the front; heights and overhang over the wheelbase; lift in N per (m/s)2
        ("front_fraction", "f8"),
        ("height", "f8"),
        ("hitch_height", "f8"),
        ("hitch_overhang", "f8"),
        ("nose_load", "f8"),
        ("pushed_mass", "f8"),
        ("front_lift", "f8"),
        ("rear_lift", "f8"),
        ("grip", "f8"),
        ("anti_lock", "i8"),
        ("rolling", "f8"),
        ("drag_area", "f8"),
        ("air_density", "f8"),
        ("engine", "f8"),
        ("regen_power", "f8"),
        ("regen_decel", "f8"),
        ("regen_fade", "f8"),
        ("regen_front", "f8"),
        ("rider_share", "f8"),
        ("max_pressure", "f8"),
        ("knee", "f8"),
        ("slope", "f8"),
        ("air_C", "f8"),
        ("pressure_Pa", "f8"),
        ("start_C", "f8"),
    ],
    align=True,
)

SEGMENT = np.dtype(
    [
        ("kind", "i8"),
        ("duration", "f8"),
        ("v0", "f8"),
        ("v1", "f8"),
        ("decel", "f8"),
        # of the slope's angle, positive uphill
        ("sine", "f8"),
        ("cosine", "f8"),
        ("stop", "i8"),
    ],
    align=True,
)

AXLE_RESULT = np.dtype(
    [
        ("peak_surface", "f8"),
        ("peak_bulk", "f8"),
        ("end_bulk", "f8"),
        ("end_surface", "f8"),
        ("end_fluid", "f8"),
        ("peak_pad", "f8"),
        ("peak_fluid", "f8"),
        ("peak_surface_s", "f8"),
        ("peak_fluid_s", "f8"),
        ("peak_excess", "f8"),
        ("least_mu", "f8"),
        ("friction_energy", "f8"),
        ("wear_work", "f8"),
        ("stored_ring", "f8"),
        ("stored_caliper", "f8"),
        ("lost_face", "f8"),
        ("lost_radiation", "f8"),
        ("lost_vanes", "f8"),
        ("lost_hub", "f8"),
        ("lost_caliper", "f8"),
        ("heat_bins", "f8", (HEAT_BINS,)),
    ],
    align=True,
)

RUN_RESULT = np.dtype(
    [
        ("duration", "f8"),
        ("peak_pressure", "f8"),
        ("peak_pressure_s", "f8"),
        ("peak_pressure_mu", "f8", (2,)),
        # stops short of their deceleration by the pedal's and by the tyres' limit
        ("limited_s", "f8"),
        ("first_limited_s", "f8"),
        ("limited_C", "f8", (2,)),
        ("limited_mu", "f8", (2,)),
        ("grip_limited_s", "f8"),
        ("first_grip_s", "f8"),
        # imposed speeds that wanted more than the pedal, and more than the tyres, have
        ("overasked_s", "f8"),
        ("first_overasked_s", "f8"),
        ("beyond_grip_s", "f8"),
        ("first_beyond_s", "f8"),
        # regeneration beyond the grip of its axle
        ("regen_beyond_s", "f8"),
        ("first_regen_s", "f8"),
        ("stopped", "i8"),
        ("samples", "i8"),
        ("braking_s", "f8"),
    ],
    align=True,
)

MAX_CELLS, MAX_PAD_CELLS = 64, 32
_NODES = (MAX_CELLS + MAX_PAD_CELLS + 3,)

# Working state of one axle's chain in a run (`conduction` numbers its nodes); arrays have room for the most cells.
DISC = np.dtype(
    [
        # the ring's first cell, the back
        ("first", "i8"),
        ("last", "i8"),
        # degC of nodes and interface; stored heat of the ring in J/m2 over 0 degC
        ("nodes", "f8", _NODES),
        ("surface", "f8"),
        ("heat", "f8", _NODES),
        ("start", "f8", _NODES),
        ("heat_start", "f8"),
        # laid out once: kg/m2 of the ring's nodes, 1/distance of its links in 1/m
        ("masses", "f8", _NODES),
        ("spreads", "f8", _NODES),
        ("face_spread", "f8"),
        # right-hand side: links and contact in W/m2K, net heat in W/m2
        ("links", "f8", _NODES),
        ("face_link", "f8"),
        ("contact", "f8"),
        ("net", "f8", _NODES),
        # linear system: J/m2K and its factors; k1 and k2 - k1 over capacity in K/s
        ("capacities", "f8", _NODES),
        ("lower", "f8", _NODES),
        ("pivots", "f8", _NODES),
        ("upper", "f8", _NODES),
        ("rates", "f8", _NODES),
        ("change", "f8", _NODES),
        # films in W/m2K, the caliper's per swept area of one face
        ("face_film", "f8"),
        ("vane_film", "f8"),
        ("caliper_film", "f8"),
        # what the matrix of the step holds: shares of its neighbours' changes the interface follows, and slopes
        ("held_share", "f8"),
        ("held_pad_share", "f8"),
        ("held_face", "f8"),
        ("held_radiation", "f8"),
        ("held_vane", "f8"),
        ("held_caliper", "f8"),
        ("held_tau", "f8"),
        ("held_back_share", "f8"),
        # axle force in N, friction coefficient, friction heat of one interface in W/m2
        ("force", "f8"),
        ("mu", "f8"),
        ("inflow", "f8"),
    ],
    align=True,
)

# What the vehicle does at this instant: m/s, m/s2 there really is, friction power of both axles in W, line pressure in
# Pa; whether grip keeps a stop short or cannot give an imposed force, and regeneration asks more than its axle's grip.
MOTION = np.dtype(
    [
        ("speed", "f8"),
        ("decel", "f8"),
        ("power", "f8"),
        ("pressure", "f8"),
        ("short", "i8"),
        ("at_grip", "i8"),
        ("regen_beyond", "i8"),
    ],
    align=True,
)

Records = NDArray[np.void]


def pack_axle(axle: Axle, wheel_radius: float, into: np.void) -> None:
    """Fill one AXLE record from the axle's records."""
    rotor, pad = axle.rotor, axle.pad
    material, pattern = materials()[rotor.material], PATTERN_FACTORS[rotor.pattern]
    length = rotor.outer_radius_m - rotor.inner_radius_m
    # The mass factor scales density everywhere, so that ring and vanes stay consistent.
    density = material.density_kg_per_m3 * pattern.mass
    area = partition.ring_area(rotor)
    vented = rotor.gap_m > 0
    passage_walls = 2.0 * (area - rotor.vanes * rotor.vane_thickness_m * length)
    passage_walls += 2.0 * rotor.vanes * rotor.gap_m * length
    vane_mass = density * rotor.vanes * rotor.vane_thickness_m * length * rotor.gap_m
    half = 2.0 * area
    passage = vane_passage(rotor, wheel_radius) if vented else VanePassage(0.0, 0.0, 0.0, 0.0)
    passage_length = passage.air_per_road * passage.diameter
    temperature, value, slope = mu_table(pad.mu)
    values: dict[str, Any] = {
        "force_per_pressure": axle.rotors * torque_per_pressure(axle) / wheel_radius,
        "rotors": axle.rotors,
        "mu_count": len(pad.mu),
        "mu_C": temperature,
        "mu_value": value,
        "mu_slope": slope,
        "ring_area": area,
        "cheek": (rotor.thickness_m - rotor.gap_m) / 2.0,
        "density": density,
        "k0": material.k0_W_per_mK,
        "k1": material.k1_W_per_mK2,
        "k_min": material.k_min_W_per_mK,
        "c0": material.c0_J_per_kgK,
        "c1": material.c1_J_per_kgK2,
        "c_max": material.c_max_J_per_kgK,
        "emissivity": material.emissivity,
        "open_share": max(0.0, 1.0 - pad.area_m2 / area),
        "vane_mass_per_area": vane_mass / (2.0 * area) if vented else 0.0,
        "wetted_ratio": passage_walls / (2.0 * area) if vented else 0.0,
        "hub_per_area": rotor.hub_conductance_W_per_K / (2.0 * area),
        "gap": rotor.gap_m,
        "face_diameter": 2.0 * rotor.outer_radius_m,
        "face_laminar": 0.70 * (2.0 * rotor.outer_radius_m) ** -0.45,
        "face_turbulent": 0.04 * (2.0 * rotor.outer_radius_m) ** -0.2,
        # Re of the passage over v p / nu, and the constants of its laws with its own length in them.
        "passage_length": passage_length,
        "passage_laminar": passage.laminar * passage_length ** (1.0 / 3.0) / passage.diameter if vented else 0.0,
        "passage_turbulent": passage.turbulent * passage_length**0.8 / passage.diameter if vented else 0.0,
        "face_factor": pattern.face_convection,
        "cooling_factor": axle.cooling_factor,
        "pad_thickness": pad.thickness_m,
        "pad_conductivity": pad.conductivity_W_per_mK * pad.area_m2 / area,
        "pad_heat": caliper.pad_heat(pad) * pad.area_m2 / area,
        "backing_capacity": caliper.backing_capacity(axle) / half,
        "backing_to_caliper": axle.backing_conductance_W_per_K / half,
        "caliper_capacity": caliper.caliper_capacity(axle) / half,
        "caliper_area": axle.caliper_area_m2 / half,
        "gap_conductance": axle.gap_conductance_W_per_K / area,
        "wear": pad.wear_mm3_per_MJ,
        "wear_knee": pad.wear_knee_C,
        "wear_scale": pad.wear_scale_C,
    }
    for name, entry in values.items():
        into[name] = entry


def pack_vehicle(case: Case, into: np.void) -> None:
    """Fill one VEHICLE record: vehicle, trailer, hydraulics and air of a case."""
    vehicle, hydraulics, environment, trailer = case.vehicle, case.hydraulics, case.environment, case.trailer
    density = air_density(environment.air_C + KELVIN, environment.pressure_Pa)
    regen, length = vehicle.regen, vehicle.wheelbase_m
    values = {
        "inertia": vehicle.rotating_mass_factor * vehicle.mass_kg,
        "mass": vehicle.mass_kg,
        "front_fraction": vehicle.front_fraction,
        "height": vehicle.cg_height_m / length,
        "hitch_height": trailer.hitch_height_m / length if trailer else 0.0,
        "hitch_overhang": trailer.hitch_overhang_m / length if trailer else 0.0,
        "nose_load": trailer.nose_load_N if trailer else 0.0,
        "pushed_mass": trailer.pushed_mass_kg if trailer else 0.0,
        "front_lift": 0.5 * density * vehicle.front_lift_area_m2,
        "rear_lift": 0.5 * density * vehicle.rear_lift_area_m2,
        "grip": vehicle.tyre_grip,
        "anti_lock": 1 if vehicle.anti_lock else 0,
        "rolling": vehicle.rolling_coefficient * vehicle.mass_kg * GRAVITY,
        "drag_area": vehicle.drag_area_m2,
        "air_density": density,
        "engine": vehicle.engine_braking_N,
        "regen_power": regen.max_power_W if regen else 0.0,
        "regen_decel": regen.max_decel_mps2 if regen else 0.0,
        "regen_fade": regen.fade_out_mps if regen else 0.0,
        "regen_front": 1.0 if regen and regen.axle == "front" else 0.0,
        "rider_share": -1.0 if vehicle.rider_front_share is None else vehicle.rider_front_share,
        "max_pressure": line_pressure(hydraulics.max_pedal_force_N, hydraulics),
        "knee": math.inf if hydraulics.rear_knee_Pa is None else hydraulics.rear_knee_Pa,
        "slope": hydraulics.rear_slope,
        "air_C": environment.air_C,
        "pressure_Pa": environment.pressure_Pa,
        "start_C": environment.air_C if environment.start_C is None else environment.start_C,
    }
    for name, entry in values.items():
        into[name] = entry


def pack(cases: list[Case]) -> tuple[Records, Records]:
    """Lay N cases out as (axles, vehicles): arrays of shape (N, 2) AXLE and (N,) VEHICLE.

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> axles, vehicles = pack([small_case()])
    >>> axles.shape, vehicles.shape
    ((1, 2), (1,))
    """
    axles = np.zeros((len(cases), 2), dtype=AXLE)
    vehicles = np.zeros(len(cases), dtype=VEHICLE)
    for index, case in enumerate(breathing(cases)):
        pack_axle(case.front, case.vehicle.wheel_radius_front_m, axles[index, 0])
        pack_axle(case.rear, case.vehicle.wheel_radius_rear_m, axles[index, 1])
        pack_vehicle(case, vehicles[index])
    return axles, vehicles
