"""What the season app reads, always within one workshop."""

from __future__ import annotations

from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.log.models import RemovableQuerySet
from thermaxis.apps.season.models import Event, EventQuerySet, Order


def events(workshop: Workshop) -> EventQuerySet:
    """Events with their machine, duty and sets, in order."""
    return Event.objects.of(workshop).select_related("machine", "duty", "front_pads__pad", "rear_pads__pad", "fluid")


def orders(workshop: Workshop) -> RemovableQuerySet[Order]:
    """The order list with what each line is for."""
    return Order.objects.of(workshop).select_related("machine", "event", "pad_set__pad", "rotor_pair")
