"""Decisions: sets that were weighed against each other, as they were shown."""

from __future__ import annotations

from typing import Any

from django.db import models

from thermaxis.apps.accounts.models import Owned
from thermaxis.apps.accounts.shaped import ShapedField, Word
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.log.models import LogEntry, Removable, RemovableQuerySet


class Decision(Owned, Removable):
    """Sets that were weighed against each other, as they were shown; with the fitting it led to, if any."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="decisions")
    # The change that put its first set on, unless that was taken back; and the case it was computed by.
    fitting = models.ForeignKey(LogEntry, null=True, on_delete=models.SET_NULL, related_name="+")
    inputs = ShapedField(default=dict, shape=dict[Word, Any])
    title = models.CharField(max_length=120)
    note = models.TextField(blank=True)
    made_at = models.DateTimeField(auto_now_add=True)
    content = ShapedField(shape="thermaxis.apps.choose.api.decision_schemas:DecisionContent")
    # The end of the address at which anybody may read it.
    token = models.CharField(max_length=64, null=True, unique=True)
    # Whether whoever reads it there reads the notes as well.
    share_notes = models.BooleanField(default=False)
    engine_version = models.CharField(max_length=20)
    objects = RemovableQuerySet.as_manager()

    class Meta:
        ordering = ["-made_at", "-pk"]
