"""Flexible hoses, and calipers' seals and boots: rubber ages by date, not by distance."""

from __future__ import annotations

from dataclasses import dataclass

from thermaxis.core.errors import FieldError

# Seals and boots of a caliper are changed together, whatever they are made of.
SEALS = "seals"
KINDS = ("rubber", "braided", SEALS)
MOST_MONTHS = 600.0
# From which age they are looked at with care, and at which they are changed whatever they look like: 6 and 10 years.
LOOK_MONTHS, CHANGE_MONTHS = 72.0, 120.0


@dataclass(frozen=True, kw_only=True)
class HoseLife:
    """State of an axle's rubber by its age, and the months left to the change; negative is overdue."""

    state: str
    months_left: float


def hose_life(age_months: float) -> HoseLife:
    """State by age in months, as a record: fine, close from 6 years on, over from 10 (estimate: 6 to 10 years).

    Cracks, bulges and a pedal that gives come before any age: that is what an inspection is for. Raises FieldError for
    a negative age.

    >>> hose_life(80.0)
    HoseLife(state='close', months_left=40.0)
    """
    if not age_months >= 0:
        raise FieldError("age_months", age_months, "a number >= 0")
    state = "over" if age_months >= CHANGE_MONTHS else ("close" if age_months >= LOOK_MONTHS else "fine")
    return HoseLife(state=state, months_left=CHANGE_MONTHS - age_months)
