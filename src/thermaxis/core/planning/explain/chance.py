"""How likely a limit is crossed, and how far the estimates behind that were taken off, in words."""

from __future__ import annotations

from thermaxis.core.messages import explain as say
from thermaxis.core.planning.verdict.uncertainty import Spreads, Sweep
from thermaxis.core.said import Said


def chance_text(found: Sweep) -> Said:
    """How many runs of a sweep cross each limit, and what is left to the nearest one."""
    runs, near = found.draws, found.nearest
    crossed = [
        say.CROSSED(limit=f"{c.axle} {c.limit}".strip(), over=round(c.probability * runs), runs=runs)
        for c in found.crossings
        if c.probability > 0
    ]
    return (say.CHANCE_PEDAL if near.name == "pedal" else say.CHANCE)(
        over=round(found.any_crossed * runs),
        runs=runs,
        crossed=crossed or [say.CROSSED_NONE()],
        limit=near.name,
        low=near.p10,
        high=near.p90,
    )


def spread_text(spreads: Spreads) -> Said:
    """How far the estimates of a sweep were taken off; shares in %, sigmas of the logarithm."""
    axles = []
    for name, axle in (("front", spreads.front), ("rear", spreads.rear)):
        axles.append(
            (say.SPREAD_AXLE if axle.fitted_backing is None else say.SPREAD_CALIBRATED)(
                axle=name,
                mu=axle.mu,
                cooling=axle.cooling,
                backing=axle.backing if axle.fitted_backing is None else axle.fitted_backing,
                gap=axle.gap,
                caliper=axle.caliper,
            )
        )
    return say.SPREAD(axles=axles, mass=spreads.mass)
