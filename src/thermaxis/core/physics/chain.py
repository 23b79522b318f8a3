"""From the foot to the road, link by link: force, pressure, clamp and travel."""

from __future__ import annotations

import math
from dataclasses import dataclass

from thermaxis.core.physics.hydraulics import line_pressure, master_area, rear_pressure
from thermaxis.core.records import Axle, Case, Hydraulics

PAD_CLEARANCE_M = 0.0001
"""Gap each pad is drawn back by: 0.08 to 0.12 mm behind a healthy seal, whose roll-back it is (practice; estimate).

A pushed-back pad (hub play, runout) or a tired seal leaves more, and the pedal comes later."""


@dataclass(frozen=True, kw_only=True)
class Chain:
    """Every link between pedal and pads at one pedal force; clamp is the force on one pad."""

    pedal_N: float
    pushrod_N: float
    booster_adds_N: float
    booster_ran_out: bool
    master_N: float
    front_pressure_Pa: float
    rear_pressure_Pa: float
    front_clamp_N: float
    rear_clamp_N: float
    fluid_m3: float
    pedal_travel_m: float


def chain(case: Case, pedal_force_N: float) -> Chain:
    """Every link of the hydraulics at a pedal force in N (physics.md section 1), as a record.

    `clamp = p A_p eta_c`. Travel is that of the foot until the pads touch: fluid moved over master area, times the
    pedal ratio; what hoses and calipers give under pressure comes on top (a soft pedal), and is not in it.

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> round(chain(small_case(), 200.0).master_N)
    2880
    """
    hydraulics = case.hydraulics
    pushrod = pedal_force_N * hydraulics.pedal_ratio * hydraulics.pedal_efficiency
    pressure = line_pressure(pedal_force_N, hydraulics)
    knee = math.inf if hydraulics.rear_knee_Pa is None else hydraulics.rear_knee_Pa
    behind = rear_pressure(pressure, knee, hydraulics.rear_slope)
    master = pressure * master_area(hydraulics)
    runout = math.inf if hydraulics.booster_runout_N is None else hydraulics.booster_runout_N
    fluid = fluid_moved(case)
    return Chain(
        pedal_N=pedal_force_N,
        pushrod_N=pushrod,
        booster_adds_N=master - pushrod,
        booster_ran_out=hydraulics.booster_gain > 1 and pushrod > runout,
        master_N=master,
        front_pressure_Pa=pressure,
        rear_pressure_Pa=behind,
        front_clamp_N=pressure * case.front.piston_area_m2 * case.front.caliper_efficiency,
        rear_clamp_N=behind * case.rear.piston_area_m2 * case.rear.caliper_efficiency,
        fluid_m3=fluid,
        pedal_travel_m=pedal_travel(fluid, hydraulics),
    )


def fluid_moved(case: Case) -> float:
    """Fluid in m3 that closes the gap of every pad one master cylinder feeds: `V = sum n 2 A_p s`.

    Both pads of a caliper move by `PAD_CLEARANCE_M` (estimate). On separate circuits (a rider) that is the front's.

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> round(1e6 * fluid_moved(small_case()), 2)
    1.6
    """

    def of(axle: Axle) -> float:
        return axle.rotors * 2.0 * axle.piston_area_m2 * PAD_CLEARANCE_M

    return of(case.front) + (of(case.rear) if case.vehicle.rider_front_share is None else 0.0)


def pedal_travel(fluid_m3: float, hydraulics: Hydraulics) -> float:
    """Travel in m of the foot that moves a volume of fluid in m3: `V/A_mc` at the pushrod, times the pedal ratio.

    Source: conservation of volume.

    >>> from thermaxis.core.records import Hydraulics
    >>> lever = Hydraulics(pedal_ratio=4, pedal_efficiency=1, booster_gain=1, booster_runout_N=None, master_bore_m=0.02,
    ...                    max_pedal_force_N=500, rear_knee_Pa=None, rear_slope=1)
    >>> round(pedal_travel(3.1416e-6, lever), 4)
    0.04
    """
    return fluid_m3 / master_area(hydraulics) * hydraulics.pedal_ratio
