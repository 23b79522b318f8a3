"""The log, and what every row has that can be taken out and brought back."""

from __future__ import annotations

from typing import Annotated, Self, TypeVar

from django.conf import settings
from django.db import models
from django.utils import timezone
from pydantic import Field

from thermaxis.apps.accounts.models import Owned, OwnedQuerySet
from thermaxis.apps.accounts.shaped import Plain, ShapedField, Word
from thermaxis.apps.accounts.signs import NotNegativeFloatField

M = TypeVar("M", bound=models.Model)
Changes = dict[Word, Annotated[list[Plain], Field(min_length=2, max_length=2)]]


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

    @property
    def removed(self) -> bool:
        """Whether it is out of sight."""
        return self.removed_at is not None


class Versioned(models.Model):
    """Base of what is sent back whole: who changes an older version than the one kept is told so."""

    version = models.PositiveIntegerField(default=1)

    class Meta:
        abstract = True


class LogEntry(Owned, Removable):
    """One change, or one entry by hand: who, when, on which machine at which odometer, which thing, what was before and
    after.
    """

    act = models.CharField(max_length=40)
    user = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    # Kept beside the person, who may leave.
    user_name = models.CharField(max_length=150)
    made_at = models.DateTimeField(default=timezone.now)
    # The day it is about: its own, unless somebody wrote down another.
    on = models.DateField(default=timezone.localdate)
    kind = models.CharField(max_length=10, default="note")
    # What it says in a line, and what somebody wrote: what a search looks through.
    summary = models.CharField(max_length=240, blank=True)
    text = models.TextField(blank=True)
    cost = NotNegativeFloatField(null=True)
    # Written elsewhere and imported: nobody here said it.
    from_file = models.BooleanField(default=False)
    machine = models.ForeignKey("garage.Machine", null=True, on_delete=models.CASCADE, related_name="log")
    odometer_km = NotNegativeFloatField(null=True)
    # The rows it made or changed, as "pad set 12".
    things = ShapedField(default=list, shape=list[Word])
    changes = ShapedField(default=dict, shape=Changes, help_text="path to [before, after]")
    objects = RemovableQuerySet.as_manager()

    class Meta:
        verbose_name = "entry"
        ordering = ["-pk"]
        indexes = [
            models.Index(fields=["machine", "-id"]),
            models.Index(fields=["workshop", "-on", "-id"], name="log_by_day"),
        ]


class LogPhoto(Removable):
    """A picture of an entry by hand; `token` is the page's own name for it."""

    entry = models.ForeignKey(LogEntry, on_delete=models.CASCADE, related_name="photos")
    token = models.CharField(max_length=40)
    content = models.BinaryField()
    taken_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["entry", "token"], name="one_log_photo_per_token")]
