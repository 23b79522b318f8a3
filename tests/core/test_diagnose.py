"""Symptoms to causes: ten scripted cases written before the table was tuned, and the table itself row by row."""

from __future__ import annotations

import csv
from importlib import resources

import pytest
from hypothesis import given
from hypothesis import strategies as st

from thermaxis.core.errors import FieldError
from thermaxis.core.planning.inspection.diagnose import diagnose, evidence_texts

# What a driver and an inspection say, and the cause a person who knows brakes would name first or second.
CASES = {
    "stuck pins": (["one_wheel_dusty", "hot_smell", "found_inner_thin"], "slide_pins"),
    "seized piston": (["pulls_hard_braking", "one_wheel_hot", "found_taper", "found_pins_free"], "seized_piston"),
    "swollen hose": (
        ["drags_after_release", "pulls_hard_braking", "found_pins_free", "found_piston_free"],
        "swollen_hose",
    ),
    "one dusty wheel with pull": (["one_wheel_dusty", "pulls_hard_braking"], "seized_piston"),
    "cold squeal on good pads": (["squeal_cold_only", "found_pads_thick"], "cold_compound"),
    "shake at speed with thickness variation": (
        ["shake_in_wheel", "shake_in_seat_or_pedal", "found_variation_high"],
        "thickness_variation",
    ),
    "wear tab": (["squeal_constant", "found_at_tab"], "worn_pads"),
    "cracked drilled rotor": (["clicks_each_turn_braking", "found_crack"], "cracked_rotor"),
    "lost chamfer": (["shake_in_seat_or_pedal", "found_chamfer_lost"], "worn_chamfer"),
    "clicking hub": (["clicks_pulling_away", "found_bearing_play"], "hub_bearing"),
}


@pytest.mark.parametrize("case", CASES)
def test_the_right_cause_is_first_or_second(case: str) -> None:
    seen, cause = CASES[case]
    assert cause in [entry.name for entry in diagnose(seen).causes[:2]]


@given(seen=st.lists(st.sampled_from(sorted(evidence_texts())), min_size=1, max_size=6))
def test_only_what_something_speaks_for_is_ranked_and_every_cause_says_why_and_what_next(seen: list[str]) -> None:
    found = diagnose(seen)
    for cause in found.causes:
        assert any(reason.weight > 0 for reason in cause.reasons), cause.name
        assert cause.check
        assert {reason.evidence for reason in cause.reasons} <= set(seen)
    shares = [cause.share for cause in found.causes]
    assert shares == sorted(shares, reverse=True)
    # The rest is something else: causes nothing was noticed of are not ranked by how common they are.
    assert 0 <= sum(shares) < 1
    assert bool(found.next_check) == bool(found.causes)
    # In what order things are said does not matter.
    assert diagnose(reversed(seen)).causes == diagnose(dict.fromkeys(reversed(seen))).causes


@pytest.mark.parametrize(
    ("seen", "cause"),
    [
        (["pedal_sinks"], "master_cylinder"),
        (["hard_pedal"], "booster"),
        (["after_parking_brake", "one_wheel_hot"], "parking_actuator"),
        (["pulls_hard_braking", "found_wet", "hard_pedal"], "contaminated_linings"),
    ],
)
def test_causes_that_are_easily_forgotten_are_there(seen: list[str], cause: str) -> None:
    assert cause in [entry.name for entry in diagnose(seen).causes[:2]]


def test_one_symptom_leaves_more_than_one_cause_open() -> None:
    for name, (kind, _) in evidence_texts().items():
        if kind != "found":
            assert diagnose([name]).causes[0].share < 0.6, name


def test_a_finding_raises_its_cause_and_its_opposite_lowers_it() -> None:
    def share(*seen: str) -> float:
        return next((cause.share for cause in diagnose(seen).causes if cause.name == "slide_pins"), 0.0)

    assert (
        share("one_wheel_dusty", "found_pins_stiff")
        > share("one_wheel_dusty")
        > share("one_wheel_dusty", "found_pins_free")
    )


def test_some_lead_away_from_the_brakes() -> None:
    assert diagnose(["shake_without_brake"]).causes[0].place == "elsewhere"
    assert diagnose(["clicks_pulling_away"]).causes[0].place == "elsewhere"


def table(name: str) -> list[dict[str, str]]:
    return list(
        csv.DictReader(resources.files("thermaxis.core").joinpath(f"data/{name}.csv").read_text("utf-8").splitlines())
    )


def test_every_row_of_the_table_is_plausible_and_has_its_source() -> None:
    causes, rules = {row["cause"] for row in table("causes")}, table("symptom_rules")
    assert {row["evidence"] for row in rules} == set(evidence_texts())
    assert {row["cause"] for row in rules} <= causes
    assert len({(row["evidence"], row["cause"]) for row in rules}) == len(rules)
    for row in rules:
        assert 0.2 <= abs(float(row["weight"])) <= 3.5, row
    for name in ("causes", "symptom_rules", "checks", "evidence"):
        assert all(row["source"] for row in table(name)), name
    assert {cause for row in table("checks") for cause in row["settles"].split(";")} == causes


def test_what_is_not_in_the_list_is_named() -> None:
    with pytest.raises(FieldError, match=r"evidence\[1\]"):
        diagnose(["grinding", "whistles"])
    with pytest.raises(FieldError, match="at least one"):
        diagnose([])
