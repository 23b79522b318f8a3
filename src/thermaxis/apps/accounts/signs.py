"""Numbers whose sign is physics, held by the database itself: whichever way a row comes, no mass is negative."""

from __future__ import annotations

from typing import TYPE_CHECKING

from django.db import models

if TYPE_CHECKING:
    # The checker knows which of its own fields are nullable, and of no other.
    PositiveFloatField = models.FloatField
    NotNegativeFloatField = models.FloatField
else:

    class PositiveFloatField(models.FloatField):
        """A number above zero: a mass, a thickness of what is new. Unknown, where the column allows it."""

        def db_check(self, connection):
            return f"{connection.ops.quote_name(self.column)} > 0"

    class NotNegativeFloatField(models.FloatField):
        """A number of zero or more: a price, a distance, what is left of a pad. Unknown, where the column allows it."""

        def db_check(self, connection):
            return f"{connection.ops.quote_name(self.column)} >= 0"
