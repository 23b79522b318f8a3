"""How far a pad set is bedded, on the rings it runs on now (bed-and-life 3)."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass

from thermaxis.core.messages import proof as say
from thermaxis.core.said import Said, day_text

STATES = ("new", "bedding", "bedded", "unbedded")
ROAD_KM = 300.0
"""So much ordinary driving beds street compounds in (estimate)."""
ROAD_FAMILIES = ("organic", "ceramic", "low-metallic", "semi-metallic", "sintered")
UNBEDDED_MU = 0.20
"""Friction of pads that are not bedded lies within so much of the curve, as a share (estimate)."""


@dataclass(frozen=True, kw_only=True)
class Told:
    """One thing that was said of a set's bedding: on which rings, when, and how it went.

    `word`: bedded, partly, overheated or begun; `why` in words where somebody looked at the ring.
    """

    rings: int
    on: dt.date
    word: str
    why: Said | None = None


@dataclass(frozen=True, kw_only=True)
class Bedding:
    """A state of `STATES` and why."""

    state: str
    why: Said

    @property
    def bites(self) -> bool:
        """Whether its friction is what the curve says."""
        return self.state == "bedded"


def bedding_of(
    told: Sequence[Told], *, rings: int, since: dt.date, km: float, family: str, as_found: bool, ran_since: str = ""
) -> Bedding:
    """The state of a set on rings number `rings`, on which it has driven `km` since the day it was put on them.

    The last thing that was told counts. `as_found`: it was on the machine when that was added. `ran_since`: the
    compound that ran on these rings after this set was bedded on them; empty where none did. What nobody told anything
    of is bedded by 300 km of road, but for race compounds.
    """
    last = told[-1] if told else None
    if last is None or (last.rings != rings and last.word == "begun"):
        if as_found:
            return Bedding(state="bedded", why=say.AS_FOUND())
        if km >= ROAD_KM and family in ROAD_FAMILIES:
            return Bedding(state="bedded", why=say.BY_ROAD(km=km))
        return Bedding(state="new", why=say.IS_NEW())
    if last.word == "begun":
        return Bedding(state="bedding", why=say.IS_BEGUN())
    if last.word == "overheated":
        return Bedding(state="unbedded", why=last.why or say.WAS_OVERHEATED())
    if last.word == "partly":
        if km >= ROAD_KM and family in ROAD_FAMILIES:
            return Bedding(state="bedded", why=say.BY_ROAD(km=km))
        return Bedding(state="bedding", why=say.IS_PARTLY(why=last.why or say.IS_BEGUN()))
    if last.rings != rings:
        if km >= ROAD_KM and family in ROAD_FAMILIES:
            return Bedding(state="bedded", why=say.BY_ROAD(km=km))
        return Bedding(state="unbedded", why=say.OTHER_RINGS())
    if ran_since and last.on < since:
        return Bedding(state="unbedded", why=say.OTHER_RAN(pads=ran_since))
    return Bedding(state="bedded", why=say.IS_BEDDED(day=day_text(last.on)))
