"""What the choice takes and gives. SI, the unit in the name."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Literal

from pydantic import Field

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.fields import AxleName
from thermaxis.apps.accounts.api.said import SaidOut
from thermaxis.apps.solving.api.schemas import AnswerOut, BeddingAsk, CrossingOut, WhatIf
from thermaxis.core.planning.choice.choose import Weights

Key = Annotated[str, Field(max_length=80)]


class WeightsIO(Wire):
    heat_margin: float = Field(ge=0, le=5, allow_inf_nan=False)
    cold_bite: float = Field(ge=0, le=5, allow_inf_nan=False)
    pedal: float = Field(ge=0, le=5, allow_inf_nan=False)
    pad_life: float = Field(ge=0, le=5, allow_inf_nan=False)
    quiet: float = Field(ge=0, le=5, allow_inf_nan=False)
    clean_wheels: float = Field(ge=0, le=5, allow_inf_nan=False)
    rotor_wear: float = Field(ge=0, le=5, allow_inf_nan=False)
    cost: float = Field(ge=0, le=5, allow_inf_nan=False)


def weights_of(asked: WeightsIO | None) -> Weights | None:
    """The weights a page sent, for the core; None leaves those of the duty's use."""
    return Weights(**asked.model_dump()) if asked else None


class OfferAsk(WhatIf):
    """Which sets there are: `mixed` lets front and rear be different compounds."""

    mixed: bool = False


class ChooseAsk(OfferAsk):
    weights: WeightsIO | None = None
    only: list[Key] | None = Field(None, max_length=12)


class LadderAxle(Wire):
    """One column of the heat ladder; `profile` is the share of braking energy per 20 K from 0 degC up."""

    peak_C: float
    window_low_C: float
    window_high_C: float
    pad_limit_C: float
    rotor_limit_C: float
    profile: list[float]


class FitBrief(Wire):
    """Whether a set goes into its calipers, by the axle that has less room."""

    verdict: Literal["fits", "tight", "does not fit", "not known"]
    axle: AxleName
    text: SaidOut


class CandidateOut(Wire):
    key: str
    pad: str
    rear_pad: str
    pads: str
    set_up: str
    set_up_price: float | None = None
    family: str
    provenance: str
    front_rotor: str
    rear_rotor: str
    score: float
    dominated_by: str | None
    rejected_for: str | None
    reason: SaidOut
    front: LadderAxle
    rear: LadderAxle
    window_share: float
    pedal_worst_N: float
    fluid_peak_C: float
    fluid_margin_K: float
    # With the pads as thin as when they are changed; None where the set is rejected for something else.
    worn_margin_K: float | None = None
    life_events: float
    life_hours: float
    cost_per_hour: float
    pads_price: float
    fitted: bool
    # None where the set is in there already.
    fit: FitBrief | None = None


class ChooseOut(Wire):
    """Every set the machine takes: passing ones by rank, then the rejected ones; weights to start from by use.

    `left_out` says in words which sets are not weighed, where there are too many of them.
    """

    weights: WeightsIO
    presets: dict[str, WeightsIO]
    boiling_C: float
    fluid_dry_C: float
    fluid_wet_C: float
    total: int
    left_out: str
    ranked: list[CandidateOut]
    rejected: list[CandidateOut]


class CompareSetsAsk(OfferAsk):
    """Which sets to put side by side, in this order."""

    keys: list[Key] = Field(min_length=2, max_length=4)


class WholeCandidate(CandidateOut):
    """A set with the figures that only some pages show."""

    lowest_margin_K: float
    cold_mu: float
    front_share: float
    lock_first: str
    lock_g: float
    rotors_price: float


class ComparedSetOut(WholeCandidate):
    """One set among others; traces by name on the shared times, infinite costs as null."""

    cost_per_year: float | None
    noise: float
    dust: float
    rotor_wear_m: float
    stress_MPa: float
    traces: dict[str, list[float]]


class SetsComparedOut(Wire):
    t_s: list[float]
    sets: list[ComparedSetOut]


class SetsAsk(OfferAsk):
    """Some of the sets, as many as a page shows at once."""

    keys: list[Key] = Field(min_length=1, max_length=12)


class ScrubbedSet(Wire):
    key: str
    front_surface_C: list[float]
    rear_surface_C: list[float]
    fluid_C: list[float]


class ScrubOut(Wire):
    """What the columns read at every moment; the times are shared. `fluid_C` is the hotter axle's."""

    t_s: list[float]
    sets: list[ScrubbedSet]


class ChanceOut(Wire):
    """How likely a set crosses any limit, and each; P10 and P90 of its hottest rings."""

    key: str
    any_probability: float
    crossings: list[CrossingOut]
    front_p10_C: float
    front_p90_C: float
    rear_p10_C: float
    rear_p90_C: float


class ChancesOut(Wire):
    draws: int
    sets: list[ChanceOut]


class SetAsk(OfferAsk):
    key: Key


class WaysOutOut(Wire):
    """Each lever alone, and whether it would let the set pass."""

    ways: list[AnswerOut]


class FluidsAsk(OfferAsk):
    """With which set on; the fitted one unless a key says otherwise."""

    key: Key | None = None


class FluidChoiceOut(Wire):
    """One fluid on the duty: `now_K` at its age where it is in the machine, else fresh; null: it never boils."""

    id: int
    name: str
    standard: str
    dry_C: float
    wet_C: float
    price: float
    in_machine: bool
    now_K: float
    fresh_K: float
    wet_K: float
    boils_months: float | None
    change_months: float
    limited_by: str
    price_per_year: float | None


class FluidsOut(Wire):
    peak_C: float
    age_months: float
    fluids: list[FluidChoiceOut]


class FillAsk(Wire):
    """Which fluid is in from now on, and how old it is."""

    fluid_id: int = Field(ge=1, le=2**31)
    age_months: float = Field(0.0, ge=0, le=600, allow_inf_nan=False)


class FilledOut(Wire):
    """The fluid that is in, and what was in before, so that it can be put back."""

    fluid_id: int
    name: str
    age_months: float
    before_id: int
    before: str
    before_months: float


class WhyAsk(OfferAsk):
    """Of which set (the fitted one unless a key says otherwise), weighed how, with which pedal force and ring.

    `bedding`: on its bedding plan instead of the duty; `stop`: which stop of it, from 1.
    """

    key: Key | None = None
    weights: WeightsIO | None = None
    pedal_force_N: float = Field(200.0, ge=0, le=3000, allow_inf_nan=False)
    rotor_C: float = Field(200.0, ge=-20, le=1000, allow_inf_nan=False)
    bedding: BeddingAsk | None = None
    stop: int | None = Field(None, ge=1, le=600)


class FrictionAsk(Wire):
    """One steady braking of the machine with its fitted pads, as it was measured."""

    pedal_N: float = Field(ge=1, le=3000, allow_inf_nan=False)
    decel_mps2: float = Field(gt=0.3, le=15, allow_inf_nan=False)
    speed_mps: float = Field(ge=0.5, le=100, allow_inf_nan=False)


class FrictionOut(Wire):
    """The friction that braking took, and what the catalogue says of the pads: front compound's id and name."""

    mu: float
    pad_id: int
    pad: str


class PartLine(Wire):
    """One part of a set at the counter: how many are needed, the catalogue's price of one and the counter's."""

    name: str
    kind: str
    count: int
    list_price: float
    price: float
    in_stock: int
    lead_days: int
    note: str


class PartsOfferOut(Wire):
    """A set at the parts counter; `ready_on` is the day the last of it can be there."""

    lines: list[PartLine]
    list_total: float
    total: float
    ready_on: dt.date
