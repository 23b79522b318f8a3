"""What the tyres let each axle give: loads, regeneration's part, and how the driver shares a force out.

Everything here is for one instant at `speed` (m/s) with deceleration `a` (m/s2) on a slope given by the `sine`
and `cosine` of its angle (positive uphill), on packed records (physics.md sections 3 and 4; Limpert 1999, ch. 7).
"""

from __future__ import annotations

import math
from typing import Any

from thermaxis.core.physics.compiled import compiled
from thermaxis.core.physics.hydraulics import pressure_behind, pressure_for_force, rear_pressure
from thermaxis.core.physics.resistance import GRAVITY

# Rounds of the search for the deceleration grip allows: bracketed, so it cannot fail, and seldom needs more than six.
ROUNDS = 60
# Share by which a stop may miss its deceleration and still count as given.
SHORT = 1e-9


@compiled
def trailer_push(decel: float, sine: float, vehicle: Any) -> float:
    """Push of the trailer in N, `(1 - s_t) m_t (a - g sin(theta))`, never below 0.

    What its own brakes do not hold; downhill it pushes at steady speed too.
    """
    return max(0.0, vehicle.pushed_mass * (decel - GRAVITY * sine))


@compiled
def dynamic_loads(speed: float, decel: float, sine: float, cosine: float, vehicle: Any) -> tuple[float, float]:
    """Front and rear axle load in N; where the rear's would be negative it is 0 and the front carries both.

    `N_f = m g cos phi + m (a - g sin) h/L + F_t h_h/L - W_n b/L + 0.5 rho Cl_f A v^2`, `N_r` with the signs turned and
    `W_n (1 + b/L)`.
    """
    moved = vehicle.mass * (decel - GRAVITY * sine) * vehicle.height
    moved += trailer_push(decel, sine, vehicle) * vehicle.hitch_height
    weight = vehicle.mass * GRAVITY * cosine
    air = speed * speed
    front = (
        weight * vehicle.front_fraction + moved - vehicle.nose_load * vehicle.hitch_overhang + vehicle.front_lift * air
    )
    rear = weight * (1.0 - vehicle.front_fraction) - moved
    rear += vehicle.nose_load * (1.0 + vehicle.hitch_overhang) + vehicle.rear_lift * air
    if rear < 0.0:
        return front + rear, 0.0
    return front, rear


@compiled
def lifting_decel(speed: float, sine: float, cosine: float, vehicle: Any) -> float:
    """Deceleration in m/s2 at which the rear axle's load is 0; infinite where none brings it there."""
    still = vehicle.mass * GRAVITY * cosine * (1.0 - vehicle.front_fraction)
    still += vehicle.nose_load * (1.0 + vehicle.hitch_overhang) + vehicle.rear_lift * speed * speed
    # In `a - g sin(theta)`; the push is in it only where that is positive.
    slope = vehicle.mass * vehicle.height
    if still > 0.0:
        slope += vehicle.pushed_mass * vehicle.hitch_height
    return still / slope + GRAVITY * sine if slope > 0.0 else math.inf


@compiled
def axle_limits(
    speed: float, decel: float, sine: float, cosine: float, regen: float, vehicle: Any
) -> tuple[float, float]:
    """Greatest friction force in N of each axle: `mu_tyre N_i` less the regeneration on it, never below 0."""
    front, rear = dynamic_loads(speed, decel, sine, cosine, vehicle)
    on_front = regen * vehicle.regen_front
    front = max(0.0, vehicle.grip * front - on_front)
    rear = max(0.0, vehicle.grip * rear - (regen - on_front))
    return front, rear


@compiled
def needed_force(decel: float, sine: float, resisting: float, vehicle: Any) -> float:
    """Road force in N wanted from the friction brakes, never below 0: `k m a + F_t - resisting`.

    `resisting`: what slows the vehicle without its friction brakes in N (physics.md section 4).
    """
    return max(0.0, vehicle.inertia * decel + trailer_push(decel, sine, vehicle) - resisting)


@compiled
def most_in_stop(front_limit: float, rear_limit: float, f: float, r: float, vehicle: Any) -> tuple[float, int]:
    """Greatest road force in N a driver gets of both axles, and 1 where an axle's grip is what ends it.

    `f`, `r`: road force per pressure of each axle in N/Pa at its present friction; limits as `axle_limits` gives them.
    """
    if vehicle.rider_share >= 0.0:
        front_most, rear_most = f * vehicle.max_pressure, r * vehicle.max_pressure
        front, rear = min(front_limit, front_most), min(rear_limit, rear_most)
        # The front takes what the rear leaves of what the rider asks.
        if vehicle.rider_share * (front + rear) > front:
            return front / vehicle.rider_share, 1 if front_limit < front_most else 0
        return front + rear, 1 if front_limit < front_most or rear_limit < rear_most else 0
    if vehicle.anti_lock > 0:
        front_most = f * vehicle.max_pressure
        rear_most = r * rear_pressure(vehicle.max_pressure, vehicle.knee, vehicle.slope)
        at_grip = front_limit < front_most or rear_limit < rear_most
        return min(front_limit, front_most) + min(rear_limit, rear_most), 1 if at_grip else 0
    pressure = min(front_limit / f, pressure_behind(rear_limit / r, vehicle.knee, vehicle.slope))
    at_grip = pressure < vehicle.max_pressure
    pressure = min(pressure, vehicle.max_pressure)
    return f * pressure + r * rear_pressure(pressure, vehicle.knee, vehicle.slope), 1 if at_grip else 0


@compiled
def share_of_circuit(
    wanted: float, front_limit: float, rear_limit: float, f: float, r: float, vehicle: Any
) -> tuple[float, float]:
    """Front and rear force in N of one circuit that give `wanted`; what one axle's limit cuts off the other takes."""
    pressure = pressure_for_force(wanted, f, r, vehicle.knee, vehicle.slope)
    front, rear = f * pressure, r * rear_pressure(pressure, vehicle.knee, vehicle.slope)
    if front > front_limit:
        return front_limit, wanted - front_limit
    if rear > rear_limit:
        return wanted - rear_limit, rear_limit
    return front, rear


@compiled
def share_of_stop(
    wanted: float, front_limit: float, rear_limit: float, f: float, r: float, vehicle: Any
) -> tuple[float, float]:
    """Front and rear force in N by which a driver gets a `wanted` road force in N, no more than `most_in_stop`."""
    if vehicle.rider_share >= 0.0:
        rear = min((1.0 - vehicle.rider_share) * wanted, rear_limit, r * vehicle.max_pressure)
        return wanted - rear, rear
    # With anti-lock the pressure goes on rising for the axle that still has grip; without, it has not come that far.
    return share_of_circuit(wanted, front_limit, rear_limit, f, r, vehicle)


@compiled
def share_of_imposed(
    wanted: float, front_limit: float, rear_limit: float, f: float, r: float, vehicle: Any
) -> tuple[float, float]:
    """Front and rear force in N that together give `wanted` (N), the speed being imposed.

    An axle gives at most its limit and the other takes the rest; where both together fall short, they share in
    proportion to their limits.
    """
    both = front_limit + rear_limit
    if wanted > both > 0.0:
        return wanted * front_limit / both, wanted * rear_limit / both
    if vehicle.rider_share >= 0.0:
        rear = min((1.0 - vehicle.rider_share) * wanted, rear_limit)
        front = min(wanted - rear, front_limit)
        return front, wanted - front
    if wanted > both:
        # No grip at all on either: the circuit alone says who takes what.
        front_limit, rear_limit = math.inf, math.inf
    return share_of_circuit(wanted, front_limit, rear_limit, f, r, vehicle)


@compiled
def pressure_of(front: float, rear: float, f: float, r: float, vehicle: Any) -> float:
    """Line pressure in Pa at which both axles give at least these forces (N); with a rider, the greater circuit's."""
    behind = rear / r
    if vehicle.rider_share < 0.0:
        behind = pressure_behind(behind, vehicle.knee, vehicle.slope)
    return max(front / f, behind)


@compiled
def decel_of(force: float, sine: float, resisting: float, vehicle: Any) -> float:
    """Deceleration in m/s2 that a friction force in N gives: `needed_force` solved for `a`."""
    downhill = GRAVITY * sine
    pushing = (force + resisting + vehicle.pushed_mass * downhill) / (vehicle.inertia + vehicle.pushed_mass)
    return pushing if pushing > downhill else (force + resisting) / vehicle.inertia


@compiled
def give_in_stop(
    speed: float,
    decel: float,
    sine: float,
    cosine: float,
    resisting: float,
    regen: float,
    f: float,
    r: float,
    vehicle: Any,
) -> tuple[float, float, float, int]:
    """Front and rear force (N) in a stop wanted at `decel`, the deceleration there is (m/s2), 1 where grip ends it.

    Loads hang on the deceleration and it on what they let the axles give: the `a` at which the force needed is just
    there, by false position between 0 and the wanted one (Illinois; Dowell and Jarratt, BIT 11, 1971).
    """
    high, lifted = decel, 0
    if vehicle.rider_share >= 0.0:
        lift = lifting_decel(speed, sine, cosine, vehicle)
        if lift < decel:
            high, lifted = max(0.0, lift), 1
    wanted = needed_force(high, sine, resisting, vehicle)
    front_limit, rear_limit = axle_limits(speed, high, sine, cosine, regen, vehicle)
    most, at_grip = most_in_stop(front_limit, rear_limit, f, r, vehicle)
    if wanted <= most:
        front, rear = share_of_stop(wanted, front_limit, rear_limit, f, r, vehicle)
        return front, rear, high, lifted
    high_miss, low, at = wanted - most, 0.0, 0.0
    low_miss, side = 0.0, 0
    for i in range(ROUNDS):
        wanted = needed_force(at, sine, resisting, vehicle)
        front_limit, rear_limit = axle_limits(speed, at, sine, cosine, regen, vehicle)
        most, at_grip = most_in_stop(front_limit, rear_limit, f, r, vehicle)
        miss = wanted - most
        if i == 0 and miss >= 0.0:
            # Down a hill grip or pedal do not even hold the speed.
            at = decel_of(most, sine, resisting, vehicle)
            break
        if abs(miss) <= SHORT * most or (miss < 0.0 and high - at <= SHORT * decel):
            break
        if miss > 0.0:
            high, high_miss = at, miss
            low_miss *= 0.5 if side > 0 else 1.0
            side = 1
        else:
            low, low_miss = at, miss
            high_miss *= 0.5 if side < 0 else 1.0
            side = -1
        at = (low * high_miss - high * low_miss) / (high_miss - low_miss)
    front, rear = share_of_stop(most, front_limit, rear_limit, f, r, vehicle)
    return front, rear, at, max(at_grip, lifted)
