"""Duties of seven shapes: what an older file says, and what a shape refuses."""

from __future__ import annotations

import copy
from typing import Any

import pytest

from tests import builders
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.garage import duty_mapping, querysets
from thermaxis.apps.garage.shapes import SHAPES, Recorded, shape_of, stored
from thermaxis.apps.workshop.actions.take_in import take_in_workshop
from thermaxis.apps.workshop.api.drawing import draw
from thermaxis.apps.workshop.portable.going_out import workshop_document
from thermaxis.core.errors import FieldError

EMPTY = {
    "laps": None,
    "driver_level": "",
    "cool_down_laps": 0,
    "pause_s": 0.0,
    "traffic": 0.0,
    "town_km": None,
    "rural_km": None,
    "motorway_km": None,
    "days": None,
    "grade": None,
    "speed_mps": None,
    "duration_s": None,
    "repeat": None,
}


def as_before(document: dict[str, Any]) -> dict[str, Any]:
    """A workshop's file as it was written when one row had the numbers of every kind."""
    found = copy.deepcopy(document)
    stops: list[dict[str, Any]] = []
    sections: list[dict[str, Any]] = []
    for duty in found["tables"]["garage.Duty"]:
        shape = duty.pop("shape")
        for name, rows in (("stops", stops), ("sections", sections)):
            listed = [{"duty": duty["id"], "order": i, **row} for i, row in enumerate(shape.pop(name, []))]
            # In whatever order rows stand in a file, each says its own.
            rows += reversed(listed)
        duty.update({**EMPTY, **shape})
    for rows in (stops, sections):
        for number, row in enumerate(rows):
            row["id"] = number + 1
    found["tables"] |= {"garage.DutyStop": stops, "garage.DutySection": sections}
    return found


@pytest.mark.django_db
def test_an_older_file_says_the_same(workshop: Workshop) -> None:
    asked = {duty.name: duty_mapping.plan_of(duty) for duty in querysets.duties(workshop)}
    assert {plan.kind for plan in asked.values()} == set(SHAPES) - {Recorded.kind}
    document = as_before(workshop_document(workshop))
    assert document["tables"]["garage.DutyStop"]
    assert document["tables"]["garage.DutySection"]
    new = builders.owner(builders.workshop("Another"))
    take_in_workshop(new, document, draw)
    assert {duty.name: duty_mapping.plan_of(duty) for duty in querysets.duties(new.workshop)} == asked


@pytest.mark.django_db
@pytest.mark.parametrize(
    "spoilt", [{"kind": "fortnight"}, {"kind": 5}, {"id": "x"}, {"laps": "many", "kind": "session"}]
)
def test_an_older_duty_that_is_wrong_is_refused(workshop: Workshop, spoilt: dict[str, Any]) -> None:
    document = as_before(workshop_document(workshop))
    document["tables"]["garage.Duty"][0].update(spoilt)
    new = builders.owner(builders.workshop("Another"))
    with pytest.raises(FieldError):
        take_in_workshop(new, document, draw)
    assert not querysets.duties(new.workshop).exists()


@pytest.mark.parametrize(
    ("fields", "field"),
    [
        ({"kind": "fortnight"}, "kind"),
        ({}, "kind"),
        ({"kind": ["stops"]}, "kind"),
        ({"kind": "session", "laps": 3, "repeat": 2}, "repeat"),
        ({"kind": "session", "elements": []}, "elements"),
        ({"kind": "session", "laps": 0}, "laps"),
        ({"kind": "week", "town_km": 0, "rural_km": 0, "motorway_km": 0}, "town_km"),
        ({"kind": "sections", "sections": [{"length_m": 10, "grade": 0.1, "speed_mps": 900}]}, "sections[0].speed_mps"),
    ],
)
def test_a_shape_has_what_is_its_own_and_nothing_else(fields: dict[str, Any], field: str) -> None:
    with pytest.raises(FieldError) as refused:
        shape_of(fields)
    assert refused.value.path == field


@pytest.mark.django_db
def test_what_is_stored_is_the_shape_again(workshop: Workshop) -> None:
    for duty in querysets.duties(workshop):
        assert shape_of(stored(shape_of(duty.shape))) == shape_of(duty.shape)
