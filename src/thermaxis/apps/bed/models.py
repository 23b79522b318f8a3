"""Bedding plans that were kept, what the makers say, and the runs that were driven."""

from __future__ import annotations

from django.db import models

from thermaxis.apps.accounts.models import Owned, OwnedQuerySet
from thermaxis.apps.accounts.shaped import ShapedField
from thermaxis.apps.fitted.models import PadSet, RotorPair
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.models import Removable, RemovableQuerySet


class BeddingRecord(Owned, Removable):
    """A bedding plan that was kept, for which pads on which rotors, with what it was computed from."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="bedding")
    front_pads = models.ForeignKey(PadSet, on_delete=models.CASCADE, related_name="+")
    rear_pads = models.ForeignKey(PadSet, on_delete=models.CASCADE, related_name="+")
    front_rotors = models.ForeignKey(RotorPair, on_delete=models.CASCADE, related_name="+")
    rear_rotors = models.ForeignKey(RotorPair, on_delete=models.CASCADE, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    done_on = models.DateField(null=True)
    # The school and what the road allowed.
    order = ShapedField(shape="thermaxis.apps.bed.content:Asked")
    # As it was shown.
    plan = ShapedField(shape="thermaxis.apps.bed.api.present:drawn_plan")
    engine_version = models.CharField(max_length=20)
    objects = RemovableQuerySet.as_manager()

    class Meta:
        verbose_name = "bedding plan"
        ordering = ["-made_at", "-pk"]


class BeddingRun(Owned):
    """A plan as it is driven; `seed` is of the car the stand-in pyrometer reads."""

    record = models.ForeignKey(BeddingRecord, on_delete=models.CASCADE, related_name="runs")
    token = models.CharField(max_length=64)
    started_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
    seed = models.PositiveIntegerField()
    objects = OwnedQuerySet.as_manager()

    class Meta:
        verbose_name = "bedding run"
        ordering = ["-started_at", "-pk"]
        constraints = [models.UniqueConstraint(fields=["record", "token"], name="one_run_of_a_token")]


class RunEvent(models.Model):
    """One thing the passenger said, in the order of the device it was said on."""

    run = models.ForeignKey(BeddingRun, on_delete=models.CASCADE, related_name="events")
    token = models.CharField(max_length=64)
    kind = models.CharField(max_length=8)
    at_s = models.FloatField()
    axle = models.CharField(max_length=5, default="front")
    value_C = models.FloatField(null=True)
    since_s = models.FloatField(null=True)
    moving_mps = models.FloatField(default=0.0)
    by = models.CharField(max_length=150)

    class Meta:
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["run", "token"], name="one_event_of_a_token")]
