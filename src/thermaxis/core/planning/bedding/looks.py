"""What a ring shows after bedding, what it means and what to do (bed-and-life 3)."""

from __future__ import annotations

import functools
from dataclasses import dataclass

from thermaxis.core.errors import FieldError
from thermaxis.core.tables import rows_of


@dataclass(frozen=True, kw_only=True)
class Look:
    """A look of a ring: what is seen and means, what to do, when to stop driving, what became of the pads."""

    look: str
    label: str
    shows: str
    means: str
    do: str
    stop: str
    verdict: str


@functools.cache
def looks() -> tuple[Look, ...]:
    """Every look, the good one first."""
    return tuple(Look(**row) for row in rows_of("ring_looks"))


def look_named(name: str) -> Look:
    """A look by its name. FieldError."""
    found = next((look for look in looks() if look.look == name), None)
    if found is None:
        raise FieldError("look", name, "one of " + ", ".join(look.look for look in looks()))
    return found
