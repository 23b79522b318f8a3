"""Many packed candidates through one duty, on every core, with progress and a way to stop."""

from __future__ import annotations

import contextlib
import itertools
import math
import os
import sys
import threading
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor, as_completed
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.errors import FieldError
from thermaxis.core.physics import schedule
from thermaxis.core.physics.engine import HISTORY_COLUMNS, run_batch, run_candidate
from thermaxis.core.physics.layers import optimal_ladder, plain_ladder
from thermaxis.core.physics.packing import AXLE_RESULT, DISC, MAX_CELLS, MAX_PAD_CELLS, MOTION, RUN_RESULT, Records
from thermaxis.core.records import Duty

Array = NDArray[np.float64]
# Told the share of the work that is done, from 0 to 1, on the caller's thread; what it raises stops the work.
Watch = Callable[[float], None]
WORKERS = os.cpu_count() or 1
# Pieces a batch is cut into: often enough to be stopped within a fraction of a second, too few to cost anything.
PIECES = 32
# Added to the niceness of a thread that computes.
ASIDE = 10


def part_of(watch: Watch | None, start: float, end: float) -> Watch | None:
    """A watch for one part of a longer work, which takes it from share `start` to share `end`."""
    if watch is None:
        return None
    whole = watch
    return lambda share: whole(start + share * (end - start))


@dataclass(frozen=True, kw_only=True)
class Grid:
    """How finely the engine computes; the defaults keep peaks within 0.6 K and 0.4 % of the rise (docs/physics.md)."""

    cells: int = 6
    pad_cells: int = 6
    first_step_s: float = 0.1
    braking_step_s: float = 0.25
    cooling_step_s: float = 6.0
    growth: float = 2.0
    braking_share: float = 1 / 11
    # None: ladders fitted to the slab; a number: plain cells, each so many times as wide as the one nearer the face.
    widening: float | None = None

    def __post_init__(self) -> None:
        if not 1 <= self.cells <= MAX_CELLS:
            raise FieldError("cells", self.cells, f"a whole number from 1 to {MAX_CELLS}")
        if not 1 <= self.pad_cells <= MAX_PAD_CELLS:
            raise FieldError("pad_cells", self.pad_cells, f"a whole number from 1 to {MAX_PAD_CELLS}")

    def steps(self) -> Array:
        """Steps as the engine takes them."""
        return np.array([self.first_step_s, self.braking_step_s, self.cooling_step_s, self.growth, self.braking_share])

    def layers(self) -> tuple[Array, Array]:
        """The ladders of ring and pad (`layers`)."""
        if self.widening is None:
            return optimal_ladder("ring", self.cells), optimal_ladder("pad", self.pad_cells)
        return plain_ladder(self.cells, self.widening), plain_ladder(self.pad_cells, self.widening)

    def halved(self) -> Grid:
        """The same grid with every time step and every cell halved, for convergence checks."""
        return Grid(
            cells=2 * self.cells,
            pad_cells=2 * self.pad_cells,
            widening=None if self.widening is None else self.widening**0.5,
            first_step_s=self.first_step_s / 2,
            braking_step_s=self.braking_step_s / 2,
            cooling_step_s=self.cooling_step_s / 2,
            growth=self.growth**0.5,
            braking_share=self.braking_share / 2,
        )


DEFAULT_GRID = Grid()


@dataclass(frozen=True, kw_only=True)
class Outcome:
    """Raw results of N candidates: `axles` (N, 2) AXLE_RESULT, `runs` (N,) RUN_RESULT, `stops` (N, S, 5)."""

    axles: Records
    runs: Records
    stops: Array


def run_packed(
    axles: Records,
    vehicles: Records,
    duty: Duty,
    grid: Grid = DEFAULT_GRID,
    *,
    after: schedule.After | None = None,
    watch: Watch | None = None,
) -> Outcome:
    """Take N packed candidates, `axles` (N, 2) and `vehicles` (N,), through one duty.

    `after` replaces what the duty says about the time after its last braking. Cost is linear in candidates and in
    the duty's length; memory does not grow with the duty, for no history is kept. Candidates do not touch each
    other, so the result does not depend on how they are spread over the cores.

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> from thermaxis.core.physics.packing import pack
    >>> case = small_case()
    >>> round(float(run_packed(*pack([case]), case.duty).axles["peak_surface"][0, 0]))
    107
    """
    count = len(vehicles)
    segments = schedule.segments(duty, after)
    outcome = Outcome(
        axles=np.zeros((count, 2), dtype=AXLE_RESULT),
        runs=np.zeros(count, dtype=RUN_RESULT),
        stops=np.zeros((count, schedule.stop_count(duty), 5)),
    )
    (ring_cells, pad_cells), steps = grid.layers(), grid.steps()

    def run(part: slice) -> int:
        discs, motion = np.zeros(2, dtype=DISC), np.zeros(1, dtype=MOTION)
        run_batch(
            axles[part],
            vehicles[part],
            segments,
            ring_cells,
            pad_cells,
            steps,
            discs,
            motion,
            outcome.axles[part],
            outcome.runs[part],
            outcome.stops[part],
        )
        return part.stop - part.start

    # One candidate is not worth a thread.
    if count <= 1:
        run(slice(0, count))
        return outcome
    # The kernel lets go of the interpreter, so threads use every core.
    pieces = min(count, math.ceil(PIECES / WORKERS) * WORKERS)
    edges = np.linspace(0, count, pieces + 1).astype(int).tolist()
    with ThreadPoolExecutor(WORKERS, initializer=_step_aside) as pool:
        waiting = [pool.submit(run, slice(low, high)) for low, high in itertools.pairwise(edges)]
        done = 0
        try:
            for piece in as_completed(waiting):
                done += piece.result()
                if watch is not None:
                    watch(done / count)
        except BaseException:
            pool.shutdown(cancel_futures=True)
            raise
    return outcome


def _step_aside() -> None:
    """Let whoever only wants a page go first: where a thread has a priority of its own, computing has a lower one."""
    if sys.platform == "linux":
        with contextlib.suppress(OSError):
            os.setpriority(os.PRIO_PROCESS, threading.get_native_id(), ASIDE)


def history_packed(
    axles: Records, vehicle: np.void, duty: Duty, grid: Grid = DEFAULT_GRID, after: schedule.After | None = None
) -> Array:
    """Time history of one packed candidate, one row per time step, columns as `results.HISTORY_FIELDS`."""
    segments = schedule.segments(duty, after)
    stops = np.zeros((schedule.stop_count(duty), 5))
    (ring_cells, pad_cells), steps = grid.layers(), grid.steps()
    room = 4096
    while True:
        rows = np.zeros((room, HISTORY_COLUMNS))
        run = np.zeros(1, dtype=RUN_RESULT)
        run_candidate(
            axles,
            vehicle,
            segments,
            ring_cells,
            pad_cells,
            steps,
            np.zeros(2, dtype=DISC),
            np.zeros(1, dtype=MOTION)[0],
            np.zeros(2, dtype=AXLE_RESULT),
            run[0],
            stops,
            rows,
        )
        needed = int(run["samples"][0])
        if needed <= room:
            return rows[:needed]
        room = needed
