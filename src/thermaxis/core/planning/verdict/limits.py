"""The limits a duty must not cross, and what is left to each."""

from __future__ import annotations

from dataclasses import dataclass

from thermaxis.core.planning.verdict.readings import Setup, rotor_limit_C
from thermaxis.core.results import Result


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
    def sentence(self) -> str:
        """The limit with its numbers, as a clause without a full stop."""
        over = "over" if self.left < 0 else "under"
        amount = f"{abs(self.left):.0f}"
        if self.limit == "pedal":
            if self.left < 0:
                return f"more than {self.allowed:.0f} N at the pedal would be needed"
            return f"the pedal needs {self.value:.0f} of {self.allowed:.0f} N"
        if self.limit == "fluid":
            return (
                f"the {self.axle} fluid reaches {self.value:.0f} °C, {amount} K {over} boiling at {self.allowed:.0f} °C"
            )
        of = "the pad's limit" if self.limit == "pad" else "what the rotor's material bears"
        return f"the {self.axle} ring reaches {self.value:.0f} °C, {amount} K {over} {of}, {self.allowed:.0f} °C"


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


def worst_crossed(setup: Setup, result: Result) -> Margin | None:
    """The limit that is crossed furthest, measured by its own size; None where all hold."""
    crossed = [margin for margin in margins(setup, result) if margin.left < 0]
    return min(crossed, key=lambda margin: margin.left / margin.allowed, default=None)
