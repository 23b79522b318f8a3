"""Frozen result records of one computation. Units are in the names; energies and wear are per rotor and per pad."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.said import Said

Array = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class AxleResult:
    """What one rotor of an axle went through."""

    peak_surface_C: float
    peak_bulk_C: float
    end_bulk_C: float
    end_surface_C: float
    peak_pad_C: float
    peak_fluid_C: float
    friction_energy_J: float
    pad_wear_m: float
    peak_surface_s: float
    peak_fluid_s: float
    peak_face_excess_K: float
    thermal_stress_Pa: float
    least_mu: float
    pedal_mu: float
    energy_by_temperature_J: tuple[float, ...] = field(repr=False)


# A duty may have ten thousand of them, and a choice a thousand results.
@dataclass(frozen=True, kw_only=True, slots=True)
class StopResult:
    """One stop: how long it took, the rings at the end of braking, the energy of one rotor per axle."""

    duration_s: float
    front_bulk_C: float
    rear_bulk_C: float
    front_energy_J: float
    rear_energy_J: float


@dataclass(frozen=True, kw_only=True)
class StaticsResult:
    """Torque, balance and adhesion at one pedal force and rotor temperature, with a trailer's push and nose load."""

    pressure_Pa: float
    front_torque_Nm: float
    rear_torque_Nm: float
    front_force_N: float
    rear_force_N: float
    decel_g: float
    front_adhesion: float
    rear_adhesion: float | None
    rear_lift_g: float
    front_heat_share: float
    rear_heat_share: float


@dataclass(frozen=True, kw_only=True)
class EnergyAccount:
    """Where the friction energy of all rotors went, in J: in = stored + lost."""

    friction_J: float
    in_J: float
    stored_rotors_J: float
    stored_pads_and_calipers_J: float
    lost_faces_J: float
    lost_radiation_J: float
    lost_vanes_J: float
    lost_hubs_J: float
    lost_calipers_J: float
    imbalance: float


@dataclass(frozen=True, kw_only=True)
class Remark:
    """Something a reader of the result must know, with its number and where it happened."""

    code: str
    text: Said


@dataclass(frozen=True, kw_only=True)
class ShortOfForce:
    """Why the greatest pedal force was not enough for a stop, from the first moment on and for how long in all.

    `axle` is the one furthest from its best friction, `mu` what it had at `at_C` (degC, ring surface); `cause` is
    fade (past its best), cold (before it) or pedal (near it: too much was asked).
    """

    cause: str
    axle: str
    mu: float
    at_C: float
    when_s: float
    seconds: float


@dataclass(frozen=True, kw_only=True)
class Result:
    """Everything one computation gives."""

    front: AxleResult
    rear: AxleResult
    stops: tuple[StopResult, ...]
    duration_s: float
    braking_s: float
    peak_pedal_force_N: float
    peak_pedal_s: float
    force_limited_s: float
    grip_limited_s: float
    stopped: bool
    energy_account: EnergyAccount
    warnings: tuple[Remark, ...]
    assumptions: tuple[str, ...]
    statics: StaticsResult | None = None
    short_of_force: ShortOfForce | None = None


HISTORY_FIELDS = (
    "t_s",
    "v_mps",
    "pressure_Pa",
    "front_power_W",
    "rear_power_W",
    "front_surface_C",
    "front_bulk_C",
    "front_pad_C",
    "front_fluid_C",
    "rear_surface_C",
    "rear_bulk_C",
    "rear_pad_C",
    "rear_fluid_C",
)
