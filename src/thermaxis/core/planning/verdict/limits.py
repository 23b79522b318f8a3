"""The limits a duty must not cross, and what is left to each."""

from __future__ import annotations

from dataclasses import dataclass

from thermaxis.core.messages import verdict as say
from thermaxis.core.planning.verdict.readings import Setup, rotor_limit_C
from thermaxis.core.results import Result
from thermaxis.core.said import Said

WORN_FLUID = "fluid, worn pads"
# By limit: the clause where it is crossed, and where it is kept.
CLAUSES = {
    "pad": (say.PAD_OVER, say.PAD_UNDER),
    "rotor": (say.ROTOR_OVER, say.ROTOR_UNDER),
    "fluid": (say.FLUID_OVER, say.FLUID_UNDER),
    WORN_FLUID: (say.WORN_FLUID_OVER, say.WORN_FLUID_UNDER),
}


@dataclass(frozen=True, kw_only=True)
class Margin:
    """What is left to one limit: in K for temperatures, in N for the pedal; negative is crossed."""

    limit: str
    axle: str
    value: float
    left: float
    allowed: float
    unit: str

    @property
    def sentence(self) -> Said:
        """The limit with its numbers, as a clause without a full stop."""
        if self.limit == "pedal":
            if self.left < 0:
                return say.PEDAL_OVER(allowed=self.allowed)
            return say.PEDAL_UNDER(value=self.value, allowed=self.allowed)
        clause = CLAUSES[self.limit][0 if self.left < 0 else 1]
        return clause(axle=self.axle, value=self.value, amount=abs(self.left), allowed=self.allowed)


def margins(setup: Setup, result: Result) -> tuple[Margin, ...]:
    """Every limit of a setup with what a duty leaves of it: pads, rotors and fluid by axle, the driver's force."""
    found = []
    for axle, limits in (("front", setup.front_limits), ("rear", setup.rear_limits)):
        taken = getattr(result, axle)
        for limit, value, allowed in (
            ("pad", taken.peak_surface_C, limits.limit_C),
            ("rotor", taken.peak_surface_C, rotor_limit_C(setup, axle)),
            ("fluid", taken.peak_fluid_C, setup.boiling_C),
        ):
            found.append(Margin(limit=limit, axle=axle, value=value, allowed=allowed, left=allowed - value, unit="K"))
    greatest = setup.case.hydraulics.max_pedal_force_N
    left = greatest - result.peak_pedal_force_N
    if result.force_limited_s > 0 or not result.stopped:
        # Held at the greatest force, so the peak says zero left while less than wanted was given.
        left = min(left, -1.0)
    used = result.peak_pedal_force_N
    found.append(Margin(limit="pedal", axle="", value=used, allowed=greatest, left=left, unit="N"))
    return tuple(found)


def fluid_left(setup: Setup, axle: str, value: float) -> Margin:
    """What worn pads leave of an axle's fluid that gets `value` degC hot; a record."""
    allowed = setup.boiling_C
    return Margin(limit=WORN_FLUID, axle=axle, value=value, allowed=allowed, left=allowed - value, unit="K")


def heat_margins(setup: Setup, result: Result) -> list[Margin]:
    """The same for pads and rotors alone, in kelvin."""
    return [margin for margin in margins(setup, result) if margin.limit in ("pad", "rotor")]


def worst_crossed(setup: Setup, result: Result) -> Margin | None:
    """The limit that is crossed furthest, measured by its own size; None where all hold."""
    crossed = [margin for margin in margins(setup, result) if margin.left < 0]
    return min(crossed, key=lambda margin: margin.left / margin.allowed, default=None)
