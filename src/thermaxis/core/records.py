"""Frozen input records of one computation: a machine, its surroundings and a duty, all in SI.

Field names are those of the case file (`thermaxis-case/2`), the unit is in the name. Bounds are wide:
they keep out what cannot be meant, not what is unusual.
"""

from __future__ import annotations

import dataclasses
import functools
import itertools
import math
from dataclasses import dataclass, field

from thermaxis.core.checked import Checked, check_number, choice, flag, less_than, number, numbers
from thermaxis.core.errors import Bounds, FieldError
from thermaxis.core.said import verbatim

MATERIALS = ("grey_iron", "high_carbon_iron", "stainless", "carbon_ceramic")
PATTERNS = ("plain", "slotted", "drilled", "drilled_slotted")
MAX_MU_POINTS = 16


@dataclass(frozen=True, kw_only=True)
class Regen(Checked):
    """Regenerative braking of the driven axle."""

    axle: str = choice("front", "rear")
    max_power_W: float = number(ge=0, le=2e6)
    max_decel_mps2: float = number(ge=0, le=10)
    fade_out_mps: float = number(ge=0, le=50)


@dataclass(frozen=True, kw_only=True)
class Vehicle(Checked):
    """The vehicle as driven: masses with driver, fuel and load."""

    kind: str = choice("car", "truck", "motorcycle")
    mass_kg: float = number(gt=0, le=60000)
    front_fraction: float = number(gt=0, le=0.999)
    wheelbase_m: float = number(gt=0, le=20)
    cg_height_m: float = number(gt=0, le=5)
    wheel_radius_front_m: float = number(gt=0, le=2)
    wheel_radius_rear_m: float = number(gt=0, le=2)
    rotating_mass_factor: float = number(ge=1, le=2)
    drag_area_m2: float = number(ge=0, le=20)
    rolling_coefficient: float = number(ge=0, le=0.2)
    engine_braking_N: float = number(ge=0, le=50000)
    tyre_grip: float = number(gt=0, le=3)
    anti_lock: bool = flag(True)
    front_lift_area_m2: float = number(0.0, ge=-5, le=5)
    rear_lift_area_m2: float = number(0.0, ge=-5, le=5)
    rider_front_share: float | None = number(None, ge=0, le=1, optional=True)
    regen: Regen | None = None


@dataclass(frozen=True, kw_only=True)
class Trailer(Checked):
    """A trailer: its mass, the share of its own braking need it covers, its nose load."""

    mass_kg: float = number(ge=0, le=60000)
    brake_share: float = number(ge=0, le=1)
    nose_load_N: float = number(ge=0, le=50000)
    hitch_height_m: float = number(0.45, ge=0, le=2)
    hitch_overhang_m: float = number(1.1, ge=0, le=5)

    @property
    def pushed_mass_kg(self) -> float:
        """What of the trailer its own brakes do not hold, in kg: `(1 - s_t) m_t`."""
        return (1.0 - self.brake_share) * self.mass_kg


@dataclass(frozen=True, kw_only=True)
class Hydraulics(Checked):
    """From the pedal (or lever) to the line pressure."""

    pedal_ratio: float = number(gt=0, le=30)
    pedal_efficiency: float = number(gt=0, le=1)
    booster_gain: float = number(ge=1, le=20)
    booster_runout_N: float | None = number(gt=0, le=20000, optional=True)
    master_bore_m: float = number(gt=0, le=0.1)
    max_pedal_force_N: float = number(gt=0, le=3000)
    rear_knee_Pa: float | None = number(gt=0, le=5e7, optional=True)
    rear_slope: float = number(ge=0, le=1)


@dataclass(frozen=True, kw_only=True)
class Rotor(Checked):
    """One rotor; the radii are those of the band the pad sweeps."""

    outer_radius_m: float = number(gt=0, le=0.5)
    inner_radius_m: float = number(gt=0, le=0.5)
    thickness_m: float = number(gt=0, le=0.1)
    gap_m: float = number(ge=0, le=0.08)
    vanes: int = number(ge=0, le=200, whole=True)
    vane_thickness_m: float = number(ge=0, le=0.05)
    material: str = choice(*MATERIALS)
    pattern: str = choice(*PATTERNS)
    hub_conductance_W_per_K: float = number(ge=0, le=100)

    def check(self) -> None:
        if self.inner_radius_m >= self.outer_radius_m:
            raise less_than("inner_radius_m", self.inner_radius_m, "outer_radius_m", self.outer_radius_m)
        if self.gap_m >= self.thickness_m:
            raise less_than("gap_m", self.gap_m, "thickness_m", self.thickness_m)
        if self.gap_m > 0 and self.vanes < 2:
            raise FieldError("vanes", self.vanes, "at least 2 where gap_m > 0")
        blocked = self.vanes * self.vane_thickness_m
        if blocked >= 2 * math.pi * self.inner_radius_m:
            raise FieldError("vane_thickness_m", self.vane_thickness_m, "small enough to leave passages between vanes")


@dataclass(frozen=True, kw_only=True)
class Pad(Checked):
    """One pad: its friction material as a block, and the compound's friction and wear."""

    area_m2: float = number(gt=0, le=0.1)
    thickness_m: float = number(gt=0, le=0.05)
    backing_m: float = number(gt=0, le=0.05)
    density_kg_per_m3: float = number(gt=0, le=20000)
    specific_heat_J_per_kgK: float = number(gt=0, le=5000)
    conductivity_W_per_mK: float = number(gt=0, le=500)
    mu: tuple[tuple[float, float], ...] = field(default=())
    wear_mm3_per_MJ: float = number(ge=0, le=10000)
    wear_knee_C: float = number(ge=-50, le=2000)
    wear_scale_C: float = number(gt=0, le=5000)

    def check(self) -> None:
        if not 1 <= len(self.mu) <= MAX_MU_POINTS:
            raise FieldError("mu", len(self.mu), f"1 to {MAX_MU_POINTS} points [degC, value]")
        for index, (temperature, value) in enumerate(self.mu):
            if not 0 < value <= 2:
                raise FieldError(f"mu[{index}][1]", value, "a number > 0 and <= 2")
            if not -60 <= temperature <= 2000:
                raise FieldError(f"mu[{index}][0]", temperature, "a number >= -60 and <= 2000")
        for index, (low, high) in enumerate(itertools.pairwise(self.mu)):
            if high[0] <= low[0]:
                raise FieldError(f"mu[{index + 1}][0]", high[0], f"more than the point before it ({low[0]})")


@dataclass(frozen=True, kw_only=True)
class Axle(Checked):
    """The brakes of one axle; every rotor on it is equal."""

    rotors: int = number(ge=1, le=4, whole=True)
    piston_area_m2: float = number(gt=0, le=0.1)
    caliper_efficiency: float = number(gt=0, le=1)
    rotor: Rotor
    pad: Pad
    caliper_mass_kg: float = number(gt=0, le=100)
    caliper_specific_heat_J_per_kgK: float = number(gt=0, le=5000)
    caliper_area_m2: float = number(gt=0, le=2)
    backing_conductance_W_per_K: float = number(ge=0, le=500)
    gap_conductance_W_per_K: float = number(ge=0, le=100)
    cooling_factor: float = number(gt=0, le=20)

    def check(self) -> None:
        ring = math.pi * (self.rotor.outer_radius_m**2 - self.rotor.inner_radius_m**2)
        if self.pad.area_m2 > ring:
            bounds = Bounds(most=ring, why=verbatim("no larger than the ring it sweeps"))
            raise FieldError("pad.area_m2", self.pad.area_m2, f"no more than the swept ring, {ring:.5g}", bounds=bounds)


_OF: dict[str, type[Checked]] = {
    "vehicle": Vehicle,
    "trailer": Trailer,
    "hydraulics": Hydraulics,
    "rotor": Rotor,
    "pad": Pad,
    "front": Axle,
    "rear": Axle,
}


def check_value(path: str, value: float | None) -> None:
    """Check one number of a case by its path, `front.rotor.thickness_m`, before there is a record to hold it.

    FieldError for one outside its range; a path of no record's number is not looked at.
    """
    owner, _, name = path.rpartition(".")
    record = _OF.get(owner.rpartition(".")[2])
    fields = {field.name: field for field in dataclasses.fields(record)} if record is not None else {}  # type: ignore[arg-type]
    if name in fields and "number" in fields[name].metadata:
        check_number(path, value, fields[name].metadata["number"])


@dataclass(frozen=True, kw_only=True)
class Environment(Checked):
    """The air, and the temperature everything starts at (the air's, unless given)."""

    air_C: float = number(ge=-60, le=70)
    pressure_Pa: float = number(ge=30000, le=120000)
    start_C: float | None = number(None, ge=-60, le=1200, optional=True)


@dataclass(frozen=True, kw_only=True)
class Statics(Checked):
    """The question 'what does this pedal force give, at this rotor temperature'."""

    pedal_force_N: float = number(ge=0, le=3000)
    rotor_C: float = number(ge=-60, le=1500)


MOST_HOURS, MOST_SEGMENTS = 48, 20_000
"""The longest duty there is: a two-day event with the drive there, at the pace a lap is held with (an endurance race of
24 h on a circuit of 40 corners a lap takes about 15,000 pieces). What is longer is computed as several duties."""


def check_size(path: str, value: object, segments: float, seconds: float) -> None:
    """Refuse a duty that would be longer than anything drives, before it is built.

    `segments` pieces of driving and `seconds` in s, each may be an upper bound. Raises FieldError naming `path`.
    """
    if segments > MOST_SEGMENTS or seconds > 3600.0 * MOST_HOURS:
        allowed = f"short enough for {MOST_HOURS} h and {MOST_SEGMENTS} pieces of driving in all"
        shown = f"{value}, which makes {seconds / 3600.0:.0f} h in {segments:.0f} pieces"
        raise FieldError(path, shown, allowed)


@dataclass(frozen=True, kw_only=True)
class Stop(Checked):
    """Brake from one speed to another, then drive on at a steady speed."""

    from_mps: float = number(gt=0, le=150)
    to_mps: float = number(ge=0, le=150)
    decel_mps2: float = number(gt=0, le=30)
    grade: float = number(0.0, ge=-0.5, le=0.5)
    then_s: float = number(ge=0, le=36000)
    then_speed_mps: float = number(ge=0, le=150)

    def check(self) -> None:
        if self.to_mps >= self.from_mps:
            raise less_than("to_mps", self.to_mps, "from_mps", self.from_mps)


@dataclass(frozen=True, kw_only=True)
class StopsDuty(Checked):
    """A series of stops, the whole series `repeat` times."""

    kind: str = choice("stops")
    stops: tuple[Stop, ...]
    repeat: int = number(1, ge=1, le=10000, whole=True)

    def check(self) -> None:
        if not self.stops:
            raise FieldError("stops", [], "at least one stop")
        check_size("repeat", self.repeat, 2 * len(self.stops) * self.repeat, self.seconds)

    @property
    def seconds(self) -> float:
        """How long it lasts in s, brakings at their nominal deceleration."""
        return self.repeat * sum(stop.then_s + (stop.from_mps - stop.to_mps) / stop.decel_mps2 for stop in self.stops)


@dataclass(frozen=True, kw_only=True)
class DescentDuty(Checked):
    """A steady descent held on the brakes (grade positive = down), then a soak or a drive."""

    kind: str = choice("descent")
    grade: float = number(ge=0, le=0.5)
    speed_mps: float = number(gt=0, le=100)
    duration_s: float = number(gt=0, le=36000)
    then_s: float = number(ge=0, le=36000)
    then_speed_mps: float = number(ge=0, le=150)


@dataclass(frozen=True, kw_only=True)
class TraceDuty(Checked):
    """A recorded or computed speed trace, linear between its points; grade per interval, positive = up."""

    kind: str = choice("trace")
    t_s: tuple[float, ...] = numbers(ge=-3600.0 * MOST_HOURS, le=3600.0 * MOST_HOURS)
    v_mps: tuple[float, ...] = numbers(ge=0.0, le=150.0)
    grade: tuple[float, ...] | None = numbers(None, ge=-0.5, le=0.5)
    then_s: float = number(0.0, ge=0, le=36000)
    then_speed_mps: float = number(0.0, ge=0, le=150)

    @functools.cached_property
    def _hash(self) -> int:
        return hash((self.t_s, self.v_mps, self.grade, self.then_s, self.then_speed_mps))

    def __hash__(self) -> int:
        # Thousands of points: reckoned once, as every case of a batch carries the same duty.
        return self._hash

    def check(self) -> None:
        if len(self.t_s) < 2:
            raise FieldError("t_s", len(self.t_s), "at least 2 points")
        if len(self.v_mps) != len(self.t_s):
            raise FieldError("v_mps", len(self.v_mps), f"as many values as t_s ({len(self.t_s)})")
        check_size("t_s", f"{len(self.t_s)} points", len(self.t_s), self.t_s[-1] - self.t_s[0] + self.then_s)
        if self.grade is not None and len(self.grade) != len(self.t_s) - 1:
            raise FieldError("grade", len(self.grade), f"one value per interval ({len(self.t_s) - 1})")
        for index, (before, after) in enumerate(itertools.pairwise(self.t_s)):
            if after <= before:
                raise FieldError(f"t_s[{index + 1}]", after, f"more than the time before it ({before})")


Duty = StopsDuty | DescentDuty | TraceDuty


@dataclass(frozen=True, kw_only=True)
class Case(Checked):
    """One machine, one duty: everything a computation needs."""

    name: str = ""
    vehicle: Vehicle
    hydraulics: Hydraulics
    front: Axle
    rear: Axle
    environment: Environment
    duty: Duty
    trailer: Trailer | None = None
    statics: Statics | None = None
    # Not in the file: the fields an older file did not know, so that they took their defaults.
    assumed: tuple[str, ...] = field(default=(), metadata={"outside_file": True})
