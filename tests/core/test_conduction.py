"""Analytic solutions of heat conduction against the engine: the section 9 checks of the reference model."""

from __future__ import annotations

import math

import numpy as np
import pytest

from tests.cases_data import changed, plain_case
from thermaxis.core.physics import partition
from thermaxis.core.physics.batch import Grid
from thermaxis.core.physics.conduction import cell_fractions
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
    """A car on thick solid rotors: half a rotor is a half-space for a few seconds."""
    thick = {"thickness_m": 0.1, "gap_m": 0.0, "vanes": 0, "vane_thickness_m": 0.0, "hub_conductance_W_per_K": 0.0}
    edits = {f"{axle}__rotor__{name}": value for axle in ("front", "rear") for name, value in thick.items()}
    return plain_case(**edits, **changes)


def effusivity(case: Case) -> float:
    return partition.rotor_effusivity(case.front.rotor)


def flux(case: Case, power: float) -> float:
    """Flux into one face of a front rotor that takes `power` W of friction."""
    share = partition.rotor_heat_share(case.front.rotor, case.front.pad)
    return share * power / (2.0 * partition.ring_area(case.front.rotor))


@pytest.mark.usefixtures("constant_iron")
def test_constant_flux_into_a_half_space_rises_with_the_root_of_time() -> None:
    # Published: Carslaw and Jaeger 1959, 2.9: dT = 2 q sqrt(t/pi)/e. Convection is turned down out of the way.
    duty = DescentDuty(kind="descent", grade=0.12, speed_mps=20.0, duration_s=4.0, then_s=0.0, then_speed_mps=0.0)
    case = thick_solid(duty=duty, front__cooling_factor=0.02)
    rows = history(case, Grid(cells=40, cooling_step_s=0.05))
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
    rows = history(case, Grid(cells=40, braking_step_s=0.02, braking_share=0.005))
    surface = rows[:, COLUMN["front_surface_C"]]
    peak = int(np.argmax(surface))
    q0 = flux(case, rows[1, COLUMN["front_power_W"]] / rows[1, COLUMN["v_mps"]] * 30.0)
    assert rows[peak, 0] == pytest.approx(2.0, rel=0.03)
    assert surface[peak] - 20.0 == pytest.approx(0.532 * q0 * math.sqrt(4.0) / effusivity(case), rel=0.015)


@pytest.mark.usefixtures("constant_iron")
def test_insulated_slab_warms_evenly_with_a_parabola_across() -> None:
    # Published: Carslaw and Jaeger 1959, 3.8: after the start-up the surface leads the mean by q H/(3 k).
    duty = DescentDuty(kind="descent", grade=0.10, speed_mps=15.0, duration_s=8.0, then_s=0.0, then_speed_mps=0.0)
    case = changed(thick_solid(duty=duty), front__rotor__thickness_m=0.012, front__cooling_factor=0.01)
    rows = history(case, Grid(cells=30, cooling_step_s=0.2))
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
    thin = changed(thick_solid(), front__rotor__thickness_m=0.006, front__pad__conductivity_W_per_mK=0.01)
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
        grid = Grid(cells=12, first_step_s=step, braking_step_s=step, cooling_step_s=step, growth=1.0, braking_share=0)
        return float(history(case, grid)[-1, COLUMN["front_surface_C"]])

    reference = last_surface(0.005)
    errors = [abs(last_surface(step) - reference) for step in (1.0, 0.5, 0.25)]
    orders = [math.log2(errors[i] / errors[i + 1]) for i in range(2)]
    assert all(1.6 < order < 3.0 for order in orders), (errors, orders)


def test_the_observed_order_in_space_is_two() -> None:
    stop = Stop(from_mps=40.0, to_mps=10.0, decel_mps2=6.0, then_s=0.0, then_speed_mps=0.0)
    case = plain_case(duty=StopsDuty(kind="stops", stops=(stop,)))
    reference = simulate_one(case, Grid(cells=60)).front.peak_surface_C
    errors = [abs(simulate_one(case, Grid(cells=cells)).front.peak_surface_C - reference) for cells in (3, 6, 12)]
    assert errors[0] > 2.5 * errors[1] > 2.5 * errors[2]
    assert errors[2] < 0.3


@pytest.mark.parametrize("cells", [1, 2, 12, 40])
def test_cells_fill_the_cheek_and_grow_inwards(cells: int) -> None:
    fractions = cell_fractions(cells)
    assert fractions.sum() == pytest.approx(1.0)
    assert (np.diff(fractions) > 0).all()
