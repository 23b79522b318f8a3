"""What the garage app reads, always within one workshop."""

from __future__ import annotations

from django.db.models import QuerySet

from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.garage.models import Circuit, Duty, Machine

OF_A_DUTY = ("circuit__elements", "parts__part__circuit__elements")


def machines(workshop: Workshop) -> QuerySet[Machine]:
    return (
        Machine.objects.of(workshop)
        .there()
        .select_related("owner", "duty__circuit", "duty__run")
        .prefetch_related("axles", *(f"duty__{name}" for name in OF_A_DUTY))
        .order_by("pk")
    )


def machine_rows(workshop: Workshop) -> QuerySet[Machine]:
    """Machines as a list shows them: nothing of what their duties are made of."""
    return (
        Machine.objects.of(workshop)
        .there()
        .select_related("owner", "duty")
        .only("workshop", "name", "note", "kind", "odometer_km", "owner__name", "duty__name", "estimates")
        .order_by("pk")
    )


def duties(workshop: Workshop) -> QuerySet[Duty]:
    return (
        Duty.objects.of(workshop).there().select_related("circuit", "run").prefetch_related(*OF_A_DUTY).order_by("pk")
    )


def circuits(workshop: Workshop) -> QuerySet[Circuit]:
    return Circuit.objects.of(workshop).prefetch_related("elements").order_by("pk")
