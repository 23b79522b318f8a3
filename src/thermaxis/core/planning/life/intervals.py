"""Change intervals: wear by simulated energy first, then corrected by what the gauge says."""

from __future__ import annotations

import math
from dataclasses import dataclass

from thermaxis.core.errors import FieldError
from thermaxis.core.planning.life.wear import EVENT_SIGMA

P90 = 1.2815515655446004
# Pads that hardly wear (a motor that does nearly all the braking, a machine that stands) end by age and rust: bonding,
# plates and shims (estimate; a reading of rust comes before it).
AGE_LIMIT_YEARS = 8.0
SCHOOLS = ("minimum", "half", "backing")
# Friction material left at change, by duty: the makers' usual street minimum, and for motorcycles (estimates).
MINIMUM_M = {"car": 3.0e-3, "truck": 3.0e-3, "motorcycle": 1.5e-3}


@dataclass(frozen=True, kw_only=True)
class WearScale:
    """How fast the pads really wear against the computed rate: a lognormal, median and sigma of the logarithm."""

    median: float
    sigma: float


@dataclass(frozen=True, kw_only=True)
class Remaining:
    """Life left of one pad, in events, with its P10 and P90."""

    thickness_m: float
    limit_m: float
    wear_per_event_m: float
    events: float
    events_p10: float
    events_p90: float


def change_limit_m(school: str, kind: str, new_m: float, backing_m: float) -> float:
    """Friction material left, in m, at which a change rule replaces the pad (workshop practice).

    minimum: a fixed least thickness; half: half of new, because a thin pad stores and insulates less; backing: as
    thick as the backing plate. Never above 80 % of new, or a set would be due when fitted.

    >>> change_limit_m("half", "car", 0.011, 0.0055)
    0.0055
    """
    if school not in SCHOOLS:
        raise FieldError("school", school, "one of " + ", ".join(SCHOOLS))
    limits = {"minimum": MINIMUM_M[kind], "half": new_m / 2.0, "backing": backing_m}
    return min(limits[school], 0.8 * new_m)


def default_school(use: str, kind: str) -> str:
    """The school taken unless the user picks one: the backing plate's thickness where pads run hot, else minimum.

    Source: workshop practice.

    >>> default_school("track", "car")
    'backing'
    """
    return "backing" if use in ("track", "hill", "sprint") and kind != "motorcycle" else "minimum"


def remaining(thickness_m: float, limit_m: float, computed_per_event_m: float, scale: WearScale) -> Remaining:
    """Events until `limit_m`, with the band of wear scale and events; no wear at all is held at 99999 events.

    >>> round(remaining(0.009, 0.003, 0.0001, WearScale(median=1.0, sigma=0.3)).events)
    60
    """
    usable = max(0.0, thickness_m - limit_m)
    per_event = computed_per_event_m * scale.median
    most = 99999.0

    def events(rate: float) -> float:
        return min(most, usable / rate) if rate > 0 else most

    spread = math.exp(P90 * math.hypot(scale.sigma, EVENT_SIGMA))
    return Remaining(
        thickness_m=thickness_m,
        limit_m=limit_m,
        wear_per_event_m=per_event,
        events=events(per_event),
        events_p10=events(per_event * spread),
        events_p90=events(per_event / spread),
    )


def events_until_too_old(months_on: float, per_month: float) -> float:
    """Events at `per_month` until pads that went on `months_on` months ago reach `AGE_LIMIT_YEARS`; a number >= 0.

    Source: estimate.

    >>> round(events_until_too_old(36.0, 2.0))
    120
    """
    return max(0.0, 12.0 * AGE_LIMIT_YEARS - months_on) * per_month
