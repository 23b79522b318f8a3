"""Bedding-in: a series of moderate, then hard stops without stopping fully, then a cool-down."""

from __future__ import annotations

import dataclasses
from dataclasses import dataclass

from thermaxis.core.checked import Checked, number
from thermaxis.core.errors import FieldError
from thermaxis.core.messages import bedding as say
from thermaxis.core.physics.resistance import GRAVITY
from thermaxis.core.physics.simulate import simulate_one
from thermaxis.core.records import Case, DescentDuty, Stop, StopsDuty
from thermaxis.core.results import Result
from thermaxis.core.said import Said

GAPS_S = (20.0, 30.0, 45.0, 60.0, 90.0, 120.0, 180.0)
MOST_HARD_STOPS = 24
STOPS_IN_WINDOW = 3
COOL_TO_C = 100.0
CRUISE_SHARE = 0.75
LONGEST_COOL_S = 3600.0
FASTEST_MPS = 200 / 3.6


@dataclass(frozen=True, kw_only=True)
class BeddingOrder(Checked):
    """What the road allows and the compound wants; speeds in m/s, window of the ring in degC."""

    top_speed_mps: float = number(gt=8, le=70)
    moderate_stops: int = number(6, ge=0, le=20, whole=True)
    moderate_g: float = number(0.35, gt=0.05, le=0.6)
    hard_g: float = number(0.6, gt=0.1, le=1.2)
    window_low_C: float = number(ge=50, le=900)
    window_high_C: float = number(ge=60, le=1000)

    def check(self) -> None:
        if self.window_high_C <= self.window_low_C:
            raise FieldError("window_high_C", self.window_high_C, f"more than window_low_C {self.window_low_C}")


@dataclass(frozen=True, kw_only=True)
class BeddingStop:
    """One stop of the plan and what the ring reaches at its end."""

    number: int
    phase: str
    from_mps: float
    to_mps: float
    decel_g: float
    then_s: float
    then_mps: float
    front_C: float
    rear_C: float


@dataclass(frozen=True, kw_only=True)
class BeddingPlan:
    """The computed plan; `reached` False when the road's speed cannot warm the pads enough."""

    stops: tuple[BeddingStop, ...]
    gap_s: float
    cool_down_s: float
    peak_front_C: float
    peak_rear_C: float
    reached: bool
    rear_reached: bool
    text: Said
    duty: StopsDuty


def stop_series(order: BeddingOrder, hard_stops: int, gap_s: float, cool_s: float = 0.0) -> StopsDuty:
    """The stops of a plan as a duty: moderate from 60 % of the top speed, hard from the top, none to standstill."""
    cruise = CRUISE_SHARE * order.top_speed_mps
    moderate = Stop(
        from_mps=0.6 * order.top_speed_mps,
        to_mps=0.12 * order.top_speed_mps,
        decel_mps2=order.moderate_g * GRAVITY,
        then_s=gap_s,
        then_speed_mps=cruise,
    )
    hard = Stop(
        from_mps=order.top_speed_mps,
        to_mps=0.2 * order.top_speed_mps,
        decel_mps2=order.hard_g * GRAVITY,
        then_s=gap_s,
        then_speed_mps=cruise,
    )
    stops = [moderate] * order.moderate_stops + [hard] * hard_stops
    if cool_s > 0:
        stops[-1] = dataclasses.replace(stops[-1], then_s=cool_s)
    return StopsDuty(kind="stops", stops=tuple(stops))


def plan_bedding(case: Case, order: BeddingOrder) -> BeddingPlan:
    """Find the shortest series that ends three hard stops inside the window and never passes its top.

    Tries gaps from short to long; for each, the fewest hard stops whose last three end at or above the window's low
    side (front ring, mass mean), rejected where the surface of either ring passes the high side. If no gap does,
    the hottest safe series is returned with `reached` False and a sentence that says what would have to change.
    """
    best: tuple[int, float, Result] | None = None
    fallback: tuple[int, float, Result] | None = None
    for gap in GAPS_S:
        result = _with_duty(case, stop_series(order, MOST_HARD_STOPS, gap))
        count = _fewest_hard(result, order)
        final = result if count in (None, MOST_HARD_STOPS) else _with_duty(case, stop_series(order, count, gap))
        if _peak(final) > order.window_high_C:
            continue
        if count is not None:
            best = (count, gap, final)
            break
        if fallback is None or final.front.peak_bulk_C > fallback[2].front.peak_bulk_C:
            fallback = (MOST_HARD_STOPS, gap, final)
    chosen = best or fallback
    if chosen is None:
        gentle = dataclasses.replace(order, top_speed_mps=0.85 * order.top_speed_mps)
        return plan_bedding(case, gentle)
    return _finish(case, order, *chosen, reached=best is not None)


def cool_down_time(case: Case, start_C: float, speed_mps: float) -> float:
    """Seconds of driving at `speed_mps`, without braking, until the front ring is at 100 degC, from `start_C`.

    Solved on the engine to 30 s; held at one hour.
    """
    times = [30.0 * step for step in range(1, int(LONGEST_COOL_S / 30.0) + 1)]
    low, high = 0, len(times) - 1
    warm = dataclasses.replace(case, environment=dataclasses.replace(case.environment, start_C=start_C))
    while low < high:
        middle = (low + high) // 2
        # A descent at no grade needs no braking: the ring only cools.
        duty = DescentDuty(
            kind="descent", grade=0.0, speed_mps=speed_mps, duration_s=times[middle], then_s=0.0, then_speed_mps=0.0
        )
        if _with_duty(warm, duty).front.end_bulk_C <= COOL_TO_C:
            high = middle
        else:
            low = middle + 1
    return times[low]


def speed_needed(case: Case, order: BeddingOrder) -> float | None:
    """Least top speed in m/s, in steps of 10 km/h up to 200, from which the window is reached; None where none does."""
    for kmh in range(10 * int(order.top_speed_mps * 0.36 + 1), 201, 10):
        faster = dataclasses.replace(order, top_speed_mps=kmh / 3.6)
        result = _with_duty(case, stop_series(faster, MOST_HARD_STOPS, GAPS_S[0]))
        if _fewest_hard(result, faster) is not None:
            return kmh / 3.6
    return None


def _with_duty(case: Case, duty: StopsDuty | DescentDuty) -> Result:
    return simulate_one(dataclasses.replace(case, duty=duty, statics=None))


def _peak(result: Result) -> float:
    return max(result.front.peak_surface_C, result.rear.peak_surface_C)


def _fewest_hard(result: Result, order: BeddingOrder) -> int | None:
    inside = 0
    for index, stop in enumerate(result.stops[order.moderate_stops :]):
        inside = inside + 1 if stop.front_bulk_C >= order.window_low_C else 0
        if inside >= STOPS_IN_WINDOW:
            return index + 1
    return None


def _finish(case: Case, order: BeddingOrder, hard: int, gap: float, result: Result, *, reached: bool) -> BeddingPlan:
    cool = cool_down_time(case, result.stops[-1].front_bulk_C, CRUISE_SHARE * order.top_speed_mps)
    duty = stop_series(order, hard, gap, cool)
    final = _with_duty(case, duty)
    stops = tuple(
        BeddingStop(
            number=index + 1,
            phase="moderate" if index < order.moderate_stops else "hard",
            from_mps=stop.from_mps,
            to_mps=stop.to_mps,
            decel_g=stop.decel_mps2 / GRAVITY,
            then_s=stop.then_s,
            then_mps=stop.then_speed_mps,
            front_C=outcome.front_bulk_C,
            rear_C=outcome.rear_bulk_C,
        )
        for index, (stop, outcome) in enumerate(zip(duty.stops, final.stops, strict=True))
    )
    rear_reached = max(stop.rear_C for stop in stops) >= order.window_low_C
    needed = None if reached else speed_needed(case, order)
    return BeddingPlan(
        stops=stops,
        gap_s=gap,
        cool_down_s=cool,
        peak_front_C=final.front.peak_surface_C,
        peak_rear_C=final.rear.peak_surface_C,
        reached=reached,
        rear_reached=rear_reached,
        text=_sentence(order, hard, gap, stops, needed, reached=reached, rear_reached=rear_reached),
        duty=duty,
    )


def _sentence(
    order: BeddingOrder,
    hard: int,
    gap: float,
    stops: tuple[BeddingStop, ...],
    needed: float | None,
    *,
    reached: bool,
    rear_reached: bool,
) -> Said:
    window = {"low": order.window_low_C, "high": order.window_high_C}
    if not reached:
        hottest = max(stop.front_C for stop in stops)
        short = {
            "speed": order.top_speed_mps,
            "hottest": hottest,
            "hard": hard,
            "short": order.window_low_C - hottest,
            **window,
        }
        if needed is None:
            return say.NO_SPEED(fastest=FASTEST_MPS, **short)
        return say.FASTER(needed=needed, **short)
    series = {"moderate": order.moderate_stops, "hard": hard, "gap": gap, "end": stops[-1].front_C, **window}
    if rear_reached:
        return say.REACHED(**series)
    return say.REACHED_IN_FRONT(rear=max(stop.rear_C for stop in stops), **series)
