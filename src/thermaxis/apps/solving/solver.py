"""Solved cases, kept in memory: weights and pages change more often than physics does."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Sequence

from thermaxis.core.physics.batch import Watch
from thermaxis.core.physics.simulate import simulate
from thermaxis.core.planning.verdict import worn
from thermaxis.core.planning.verdict.worn import FluidPeak
from thermaxis.core.records import Case
from thermaxis.core.results import Result

# Several of the largest choices there are, so that one of them does not drive out everybody else's; counted in results,
# and in the stops they list.
KEPT, KEPT_STOPS = 8192, 1_000_000
_results: OrderedDict[Case, Result] = OrderedDict()
_stops = 0
_lock = threading.Lock()


def solve(cases: Sequence[Case], watch: Watch | None = None) -> list[Result]:
    """Results of the cases (one duty for all), from memory where the very same case was solved before."""
    known = {}
    # Held for one case at a time: a choice has a thousand, and who asks for one does not wait for all of them.
    for case in cases:
        with _lock:
            found = _results.get(case)
            if found is not None:
                # What is asked for again is what goes last.
                _results.move_to_end(case)
        if found is not None:
            known[case] = found
    missing = [case for case in dict.fromkeys(cases) if case not in known]
    if missing:
        for case, result in zip(missing, simulate(missing, watch=watch), strict=True):
            known[case] = result
            _keep(case, result)
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


KEPT_PEAKS = 16384
_peaks: OrderedDict[Case, FluidPeak] = OrderedDict()


def fluid_peaks(cases: Sequence[Case]) -> list[FluidPeak]:
    """How hot the fluid gets in each case (one duty for all), from memory where the very same was asked before."""
    known = {}
    for case in cases:
        with _lock:
            found = _peaks.get(case)
        if found is not None:
            known[case] = found
    missing = [case for case in dict.fromkeys(cases) if case not in known]
    if missing:
        known |= zip(missing, worn.fluid_peaks(missing), strict=True)
        with _lock:
            _peaks.update((case, known[case]) for case in missing)
            while len(_peaks) > KEPT_PEAKS:
                _peaks.popitem(last=False)
    return [known[case] for case in cases]
