"""Keep a friction reading of the workshop's own, or compute with them."""

from __future__ import annotations

import datetime as dt

from thermaxis.apps.accounts.models import Reach
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.catalogue.mapping import own_fit
from thermaxis.apps.catalogue.models import OwnMu, Pad
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import Action
from thermaxis.core.errors import FieldError, SolveError

KEEP_READING = Action("keep_reading", "Friction read", kind="reading", keys=Reach.READINGS)
REMOVE_READING = Action("remove_reading", "Friction reading taken out or brought back", kind="reading")
USE_OWN = Action("use_own", "Own friction used or not", kind="catalogue")

MOST_READINGS = 500


def keep_reading(scope: Scope, pad: Pad, temperature_C: float, mu: float, measured_on: dt.date, how: str) -> OwnMu:
    """Keep what was measured of a compound, beside the maker's curve."""
    with act(scope, KEEP_READING, pad) as entry:
        if pad.own_mu.filter(removed_at=None).count() >= MOST_READINGS:
            raise SolveError(f"A compound keeps at most {MOST_READINGS} readings: take old ones out first.")
        row = OwnMu.objects.create(pad=pad, temperature_C=temperature_C, mu=mu, measured_on=measured_on, how=how)
        entry.about(pad, row)
    return row


def use_own(scope: Scope, pad: Pad, use: bool) -> Pad:
    """Compute with the curve moved to the workshop's own readings, or with the maker's. FieldError without any."""
    with act(scope, USE_OWN, pad) as entry:
        if use and own_fit(pad).count == 0:
            raise FieldError("use_own", True, "false until there is a reading of your own")
        entry.changed("use_own", pad.use_own, use)
        pad.use_own = use
        pad.save(update_fields=["use_own"])
        entry.about(pad)
    return pad
