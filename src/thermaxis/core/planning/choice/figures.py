"""One set of pads and rotors, and the numbers that decide about it."""

from __future__ import annotations

import functools
import math
from dataclasses import dataclass, replace

from thermaxis.core.physics.balance import axle_road_forces, lock_up
from thermaxis.core.physics.friction import friction_coefficient
from thermaxis.core.physics.hydraulics import line_pressure
from thermaxis.core.planning.fit.stack import Room
from thermaxis.core.planning.life.intervals import WearScale, remaining
from thermaxis.core.planning.verdict.limits import heat_margins
from thermaxis.core.planning.verdict.readings import Setup, window_shares
from thermaxis.core.planning.verdict.worn import FluidPeak, with_material, worn_margin
from thermaxis.core.records import Case
from thermaxis.core.results import Result

COLD_C = 20.0
LOCK_CHECK_C = 200.0
# Pedal force at which the axles' shares are compared: an ordinary firm stop.
SHARE_CHECK_N = 150.0


def pads_name(front: str, rear: str) -> str:
    """A compound, or both where front and rear differ."""
    return front if front == rear else f"{front} with {rear} behind"


@dataclass(frozen=True, kw_only=True)
class Candidate:
    """A pad and rotor choice for both axles, as it would be fitted to the machine.

    `set_up` names the kept set-up of the machine it belongs to, where it is not for the machine as it stands, and
    `set_up_price` is what it costs in all, rotors included; room is what is left between caliper and wheel,
    discard the least its rotors may be thick, fit whether its parts go in. None where nobody knows, or they are in.
    """

    key: str
    pad: str
    rear_pad: str
    front_rotor: str
    rear_rotor: str
    setup: Setup
    noise: float
    dust: float
    rotor_wear_m: float
    front_pads_price: float
    rear_pads_price: float
    rotors_price: float
    front_change_m: float
    rear_change_m: float
    currency: str = "£"
    set_up: str = ""
    set_up_price: float | None = None
    front_room_m: float | None = None
    rear_room_m: float | None = None
    front_discard_m: float | None = None
    rear_discard_m: float | None = None
    front_fit: Room | None = None
    rear_fit: Room | None = None

    @property
    def pads(self) -> str:
        """The compound, or both where front and rear differ."""
        return pads_name(self.pad, self.rear_pad)

    @property
    def pads_price(self) -> float:
        """Price of the pads of both axles, in its money."""
        return self.front_pads_price + self.rear_pads_price

    @functools.cached_property
    def worn_case(self) -> Case:
        """The case with its pads as thin as they will be when changed."""
        return with_material(self.setup.case, self.front_change_m, self.rear_change_m)

    @property
    def bought_once(self) -> float:
        """What is bought beside pads: the rotors, or the whole set-up where its price is known; in its money."""
        return self.rotors_price if self.set_up_price is None else self.set_up_price


@dataclass(frozen=True, kw_only=True)
class Figures:
    """The numbers that decide about one candidate.

    Lives are those of a new set; `life_events` is the shorter axle's. What the fluid does with the pads as thin as when
    they are changed is None where nobody asked, the set being rejected for something else.
    """

    front_peak_C: float
    rear_peak_C: float
    window_share: float
    cold_share: float
    hot_share: float
    pedal_worst_N: float
    fluid_peak_C: float
    fluid_margin_K: float
    worn_fluid_C: float | None
    worn_margin_K: float | None
    cold_mu: float
    lowest_margin_K: float
    front_life_events: float
    rear_life_events: float
    life_events: float
    life_hours: float
    cost_per_hour: float
    lock_first: str
    lock_g: float
    stress_MPa: float
    front_share: float

    @property
    def change_margin_K(self) -> float:
        """What the fluid has left in K when the pads are changed; with new ones where nobody asked."""
        return self.fluid_margin_K if self.worn_margin_K is None else self.worn_margin_K


def figures(candidate: Candidate, result: Result, event_hours: float) -> Figures:
    """Take the deciding numbers from one result; shares and margins are the worse axle's."""
    setup = candidate.setup
    shares = [window_shares(result.front, setup.front_limits), window_shares(result.rear, setup.rear_limits)]
    worst = min(shares, key=lambda share: share.working)
    fluid = max(result.front.peak_fluid_C, result.rear.peak_fluid_C)
    lives = [
        remaining(axle.pad.thickness_m, limit, wear, WearScale(median=1.0, sigma=0.0)).events
        for axle, limit, wear in (
            (setup.case.front, candidate.front_change_m, result.front.pad_wear_m),
            (setup.case.rear, candidate.rear_change_m, result.rear.pad_wear_m),
        )
    ]
    front_life, rear_life = lives
    hours = min(lives) * event_hours
    an_event = cost_per_event(candidate, front_life, rear_life)
    lock = lock_up(setup.case, LOCK_CHECK_C)
    front_force, rear_force = axle_road_forces(
        setup.case, line_pressure(SHARE_CHECK_N, setup.case.hydraulics), LOCK_CHECK_C
    )
    return Figures(
        front_peak_C=result.front.peak_surface_C,
        rear_peak_C=result.rear.peak_surface_C,
        window_share=worst.working,
        cold_share=worst.cold,
        hot_share=worst.hot,
        pedal_worst_N=result.peak_pedal_force_N,
        fluid_peak_C=fluid,
        fluid_margin_K=setup.boiling_C - fluid,
        worn_fluid_C=None,
        worn_margin_K=None,
        cold_mu=friction_coefficient(COLD_C, setup.case.front.pad.mu),
        lowest_margin_K=min(margin.left for margin in heat_margins(setup, result)),
        front_life_events=front_life,
        rear_life_events=rear_life,
        life_events=min(lives),
        life_hours=hours,
        cost_per_hour=an_event / event_hours if event_hours > 0 else math.inf,
        lock_first=lock.first_axle,
        lock_g=lock.decel_g,
        stress_MPa=max(result.front.thermal_stress_Pa, result.rear.thermal_stress_Pa) / 1e6,
        front_share=front_force / max(1e-9, front_force + rear_force),
    )


def cost_per_event(candidate: Candidate, front_events: float, rear_events: float) -> float:
    """What pads cost an event, each axle's price over its own life: `p_f/n_f + p_r/n_r`, in its money.

    Infinite where a pad does not last at all; lives in events.
    """
    parts = ((candidate.front_pads_price, front_events), (candidate.rear_pads_price, rear_events))
    return sum(price / events if events > 0 else math.inf for price, events in parts)


def with_worn(figure: Figures, candidate: Candidate, peak: FluidPeak) -> Figures:
    """The figures with what worn pads do to the fluid, its peak in degC; a record."""
    return replace(figure, worn_fluid_C=peak.hottest, worn_margin_K=worn_margin(candidate.setup, peak))
