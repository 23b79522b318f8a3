"""Workshops and their members; every other row of the application belongs to a workshop."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any, Self, TypeVar

from django.conf import settings
from django.db import models

M = TypeVar("M", bound=models.Model)


def put(row: models.Model, columns: Iterable[str], values: Mapping[str, Any]) -> None:
    """Set these columns of a row, and no others, whatever else the values hold."""
    for column in columns:
        setattr(row, column, values[column])


class OwnedQuerySet(models.QuerySet[M]):
    """Rows of one workshop only: every query starts here."""

    def of(self, workshop: Workshop) -> Self:
        return self.filter(workshop=workshop)


class Role(models.TextChoices):
    """What a member may do: everything; all work; what concerns one's own machines; look."""

    OWNER = "owner"
    FITTER = "fitter"
    DRIVER = "driver"
    READER = "reader"


class Workshop(models.Model):
    name = models.CharField(max_length=120)
    currency = models.CharField(max_length=4, default="£")
    members = models.ManyToManyField(settings.AUTH_USER_MODEL, through="Membership", related_name="workshops")
    # Another one with every change of the workshop's data: what is kept in memory is good for as long as it stays.
    stamp = models.CharField(max_length=16, blank=True)

    def __str__(self) -> str:
        return self.name


class Membership(models.Model):
    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE)
    role = models.CharField(max_length=6, choices=Role.choices, default=Role.OWNER)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["user", "workshop"], name="one_membership")]


class Owned(models.Model):
    """Base of every row that belongs to a workshop."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="+")

    class Meta:
        abstract = True


class ChangeKey(models.Model):
    """A change that was made, by the page's own key for it, and what was answered: asked again, it says so again."""

    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    key = models.CharField(max_length=64)
    operation = models.CharField(max_length=200)
    fingerprint = models.CharField(max_length=64)
    made_at = models.DateTimeField(auto_now_add=True, db_index=True)
    # Empty until the answer was given, or where it was too long to keep.
    status = models.PositiveSmallIntegerField(null=True)
    media_type = models.CharField(max_length=80, blank=True)
    content = models.BinaryField(default=b"")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["user", "key"], name="one_change_per_key")]
