"""Wear of each pad from its readings, distance of a set that was off and on, and the rail's word on inspections."""

from __future__ import annotations

import datetime as dt
import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.workshop import machine_named, today
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.work import querysets
from thermaxis.apps.work.actions.inspect import Entry, enter_cells, finish, overrule, set_removed, start_inspection
from thermaxis.apps.work.actions.measure import measure
from thermaxis.apps.work.compute import in_force, set_or_error
from thermaxis.apps.work.models import Measurement
from thermaxis.apps.work.stages import stages
from thermaxis.apps.work.wearing import PartWear, parts_worn
from thermaxis.core.errors import FieldError

pytestmark = pytest.mark.django_db
# 1 mm in 1000 km, whatever the engine says: the arithmetic can be done by hand.
PER_KM = 1e-3


@pytest.fixture
def hatch(workshop: Workshop) -> Machine:
    """A machine nobody has measured yet: fitted at 12800 km, now at 31250 km."""
    return machine_named(workshop, "Electric hatch")


def worn(machine: Machine) -> dict[str, PartWear]:
    return {part.position: part for part in parts_worn(machine, set_or_error(machine), "front", PER_KM)}


def read(machine: Machine, position: str, mm: float, km: float, days: int) -> None:
    Measurement.objects.create(
        workshop=machine.workshop, fitted_set=set_or_error(machine), axle="front", position=position,
        measured_on=today() - dt.timedelta(days=days), odometer_km=km, thickness_m=mm / 1e3,
    )  # fmt: skip


def test_without_a_reading_the_axle_wears_as_computed(hatch: Machine) -> None:
    new_mm = 1e3 * set_or_error(hatch).front_pad.thickness_m
    (part,) = worn(hatch).values()
    assert (part.position, part.measurements) == ("", 0)
    assert part.thickness_mm == pytest.approx(max(0.0, new_mm - (31250 - 12800) * PER_KM))


def test_each_pad_wears_at_its_own_rate_from_its_own_readings(hatch: Machine) -> None:
    new_mm = 1e3 * set_or_error(hatch).front_pad.thickness_m
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
        assert parts[name].thickness_mm == pytest.approx(max(0.0, expected))


def test_a_thinnest_without_a_name_belongs_to_the_pad_that_was_thinnest(hatch: Machine) -> None:
    new_mm = 1e3 * set_or_error(hatch).front_pad.thickness_m
    read(hatch, "", new_mm - 1.5, 16800, 300)
    read(hatch, "left.inner", new_mm - 3.0, 20800, 200)
    read(hatch, "right.inner", new_mm - 2.0, 20800, 200)
    read(hatch, "", new_mm - 4.5, 24800, 100)
    parts = worn(hatch)
    assert {name: part.measurements for name, part in parts.items()} == {"left.inner": 3, "right.inner": 1}
    # The last reading is the axle's own, not the older one that has a name.
    rate = parts["left.inner"].scale.median
    assert parts["left.inner"].thickness_mm == pytest.approx(max(0.0, new_mm - 4.5 - rate * 6.45))
    removed = Measurement.objects.filter(fitted_set__machine=hatch, position="right.inner")
    removed.update(removed_at=dt.datetime(2026, 1, 1, tzinfo=dt.UTC))
    assert list(worn(hatch)) == ["left.inner"]


def test_the_quick_form_knows_the_thinnest_of_the_last_inspection(workshop: Workshop) -> None:
    machine = machine_named(workshop, "Parcel van")
    with pytest.raises(FieldError, match="measured before"):
        measure(machine, "front", 0.0052, 143700, today())
    assert measure(machine, "front", 0.0050, 143700, today()).position == ""


@given(
    marks=st.lists(st.floats(0, 1e5), min_size=2, max_size=9, unique=True).map(sorted), at=st.floats(0, 2e5),
)  # fmt: skip
def test_distance_on_a_machine_never_falls_and_stands_still_on_the_shelf(marks: list[float], at: float) -> None:
    if len(marks) % 2:
        marks = [*marks, marks[-1] + 500.0]
    mountings = list(zip(marks[::2], marks[1::2], strict=True))
    whole = sum(until - since for since, until in mountings)
    driven = querysets.driven_km(mountings, at)
    assert 0.0 <= driven <= whole + 1e-6
    assert querysets.driven_km(mountings, at + 100.0) >= driven - 1e-9
    assert querysets.driven_km(mountings, marks[-1] + 1.0) == pytest.approx(whole)
    for (_, off), (on, _) in itertools.pairwise(mountings):
        assert querysets.driven_km(mountings, off) == pytest.approx(querysets.driven_km(mountings, on))


def test_the_rail_says_where_inspections_stand(hatch: Machine) -> None:
    def rail() -> tuple[str, str]:
        stage = next(stage for stage in stages(hatch, in_force(hatch)) if stage.name == "inspect")
        return stage.state, stage.note

    assert rail() == ("empty", "")
    inspection = start_inspection(hatch, today(), 31250)
    enter_cells(inspection, {"front_left.hose": Entry(value="bulged"), "washers": Entry(value=0.006)})
    assert rail() == ("started", "2 cells in")
    finish(inspection)
    state, note = rail()
    assert state == "attention"
    assert "hose bulged" in note
    set_removed(inspection, True)
    assert rail()[0] == "empty"


def test_a_grave_verdict_that_was_overruled_no_longer_calls(workshop: Workshop) -> None:
    machine = machine_named(workshop, "Parcel van")
    inspection = start_inspection(machine, today(), 143700)
    outcome = enter_cells(inspection, {"front_left.pad_inner_1": Entry(value=0.0025)})
    assert not outcome.asks
    finish(inspection)
    assert stages(machine)[1].state == "attention"
    overrule(inspection, "front.pads", "plan", "new pads are on the bench")
    assert stages(machine)[1].state == "done"
