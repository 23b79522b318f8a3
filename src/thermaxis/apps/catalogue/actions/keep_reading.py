"""Keep a friction reading of the workshop's own, take one out, or compute with them."""

from __future__ import annotations

import datetime as dt

from django.utils import timezone

from thermaxis.apps.accounts.changes import change
from thermaxis.apps.catalogue.mapping import own_fit
from thermaxis.apps.catalogue.models import OwnMu, Pad
from thermaxis.core.errors import FieldError, SolveError

MOST_READINGS = 500


def keep_reading(pad: Pad, temperature_C: float, mu: float, measured_on: dt.date, how: str) -> OwnMu:
    """Keep what was measured of a compound, beside the maker's curve."""
    with change():
        if pad.own_mu.filter(removed_at=None).count() >= MOST_READINGS:
            raise SolveError(f"A compound keeps at most {MOST_READINGS} readings: take old ones out first.")
        return OwnMu.objects.create(pad=pad, temperature_C=temperature_C, mu=mu, measured_on=measured_on, how=how)


def set_removed(reading: OwnMu, removed: bool) -> OwnMu:
    """Take a reading out, or bring it back."""
    reading.removed_at = timezone.now() if removed else None
    reading.save(update_fields=["removed_at"])
    return reading


def use_own(pad: Pad, use: bool) -> Pad:
    """Compute with the curve moved to the workshop's own readings, or with the maker's. FieldError without any."""
    if use and own_fit(pad).count == 0:
        raise FieldError("use_own", True, "false until there is a reading of your own")
    pad.use_own = use
    pad.save(update_fields=["use_own"])
    return pad
