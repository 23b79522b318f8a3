"""What the inspect app reads, always within one workshop."""

from __future__ import annotations

from django.db.models import Q, QuerySet

from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.inspect.models import Inspection


def inspections(workshop: Workshop) -> QuerySet[Inspection]:
    """Inspections with what belongs to them."""
    return Inspection.objects.of(workshop).select_related(*Inspection.READ_WITH)


def inspection_before(inspection: Inspection) -> Inspection | None:
    """The last finished inspection of the machine before this one."""
    return (
        inspection.machine.inspections.there()
        .filter(finished_at__isnull=False, measured_on__lte=inspection.measured_on)
        .exclude(pk=inspection.pk)
        .filter(Q(measured_on__lt=inspection.measured_on) | Q(pk__lt=inspection.pk))
        .select_related(*Inspection.READ_WITH)
        .first()
    )
