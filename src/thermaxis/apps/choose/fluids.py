"""Every fluid of the catalogue on a machine's duty; nothing here writes."""

from __future__ import annotations

from dataclasses import dataclass

from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.catalogue.mapping import boiling_C
from thermaxis.apps.catalogue.models import Fluid
from thermaxis.apps.choose.choosing import Offer, known_keys, under
from thermaxis.apps.solving.solver import fluid_peaks, solve
from thermaxis.apps.solving.trying import WhatIf
from thermaxis.core.physics.fluid import altitude_drop, takes_water
from thermaxis.core.planning.choice.fluids import FluidVerdict, judge_fluid


@dataclass(frozen=True, kw_only=True)
class FluidChoice:
    """One fluid of the catalogue on the machine's duty."""

    fluid: Fluid
    in_machine: bool
    now_K: float
    verdict: FluidVerdict
    price_per_year: float


def fluid_choices(
    offer: Offer, workshop: Workshop, key: str | None, what_if: WhatIf
) -> tuple[float, list[FluidChoice]]:
    """The hottest the fluid gets in degC with a set (the fitted one unless a key says otherwise), and what every fluid
    leaves over that, the longest lasting first. `now_K` is the margin of the fluid that is in, at its age; else fresh.
    """
    key = key or offer.fitted_key
    known_keys(offer, [key])
    (entry,), _ = under(offer, what_if, [key])
    # With the pads as thin as they will be when changed: the fluid has to bear that as well.
    new = solve([entry.setup.case])[0]
    peak = max(fluid_peaks([entry.worn_case])[0].hottest, new.front.peak_fluid_C, new.rear.peak_fluid_C)
    pressure = entry.setup.case.environment.pressure_Pa
    drop = altitude_drop(pressure)
    standing = offer.standing
    months = standing.fluid_months if what_if.fluid_age_months is None else what_if.fluid_age_months
    found = []
    for fluid in Fluid.objects.of(workshop).order_by("pk"):
        verdict = judge_fluid(fluid.dry_C, fluid.wet_C, peak, takes_up=takes_water(fluid.standard), drop_K=drop)
        inside = fluid.pk == standing.fill.fluid_id
        years = verdict.change_months / 12.0
        found.append(
            FluidChoice(
                fluid=fluid,
                in_machine=inside,
                now_K=boiling_C(fluid, months if inside else 0.0, pressure) - peak,
                verdict=verdict,
                price_per_year=fluid.price / years if years > 0 else float("inf"),
            )
        )
    return peak, sorted(found, key=lambda choice: (-choice.verdict.change_months, choice.fluid.price))
