"""Compile (or load from cache) the engine before anyone waits for it."""

from __future__ import annotations

from thermaxis.core.constants import SEA_LEVEL_PA
from thermaxis.core.physics.simulate import history, simulate_one
from thermaxis.core.records import Axle, Case, Environment, Hydraulics, Pad, Rotor, Stop, StopsDuty, Vehicle


def small_case() -> Case:
    """A plain small car making one stop: the shortest computation that touches every part of the engine."""
    rotor = Rotor(
        outer_radius_m=0.13,
        inner_radius_m=0.085,
        thickness_m=0.02,
        gap_m=0.008,
        vanes=30,
        vane_thickness_m=0.005,
        material="grey_iron",
        pattern="plain",
        hub_conductance_W_per_K=3.0,
    )
    pad = Pad(
        area_m2=0.004,
        thickness_m=0.01,
        backing_m=0.005,
        density_kg_per_m3=2600,
        specific_heat_J_per_kgK=950,
        conductivity_W_per_mK=1.6,
        mu=((0, 0.35), (300, 0.4), (600, 0.35)),
        wear_mm3_per_MJ=40,
        wear_knee_C=450,
        wear_scale_C=150,
    )
    axle = Axle(
        rotors=2,
        piston_area_m2=0.002,
        caliper_efficiency=0.98,
        rotor=rotor,
        pad=pad,
        caliper_mass_kg=3.0,
        caliper_specific_heat_J_per_kgK=500,
        caliper_area_m2=0.05,
        backing_conductance_W_per_K=6.0,
        gap_conductance_W_per_K=0.5,
        cooling_factor=1.0,
    )
    return Case(
        name="small car, one stop",
        vehicle=Vehicle(
            kind="car",
            mass_kg=1100,
            front_fraction=0.6,
            wheelbase_m=2.5,
            cg_height_m=0.52,
            wheel_radius_front_m=0.3,
            wheel_radius_rear_m=0.3,
            rotating_mass_factor=1.05,
            drag_area_m2=0.65,
            rolling_coefficient=0.013,
            engine_braking_N=0,
            tyre_grip=0.95,
        ),
        hydraulics=Hydraulics(
            pedal_ratio=4.0,
            pedal_efficiency=0.9,
            booster_gain=4.0,
            booster_runout_N=900,
            master_bore_m=0.0222,
            max_pedal_force_N=500,
            rear_knee_Pa=3e6,
            rear_slope=0.3,
        ),
        front=axle,
        rear=axle,
        environment=Environment(air_C=20, pressure_Pa=SEA_LEVEL_PA),
        duty=StopsDuty(kind="stops", stops=(Stop(from_mps=28, to_mps=0, decel_mps2=6, then_s=20, then_speed_mps=15),)),
    )


def warm_up() -> None:
    """Run the small case once; takes seconds on a machine that has not compiled yet, then milliseconds."""
    case = small_case()
    simulate_one(case)
    history(case)
