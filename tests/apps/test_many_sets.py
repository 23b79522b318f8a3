"""More sets than can be weighed: which are, that it is said, and that memory of solved ones stays bounded."""

from __future__ import annotations

import dataclasses

import pytest

from tests.workshop import Api, duty_named, machine_named
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.choose import choosing
from thermaxis.apps.fitted import offering
from thermaxis.apps.fitted.offering import MOST_SETS, MOST_STOPS, most_sets
from thermaxis.apps.solving import in_force, solver
from thermaxis.apps.solving.trying import NOTHING

pytestmark = pytest.mark.django_db


def test_of_too_many_pairs_the_best_alone_are_mixed_on_the_rotors_that_are_on(
    workshop: Workshop, monkeypatch: pytest.MonkeyPatch
) -> None:
    machine = machine_named(workshop, "Kit roadster")
    machine.duty = duty_named(workshop, "Relay stint, Tarn loop")
    every = choosing.offer_of(machine, workshop, mixed=True)
    alike = [entry for entry in every.candidates if entry.pad == entry.rear_pad]
    assert every.left_out == ""
    count = len(every.candidates)
    # Room for all compounds on one pair of rotors, then for some of them only.
    on_it = {key.split("-", 2)[2] for key in (every.fitted_key,)}
    compounds = len({entry.pad for entry in alike})
    pairs = compounds * (compounds - 1)
    monkeypatch.setattr(offering, "MOST_SETS", len(alike) + pairs)
    some = choosing.offer_of(machine, workshop, mixed=True)
    mixed = [entry for entry in some.candidates if entry.pad != entry.rear_pad]
    assert len(mixed) == pairs
    assert {entry.key.split("-", 2)[2] for entry in mixed} == on_it
    assert some.left_out.startswith(f"{count} sets fit this machine, too many")
    assert some.left_out.endswith("only on the rotors that are on now.")
    monkeypatch.setattr(offering, "MOST_SETS", len(alike) + 9)
    few = choosing.offer_of(machine, workshop, mixed=True)
    mixed = [entry for entry in few.candidates if entry.pad != entry.rear_pad]
    assert f"only the 3 of {compounds} compounds that do best alone" in few.left_out
    judged, _ = choosing.judged_candidates(choosing.offer_of(machine, workshop), None, NOTHING)
    best = list(dict.fromkeys(entry.candidate.pad for entry in judged))[:3]
    assert {entry.pad for entry in mixed} == {entry.rear_pad for entry in mixed} == set(best)
    assert len(mixed) == 6
    # Without mixing too: then on the rotors that are on.
    monkeypatch.setattr(offering, "MOST_SETS", compounds)
    alone = choosing.offer_of(machine, workshop)
    assert {entry.key.split("-", 2)[2] for entry in alone.candidates} == on_it
    assert "are on the rotors that are on now" in alone.left_out


def test_the_page_is_told(demo: Api, monkeypatch: pytest.MonkeyPatch) -> None:
    machine = f"/machines/{demo.machine('Kit roadster')['id']}"
    assert demo.post(f"{machine}/candidates", {"mixed": True})["left_out"] == ""
    monkeypatch.setattr(offering, "MOST_SETS", 30)
    demo.put(f"{machine}/duty", {"duty_id": demo.duty("Relay stint, Tarn loop")})
    found = demo.post(f"{machine}/candidates", {"mixed": True})
    assert found["total"] <= 30
    assert "too many to weigh at once" in found["left_out"]
    # What is shown can be fitted, whatever else there is.
    key = next(entry["key"] for entry in found["ranked"] if not entry["fitted"])
    assert demo.post(f"{machine}/set", {"key": key, "mixed": True})
    for odd in ("1-2-3", "1-2-3-4-5", "a-b-c-d", "9999999-1-1-1", "1-1-1-" + "9" * 40, "²-1-1-1"):
        demo.post(f"{machine}/set", {"key": odd}, 422)


def test_fewer_sets_are_weighed_on_a_duty_of_very_many_stops() -> None:
    assert most_sets(0) == most_sets(100) == MOST_SETS
    assert most_sets(10_000) == MOST_STOPS // 10_000
    assert most_sets(10**9) >= 2


def test_solved_cases_are_kept_up_to_so_many_and_so_many_stops(
    workshop: Workshop, monkeypatch: pytest.MonkeyPatch
) -> None:
    state = in_force.in_force(machine_named(workshop, "Kit roadster"))
    stops = len(state.result.stops)
    assert stops > 10
    monkeypatch.setattr(solver, "_results", type(solver._results)())
    monkeypatch.setattr(solver, "_stops", 0)
    monkeypatch.setattr(solver, "KEPT_STOPS", 3 * stops)
    case = state.setup.case
    cases = [
        dataclasses.replace(case, environment=dataclasses.replace(case.environment, air_C=float(air)))
        for air in range(5)
    ]
    assert len(solver.solve(cases)) == 5
    assert list(solver._results) == cases[2:]
    assert solver._stops == 3 * stops
    monkeypatch.setattr(solver, "KEPT", 2)
    solver.solve(cases[:1])
    assert list(solver._results) == [cases[4], cases[0]]
    # What is asked for again stays longer than what is not.
    solver.solve(cases[4:])
    solver.solve(cases[1:2])
    assert list(solver._results) == [cases[4], cases[1]]
