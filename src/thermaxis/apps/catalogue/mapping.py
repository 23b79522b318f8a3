"""Catalogue rows to core records: the only translator between the two."""

from __future__ import annotations

from thermaxis.apps.catalogue import models
from thermaxis.core import records
from thermaxis.core.physics.fluid import boiling_point
from thermaxis.core.planning.readings import CompoundLimits


def pad_record(variant: models.PadVariant) -> records.Pad:
    """One pad of a compound in one shape. Expects `pad.mu_points` to be fetched."""
    pad = variant.pad
    return records.Pad(
        area_m2=variant.area_m2,
        thickness_m=variant.thickness_m,
        backing_m=variant.backing_m,
        density_kg_per_m3=pad.density_kg_per_m3,
        specific_heat_J_per_kgK=pad.specific_heat_J_per_kgK,
        conductivity_W_per_mK=pad.conductivity_W_per_mK,
        mu=tuple((point.temperature_C, point.mu) for point in pad.mu_points.all()),
        wear_mm3_per_MJ=pad.wear_mm3_per_MJ,
        wear_knee_C=pad.wear_knee_C,
        wear_scale_C=pad.wear_scale_C,
    )


def compound_limits(pad: models.Pad) -> CompoundLimits:
    """A compound's window and limit."""
    return CompoundLimits(window_low_C=pad.window_low_C, window_high_C=pad.window_high_C, limit_C=pad.limit_C)


def rotor_record(rotor: models.Rotor) -> records.Rotor:
    """A rotor as new."""
    return records.Rotor(
        outer_radius_m=rotor.outer_radius_m,
        inner_radius_m=rotor.inner_radius_m,
        thickness_m=rotor.thickness_m,
        gap_m=rotor.gap_m,
        vanes=rotor.vanes,
        vane_thickness_m=rotor.vane_thickness_m,
        material=rotor.material,
        pattern=rotor.pattern,
        hub_conductance_W_per_K=rotor.hub_conductance_W_per_K,
    )


def boiling_C(fluid: models.Fluid, age_months: float) -> float:
    """Boiling point of the fluid at its age."""
    return boiling_point(fluid.dry_C, fluid.wet_C, age_months)
