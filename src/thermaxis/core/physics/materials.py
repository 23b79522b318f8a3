"""Rotor materials and face patterns, and their temperature-dependent properties."""

from __future__ import annotations

import functools
import math
from dataclasses import dataclass

from thermaxis.core.physics.compiled import compiled
from thermaxis.core.tables import rows_of


@dataclass(frozen=True, kw_only=True)
class Material:
    """Constants of one rotor material; `k = max(k_min, k0 - k1 T)`, `c = min(c_max, c0 + c1 T)`, T in degC."""

    density_kg_per_m3: float
    k0_W_per_mK: float
    k1_W_per_mK2: float
    k_min_W_per_mK: float
    c0_J_per_kgK: float
    c1_J_per_kgK2: float
    c_max_J_per_kgK: float
    emissivity: float
    youngs_Pa: float
    expansion_per_K: float
    poisson: float
    limit_C: float
    source: str


@dataclass(frozen=True, kw_only=True)
class Pattern:
    """What slots and holes multiply (estimates of physics.md section 6, stress of section 9)."""

    area: float
    mass: float
    face_convection: float
    stress: float


PATTERN_FACTORS = {
    "plain": Pattern(area=1.0, mass=1.0, face_convection=1.0, stress=1.0),
    "slotted": Pattern(area=0.98, mass=0.985, face_convection=1.02, stress=1.5),
    "drilled": Pattern(area=0.94, mass=0.95, face_convection=1.10, stress=3.0),
    "drilled_slotted": Pattern(area=0.92, mass=0.935, face_convection=1.12, stress=3.0),
}


@functools.cache
def materials() -> dict[str, Material]:
    """Return every rotor material of `core/data/materials.csv` by name.

    >>> materials()["grey_iron"].density_kg_per_m3
    7200.0
    """
    words = ("material", "source")
    return {
        row["material"]: Material(
            source=row["source"], **{key: float(value) for key, value in row.items() if key not in words}
        )
        for row in rows_of("materials")
    }


@compiled
def conductivity(temperature_C: float, k0: float, k1: float, k_min: float) -> float:
    """Thermal conductivity `k = max(k_min, k0 - k1 T)` in W/(m K), T in degC.

    Valid -50 to 1000 degC; linear fit to handbook grey-iron data (physics.md section 6).

    >>> conductivity(200.0, 52.0, 0.025, 35.0)
    47.0
    """
    return max(k_min, k0 - k1 * temperature_C)


@compiled
def specific_heat(temperature_C: float, c0: float, c1: float, c_max: float) -> float:
    """Specific heat `c = min(c_max, c0 + c1 T)` in J/(kg K), T in degC; valid -50 to 1000 degC (physics.md section 6).

    >>> specific_heat(100.0, 480.0, 0.3, 690.0)
    510.0
    """
    return min(c_max, c0 + c1 * temperature_C)


@compiled
def specific_enthalpy(temperature_C: float, c0: float, c1: float, c_max: float) -> float:
    """Specific enthalpy over 0 degC, `e = integral of c dT`, in J/kg (physics.md section 6).

    The exact integral of `specific_heat`, so that stored energy closes to rounding.

    >>> specific_enthalpy(100.0, 480.0, 0.3, 690.0)
    49500.0
    """
    if c1 <= 0.0:
        return min(c0, c_max) * temperature_C
    corner = (c_max - c0) / c1
    if temperature_C <= corner:
        return temperature_C * (c0 + 0.5 * c1 * temperature_C)
    return corner * (c0 + 0.5 * c1 * corner) + c_max * (temperature_C - corner)


@compiled
def temperature_of_enthalpy(enthalpy: float, c0: float, c1: float, c_max: float) -> float:
    """Temperature in degC that has the specific enthalpy given in J/kg: the inverse of `specific_enthalpy`.

    Source: physics.md section 6.

    >>> temperature_of_enthalpy(49500.0, 480.0, 0.3, 690.0)
    100.0
    """
    if c1 <= 0.0:
        return enthalpy / min(c0, c_max)
    corner = (c_max - c0) / c1
    at_corner = corner * (c0 + 0.5 * c1 * corner)
    if enthalpy > at_corner:
        return corner + (enthalpy - at_corner) / c_max
    # The root of c1/2 T^2 + c0 T - e in the form that does not cancel near T = 0.
    return 2.0 * enthalpy / (c0 + math.sqrt(c0 * c0 + 2.0 * c1 * enthalpy))
