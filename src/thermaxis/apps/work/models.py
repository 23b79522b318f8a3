"""What was decided, done and seen: fitted sets, inspections, measurements, bedding plans, calibrations."""

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
    removed_km = models.FloatField(null=True)
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


class EarlierMounting(models.Model):
    """A time a set was on before it came off and went back on: distance counts while it is on."""

    fitted_set = models.ForeignKey(FittedSet, on_delete=models.CASCADE, related_name="earlier")
    mounted_on = models.DateField()
    mounted_km = models.FloatField()
    removed_on = models.DateField()
    removed_km = models.FloatField()

    class Meta:
        ordering = ["pk"]


class Inspection(Owned):
    """What was measured, picked and said beside a machine on one day; its cells hold the values."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="inspections")
    # The set that was on the machine: pad readings follow it.
    fitted_set = models.ForeignKey(FittedSet, on_delete=models.PROTECT, related_name="inspections")
    measured_on = models.DateField()
    odometer_km = models.FloatField()
    started_at = models.DateTimeField(auto_now_add=True)
    finished_at = models.DateTimeField(null=True)
    removed_at = models.DateTimeField(null=True)
    # The limits it was judged by when it was finished, so that its verdicts can be read a year later.
    wheels = models.JSONField(default=list)
    engine_version = models.CharField(max_length=20, blank=True)
    objects = OwnedQuerySet.as_manager()

    class Meta:
        ordering = ["-measured_on", "-pk"]
        constraints = [
            models.UniqueConstraint(
                fields=["machine"], condition=models.Q(finished_at__isnull=True, removed_at__isnull=True),
                name="one_inspection_open",
            )
        ]  # fmt: skip


class InspectionCell(models.Model):
    """One value of an inspection's sheet: SI, a word or a tick. `confirmed`: it was doubted and said to be right."""

    inspection = models.ForeignKey(Inspection, on_delete=models.CASCADE, related_name="cells")
    name = models.CharField(max_length=60)
    value = models.JSONField()
    confirmed = models.BooleanField(default=False)
    source = models.CharField(max_length=8, default="hand")
    entered_at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["inspection", "name"], name="one_value_per_cell")]


class Overruling(models.Model):
    """A verdict a person set aside, with the reason; `computed` is what the rules said at that moment."""

    inspection = models.ForeignKey(Inspection, on_delete=models.CASCADE, related_name="overrulings")
    subject = models.CharField(max_length=80)
    computed = models.CharField(max_length=40)
    word = models.CharField(max_length=40)
    reason = models.TextField()
    made_at = models.DateTimeField(auto_now_add=True)
    removed_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["pk"]
        constraints = [
            models.UniqueConstraint(
                fields=["inspection", "subject"], condition=models.Q(removed_at__isnull=True),
                name="one_overruling_in_force",
            )
        ]  # fmt: skip


class InspectionPhoto(models.Model):
    """A picture of a wheel; `token` is the page's own name for it, so that a repeated upload is not kept twice."""

    inspection = models.ForeignKey(Inspection, on_delete=models.CASCADE, related_name="photos")
    token = models.CharField(max_length=40)
    wheel = models.CharField(max_length=16)
    media_type = models.CharField(max_length=20)
    content = models.BinaryField()
    taken_at = models.DateTimeField(auto_now_add=True)
    removed_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["inspection", "token"], name="one_photo_per_token")]


class Measurement(Owned):
    """Friction material found on an axle, backing plate not counted.

    `position` is the pad it was found on, `left.inner` and so on, from an inspection; empty for the axle's thinnest.
    """

    fitted_set = models.ForeignKey(FittedSet, on_delete=models.CASCADE, related_name="measurements")
    inspection = models.ForeignKey(Inspection, null=True, on_delete=models.CASCADE, related_name="measurements")
    axle = models.CharField(max_length=5)
    position = models.CharField(max_length=16, blank=True)
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


class Decision(Owned):
    """Sets that were weighed against each other, as they were shown; with the set that was fitted by it, if any."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="decisions")
    fitted_set = models.ForeignKey(FittedSet, null=True, on_delete=models.SET_NULL, related_name="decisions")
    title = models.CharField(max_length=120)
    note = models.TextField(blank=True)
    made_at = models.DateTimeField(auto_now_add=True)
    content = models.JSONField()
    # The end of the address at which anybody may read it.
    token = models.CharField(max_length=64, null=True, unique=True)
    # Whether whoever reads it there reads the notes as well.
    share_notes = models.BooleanField(default=False)
    engine_version = models.CharField(max_length=20)
    removed_at = models.DateTimeField(null=True)
    objects = OwnedQuerySet.as_manager()

    class Meta:
        ordering = ["-made_at", "-pk"]
