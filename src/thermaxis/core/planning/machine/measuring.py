"""From what a ruler and scales say to the numbers a machine is described by."""

from __future__ import annotations

import dataclasses
import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from thermaxis.core.checked import Checked, less_than, number
from thermaxis.core.errors import Bounds, FieldError
from thermaxis.core.physics.materials import materials
from thermaxis.core.said import verbatim

Values = dict[str, float]


@dataclass(frozen=True, kw_only=True)
class CornerScales(Checked):
    """Four scales under the wheels, the vehicle level, with driver and load, in kg."""

    front_left_kg: float = number(ge=0, le=20000)
    front_right_kg: float = number(ge=0, le=20000)
    rear_left_kg: float = number(ge=0, le=20000)
    rear_right_kg: float = number(ge=0, le=20000)


def corner_scales(read: CornerScales) -> Values:
    """Mass in kg and the share of it on the front axle: sums of the scales."""
    front, rear = read.front_left_kg + read.front_right_kg, read.rear_left_kg + read.rear_right_kg
    if front <= 0 or rear <= 0:
        name = "front_left_kg" if front <= 0 else "rear_left_kg"
        raise FieldError(name, 0.0, "more than nothing on each axle")
    return {"mass_kg": front + rear, "front_fraction": front / (front + rear)}


@dataclass(frozen=True, kw_only=True)
class RollOut(Checked):
    """How far the vehicle rolls, loaded as driven, in whole turns of a wheel."""

    distance_m: float = number(gt=0, le=100)
    turns: float = number(ge=1, le=50)


def roll_out(read: RollOut) -> Values:
    """Rolling radius in m, `r = s/(2 pi n)`."""
    return {"wheel_radius_m": read.distance_m / (2.0 * math.pi * read.turns)}


@dataclass(frozen=True, kw_only=True)
class LiftedAxle(Checked):
    """One axle weighed level, then again with the other one lifted; suspension blocked, tyres hard, no fuel slosh."""

    mass_kg: float = number(gt=0, le=60000)
    level_kg: float = number(gt=0, le=60000)
    lifted_kg: float = number(gt=0, le=60000)
    lift_m: float = number(gt=0, le=3)
    wheelbase_m: float = number(gt=0, le=20)
    wheel_radius_m: float = number(gt=0, le=2)

    def check(self) -> None:
        if self.level_kg >= self.mass_kg:
            raise less_than("level_kg", self.level_kg, "mass_kg", self.mass_kg)
        if self.lifted_kg < self.level_kg:
            allowed = f"at least level_kg {self.level_kg:g}: weight moves down the slope"
            bounds = Bounds(least=self.level_kg, why=verbatim("as level: weight moves down the slope"))
            raise FieldError("lifted_kg", self.lifted_kg, allowed, bounds=bounds)
        if self.lift_m >= 0.9 * self.wheelbase_m:
            allowed = f"less than nine tenths of the wheelbase {self.wheelbase_m:g}"
            bounds = Bounds(most=0.9 * self.wheelbase_m, below=True, why=verbatim("nine tenths of the wheelbase"))
            raise FieldError("lift_m", self.lift_m, allowed, bounds=bounds)


def lifted_axle(read: LiftedAxle) -> Values:
    """Height of the centre of gravity in m: `h = r + L (W' - W_0)/(W tan theta)`, `sin theta = lift/L`.

    Moments about the hubs of the axle that stays down; both wheels of one radius r (Gillespie, Fundamentals of Vehicle
    Dynamics, SAE 1992, appendix). Weigh to 1 kg and lift at least a fifth of the wheelbase: the difference is small.
    """
    slope = math.tan(math.asin(read.lift_m / read.wheelbase_m))
    over_hubs = read.wheelbase_m * (read.lifted_kg - read.level_kg) / (read.mass_kg * slope)
    return {"cg_height_m": read.wheel_radius_m + over_hubs}


@dataclass(frozen=True, kw_only=True)
class PedalLever(Checked):
    """Two lengths at the pedal: from its pivot to the middle of the foot, and to the pushrod."""

    foot_m: float = number(gt=0, le=1)
    rod_m: float = number(gt=0, le=1)


def pedal_lever(read: PedalLever) -> Values:
    """Pedal ratio `i = l_foot/l_rod`."""
    return {"pedal_ratio": read.foot_m / read.rod_m}


@dataclass(frozen=True, kw_only=True)
class Pistons(Checked):
    """Diameters of the pistons that press ONE pad: all of a sliding caliper, one side of an opposed one."""

    first_m: float = number(gt=0, le=0.1)
    second_m: float | None = number(None, gt=0, le=0.1, optional=True)
    third_m: float | None = number(None, gt=0, le=0.1, optional=True)


def pistons(read: Pistons) -> Values:
    """Piston area of one pad in m2, `A = pi/4 sum d^2`."""
    squares = sum(diameter**2 for diameter in (read.first_m, read.second_m, read.third_m) if diameter is not None)
    return {"piston_area_m2": math.pi / 4.0 * squares}


HAT_SHARE = 0.22
"""Share of a one-piece rotor's mass that is hat and not ring (estimate: 0.18 to 0.28)."""


@dataclass(frozen=True, kw_only=True)
class WeighedRotor(Checked):
    """A vented rotor on a bathroom scale, with what a gauge says of it."""

    mass_kg: float = number(gt=0, le=60)
    hat_kg: float | None = number(None, ge=0, le=30, optional=True)
    outer_radius_m: float = number(gt=0, le=0.5)
    inner_radius_m: float = number(gt=0, le=0.5)
    thickness_m: float = number(gt=0, le=0.1)
    vanes: float = number(ge=2, le=200)
    vane_thickness_m: float = number(gt=0, le=0.05)

    def check(self) -> None:
        if self.inner_radius_m >= self.outer_radius_m:
            raise less_than("inner_radius_m", self.inner_radius_m, "outer_radius_m", self.outer_radius_m)
        if (self.hat_kg or 0.0) >= self.mass_kg:
            raise less_than("hat_kg", self.hat_kg or 0.0, "mass_kg", self.mass_kg)


def weighed_rotor(read: WeighedRotor) -> Values:
    """Air gap in m of a vented grey-iron rotor from its mass: `m = rho (A (t - w) + n b l w)` solved for w.

    The hat comes off first, `HAT_SHARE` of the mass unless it was weighed (a two-piece rotor). Raises FieldError where
    the mass fits no gap between 0 and the thickness.
    """
    hat = HAT_SHARE * read.mass_kg if read.hat_kg is None else read.hat_kg
    ring_m3 = (read.mass_kg - hat) / materials()["grey_iron"].density_kg_per_m3
    area = math.pi * (read.outer_radius_m**2 - read.inner_radius_m**2)
    vanes_m2 = read.vanes * read.vane_thickness_m * (read.outer_radius_m - read.inner_radius_m)
    gap = (area * read.thickness_m - ring_m3) / (area - vanes_m2)
    if not 0 < gap < read.thickness_m:
        solid = area * read.thickness_m * materials()["grey_iron"].density_kg_per_m3
        raise FieldError(
            "mass_kg", read.mass_kg, f"less than a solid ring of {solid:.1f} kg and its hat, and more than its vanes"
        )
    return {"gap_m": gap}


Method = tuple[type[Any], Callable[[Any], Values]]
METHODS: dict[str, Method] = {
    "corner_scales": (CornerScales, corner_scales),
    "roll_out": (RollOut, roll_out),
    "lifted_axle": (LiftedAxle, lifted_axle),
    "pedal_lever": (PedalLever, pedal_lever),
    "pistons": (Pistons, pistons),
    "weighed_rotor": (WeighedRotor, weighed_rotor),
}


def work_out(method: str, numbers: Mapping[str, float | None]) -> Values:
    """Run a method on what was measured; FieldError for an unknown method, an unknown or a missing number."""
    if method not in METHODS:
        raise FieldError("method", method, "one of " + ", ".join(METHODS))
    record, function = METHODS[method]
    fields = {field.name: field for field in dataclasses.fields(record)}
    for name, value in numbers.items():
        if name not in fields:
            raise FieldError(name, value, "one of " + ", ".join(fields))
    for name, field in fields.items():
        if name not in numbers and field.default is dataclasses.MISSING:
            raise FieldError(name, None, "a number")
    return function(record(**numbers))
