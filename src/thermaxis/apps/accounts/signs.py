"""Numbers whose sign is physics, held by the database itself: whichever way a row comes, no mass is negative."""

from __future__ import annotations

from typing import TYPE_CHECKING

from django.apps import apps
from django.db import models

if TYPE_CHECKING:
    # The checker knows which of its own fields are nullable, and of no other.
    PositiveFloatField = models.FloatField
    NotNegativeFloatField = models.FloatField
else:

    class PositiveFloatField(models.FloatField):
        """A number above zero: a mass, a thickness of what is new. Unknown, where the column allows it."""

        allowed = "a number above zero"

        def db_check(self, connection):
            return f"{connection.ops.quote_name(self.column)} > 0"

    class NotNegativeFloatField(models.FloatField):
        """A number of zero or more: a price, a distance, what is left of a pad. Unknown, where the column allows it."""

        allowed = "a number of zero or more"

        def db_check(self, connection):
            return f"{connection.ops.quote_name(self.column)} >= 0"


def allowed_in(column: str) -> str:
    """What columns of this name may hold, in words: where they differ, what all of them take."""
    fields = [field for model in apps.get_models() for field in model._meta.fields if field.column == column]
    # The stricter one comes first in the alphabet.
    return min((str(field.allowed) for field in fields if hasattr(field, "allowed")), default="another value")
