"""Inspections: a sheet of cells, verdicts set aside, pictures."""

from __future__ import annotations

from django.db import models

from thermaxis.apps.accounts.models import Owned
from thermaxis.apps.accounts.shaped import Number, ShapedField, Word
from thermaxis.apps.accounts.signs import NotNegativeFloatField
from thermaxis.apps.fitted.models import PadMounting, RotorMounting
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.models import Removable, RemovableQuerySet


class Inspection(Owned, Removable):
    """What was measured, picked and said beside a machine on one day; its cells hold the values."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="inspections")
    # What was on the machine: readings follow the things.
    front_pads = models.ForeignKey(PadMounting, on_delete=models.PROTECT, related_name="+")
    rear_pads = models.ForeignKey(PadMounting, on_delete=models.PROTECT, related_name="+")
    front_rotors = models.ForeignKey(RotorMounting, on_delete=models.PROTECT, related_name="+")
    rear_rotors = models.ForeignKey(RotorMounting, on_delete=models.PROTECT, related_name="+")
    measured_on = models.DateField()
    odometer_km = NotNegativeFloatField()
    started_at = models.DateTimeField(auto_now_add=True)
    finished_at = models.DateTimeField(null=True)
    # The limits it was judged by when it was finished, so that its verdicts can be read a year later.
    wheels = ShapedField(default=list, shape="thermaxis.apps.inspect.inspecting:wheels_from")
    engine_version = models.CharField(max_length=20, blank=True)
    objects = RemovableQuerySet.as_manager()
    READ_WITH = (
        "machine__duty__circuit",
        "machine__owner",
        "front_pads__pad_set__pad",
        "front_pads__pad_set__size",
        "rear_pads__pad_set__pad",
        "rear_pads__pad_set__size",
        "front_rotors__rotor_pair__size",
        "rear_rotors__rotor_pair__size",
    )

    class Meta:
        ordering = ["-measured_on", "-pk"]
        constraints = [
            models.UniqueConstraint(
                fields=["machine"],
                condition=models.Q(finished_at__isnull=True, removed_at__isnull=True),
                name="one_inspection_open",
            )
        ]


class InspectionCell(models.Model):
    """One value of an inspection's sheet: SI, a word or a tick. `confirmed`: it was doubted and said to be right."""

    inspection = models.ForeignKey(Inspection, on_delete=models.CASCADE, related_name="cells")
    name = models.CharField(max_length=60)
    value = ShapedField(shape=Number | Word | bool)
    confirmed = models.BooleanField(default=False)
    source = models.CharField(max_length=8, default="hand")
    entered_at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["inspection", "name"], name="one_value_per_cell")]


class Overruling(Removable):
    """A verdict a person set aside, with the reason; `computed` is what the rules said at that moment."""

    inspection = models.ForeignKey(Inspection, on_delete=models.CASCADE, related_name="overrulings")
    subject = models.CharField(max_length=80)
    computed = models.CharField(max_length=40)
    word = models.CharField(max_length=40)
    reason = models.TextField()
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["pk"]
        constraints = [
            models.UniqueConstraint(
                fields=["inspection", "subject"],
                condition=models.Q(removed_at__isnull=True),
                name="one_overruling_in_force",
            )
        ]


class InspectionPhoto(Removable):
    """A picture of a wheel; `token` is the page's own name for it, so that a repeated upload is not kept twice."""

    inspection = models.ForeignKey(Inspection, on_delete=models.CASCADE, related_name="photos")
    token = models.CharField(max_length=40)
    wheel = models.CharField(max_length=16)
    content = models.BinaryField()
    taken_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["inspection", "token"], name="one_photo_per_token")]
