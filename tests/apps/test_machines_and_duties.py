"""Rows behind machines and duties: what a duty changes, what stays open, whose parts are whose."""

from __future__ import annotations

import dataclasses
import zlib

import pytest

from tests.builders import owner
from tests.workshop import duty_named, machine_named, today
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.duty import recorded
from thermaxis.apps.duty.actions.keep_run import keep_run
from thermaxis.apps.fitted.actions.correct import change_parts, part_values
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.garage import duty_mapping, mapping, querysets
from thermaxis.apps.garage.mapping import Conditions
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.garage.shapes import Sections
from thermaxis.apps.log.actions import set_removed
from thermaxis.apps.machine import whatif
from thermaxis.apps.machine.actions import change_machine
from thermaxis.apps.machine.actions.add_machine import copy_machine
from thermaxis.apps.machine.actions.change_machine import REMOVE_MACHINE
from thermaxis.apps.solving import in_force
from thermaxis.core.errors import FieldError
from thermaxis.core.planning.duty.duties import GEARS
from thermaxis.core.records import TraceDuty
from thermaxis.devices.run_logger import LoggerSettings
from thermaxis.formats.speed_log import Use


def test_conditions_change_only_what_they_say(workshop: Workshop) -> None:
    hauler = machine_named(workshop, "Horse-box 4x4")
    hatch = machine_named(workshop, "Electric hatch")
    assert mapping.trailer_record(hauler) is not None
    assert mapping.trailer_record(hauler, Conditions(without_trailer=True)) is None
    hauler.towing = False
    assert mapping.trailer_record(hauler) is None
    assert mapping.vehicle_record(hatch).regen is not None
    full = mapping.vehicle_record(hatch, Conditions(battery_full=True))
    assert full == dataclasses.replace(mapping.vehicle_record(hatch), regen=None)
    high = mapping.environment_record(hatch, Conditions(air_C=31.0, altitude_m=2000.0))
    assert high.air_C == 31.0
    assert high.pressure_Pa == pytest.approx(79495, rel=1e-3)  # published: ISO 2533, 2000 m
    with pytest.raises(FieldError, match=r"environment.altitude_m"):
        mapping.environment_record(hatch, Conditions(altitude_m=9000.0))


def test_ducts_of_a_duty_multiply_the_machine_s_cooling(workshop: Workshop) -> None:
    roadster = machine_named(workshop, "Kit roadster")
    duty = duty_named(workshop, "Relay stint, Tarn loop")
    duty.duct_factor = 1.4
    roadster.duty = duty
    state = in_force.in_force(roadster)
    assert state.setup.case.front.cooling_factor == pytest.approx(1.4 * 1.5)
    duty.duct_factor = 1.0
    cooler = state.result.front.peak_surface_C
    assert cooler < in_force.in_force(roadster).result.front.peak_surface_C - 20


def test_a_gear_of_the_pass_matters_by_the_machine_s_own_engine(workshop: Workshop) -> None:
    hauler = machine_named(workshop, "Horse-box 4x4")
    plan = duty_mapping.plan_of(duty_named(workshop, "Hause pass, section by section"))
    assert isinstance(plan.shape, Sections)
    assert {section.gear for section in plan.shape.sections} == set(GEARS)
    lower = duty_mapping.facts_of(hauler, plan).duty
    hauler.engine_braking_N = 0.0
    free = duty_mapping.facts_of(hauler, plan).duty
    assert isinstance(lower, TraceDuty)
    assert isinstance(free, TraceDuty)
    assert lower.v_mps == free.v_mps
    # Held by the engine as if the hill were less steep; without an engine every gear is the same hill.
    assert min(free.grade or ()) == pytest.approx(-0.11)
    assert min(lower.grade or ()) > min(free.grade or ())


def test_a_day_is_driven_in_its_own_air(workshop: Workshop) -> None:
    roadster = machine_named(workshop, "Kit roadster")
    plan = duty_mapping.plan_of(duty_named(workshop, "Relay day with the drive"))
    facts = duty_mapping.facts_of(roadster, plan)
    assert isinstance(facts.duty, TraceDuty)
    # Two stints of 22 minutes, a cool-down lap each, and twice the commuter's day.
    assert 2 * 22 / 60 < facts.event_hours < 4.5
    assert facts.duty.t_s[-1] > 2700 + 2 * 5400
    thin = dataclasses.replace(plan, conditions=Conditions(altitude_m=2500.0))
    # Thinner air, less drag: the same circuit is driven faster, so the day is shorter.
    faster = duty_mapping.facts_of(roadster, thin)
    assert isinstance(faster.duty, TraceDuty)
    assert faster.duty.t_s[-1] < facts.duty.t_s[-1]


def test_estimates_fill_what_is_left_open_and_follow_what_is_known(workshop: Workshop) -> None:
    twin = machine_named(workshop, "Middleweight twin")
    twin.wheel_radius_front_m = 0.296
    found = mapping.open_values(twin, ["vehicle.wheel_radius_rear_m"])
    assert found == {"vehicle.wheel_radius_rear_m": 0.296}
    mapping.apply_changes(twin, {}, ["vehicle.cg_height_m"])
    assert twin.cg_height_m == 0.61
    assert twin.estimates.count("vehicle.cg_height_m") == 1
    twin.vehicle_class = ""
    with pytest.raises(FieldError, match="vehicle_class"):
        mapping.open_values(twin, ["vehicle.cg_height_m"])


def test_a_copy_shares_nothing_that_can_be_measured(workshop: Workshop) -> None:
    scope, roadster = owner(workshop), machine_named(workshop, "Kit roadster")
    change_parts(scope, roadster, {"front.rotor.thickness_m": 0.0195, "front.pad.thickness_m": 0.009})
    twin = copy_machine(scope, machine_named(workshop, "Kit roadster"), "Second roadster", today())
    first, second = standing_of(roadster), standing_of(twin)
    assert part_values(first) == part_values(second)
    for axle in ("front", "rear"):
        assert first.pads(axle) != second.pads(axle)
        assert first.rotors(axle) != second.rotors(axle)
    change_parts(scope, twin, {"front.rotor.thickness_m": 0.0191, "front.pad.thickness_m": 0.008})
    assert part_values(standing_of(roadster))["front.rotor.thickness_m"] == 0.0195
    assert part_values(standing_of(twin))["front.rotor.thickness_m"] == 0.0191
    assert part_values(standing_of(roadster))["front.pad.thickness_m"] == 0.009
    assert part_values(standing_of(twin))["front.pad.thickness_m"] == 0.008
    # The copy starts with the fluid as old as it is, and with no history.
    assert second.fluid_months == first.fluid_months
    assert not second.pads("front").readings.exists()


def test_an_estimate_at_the_end_of_what_is_allowed_moves_one_way_only(workshop: Workshop) -> None:
    roadster = machine_named(workshop, "Kit roadster")
    roadster.pedal_efficiency = 1.0
    state = in_force.in_force(roadster)
    found = next(move for move in whatif.moves(state) if move.field == "hydraulics.pedal_efficiency")
    assert found.low == pytest.approx(0.95)
    assert found.high == 1.0
    assert found.pedal_N[0] < 0 == found.pedal_N[1]


def test_a_kept_run_gives_back_the_file_it_came_from(workshop: Workshop) -> None:
    roadster = machine_named(workshop, "Kit roadster")
    content = recorded.log_a_run(
        roadster, duty_named(workshop, "Sprint day"), LoggerSettings(rate_Hz=5.0), "csv", 9
    ).content
    uses = [Use(column=0, role="time", unit="s"), Use(column=1, role="speed", unit="km/h")]
    duty = keep_run(owner(workshop), "Sprints, logged", "sprint.csv", content, uses, "auto")
    assert duty.run is not None
    assert zlib.decompress(bytes(duty.run.file.content)) == content
    assert duty.run.summary["rows"] > 1000
    # Without a temperature column there is nothing to calibrate with.
    assert recorded.temperature_logs(duty.run) == {}
    again = querysets.duties(workshop).get(pk=duty.pk)
    assert duty_mapping.duty_facts(roadster, again).duty == duty_mapping.duty_facts(roadster, duty).duty


def test_changes_that_began_from_the_same_reading_do_not_write_each_other_away(workshop: Workshop) -> None:
    first, second, third = (machine_named(workshop, "Middleweight twin") for _ in range(3))
    scope = owner(workshop)
    set_removed(scope, REMOVE_MACHINE, first, True)
    change_machine.change_words(scope, second, {"name": "Twin on wets"})
    change_machine.change_machine(scope, third, {"vehicle.tyre_grip": 0.7, "front.caliper_mass_kg": 1.9})
    now = Machine.objects.get(pk=first.pk)
    assert (now.name, now.tyre_grip, now.removed_at is not None) == ("Twin on wets", 0.7, True)
    assert now.axles.get(position="front").caliper_mass_kg == 1.9
