"""The demo scenario: complete, invented, plausible, and each machine gets a sensible answer."""

from __future__ import annotations

import pytest

from tests.said import metric
from tests.workshop import duty_named, machine_named, today
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.catalogue.models import Family, Fluid, Pad, PadVariant, Provenance, Rotor
from thermaxis.apps.choose import choosing
from thermaxis.apps.garage import duty_mapping, mapping, querysets
from thermaxis.apps.garage.models import Circuit, Duty
from thermaxis.apps.solving.trying import NOTHING
from thermaxis.apps.workshop.actions.load_demo import load_demo
from thermaxis.apps.workshop.rail import stages
from thermaxis.core.planning.choice.choose import USES
from thermaxis.core.records import MATERIALS, PATTERNS


def test_the_scenario_is_complete(workshop: Workshop) -> None:
    assert querysets.machines(workshop).count() == 5
    pads = Pad.objects.of(workshop)
    assert pads.count() >= 14
    assert {pad.family for pad in pads} == set(Family.values)
    rotors = Rotor.objects.of(workshop)
    assert rotors.count() >= 12
    assert {rotor.material for rotor in rotors} == set(MATERIALS)
    assert {rotor.pattern for rotor in rotors} == set(PATTERNS)
    assert Fluid.objects.of(workshop).count() == 5
    assert Circuit.objects.of(workshop).count() == 3
    kinds = [duty.kind for duty in Duty.objects.of(workshop)]
    assert kinds.count("descent") == 2
    assert kinds.count("stops") == 2
    assert {duty.use for duty in Duty.objects.of(workshop)} == set(USES)


def test_loading_twice_changes_nothing(workshop: Workshop) -> None:
    before = Pad.objects.count(), PadVariant.objects.count()
    assert load_demo(today()) == workshop
    assert (Pad.objects.count(), PadVariant.objects.count()) == before
    assert Workshop.objects.count() == 1


def test_every_row_says_where_its_numbers_are_from(workshop: Workshop) -> None:
    for model in (Pad, Rotor, Fluid):
        assert {row.provenance for row in model.objects.of(workshop)} <= set(Provenance.values)
    assert {point.provenance for pad in Pad.objects.of(workshop) for point in pad.mu_points.all()} >= {
        "maker",
        "measured",
    }


def test_every_pad_row_is_plausible(workshop: Workshop) -> None:
    for pad in Pad.objects.of(workshop).prefetch_related("mu_points", "variants"):
        mus = [point.mu for point in pad.mu_points.all()]
        assert 0.15 <= min(mus) <= max(mus) <= 0.65, pad
        assert pad.bed_low_C < pad.bed_high_C <= pad.limit_C, pad
        assert pad.window_low_C < pad.window_high_C < pad.limit_C, pad
        assert 15 <= pad.wear_mm3_per_MJ <= 80, pad
        assert 0 <= pad.noise <= 5, pad
        for variant in pad.variants.all():
            assert 0.001 < variant.area_m2 < 0.01, pad
            assert 0.004 <= variant.thickness_m <= 0.016, pad
            assert 5 <= variant.price <= 400, pad


def test_every_rotor_row_is_plausible(workshop: Workshop) -> None:
    for rotor in Rotor.objects.of(workshop):
        assert 0.1 <= rotor.outer_radius_m <= 0.2, rotor
        assert rotor.discard_thickness_m < rotor.thickness_m, rotor
        assert rotor.discard_thickness_m / rotor.thickness_m >= 0.85 or rotor.thickness_m < 0.011, rotor
        assert (rotor.vanes > 0) == (rotor.gap_m > 0), rotor
        assert rotor.hub_conductance_W_per_K == (1.0 if rotor.two_piece else 3.0), rotor


# One line per machine: its duty, and the compound a person who knows brakes would expect to win there.
WINNERS = [
    ("Kit roadster", "Street mix", "Larkhill Ceramic"),
    ("Kit roadster", "Relay stint, Tarn loop", "Fellmark R3"),
    ("Electric hatch", "Hill-climb day", "Sallow Slalom"),
    ("Horse-box 4x4", "Hause pass with trailer", "Garth Road"),
    ("Middleweight twin", "Sprint day", "Tarn Sinter 1"),
    ("Parcel van", "Town parcel round", "Larkhill Haul"),
]


@pytest.mark.parametrize(("machine", "duty", "pad"), WINNERS)
def test_each_machine_gets_its_own_winner(workshop: Workshop, machine: str, duty: str, pad: str) -> None:
    chosen = machine_named(workshop, machine)
    chosen.duty = duty_named(workshop, duty)
    judged, _ = choosing.judged_candidates(choosing.offer_of(chosen, workshop), None, NOTHING)
    assert judged[0].rejected_for is None
    assert judged[0].candidate.pad == pad


def test_an_overloaded_descent_fades_street_pads_and_says_at_what_temperature(workshop: Workshop) -> None:
    chosen = machine_named(workshop, "Horse-box 4x4")
    chosen.duty = duty_named(workshop, "Scar brow, overloaded")
    judged, _ = choosing.judged_candidates(choosing.offer_of(chosen, workshop), None, NOTHING)
    street = [entry for entry in judged if entry.candidate.pad == "Burnside Quiet"]
    assert street
    for entry in street:
        assert entry.rejected_for == "pad fades"
        assert f"reaches {entry.figures.front_peak_C:.0f} °C" in metric(entry.reason)
        assert "400 °C" in metric(entry.reason)
    # And none is left: those that stand the heat keep the fluid under its point while new, and boil it once worn.
    assert {entry.rejected_for for entry in judged} == {"pad fades", "fluid boils, pads worn"}
    worn = [entry for entry in judged if entry.rejected_for == "fluid boils, pads worn"]
    assert {entry.candidate.pad for entry in worn} == {"Fellmark R2", "Garth Tow"}
    for entry in worn:
        assert entry.figures.fluid_margin_K > 0
        assert (entry.figures.worn_margin_K or 0.0) < -40


def test_every_machine_and_every_duty_can_be_computed(workshop: Workshop) -> None:
    for machine in querysets.machines(workshop):
        mapping.check(machine)
        for duty in querysets.duties(workshop):
            facts = duty_mapping.duty_facts(machine, duty)
            assert facts.event_hours > 0
            assert facts.event_km > 0


def test_rail_states_come_from_the_data(workshop: Workshop) -> None:
    machine = machine_named(workshop, "Kit roadster")
    states = {stage.name: stage.state for stage in stages(machine)}
    assert states == {
        "machine": "started",
        "inspect": "done",
        "duty": "done",
        "choose": "empty",
        "fit": "attention",
        "job": "started",
        "bed": "empty",
        "life": "done",
        "log": "done",
    }
    machine.estimates = []
    machine.duty = None
    states = {stage.name: stage.state for stage in stages(machine)}
    assert (states["machine"], states["duty"], states["life"]) == ("done", "empty", "empty")
