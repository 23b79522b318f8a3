"""What is really there: pads and rotors per axle, fluid, where and when they were on, what was read of them.

A thing is not its part number: a new rotor of the same number is another thing, a pad set takes its history along
wherever it goes, and a corrected size is a new row, so that what was read against the old one still says so.
"""

from __future__ import annotations

import datetime as dt
from typing import Any

from django.db import models
from django.utils import timezone

from thermaxis.apps.accounts.models import Owned, OwnedQuerySet
from thermaxis.apps.accounts.shaped import Number, ShapedField, Word
from thermaxis.apps.accounts.signs import NotNegativeFloatField, PositiveFloatField
from thermaxis.apps.catalogue.models import Fluid, Pad, Rotor
from thermaxis.apps.garage.models import Duty, Machine
from thermaxis.apps.log.models import LogEntry, Removable, RemovableQuerySet
from thermaxis.core.constants import DAYS_A_MONTH


class PadSize(models.Model):
    """Pads as new; a corrected size replaces the one before and leaves it as it was."""

    area_m2 = PositiveFloatField()
    thickness_m = PositiveFloatField()
    backing_m = PositiveFloatField()
    replaces = models.OneToOneField("self", null=True, on_delete=models.PROTECT, related_name="replaced_by")
    made_at = models.DateTimeField(default=timezone.now)


class PadSet(Owned):
    """The pads of one axle: a thing with a history of its own, on a machine or on the shelf."""

    pad = models.ForeignKey(Pad, on_delete=models.PROTECT, related_name="+")
    # As it is sold; empty where it was measured on a machine.
    shape = models.CharField(max_length=24, blank=True)
    size = models.ForeignKey(PadSize, on_delete=models.PROTECT, related_name="+")
    price = NotNegativeFloatField(default=0.0)
    # Why it was thrown away; empty where it is kept.
    scrapped_for = models.CharField(max_length=200, blank=True, default="")
    # The day it came in its box, where it was ordered before it was on anything.
    arrived_on = models.DateField(null=True)
    objects = OwnedQuerySet.as_manager()

    class Meta:
        verbose_name = "pad set"

    def __str__(self) -> str:
        return self.pad.name


class RotorSize(models.Model):
    """Rotors as they are, by whoever measured or looked it up; a corrected size replaces the one before."""

    outer_radius_m = PositiveFloatField()
    inner_radius_m = PositiveFloatField()
    thickness_m = PositiveFloatField()
    discard_thickness_m = PositiveFloatField()
    gap_m = NotNegativeFloatField()
    vanes = models.PositiveIntegerField()
    vane_thickness_m = NotNegativeFloatField()
    material = models.CharField(max_length=24)
    pattern = models.CharField(max_length=24)
    hub_conductance_W_per_K = NotNegativeFloatField()
    replaces = models.OneToOneField("self", null=True, on_delete=models.PROTECT, related_name="replaced_by")
    made_at = models.DateTimeField(default=timezone.now)


class RotorPair(Owned):
    """The rotors of one axle, fitted together: two, or one where the axle has one."""

    name = models.CharField(max_length=120)
    # The catalogue's row it was bought as; none where it came with the machine.
    rotor = models.ForeignKey(Rotor, null=True, on_delete=models.PROTECT, related_name="+")
    mount = models.CharField(max_length=24, blank=True)
    size = models.ForeignKey(RotorSize, on_delete=models.PROTECT, related_name="+")
    two_piece = models.BooleanField(default=False)
    price = NotNegativeFloatField(default=0.0)
    scrapped_for = models.CharField(max_length=200, blank=True, default="")
    arrived_on = models.DateField(null=True)
    objects = OwnedQuerySet.as_manager()

    class Meta:
        verbose_name = "rotors"

    def __str__(self) -> str:
        return self.name


class Disc(models.Model):
    """One rotor of a pair; `direction` is the side its vanes are made for, where they are directional."""

    pair = models.ForeignKey(RotorPair, on_delete=models.CASCADE, related_name="discs")
    side = models.CharField(max_length=5, blank=True)
    direction = models.CharField(max_length=5, blank=True)

    class Meta:
        ordering = ["side"]
        constraints = [models.UniqueConstraint(fields=["pair", "side"], name="one_disc_per_side")]


class Mounting(Owned):
    """On which axle of which machine a thing was, from when to when and from which odometer to which.

    `duty` is what it was fitted for: distance driven meanwhile counts as that, whatever is in force later.
    """

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="%(class)ss")
    axle = models.CharField(max_length=5)
    duty = models.ForeignKey(Duty, on_delete=models.PROTECT, related_name="+")
    from_on = models.DateField()
    from_km = NotNegativeFloatField()
    until_on = models.DateField(null=True)
    until_km = NotNegativeFloatField(null=True)
    # The changes that put it on and took it off, so that each can be taken back as a whole.
    begun_by = models.ForeignKey(LogEntry, null=True, on_delete=models.SET_NULL, related_name="%(class)ss_begun")
    ended_by = models.ForeignKey(LogEntry, null=True, on_delete=models.SET_NULL, related_name="%(class)ss_ended")

    class Meta:
        abstract = True
        ordering = ["pk"]


class PadMounting(Mounting):
    pad_set = models.ForeignKey(PadSet, on_delete=models.CASCADE, related_name="mountings")
    objects = OwnedQuerySet.as_manager()

    class Meta(Mounting.Meta):
        constraints = [
            models.UniqueConstraint(
                fields=["machine", "axle"], condition=models.Q(until_on__isnull=True), name="one_pad_set_on_an_axle"
            ),
            models.UniqueConstraint(
                fields=["pad_set"], condition=models.Q(until_on__isnull=True), name="a_pad_set_in_one_place"
            ),
        ]


class RotorMounting(Mounting):
    rotor_pair = models.ForeignKey(RotorPair, on_delete=models.CASCADE, related_name="mountings")
    objects = OwnedQuerySet.as_manager()

    class Meta(Mounting.Meta):
        constraints = [
            models.UniqueConstraint(
                fields=["machine", "axle"], condition=models.Q(until_on__isnull=True), name="one_rotor_pair_on_an_axle"
            ),
            models.UniqueConstraint(
                fields=["rotor_pair"], condition=models.Q(until_on__isnull=True), name="a_rotor_pair_in_one_place"
            ),
        ]


class BeddingResult(Owned, Removable):
    """What was said of a pad set's bedding on the rings it ran on: by a run, a recorded drive, a look or by hand."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="bedding_results")
    axle = models.CharField(max_length=5)
    pad_set = models.ForeignKey(PadSet, on_delete=models.CASCADE, related_name="bedding_results")
    rotor_pair = models.ForeignKey(RotorPair, on_delete=models.CASCADE, related_name="+")
    on = models.DateField()
    odometer_km = NotNegativeFloatField()
    # begun, partly, bedded or overheated
    word = models.CharField(max_length=10)
    # run, log, ring or hand
    source = models.CharField(max_length=8)
    look = models.CharField(max_length=12, blank=True)
    text = ShapedField(null=True, shape="thermaxis.formats.units:worded_sentence")
    # What it took off the pads, as computed.
    wear_m = NotNegativeFloatField(default=0.0)
    objects = RemovableQuerySet.as_manager()

    class Meta:
        verbose_name = "bedding result"
        ordering = ["on", "pk"]


def aged(months: float, since: dt.date, day: dt.date) -> float:
    """Months of age on a day, to a tenth, of what was so many months old on another."""
    return max(0.0, round(months + (day - since).days / DAYS_A_MONTH, 1))


class FluidFill(Owned):
    """The fluid that was put in a machine, and how old it was then."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="fills")
    fluid = models.ForeignKey(Fluid, on_delete=models.PROTECT, related_name="+")
    filled_on = models.DateField()
    filled_km = NotNegativeFloatField()
    age_months = NotNegativeFloatField(default=0.0)
    until_on = models.DateField(null=True)
    until_km = NotNegativeFloatField(null=True)
    objects = OwnedQuerySet.as_manager()

    class Meta:
        verbose_name = "fluid fill"
        ordering = ["pk"]
        constraints = [
            models.UniqueConstraint(
                fields=["machine"], condition=models.Q(until_on__isnull=True), name="one_fluid_in_a_machine"
            )
        ]

    def months_on(self, day: dt.date) -> float:
        """How old the fluid is on a day, to a tenth of a month: it ages whether or not somebody says so."""
        return aged(self.age_months, self.filled_on, day)


class FluidReading(Owned, Removable):
    """What was found of the fluid: what a tester boiled it at, its water, its colour, whether it was overheated."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="fluid_readings")
    fill = models.ForeignKey(FluidFill, on_delete=models.CASCADE, related_name="readings")
    measured_on = models.DateField()
    boiling_C = PositiveFloatField(null=True)
    water_percent = NotNegativeFloatField(null=True)
    colour = models.CharField(max_length=8, blank=True)
    overheated = models.BooleanField(default=False)
    objects = RemovableQuerySet.as_manager()

    class Meta:
        verbose_name = "fluid reading"
        ordering = ["measured_on", "pk"]


class Hose(Owned):
    """Rubber of one axle that is changed together, and its age: flexible hoses, or the calipers' seals and boots."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="hoses")
    axle = models.CharField(max_length=5)
    what = models.CharField(max_length=8, default="hoses", help_text="hoses or seals")
    kind = models.CharField(max_length=8, help_text="rubber or braided; seals are seals")
    age_months = NotNegativeFloatField(default=0.0)
    fitted_on = models.DateField()
    fitted_km = NotNegativeFloatField()
    until_on = models.DateField(null=True)
    until_km = NotNegativeFloatField(null=True)
    objects = OwnedQuerySet.as_manager()

    class Meta:
        ordering = ["pk"]
        constraints = [
            models.UniqueConstraint(
                fields=["machine", "axle", "what"], condition=models.Q(until_on__isnull=True), name="one_set_of_hoses"
            )
        ]

    def months_on(self, day: dt.date) -> float:
        """How old the hoses are on a day, to a tenth of a month."""
        return aged(self.age_months, self.fitted_on, day)


class Reading(Owned, Removable):
    """What was measured of a thing while it was on a machine."""

    inspection = models.ForeignKey("inspect.Inspection", null=True, on_delete=models.CASCADE, related_name="%(class)ss")
    measured_on = models.DateField()
    odometer_km = models.FloatField()
    thickness_m = models.FloatField()

    class Meta:
        abstract = True
        ordering = ["measured_on", "id"]


class PadReading(Reading):
    """Friction material found, backing plate not counted.

    `position` is the pad it was found on, `left.inner` and so on, from an inspection; empty for the axle's thinnest.
    """

    pad_set = models.ForeignKey(PadSet, on_delete=models.CASCADE, related_name="readings")
    mounting = models.ForeignKey(PadMounting, on_delete=models.PROTECT, related_name="+")
    # The size as it was known then.
    size = models.ForeignKey(PadSize, on_delete=models.PROTECT, related_name="+")
    position = models.CharField(max_length=16, blank=True)
    objects = RemovableQuerySet.as_manager()


class RotorReading(Reading):
    """The least thickness found on one rotor, what lay between taken off."""

    disc = models.ForeignKey(Disc, on_delete=models.CASCADE, related_name="readings")
    mounting = models.ForeignKey(RotorMounting, on_delete=models.PROTECT, related_name="+")
    size = models.ForeignKey(RotorSize, on_delete=models.PROTECT, related_name="+")
    objects = RemovableQuerySet.as_manager()


class Calibration(Owned, Removable):
    """What measured temperatures said about a machine's cooling and heat partition, with the evidence itself."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="calibrations")
    # What was on when the temperatures were taken, and the duty that was driven.
    front_rotors = models.ForeignKey(RotorPair, null=True, on_delete=models.PROTECT, related_name="+")
    rear_rotors = models.ForeignKey(RotorPair, null=True, on_delete=models.PROTECT, related_name="+")
    duty = models.ForeignKey(Duty, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    evidence = ShapedField(shape=list[dict[Word, Any]])
    # The fit of each axle as the core gives it, None where there was no evidence.
    front = ShapedField(null=True, shape="thermaxis.apps.duty.api.calibration_schemas:AxleFitOut")
    rear = ShapedField(null=True, shape="thermaxis.apps.duty.api.calibration_schemas:AxleFitOut")
    residuals = ShapedField(shape="thermaxis.apps.duty.api.calibration_schemas:Residuals")
    engine_version = models.CharField(max_length=20)
    objects = RemovableQuerySet.as_manager()

    class Meta:
        ordering = ["-made_at", "-id"]
        constraints = [
            models.UniqueConstraint(
                fields=["machine"], condition=models.Q(removed_at__isnull=True), name="one_calibration_in_force"
            )
        ]


class Intended(Owned):
    """The set that is to go on a machine next: what Fit checks and a job is built for, by the key of its parts."""

    machine = models.OneToOneField(Machine, on_delete=models.CASCADE, related_name="intended")
    key = models.CharField(max_length=80)
    said_at = models.DateTimeField(auto_now=True)
    objects = OwnedQuerySet.as_manager()

    class Meta:
        verbose_name = "set to go on"


class BoxItem(models.Model):
    """What is in the boxes for one axle of a set that is to go on: a count or a word by the core's name."""

    intended = models.ForeignKey(Intended, on_delete=models.CASCADE, related_name="items")
    axle = models.CharField(max_length=5)
    name = models.CharField(max_length=24)
    value = ShapedField(shape=Number | Word)

    class Meta:
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["intended", "axle", "name"], name="one_value_per_item")]
