"""Own time and cost of a job, from when its steps were ticked (fit-and-job 9)."""

from __future__ import annotations

import statistics
from collections.abc import Sequence

PAUSE_S = 600.0
"""Without a tick for so long the timer stands still."""
OWN_AFTER = 3
"""From so many jobs of a kind on the estimate is one's own median."""


def step_seconds(started_s: float, ticked_s: Sequence[float]) -> list[float]:
    """Seconds each tick took since the one before, in the order given; a gap over 600 s counts as 600.

    >>> step_seconds(0.0, [60.0, 90.0, 5000.0])
    [60.0, 30.0, 600.0]
    """
    found, before = [], started_s
    for at in ticked_s:
        found.append(min(PAUSE_S, max(0.0, at - before)))
        before = max(before, at)
    return found


def expected_s(estimate_s: float, own_s: Sequence[float]) -> float:
    """Seconds a job is expected to take, in s: the library's estimate, or one's own median from three jobs on."""
    return statistics.median(own_s) if len(own_s) >= OWN_AFTER else estimate_s


def own_cost(parts: float, consumables: float, seconds: float, rate_per_hour: float) -> float:
    """What a job costs done by oneself, in its money: parts, consumables and own hours at a rate that may be 0."""
    return parts + consumables + rate_per_hour * seconds / 3600.0


def per_distance(cost: float, events: float, event_km: float) -> float | None:
    """Cost for each 1000 km of what went on, in its money; None where it is not driven or does not last."""
    driven = events * event_km
    return 1000.0 * cost / driven if driven > 0 else None


def per_hour(cost: float, events: float, event_hours: float) -> float | None:
    """Cost for each hour on the track of what went on, in its money; None where there are none."""
    hours = events * event_hours
    return cost / hours if hours > 0 else None
