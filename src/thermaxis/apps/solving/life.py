"""What is left of the pads that are on, and when they are due."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass

from thermaxis.apps.fitted.models import PadSet
from thermaxis.apps.fitted.wearing import PartWear
from thermaxis.apps.garage.duty_mapping import duty_or_error
from thermaxis.apps.garage.mapping import school_of
from thermaxis.apps.garage.models import Duty
from thermaxis.apps.solving.in_force import InForce
from thermaxis.apps.solving.limits import Limit
from thermaxis.apps.solving.mapping import change_m
from thermaxis.core.constants import DAYS_A_MONTH
from thermaxis.core.messages import life as say
from thermaxis.core.planning.life import intervals

SCHOOL_WORDS = {"minimum": "the least thickness", "half": "half of new", "backing": "the backing plate's thickness"}


@dataclass(frozen=True, kw_only=True)
class PartLife:
    """One pad: what is left of it, and how fast it wears."""

    part: PartWear
    remaining: intervals.Remaining


@dataclass(frozen=True, kw_only=True)
class LifeRow:
    """One axle's pads: what is left of the one due first, when that is, and what it rests on; `parts` are all of them.

    `limits` are what they are changed by, the thickest first, `old_events` the events until they are too old, whatever
    is left of them. `event_energy_J` is the friction
    energy of one rotor per event.
    """

    axle: str
    new_m: float
    remaining: intervals.Remaining
    scale: intervals.WearScale
    measured: bool
    parts: tuple[PartLife, ...]
    computed_per_event_m: float
    event_energy_J: float
    old_events: float
    limits: tuple[Limit, ...]
    event_km: float
    due_km: float
    due_hours: float
    due_on: dt.date | None

    @property
    def due_events(self) -> float:
        """Events left until the change: by wear, or by age and rust where that comes first."""
        return min(self.remaining.events, self.old_events)

    @property
    def limited_by(self) -> str:
        """What ends them: wear or age."""
        return "age" if self.old_events < self.remaining.events else "wear"


def life_rows(state: InForce, school: str | None) -> tuple[LifeRow, ...]:
    """Remaining life of both axles' pads, by simulated energy, corrected by everything measured on them."""
    duty = duty_or_error(state.machine)
    school = school or school_of(state.machine, duty.use)
    return tuple(_life_row(state, axle, duty, school) for axle in ("front", "rear"))


def _life_row(state: InForce, axle: str, duty: Duty, school: str) -> LifeRow:
    facts, result = state.facts, getattr(state.result, axle)
    size = state.standing.pads(axle).size
    limits = pad_limits(state, axle, school)
    limit = limits[0].limit_m
    parts = tuple(
        PartLife(part=part, remaining=intervals.remaining(part.thickness_m, limit, result.pad_wear_m, part.scale))
        for part in state.worn[axle]
    )
    # The thinner of two that wear out in the same event is the first to look at.
    first = min(parts, key=lambda entry: (entry.remaining.events, entry.part.thickness_m))
    left = first.remaining
    since = state.past[axle].mountings[0].from_on
    months_on = (state.standing.day - since).days / DAYS_A_MONTH
    old_events = intervals.events_until_too_old(months_on, duty.events_per_month)
    due = min(left.events, old_events)
    return LifeRow(
        axle=axle,
        new_m=size.thickness_m,
        remaining=left,
        scale=first.part.scale,
        measured=first.part.measurements > 0,
        parts=parts,
        computed_per_event_m=result.pad_wear_m,
        event_energy_J=result.friction_energy_J,
        event_km=facts.event_km,
        old_events=old_events,
        limits=limits,
        due_km=due * facts.event_km,
        due_hours=due * facts.event_hours,
        due_on=_due_date(state.standing.day, due, duty.events_per_month),
    )


def pad_limits(state: InForce, axle: str, school: str | None = None, pads: PadSet | None = None) -> tuple[Limit, ...]:
    """What a pad is changed by, the thickest first: its school's limit, and what computation asks."""
    school = school or school_of(state.machine, duty_or_error(state.machine).use)
    size = (pads or state.standing.pads(axle)).size
    by_school = Limit(
        rule=school,
        limit_m=change_m(school, state.machine.kind, size),
        text=say.LIMIT_SCHOOL(school=SCHOOL_WORDS[school]),
    )
    return tuple(sorted((by_school, *state.limits[axle]), key=lambda limit: -limit.limit_m))


def _due_date(today: dt.date, events: float, per_month: float) -> dt.date | None:
    """The day the pads are due at the usual pace; None where that is more than ten years away."""
    days = DAYS_A_MONTH * events / per_month if per_month > 0 else float("inf")
    return today + dt.timedelta(days=days) if days < 3653 else None
