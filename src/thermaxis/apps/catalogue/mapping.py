"""Catalogue rows to core records: the only translator between the two."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.catalogue import models
from thermaxis.core import records
from thermaxis.core.checked import less_than
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.fluid import altitude_drop, boiling_point, takes_water
from thermaxis.core.planning.choice.own_friction import OwnFriction, own_friction
from thermaxis.core.planning.inspection.sheet import rotor_wear_m
from thermaxis.core.planning.verdict.readings import CompoundLimits

VARIANT = ("area_m2", "thickness_m", "backing_m")
COMPOUND = (
    "density_kg_per_m3",
    "specific_heat_J_per_kgK",
    "conductivity_W_per_mK",
    "wear_mm3_per_MJ",
    "wear_knee_C",
    "wear_scale_C",
)
ROTOR = (
    "outer_radius_m",
    "inner_radius_m",
    "thickness_m",
    "gap_m",
    "vanes",
    "vane_thickness_m",
    "material",
    "pattern",
    "hub_conductance_W_per_K",
)


# What tells whether a part goes on.
PAD_FIT = (
    "thickness_spread_m",
    "shim_m",
    "height_m",
    "length_m",
    "pin_hole_m",
    "pin_spacing_m",
    "wear_tabs",
    "piston_clips",
    "kit",
)
ROTOR_FIT = (
    "handed_face",
    "thickness_spread_m",
    "diameter_m",
    "hat_height_m",
    "bore_m",
    "holes",
    "pitch_circle_m",
    "fixing_screws",
    "drum_m",
    "jacking_thread",
)


def pad_record(pad: models.Pad, *, area_m2: float, thickness_m: float, backing_m: float) -> records.Pad:
    """One pad of a compound in one size. Expects `pad.mu_points` to be fetched."""
    factor = own_fit(pad).ratio if pad.use_own else 1.0
    return records.Pad(
        mu=tuple((point.temperature_C, point.mu * factor) for point in pad.mu_points.all()),
        area_m2=area_m2,
        thickness_m=thickness_m,
        backing_m=backing_m,
        **{name: getattr(pad, name) for name in COMPOUND},
    )


def own_fit(pad: models.Pad) -> OwnFriction:
    """How the workshop's own readings of a compound lie to its curve."""
    curve = tuple((point.temperature_C, point.mu) for point in pad.mu_points.all())
    readings = [(row.temperature_C, row.mu) for row in pad.own_mu.all() if row.removed_at is None]
    return own_friction(readings, curve)


def wear_of_rotor_m(pad: models.Pad) -> float:
    """What a set of a compound takes off a rotor: as measured, else as its family usually does."""
    return rotor_wear_m(pad.family) if pad.rotor_wear_m is None else pad.rotor_wear_m


def compound_limits(pad: models.Pad) -> CompoundLimits:
    """A compound's window and limit."""
    return CompoundLimits(window_low_C=pad.window_low_C, window_high_C=pad.window_high_C, limit_C=pad.limit_C)


def rotor_record(size: object) -> records.Rotor:
    """A rotor from whatever holds its numbers and words: a row of the catalogue, or a size that was found."""
    return records.Rotor(**{name: getattr(size, name) for name in ROTOR})


def boiling_C(fluid: models.Fluid, age_months: float, pressure_Pa: float) -> float:
    """Boiling point of the fluid at its age, where the air has this pressure."""
    at_sea_level = boiling_point(fluid.dry_C, fluid.wet_C, age_months, takes_up=takes_water(fluid.standard))
    return at_sea_level - altitude_drop(pressure_Pa)


# What a compound is checked with, for it has no shape of its own.
_ANY_SHAPE = {"area_m2": 0.005, "thickness_m": 0.01, "backing_m": 0.005}


def check_row(table: str, values: Mapping[str, Any]) -> None:
    """Check what concerns more than one cell of a row, as the core sees it. FieldError names the field."""
    if table == "compounds":
        CompoundLimits(**{name: values[name] for name in ("window_low_C", "window_high_C", "limit_C")})
        if values["bed_low_C"] >= values["bed_high_C"]:
            raise FieldError("bed_low_C", values["bed_low_C"], f"less than bed_high_C {values['bed_high_C']:g}")
        mu = tuple((temperature, value) for temperature, value, _ in values["mu"])
        records.Pad(mu=mu, **_ANY_SHAPE, **{name: values[name] for name in COMPOUND})
    elif table == "rotors":
        records.Rotor(**{name: values[name] for name in ROTOR})
        if values["vane_shape"] == "directional" and not (values["gap_m"] > 0 and values["vanes"] > 0):
            raise FieldError("vane_shape", "directional", "straight for a rotor without vanes")
        if values["discard_thickness_m"] >= values["thickness_m"]:
            raise less_than("discard_thickness_m", values["discard_thickness_m"], "thickness_m", values["thickness_m"])
    elif table == "fluids" and values["wet_C"] >= values["dry_C"]:
        raise FieldError("wet_C", values["wet_C"], f"less than dry_C {values['dry_C']:g}")


def table_rows(table: str, workshop: Workshop) -> list[dict[str, Any]]:
    """Rows of one of the catalogue's tables in SI, as files carry them, without parts that are one machine's own."""
    if table == "compounds":
        return [
            _compound(pad)
            for pad in models.Pad.objects.of(workshop)
            .filter(as_found=False)
            .prefetch_related("mu_points")
            .order_by("pk")
        ]
    if table == "pad shapes":
        shapes = models.PadVariant.objects.filter(pad__workshop=workshop).select_related("pad").order_by("pad", "pk")
        fields = ("shape", *VARIANT, "price", "provenance", *PAD_FIT)
        return [{"pad": shape.pad.name, **{name: getattr(shape, name) for name in fields}} for shape in shapes]
    if table == "rotors":
        names = (
            "name",
            "mount",
            "provenance",
            "discard_thickness_m",
            "two_piece",
            "price",
            "mass_kg",
            "vane_shape",
            "coating",
            *ROTOR,
            *ROTOR_FIT,
        )
        rotors = models.Rotor.objects.of(workshop).order_by("pk")
        return [{name: getattr(rotor, name) for name in names} for rotor in rotors]
    fluids = models.Fluid.objects.of(workshop).order_by("pk")
    return [
        {name: getattr(fluid, name) for name in ("name", "standard", "provenance", "dry_C", "wet_C", "price")}
        for fluid in fluids
    ]


def _compound(pad: models.Pad) -> dict[str, Any]:
    fields = (
        "name",
        "family",
        "provenance",
        "window_low_C",
        "window_high_C",
        "limit_C",
        "bed_low_C",
        "bed_high_C",
        "noise",
        "dust",
        *COMPOUND,
        "bedding",
        "rotor_wear_m",
    )
    mu = tuple((point.temperature_C, point.mu, point.provenance) for point in pad.mu_points.all())
    return {"mu": mu, **{name: getattr(pad, name) for name in fields}}
