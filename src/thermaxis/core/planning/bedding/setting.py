"""What a bedding plan is made for: the machine without its trailer, both windows, the road, and what they allow."""

from __future__ import annotations

import dataclasses
import functools
import itertools
import math
from dataclasses import dataclass

from thermaxis.core.checked import Checked, flag, number
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.balance import axle_loads, road_forces_per_pressure
from thermaxis.core.physics.hydraulics import line_pressure, pressure_for_force, rear_pressure
from thermaxis.core.physics.resistance import GRAVITY
from thermaxis.core.records import Case, TraceDuty

GRIP_SHARE, TOP_SHARE = 0.8, 0.95
"""A plan uses at most these shares of the tyres' grip and of the machine's top speed."""
RIDER_MOST_G = 0.6
FLUID_SPARE_K = 60.0
PARK_C = 100.0
"""No pad that is hotter stands still under a parking brake or a held pedal."""
# Getting back to speed takes this share of the engine's power at the wheels, and nobody pushes harder than that.
POWER_SHARE, HARDEST_PUSH_MPS2, SETTLE_S = 0.6, 2.5, 3.0
# The slow end of what grip is looked at: regeneration has faded by then, lift is none.
SLOW_MPS = 3.0
# Deceleration is found to this, in g.
FINENESS_G = 0.005


@dataclass(frozen=True, kw_only=True)
class Window(Checked):
    """Ring temperatures in degC a compound is bedded between; the face must not pass the upper."""

    low_C: float = number(ge=-60, le=1500)
    high_C: float = number(ge=-60, le=1500)

    def check(self) -> None:
        if self.high_C <= self.low_C:
            raise FieldError("high_C", self.high_C, f"more than low_C {self.low_C}")


@dataclass(frozen=True, kw_only=True)
class Road(Checked):
    """What the road and whoever drives allow: the fastest a braking begins, in m/s, and the hardest, in g."""

    top_speed_mps: float = number(gt=8, le=70)
    hard_g: float = number(gt=0.1, le=1.2)


@dataclass(frozen=True, kw_only=True)
class Setting(Checked):
    """A machine to bed pads in on; `case` is taken without its trailer, `lap` is one lap of its circuit at pace.

    `coated`, `drilled`: what its front rings are.
    """

    case: Case
    front: Window
    rear: Window
    road: Road
    boiling_C: float = number(ge=0, le=500)
    machine_top_mps: float = number(gt=1, le=150)
    power_W: float = number(gt=0, le=2e6)
    coated: bool = flag(False)
    drilled: bool = flag(False)
    lap: TraceDuty | None = None

    @functools.cached_property
    def alone(self) -> Case:
        """The machine without its trailer."""
        return dataclasses.replace(self.case, trailer=None, statics=None)

    @property
    def motorcycle(self) -> bool:
        return self.case.vehicle.kind == "motorcycle"

    @property
    def machine_most_mps(self) -> float:
        """0.95 of its top speed."""
        return TOP_SHARE * self.machine_top_mps

    @property
    def fastest_mps(self) -> float:
        """The fastest a braking may begin: the road's speed, and 0.95 of the machine's."""
        return min(self.road.top_speed_mps, self.machine_most_mps)

    @property
    def hottest_fluid_C(self) -> float:
        return self.boiling_C - FLUID_SPARE_K

    @functools.cached_property
    def grip_g(self) -> float:
        """The hardest braking tyres (and a rider) allow at any speed of a plan, in g: `allowed_g` at both ends."""
        return min(allowed_g(self, SLOW_MPS), allowed_g(self, self.machine_most_mps))

    @property
    def hardest_g(self) -> float:
        """The hardest braking of a plan in g: what is allowed, and what whoever drives wants."""
        return min(self.road.hard_g, self.grip_g)

    def least_gap_s(self, from_mps: float, to_mps: float) -> float:
        """Seconds it takes to be back at speed: `max(k m (v1^2 - v2^2)/(2 * 0.6 P), (v1 - v2)/2.5) + 3` (estimate)."""
        vehicle = self.case.vehicle
        energy = 0.5 * vehicle.rotating_mass_factor * vehicle.mass_kg * (from_mps**2 - to_mps**2)
        pushed = max(energy / (POWER_SHARE * max(1.0, self.power_W)), (from_mps - to_mps) / HARDEST_PUSH_MPS2)
        return min(300.0, math.ceil(pushed + SETTLE_S))


def allowed_g(setting: Setting, speed_mps: float) -> float:
    """The hardest braking in g at which no axle uses more than 0.8 of the tyres' grip, whatever its pads have reached.

    `f_i = (F_bi + F_regen,i)/N_i <= 0.8 mu_tyre` (physics.md section 3) on the flat, the force `k m a` shared at the
    common pressure by the friction each axle has anywhere between the air and the top of its window; regeneration off
    or as strong as it is at `speed_mps`. Two wheels: each by the rider's share, and at most 0.6 g. Never more than the
    greatest pedal force gives. Found to 0.005 g, from below, and safe: drag and rolling are left to the brakes.
    """
    case, vehicle = setting.alone, setting.case.vehicle
    most = GRIP_SHARE * vehicle.tyre_grip
    if vehicle.rider_front_share is not None:
        most = min(most, RIDER_MOST_G)
    shares = _force_shares(setting)
    regens = {0.0, _regen_N(setting, speed_mps)}
    low, high = 0.0, most
    if _within(case, high, speed_mps, shares, regens):
        return high
    while high - low > FINENESS_G:
        middle = 0.5 * (low + high)
        if _within(case, middle, speed_mps, shares, regens):
            low = middle
        else:
            high = middle
    return max(low, FINENESS_G)


def _force_shares(setting: Setting) -> list[tuple[float, float]]:
    """Road force per pressure in N/Pa of both axles, at every friction a plan may find."""
    case = setting.alone
    shares = []
    for front_C, rear_C in itertools.product(_temperatures(case, setting.front), _temperatures(case, setting.rear)):
        front, _ = road_forces_per_pressure(case, front_C)
        _, rear = road_forces_per_pressure(case, rear_C)
        shares.append((front, rear))
    return list(set(shares))


def _temperatures(case: Case, window: Window) -> tuple[float, ...]:
    air = case.environment.air_C
    return tuple(air + part * (window.high_C - air) for part in (0.0, 0.25, 0.5, 0.75, 1.0))


def _regen_N(setting: Setting, speed_mps: float) -> float:
    regen = setting.case.vehicle.regen
    if regen is None or speed_mps <= 0.0:
        return 0.0
    return min(regen.max_power_W / speed_mps, regen.max_decel_mps2 * setting.case.vehicle.mass_kg)


def _within(
    case: Case, decel_g: float, speed_mps: float, shares: list[tuple[float, float]], regens: set[float]
) -> bool:
    """Whether both axles stay within 0.8 of grip at a deceleration, at every sharing of the force."""
    vehicle, hydraulics = case.vehicle, case.hydraulics
    loads = axle_loads(case, decel_g, speed_mps)
    limits = [GRIP_SHARE * vehicle.tyre_grip * load for load in loads]
    needed = vehicle.rotating_mass_factor * vehicle.mass_kg * GRAVITY * decel_g
    knee = math.inf if hydraulics.rear_knee_Pa is None else hydraulics.rear_knee_Pa
    greatest = line_pressure(hydraulics.max_pedal_force_N, hydraulics)
    for regen in regens:
        on_front = vehicle.regen is not None and vehicle.regen.axle == "front"
        extra = (regen, 0.0) if on_front else (0.0, regen)
        wanted = max(0.0, needed - regen)
        for front_per_Pa, rear_per_Pa in shares:
            if vehicle.rider_front_share is not None:
                front, rear = vehicle.rider_front_share * wanted, (1.0 - vehicle.rider_front_share) * wanted
                pressed = max(front / front_per_Pa, rear / rear_per_Pa)
            else:
                pressed = pressure_for_force(wanted, front_per_Pa, rear_per_Pa, knee, hydraulics.rear_slope)
                front = front_per_Pa * pressed
                rear = rear_per_Pa * rear_pressure(pressed, knee, hydraulics.rear_slope)
            if pressed > greatest or front + extra[0] > limits[0] or rear + extra[1] > limits[1]:
                return False
    return True
