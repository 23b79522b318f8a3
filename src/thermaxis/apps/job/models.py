"""Jobs: a sheet being worked through, its ticks, readings and pictures; the fasteners of a machine's axles."""

from __future__ import annotations

from django.conf import settings
from django.db import models
from typing_extensions import TypedDict

from thermaxis.apps.accounts.models import Owned, OwnedQuerySet
from thermaxis.apps.accounts.shaped import Number, RowNumber, ShapedField, Word
from thermaxis.apps.accounts.signs import NotNegativeFloatField, PositiveFloatField
from thermaxis.apps.fitted.models import PadSet
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.models import LogEntry, Removable


class Off(TypedDict, total=False):
    """What came off: where parts went, and the rows that closing the job made or ended."""

    pads: Word
    rotors: Word
    pad_readings: list[RowNumber]
    rotor_readings: list[RowNumber]
    fill: RowNumber
    hoses: RowNumber
    hoses_age: Number


class FastenerSpec(Owned):
    """One kind of fastener on one axle, as its vehicle's manual has it; an empty torque is to be looked up there."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="fasteners")
    axle = models.CharField(max_length=5)
    kind = models.CharField(max_length=20)
    drive = models.CharField(max_length=16, default="hex")
    size_m = PositiveFloatField(null=True)
    counter_hold_m = PositiveFloatField(null=True)
    thread = models.CharField(max_length=4, blank=True)
    torque_Nm = PositiveFloatField(null=True)
    # Why there is no torque: "hand tight by the manual".
    words = models.CharField(max_length=200, blank=True)
    source = models.CharField(max_length=120, blank=True)
    page = models.CharField(max_length=40, blank=True)
    treatment = models.CharField(max_length=20, blank=True)
    single_use = models.BooleanField(default=False)
    left_hand = models.BooleanField(default=False)
    objects = OwnedQuerySet.as_manager()

    class Meta:
        verbose_name = "fastener"
        ordering = ["pk"]
        constraints = [
            models.UniqueConstraint(fields=["machine", "axle", "kind"], name="one_fastener_of_a_kind_on_an_axle")
        ]


class JobQuerySet(OwnedQuerySet["Job"]):
    """Jobs of a workshop."""

    def open(self) -> JobQuerySet:
        """Those that are being worked on."""
        return self.filter(closed_at=None, abandoned_at=None)


class Job(Owned):
    """A piece of work on one axle. Open until it is closed or abandoned; closed, it keeps its sheet as it was."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="jobs")
    axle = models.CharField(max_length=5)
    work = models.CharField(max_length=12)
    # The set that goes on, by its key; empty where none does. A swap takes a set of the shelf.
    key = models.CharField(max_length=80, blank=True)
    pad_set = models.ForeignKey(PadSet, null=True, on_delete=models.SET_NULL, related_name="+")
    started_at = models.DateTimeField()
    started_by = models.CharField(max_length=150)
    closed_at = models.DateTimeField(null=True)
    closed_on = models.DateField(null=True)
    closed_km = NotNegativeFloatField(null=True)
    abandoned_at = models.DateTimeField(null=True)
    note = models.TextField(blank=True)
    # Point to option, where somebody picked another than the default.
    schools = ShapedField(default=dict, shape=dict[Word, Word])
    # Money in the workshop's; null where nobody has said.
    rate_per_hour = NotNegativeFloatField(null=True)
    quote = NotNegativeFloatField(null=True)
    parts_price = NotNegativeFloatField(null=True)
    consumables_price = NotNegativeFloatField(null=True)
    # The service tool: how far it has got, and when what is under way began and how long it takes.
    service = models.CharField(max_length=10, blank=True)
    service_since = models.DateTimeField(null=True)
    service_s = NotNegativeFloatField(null=True)
    # What came off, and where it went.
    off = ShapedField(default=dict, shape=Off)
    # The sheet as it was closed, and the change that put parts on.
    content = ShapedField(default=dict, empty=True, shape="thermaxis.apps.job.api.schemas:JobOut")
    fitting = models.ForeignKey(LogEntry, null=True, on_delete=models.SET_NULL, related_name="+")
    # Wheel bolts once more after the first drive.
    bolts_due_km = NotNegativeFloatField(null=True)
    bolts_done_at = models.DateTimeField(null=True)
    engine_version = models.CharField(max_length=20, blank=True)
    objects = JobQuerySet.as_manager()

    class Meta:
        ordering = ["-pk"]
        constraints = [
            models.UniqueConstraint(
                fields=["machine", "axle"],
                condition=models.Q(closed_at__isnull=True, abandoned_at__isnull=True),
                name="one_open_job_on_an_axle",
            )
        ]

    @property
    def work_words(self) -> str:
        """Its kind of work in a sentence."""
        return self.work.replace("_", " and ")

    def __str__(self) -> str:
        return f"{self.work} {self.axle}"


class JobTick(models.Model):
    """What was said of one step: done by whom and when, to which torque, or in words why not; checked again by whom."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="ticks")
    key = models.CharField(max_length=60)
    done = models.BooleanField(default=False)
    words = models.CharField(max_length=200, blank=True)
    torque_Nm = PositiveFloatField(null=True)
    source = models.CharField(max_length=8, default="hand")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    by = models.CharField(max_length=150)
    at = models.DateTimeField()
    rechecked_by = models.CharField(max_length=150, blank=True)
    rechecked_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["job", "key"], name="one_tick_of_a_step")]


class JobValue(models.Model):
    """A reading taken during a job, SI, by its name."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="values")
    name = models.CharField(max_length=40)
    value = models.FloatField()
    entered_at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["job", "name"], name="one_value_of_a_name")]


class JobPhoto(Removable):
    """A picture of a corner before or after; `token` is the page's own name for it."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="photos")
    token = models.CharField(max_length=40)
    corner = models.CharField(max_length=16, blank=True)
    when = models.CharField(max_length=6)
    content = models.BinaryField()
    taken_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["job", "token"], name="one_job_photo_per_token")]
