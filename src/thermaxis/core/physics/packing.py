"""Lay records out as numpy structured arrays, the form the compiled engine reads and writes."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.physics import caliper, partition
from thermaxis.core.physics.convection import GAS_CONSTANT, KELVIN, vane_passage
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
        ("heat_share", "f8"),
        ("vane_mass_per_area", "f8"),
        ("wetted_ratio", "f8"),
        ("hub_per_area", "f8"),
        # convection
        ("outer_radius", "f8"),
        ("gap", "f8"),
        ("passage_air", "f8"),
        ("passage_diameter", "f8"),
        ("passage_laminar", "f8"),
        ("passage_turbulent", "f8"),
        ("face_factor", "f8"),
        ("cooling_factor", "f8"),
        # pads and caliper
        ("pad_capacity", "f8"),
        ("pad_to_backing", "f8"),
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
        ("grade_mass", "f8"),
        ("mass", "f8"),
        ("rolling", "f8"),
        ("drag_area", "f8"),
        ("air_density", "f8"),
        ("engine", "f8"),
        ("regen_power", "f8"),
        ("regen_decel", "f8"),
        ("regen_fade", "f8"),
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
    [("kind", "i8"), ("duration", "f8"), ("v0", "f8"), ("v1", "f8"), ("decel", "f8"), ("angle", "f8"), ("stop", "i8")],
    align=True,
)

AXLE_RESULT = np.dtype(
    [
        ("peak_surface", "f8"),
        ("peak_bulk", "f8"),
        ("end_bulk", "f8"),
        ("end_surface", "f8"),
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
        ("gap_heat", "f8"),
        ("heat_bins", "f8", (HEAT_BINS,)),
    ],
    align=True,
)

RUN_RESULT = np.dtype(
    [
        ("duration", "f8"),
        ("peak_pressure", "f8"),
        ("peak_pressure_s", "f8"),
        ("limited_s", "f8"),
        ("first_limited_s", "f8"),
        ("stopped", "i8"),
        ("samples", "i8"),
        ("braking_s", "f8"),
    ],
    align=True,
)

MAX_CELLS = 64
_NODES, _CELLS, _LUMPS = (MAX_CELLS + 2,), (MAX_CELLS + 1,), (3,)

# Working state of one axle's disc in a run. Arrays have room for MAX_CELLS cells; the first `cells` (+ back) are used.
DISC = np.dtype(
    [
        ("cells", "i8"),
        # temperatures in degC: face, cells, back; pads, backings, caliper. Stored heat in J/m2 over 0 degC.
        ("nodes", "f8", _NODES),
        ("heat", "f8", _CELLS),
        ("lumps", "f8", _LUMPS),
        ("heat_start", "f8"),
        # laid out once: kg/m2 of cells and back, 1/distance of links in 1/m
        ("masses", "f8", _CELLS),
        ("spreads", "f8", _CELLS),
        # right-hand side: links in W/m2K, net heat in W/m2 and (lumps) W
        ("links", "f8", _CELLS),
        ("net", "f8", _CELLS),
        ("flows", "f8", _LUMPS),
        # linear system: J/m2K and its factors; k1 and k2 - k1 over capacity in K/s
        ("capacities", "f8", _CELLS),
        ("lower", "f8", _CELLS),
        ("pivots", "f8", _CELLS),
        ("upper", "f8", _CELLS),
        ("rates", "f8", _CELLS),
        ("change", "f8", _CELLS),
        ("lump_start", "f8", _LUMPS),
        ("lump_rates", "f8", _LUMPS),
        ("lump_change", "f8", _LUMPS),
        # films: faces and vanes in W/m2K, caliper in W/K
        ("face_film", "f8"),
        ("vane_film", "f8"),
        ("caliper_film", "f8"),
        # what the matrix of the step holds: share of the first cell's change that the face follows, and slopes
        ("held_share", "f8"),
        ("held_face", "f8"),
        ("held_radiation", "f8"),
        ("held_vane", "f8"),
        ("held_caliper", "f8"),
        ("held_gap", "f8"),
        ("held_back_share", "f8"),
        # axle force in N, friction coefficient, friction heat into one face in W/m2
        ("force", "f8"),
        ("mu", "f8"),
        ("inflow", "f8"),
    ],
    align=True,
)

# What the vehicle does at this instant: m/s, m/s2 there really is, friction power of both axles in W.
MOTION = np.dtype([("speed", "f8"), ("decel", "f8"), ("power", "f8"), ("pressure", "f8")], align=True)

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
    passage = vane_passage(rotor, wheel_radius) if vented else (0.0, 0.0, 0.0, 0.0)
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
        "heat_share": partition.rotor_heat_share(rotor, pad, axle.pad_heat_factor),
        "vane_mass_per_area": vane_mass / (2.0 * area) if vented else 0.0,
        "wetted_ratio": passage_walls / (2.0 * area) if vented else 0.0,
        "hub_per_area": rotor.hub_conductance_W_per_K / (2.0 * area),
        "outer_radius": rotor.outer_radius_m,
        "gap": rotor.gap_m,
        "passage_air": passage[0],
        "passage_diameter": passage[1],
        "passage_laminar": passage[2],
        "passage_turbulent": passage[3],
        "face_factor": pattern.face_convection,
        "cooling_factor": axle.cooling_factor,
        "pad_capacity": caliper.pad_capacity(axle),
        "pad_to_backing": caliper.pad_conductance(axle),
        "backing_capacity": caliper.backing_capacity(axle),
        "backing_to_caliper": axle.backing_conductance_W_per_K,
        "caliper_capacity": axle.caliper_mass_kg * axle.caliper_specific_heat_J_per_kgK,
        "caliper_area": axle.caliper_area_m2,
        "gap_conductance": 2.0 * axle.gap_conductance_W_per_K,
        "wear": pad.wear_mm3_per_MJ,
        "wear_knee": pad.wear_knee_C,
        "wear_scale": pad.wear_scale_C,
    }
    for name, entry in values.items():
        into[name] = entry


def pack_vehicle(case: Case, into: np.void) -> None:
    """Fill one VEHICLE record: vehicle, trailer, hydraulics and air of a case."""
    vehicle, hydraulics, environment, trailer = case.vehicle, case.hydraulics, case.environment, case.trailer
    pushed = (1.0 - trailer.brake_share) * trailer.mass_kg if trailer else 0.0
    regen = vehicle.regen
    values = {
        "inertia": vehicle.rotating_mass_factor * vehicle.mass_kg + pushed,
        "grade_mass": vehicle.mass_kg + pushed,
        "mass": vehicle.mass_kg,
        "rolling": vehicle.rolling_coefficient * vehicle.mass_kg * GRAVITY,
        "drag_area": vehicle.drag_area_m2,
        "air_density": environment.pressure_Pa / (GAS_CONSTANT * (environment.air_C + KELVIN)),
        "engine": vehicle.engine_braking_N,
        "regen_power": regen.max_power_W if regen else 0.0,
        "regen_decel": regen.max_decel_mps2 if regen else 0.0,
        "regen_fade": regen.fade_out_mps if regen else 0.0,
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
    """Lay N cases out as (axles, vehicles): arrays of shape (N, 2) AXLE and (N,) VEHICLE."""
    axles = np.zeros((len(cases), 2), dtype=AXLE)
    vehicles = np.zeros(len(cases), dtype=VEHICLE)
    for index, case in enumerate(cases):
        pack_axle(case.front, case.vehicle.wheel_radius_front_m, axles[index, 0])
        pack_axle(case.rear, case.vehicle.wheel_radius_rear_m, axles[index, 1])
        pack_vehicle(case, vehicles[index])
    return axles, vehicles
