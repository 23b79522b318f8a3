"""Analytic solutions of heat conduction against the engine: the section 9 checks of the reference model."""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy.optimize import fsolve

from tests.cases_data import changed, load, plain_case
from thermaxis.core.errors import FieldError
from thermaxis.core.physics import partition
from thermaxis.core.physics.batch import Grid
from thermaxis.core.physics.convection import face_coefficient, vane_coefficient, vane_passage
from thermaxis.core.physics.layers import optimal_ladder, plain_ladder
from thermaxis.core.physics.materials import materials
from thermaxis.core.physics.simulate import history, simulate_one
from thermaxis.core.physics.warm_up import small_case
from thermaxis.core.records import Case, DescentDuty, Stop, StopsDuty, TraceDuty
from thermaxis.core.results import HISTORY_FIELDS

COLUMN = {name: i for i, name in enumerate(HISTORY_FIELDS)}


@pytest.fixture
def constant_iron(monkeypatch: pytest.MonkeyPatch) -> None:
    """Iron with constant k and c, so that the textbook solutions hold exactly."""
    table = materials()
    iron = table["grey_iron"]
    frozen = {**iron.__dict__, "k1_W_per_mK2": 0.0, "k0_W_per_mK": 50.0, "c1_J_per_kgK2": 0.0, "c0_J_per_kgK": 500.0}
    monkeypatch.setitem(table, "grey_iron", type(iron)(**{**frozen, "emissivity": 0.0}))


def thick_solid(**changes: object) -> Case:
    """A car on thick solid rotors: half a rotor is a half-space for a few seconds; its pads take next to no heat."""
    thick = {"thickness_m": 0.1, "gap_m": 0.0, "vanes": 0, "vane_thickness_m": 0.0, "hub_conductance_W_per_K": 0.0}
    edits = {f"{axle}__rotor__{name}": value for axle in ("front", "rear") for name, value in thick.items()}
    edits |= {f"{axle}__pad__conductivity_W_per_mK": 1e-6 for axle in ("front", "rear")}
    return plain_case(**{**edits, **changes})


def effusivity(case: Case) -> float:
    return partition.rotor_effusivity(case.front.rotor)


def flux(case: Case, power: float) -> float:
    """Flux of one interface of a front rotor that takes `power` W of friction."""
    return power / (2.0 * partition.ring_area(case.front.rotor))


@pytest.mark.usefixtures("constant_iron")
def test_constant_flux_into_a_half_space_rises_with_the_root_of_time() -> None:
    # Published: Carslaw and Jaeger 1959, 2.9: dT = 2 q sqrt(t/pi)/e. Convection is turned down out of the way.
    duty = DescentDuty(kind="descent", grade=0.12, speed_mps=20.0, duration_s=4.0, then_s=0.0, then_speed_mps=0.0)
    case = thick_solid(duty=duty, front__cooling_factor=0.02)
    rows = history(case, Grid(cells=40, pad_cells=30, widening=1.1, cooling_step_s=0.05))
    for wanted in (1.0, 2.0, 4.0):
        row = rows[int(np.argmin(np.abs(rows[:, 0] - wanted)))]
        q = flux(case, row[COLUMN["front_power_W"]])
        rise = 2.0 * q * math.sqrt(row[0] / math.pi) / effusivity(case)
        assert row[COLUMN["front_surface_C"]] - 20.0 == pytest.approx(rise, rel=0.005)


@pytest.mark.usefixtures("constant_iron")
def test_falling_flux_peaks_at_half_the_stop() -> None:
    # Published: Newcomb 1960: a linearly falling flux peaks at t_s/2 with 0.532 q0 sqrt(t_s)/e.
    stop = Stop(from_mps=30.0, to_mps=0.0, decel_mps2=7.5, then_s=0.0, then_speed_mps=0.0)
    case = thick_solid(
        duty=StopsDuty(kind="stops", stops=(stop,)), vehicle__drag_area_m2=0.0, vehicle__rolling_coefficient=0.0
    )
    rows = history(case, Grid(cells=40, pad_cells=30, widening=1.1, braking_step_s=0.02, braking_share=0.005))
    surface = rows[:, COLUMN["front_surface_C"]]
    peak = int(np.argmax(surface))
    q0 = flux(case, rows[1, COLUMN["front_power_W"]] / rows[1, COLUMN["v_mps"]] * 30.0)
    assert rows[peak, 0] == pytest.approx(2.0, rel=0.03)
    assert surface[peak] - 20.0 == pytest.approx(0.532 * q0 * math.sqrt(4.0) / effusivity(case), rel=0.015)


@pytest.mark.usefixtures("constant_iron")
def test_heat_divides_by_effusivity_in_a_short_stop() -> None:
    # Published: Charron 1943: two half-spaces with one face temperature share a flux as their effusivities; with it
    # that temperature rises by 2 q sqrt(t/pi)/(e_ring + A_pad/A_ring e_pad).
    duty = DescentDuty(kind="descent", grade=0.12, speed_mps=20.0, duration_s=4.0, then_s=0.0, then_speed_mps=0.0)
    case = thick_solid(duty=duty, front__cooling_factor=0.001, front__pad__conductivity_W_per_mK=3.0)
    case = changed(case, front__pad__thickness_m=0.02)
    grid = Grid(cells=40, pad_cells=30, widening=1.1, cooling_step_s=0.02)
    last = history(case, grid)[-1]
    covered = case.front.pad.area_m2 / partition.ring_area(case.front.rotor)
    both = effusivity(case) + covered * partition.pad_effusivity(case.front.pad)
    rise = 2.0 * flux(case, last[COLUMN["front_power_W"]]) * math.sqrt(4.0 / math.pi) / both
    assert last[COLUMN["front_surface_C"]] - 20.0 == pytest.approx(rise, rel=0.005)
    share = partition.rotor_heat_share(case.front.rotor, case.front.pad)
    assert share == pytest.approx(effusivity(case) / both)
    pads = 2 * 0.004 * 0.02 * 2600 * 950 * (last[COLUMN["front_pad_C"]] - 20.0)
    assert pads / simulate_one(case, grid).front.friction_energy_J == pytest.approx(1.0 - share, rel=0.01)


def test_ten_hours_of_drag_end_as_a_network_of_resistances() -> None:
    # Hand: nothing is stored any more, so the heat of one interface goes through two chains of resistances: through
    # the ring to its vanes and hub, and through pad, plate and caliper; and over the open face.
    duty = DescentDuty(kind="descent", grade=0.055, speed_mps=11.0, duration_s=36000.0, then_s=0.0, then_speed_mps=0.0)
    case = changed(load("van-city-drag"), duty=duty)
    axle, rotor, pad = case.front, case.front.rotor, case.front.pad
    air, pressure = case.environment.air_C, case.environment.pressure_Pa
    row = history(case)[-1]
    half_power = 0.5 * row[COLUMN["front_power_W"]]
    area = partition.ring_area(rotor)
    passage = vane_passage(rotor, case.vehicle.wheel_radius_front_m)
    length, vanes = rotor.outer_radius_m - rotor.inner_radius_m, rotor.vanes
    inside = (area - vanes * rotor.vane_thickness_m * length) + vanes * rotor.gap_m * length
    caliper = (10 + 3.5 * 11.0**0.8) * axle.caliper_area_m2 / 2

    def unbalanced(x: np.ndarray) -> list[float]:
        face, wall, plate, body = x.tolist()
        into_ring = area * (52 - 0.025 * 0.5 * (face + wall)) * (face - wall) / ((rotor.thickness_m - rotor.gap_m) / 2)
        into_pad = pad.conductivity_W_per_mK * pad.area_m2 * (face - plate) / pad.thickness_m
        on = (axle.backing_conductance_W_per_K / 2) * (plate - body)
        open_h = face_coefficient(11.0, 2 * rotor.outer_radius_m, face, air, pressure) * axle.cooling_factor
        lost = open_h * (face - air) + 0.55 * 5.670374419e-8 * ((face + 273.15) ** 4 - (air + 273.15) ** 4)
        vane_h = vane_coefficient(11.0, *passage, wall, air, pressure) * axle.cooling_factor
        out = (vane_h * inside + rotor.hub_conductance_W_per_K / 2) * (wall - air)
        return [
            half_power - into_ring - into_pad - (area - pad.area_m2) * lost,
            into_ring - out,
            into_pad - on,
            on - caliper * (body - air),
        ]

    face, _, plate, body = fsolve(unbalanced, [200.0, 190.0, 150.0, 100.0])
    assert row[COLUMN["front_surface_C"]] - air == pytest.approx(face - air, rel=0.005)
    assert row[COLUMN["front_pad_C"]] - air == pytest.approx((face + plate) / 2 - air, rel=0.005)
    assert row[COLUMN["front_fluid_C"]] - air == pytest.approx(body - air, rel=0.005)


@pytest.mark.usefixtures("constant_iron")
def test_insulated_slab_warms_evenly_with_a_parabola_across() -> None:
    # Published: Carslaw and Jaeger 1959, 3.8: after the start-up the surface leads the mean by q H/(3 k).
    duty = DescentDuty(kind="descent", grade=0.10, speed_mps=15.0, duration_s=8.0, then_s=0.0, then_speed_mps=0.0)
    case = changed(thick_solid(duty=duty), front__rotor__thickness_m=0.012, front__cooling_factor=0.01)
    rows = history(case, Grid(cells=30, pad_cells=30, widening=1.1, cooling_step_s=0.2))
    last = rows[-1]
    q = flux(case, last[COLUMN["front_power_W"]])
    lead = last[COLUMN["front_surface_C"]] - last[COLUMN["front_bulk_C"]]
    assert lead == pytest.approx(q * 0.006 / (3.0 * 50.0), rel=0.01)
    mean_rise = q * 8.0 / (7200 * 500.0 * 0.006)
    assert last[COLUMN["front_bulk_C"]] - 20.0 == pytest.approx(mean_rise, rel=0.005)


@pytest.mark.usefixtures("constant_iron")
def test_equal_stops_follow_the_geometric_series() -> None:
    # Published: Limpert 1999, ch. 3: after stop N the rise is dT (1 - r^N)/(1 - r) for a lumped ring.
    stop = Stop(from_mps=5.0, to_mps=2.0, decel_mps2=2.0, then_s=60.0, then_speed_mps=15.0)
    thin = changed(thick_solid(), front__rotor__thickness_m=0.006, front__pad__conductivity_W_per_mK=1e-6)
    case = changed(thin, duty=StopsDuty(kind="stops", stops=(stop,), repeat=10))
    bulk = [entry.front_bulk_C - 20.0 for entry in simulate_one(case).stops]
    ratio = (bulk[1] - bulk[0]) / bulk[0]
    series = [bulk[0] * (1 - ratio**n) / (1 - ratio) for n in range(1, 11)]
    assert 0.3 < ratio < 0.98
    # Air properties change with the film temperature: over these few kelvin h is constant to about 1 %.
    assert bulk == pytest.approx(series, rel=0.015)


@pytest.mark.usefixtures("constant_iron")
def test_long_descent_reaches_power_over_conductance() -> None:
    # Hand: at the end nothing is stored any more, so what enters equals what is lost, P = h A (T - T_a).
    duty = DescentDuty(kind="descent", grade=0.06, speed_mps=20.0, duration_s=14000.0, then_s=0.0, then_speed_mps=0.0)
    case = plain_case(duty=duty)
    rows = history(case)
    assert rows[-1, COLUMN["front_bulk_C"]] == pytest.approx(rows[-60, COLUMN["front_bulk_C"]], abs=0.2)
    short = simulate_one(changed(case, duty__duration_s=13900.0)).energy_account
    account = simulate_one(case).energy_account
    lost = account.lost_faces_J + account.lost_vanes_J + account.lost_hubs_J + account.lost_calipers_J
    before = short.lost_faces_J + short.lost_vanes_J + short.lost_hubs_J + short.lost_calipers_J
    assert lost - before == pytest.approx(account.friction_J - short.friction_J, rel=1e-3)


def test_a_hot_ring_at_rest_cools_by_radiation_and_natural_convection() -> None:
    # Independent: the lumped ring's own equation, integrated in small steps with the same k- and c-functions.
    duty = TraceDuty(kind="trace", t_s=(0.0, 600.0), v_mps=(0.0, 0.0))
    case = changed(
        small_case(),
        duty=duty,
        environment__start_C=600.0,
        front__rotor__gap_m=0.0,
        front__rotor__vanes=0,
        front__rotor__hub_conductance_W_per_K=0.0,
        front__pad__area_m2=1e-7,
    )
    temperature, half_mass = 600.0, 7200 * 0.01
    for _ in range(60000):
        radiated = 0.55 * 5.670374419e-8 * ((temperature + 273.15) ** 4 - 293.15**4)
        heat = min(690.0, 480.0 + 0.3 * temperature)
        temperature -= 0.01 * (7.0 * (temperature - 20.0) + radiated) / (half_mass * heat)
    assert simulate_one(case).front.end_bulk_C == pytest.approx(temperature, abs=2.0)


def test_the_observed_order_in_time_is_two() -> None:
    stop = Stop(from_mps=40.0, to_mps=10.0, decel_mps2=6.0, then_s=0.0, then_speed_mps=0.0)
    case = plain_case(duty=StopsDuty(kind="stops", stops=(stop,)))

    def last_surface(step: float) -> float:
        grid = Grid(first_step_s=step, braking_step_s=step, cooling_step_s=step, growth=1.0, braking_share=0)
        return float(history(case, grid)[-1, COLUMN["front_surface_C"]])

    reference = last_surface(0.005)
    errors = [abs(last_surface(step) - reference) for step in (1.0, 0.5, 0.25)]
    orders = [math.log2(errors[i] / errors[i + 1]) for i in range(2)]
    assert all(1.6 < order < 3.0 for order in orders), (errors, orders)


def test_the_observed_order_of_plain_cells_in_space_is_two() -> None:
    stop = Stop(from_mps=40.0, to_mps=10.0, decel_mps2=6.0, then_s=0.0, then_speed_mps=0.0)
    case = plain_case(duty=StopsDuty(kind="stops", stops=(stop,)))

    def peak(cells: int) -> float:
        return simulate_one(case, Grid(cells=cells, pad_cells=24, widening=1.1)).front.peak_surface_C

    reference = peak(60)
    errors = [abs(peak(cells) - reference) for cells in (3, 6, 12)]
    assert errors[0] > 2.5 * errors[1] > 2.5 * errors[2]
    assert errors[2] < 0.3
    # What few cells in their best places are worth: 6 of them against 12 plain ones.
    assert abs(simulate_one(case, Grid(cells=6, pad_cells=12)).front.peak_surface_C - reference) < errors[2]


@pytest.mark.parametrize(("slab", "cells", "allowed"), [("ring", 6, 3e-3), ("pad", 6, 3e-3), ("ring", 12, 4e-4)])
def test_a_ladder_answers_as_the_slab_does(slab: str, cells: int, allowed: float) -> None:
    # Published: Carslaw and Jaeger 1959, ch. 12: Laplace transforms of an insulated slab, q = sqrt(s).
    ladder = optimal_ladder(slab, cells)
    shares, links = ladder[0, :-1], ladder[1]
    assert shares.sum() == pytest.approx(1.0)
    assert links.sum() == pytest.approx(1.0)
    assert (ladder[0, :-1] > 0).all()
    assert (links > 0).all()
    for s in np.geomspace(0.1, 250.0, 25):
        # Up the ladder from its insulated back: what the rest draws for each kelvin at a node.
        drawn = 0.0
        for share, link in zip(shares[::-1], links[-2::-1], strict=True):
            drawn += s * share
            drawn = 1.0 / (1.0 / drawn + link)
        q = math.sqrt(s)
        if slab == "pad":
            assert drawn == pytest.approx(q * math.tanh(q), rel=allowed)
        else:
            lead = 1.0 / (q * math.tanh(q)) - 1.0 / s
            assert 1.0 / drawn - 1.0 / s == pytest.approx(lead, rel=allowed)
    with pytest.raises(FieldError, match="cells"):
        optimal_ladder(slab, 7)


@pytest.mark.parametrize("cells", [1, 2, 12, 40])
def test_plain_cells_fill_the_cheek_and_grow_inwards(cells: int) -> None:
    ladder = plain_ladder(cells, 1.25)
    assert ladder.sum(axis=1) == pytest.approx([1.0, 1.0])
    assert (np.diff(ladder[0, :-1]) > 0).all()
