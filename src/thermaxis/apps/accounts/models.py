"""Workshops and their members; every other row of the application belongs to a workshop."""

from __future__ import annotations

from typing import TypeVar

from django.conf import settings
from django.db import models

M = TypeVar("M", bound=models.Model)


class OwnedQuerySet(models.QuerySet[M]):
    """Rows of one workshop only: every query starts here."""

    def of(self, workshop: Workshop) -> OwnedQuerySet[M]:
        return self.filter(workshop=workshop)


class Workshop(models.Model):
    name = models.CharField(max_length=120)
    currency = models.CharField(max_length=4, default="£")
    members = models.ManyToManyField(settings.AUTH_USER_MODEL, through="Membership", related_name="workshops")

    def __str__(self) -> str:
        return self.name


class Membership(models.Model):
    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["user", "workshop"], name="one_membership")]


class Owned(models.Model):
    """Base of every row that belongs to a workshop."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="+")

    class Meta:
        abstract = True
