"""A job's sheet: the steps that apply, corner by corner, in an order that respects what waits for what."""

from __future__ import annotations

import functools
import heapq
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from thermaxis.core.planning.job.library import LibraryStep, Task, applies, library, why_not
from thermaxis.core.said import Said

PHASES = ("before", "corner", "close")
_PHASE = {"before": 0, "corner": 1, "corner_left": 1, "axle": 1, "bleed": 2, "close": 2}


@dataclass(frozen=True, kw_only=True)
class Step:
    """A step of a sheet: which one, at which corner ("" for none), and the keys of those it waits for."""

    key: str
    step: LibraryStep
    corner: str
    after: tuple[str, ...]

    @property
    def phase(self) -> str:
        """Before, at a corner, or to close."""
        return PHASES[_PHASE[self.step.scope]]


@dataclass(frozen=True, kw_only=True)
class Sheet:
    """A job's steps in order, what is worth knowing beside them, and the steps that do not belong to it."""

    task: Task
    steps: tuple[Step, ...]
    notes: tuple[LibraryStep, ...]
    left_out: tuple[tuple[LibraryStep, Said], ...]

    def step(self, key: str) -> Step | None:
        """The step with a key."""
        return self._by_key.get(key)

    @functools.cached_property
    def _by_key(self) -> dict[str, Step]:
        return {step.key: step for step in self.steps}


def build_sheet(task: Task) -> Sheet:
    """Put the sheet of a job together, as a record.

    A step of a corner is there once for each corner it applies to. It waits for the steps its `after` names: at the
    same corner where both are of a corner, at all of them where it is not. Everything that blocks and comes before
    anything is taken apart is waited for by all that follows. What may come next is chosen by phase, corner and the
    order of the library, so the order is always the same.
    """
    rows = {step.id: index for index, step in enumerate(library())}
    there: dict[str, list[tuple[str, LibraryStep]]] = {}
    notes, left_out = [], []
    for step in library():
        if step.scope == "note":
            if applies(step, task):
                notes.append(step)
            continue
        corners = [corner for corner in _corners(step, task) if applies(step, task, corner)]
        if corners:
            there[step.id] = [(corner, step) for corner in corners]
        else:
            reason = why_not(step, task, task.corners[0] if step.scope.startswith("corner") else None)
            if reason is not None:
                left_out.append((step, reason))
    first = [key_of(step.id, corner) for entries in there.values() for corner, step in entries if _stands_first(step)]
    made: dict[str, Step] = {}
    rank: dict[str, tuple[int, int, int, int]] = {}
    for entries in there.values():
        for corner, step in entries:
            key = key_of(step.id, corner)
            after = list(_waits_for(step, corner, there))
            if _PHASE[step.scope] > 0:
                after = [*first, *after]
            made[key] = Step(key=key, step=step, corner=corner, after=tuple(dict.fromkeys(after)))
            rank[key] = _rank(step, corner, task, rows)
    ordered = _ordered(made, rank)
    return Sheet(task=task, steps=tuple(ordered), notes=tuple(notes), left_out=tuple(left_out))


def key_of(step_id: str, corner: str) -> str:
    """A step's key on a sheet: its id, with its corner where it has one."""
    return f"{step_id}@{corner}" if corner else step_id


def _stands_first(step: LibraryStep) -> bool:
    return step.scope == "before" and step.blocks and not step.gate


def _corners(step: LibraryStep, task: Task) -> Iterable[str]:
    if step.scope == "corner":
        return task.corners
    if step.scope == "corner_left":
        return task.corners[:1]
    if step.scope == "bleed":
        return task.bleed_order
    return ("",)


def _waits_for(step: LibraryStep, corner: str, there: Mapping[str, list[tuple[str, LibraryStep]]]) -> Iterable[str]:
    own = step.scope in ("corner", "bleed")
    for name in step.after:
        for other, found in there.get(name, ()):
            same_kind = found.scope == step.scope
            if not own or not same_kind or other == corner:
                yield key_of(name, other)


def _rank(step: LibraryStep, corner: str, task: Task, rows: Mapping[str, int]) -> tuple[int, int, int, int]:
    row = rows[step.id]
    if step.scope == "bleed":
        # A corner is bled and shut before the next one is opened.
        return 2, rows["bleed_corner"], task.bleed_order.index(corner), row
    if step.scope in ("close", "before"):
        return _PHASE[step.scope], row, 0, 0
    place = len(task.corners) if step.scope == "axle" else task.corners.index(corner)
    return 1, place, row, 0


def _ordered(steps: Mapping[str, Step], rank: Mapping[str, tuple[int, int, int, int]]) -> list[Step]:
    """Kahn's order, of those that may come next always the first by rank. ValueError for a circle in the library."""
    waiting = {key: {name for name in step.after if name in steps} for key, step in steps.items()}
    ready = [(rank[key], key) for key, names in waiting.items() if not names]
    heapq.heapify(ready)
    found: list[Step] = []
    while ready:
        _, key = heapq.heappop(ready)
        found.append(steps[key])
        for other, names in waiting.items():
            if key in names:
                names.remove(key)
                if not names:
                    heapq.heappush(ready, (rank[other], other))
    if len(found) != len(steps):
        stuck = sorted(key for key, names in waiting.items() if names)
        raise ValueError(f"steps that wait for each other: {', '.join(stuck)}")
    return found
