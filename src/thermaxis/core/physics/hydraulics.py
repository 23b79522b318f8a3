"""From pedal force to line pressure and back."""

from __future__ import annotations

import math

from thermaxis.core.physics.compiled import compiled
from thermaxis.core.records import Hydraulics


def line_pressure(pedal_force_N: float, hydraulics: Hydraulics) -> float:
    """Front line pressure in Pa for a pedal force in N.

    `F_p = F_pedal i eta`; `F_mc = B F_p` up to the run-out force, then `B F_ro + (F_p - F_ro)`; `p = F_mc/A_mc`
    (Limpert 1999, ch. 5; physics.md section 1).

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> round(line_pressure(200.0, small_case().hydraulics) / 1e5)
    74
    """
    pushrod = pedal_force_N * hydraulics.pedal_ratio * hydraulics.pedal_efficiency
    runout = math.inf if hydraulics.booster_runout_N is None else hydraulics.booster_runout_N
    boosted = min(pushrod, runout)
    force = hydraulics.booster_gain * boosted + (pushrod - boosted)
    return force / master_area(hydraulics)


def pedal_force(pressure_Pa: float, hydraulics: Hydraulics) -> float:
    """Pedal force in N that gives a front line pressure in Pa: the inverse of `line_pressure` (physics.md section 1).

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> held = small_case().hydraulics
    >>> round(pedal_force(line_pressure(200.0, held), held), 6)
    200.0
    """
    force = pressure_Pa * master_area(hydraulics)
    runout = math.inf if hydraulics.booster_runout_N is None else hydraulics.booster_runout_N
    pushrod = force / hydraulics.booster_gain
    if pushrod > runout:
        pushrod = runout + (force - hydraulics.booster_gain * runout)
    return pushrod / (hydraulics.pedal_ratio * hydraulics.pedal_efficiency)


def master_area(hydraulics: Hydraulics) -> float:
    """Area of the master cylinder in m2 (physics.md section 1).

    >>> from thermaxis.core.physics.warm_up import small_case
    >>> round(1e6 * master_area(small_case().hydraulics), 1)
    387.1
    """
    return math.pi / 4.0 * hydraulics.master_bore_m**2


@compiled
def rear_pressure(pressure: float, knee: float, slope: float) -> float:
    """Rear line pressure in Pa behind a proportioning valve: `p` up to the knee, then `p_k + slope (p - p_k)`.

    Source: physics.md section 1.

    >>> rear_pressure(5e6, 3e6, 0.5)
    4000000.0
    """
    if pressure <= knee:
        return pressure
    return knee + slope * (pressure - knee)


@compiled
def pressure_behind(rear: float, knee: float, slope: float) -> float:
    """Line pressure in Pa that gives a rear pressure behind the valve: the inverse of `rear_pressure`.

    Source: physics.md section 1.

    Where a valve lets nothing more through (slope 0), a slope of 1 % stands in: the pressure asked for stays a number.

    >>> pressure_behind(4e6, 3e6, 0.5)
    5000000.0
    """
    if rear <= knee:
        return rear
    return knee + (rear - knee) / max(slope, 0.01)


@compiled
def pressure_for_force(force: float, front: float, rear: float, knee: float, slope: float) -> float:
    """Common pressure in Pa at which both axles together give `force` (N) (physics.md section 1).

    `front`, `rear`: road force per pressure of each axle in N/Pa at its present friction. Inverts
    `front p + rear p_r(p) = force` with `rear_pressure`; exact.

    >>> pressure_for_force(9000.0, 2e-3, 1e-3, 5e6, 0.5)
    3000000.0
    """
    pressure = force / (front + rear)
    if pressure > knee:
        pressure = (force - rear * knee * (1.0 - slope)) / (front + slope * rear)
    return pressure
