"""Bedding plans that were kept."""

from __future__ import annotations

from django.db import models

from thermaxis.apps.accounts.models import Owned
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
    order = models.JSONField()
    plan = models.JSONField()
    engine_version = models.CharField(max_length=20)
    objects = RemovableQuerySet.as_manager()

    class Meta:
        verbose_name = "bedding plan"
        ordering = ["-made_at", "-pk"]
