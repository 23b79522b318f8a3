"""Machines to core records and back: the only translator between the two (duties: `duty_mapping`)."""

from __future__ import annotations

import contextlib
import dataclasses
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from thermaxis.apps.garage import models
from thermaxis.core import records
from thermaxis.core.errors import Bounds, FieldError
from thermaxis.core.physics.convection import standard_pressure
from thermaxis.core.planning.duty.lap import Powertrain
from thermaxis.core.planning.fit.measures import CALIPER
from thermaxis.core.planning.life.intervals import default_school
from thermaxis.core.planning.machine.classes import estimates
from thermaxis.core.planning.machine.upgrade import Room

VEHICLE = (
    "mass_kg",
    "front_fraction",
    "wheelbase_m",
    "cg_height_m",
    "wheel_radius_front_m",
    "wheel_radius_rear_m",
    "rotating_mass_factor",
    "drag_area_m2",
    "rolling_coefficient",
    "engine_braking_N",
    "tyre_grip",
    "rider_front_share",
    "front_lift_area_m2",
    "rear_lift_area_m2",
)
HYDRAULICS = (
    "pedal_ratio",
    "pedal_efficiency",
    "booster_gain",
    "booster_runout_N",
    "master_bore_m",
    "max_pedal_force_N",
    "rear_knee_Pa",
    "rear_slope",
)
AXLE = (
    "rotors",
    "piston_area_m2",
    "caliper_efficiency",
    "caliper_mass_kg",
    "caliper_specific_heat_J_per_kgK",
    "caliper_area_m2",
    "backing_conductance_W_per_K",
    "gap_conductance_W_per_K",
    "cooling_factor",
)
# Room in the wheel: the machine's, but not part of a case.
ROOM = ("rim_radius_m", "caliper_reach_m")
# What a caliper, its bracket and the hub take: the machine's as well, and no part of a case either.
FIT = tuple(CALIPER)
RESERVOIR = ("reservoir_m3", "reservoir_level")
ROOM_PATHS = tuple(f"{position}.{name}" for position in ("front", "rear") for name in ROOM)
TRAILER = ("mass_kg", "brake_share", "nose_load_N", "hitch_height_m", "hitch_overhang_m")
REGEN = ("max_power_W", "max_decel_mps2", "fade_out_mps")
OTHER = {"powertrain": ("power_W", "top_speed_mps"), "environment": ("air_C", "altitude_m"), "log": ("odometer_km",)}


@contextlib.contextmanager
def under(block: str) -> Iterator[None]:
    """Put the block's name before the path of a field error."""
    try:
        yield
    except FieldError as error:
        raise error.under(block) from None


def axle_of(machine: models.Machine, position: str) -> models.Axle:
    """An axle of a machine by its position. FieldError for one it has not."""
    found = next((axle for axle in machine.axles.all() if axle.position == position), None)
    if found is None:
        raise FieldError("axle", position, "front or rear")
    return found


def paths(machine: models.Machine) -> dict[str, tuple[Any, str]]:
    """Every editable number of a machine: its path, the row and the column that hold it."""
    found: dict[str, tuple[Any, str]] = {f"vehicle.{name}": (machine, name) for name in VEHICLE}
    found |= {f"hydraulics.{name}": (machine, name) for name in HYDRAULICS}
    if machine.regen_axle:
        found |= {f"regen.{name}": (machine, f"regen_{name}") for name in REGEN}
    if machine.trailer_mass_kg is not None:
        found |= {f"trailer.{name}": (machine, f"trailer_{name}") for name in TRAILER}
    for block, names in OTHER.items():
        found |= {f"{block}.{name}": (machine, name) for name in names}
    for axle in machine.axles.all():
        found |= {f"{axle.position}.{name}": (axle, name) for name in (*AXLE, *ROOM)}
        # A car has one reservoir, kept with its front axle; a motorcycle one for each brake.
        without = RESERVOIR if axle.position == "rear" and machine.kind != "motorcycle" else ()
        found |= {f"{axle.position}.{name}": (axle, name) for name in FIT if name not in without}
    return found


def apply_changes(
    machine: models.Machine, changes: dict[str, float | None], left_open: Sequence[str] = ()
) -> list[Any]:
    """Set changed numbers on the rows in memory, check them all, and return the rows that changed.

    Nothing is written. A changed number is no longer an estimate; a number left open becomes the estimate of the
    machine's class. Raises FieldError for an unknown path or a value that is not allowed.
    """
    known = paths(machine)
    rows: list[Any] = []
    opened = open_values(machine, left_open, changes)
    changes = {**changes, **opened}
    for path, value in changes.items():
        if path not in known:
            raise FieldError(path, value, "one of the machine's fields: " + ", ".join(known))
        row, column = known[path]
        if value is None and not row._meta.get_field(column).null:
            raise FieldError(path, value, "a number")
        setattr(row, column, value)
        if row not in rows:
            rows.append(row)
    estimates = [path for path in machine.estimates if path not in changes] + list(opened)
    # A mass typed as one number is no longer the sum of its parts.
    masses = [] if {"vehicle.mass_kg", "vehicle.front_fraction"} & set(changes) else machine.masses
    if estimates != machine.estimates or masses != machine.masses:
        machine.estimates, machine.masses = estimates, masses
        if machine not in rows:
            rows.append(machine)
    check(machine)
    return rows


def open_values(
    machine: models.Machine, left_open: Sequence[str], changes: Mapping[str, float | None] = {}
) -> dict[str, float | None]:
    """What the machine's class says of the numbers left open, fitted to those that are known."""
    if not left_open:
        return {}
    if not machine.vehicle_class:
        raise FieldError("vehicle_class", "", "chosen before a number can be left open")
    known = {path: getattr(row, column) for path, (row, column) in paths(machine).items()} | dict(changes)
    guesses = estimates(
        machine.vehicle_class, {p: v for p, v in known.items() if p not in (*left_open, *machine.estimates)}
    )
    for path in left_open:
        if path not in guesses:
            raise FieldError(path, None, "a number: its class has no estimate for it")
    return {path: guesses[path].value for path in left_open}


@dataclass(frozen=True, kw_only=True)
class Conditions:
    """What a duty changes about the machine while it lasts; None leaves the machine's own number."""

    air_C: float | None = None
    altitude_m: float | None = None
    duct_factor: float = 1.0
    without_trailer: bool = False
    battery_full: bool = False


AS_IT_STANDS = Conditions()


def check(machine: models.Machine) -> None:
    """Build every record of a machine; FieldError names what is not allowed."""
    vehicle_record(machine)
    powertrain_record(machine)
    hydraulics_record(machine)
    trailer_record(machine)
    environment_record(machine)
    if not 0 <= machine.odometer_km <= 5_000_000:
        raise FieldError("log.odometer_km", machine.odometer_km, "a number >= 0 and <= 5000000")
    placeholder = _any_parts()
    for axle in machine.axles.all():
        with under(axle.position):
            axle_record(axle, *placeholder)
            for name, most in (("rim_radius_m", 0.5), ("caliper_reach_m", 0.2)):
                room = getattr(axle, name)
                if room is not None and not 0 < room <= most:
                    raise FieldError.outside(name, room, Bounds(least=0, above=True, most=most), " or null")
            for name, measure in CALIPER.items():
                measure.check(getattr(axle, name))


def _any_parts() -> tuple[records.Rotor, records.Pad]:
    """Parts small enough for any axle: only the axle's own numbers are being checked."""
    rotor = records.Rotor(
        outer_radius_m=0.1,
        inner_radius_m=0.07,
        thickness_m=0.01,
        gap_m=0,
        vanes=0,
        vane_thickness_m=0,
        material="grey_iron",
        pattern="plain",
        hub_conductance_W_per_K=1.0,
    )
    pad = records.Pad(
        area_m2=0.001,
        thickness_m=0.01,
        backing_m=0.005,
        density_kg_per_m3=2600,
        specific_heat_J_per_kgK=900,
        conductivity_W_per_mK=1.6,
        mu=((0.0, 0.4),),
        wear_mm3_per_MJ=40,
        wear_knee_C=400,
        wear_scale_C=150,
    )
    return rotor, pad


def vehicle_record(machine: models.Machine, conditions: Conditions = AS_IT_STANDS) -> records.Vehicle:
    regen = None
    if machine.regen_axle and not conditions.battery_full:
        with under("regen"):
            regen = records.Regen(
                axle=machine.regen_axle,
                max_power_W=machine.regen_max_power_W,
                max_decel_mps2=machine.regen_max_decel_mps2,
                fade_out_mps=machine.regen_fade_out_mps,
            )
    with under("vehicle"):
        numbers = {name: getattr(machine, name) for name in VEHICLE}
        return records.Vehicle(kind=machine.kind, anti_lock=machine.anti_lock, regen=regen, **numbers)


def hydraulics_record(machine: models.Machine) -> records.Hydraulics:
    with under("hydraulics"):
        return records.Hydraulics(**{name: getattr(machine, name) for name in HYDRAULICS})


def trailer_record(machine: models.Machine, conditions: Conditions = AS_IT_STANDS) -> records.Trailer | None:
    if machine.trailer_mass_kg is None or not machine.towing or conditions.without_trailer:
        return None
    with under("trailer"):
        return records.Trailer(**{name: getattr(machine, f"trailer_{name}") for name in TRAILER})


def environment_record(machine: models.Machine, conditions: Conditions = AS_IT_STANDS) -> records.Environment:
    altitude = machine.altitude_m if conditions.altitude_m is None else conditions.altitude_m
    air = machine.air_C if conditions.air_C is None else conditions.air_C
    with under("environment"):
        if altitude is None or not -450 <= altitude <= 6000:
            raise FieldError.outside("altitude_m", altitude, Bounds(least=-450, most=6000))
        return records.Environment(air_C=air, pressure_Pa=standard_pressure(altitude))


def axle_record(axle: models.Axle, rotor: records.Rotor, pad: records.Pad) -> records.Axle:
    return records.Axle(rotor=rotor, pad=pad, **{name: getattr(axle, name) for name in AXLE})


def powertrain_record(machine: models.Machine) -> Powertrain:
    with under("powertrain"):
        return Powertrain(power_W=machine.power_W, driven=machine.driven, top_speed_mps=machine.top_speed_mps)


def room_of(axle: models.Axle) -> Room:
    return Room(rim_radius_m=axle.rim_radius_m, caliper_reach_m=axle.caliper_reach_m)


def rooms_of(machine: models.Machine, changes: Mapping[str, float | None]) -> tuple[Room, Room]:
    """Room in the front and the rear wheel, with changed numbers on it."""
    rooms = {axle.position: room_of(axle) for axle in machine.axles.all()}
    for path in ROOM_PATHS:
        if path in changes:
            position, _, name = path.partition(".")
            rooms[position] = dataclasses.replace(rooms[position], **{name: changes[path]})
    return rooms["front"], rooms["rear"]


def school_of(machine: models.Machine, use: str) -> str:
    """When the pads of a machine are changed: as somebody chose for it, else by what they are used for."""
    return machine.change_school or default_school(use, machine.kind)
