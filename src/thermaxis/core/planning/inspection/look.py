"""One wheel of an inspection: what it should be, and what was entered for it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from thermaxis.core.messages import inspection as say
from thermaxis.core.planning.inspection.cells import PAD_CELLS, ROTOR_CELLS, Value, washers_m
from thermaxis.core.planning.inspection.wheel import (
    SCHOOLS,
    CornerPads,
    Finding,
    PadLimits,
    RotorLimits,
    RotorSeen,
    RotorVerdict,
    corner_findings,
    pad_state,
    rotor_verdict,
)


@dataclass(frozen=True, kw_only=True)
class Wheel:
    """One disc as it should be: limits of its pads and rotor, wear per event and planned rotor wear in m."""

    name: str
    label: str
    axle: str
    sliding: bool
    pads: PadLimits
    rotor: RotorLimits
    per_event_m: float
    planned_wear_m: float


@dataclass(frozen=True, kw_only=True)
class RotorReport:
    """A measured rotor: thickness of each point, the least and the variation in m, and what a cut would leave."""

    points_m: tuple[float, ...]
    least_m: float
    variation_m: float
    after_cut_m: float | None
    planned_wear_m: float
    discard_m: float


class Look:
    """One wheel with what was entered for it."""

    def __init__(self, wheel: Wheel, cells: Mapping[str, Value]) -> None:
        self.wheel = wheel
        self.cells = {
            name.removeprefix(f"{wheel.name}."): value
            for name, value in cells.items()
            if name.startswith(f"{wheel.name}.")
        }
        planned, discard = cells.get(f"{wheel.axle}.planned_wear"), cells.get(f"{wheel.axle}.discard")
        self.planned_m = float(planned) if planned is not None else wheel.planned_wear_m
        self.limits = replace(wheel.rotor, discard_m=float(discard)) if discard else wheel.rotor
        if runout := cells.get(f"{wheel.axle}.most_runout"):
            self.limits = replace(self.limits, most_runout_m=float(runout))
        self.school = str(cells.get("school", SCHOOLS[0]))
        stack = washers_m(wheel.name, cells)
        self.washer_m = stack / 2.0
        readings = [float(self.cells[name]) for name in ROTOR_CELLS if name in self.cells]
        self.points = tuple(value for value in readings if value > stack)
        self.swallowed = len(readings) - len(self.points)
        self.sides = {
            side: tuple(float(self.cells[name]) for name in names if name in self.cells)
            for side, names in PAD_CELLS.items()
            if any(name in self.cells for name in names)
        }

    @property
    def corner(self) -> CornerPads | None:
        """Both pads, once both are there."""
        if len(self.sides) < 2:
            return None
        return CornerPads(inner_m=self.sides["inner"], outer_m=self.sides["outer"])

    def pad_states(self) -> dict[str, str]:
        return {
            side: pad_state(min(ends), self.wheel.pads, self.wheel.per_event_m) for side, ends in self.sides.items()
        }

    def findings(self) -> list[Finding]:
        return corner_findings(self.corner, self.wheel.pads, sliding=self.wheel.sliding) if self.corner else []

    def seen(self) -> RotorSeen | None:
        """The rotor, if it was measured."""
        return self._seen(self.points) if self.points else None

    def _seen(self, points: tuple[float, ...]) -> RotorSeen:
        picked = self.cells.get
        return RotorSeen(
            points_m=points,
            washer_m=self.washer_m,
            runout_m=self.length("runout") if "runout" in self.cells else None,
            lip_m=self.length("lip"),
            scoring_m=self.length("scoring"),
            rust=str(picked("rust", "none")),
            heat_spots=bool(picked("heat_spots")),
            glazed=bool(picked("glazed")),
            crazed=bool(picked("crazed")),
            crack_m=self.length("crack"),
            crack_place=str(picked("crack_place", "face")),
            chamfer_lost=bool(picked("chamfer_lost")),
        )

    def length(self, name: str) -> float:
        """A length of this wheel in m, 0 where it was not entered."""
        return float(self.cells.get(name, 0.0))

    def verdict(self) -> RotorVerdict | None:
        """What to do with the rotor; one nobody measured is judged by the thickness the machine has it at, and then
        for its discard, the wear planned, cracks and chamfers only.
        """
        seen = self.seen()
        if seen is not None:
            return rotor_verdict(seen, self.limits, self.planned_m, self.school)
        looked = self._seen((self.limits.new_m + 2.0 * self.washer_m,))
        found = rotor_verdict(looked, self.limits, self.planned_m, self.school)
        if found.rule not in ("discard", "planned wear", "crack", "chamfer"):
            return None
        return replace(found, reason=say.NOT_MEASURED(reason=found.reason))

    def report(self) -> RotorReport | None:
        seen, verdict = self.seen(), self.verdict()
        if seen is None or verdict is None:
            return None
        return RotorReport(
            points_m=seen.thickness_m,
            least_m=seen.least_m,
            variation_m=seen.variation_m,
            after_cut_m=verdict.after_cut_m,
            planned_wear_m=self.planned_m,
            discard_m=self.limits.discard_m,
        )
