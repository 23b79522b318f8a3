"""Solved cases, kept in memory: weights and pages change more often than physics does."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Sequence
from typing import NamedTuple, TypeVar

from thermaxis.core.breath import breathing
from thermaxis.core.physics.batch import Watch
from thermaxis.core.physics.simulate import history, simulate
from thermaxis.core.planning.life.fatigue import damage
from thermaxis.core.planning.verdict import worn
from thermaxis.core.planning.verdict.worn import FluidPeak
from thermaxis.core.records import Case
from thermaxis.core.results import HISTORY_FIELDS, Result


class Damage(NamedTuple):
    """Share of a ring's life to hairlines that one event uses up, by axle."""

    front: float
    rear: float


# Several of the largest choices there are, so that one of them does not drive out everybody else's; counted in results,
# and in the stops they list.
KEPT, KEPT_STOPS = 8192, 1_000_000
_results: OrderedDict[Case, Result] = OrderedDict()
_stops = 0
KEPT_PEAKS, KEPT_DAMAGES = 16384, 512
_peaks: OrderedDict[Case, FluidPeak] = OrderedDict()
_damages: OrderedDict[Case, Damage] = OrderedDict()
_lock = threading.Lock()

Found = TypeVar("Found")


def solve(cases: Sequence[Case], watch: Watch | None = None) -> list[Result]:
    """Results of the cases (one duty for all), from memory where the very same case was solved before."""
    return _remembered(_results, cases, lambda missing: simulate(missing, watch=watch), _keep)


def fluid_peaks(cases: Sequence[Case], watch: Watch | None = None) -> list[FluidPeak]:
    """How hot the fluid gets in each case (one duty for all), from memory where the very same was asked before."""
    return _remembered(_peaks, cases, lambda missing: worn.fluid_peaks(missing, watch), _keep_peak)


def damages(cases: Sequence[Case]) -> list[Damage]:
    """What each case uses up of its rings' life to hairlines, front and rear, from memory where it was asked before."""
    return _remembered(_damages, cases, lambda missing: [_damage(case) for case in missing], _keep_damage)


def _damage(case: Case) -> Damage:
    rows = dict(zip(HISTORY_FIELDS, history(case).T, strict=True))

    def of(axle: str) -> float:
        surface = rows[f"{axle}_surface_C"]
        excess = surface - rows[f"{axle}_bulk_C"]
        return damage(excess, getattr(case, axle).rotor, float(surface.max()))

    return Damage(front=of("front"), rear=of("rear"))


def _remembered(
    memory: OrderedDict[Case, Found],
    cases: Sequence[Case],
    find: Callable[[list[Case]], Sequence[Found]],
    keep: Callable[[Case, Found], None],
) -> list[Found]:
    known = {}
    # Held for one case at a time: a choice has a thousand, and who asks for one does not wait for all of them.
    for case in breathing(cases):
        with _lock:
            found = memory.get(case)
            if found is not None:
                # What is asked for again is what goes last.
                memory.move_to_end(case)
        if found is not None:
            known[case] = found
    missing = [case for case in dict.fromkeys(cases) if case not in known]
    if missing:
        for case, found in zip(breathing(missing), find(missing), strict=True):
            known[case] = found
            keep(case, found)
    return [known[case] for case in cases]


def _keep(case: Case, result: Result) -> None:
    global _stops
    with _lock:
        if case in _results:
            return
        _results[case] = result
        _stops += len(result.stops)
        while len(_results) > KEPT or _stops > KEPT_STOPS:
            _, gone = _results.popitem(last=False)
            _stops -= len(gone.stops)


def _keep_damage(case: Case, found: Damage) -> None:
    with _lock:
        _damages[case] = found
        while len(_damages) > KEPT_DAMAGES:
            _damages.popitem(last=False)


def _keep_peak(case: Case, peak: FluidPeak) -> None:
    with _lock:
        _peaks[case] = peak
        while len(_peaks) > KEPT_PEAKS:
            _peaks.popitem(last=False)
