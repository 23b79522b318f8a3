"""Wear of each pad from its readings, distance of a set that was off and on, and the rail's word on inspections."""

from __future__ import annotations

import datetime as dt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.builders import owner, pads_read
from tests.said import metric
from tests.workshop import machine_named, today
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.fitted.actions.measure import measure
from thermaxis.apps.fitted.models import PadMounting, PadReading
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.fitted.wearing import PartWear, Past, parts_worn
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.inspect.actions.inspect import Entry, enter_cells, finish, overrule, set_removed, start_inspection
from thermaxis.apps.solving.in_force import in_force
from thermaxis.apps.workshop.rail import stages
from thermaxis.core.errors import FieldError

pytestmark = pytest.mark.django_db
# 1 mm in 1000 km, whatever the engine says: the arithmetic can be done by hand.
PER_KM = 1e-6


@pytest.fixture
def hatch(workshop: Workshop) -> Machine:
    """A machine nobody has measured yet: fitted at 12800 km, now at 31250 km."""
    return machine_named(workshop, "Electric hatch")


def worn(machine: Machine) -> dict[str, PartWear]:
    mounting = standing_of(machine).axles["front"].pads
    past = Past(mountings=[mounting], per_km={mounting.pk: PER_KM}, event_km={mounting.pk: 10.0})
    found = parts_worn(mounting, machine.odometer_km, past, mounting.duty_id)
    return {part.position: part for part in found}


def new_mm_of(machine: Machine) -> float:
    return 1e3 * standing_of(machine).pads("front").size.thickness_m


def read(machine: Machine, position: str, mm: float, km: float, days: int) -> None:
    pads_read(machine, "front", position, mm, km, today() - dt.timedelta(days=days))


def test_without_a_reading_the_axle_wears_as_computed(hatch: Machine) -> None:
    new_m = 1e-3 * new_mm_of(hatch)
    (part,) = worn(hatch).values()
    assert (part.position, part.measurements) == ("", 0)
    assert part.thickness_m == pytest.approx(max(0.0, new_m - (31250 - 12800) * PER_KM))


def test_each_pad_wears_at_its_own_rate_from_its_own_readings(hatch: Machine) -> None:
    new_mm = new_mm_of(hatch)
    for km, days in ((16800, 200), (20800, 100)):
        driven = (km - 12800) / 1000
        read(hatch, "left.inner", new_mm - 0.6 * driven, km, days)
        read(hatch, "left.outer", new_mm - 0.3 * driven, km, days)
    parts = worn(hatch)
    assert parts["left.inner"].scale.median == pytest.approx(0.6, abs=0.05)
    assert parts["left.outer"].scale.median == pytest.approx(0.3, abs=0.06)
    # From the last reading on at the rate that was found.
    since = (31250 - 20800) / 1000
    for name, rate in (("left.inner", 0.6), ("left.outer", 0.3)):
        expected = new_mm - rate * 8.0 - parts[name].scale.median * since
        assert 1e3 * parts[name].thickness_m == pytest.approx(max(0.0, expected))


def test_a_thinnest_without_a_name_belongs_to_the_pad_that_was_thinnest(hatch: Machine) -> None:
    new_mm = new_mm_of(hatch)
    read(hatch, "", new_mm - 1.5, 16800, 300)
    read(hatch, "left.inner", new_mm - 3.0, 20800, 200)
    read(hatch, "right.inner", new_mm - 2.0, 20800, 200)
    read(hatch, "", new_mm - 4.5, 24800, 100)
    parts = worn(hatch)
    assert {name: part.measurements for name, part in parts.items()} == {"left.inner": 3, "right.inner": 1}
    # The last reading is the axle's own, not the older one that has a name.
    rate = parts["left.inner"].scale.median
    assert 1e3 * parts["left.inner"].thickness_m == pytest.approx(max(0.0, new_mm - 4.5 - rate * 6.45))
    removed = PadReading.objects.filter(mounting__machine=hatch, position="right.inner")
    removed.update(removed_at=dt.datetime(2026, 1, 1, tzinfo=dt.UTC))
    assert list(worn(hatch)) == ["left.inner"]


def test_the_quick_form_knows_the_thinnest_of_the_last_inspection(workshop: Workshop) -> None:
    machine = machine_named(workshop, "Parcel van")
    with pytest.raises(FieldError, match="measured before"):
        measure(owner(workshop), machine, "front", 0.0052, 143700, today())
    assert measure(owner(workshop), machine, "front", 0.0050, 143700, today()).position == ""


@given(
    marks=st.lists(st.floats(0, 1e5), min_size=2, max_size=9, unique=True).map(sorted),
    rates=st.lists(st.floats(0, 1e-2), min_size=5, max_size=5),
    at=st.floats(0, 1),
)
def test_wear_never_falls_and_stands_still_on_the_shelf(marks: list[float], rates: list[float], at: float) -> None:
    ends = [*marks, marks[-1] + 500.0] if len(marks) % 2 else marks
    pairs = list(zip(ends[::2], ends[1::2], strict=True))
    rows = [PadMounting(pk=i, from_km=since, until_km=until) for i, (since, until) in enumerate(pairs)]
    past = Past(mountings=rows, per_km=dict(enumerate(rates)), event_km=dict.fromkeys(range(len(rows)), 50.0))
    whole = sum((until - since) * rate for (since, until), rate in zip(pairs, rates, strict=False))
    before = 0.0
    for i, (since, until) in enumerate(pairs):
        # On the shelf nothing wears: where the last mounting ended the next one begins.
        assert past.worn_in_all(i, since) == pytest.approx(before)
        inside = past.worn_in_all(i, since + at * (until - since))
        assert before - 1e-9 <= inside <= past.worn_in_all(i, until) + 1e-9
        assert past.worn_in_all(i, until + 1000.0) == past.worn_in_all(i, until)
        before = past.worn_in_all(i, until)
    assert before == pytest.approx(whole)


def test_the_rail_says_where_inspections_stand(workshop: Workshop, hatch: Machine) -> None:
    def rail() -> tuple[str, str]:
        stage = next(stage for stage in stages(hatch, in_force(hatch)) if stage.name == "inspect")
        return stage.state, metric(stage.note) if stage.note else ""

    assert rail() == ("empty", "")
    inspection = start_inspection(owner(workshop), hatch, today(), 31250)
    enter_cells(owner(workshop), inspection, {"front_left.hose": Entry(value="bulged"), "washers": Entry(value=0.006)})
    assert rail() == ("started", "2 cells in")
    finish(owner(workshop), inspection)
    state, note = rail()
    assert state == "attention"
    assert "hose bulged" in note
    set_removed(owner(workshop), inspection, True)
    assert rail()[0] == "empty"


def test_a_grave_verdict_that_was_overruled_no_longer_calls(workshop: Workshop) -> None:
    machine = machine_named(workshop, "Parcel van")
    inspection = start_inspection(owner(workshop), machine, today(), 143700)
    outcome = enter_cells(owner(workshop), inspection, {"front_left.pad_inner_1": Entry(value=0.0025)})
    assert not outcome.asks
    finish(owner(workshop), inspection)
    assert stages(machine)[1].state == "attention"
    overrule(owner(workshop), inspection, "front.pads", "plan", "new pads are on the bench")
    assert stages(machine)[1].state == "done"
