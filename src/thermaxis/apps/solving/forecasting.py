"""Every part of a machine carried forward along its events, what to change before which, and how right it was."""

from __future__ import annotations

import datetime as dt
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from thermaxis.apps.fitted.fluids import bears, readings_of
from thermaxis.apps.fitted.models import FluidFill, FluidReading, Hose, PadSet, RotorPair, RotorReading
from thermaxis.apps.fitted.parts import AXLES
from thermaxis.apps.fitted.wearing import ROAD, PartWear, part_worn, parts_worn
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.solving.driven import past_of, ring_m, ring_past_of
from thermaxis.apps.solving.found import found_on, looks_at
from thermaxis.apps.solving.in_force import InForce
from thermaxis.apps.solving.life import pad_limits
from thermaxis.apps.solving.limits import Limit
from thermaxis.apps.solving.season import Asked, asked_of, events_ahead
from thermaxis.apps.solving.solver import damages
from thermaxis.core.constants import DAYS_A_MONTH
from thermaxis.core.messages import life as say
from thermaxis.core.physics.fluid import takes_water
from thermaxis.core.planning.choice.fluids import LONGEST_MONTHS
from thermaxis.core.planning.life.fatigue import CrackScale, Look, crack_scale, events_to_crack
from thermaxis.core.planning.life.fluid import DUE_K, FITTED_RISE_SIGMA, OVERHEATED_K, RISE_SIGMA, fluid_state
from thermaxis.core.planning.life.forecast import (
    Ahead,
    Draws,
    Hot,
    ahead,
    cracks_ahead,
    draws_of,
    margins_ahead,
    thickness_ahead,
)
from thermaxis.core.planning.life.hoses import CHANGE_MONTHS, LOOK_MONTHS
from thermaxis.core.planning.life.intervals import AGE_LIMIT_YEARS
from thermaxis.core.planning.life.wear import PADS, RINGS, found_rings
from thermaxis.core.said import Said, day_text

Array = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Forecast:
    """One part along the events: `thing` is what is or will be on. `used` says which of them it is on for; `left` is
    in m over its limit, or in K.
    `sound` is how likely a ring is without hairlines after each: that asks for a look, it does not end it.

    `parts` are the pads or rings it is made of; the weakest decides. `note` says what else there is to know of it.
    """

    kind: str
    axle: str
    name: str
    thing: PadSet | RotorPair | FluidFill | Hose
    on_it: bool
    used: tuple[bool, ...]
    ahead: Ahead
    now: float
    limit: float
    new: float
    limits: tuple[Limit, ...] = ()
    parts: tuple[PartWear, ...] = ()
    due: int | None = None
    note: tuple[Said, ...] = ()
    due_on: dt.date | None = None
    fraction_left: tuple[float, ...] = ()
    damage_used: float = 0.0
    sound: tuple[float, ...] = ()

    @property
    def key(self) -> str:
        """The part as pages and orders name it."""
        return f"{self.kind}-{self.axle or 'all'}-{self.thing.pk}"


@dataclass(frozen=True, kw_only=True)
class Outlook:
    """A machine's season: what is ahead, every part along it, and how many readings fell inside their range."""

    asked: tuple[Asked, ...]
    forecasts: tuple[Forecast, ...]
    inside: int
    readings: int
    margins_K: tuple[tuple[float, float, float], ...] = field(default=())


def outlook(state: InForce, air_C: tuple[int, float] | None = None) -> Outlook:
    """Carry every part of a machine forward by the same draws; `air_C` tries another air on one event by its number."""
    asked = asked_of(state, events_ahead(state, air_C))
    draws = draws_of(len(asked))
    found: list[Forecast] = []
    thickness: dict[tuple[str, int], Array] = {}
    for axle in AXLES:
        for pads in _sets_of(state, asked, axle):
            forecast, before = _pads(state, asked, draws, axle, pads)
            found.append(forecast)
            thickness[axle, pads.pk] = before
    for axle in AXLES:
        found.append(_rings(state, asked, draws, axle))
    fluid, margins = _fluid(state, asked, draws, thickness)
    found.append(fluid)
    found += _rubber(state.machine, state.standing.day, asked)
    scored = [entry for forecast in found for part in forecast.parts for entry in part.scores]
    return Outlook(
        asked=tuple(asked),
        forecasts=tuple(found),
        inside=sum(entry.inside for entry in scored),
        readings=len(scored),
        margins_K=margins,
    )


def _sets_of(state: InForce, asked: list[Asked], axle: str) -> list[PadSet]:
    """The set that is on an axle, and every other one an event ahead is driven on."""
    sets = {state.standing.pads(axle).pk: state.standing.pads(axle)}
    for event in asked:
        sets.setdefault(event.pads[axle].pk, event.pads[axle])
    return list(sets.values())


def _pads(state: InForce, asked: list[Asked], draws: Draws, axle: str, pads: PadSet) -> tuple[Forecast, Array]:
    """A set along the events, and how thick its thinnest pad is when each begins, (N, K)."""
    on_it = pads.pk == state.standing.pads(axle).pk
    parts = state.worn[axle] if on_it else _on_the_shelf(state, pads)
    limits = pad_limits(state, axle, pads=pads)
    used = tuple(event.pads[axle].pk == pads.pk for event in asked)
    steps = [(event.event.duty.pk, event.pads_m[axle], event.road_m[axle]) for event in asked]
    nows, lefts = _carried(f"pads {axle} {pads}", parts, steps, used, draws)
    now, left = nows.min(axis=0), lefts.min(axis=0)
    limit, new_m = limits[0].limit_m, pads.size.thickness_m
    through = ahead(left - limit, now - limit)
    first = min(part.thickness_m for part in parts)
    ends_on = state.past[axle].mountings[0].from_on + dt.timedelta(days=12 * DAYS_A_MONTH * AGE_LIMIT_YEARS)
    old = [k for k, event in enumerate(asked) if event.event.on >= ends_on]
    before = _before(now, left)
    return (
        Forecast(
            kind="pads",
            axle=axle,
            name=str(pads),
            thing=pads,
            on_it=on_it,
            used=used,
            ahead=through,
            now=first,
            limit=limit,
            new=new_m,
            limits=limits,
            parts=parts,
            due=old[0] if old and on_it else None,
            note=(say.BY_RUST(),) if old and on_it else (),
            fraction_left=_fractions(before - limit, new_m - limit),
        ),
        before,
    )


def _on_the_shelf(state: InForce, pads: PadSet) -> tuple[PartWear, ...]:
    """How worn a set is that is not on: where it was on last, by all it has done; new where it was nowhere yet."""
    duty_id = state.machine.duty_id or 0
    last = pads.mountings.select_related("machine", "pad_set__size").order_by("-pk").first()
    if last is None:
        return (part_worn("", [], [], {}, pads.size.thickness_m, duty_id, PADS),)
    km = last.until_km if last.until_km is not None else last.machine.odometer_km
    return parts_worn(last, km, past_of(state.standing, pads, state.driving), duty_id)


def _carried(
    name: str, parts: tuple[PartWear, ...], steps: list[tuple[int, float, float]], used: tuple[bool, ...], draws: Draws
) -> tuple[Array, Array]:
    """Every part's thickness now (P, N) and after each event (P, N, K)."""
    nows, lefts = [], []
    for part in parts:
        matrix = np.zeros((len(steps), len(part.duties)))
        for k, (duty, pads_m, road_m) in enumerate(steps):
            if used[k]:
                # A duty nothing was driven on yet is not among those of its past: what is common to all holds for it.
                matrix[k, part.duties.index(duty if duty in part.duties else part.duty)] += pads_m
                matrix[k, part.duties.index(ROAD)] += road_m
        now, left = thickness_ahead(f"{name} {part.position}", part.state, matrix, draws)
        nows.append(now)
        lefts.append(left)
    return np.array(nows), np.array(lefts)


def _before(now: Array, left: Array) -> Array:
    """What is there when each event begins, (N, K), from what is now (N,) and what is left after each."""
    return np.concatenate([now[:, None], left], axis=1)[:, : left.shape[1]]


def _fractions(before: Array, whole: float) -> tuple[float, ...]:
    """Share of a part's life that is left before each event, in the middle of its draws."""
    middle = np.median(before, axis=0) / max(1e-9, whole)
    return tuple(np.clip(middle, 0.0, 1.0).tolist())


def _rings(state: InForce, asked: list[Asked], draws: Draws, axle: str) -> Forecast:
    """A pair of rotors along the events: thin, or with hairlines, whichever comes first."""
    mounting = state.standing.axles[axle].rotors
    pair, driving = mounting.rotor_pair, state.driving
    machine, pads = state.machine, state.standing.pads(axle)
    duty_id = machine.duty_id or 0

    def thinner(which: Machine, duty: int, place: str) -> float:
        return ring_m(pads, driving.solved(which, duty, place, pads)[0], place)

    past = ring_past_of(pair, driving, thinner)
    now = past.worn(mounting.pk, machine.odometer_km)
    by_disc: dict[str, list[RotorReading]] = {}
    for row in RotorReading.objects.there().filter(disc__pair=pair).select_related("disc"):
        by_disc.setdefault(row.disc.side, []).append(row)
    size = pair.size
    first = pair.mountings.order_by("pk").first()
    as_found = first is not None and first.begun_by_id is None and pair.arrived_on is None
    prior = found_rings(size.thickness_m - size.discard_thickness_m) if as_found else RINGS
    parts = tuple(
        part_worn(
            side,
            [row.thickness_m for row in rows],
            [past.worn(row.mounting_id, row.odometer_km) for row in rows],
            now,
            size.thickness_m,
            duty_id,
            prior,
        )
        for side, rows in sorted((by_disc or {"": []}).items())
    )
    steps = [(event.event.duty.pk, event.rings_m[axle], event.road_rings_m[axle]) for event in asked]
    used = (True,) * len(asked)
    nows, lefts = _carried(f"rings {axle}", parts, steps, used, draws)
    worn, left = nows.min(axis=0), lefts.min(axis=0)

    def broken(which: Machine, duty: int, place: str) -> float:
        if which.pk != machine.pk:
            return 0.0
        return float(getattr(damages([driving.case(duty, state.standing.parts)])[0], place))

    cracks = ring_past_of(pair, driving, broken)
    looks = looks_at(machine, mounting.pk, axle, lambda km: cracks.worn_in_all(mounting.pk, km))
    scale, so_far = crack_scale(looks), cracks.worn_in_all(mounting.pk, machine.odometer_km)
    holds = cracks_ahead(f"rings {axle}", scale, so_far, np.array([event.damage[axle] for event in asked]), draws)
    limit = size.discard_thickness_m
    before = _before(worn, left)
    return Forecast(
        kind="rings",
        axle=axle,
        name=str(pair),
        thing=pair,
        on_it=True,
        used=used,
        ahead=ahead(left - limit, worn - limit),
        sound=tuple(holds.mean(axis=0).tolist()),
        now=min(part.thickness_m for part in parts),
        limit=limit,
        new=size.thickness_m,
        limits=(Limit(rule="discard", limit_m=limit, text=say.LIMIT_DISCARD()),),
        parts=parts,
        damage_used=so_far,
        note=_crack_words(looks, so_far, _per_event(asked, axle), scale),
        fraction_left=_fractions(before - limit, size.thickness_m - limit),
    )


def _per_event(asked: list[Asked], axle: str) -> float:
    return sum(event.damage[axle] for event in asked) / max(1, len(asked))


def _crack_words(looks: list[Look], so_far: float, per_event: float, scale: CrackScale) -> tuple[Said, ...]:
    """When hairlines are likely, in events such as those ahead; where they were seen, to look each time."""
    if looks and looks[-1].cracked:
        return (say.CRACKED(),)
    early, _, late = events_to_crack(so_far, per_event, scale)
    if early >= 100:
        return (say.CRACKS_LATE(late=100.0),)
    return (say.CRACKS(early=max(1.0, np.ceil(early)), late=max(1.0, np.ceil(late))),)


def _fluid(
    state: InForce, asked: list[Asked], draws: Draws, thickness: dict[tuple[str, int], Array]
) -> tuple[Forecast, tuple[tuple[float, float, float], ...]]:
    """The fluid along the events, its soak with the pads as thin as they are by then."""
    standing = state.standing
    fill = standing.fill
    rows, bearing = readings_of(fill), bears(fill)
    sigma = FITTED_RISE_SIGMA if state.fits else RISE_SIGMA
    margins = []
    filled = None
    for k, event in enumerate(asked):
        if event.event.row is not None and event.event.row.fluid is not None:
            fresh, filled = event.event.row.fluid, event.event.on
            bearing = fluid_state(fresh.dry_C, fresh.wet_C, [], takes_up=takes_water(fresh.standard))
        months = fill.months_on(event.event.on) if filled is None else (event.event.on - filled).days / DAYS_A_MONTH
        by_axle = []
        for axle in AXLES:
            new_m = event.pads[axle].size.thickness_m
            hot = Hot(
                thickness_m=tuple(share * new_m for share in event.fluid.shares),
                fluid_C=getattr(event.fluid, axle),
                air_C=event.air_C,
                months=months,
                drop_K=event.drop_K,
            )
            pads = thickness[axle, event.pads[axle].pk][:, k : k + 1]
            by_axle.append(margins_ahead(bearing, [hot], pads, draws, sigma)[:, 0])
        margins.append(np.minimum(*by_axle))
    left = np.stack(margins, axis=1) if margins else np.zeros((draws.count, 0))
    through = ahead(left, np.full(draws.count, 1e3))
    due, note, due_on = _fluid_due(state, asked, rows, np.median(left, axis=0))
    return (
        Forecast(
            kind="fluid",
            axle="",
            name=fill.fluid.name,
            thing=fill,
            on_it=True,
            used=(True,) * len(asked),
            ahead=through,
            now=standing.fluid_months,
            limit=LONGEST_MONTHS,
            new=0.0,
            due=due,
            due_on=due_on,
            note=note,
            fraction_left=(0.0,) * len(asked),
        ),
        through.left,
    )


def _fluid_due(
    state: InForce, asked: list[Asked], rows: list[FluidReading], middle: Array
) -> tuple[int | None, tuple[Said, ...], dt.date | None]:
    """The event fluid is changed before, in words, and the day it is two years old."""
    fill, today = state.standing.fill, state.standing.day
    old_on = today + dt.timedelta(days=DAYS_A_MONTH * (LONGEST_MONTHS - state.standing.fluid_months))
    last = rows[-1] if rows else None
    if any(row.overheated for row in rows):
        return 0 if asked else None, (say.FLUID_HOT(within=OVERHEATED_K),), today
    if last is not None and last.colour == "black":
        return 0 if asked else None, (say.FLUID_BLACK(),), today
    changed = next((k for k, event in enumerate(asked) if event.event.row and event.event.row.fluid), len(asked))
    for k, event in enumerate(asked):
        if middle[k] < DUE_K:
            text = say.FLUID_HEAT(event=event.event.name, margin=float(middle[k]), least=DUE_K)
            return k, (text,), min(old_on, event.event.on)
        if k < changed and fill.months_on(event.event.on) >= LONGEST_MONTHS:
            return k, (say.FLUID_AGE(day=day_text(old_on)),), old_on
    worst = float(middle.min()) if len(asked) else 0.0
    return None, (say.FLUID_GOOD(margin=worst),) if asked else (), old_on


def _rubber(machine: Machine, today: dt.date, asked: list[Asked]) -> list[Forecast]:
    """Hoses, and seals and boots, by their age: looked at with care from six years, changed at ten."""
    found = []
    rows, seen = Hose.objects.filter(machine=machine, until_on=None).order_by("what", "axle"), found_on(machine)
    for row in rows:
        months = row.months_on(today)
        change_on = today + dt.timedelta(days=DAYS_A_MONTH * (CHANGE_MONTHS - months))
        look_on = today + dt.timedelta(days=DAYS_A_MONTH * (LOOK_MONTHS - months))
        chances = tuple(1.0 if event.event.on < change_on else 0.0 for event in asked)
        due = next((k for k, chance in enumerate(chances) if chance < 1.0), None)
        note = [*seen[row.axle, row.what], say.OLD_BY(day=day_text(change_on))]
        if months < LOOK_MONTHS:
            note.append(say.LOOK_FROM(day=day_text(look_on)))
        left = np.array([[CHANGE_MONTHS - row.months_on(event.event.on) for event in asked]])
        found.append(
            Forecast(
                kind=row.what,
                axle=row.axle,
                name=row.kind,
                thing=row,
                on_it=True,
                used=(True,) * len(asked),
                ahead=ahead(left, np.array([CHANGE_MONTHS - months])),
                now=months,
                limit=CHANGE_MONTHS,
                new=0.0,
                due=due,
                due_on=change_on,
                note=tuple(note),
                fraction_left=tuple(np.clip(left[0] / CHANGE_MONTHS, 0.0, 1.0).tolist()),
            )
        )
    return found
