"""Machines, circuits and duties to core records and back: the only translator between the two."""

from __future__ import annotations

import contextlib
import functools
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from thermaxis.apps.garage import models
from thermaxis.core import records
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.convection import standard_pressure
from thermaxis.core.planning.lap import Element, Lap, Powertrain, drive_lap, session

VEHICLE = (
    "mass_kg", "front_fraction", "wheelbase_m", "cg_height_m", "wheel_radius_front_m", "wheel_radius_rear_m",
    "rotating_mass_factor", "drag_area_m2", "rolling_coefficient", "engine_braking_N", "tyre_grip", "rider_front_share",
)  # fmt: skip
HYDRAULICS = (
    "pedal_ratio", "pedal_efficiency", "booster_gain", "booster_runout_N", "master_bore_m", "max_pedal_force_N",
    "rear_knee_Pa", "rear_slope",
)  # fmt: skip
AXLE = (
    "rotors", "piston_area_m2", "caliper_efficiency", "caliper_mass_kg", "caliper_specific_heat_J_per_kgK",
    "caliper_area_m2", "backing_conductance_W_per_K", "gap_conductance_W_per_K", "cooling_factor",
)  # fmt: skip
TRAILER = ("mass_kg", "brake_share", "nose_load_N")
OTHER = {"environment": ("air_C", "altitude_m"), "fluid": ("fluid_age_months",), "log": ("odometer_km",)}


@contextlib.contextmanager
def under(block: str) -> Iterator[None]:
    """Put the block's name before the path of a field error."""
    try:
        yield
    except FieldError as error:
        raise error.under(block) from None


def paths(machine: models.Machine) -> dict[str, tuple[Any, str]]:
    """Every editable number of a machine: its path, the row and the column that hold it."""
    found: dict[str, tuple[Any, str]] = {f"vehicle.{name}": (machine, name) for name in VEHICLE}
    found |= {f"hydraulics.{name}": (machine, name) for name in HYDRAULICS}
    if machine.trailer_mass_kg is not None:
        found |= {f"trailer.{name}": (machine, f"trailer_{name}") for name in TRAILER}
    for block, names in OTHER.items():
        found |= {f"{block}.{name}": (machine, name) for name in names}
    for axle in machine.axles.all():
        found |= {f"{axle.position}.{name}": (axle, name) for name in AXLE}
    return found


def apply_changes(machine: models.Machine, changes: dict[str, float | None]) -> list[Any]:
    """Set changed numbers on the rows in memory, check them all, and return the rows that changed.

    Nothing is written. A changed number is no longer an estimate. Raises FieldError for an unknown path or a value
    that is not allowed.
    """
    known = paths(machine)
    rows: list[Any] = []
    for path, value in changes.items():
        if path not in known:
            raise FieldError(path, value, "one of the machine's fields: " + ", ".join(known))
        row, column = known[path]
        if value is None and not row._meta.get_field(column).null:
            raise FieldError(path, value, "a number")
        setattr(row, column, value)
        if row not in rows:
            rows.append(row)
    measured = [path for path in machine.estimates if path not in changes]
    if measured != machine.estimates:
        machine.estimates = measured
        if machine not in rows:
            rows.append(machine)
    check(machine)
    return rows


def check(machine: models.Machine) -> None:
    """Build every record of a machine; FieldError names what is not allowed."""
    vehicle_record(machine)
    hydraulics_record(machine)
    trailer_record(machine)
    environment_record(machine)
    with under("fluid"):
        if machine.fluid_age_months is None or not 0 <= machine.fluid_age_months <= 600:
            raise FieldError("fluid_age_months", machine.fluid_age_months, "a number >= 0 and <= 600")
    if not 0 <= machine.odometer_km <= 5_000_000:
        raise FieldError("log.odometer_km", machine.odometer_km, "a number >= 0 and <= 5000000")
    placeholder = _any_parts()
    for axle in machine.axles.all():
        with under(axle.position):
            axle_record(axle, *placeholder)


def _any_parts() -> tuple[records.Rotor, records.Pad]:
    """Parts small enough for any axle: only the axle's own numbers are being checked."""
    rotor = records.Rotor(
        outer_radius_m=0.1, inner_radius_m=0.07, thickness_m=0.01, gap_m=0, vanes=0, vane_thickness_m=0,
        material="grey_iron", pattern="plain", hub_conductance_W_per_K=1.0,
    )  # fmt: skip
    pad = records.Pad(
        area_m2=0.001, thickness_m=0.01, backing_m=0.005, density_kg_per_m3=2600, specific_heat_J_per_kgK=900,
        conductivity_W_per_mK=1.6, mu=((0.0, 0.4),), wear_mm3_per_MJ=40, wear_knee_C=400, wear_scale_C=150,
    )  # fmt: skip
    return rotor, pad


def vehicle_record(machine: models.Machine) -> records.Vehicle:
    regen = None
    with under("vehicle"):
        if machine.regen_axle:
            regen = records.Regen(
                axle=machine.regen_axle, max_power_W=machine.regen_max_power_W,
                max_decel_mps2=machine.regen_max_decel_mps2, fade_out_mps=machine.regen_fade_out_mps,
            )  # fmt: skip
        return records.Vehicle(kind=machine.kind, regen=regen, **{name: getattr(machine, name) for name in VEHICLE})


def hydraulics_record(machine: models.Machine) -> records.Hydraulics:
    with under("hydraulics"):
        return records.Hydraulics(**{name: getattr(machine, name) for name in HYDRAULICS})


def trailer_record(machine: models.Machine) -> records.Trailer | None:
    if machine.trailer_mass_kg is None:
        return None
    with under("trailer"):
        return records.Trailer(**{name: getattr(machine, f"trailer_{name}") for name in TRAILER})


def environment_record(machine: models.Machine) -> records.Environment:
    if machine.altitude_m is None or not -450 <= machine.altitude_m <= 6000:
        raise FieldError("environment.altitude_m", machine.altitude_m, "a number >= -450 and <= 6000")
    with under("environment"):
        return records.Environment(air_C=machine.air_C, pressure_Pa=standard_pressure(machine.altitude_m))


def axle_record(axle: models.Axle, rotor: records.Rotor, pad: records.Pad) -> records.Axle:
    return records.Axle(rotor=rotor, pad=pad, **{name: getattr(axle, name) for name in AXLE})


def powertrain_record(machine: models.Machine) -> Powertrain:
    return Powertrain(power_W=machine.power_W, driven=machine.driven, top_speed_mps=machine.top_speed_mps)


@dataclass(frozen=True, kw_only=True)
class DutyFacts:
    """A duty as the core takes it, and what one event of it is."""

    duty: records.Duty
    event_km: float
    event_hours: float
    lap_km: float | None
    lap_s: float | None


def duty_facts(
    machine: models.Machine, duty: models.Duty, *, repeats: int | None = None, cool_down_laps: int | None = None
) -> DutyFacts:
    """The duty as this machine drives it; `repeats` (laps, runs, series) and cool-down laps may be others than kept."""
    if duty.kind == models.Duty.Kind.SESSION:
        return _session(machine, duty, repeats, cool_down_laps)
    core: records.Duty
    if duty.kind == models.Duty.Kind.DESCENT:
        core = records.DescentDuty(
            kind="descent", grade=duty.grade or 0.0, speed_mps=duty.speed_mps or 0.0, duration_s=duty.duration_s or 0.0,
            then_s=duty.then_s, then_speed_mps=duty.then_speed_mps,
        )  # fmt: skip
        hours = (duty.duration_s or 0.0) / 3600.0
    else:
        stops = tuple(
            records.Stop(
                from_mps=stop.from_mps, to_mps=stop.to_mps, decel_mps2=stop.decel_mps2, grade=stop.grade,
                then_s=stop.then_s, then_speed_mps=stop.then_speed_mps,
            )
            for stop in duty.stops.all()
        )  # fmt: skip
        core = records.StopsDuty(kind="stops", stops=stops, repeat=repeats or duty.repeat or 1)
        seconds = sum(s.then_s + (s.from_mps - s.to_mps) / s.decel_mps2 for s in stops) * core.repeat
        hours = seconds / 3600.0
    return DutyFacts(duty=core, event_km=duty.event_km, event_hours=hours, lap_km=None, lap_s=None)


def _session(machine: models.Machine, duty: models.Duty, repeats: int | None, cool_down_laps: int | None) -> DutyFacts:
    assert duty.circuit is not None
    elements = tuple(
        Element(length_m=element.length_m, radius_m=element.radius_m, grade=element.grade)
        for element in duty.circuit.elements.all()
    )
    laps = repeats or duty.laps or 1
    cool_down = duty.cool_down_laps if cool_down_laps is None else cool_down_laps
    lap = _driven(
        elements, vehicle_record(machine), powertrain_record(machine), duty.driver_level, environment_record(machine),
        duty.circuit.closed,
    )  # fmt: skip
    return DutyFacts(
        duty=_repeated(lap, laps, cool_down, duty.then_s, duty.pause_s), event_km=duty.event_km,
        event_hours=laps * lap.duration_s / 3600.0, lap_km=lap.length_m / 1000.0, lap_s=lap.duration_s,
    )  # fmt: skip


@functools.lru_cache(maxsize=64)
def _driven(
    elements: tuple[Element, ...], vehicle: records.Vehicle, powertrain: Powertrain, level: str,
    environment: records.Environment, closed: bool,
) -> Lap:  # fmt: skip
    """A lap, kept: the same machine asks for the same one with every slider that moves."""
    return drive_lap(elements, vehicle, powertrain, level, environment, closed=closed)


@functools.lru_cache(maxsize=64)
def _repeated(lap: Lap, laps: int, cool_down_laps: int, soak_s: float, pause_s: float) -> records.TraceDuty:
    return session(lap, laps, cool_down_laps=cool_down_laps, soak_s=soak_s, pause_s=pause_s)
