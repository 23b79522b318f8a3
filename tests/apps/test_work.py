"""Changes of data: fitting, measuring, keeping plans, changing machines; checked, atomic, reversible."""

from __future__ import annotations

import dataclasses
import datetime as dt
import json

import pytest

from tests.builders import decided, owner
from tests.workshop import duty_named, machine_named, today
from thermaxis import __version__
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.bed.actions.keep_plan import keep_plan, mark_done
from thermaxis.apps.bed.api.present import drawn_plan
from thermaxis.apps.catalogue.models import PadVariant
from thermaxis.apps.choose import choosing
from thermaxis.apps.choose.actions.fit_set import fit_set, undo_fit
from thermaxis.apps.choose.models import Decision
from thermaxis.apps.fitted import offering
from thermaxis.apps.fitted.actions.measure import REMOVE_MEASUREMENT, measure
from thermaxis.apps.fitted.models import PadMounting, RotorMounting
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.garage import duty_mapping, mapping
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.actions import set_removed
from thermaxis.apps.machine.actions.change_machine import change_machine
from thermaxis.apps.solving import bedding, in_force, life, solver
from thermaxis.apps.solving.mapping import CaseBuilder, with_what_if
from thermaxis.apps.solving.trying import NOTHING
from thermaxis.apps.workshop.rail import stages
from thermaxis.core.errors import FieldError, SolveError
from thermaxis.core.physics.convection import standard_pressure
from thermaxis.core.physics.simulate import simulate_one
from thermaxis.core.planning.bedding.setting import Road
from thermaxis.core.planning.life import intervals
from thermaxis.formats.case_file import read_case
from thermaxis.formats.units import said_of


def test_a_case_is_built_from_the_rows_and_nothing_else(workshop: Workshop) -> None:
    machine = machine_named(workshop, "Horse-box 4x4")
    facts = duty_mapping.duty_facts(machine, duty_named(workshop, "Hause pass with trailer"))
    standing = standing_of(machine)
    case = CaseBuilder(standing, facts.duty).case(standing.parts)
    assert case.vehicle.mass_kg == machine.mass_kg == 2480
    assert case.trailer is not None
    assert case.trailer.brake_share == 0.35
    assert case.environment.pressure_Pa == pytest.approx(standard_pressure(420))
    assert case.front.pad.thickness_m == standing.pads("front").size.thickness_m
    assert case.rear.rotor.outer_radius_m == pytest.approx(0.157)
    tried = with_what_if(case, 2.0, 35.0)
    assert (tried.front.cooling_factor, tried.environment.air_C) == (2 * case.front.cooling_factor, 35.0)


def test_regeneration_reaches_the_core(workshop: Workshop) -> None:
    hatch = mapping.vehicle_record(machine_named(workshop, "Electric hatch"))
    assert hatch.regen is not None
    assert (hatch.regen.axle, hatch.regen.max_power_W) == ("front", 70000)
    assert mapping.vehicle_record(machine_named(workshop, "Kit roadster")).regen is None


def test_candidates_are_what_the_axles_take(workshop: Workshop) -> None:
    machine = machine_named(workshop, "Kit roadster")
    parts = offering.choices_of(standing_of(machine)).alike()
    axles = {axle.position: axle for axle in machine.axles.all()}
    pads = PadVariant.objects.filter(pad__workshop=workshop, shape=axles["front"].pad_shape).count()
    assert len(parts) == pads * 5 * 2
    for entry in parts:
        assert entry.front_pad.shape == axles["front"].pad_shape
        assert entry.rear_pad.shape == axles["rear"].pad_shape
        assert entry.front_rotor.rotor is not None
        assert entry.front_rotor.rotor.mount == axles["front"].rotor_mount
        assert entry.front_pad.pad == entry.rear_pad.pad


def test_a_change_is_checked_saved_and_no_longer_an_estimate(workshop: Workshop) -> None:
    machine = machine_named(workshop, "Kit roadster")
    assert "vehicle.cg_height_m" in machine.estimates
    change_machine(
        owner(workshop),
        machine,
        {"vehicle.cg_height_m": 0.40, "front.piston_area_m2": 0.0021, "hydraulics.rear_knee_Pa": None},
    )
    again = machine_named(workshop, "Kit roadster")
    assert again.cg_height_m == 0.40
    assert again.rear_knee_Pa is None
    assert again.axles.get(position="front").piston_area_m2 == 0.0021
    assert "vehicle.cg_height_m" not in again.estimates


@pytest.mark.parametrize(
    ("path", "value", "named"),
    [
        ("vehicle.mass_kg", -1.0, "vehicle.mass_kg"),
        ("vehicle.mass_kg", None, "vehicle.mass_kg"),
        ("front.piston_area_m2", 3.0, "front.piston_area_m2"),
        ("environment.altitude_m", 9000.0, "environment.altitude_m"),
        ("fluid.fluid_age_months", -2.0, "fluid.fluid_age_months"),
        ("log.odometer_km", -5.0, "log.odometer_km"),
        ("trailer.mass_kg", 500.0, "trailer.mass_kg"),
        ("owner.name", 1.0, "owner.name"),
    ],
)
def test_a_wrong_change_names_its_path_and_saves_nothing(
    workshop: Workshop, path: str, value: float | None, named: str
) -> None:
    machine = machine_named(workshop, "Kit roadster")
    with pytest.raises(FieldError) as caught:
        change_machine(owner(workshop), machine, {"vehicle.wheelbase_m": 2.5, path: value})
    assert caught.value.path == named
    assert machine_named(workshop, "Kit roadster").wheelbase_m == 2.31


def fit(workshop: Workshop, machine: Machine, key: str, renew: tuple[str, ...] = ()) -> Decision:
    return fit_set(owner(workshop), machine, key, on=today(), content=decided(), title="A set", renew=renew)


def test_fitting_keeps_the_inputs_so_that_they_solve_again(workshop: Workshop) -> None:
    machine = machine_named(workshop, "Kit roadster")
    before = standing_of(machine)
    judged, _ = choosing.judged_candidates(choosing.offer_of(machine, workshop), None, NOTHING)
    decision = fit(workshop, machine, judged[0].candidate.key)
    pads = PadMounting.objects.get(pk=before.axles["front"].pads.pk)
    assert (pads.until_on, pads.until_km) == (today(), machine.odometer_km)
    assert decision.engine_version == __version__
    # A year later: the kept inputs are a case file of their own.
    kept = read_case(json.dumps(decision.inputs))
    assert simulate_one(kept).front.peak_surface_C == pytest.approx(judged[0].result.front.peak_surface_C, abs=1e-9)
    assert undo_fit(owner(workshop), machine).axles == before.axles
    assert PadMounting.objects.filter(machine=machine, until_on=None).count() == 2
    assert RotorMounting.objects.filter(machine=machine).count() == 2
    decision.refresh_from_db()
    assert decision.fitting is None


def test_a_set_with_history_is_not_undone_away(workshop: Workshop) -> None:
    machine, scope = machine_named(workshop, "Kit roadster"), owner(workshop)
    with pytest.raises(SolveError, match="no earlier set"):
        undo_fit(scope, machine)
    judged, _ = choosing.judged_candidates(choosing.offer_of(machine, workshop), None, NOTHING)
    fit(workshop, machine, judged[3].candidate.key)
    keep_plan(scope, machine, "moderate", Road(top_speed_mps=30.0, hard_g=0.6))
    with pytest.raises(SolveError, match="bedded or measured"):
        undo_fit(scope, machine)
    with pytest.raises(FieldError, match="key"):
        fit(workshop, machine, "1-2-3-4")
    with pytest.raises(FieldError, match="renew"):
        fit(workshop, machine, judged[3].candidate.key, ("middle_pads",))


def test_a_measurement_moves_the_forecast_and_can_be_taken_out(workshop: Workshop) -> None:
    machine = machine_named(workshop, "Electric hatch")
    before = life.life_rows(in_force.in_force(machine), None)[0]
    assert not before.measured
    row = measure(owner(workshop), machine, "front", 0.0080, 31400.0, today())
    assert machine.odometer_km == 31400.0
    after = life.life_rows(in_force.in_force(machine), None)[0]
    assert after.measured
    assert after.remaining.thickness_m == pytest.approx(0.008)
    assert after.scale.median > 1.0
    assert after.due_events < before.due_events
    assert (
        after.remaining.events_p90 / after.remaining.events_p10
        < before.remaining.events_p90 / before.remaining.events_p10
    )
    set_removed(owner(workshop), REMOVE_MEASUREMENT, row, True)
    assert not life.life_rows(in_force.in_force(machine), None)[0].measured
    set_removed(owner(workshop), REMOVE_MEASUREMENT, row, False)
    assert life.life_rows(in_force.in_force(machine), None)[0] == after


@pytest.mark.parametrize(
    ("axle", "thickness", "km", "day", "path"),
    [
        ("middle", 0.005, 32000.0, 0, "axle"),
        ("front", 0.0125, 32000.0, 0, "thickness_m"),
        ("front", -0.001, 32000.0, 0, "thickness_m"),
        ("front", 0.005, 100.0, 0, "odometer_km"),
        ("front", 0.005, 32000.0, -3000, "measured_on"),
        ("front", 0.005, 32000.0, 2, "measured_on"),
    ],
)
def test_a_reading_that_cannot_be_is_refused(
    workshop: Workshop, axle: str, thickness: float, km: float, day: int, path: str
) -> None:
    machine = machine_named(workshop, "Electric hatch")
    with pytest.raises(FieldError) as caught:
        measure(owner(workshop), machine, axle, thickness, km, today() + dt.timedelta(days=day))
    assert caught.value.path == path


def test_pads_do_not_grow(workshop: Workshop) -> None:
    machine = machine_named(workshop, "Electric hatch")
    measure(owner(workshop), machine, "front", 0.0080, 31400.0, today())
    with pytest.raises(FieldError, match="measured before"):
        measure(owner(workshop), machine, "front", 0.0085, 31500.0, today())


def test_past_distance_counts_as_the_duty_the_set_was_fitted_for(workshop: Workshop) -> None:
    machine = machine_named(workshop, "Kit roadster")
    street = life.life_rows(in_force.in_force(machine), "minimum")[0]
    machine.duty = duty_named(workshop, "Relay stint, Tarn loop")
    relay = life.life_rows(in_force.in_force(machine), "minimum")[0]
    assert relay.remaining.thickness_m == pytest.approx(street.remaining.thickness_m)
    # What the street says of these pads says something of the track, and less.
    assert relay.scale.median == pytest.approx(street.scale.median, rel=0.03)
    assert relay.scale.sigma > street.scale.sigma
    assert relay.computed_per_event_m > 10 * street.computed_per_event_m


def test_life_by_hand(workshop: Workshop) -> None:
    # Hand: what is left over what one event wears, times the duty's distance, hours and pace.
    machine = machine_named(workshop, "Parcel van")
    state = in_force.in_force(machine)
    front, rear = life.life_rows(state, "minimum")
    for row in (front, rear):
        assert row.due_events == pytest.approx((row.remaining.thickness_m - 0.003) / row.remaining.wear_per_event_m)
        assert row.due_km == pytest.approx(row.due_events * 22)
        assert row.due_hours == pytest.approx(row.due_events * state.facts.event_hours)
        assert row.due_on is not None
        assert abs((row.due_on - today()).days - 30.44 * row.due_events / 110) <= 1
    assert intervals.default_school("delivery", "truck") == "minimum"


def test_a_kept_plan_is_the_engine_s_own(workshop: Workshop) -> None:
    machine = machine_named(workshop, "Kit roadster")
    road = Road(top_speed_mps=30.0, hard_g=0.6)
    plan, setting = bedding.plan_of(standing_of(machine), road, "rising")
    record = keep_plan(owner(workshop), machine, "rising", road)
    assert said_of(record.plan["text"]) == plan.text
    assert record.order == {"school": "rising", **dataclasses.asdict(road)}
    assert bedding.rows_from(record.plan["rows"]) == plan.rows
    assert record.plan["windows"]["front"] == dataclasses.asdict(setting.front)
    assert mark_done(owner(workshop), record, today()).done_on == today()
    assert {stage.name: stage.state for stage in stages(machine)}["bed"] == "done"
    assert mark_done(owner(workshop), record, None).done_on is None


def test_a_plan_stored_in_millimetres_reads_the_same_and_one_without_its_wear_is_refused(workshop: Workshop) -> None:
    machine = machine_named(workshop, "Kit roadster")
    plan = keep_plan(owner(workshop), machine, "moderate", Road(top_speed_mps=28.0, hard_g=0.6)).plan
    without = {name: value for name, value in plan.items() if not name.startswith("wear_")}
    older = without | {f"wear_{axle}_mm": 1e3 * plan[f"wear_{axle}_m"] for axle in ("front", "rear")}
    assert drawn_plan(older).wear_front_m == pytest.approx(plan["wear_front_m"])
    with pytest.raises(KeyError, match="wear_front"):
        drawn_plan(without)


def test_solved_cases_are_kept_and_bounded(workshop: Workshop, monkeypatch: pytest.MonkeyPatch) -> None:
    machine = machine_named(workshop, "Kit roadster")
    case = in_force.in_force(machine).setup.case
    first = solver.solve([case, case])
    assert first[0] is first[1]
    assert solver.solve([case])[0] is first[0]
    monkeypatch.setattr(solver, "KEPT", 1)
    solver.solve([with_what_if(case, 1.5, None), with_what_if(case, 1.6, None)])
    assert len(solver._results) == 1


def test_without_a_duty_or_a_set_the_answer_says_what_comes_first(workshop: Workshop) -> None:
    machine = machine_named(workshop, "Kit roadster")
    machine.duty = None
    with pytest.raises(SolveError, match="Choose a duty first"):
        in_force.in_force(machine)
    PadMounting.objects.filter(machine=machine).update(until_on=today())
    with pytest.raises(SolveError, match="Fit a set first"):
        standing_of(machine)
