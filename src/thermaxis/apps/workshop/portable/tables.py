"""Which tables a workshop's file has, in the order in which rows can be made, and what their columns hold."""

from __future__ import annotations

import functools
from collections.abc import Iterable

from django.apps import apps
from django.db import models

from thermaxis.apps.accounts.models import Owned, Workshop

# Of accounts nothing travels: people and their sign-ins stay where they are. A secret address is made anew.
LEFT_OUT = {"season.CalendarFeed"}
SECRETS = {"choose.Decision": ("token",)}
# Where names of people stand as text; and by which words a stored sheet says who did something.
NAMES = {
    "log.LogEntry": ("user_name",),
    "job.Job": ("started_by",),
    "job.JobTick": ("by", "rechecked_by"),
    "bed.RunEvent": ("by",),
}
WHO = ("by", "started_by", "rechecked_by")


@functools.cache
def tables() -> tuple[type[models.Model], ...]:
    """Every table of the workshop's data; a row's needed neighbours come before it."""
    found = [
        model
        for config in apps.get_app_configs()
        if config.name.startswith("thermaxis.apps.") and config.label != "accounts"
        for model in config.get_models()
        if model._meta.label not in LEFT_OUT
    ]
    ordered: list[type[models.Model]] = []
    while found:
        ready = [model for model in found if all(near in ordered or near is model for near in _needed(model))]
        if not ready:
            raise RuntimeError(f"tables that need each other: {[model._meta.label for model in found]}")
        ordered += ready
        found = [model for model in found if model not in ready]
    return tuple(ordered)


def columns(model: type[models.Model]) -> list[models.Field]:  # type: ignore[type-arg]
    """Columns of a table that travel: all but its number and its workshop."""
    return [field for field in model._meta.concrete_fields if not field.primary_key and field.name != "workshop"]


def neighbours(model: type[models.Model]) -> list[models.ForeignKey]:  # type: ignore[type-arg]
    """Columns that name a row of a table that travels."""
    return [field for field in columns(model) if isinstance(field, models.ForeignKey) and _travels(field)]


def is_photo(model: type[models.Model]) -> bool:
    """Whether its rows hold pictures."""
    return model._meta.model_name.endswith("photo")  # type: ignore[union-attr]


def is_owned(model: type[models.Model]) -> bool:
    """Whether its rows name their workshop themselves."""
    return issubclass(model, Owned)


def _travels(field: models.ForeignKey) -> bool:  # type: ignore[type-arg]
    target = field.related_model
    return isinstance(target, type) and target is not Workshop and target._meta.app_label not in ("accounts", "auth")


def _needed(model: type[models.Model]) -> Iterable[type[models.Model]]:
    return [field.related_model for field in neighbours(model) if not field.null]
