"""Ranges, questions, calibration and the progress of long work, over the API."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import Any

import pytest

from tests.said import metric
from tests.workshop import Api, assert_problem, machine_named
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.fitted.models import Calibration
from thermaxis.apps.solving import in_force, progress
from thermaxis.core.errors import Stopped
from thermaxis.core.physics.batch import Watch
from thermaxis.core.physics.schedule import After
from thermaxis.core.physics.simulate import history, simulate_one
from thermaxis.core.planning.explain.why import scaled
from thermaxis.core.records import Case
from thermaxis.core.results import HISTORY_FIELDS

WHAT_IF = {"cooling_factor": 1.0, "air_C": None}
HIDDEN = 1.4


@pytest.fixture
def machine(demo: Api) -> str:
    """The roadster on the sprint-length duty that keeps sweeps short."""
    return f"/machines/{demo.machine('Middleweight twin')['id']}"


@pytest.fixture
def case(workshop: Workshop) -> Case:
    return in_force.in_force(machine_named(workshop, "Middleweight twin")).setup.case


def readings_of(case: Case, errors: tuple[float, ...] = (0.0, 0.0, 0.0)) -> list[dict[str, Any]]:
    """What a pyrometer would say about the front rings if they were cooled HIDDEN times as well as entered."""
    truth = scaled(case, "front.cooling_factor", HIDDEN)
    return [
        {
            "kind": "pyrometer",
            "axle": "front",
            "since_s": since,
            "speed_mps": 12.0,
            "value_C": simulate_one(truth, after=After(since, 12.0)).front.end_surface_C + error,
        }
        for since, error in zip((20.0, 90.0, 200.0), errors, strict=True)
    ]


def calibrate(demo: Api, machine: str, evidence: list[dict[str, Any]], *, keep: bool, status: int = 200) -> Any:
    return demo.post(f"{machine}/calibrations", {"evidence": evidence, "keep": keep}, status)


# --- ranges ---------------------------------------------------------------------------------------------------------


def test_every_reading_has_a_range_around_it(demo: Api, machine: str) -> None:
    verdict = {entry["name"]: entry for entry in demo.post(f"{machine}/verdict", WHAT_IF)["readings"]}
    found = demo.post(f"{machine}/ranges", WHAT_IF)
    assert found["draws"] == 128
    assert not found["calibrated"]
    assert [entry["name"] for entry in found["ranges"]] == ["rotor", "window", "pedal", "fluid", "life"]
    for entry in found["ranges"]:
        value = verdict[entry["name"]]["value"]
        assert entry["p10"] <= entry["p50"] <= entry["p90"]
        assert entry["fill_low"] <= verdict[entry["name"]]["fill"] + 0.05
        assert min(entry["p10"], 0.9 * value) <= value <= max(entry["p90"], 1.1 * value), entry
    assert {(entry["limit"], entry["axle"]) for entry in found["crossings"]} == {
        (limit, axle) for limit in ("pad", "rotor", "fluid", "fluid, worn pads") for axle in ("front", "rear")
    } | {("pedal", "")}
    hotter = demo.post(f"{machine}/ranges", {"cooling_factor": 0.5, "air_C": 40.0})
    assert hotter["ranges"][0]["p50"] > found["ranges"][0]["p50"] + 10.0
    assert demo.post(f"{machine}/ranges", WHAT_IF) == found


# --- questions ------------------------------------------------------------------------------------------------------


def test_each_duty_poses_its_own_questions_and_every_one_has_an_answer(demo: Api) -> None:
    wanted = {
        "Kit roadster": ["most_repeats", "cooling_needed", "cool_down"],
        "Middleweight twin": ["most_repeats", "cooling_needed"],
        "Horse-box 4x4": ["greatest_speed", "greatest_trailer", "cooling_needed"],
    }
    roadster = demo.machine("Kit roadster")["id"]
    demo.put(f"/machines/{roadster}/duty", {"duty_id": demo.duty("Relay stint, Tarn loop")})
    for name, expected in wanted.items():
        path = f"/machines/{demo.machine(name)['id']}"
        assert demo.get(f"{path}/questions")["questions"] == expected
        for question in expected:
            found = demo.post(f"{path}/answer", {**WHAT_IF, "question": question})
            assert found["outcome"] in ("value", "all", "none")
            assert (found["value"] is None) == (found["outcome"] == "none")
            assert metric(found["text"]).endswith(".")


def test_a_what_if_moves_the_answer(demo: Api) -> None:
    path = f"/machines/{demo.machine('Horse-box 4x4')['id']}"
    ask = {"question": "greatest_trailer", "air_C": None}
    plain = demo.post(f"{path}/answer", {**ask, "cooling_factor": 1.0})
    starved = demo.post(f"{path}/answer", {**ask, "cooling_factor": 0.4})
    assert (starved["value"] or 0.0) < (plain["value"] or 0.0)


def test_a_question_the_duty_does_not_pose_is_refused(demo: Api, machine: str) -> None:
    document = demo.post(f"{machine}/answer", {**WHAT_IF, "question": "greatest_trailer"}, 422)
    assert_problem(document, 422, "question", "most_repeats")


# --- calibration ----------------------------------------------------------------------------------------------------


def test_a_calibration_is_tried_kept_used_everywhere_and_removed(demo: Api, machine: str, case: Case) -> None:
    peak = demo.post(f"{machine}/verdict", WHAT_IF)["readings"][0]["value"]
    wide = demo.post(f"{machine}/ranges", WHAT_IF)["ranges"][0]
    tried = calibrate(demo, machine, readings_of(case, (6.0, -8.0, 4.0)), keep=False)
    assert tried["id"] is None
    assert tried["front"]["cooling"] == pytest.approx(HIDDEN, rel=0.10)
    assert tried["rear"] is None
    assert demo.get(f"{machine}/calibrations") == []
    kept = calibrate(demo, machine, readings_of(case), keep=True)
    assert kept["front"]["cooling"] == pytest.approx(HIDDEN, rel=0.05)
    assert not kept["removed"]
    # Used by the strip, the ranges, the choice and the next fitted set's own record.
    cooler = demo.post(f"{machine}/verdict", WHAT_IF)["readings"][0]["value"]
    assert cooler < peak - 5.0
    narrow = demo.post(f"{machine}/ranges", WHAT_IF)
    assert narrow["calibrated"]
    assert narrow["ranges"][0]["p90"] - narrow["ranges"][0]["p10"] < 0.8 * (wide["p90"] - wide["p10"])
    choice = demo.post(f"{machine}/candidates", WHAT_IF)
    why = demo.post(f"{machine}/why/rotor", WHAT_IF)
    assert metric(why["assumptions"][0]).startswith(f"front cooling × {kept['front']['cooling']:.2f}")
    cooling = [entry for entry in why["inputs"] if entry["field"] == "front.cooling_factor"]
    assert [entry["estimate"] for entry in cooling] == [False]
    fitted = next(entry for entry in [*choice["ranked"], *choice["rejected"]] if entry["fitted"])
    # The list has the set with new pads, the strip with what is left of them.
    assert max(fitted["front"]["peak_C"], fitted["rear"]["peak_C"]) == pytest.approx(cooler, rel=0.01)
    # A later one takes its place; removed, the machine is as it was; brought back, it is used again.
    second = calibrate(demo, machine, readings_of(case), keep=True)
    assert [row["removed"] for row in demo.get(f"{machine}/calibrations")] == [False, True]
    demo.put(f"/calibrations/{second['id']}/removed", {"removed": True})
    assert demo.post(f"{machine}/verdict", WHAT_IF)["readings"][0]["value"] == pytest.approx(peak)
    demo.put(f"/calibrations/{kept['id']}/removed", {"removed": False})
    assert demo.post(f"{machine}/verdict", WHAT_IF)["readings"][0]["value"] == pytest.approx(cooler)
    row = Calibration.objects.get(pk=kept["id"])
    assert row.evidence[0]["kind"] == "pyrometer"
    assert row.engine_version


def test_a_fit_starts_from_the_bare_model_whatever_is_in_use(demo: Api, machine: str, case: Case) -> None:
    evidence = readings_of(case)
    first = calibrate(demo, machine, evidence, keep=True)
    again = calibrate(demo, machine, evidence, keep=False)
    assert again["front"] == first["front"]


def test_a_logged_csv_calibrates_and_a_broken_one_names_its_line(demo: Api, machine: str, case: Case) -> None:
    rows = history(scaled(case, "front.cooling_factor", HIDDEN))
    surface = HISTORY_FIELDS.index("front_surface_C")
    lines = ["t_s;temperature_C"] + [f"{row[0]:.2f};{row[surface]:.1f}".replace(".", ",") for row in rows[::6]]
    evidence = [{"kind": "logged", "axle": "front", "csv": "\n".join(lines)}]
    assert calibrate(demo, machine, evidence, keep=False)["front"]["cooling"] == pytest.approx(HIDDEN, rel=0.1)
    broken = [{"kind": "logged", "axle": "front", "csv": "t,T\n0,20\n1,hot\n2,30"}]
    assert_problem(calibrate(demo, machine, broken, keep=True, status=422), 422, "evidence[0].csv line 3", "hot")
    assert not Calibration.objects.exists()


def test_silent_evidence_is_refused_and_nothing_is_kept(demo: Api, machine: str) -> None:
    weak = [{"kind": "paint", "axle": "front", "bound": "at_least", "value_C": 40.0}]
    assert_problem(calibrate(demo, machine, weak, keep=True, status=409), 409, said="cannot tell")
    bad = [{"kind": "pyrometer", "axle": "front", "value_C": 300.0, "since_s": -5.0, "speed_mps": 10.0}]
    assert_problem(calibrate(demo, machine, bad, keep=True, status=422), 422, "evidence[0].since_s")
    assert demo.get(f"{machine}/calibrations") == []


# --- progress -------------------------------------------------------------------------------------------------------


@pytest.fixture
def paused(monkeypatch: pytest.MonkeyPatch) -> Iterator[tuple[threading.Event, threading.Event]]:
    """Work that waits at its first report, so that a test can look at it and stop it while it is under way."""
    reached, go_on = threading.Event(), threading.Event()
    real = progress.watched

    @contextmanager
    def watched(person: int, name: str | None, doing: str, gone: Callable[[], bool]) -> Iterator[Watch]:
        with real(person, name, doing, gone) as watch:

            def slow(share: float) -> None:
                reached.set()
                assert go_on.wait(20)
                watch(share)

            yield slow

    monkeypatch.setattr(progress, "watched", watched)
    yield reached, go_on
    go_on.set()


@pytest.mark.django_db(transaction=True)
def test_long_work_tells_how_far_it_is_and_can_be_stopped(
    demo: Api, stranger: Api, paused: tuple[threading.Event, threading.Event]
) -> None:
    reached, go_on = paused
    path = f"/machines/{demo.machine('Middleweight twin')['id']}"
    answers: list[Any] = []

    def ask() -> None:
        answers.append(
            demo.client.post(
                f"/api{path}/ranges", WHAT_IF, content_type="application/json", headers={"x-work": "strip-1"}
            )
        )

    asking = threading.Thread(target=ask)
    asking.start()
    try:
        assert reached.wait(20)
        found = demo.get("/work/strip-1")
        assert found["doing"].startswith("Running the duty")
        assert 0.0 <= found["done_share"] <= 1.0
        # Someone else can neither see nor stop it.
        assert stranger.get("/work/strip-1")["under_way"] is False
        stranger.call("delete", "/work/strip-1", status=204)
        assert demo.get("/work/strip-1")["under_way"] is True
        demo.call("delete", "/work/strip-1", status=204)
    finally:
        go_on.set()
        asking.join()
    assert answers[0].status_code == 409
    assert answers[0].json()["type"] == "/problems/stopped"
    assert demo.get("/work/strip-1")["under_way"] is False


def test_a_watch_without_a_name_follows_nothing_and_a_stopped_one_raises() -> None:
    here = True

    def gone() -> bool:
        return not here

    with progress.watched(1, None, "anything", gone) as watch:
        watch(0.5)
        # Whoever asked has closed the page: nobody is left to compute for.
        here = False
        with pytest.raises(Stopped):
            watch(0.6)
    here = True
    with progress.watched(1, "a", "anything", gone) as watch:
        found = progress.find((1, "a"))
        assert found is not None
        watch(0.25)
        assert found.share == 0.25
        found.stopped = True
        with pytest.raises(Stopped):
            watch(0.5)
    assert progress.find((1, "a")) is None


# --- a few candidates only ------------------------------------------------------------------------------------------


def test_only_the_columns_that_are_drawn_can_be_asked_for(demo: Api, machine: str) -> None:
    whole = demo.post(f"{machine}/candidates", WHAT_IF)
    everything = {entry["key"]: entry for entry in [*whole["ranked"], *whole["rejected"]]}
    keys = list(everything)[:3]
    few = demo.post(f"{machine}/candidates", {**WHAT_IF, "only": keys})
    found = {entry["key"]: entry for entry in [*few["ranked"], *few["rejected"]]}
    assert set(found) == set(keys)
    for key in keys:
        # Reasons compare with the others present; numbers and scores do not.
        assert {**found[key], "reason": ""} == {**everything[key], "reason": ""}
    assert demo.post(f"{machine}/candidates", {**WHAT_IF, "only": []})["total"] == 0
