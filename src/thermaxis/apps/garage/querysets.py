"""What the garage app reads, always within one workshop."""

from __future__ import annotations

from django.db.models import QuerySet

from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.garage.models import Duty, Machine


def machines(workshop: Workshop) -> QuerySet[Machine]:
    return (
        Machine.objects.of(workshop)
        .select_related("owner", "fluid", "duty__circuit")
        .prefetch_related("axles", "duty__stops", "duty__circuit__elements")
        .order_by("pk")
    )


def duties(workshop: Workshop) -> QuerySet[Duty]:
    return (
        Duty.objects.of(workshop)
        .select_related("circuit")
        .prefetch_related("stops", "circuit__elements")
        .order_by("pk")
    )
