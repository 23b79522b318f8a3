"""The log, and what every row has that can be taken out and brought back."""

from __future__ import annotations

from typing import Self, TypeVar

from django.conf import settings
from django.db import models
from django.utils import timezone

from thermaxis.apps.accounts.models import Owned, OwnedQuerySet

M = TypeVar("M", bound=models.Model)


class RemovableQuerySet(OwnedQuerySet[M]):
    """Rows of one workshop, of which some may be taken out."""

    def there(self) -> Self:
        """Those that are not taken out."""
        return self.filter(removed_at=None)


class Removable(models.Model):
    """Base of what is taken out of sight and never deleted, so that it can be brought back."""

    removed_at = models.DateTimeField(null=True)

    class Meta:
        abstract = True


class Versioned(models.Model):
    """Base of what is sent back whole: who changes an older version than the one kept is told so."""

    version = models.PositiveIntegerField(default=1)

    class Meta:
        abstract = True


class LogEntry(Owned):
    """One change: who made it, when, on which machine at which odometer, which thing, and what was before and after."""

    act = models.CharField(max_length=40)
    user = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    # Kept beside the person, who may leave.
    user_name = models.CharField(max_length=150)
    made_at = models.DateTimeField(default=timezone.now)
    machine = models.ForeignKey("garage.Machine", null=True, on_delete=models.CASCADE, related_name="log")
    odometer_km = models.FloatField(null=True)
    # The rows it made or changed, as "pad set 12".
    things = models.JSONField(default=list)
    changes = models.JSONField(default=dict, help_text="path to [before, after]")
    objects = OwnedQuerySet.as_manager()

    class Meta:
        ordering = ["-pk"]
        indexes = [models.Index(fields=["machine", "-id"])]
