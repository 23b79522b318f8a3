"""Fit's line on the rail."""

from __future__ import annotations

from thermaxis.apps.fitted.models import Intended
from thermaxis.apps.fitted.standing import Standing
from thermaxis.apps.solving.checking import check_of
from thermaxis.apps.solving.stage import Stage
from thermaxis.core.messages import fit as say


def stage(standing: Standing | None) -> Stage:
    """Empty until a set is said, attention where it does not go in, started where something is not settled."""
    # Whoever has said nothing need not wait for what is on to be checked.
    if standing is None or not Intended.objects.filter(machine=standing.machine).exists():
        return Stage(name="fit", state="empty")
    found = check_of(standing)
    if found.gone:
        return Stage(name="fit", state="attention", note=say.SET_GONE())
    if found.verdict == "does not fit":
        return Stage(name="fit", state="attention", note=say.GOES_NOT_ON())
    return Stage(name="fit", state="done" if found.verdict == "fits" else "started")
