"""Jobs: sheets of ten machines, order, blocks, torques."""

from __future__ import annotations

import dataclasses

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.said import metric
from thermaxis.core.errors import FieldError
from thermaxis.core.planning.fit.caliper import Caliper, caliper_of
from thermaxis.core.planning.job import library as lib
from thermaxis.core.planning.job.fasteners import Fastener, kinds, kinds_of, reached, threads, torque_doubt, usual_Nm
from thermaxis.core.planning.job.library import WORKS, Task, library
from thermaxis.core.planning.job.schools import POINT_LABELS, options
from thermaxis.core.planning.job.sheet import Sheet, build_sheet
from thermaxis.core.planning.job.ticking import (
    State,
    Tick,
    against_closing,
    next_step,
    why_blocked,
    why_not_as_written,
    why_not_reached,
    why_not_rechecked,
)

BOTH = ("left", "right")


def task(caliper: str, work: str = "pads_rotors", axle: str = "front", **more: object) -> Task:
    known: dict[str, object] = {"kind": "car", "corners": BOTH, "retention": "bracket", **more}
    return Task(work=work, axle=axle, caliper=caliper_of(caliper), **known)  # type: ignore[arg-type]


TEN = {
    "sliding": task("sliding", rotor_screw=True, jacking=True),
    "sliding with sensor": task("sliding", sensor_sides=("left",), tabs=True),
    "opposed, two pins": task("opposed, 2 pistons", "pads", retention="pins"),
    "opposed four pistons, hard line": task("opposed, 4 pistons", retention="pins", line="pipe"),
    "screw-in rear": task("sliding, screw-in", axle="rear", oiled=True),
    "electric parking brake": task(
        "sliding, electric parking brake", axle="rear", push="bleed screw", piston_clips=True
    ),
    "drum in hat": task("sliding, drum in hat", axle="rear"),
    "motorcycle front": task("opposed, 4 pistons", kind="motorcycle", retention="pins", push="bleed screw"),
    "motorcycle rear": task("sliding, 1 piston", axle="rear", kind="motorcycle", corners=("",), push="bleed screw"),
    "directional with handed slots": task("opposed, 4 pistons", retention="bolted", directional=True, handed=True),
    "heavy tow vehicle": task("sliding, 2 pistons", kind="truck", push="draw off", shims=True, oiled=True),
}


def ids(sheet: Sheet, corner: str | None = None) -> list[str]:
    return [step.step.id for step in sheet.steps if corner is None or step.corner == corner]


# What comes off, and what puts it back (either of them).
BACK = {
    "nuts_cracked": ("wheel_torque",),
    "stands_under": ("down",),
    "bike_stand": ("bike_down",),
    "bike_stand_rear": ("bike_down",),
    "service_mode": ("service_learn",),
    "cap_loose": ("cap_on",),
    "cap_loose_draw": ("cap_on",),
    "line_clamped": ("prop_out",),
    "wheel_off": ("wheel_on",),
    "bike_wheel_off_front": ("bike_wheel_on_front",),
    "bike_wheel_off_rear": ("bike_wheel_on_rear",),
    "sensor_out": ("sensor_in",),
    "speed_lead": ("speed_lead_back",),
    "motor_plug": ("motor_plug_back",),
    "cable_off": ("cable_on",),
    "spring_off": ("spring_on",),
    "guide_bolts_out": ("guide_torque",),
    "guide_pins_out": ("guide_pins_grease",),
    "pads_out": ("pads_in", "pads_back"),
    "clips_off": ("clips_new", "clips_back"),
    "bracket_off": ("bracket_torque",),
    "pin_keeper_out": ("pin_keeper_in",),
    "bike_caliper_off": ("bike_caliper_torque",),
    "pin_plug_out": ("bike_pin_in",),
    "pins_out": ("pins_in",),
    "retainer_out": ("retainer_in",),
    "pads_up": ("pads_in_opposed", "pads_back_opposed"),
    "heat_shield": ("heat_shield_back",),
    "pipe_free": ("pipe_back",),
    "caliper_off_opposed": ("opposed_torque", "caliper_new_torque"),
    "screw_open": ("screw_shut",),
    "banjo_off": ("banjo_torque",),
    "flare_off": ("banjo_torque",),
    "hose_off": ("new_hose_torque",),
    "ring_screw": ("ring_screw_in",),
    "drum_backed_off": ("drum_shoes_up",),
    "ring_off": ("ring_on",),
    "bike_ring_off": ("bike_ring_on",),
    "hand_lever_off": ("park_tried", "park_holds"),
    "hand_lever_off_drum": ("park_tried", "park_holds"),
}


def before(sheet: Sheet, first: str, then: str) -> bool:
    keys = [step.key for step in sheet.steps]
    return keys.index(first) < keys.index(then)


def test_the_library() -> None:
    steps = library()
    assert len(steps) >= 120
    assert len({step.id for step in steps}) == len(steps)
    known = {step.id for step in steps}
    for step in steps:
        assert set(step.works) <= set(WORKS.values()), step.id
        assert set(step.after) <= known, step.id
        assert {condition.lstrip("!") for condition in step.when} <= set(lib.TAG_WORDS), step.id
        assert (step.scope in lib.SCOPES, step.gate in lib.GATES) == (True, True), step.id
        assert not step.school or step.school in options(), step.id
        assert not step.fastener or step.fastener in kinds(), step.id
        assert not step.tighten or (step.fastener and step.blocks), step.id
        assert step.text[0].isupper(), step.id
        assert not step.text.endswith("."), step.id
        assert step.source == "practice" or step.source.startswith(
            ("practice ", "fit-and-job ", "bed-and-life ", "practice,")
        ), step.id
        assert step.blocks <= bool(step.check or step.scope == "before"), step.id
    # Nothing in the data is a torque of a vehicle.
    assert not any(word in step.text for step in steps for word in (" N m", " Nm", "lbf"))
    assert set(POINT_LABELS) == set(options())
    assert {step.id for step in steps if step.id.endswith(("_off", "_out"))} - {"parts_laid_out", "prop_out"} <= set(
        BACK
    )


@pytest.mark.parametrize("name", TEN)
def test_a_sheet_of_each_machine(name: str) -> None:
    sheet = build_sheet(TEN[name])
    found = ids(sheet)
    opposed, motorcycle = sheet.task.caliper.opposed, sheet.task.kind == "motorcycle"
    assert ("push_opposed" in found) == opposed
    assert not opposed or not {"guide_bolts_out", "guide_torque", "push_sliding", "push_screw"} & set(found)
    assert motorcycle == ("wheel_torque" not in found)
    assert ("push_electric" in found) == (sheet.task.caliper.parking == "electric" and sheet.task.axle == "rear")
    assert ("push_screw" in found) == (sheet.task.caliper.parking == "lever")
    assert ("drum_shoes_up" in found) == (sheet.task.caliper.parking == "drum")
    # What a step that is not there has to say for itself.
    there = {step.id for step, _ in sheet.left_out}
    assert not there & set(found)
    assert all(metric(reason) for _, reason in sheet.left_out)


def test_what_a_foreman_looks_for() -> None:
    rear = build_sheet(TEN["electric parking brake"])
    assert before(rear, "service_mode", "push_electric@left")
    assert before(rear, "push_electric@right", "service_learn")
    assert before(rear, "service_learn", "first_stops")
    assert before(rear, "screw_open@left", "push_electric@left")
    assert before(rear, "stands_under", "wheel_off@left")
    # One side at a time, and each corner from wheel off to wheel on.
    assert before(rear, "wheel_on@left", "wheel_off@right")
    assert before(rear, "pedal_before_ground", "down")
    # Nobody turns a wheel that stands on the ground.
    assert before(rear, "no_drag", "down")
    assert before(rear, "down", "wheel_torque")
    sensor = build_sheet(TEN["sliding with sensor"])
    assert "sensor_out" in ids(sensor, "left")
    assert "sensor_out" not in ids(sensor, "right")
    assert before(sensor, "sensor_out@left", "guide_bolts_out@left")
    bike = build_sheet(TEN["motorcycle front"])
    # Two discs on one wheel: it comes out once, both calipers off, and goes in before pads do.
    assert ids(bike).count("bike_wheel_off_front") == 1
    assert before(bike, "bike_caliper_off@right", "bike_wheel_off_front@left")
    assert before(bike, "bike_wheel_on_front", "pads_in_opposed@left")
    assert before(bike, "piston_scrub@left", "push_opposed@left")
    drum = build_sheet(TEN["drum in hat"])
    # Both drums alike: turned up when both rings are on, before either plug.
    assert before(drum, "ring_on@right", "drum_shoes_up")
    assert before(drum, "drum_shoes_up", "drum_plug@left")
    handed = build_sheet(TEN["directional with handed slots"])
    assert "ring_side" in ids(handed, "right")
    assert "ring_face_side" not in ids(handed)
    caliper = build_sheet(
        task("sliding, 2 pistons", "caliper", kind="truck", bleed_order=("front_left", "front_right"))
    )
    assert not {"push_sliding", "screw_open", "dust_boots"} & set(ids(caliper))
    assert before(caliper, "caliper_new@left", "pads_in@left")
    assert before(caliper, "prop_out", "bleed_fill")
    electric = build_sheet(task("sliding, electric parking brake", "caliper", axle="rear", bleed_order=("rear_left",)))
    assert before(electric, "motor_plug_back@left", "wheel_on@left")
    assert before(electric, "motor_plug_back@right", "service_learn")
    assert before(caliper, "bleed_shut@front_left", "bleed_corner@front_right")
    assert before(caliper, "bleed_shut@front_right", "pedal_held")
    flush = build_sheet(task("sliding", "flush", bleed_order=("rear_left", "rear_right", "front_left", "front_right")))
    assert [step.corner for step in flush.steps if step.step.id == "bleed_corner"] == list(flush.task.bleed_order)


calipers = st.builds(
    Caliper,
    opposed=st.booleans(),
    pistons=st.integers(1, 6),
    parking=st.sampled_from(("none", "lever", "electric", "drum")),
)
tasks = st.builds(
    Task,
    work=st.sampled_from(tuple(WORKS)),
    axle=st.sampled_from(("front", "rear")),
    kind=st.sampled_from(("car", "truck", "motorcycle")),
    caliper=calipers,
    corners=st.sampled_from((BOTH, ("",))),
    retention=st.sampled_from(("pins", "bolted")),
    line=st.sampled_from(("hose", "pipe")),
    sensor_sides=st.sampled_from(((), ("left",), BOTH)),
    push=st.sampled_from(("watch", "draw off", "bleed screw")),
    bleed_order=st.sampled_from(((), ("front_left", "front_right"), ("rear_right", "rear_left", "front_left"))),
    **{name: st.booleans() for name in lib.OF_PARTS},
)


@settings(max_examples=150, deadline=None)
@given(tasks)
def test_order_kind_and_checks_of_any_job(any_task: Task) -> None:
    sheet = build_sheet(any_task)
    place = {step.key: index for index, step in enumerate(sheet.steps)}
    assert len(place) == len(sheet.steps)
    for step in sheet.steps:
        # The order respects every dependency.
        assert all(place[key] < place[step.key] for key in step.after if key in place)
        # No step of another caliper, vehicle or axle.
        for condition in step.step.when:
            wanted, tag = not condition.startswith("!"), condition.lstrip("!")
            assert (tag in any_task.here(step.corner)) == wanted
        assert WORKS[any_task.work] in step.step.works
        # What comes off goes on again, at the same corner or for all of them.
        if step.step.id in BACK:
            on = [f"{found}{at}" for found in BACK[step.step.id] for at in (f"@{step.corner}", "")]
            assert any(place.get(key, -1) > place[step.key] for key in on), step.key
    # Every check that blocks is there once for each corner it applies to.
    for row in library():
        if row.blocks and row.scope == "corner":
            corners = [found.corner for found in sheet.steps if found.step.id == row.id]
            assert corners == [corner for corner in any_task.corners if lib.applies(row, any_task, corner)]
    # Built twice it is the same; ticked in order nothing is ever blocked but by tool, Fit and torque.
    assert build_sheet(any_task) == sheet
    ticks: dict[str, Tick] = {}
    fasteners = {kind: Fastener(kind=kind, torque_Nm=30.0) for kind in kinds()}
    for step in sheet.steps:
        state = State(ticks=ticks, service="learned", fasteners=fasteners)
        assert next_step(sheet, state) == step
        assert why_blocked(sheet, step, state) is None, step.key
        ticks[step.key] = Tick(done=True, rechecked=step.step.tighten)
    assert against_closing(sheet, State(ticks=ticks, fasteners=fasteners)) == []


def test_why_a_tick_is_not_taken() -> None:
    sheet = build_sheet(TEN["electric parking brake"])

    def why(key: str, words: str = "", **state: object) -> str | None:
        step = sheet.step(key)
        assert step is not None
        found = why_blocked(sheet, step, State(**state), words=words)  # type: ignore[arg-type]
        return None if found is None else metric(found)

    first = {step.key: Tick(done=True) for step in sheet.steps if step.phase == "before"}
    assert (why("wheel_off@left") or "").startswith("first: ")
    done = {**first, "service_mode": Tick()}
    assert "not in service mode" in (why("service_mode", ticks=done) or "")
    assert "has not said home yet" in (why("service_mode", ticks=done, service="released") or "")
    assert why("service_mode", ticks=done, service="home") is None
    # By hand, said in words, counts as home and learned.
    assert why("service_mode", "wound back by hand as the manual says", ticks=done) is None
    by_hand = {**first, "service_mode": Tick(words="by hand")}
    for step in sheet.steps:
        by_hand.setdefault(step.key, Tick(done=True))
    assert why("push_electric@left", ticks=by_hand) is None
    assert why("first_stops", ticks=by_hand) is None
    ticked = {step.key: Tick(done=True) for step in sheet.steps}
    assert "has not learned" in (why("first_stops", ticks=ticked, service="home") or "")
    assert why("first_stops", ticks=ticked, service="learned") is None
    # An empty torque blocks; words or a torque open it.
    assert "look it up in the vehicle's manual" in (why("guide_torque@left", ticks=ticked) or "")
    assert why("guide_torque@left", "hand tight by the manual", ticks=ticked) is None
    table = {"guide_pin": Fastener(kind="guide_pin", torque_Nm=28.0)}
    assert why("guide_torque@left", ticks=ticked, fasteners=table) is None
    guide = sheet.step("guide_torque@left")
    assert guide is not None
    state = State(ticks=ticked, fasteners=table)
    assert [why_not_reached(guide, state, torque) is None for torque in (28.0, 29.4, 26.6, 29.5, 26.5, None)] == [
        True,
        True,
        True,
        False,
        False,
        True,
    ]
    assert why_not_rechecked(guide, State()) is not None
    assert why_not_rechecked(guide, state) is None
    untightened = sheet.step("wheel_off@left")
    assert untightened is not None
    assert why_not_rechecked(untightened, state) is not None
    # Another torque is written down after it was tightened: the tick counts no more.
    tightened = State(ticks={"guide_torque@left": Tick(done=True, torque_Nm=28.0)}, fasteners=table)
    assert why_not_as_written(guide, tightened) is None
    now = State(ticks=tightened.ticks, fasteners={"guide_pin": Fastener(kind="guide_pin", torque_Nm=40.0)})
    assert "28 N m" in metric(why_not_as_written(guide, now))
    assert any("40 N m is written down" in metric(text) for text in against_closing(sheet, now))
    # Checked again by nobody: it cannot be closed.
    (open_one,) = against_closing(sheet, state)
    assert metric(open_one).startswith("not checked again: ")
    assert "steps that block are open" in metric(against_closing(sheet, State())[0])


def test_what_fit_stops_cannot_be_talked_away() -> None:
    sheet = build_sheet(TEN["directional with handed slots"])
    step = sheet.step("ring_side@right")
    assert step is not None
    done = {entry.key: Tick(done=True) for entry in sheet.steps}
    stopped = State(ticks=done, stops={"right": "a left rotor in the box for the right"})
    assert "Fit says stop: a left rotor" in metric(why_blocked(sheet, step, stopped, words="it will do"))
    left = sheet.step("ring_side@left")
    assert left is not None
    assert why_blocked(sheet, left, stopped) is None
    assert why_blocked(sheet, left, State(ticks=done, unseen=("left",))) is not None
    laid = sheet.step("parts_laid_out")
    assert laid is not None
    assert why_blocked(sheet, laid, stopped) is not None


def test_a_torque_is_asked_about() -> None:
    bracket = Fastener(kind="bracket", thread="M12", torque_Nm=95.0)
    assert torque_doubt(bracket, None) is None
    for far in (950.0, 9.5):
        assert "Is it right, and in its unit?" in metric(
            torque_doubt(dataclasses.replace(bracket, torque_Nm=far), None)
        )
    # The front's value on the rear: asked, unless it is the same thread and size; wheels are alike.
    front = Fastener(kind="bracket", torque_Nm=95.0)
    assert "front and rear are seldom the same" in metric(torque_doubt(bracket, front))
    assert torque_doubt(bracket, dataclasses.replace(bracket)) is None
    assert torque_doubt(Fastener(kind="wheel", torque_Nm=110.0), Fastener(kind="wheel", torque_Nm=110.0)) is None
    assert torque_doubt(Fastener(kind="bracket"), front) is None
    # Hollow screws bear a third of it.
    bleed = Fastener(kind="bleed", thread="M10", torque_Nm=12.0)
    assert torque_doubt(bleed, None) is None
    assert torque_doubt(dataclasses.replace(bleed, torque_Nm=80.0), None) is not None
    assert usual_Nm(Fastener(kind="bleed")) is None
    # Within 5 %, either way.
    assert [reached(value, 100.0) is None for value in (95.0, 105.0, 94.9, 105.1)] == [True, True, False, False]
    assert "loosen it" in metric(reached(120.0, 100.0))
    for wrong in ({"kind": "nail"}, {"thread": "M99"}, {"torque_Nm": 0.0}, {"torque_Nm": 5000.0}, {"drive": "claw"}):
        with pytest.raises(FieldError):
            Fastener(**{"kind": "bracket", **wrong})  # type: ignore[arg-type]
    with pytest.raises(FieldError, match="words"):
        Fastener(kind="bracket", words="x" * 201)
    for row in threads().values():
        assert 0 < row["low_Nm"] < row["high_Nm"]
        assert row["hollow_high_Nm"] < row["high_Nm"]
    assert {entry.kind for entry in kinds_of("motorcycle", opposed=True)} >= {"axle_nut", "pin", "bleed"}
    assert "wheel" not in {entry.kind for entry in kinds_of("motorcycle", opposed=True)}
    assert "guide_pin" in {entry.kind for entry in kinds_of("car", opposed=False)}
