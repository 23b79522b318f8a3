"""What earlier versions did to stored rows is put right on the way to this one."""

from __future__ import annotations

import importlib

import pytest
from django.apps import apps

from tests.pictures import picture
from tests.workshop import Api, machine_named, today
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.catalogue.models import Rotor
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.work.models import InspectionPhoto

pytestmark = pytest.mark.django_db
put_right = importlib.import_module("thermaxis.apps.work.migrations.0006_put_right")


def test_a_lowered_discard_is_what_the_catalogue_says_or_an_estimate(demo: Api, workshop: Workshop) -> None:
    path = f"/machines/{demo.machine('Kit roadster')['id']}"
    right = demo.get(f"{path}/parts")["values"]
    demo.patch(f"{path}/parts", {"changes": {"front.rotor.thickness_m": 0.018, "rear.rotor.thickness_m": 0.0088}})
    Rotor.objects.filter(own=True, thickness_m=0.018).update(discard_thickness_m=0.018)
    # This one's origin is no longer in the catalogue.
    Rotor.objects.filter(own=True, thickness_m=0.0088).update(discard_thickness_m=0.0088, name="Of nobody")
    untouched = Rotor.objects.filter(own=False).values_list("pk", "discard_thickness_m")
    before = list(untouched)
    put_right.put_discards_right(apps, None)
    values = demo.get(f"{path}/parts")["values"]
    assert values["front.rotor.discard_thickness_m"] == right["front.rotor.discard_thickness_m"]
    assert values["rear.rotor.discard_thickness_m"] == 0.0088
    estimates = Machine.objects.get(pk=machine_named(workshop, "Kit roadster").pk).estimates
    assert "rear.rotor.discard_thickness_m" in estimates
    assert "front.rotor.discard_thickness_m" not in estimates
    assert list(untouched) == before


def test_pictures_that_were_kept_as_they_came_are_drawn_anew(demo: Api) -> None:
    machine = demo.machine("Kit roadster")["id"]
    sheet = demo.post(f"/machines/{machine}/inspections", {"measured_on": today().isoformat(), "odometer_km": 8412})
    came = picture("JPEG", comment=b"54.4 N 3.1 W")
    for token, content in (("old-picture", came), ("no-picture-1", b"\xff\xd8\xff<html>")):
        InspectionPhoto.objects.create(
            inspection_id=sheet["id"], token=token, wheel="front_left", media_type="image/jpeg", content=content
        )
    put_right.draw_pictures_anew(apps, None)
    kept, gone = InspectionPhoto.objects.order_by("pk")
    assert b"54.4 N" not in bytes(kept.content)
    assert bytes(kept.content)[:3] == b"\xff\xd8\xff"
    assert (kept.removed_at, gone.removed_at is not None) == (None, True)
