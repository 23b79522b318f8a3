"""Parts as things: each has a history of its own, wherever it goes and whatever bears the same number."""

from __future__ import annotations

import datetime as dt
import json

import pytest
from django.db import IntegrityError, transaction
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.builders import decided, owner, pads_read
from tests.workshop import Api, machine_named, today
from thermaxis.api.problems import storage_problem
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.catalogue.models import Fluid, MuPoint, Pad, PadVariant
from thermaxis.apps.choose.actions.fit_set import fit_set, undo_fit
from thermaxis.apps.fitted.actions.correct import change_parts
from thermaxis.apps.fitted.actions.fill import fill
from thermaxis.apps.fitted.actions.fit_hoses import fit_hoses
from thermaxis.apps.fitted.actions.mount import mount_pads, mount_rotors
from thermaxis.apps.fitted.models import FluidFill, PadMounting, PadSet, RotorPair
from thermaxis.apps.fitted.offering import choices_of
from thermaxis.apps.fitted.querysets import pads_for
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.garage.models import Axle, Machine
from thermaxis.apps.log.models import LogEntry
from thermaxis.apps.machine.actions.add_machine import add_machine, copy_machine
from thermaxis.apps.solving.in_force import in_force
from thermaxis.apps.solving.life import life_rows
from thermaxis.core.errors import FieldError, SolveError

pytestmark = pytest.mark.django_db


@pytest.fixture
def roadster(workshop: Workshop) -> Machine:
    return machine_named(workshop, "Kit roadster")


def key_with(machine: Machine, **names: str) -> str:
    """The key of what is on, with these in the place of some: `front="Fellmark R4"`, `front_rotor="Tarn 260 slotted"`."""
    choices, on = choices_of(standing_of(machine)), standing_of(machine).parts.key.split("-")
    for place, axle in enumerate(("front", "rear")):
        if axle in names:
            on[place] = next(str(pk) for pk, part in choices.pads[axle].items() if part.pad.name == names[axle])
        rotor = names.get(f"{axle}_rotor")
        if rotor:
            on[2 + place] = next(part.key for part in choices.rotors[axle] if part.name == rotor)
    return "-".join(on)


def fit(machine: Machine, key: str, *renew: str) -> None:
    fit_set(owner(machine.workshop), machine, key, on=today(), content=decided(), title="A set", renew=renew)


def other_pads(machine: Machine, count: int) -> list[str]:
    names = [part.pad.name for part in pads_for(machine, machine.axles.get(position="front"))]
    return [name for name in names if name != standing_of(machine).pads("front").pad.name][:count]


def test_undo_leaves_a_set_where_it_has_been_put_since(roadster: Machine) -> None:
    scope, compound = owner(roadster.workshop), other_pads(roadster, 1)[0]
    a = standing_of(roadster).pads("front")
    fit(roadster, key_with(roadster, front=compound))
    copied = copy_machine(scope, roadster, "A twin", today())
    mount_pads(scope, copied, a, "front", today())
    with pytest.raises(SolveError, match=f"{a.pad.name} that came off is on another"):
        undo_fit(scope, roadster)
    assert (standing_of(roadster).pads("front").pad.name, standing_of(copied).pads("front")) == (compound, a)


def test_the_rear_keeps_its_history_when_the_front_alone_is_changed(roadster: Machine) -> None:
    pads_read(roadster, "rear", "", 4.0, 8400.0, today())
    rear = standing_of(roadster).pads("rear")
    before = life_rows(in_force(roadster), "minimum")[1].remaining.thickness_m
    assert before == pytest.approx(0.004, abs=1e-4)
    (compound,) = other_pads(roadster, 1)
    fit(roadster, key_with(roadster, front=compound))
    now = standing_of(roadster)
    assert now.pads("front").pad.name == compound
    assert now.pads("rear") == rear
    assert life_rows(in_force(roadster), "minimum")[1].remaining.thickness_m == pytest.approx(before, abs=1e-4)


def test_a_new_rotor_of_the_same_number_starts_new(roadster: Machine) -> None:
    scope, old = owner(roadster.workshop), standing_of(roadster).rotors("front")
    change_parts(scope, roadster, {"front.rotor.thickness_m": 0.0182})
    assert standing_of(roadster).parts.front_rotor.key == "on"
    assert old.rotor is not None
    fit(roadster, key_with(roadster, front_rotor=old.rotor.name))
    new = standing_of(roadster).rotors("front")
    assert (new.rotor, new.pk == old.pk) == (old.rotor, False)
    assert new.size.thickness_m == old.rotor.thickness_m
    assert [disc.side for disc in new.discs.all()] == ["left", "right"]
    # The same once more, because it is asked for.
    fit(roadster, standing_of(roadster).parts.key, "front_rotors")
    assert standing_of(roadster).rotors("front") not in (old, new)
    assert standing_of(roadster).pads("front").mountings.count() == 1


def test_a_corrected_size_is_a_new_version_and_what_was_read_keeps_its_own(roadster: Machine) -> None:
    scope = owner(roadster.workshop)
    reading = pads_read(roadster, "front", "", 9.0, 8400.0, today())
    pads, first = standing_of(roadster).pads("front"), standing_of(roadster).pads("front").size
    change_parts(scope, roadster, {"front.pad.thickness_m": 0.0105})
    now = standing_of(roadster).pads("front")
    assert now == pads
    assert (now.size.thickness_m, now.size.replaces) == (0.0105, first)
    reading.refresh_from_db()
    assert reading.size.thickness_m == first.thickness_m != 0.0105
    # A set that came off before it was corrected goes back on as it is.
    (compound,) = other_pads(roadster, 1)
    fit(roadster, key_with(roadster, front=compound))
    change_parts(scope, roadster, {"front.pad.area_m2": 0.0037})
    mount_pads(scope, roadster, PadSet.objects.get(pk=pads.pk), "front", today())
    assert standing_of(roadster).pads("front").size == now.size


def test_undo_puts_back_what_was_taken_off_by_that_very_change(roadster: Machine) -> None:
    """A, B, A again, C, undo, all in one day: A is on, not B which came off later than A did the first time."""
    scope = owner(roadster.workshop)
    b, c = other_pads(roadster, 2)
    a = standing_of(roadster).pads("front")
    fit(roadster, key_with(roadster, front=b))
    mount_pads(scope, roadster, a, "front", today())
    fit(roadster, key_with(roadster, front=c))
    assert standing_of(roadster).pads("front").pad.name == c
    undo_fit(scope, roadster)
    assert standing_of(roadster).pads("front") == a
    assert not PadSet.objects.filter(pad__name=c, mountings=None).exists()
    undo_fit(scope, roadster)
    assert standing_of(roadster).pads("front").pad.name == b
    undo_fit(scope, roadster)
    assert standing_of(roadster).pads("front") == a
    with pytest.raises(SolveError, match="no earlier set"):
        undo_fit(scope, roadster)


@settings(suppress_health_check=[HealthCheck.function_scoped_fixture], max_examples=15)
@given(steps=st.lists(st.sampled_from(["fit", "mount", "undo"]), min_size=1, max_size=8), seed=st.integers(0, 9))
def test_whatever_is_fitted_and_undone_every_axle_has_one_of_each(
    roadster: Machine, steps: list[str], seed: int
) -> None:
    scope, names = owner(roadster.workshop), other_pads(roadster, 3)
    with transaction.atomic():
        stack = [standing_of(roadster).pads("front")]
        for number, step in enumerate(steps):
            now = standing_of(roadster).pads("front")
            shelf = PadSet.objects.filter(mountings__machine=roadster, mountings__axle="front").exclude(pk=now.pk)
            if step == "fit":
                name = names[(seed + number) % 3]
                fit(roadster, key_with(roadster, front=name), "front_pads")
            elif step == "mount" and shelf.exists():
                mount_pads(scope, roadster, shelf.distinct().order_by("pk")[0], "front", today())
            elif step == "undo" and len(stack) > 1:
                undo_fit(scope, roadster)
                stack.pop()
                assert standing_of(roadster).pads("front") == stack[-1]
                continue
            else:
                continue
            stack.append(standing_of(roadster).pads("front"))
            assert PadMounting.objects.filter(machine=roadster, until_on=None).count() == 2
        transaction.set_rollback(True)


def test_a_set_goes_from_one_machine_to_another_with_its_history(workshop: Workshop, roadster: Machine) -> None:
    scope = owner(workshop)
    twin = machine_named(workshop, "Electric hatch")
    mine = twin.axles.get(position="front")
    # The other machine's calipers take the same shape.
    Axle.objects.filter(pk=mine.pk).update(pad_shape=roadster.axles.get(position="front").pad_shape)
    pads_read(roadster, "front", "", 8.0, 8400.0, today())
    moved = standing_of(roadster).pads("front")
    with pytest.raises(SolveError, match="on a machine already"):
        mount_pads(scope, twin, moved, "front", today())
    (compound,) = other_pads(roadster, 1)
    fit(roadster, key_with(roadster, front=compound))
    mount_pads(scope, twin, moved, "front", today())
    front = life_rows(in_force(machine_named(workshop, "Electric hatch")), "minimum")[0]
    assert front.remaining.thickness_m == pytest.approx(0.008, abs=5e-5)
    assert front.measured
    off = PadSet.objects.exclude(pk=moved.pk).get(mountings__machine=twin, mountings__axle="front")
    with pytest.raises(SolveError, match="another shape"):
        mount_pads(scope, machine_named(workshop, "Parcel van"), off, "front", today())


def test_rotors_go_to_the_shelf_and_back(roadster: Machine) -> None:
    scope, old = owner(roadster.workshop), standing_of(roadster).rotors("front")
    names = [part.name for part in choices_of(standing_of(roadster)).rotors["front"] if part.name != old.name]
    fit(roadster, key_with(roadster, front_rotor=names[0]))
    assert RotorPair.objects.get(pk=old.pk).mountings.get().until_km == roadster.odometer_km
    mount_rotors(scope, roadster, old, "front", today())
    assert standing_of(roadster).rotors("front") == old
    assert old.mountings.count() == 2


def test_a_compound_added_later_is_offered_to_a_machine_whose_shape_nobody_knows(workshop: Workshop) -> None:
    scope = owner(workshop)
    paper = add_machine(scope, name="Paper", owner="A", note="", class_name="family", known={}, duty=None, on=today())
    axle = paper.axles.get(position="front")
    assert axle.pad_shape == ""
    size = standing_of(paper).pads("front").size
    model = Pad.objects.of(workshop).first()
    assert model is not None
    fields = {field.name: getattr(model, field.name) for field in Pad._meta.fields if field.name not in ("id", "name")}
    later = Pad(name="Later", **fields)
    later.save()
    MuPoint.objects.create(pad=later, temperature_C=20, mu=0.4, provenance="maker")
    shape = machine_named(workshop, "Parcel van").axles.get(position="front").pad_shape
    PadVariant.objects.create(pad=later, shape=shape, area_m2=0.006, thickness_m=0.011, backing_m=0.005, price=80)
    part = next(part for part in pads_for(paper, axle) if part.pad == later)
    # In the size that is in the machine, at what the nearest size costs.
    assert (part.area_m2, part.thickness_m, part.price) == (size.area_m2, size.thickness_m, 80)
    fit(paper, key_with(paper, front="Later"))
    assert standing_of(paper).pads("front").pad == later


def test_a_compound_told_from_one_machine_is_offered_to_no_other(demo: Api, workshop: Workshop) -> None:
    case = demo.get(f"/machines/{demo.machine('Kit roadster')['id']}/case")
    first = demo.post("/cases", {**case, "name": "First"}, 201)
    second = demo.post("/cases", {**case, "name": "First"}, 201)
    own = Pad.objects.of(workshop).filter(machine_id=first["id"])
    assert {pad.name for pad in own} == {"First, front pad", "First, rear pad"}
    for machine in (second, demo.machine("Parcel van")):
        rows = demo.post(f"/machines/{machine['id']}/candidates", {})
        offered = {row["pad"] for row in [*rows["ranked"], *rows["rejected"]]}
        assert not {pad.name for pad in own} & offered
    copy = demo.post(f"/machines/{first['id']}/copy", {"name": "Its copy"}, 201)
    assert Pad.objects.of(workshop).filter(machine_id=copy["id"]).count() == 2


def test_fluid_ages_by_itself(workshop: Workshop, roadster: Machine) -> None:
    scope = owner(workshop)
    assert standing_of(roadster).fluid_months == 14.0
    FluidFill.objects.filter(machine=roadster).update(filled_on=today() - dt.timedelta(days=61))
    assert standing_of(roadster).fluid_months == pytest.approx(16.0)
    fresh = Fluid.objects.of(workshop).order_by("-dry_C")[0]
    fill(scope, roadster, fresh.pk, 0.0, today())
    now = standing_of(roadster)
    assert (now.fill.fluid, now.fluid_months) == (fresh, 0.0)
    assert FluidFill.objects.filter(machine=roadster, until_on=today()).count() == 1


def test_one_thing_is_in_one_place_and_one_place_has_one_thing(roadster: Machine) -> None:
    front = standing_of(roadster).axles["front"].pads
    again = PadMounting(
        workshop=roadster.workshop,
        machine=roadster,
        axle="front",
        duty=front.duty,
        from_on=today(),
        from_km=0.0,
        pad_set=standing_of(roadster).pads("rear"),
    )
    with pytest.raises(IntegrityError), transaction.atomic():
        again.save()


def test_every_change_has_its_line_in_the_log(demo: Api, workshop: Workshop, roadster: Machine) -> None:
    path = f"/machines/{roadster.pk}"
    before = LogEntry.objects.count()
    demo.patch(path, {"changes": {"vehicle.mass_kg": 700.0, "hydraulics.master_bore_m": 0.0191}})
    entry = LogEntry.objects.latest("pk")
    assert (entry.act, entry.user_name, entry.machine) == ("change_machine", "demo", roadster)
    assert entry.changes["vehicle.mass_kg"] == [690.0, 700.0]
    assert entry.odometer_km == roadster.odometer_km
    demo.patch(f"{path}/parts", {"changes": {"front.rotor.thickness_m": 0.0197}})
    pair = standing_of(roadster).rotors("front")
    assert f"rotors {pair.pk}" in LogEntry.objects.latest("pk").things
    demo.patch(path, {"changes": {"vehicle.mass_kg": -1.0}}, 422)
    assert LogEntry.objects.count() == before + 2
    # One change of several is one line.
    kept = demo.post(f"{path}/set-ups", {"name": "Big", "changes": {"vehicle.mass_kg": 720, "front.rotors": 2}}, 201)
    demo.post(f"/set-ups/{kept['id']}/use", {})
    used = LogEntry.objects.latest("pk")
    assert (used.act, used.changes["vehicle.mass_kg"]) == ("use_set_up", [700.0, 720.0])
    assert LogEntry.objects.count() == before + 4


def test_hoses_age_by_date_keep_their_history_and_go_along_with_a_copy(roadster: Machine) -> None:
    them, day = owner(roadster.workshop), today()
    assert [row.kind for row in roadster.hoses.all()] == ["braided", "braided"]
    with pytest.raises(FieldError, match="axle"):
        fit_hoses(them, roadster, "middle", "rubber", 0.0, day)
    with pytest.raises(FieldError, match="kind"):
        fit_hoses(them, roadster, "front", "paper", 0.0, day)
    old = fit_hoses(them, roadster, "front", "rubber", 60.0, day + dt.timedelta(days=10))
    # What was on came off and is still there; what is said again the same day is corrected.
    assert fit_hoses(them, roadster, "front", "rubber", 61.0, day + dt.timedelta(days=10)).pk == old.pk
    front = list(roadster.hoses.filter(axle="front"))
    assert [(row.kind, row.until_on is None) for row in front] == [("braided", False), ("rubber", True)]
    # Hand: 61 months and 365.25 days are 73 months.
    assert front[1].months_on(day + dt.timedelta(days=10) + dt.timedelta(days=365)) == pytest.approx(73.0, abs=0.05)
    copy = copy_machine(them, roadster, "Another", day + dt.timedelta(days=10))
    assert [(row.axle, row.kind, row.age_months) for row in copy.hoses.order_by("axle")] == [
        ("front", "rubber", 61.0),
        ("rear", "braided", 30.3),
    ]
    entry = LogEntry.objects.filter(machine=roadster, act="fit_hoses").latest("pk")
    assert entry.changes["front.hoses.age_months"] == [60.0, 61.0]


def test_the_database_holds_physical_signs_and_says_which(demo: Api, workshop: Workshop) -> None:
    """Whatever writes a row: no mass below zero, no new pad without thickness; told by the column's name."""
    size = PadSet.objects.of(workshop)[0].size
    for model, column, value, allowed in (
        (Machine, "mass_kg", 0.0, "a number above zero"),
        (Machine, "odometer_km", -1.0, "a number of zero or more"),
        (type(size), "thickness_m", -0.01, "a number above zero"),
    ):
        row = model._default_manager.all()[0]
        with pytest.raises(IntegrityError) as found, transaction.atomic():
            model._default_manager.filter(pk=row.pk).update(**{column: value})
        answer = storage_problem(found.value)
        assert answer is not None
        (field,) = json.loads(answer.content)["fields"]
        assert (answer.status_code, field["field"], field["allowed"]) == (422, column, allowed)
