"""Catalogue rows to core records: the only translator between the two."""

from __future__ import annotations

from thermaxis.apps.catalogue import models
from thermaxis.core import records
from thermaxis.core.physics.fluid import boiling_point
from thermaxis.core.planning.readings import CompoundLimits

VARIANT = ("area_m2", "thickness_m", "backing_m")
COMPOUND = (
    "density_kg_per_m3", "specific_heat_J_per_kgK", "conductivity_W_per_mK", "wear_mm3_per_MJ", "wear_knee_C",
    "wear_scale_C",
)  # fmt: skip
ROTOR = (
    "outer_radius_m", "inner_radius_m", "thickness_m", "gap_m", "vanes", "vane_thickness_m", "material", "pattern",
    "hub_conductance_W_per_K",
)  # fmt: skip


def pad_record(variant: models.PadVariant) -> records.Pad:
    """One pad of a compound in one shape. Expects `pad.mu_points` to be fetched."""
    pad = variant.pad
    return records.Pad(
        mu=tuple((point.temperature_C, point.mu) for point in pad.mu_points.all()),
        **{name: getattr(variant, name) for name in VARIANT},
        **{name: getattr(pad, name) for name in COMPOUND},
    )


def compound_limits(pad: models.Pad) -> CompoundLimits:
    """A compound's window and limit."""
    return CompoundLimits(window_low_C=pad.window_low_C, window_high_C=pad.window_high_C, limit_C=pad.limit_C)


def rotor_record(rotor: models.Rotor) -> records.Rotor:
    """A rotor as new."""
    return records.Rotor(**{name: getattr(rotor, name) for name in ROTOR})


def boiling_C(fluid: models.Fluid, age_months: float) -> float:
    """Boiling point of the fluid at its age."""
    return boiling_point(fluid.dry_C, fluid.wet_C, age_months)
