"""The season: events ahead and driven, what is on order, and the address a calendar is read at."""

from __future__ import annotations

from django.db import models
from django.utils import timezone

from thermaxis.apps.accounts.models import Owned, OwnedQuerySet
from thermaxis.apps.accounts.signs import NotNegativeFloatField
from thermaxis.apps.catalogue.models import Fluid, PadVariant, Rotor
from thermaxis.apps.fitted.models import PadSet, RotorPair
from thermaxis.apps.garage.models import Duty, Machine
from thermaxis.apps.log.models import LogEntry, Removable, RemovableQuerySet, Versioned

PLANNED, DRIVEN, LEFT_OUT = "planned", "driven", "left out"


class EventQuerySet(RemovableQuerySet["Event"]):
    """Events of a workshop."""

    def planned(self) -> EventQuerySet:
        """Those that are still to be driven, in order."""
        return self.there().filter(state=PLANNED).order_by("on", "starts_at", "pk")

    def driven(self) -> EventQuerySet:
        """Those that were driven, in order."""
        return self.there().filter(state=DRIVEN).order_by("driven_km", "pk")


class Event(Owned, Removable, Versioned):
    """A day a machine is asked for: its duty so many times, on which sets, with the road there and back."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="events")
    name = models.CharField(max_length=120)
    on = models.DateField()
    until_on = models.DateField(null=True)
    # Local time; none for a whole day.
    starts_at = models.TimeField(null=True)
    ends_at = models.TimeField(null=True)
    duty = models.ForeignKey(Duty, on_delete=models.PROTECT, related_name="+")
    sessions = NotNegativeFloatField(default=1.0)
    # The sets it is driven on; none: what is on that day.
    front_pads = models.ForeignKey(PadSet, null=True, on_delete=models.SET_NULL, related_name="+")
    rear_pads = models.ForeignKey(PadSet, null=True, on_delete=models.SET_NULL, related_name="+")
    # The fluid that will be in by then, fresh; none: what is in.
    fluid = models.ForeignKey(Fluid, null=True, on_delete=models.PROTECT, related_name="+")
    road_km = NotNegativeFloatField(default=0.0)
    # Forecast for the day; none: the duty's own.
    air_C = models.FloatField(null=True)
    note = models.CharField(max_length=500, blank=True)
    # RFC 5545: who reads it again finds the same event by it, and a newer one by its sequence.
    uid = models.CharField(max_length=200)
    sequence = models.PositiveIntegerField(default=0)
    changed_at = models.DateTimeField(default=timezone.now)
    # What recurring events have in common.
    series = models.CharField(max_length=64, blank=True)
    source = models.CharField(max_length=4, default="hand")
    state = models.CharField(max_length=10, default=PLANNED)
    # What became of it, and the change that said so.
    driven_by = models.ForeignKey(LogEntry, null=True, on_delete=models.SET_NULL, related_name="+")
    driven_sessions = NotNegativeFloatField(null=True)
    driven_km = NotNegativeFloatField(null=True, help_text="odometer once it was over")
    driven_front = models.ForeignKey(PadSet, null=True, on_delete=models.SET_NULL, related_name="events_front")
    driven_rear = models.ForeignKey(PadSet, null=True, on_delete=models.SET_NULL, related_name="events_rear")
    driven_front_rotors = models.ForeignKey(RotorPair, null=True, on_delete=models.SET_NULL, related_name="+")
    driven_rear_rotors = models.ForeignKey(RotorPair, null=True, on_delete=models.SET_NULL, related_name="+")
    objects = EventQuerySet.as_manager()
    READ_WITH = (
        "machine__owner",
        "machine__duty__circuit",
        "duty__circuit",
        "front_pads__pad",
        "rear_pads__pad",
        "fluid",
    )

    class Meta:
        ordering = ["on", "starts_at", "pk"]
        constraints = [models.UniqueConstraint(fields=["machine", "uid"], name="one_event_of_a_uid")]
        indexes = [models.Index(fields=["workshop", "on"])]

    def __str__(self) -> str:
        return self.name


class Order(Owned, Removable, Versioned):
    """What is to be bought: for which machine and event, by when; arrived, pads and rotors lie on the shelf."""

    machine = models.ForeignKey(Machine, null=True, on_delete=models.CASCADE, related_name="orders")
    event = models.ForeignKey(Event, null=True, on_delete=models.SET_NULL, related_name="orders")
    kind = models.CharField(max_length=8, help_text="pads, rotors, fluid or other")
    axle = models.CharField(max_length=5, blank=True)
    variant = models.ForeignKey(PadVariant, null=True, on_delete=models.SET_NULL, related_name="+")
    rotor = models.ForeignKey(Rotor, null=True, on_delete=models.SET_NULL, related_name="+")
    name = models.CharField(max_length=160)
    supplier = models.CharField(max_length=120, blank=True)
    quantity = models.PositiveIntegerField(default=1)
    price = NotNegativeFloatField(null=True)
    lead_days = models.PositiveIntegerField(null=True)
    order_by = models.DateField(null=True)
    note = models.CharField(max_length=240, blank=True)
    ordered_on = models.DateField(null=True)
    arrived_on = models.DateField(null=True)
    # What came out of the box.
    pad_set = models.ForeignKey(PadSet, null=True, on_delete=models.SET_NULL, related_name="+")
    rotor_pair = models.ForeignKey(RotorPair, null=True, on_delete=models.SET_NULL, related_name="+")
    objects = RemovableQuerySet.as_manager()

    class Meta:
        ordering = ["order_by", "pk"]

    def __str__(self) -> str:
        return self.name


class CalendarFeed(Owned):
    """The secret end of the address a machine's calendar is read at; withdrawn, it is gone for good."""

    machine = models.OneToOneField(Machine, on_delete=models.CASCADE, related_name="feed")
    token = models.CharField(max_length=64, unique=True)
    made_at = models.DateTimeField(auto_now_add=True)
    objects = OwnedQuerySet.as_manager()
    objects = OwnedQuerySet.as_manager()

    class Meta:
        verbose_name = "calendar address"
