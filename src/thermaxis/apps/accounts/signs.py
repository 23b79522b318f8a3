"""Numbers whose sign is physics, held by the database itself: whichever way a row comes, no mass is negative."""

from __future__ import annotations

from typing import TYPE_CHECKING

from django.apps import apps
from django.db import models

ABOVE_ZERO, NOT_BELOW_ZERO = "a number above zero", "a number of zero or more"

if TYPE_CHECKING:
    # The checker knows which of its own fields are nullable, and of no other.
    PositiveFloatField = models.FloatField
    NotNegativeFloatField = models.FloatField
else:

    class PositiveFloatField(models.FloatField):
        """A number above zero: a mass, a thickness of what is new. Unknown, where the column allows it."""

        allowed = ABOVE_ZERO

        def db_check(self, connection):
            return f"{connection.ops.quote_name(self.column)} > 0"

    class NotNegativeFloatField(models.FloatField):
        """A number of zero or more: a price, a distance, what is left of a pad. Unknown, where the column allows it."""

        allowed = NOT_BELOW_ZERO

        def db_check(self, connection):
            return f"{connection.ops.quote_name(self.column)} >= 0"


def allowed_in(column: str) -> str:
    """What columns of this name may hold, in words: where they differ, what all of them take."""
    fields = [field for model in apps.get_models() for field in model._meta.fields if field.column == column]
    words = {getattr(field, "allowed", "") for field in fields}
    return ABOVE_ZERO if ABOVE_ZERO in words else NOT_BELOW_ZERO if NOT_BELOW_ZERO in words else "another value"
