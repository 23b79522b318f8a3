"""The grid in use against a fine one, over machines and duties nobody chose: the error bound docs/physics.md states."""

from __future__ import annotations

import dataclasses

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.cases_data import changed, plain_case
from thermaxis.core.physics.batch import Grid
from thermaxis.core.physics.simulate import simulate_one
from thermaxis.core.planning.verdict.worn import fluid_peaks
from thermaxis.core.records import MATERIALS, PATTERNS, DescentDuty, Duty, Rotor, Stop, StopsDuty, TraceDuty

FINE = Grid(
    cells=40,
    pad_cells=32,
    widening=1.08,
    first_step_s=0.01,
    braking_step_s=0.03,
    cooling_step_s=0.6,
    growth=1.25,
    braking_share=1 / 80,
)
FIELDS = ("peak_surface_C", "peak_bulk_C", "end_bulk_C", "peak_pad_C", "peak_fluid_C")
# Of the rise over the air, and in K: what any user of a number may take for granted.
RELATIVE, ABSOLUTE_K, FLUID_K = 0.004, 0.6, 0.9


@st.composite
def rotors(draw: st.DrawFn) -> Rotor:
    thickness = draw(st.floats(0.005, 0.036))
    vented = thickness > 0.016 and draw(st.booleans())
    return dataclasses.replace(
        plain_case().front.rotor,
        material=draw(st.sampled_from(MATERIALS)),
        pattern=draw(st.sampled_from(PATTERNS)),
        thickness_m=thickness,
        gap_m=0.4 * thickness if vented else 0.0,
        vanes=36 if vented else 0,
        vane_thickness_m=0.005 if vented else 0.0,
    )


@st.composite
def duties(draw: st.DrawFn) -> Duty:
    """Stops, descents, and traces with anything from 11 m/s2 of braking to 5 m/s2 the other way."""
    kind = draw(st.sampled_from(["stops", "descent", "trace"]))
    if kind == "stops":
        stop = Stop(
            from_mps=draw(st.floats(15, 65)),
            to_mps=draw(st.floats(0, 12)),
            decel_mps2=draw(st.floats(2, 10)),
            then_s=draw(st.floats(3, 120)),
            then_speed_mps=draw(st.floats(5, 50)),
        )
        return StopsDuty(kind="stops", stops=(stop,), repeat=draw(st.integers(1, 12)))
    if kind == "descent":
        return DescentDuty(
            kind="descent",
            grade=draw(st.floats(0.04, 0.16)),
            speed_mps=draw(st.floats(5, 25)),
            duration_s=draw(st.floats(60, 900)),
            then_s=draw(st.floats(0, 600)),
            then_speed_mps=0.0,
        )
    lengths = draw(st.lists(st.floats(0.3, 8.0), min_size=5, max_size=30))
    speeds = [20.0]
    for seconds in lengths:
        speeds.append(float(np.clip(speeds[-1] + draw(st.floats(-11, 5)) * seconds, 2.0, 60.0)))
    times = np.concatenate([[0.0], np.cumsum(lengths)])
    return TraceDuty(kind="trace", t_s=tuple(times.tolist()), v_mps=tuple(speeds), then_s=100.0)


@settings(max_examples=40)
@given(
    front=rotors(),
    rear=rotors(),
    duty=duties(),
    mass=st.floats(300, 2500),
    cooling=st.floats(0.4, 2.5),
    pedal=st.sampled_from([60.0, 200.0, 500.0, 2000.0]),
)
def test_numbers_stay_within_the_stated_bound_of_a_fine_grid(
    front: Rotor, rear: Rotor, duty: Duty, mass: float, cooling: float, pedal: float
) -> None:
    fading = ((0.0, 0.35), (300.0, 0.45), (600.0, 0.3), (800.0, 0.2))
    case = plain_case(duty=duty, vehicle__mass_kg=mass, hydraulics__max_pedal_force_N=pedal)
    case = changed(
        case,
        front__rotor=front,
        rear__rotor=rear,
        front__pad__mu=fading,
        rear__pad__mu=fading,
        front__cooling_factor=cooling,
        rear__cooling_factor=cooling,
    )
    used, fine = simulate_one(case), simulate_one(case, FINE)
    for axle in ("front", "rear"):
        for field in FIELDS:
            found, truth = getattr(getattr(used, axle), field), getattr(getattr(fine, axle), field)
            assert abs(found - truth) <= ABSOLUTE_K + RELATIVE * abs(truth - 20.0), (axle, field, found, truth)
    assert abs(used.duration_s - fine.duration_s) <= 0.05 + 0.005 * fine.duration_s
    # The coarser grid of worn pads finds the fluid as well.
    for found, axle in zip(fluid_peaks([case])[0], ("front", "rear"), strict=True):
        truth = getattr(fine, axle).peak_fluid_C
        assert abs(found - truth) <= FLUID_K + RELATIVE * abs(truth - 20.0), (axle, found, truth)
