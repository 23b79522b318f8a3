"""Radiation from the rotor's friction faces."""

from __future__ import annotations

from thermaxis.core.physics.compiled import compiled

STEFAN_BOLTZMANN = 5.670374419e-8
KELVIN = 273.15


@compiled
def radiated_flux(surface_C: float, air_C: float, emissivity: float) -> float:
    """Net radiated flux in W/m2 of a grey surface to surroundings at air temperature.

    `q = eps sigma (T_s^4 - T_a^4)`, kelvin inside (Stefan-Boltzmann, CODATA constant).

    >>> round(radiated_flux(400.0, 20.0, 0.5))
    5612
    """
    surface = surface_C + KELVIN
    air = air_C + KELVIN
    return emissivity * STEFAN_BOLTZMANN * (surface**4 - air**4)


@compiled
def radiation_slope(surface_C: float, emissivity: float) -> float:
    """Derivative of `radiated_flux` by the surface temperature, `4 eps sigma T^3`, in W/(m2 K).

    >>> round(radiation_slope(400.0, 0.5), 1)
    34.6
    """
    surface = surface_C + KELVIN
    return 4.0 * emissivity * STEFAN_BOLTZMANN * surface**3
