"""A bedding run as it is driven: what was said of it, one thing after the other, and what is still to do."""

from __future__ import annotations

import dataclasses
from collections.abc import Sequence
from dataclasses import dataclass

from thermaxis.core.checked import Checked, choice, number
from thermaxis.core.errors import FieldError
from thermaxis.core.messages import run as say
from thermaxis.core.physics.resistance import GRAVITY
from thermaxis.core.planning.bedding.judging import AXLES, STOPS_IN_WINDOW, driven, inside, safe
from thermaxis.core.planning.bedding.proof import TOP_SPARE_K
from thermaxis.core.planning.bedding.replanning import Reading, Rest, State, cooled, recent, rest_of, state_of
from thermaxis.core.planning.bedding.series import Item, Row, items_of, stops_of
from thermaxis.core.planning.bedding.setting import Setting
from thermaxis.core.records import Stop
from thermaxis.core.results import Result
from thermaxis.core.said import Said

KINDS = ("done", "harder", "skip", "traffic", "reading", "undo")
HARDER = 1.2
"""A braking that was harder than it should have been was so many times as hard (estimate)."""
LONGEST_GAP_S = 1800.0
TRAFFIC_S = 60.0
# Nearer to the plan's end than this nothing is planned anew: a card that changes all the time is not read.
LEAVE_K = 15.0
# Rows of these are driven as they stand: nobody plans a lap or a leaflet anew.
FIXED = ("lap", "leaflet")


@dataclass(frozen=True, kw_only=True)
class Event(Checked):
    """What the passenger said, `at_s` seconds after the run began; the rest belongs to a reading.

    `moving_mps` is the speed since the last braking, 0 where the car stood.
    """

    kind: str = choice(*KINDS)
    at_s: float = number(ge=0, le=2e6)
    axle: str = choice("front", "rear", default="front")
    value_C: float | None = number(None, ge=-40, le=1200, optional=True)
    since_s: float | None = number(None, ge=0, le=3600, optional=True)
    moving_mps: float = number(0.0, ge=0, le=70)

    def check(self) -> None:
        if self.kind == "reading" and (self.value_C is None or self.since_s is None):
            raise FieldError("value_C", self.value_C, "a temperature and how long after the last braking it was read")


@dataclass(frozen=True, kw_only=True)
class Did:
    """One thing that was done or left out, and both rings at its end in degC; None where it was left out."""

    item: Item
    how: str
    at_s: float
    front_C: float | None
    rear_C: float | None


@dataclass(frozen=True, kw_only=True)
class Read:
    """A reading beside what was expected of it with the cooling that is taken, and whether it was believed."""

    reading: Reading
    believed: bool
    expected_C: float


@dataclass(frozen=True, kw_only=True)
class Standing:
    """Where a run stands: what was done, what is left with what each will reach, and what was learned of the car.

    `gap_s` is how long the gap under way is in all, `waits_from_s` when it began; `left_C` front and rear of each item
    left. `said` says what was planned anew, None where nothing was.
    """

    did: tuple[Did, ...]
    reads: tuple[Read, ...]
    rows: tuple[Row, ...]
    left: tuple[Item, ...]
    left_C: tuple[tuple[float, float], ...]
    gap_s: float
    gap_mps: float
    waits_from_s: float | None
    state: State
    said: Said | None
    word: str
    words: dict[str, str]
    wear_m: dict[str, float]


@dataclass(frozen=True, kw_only=True)
class _Driven:
    """What events come to before any of it is simulated."""

    stops: tuple[Stop, ...]
    items: tuple[tuple[Item, str, float], ...]
    rows: tuple[Row, ...]
    readings: tuple[Reading, ...]
    last_s: float | None
    off_plan: bool
    waited_s: float


def in_effect(events: Sequence[Event]) -> list[Event]:
    """Events less those that were taken back: each undo takes the last one before it that stands."""
    found: list[Event] = []
    for event in events:
        if event.kind != "undo":
            found.append(event)
        elif found:
            found.pop()
    return found


def standing_of(setting: Setting, rows: Sequence[Row], events: Sequence[Event], target_C: float) -> Standing:
    """Where a run of `rows` stands after `events`; the rest ends near `target_C`.

    What was driven is simulated as it was, with the cooling its readings speak for; each gap as long as it really was,
    no shorter than it takes to be back at speed. The rest is planned anew where it would end more than 15 K from the
    target, leave a limit, or miss the window; laps and a leaflet's rows are not.
    """
    so_far = _followed(setting, rows, in_effect(events))
    state = state_of(setting, so_far.stops, so_far.readings)
    known = cooled(setting, state.cooling)
    left, gap_s, said = so_far.rows, so_far.stops[-1].then_s if so_far.stops else 0.0, None
    if left and so_far.stops and left[-1].phase not in FIXED and _astray(known, so_far, target_C):
        late = recent(so_far.stops)
        early = so_far.stops[: len(so_far.stops) - len(late)]
        counted = inside(known, driven(known, early), "front") if early else 0
        rest = rest_of(known, late, left, target_C, so_far.waited_s, inside_before=counted)
        if rest.rows != left or abs(rest.gap_s - gap_s) > 1.0:
            said = _said(left, rest)
        left, gap_s = rest.rows, rest.gap_s
    done = list(so_far.stops)
    if done and left:
        done[-1] = dataclasses.replace(done[-1], then_s=gap_s)
    stops = [*done, *stops_of(left)]
    result = driven(known, stops) if stops else None
    ends = [(stop.front_bulk_C, stop.rear_bulk_C) for stop in result.stops] if result else []
    items = items_of(left) if left else ()
    now = driven(known, so_far.stops) if so_far.stops else None
    words = {axle: _word(known, now, axle) for axle in AXLES}
    return Standing(
        did=_did(so_far, ends),
        reads=tuple(
            Read(reading=reading, believed=believed, expected_C=expected)
            for reading, believed, expected in zip(so_far.readings, state.believed, state.expected_C, strict=True)
        ),
        rows=tuple(left),
        left=items,
        left_C=tuple(ends[len(done) + item.first + item.stops - 1] for item in items),
        gap_s=gap_s,
        gap_mps=done[-1].then_speed_mps if done else 0.0,
        waits_from_s=so_far.last_s,
        state=state,
        said=said,
        word=min(words.values(), key=("overheated", "partly", "bedded").index),
        words=words,
        wear_m={axle: getattr(now, axle).pad_wear_m if now else 0.0 for axle in AXLES},
    )


def driven_stops(setting: Setting, rows: Sequence[Row], events: Sequence[Event]) -> tuple[Stop, ...]:
    """The brakings of a run as they were driven."""
    return _followed(setting, rows, in_effect(events)).stops


def _word(setting: Setting, result: Result | None, axle: str) -> str:
    """How far an axle is bedded by what was driven so far."""
    if result is None:
        return "partly"
    if getattr(result, axle).peak_surface_C > getattr(setting, axle).high_C + TOP_SPARE_K:
        return "overheated"
    return "bedded" if inside(setting, result, axle) >= STOPS_IN_WINDOW else "partly"


def _followed(setting: Setting, rows: Sequence[Row], events: Sequence[Event]) -> _Driven:
    """Take events in order: what was driven, with the gaps there really were, and the rows that are left."""
    left = list(rows)
    stops: list[Stop] = []
    items: list[tuple[Item, str, float]] = []
    readings: list[Reading] = []
    last_s: float | None = None
    off_plan = False
    first = 0
    for event in events:
        if event.kind == "reading":
            readings.append(
                Reading(
                    axle=event.axle,
                    value_C=event.value_C or 0.0,
                    after=len(stops),
                    since_s=event.since_s or 0.0,
                    speed_mps=event.moving_mps,
                )
            )
            off_plan = True
            continue
        if event.kind == "traffic" or not left:
            off_plan = True
            continue
        item = dataclasses.replace(items_of(left)[0], first=first)
        driven_now, left = _taken(left, item.stops)
        if event.kind == "skip":
            items.append((item, event.kind, event.at_s))
            off_plan = True
            continue
        if stops and last_s is not None:
            least = setting.least_gap_s(driven_now[0].from_mps, stops[-1].to_mps)
            real = min(LONGEST_GAP_S, max(least, event.at_s - last_s - item.time_s + item.then_s))
            stops[-1] = dataclasses.replace(stops[-1], then_s=real)
        if event.kind == "harder":
            off_plan = True
            most = setting.case.vehicle.tyre_grip * GRAVITY
            driven_now = [
                dataclasses.replace(stop, decel_mps2=min(most, HARDER * stop.decel_mps2)) for stop in driven_now
            ]
        items.append((item, event.kind, event.at_s))
        stops += driven_now
        first += item.stops
        last_s = event.at_s
    now_s = max((event.at_s for event in events), default=0.0)
    waited = min(LONGEST_GAP_S, max(0.0, now_s - last_s)) if last_s is not None else 0.0
    if stops and left:
        stops[-1] = dataclasses.replace(stops[-1], then_s=max(stops[-1].then_s, waited))
    return _Driven(
        stops=tuple(stops),
        items=tuple(items),
        rows=tuple(left),
        readings=tuple(readings),
        last_s=last_s,
        off_plan=off_plan,
        waited_s=waited,
    )


def _taken(rows: Sequence[Row], count: int) -> tuple[list[Stop], list[Row]]:
    """The first `count` brakings of rows, and the rows without them."""
    taken: list[Stop] = []
    left = list(rows)
    while count > 0:
        row = left.pop(0)
        here = min(count, row.times)
        taken += row.stops[:here]
        if here < row.times:
            left.insert(0, dataclasses.replace(row, times=row.times - here))
        count -= here
    return taken, left


def _astray(setting: Setting, so_far: _Driven, target_C: float) -> bool:
    """Whether the rest as it stands ends too far from the target, leaves a limit or misses the window."""
    result = driven(setting, [*so_far.stops, *stops_of(so_far.rows)])
    if not safe(setting, result) or abs(result.stops[-1].front_bulk_C - target_C) > LEAVE_K:
        return True
    return so_far.off_plan and inside(setting, result, "front") < STOPS_IN_WINDOW


def _said(before: Sequence[Row], rest: Rest) -> Said:
    """What was planned anew, for whoever holds the card."""
    if not rest.rows:
        return say.ENOUGH()
    left = sum(row.times for row in before), sum(row.times for row in rest.rows)
    places = {"left": float(left[1]), "gap": rest.rows[-1].then_s, "end": rest.end_C}
    if left[1] > left[0]:
        return say.MORE(**places)
    return say.FEWER(**places) if left[1] < left[0] else say.OTHER_GAP(**places)


def _did(so_far: _Driven, ends: Sequence[tuple[float, float]]) -> tuple[Did, ...]:
    found = []
    for item, how, at_s in so_far.items:
        place = item.first + item.stops - 1
        reached = ends[place] if how != "skip" and place < len(ends) else (None, None)
        found.append(Did(item=item, how=how, at_s=at_s, front_C=reached[0], rear_C=reached[1]))
    return tuple(found)
