"""What was decided and done: fitted sets, their measurements, their bedding plans, calibrations."""

from __future__ import annotations

from django.db import models

from thermaxis.apps.accounts.models import Owned, OwnedQuerySet
from thermaxis.apps.catalogue.models import PadVariant, Rotor
from thermaxis.apps.garage.models import Duty, Machine


class FittedSet(Owned):
    """Pads and rotors on a machine from one day to another, with the inputs they were chosen by."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="sets")
    front_pad = models.ForeignKey(PadVariant, on_delete=models.PROTECT, related_name="+")
    rear_pad = models.ForeignKey(PadVariant, on_delete=models.PROTECT, related_name="+")
    front_rotor = models.ForeignKey(Rotor, on_delete=models.PROTECT, related_name="+")
    rear_rotor = models.ForeignKey(Rotor, on_delete=models.PROTECT, related_name="+")
    # What the set was fitted for: distance driven since counts as this duty, whatever is in force later.
    duty = models.ForeignKey(Duty, on_delete=models.PROTECT, related_name="+")
    fitted_on = models.DateField()
    fitted_km = models.FloatField()
    removed_on = models.DateField(null=True)
    # Kept so that the choice can be read a year later; empty where the set came with the machine.
    inputs = models.JSONField(default=dict)
    reason = models.TextField(blank=True)
    engine_version = models.CharField(max_length=20)
    objects = OwnedQuerySet.as_manager()

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["machine"], condition=models.Q(removed_on__isnull=True), name="one_set_on_a_machine"
            )
        ]


class Measurement(Owned):
    """The thinnest friction material found on an axle, backing plate not counted."""

    fitted_set = models.ForeignKey(FittedSet, on_delete=models.CASCADE, related_name="measurements")
    axle = models.CharField(max_length=5)
    measured_on = models.DateField()
    odometer_km = models.FloatField()
    thickness_m = models.FloatField()
    removed_at = models.DateTimeField(null=True)
    objects = OwnedQuerySet.as_manager()

    class Meta:
        ordering = ["measured_on", "id"]


class BeddingRecord(Owned):
    """A bedding plan that was kept, with what it was computed from."""

    fitted_set = models.ForeignKey(FittedSet, on_delete=models.CASCADE, related_name="bedding")
    made_at = models.DateTimeField(auto_now_add=True)
    done_on = models.DateField(null=True)
    order = models.JSONField()
    plan = models.JSONField()
    engine_version = models.CharField(max_length=20)
    objects = OwnedQuerySet.as_manager()

    class Meta:
        ordering = ["-made_at"]


class Calibration(Owned):
    """What measured temperatures said about a machine's cooling and heat partition, with the evidence itself."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="calibrations")
    # The duty that was driven when the temperatures were taken.
    duty = models.ForeignKey(Duty, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    removed_at = models.DateTimeField(null=True)
    evidence = models.JSONField()
    # The fit of each axle as the core gives it, None where there was no evidence.
    front = models.JSONField(null=True)
    rear = models.JSONField(null=True)
    residuals = models.JSONField()
    engine_version = models.CharField(max_length=20)
    objects = OwnedQuerySet.as_manager()

    class Meta:
        ordering = ["-made_at", "-id"]
        constraints = [
            models.UniqueConstraint(
                fields=["machine"], condition=models.Q(removed_at__isnull=True), name="one_calibration_in_force"
            )
        ]
