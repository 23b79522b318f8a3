"""Estimates by class: each row plausible, each class a whole machine, related numbers kept together; loading."""

from __future__ import annotations

import csv
from importlib import resources

import pytest
from hypothesis import given
from hypothesis import strategies as st

from thermaxis.core.errors import FieldError
from thermaxis.core.planning.machine.classes import CLASSES, MassPart, class_named, estimates, loaded, paths, spread_of

TABLE = list(
    csv.DictReader(resources.files("thermaxis.core").joinpath("data/classes.csv").read_text("utf-8").splitlines())
)
# Wide enough for a kit car and a loaded van, narrow enough to catch a slip of the decimal point.
BOUNDS = {
    "mass_kg": (150, 4000),
    "front_fraction": (0.4, 0.7),
    "wheelbase_m": (1.3, 4),
    "cg_height_m": (0.4, 0.9),
    "wheel_radius_front_m": (0.27, 0.4),
    "wheel_radius_rear_m": (0.27, 0.4),
    "rotating_mass_factor": (1.03, 1.1),
    "drag_area_m2": (0.3, 2),
    "rolling_coefficient": (0.01, 0.016),
    "engine_braking_N": (0, 1500),
    "tyre_grip": (0.7, 1.3),
    "front_lift_area_m2": (0, 0),
    "rear_lift_area_m2": (0, 0),
    "rider_front_share": (0.6, 0.95),
    "power_W": (4e4, 3e5),
    "top_speed_mps": (35, 75),
    "pedal_ratio": (3, 7),
    "pedal_efficiency": (0.8, 1),
    "booster_gain": (1, 7),
    "booster_runout_N": (600, 2000),
    "master_bore_m": (0.012, 0.03),
    "max_pedal_force_N": (150, 800),
    "rear_knee_Pa": (1e6, 6e6),
    "rear_slope": (0.2, 1),
    "rotors": (1, 2),
    "piston_area_m2": (8e-4, 5e-3),
    "caliper_efficiency": (0.9, 1),
    "caliper_mass_kg": (0.5, 10),
    "caliper_specific_heat_J_per_kgK": (450, 950),
    "caliper_area_m2": (0.015, 0.12),
    "backing_conductance_W_per_K": (2, 10),
    "gap_conductance_W_per_K": (0.2, 1),
    "cooling_factor": (0.7, 1.5),
    "rotor.outer_radius_m": (0.1, 0.2),
    "rotor.inner_radius_m": (0.06, 0.15),
    "rotor.thickness_m": (0.004, 0.036),
    "rotor.gap_m": (0, 0.016),
    "rotor.vanes": (0, 60),
    "rotor.vane_thickness_m": (0, 0.01),
    "rotor.hub_conductance_W_per_K": (0.5, 5),
    "pad.area_m2": (1e-3, 1e-2),
    "pad.thickness_m": (4e-3, 0.016),
    "pad.backing_m": (3e-3, 8e-3),
    "rim_radius_m": (0.15, 0.25),
    "caliper_reach_m": (0.015, 0.04),
}


@pytest.mark.parametrize("row", TABLE, ids=lambda row: row["path"])
def test_every_row_is_plausible_and_says_where_it_is_from(row: dict[str, str]) -> None:
    low, high = BOUNDS[row["path"].partition(".")[2]]
    for name in CLASSES:
        if row[name]:
            assert low <= float(row[name]) <= high, name
    assert 0 <= float(row["spread"]) <= 0.6
    assert len(row["source"]) > 15


@pytest.mark.parametrize("name", CLASSES)
def test_a_class_alone_makes_a_whole_machine(name: str) -> None:
    found = estimates(name, {})
    assert set(found) == set(paths())
    for path, entry in found.items():
        if entry.value is not None:
            assert entry.low is not None
            assert entry.high is not None
            assert entry.low <= entry.value <= entry.high, path
    for axle in ("front", "rear"):
        assert (found[f"{axle}.rotor.vanes"].value == 0) == (found[f"{axle}.rotor.gap_m"].value == 0)


@given(outer=st.floats(0.1, 0.2), thickness=st.floats(0.006, 0.036), name=st.sampled_from(sorted(CLASSES)))
def test_a_rotor_of_known_size_takes_its_band_vanes_and_pad_along(outer: float, thickness: float, name: str) -> None:
    known = {"front.rotor.outer_radius_m": outer, "front.rotor.thickness_m": thickness}
    found = {path: entry.value for path, entry in estimates(name, known).items()}
    inner, gap, area = found["front.rotor.inner_radius_m"], found["front.rotor.gap_m"], found["front.pad.area_m2"]
    assert inner is not None
    assert gap is not None
    assert area is not None
    assert inner < outer
    assert gap == (pytest.approx(0.4 * thickness) if thickness >= 0.0175 else 0.0)
    assert (gap > 0) == bool(found["front.rotor.vanes"])
    # The pad covers the same part of the band whatever the size.
    assert area / (outer**2 - inner**2) == pytest.approx(pad_share(name), rel=1e-9)
    assert not set(known) & set(found)


def pad_share(name: str) -> float:
    usual = {row["path"]: float(row[name]) for row in TABLE if row[name]}
    ring = usual["front.rotor.outer_radius_m"] ** 2 - usual["front.rotor.inner_radius_m"] ** 2
    return usual["front.pad.area_m2"] / ring


def test_one_tyre_radius_stands_for_both_axles() -> None:
    assert estimates("hatch", {"vehicle.wheel_radius_front_m": 0.291})["vehicle.wheel_radius_rear_m"].value == 0.291
    assert estimates("hatch", {"vehicle.wheel_radius_rear_m": 0.288})["vehicle.wheel_radius_front_m"].value == 0.288
    assert spread_of("front.cooling_factor") == 0.2
    assert spread_of("no.such") == 0.0


def test_an_unknown_class_is_refused_by_name() -> None:
    with pytest.raises(FieldError, match="one of light_sports, hatch"):
        class_named("hovercraft")


def test_loading_against_a_hand_worked_roadster() -> None:
    # Hand: 580*0.48 + 85*0.42 + 25*0.30 = 321.6 of 690 kg; heights (580*0.41 + 85*0.50 + 25*0.45)/690 = 0.4225.
    parts = (
        MassPart(name="empty", mass_kg=580, front_share=0.48, height_m=0.41),
        MassPart(name="driver", mass_kg=85, front_share=0.42, height_m=0.50),
        MassPart(name="fuel", mass_kg=25, front_share=0.30, height_m=0.45),
    )
    assert loaded(parts) == pytest.approx({"mass_kg": 690, "front_fraction": 0.46609, "cg_height_m": 0.42254}, rel=1e-4)
    # A load behind the rear axle takes weight off the front; without its height none is claimed.
    rack = MassPart(name="rack", mass_kg=40, front_share=-0.3)
    found = loaded((*parts, rack))
    assert found == pytest.approx({"mass_kg": 730, "front_fraction": (321.6 - 12) / 730})


@pytest.mark.parametrize(
    ("part", "path"),
    [
        (MassPart(name="x", mass_kg=-1, front_share=0.5), "masses[0].mass_kg"),
        (MassPart(name="x", mass_kg=1, front_share=3), "masses[0].front_share"),
        (MassPart(name="x", mass_kg=1, front_share=0.5, height_m=9), "masses[0].height_m"),
        (MassPart(name="x", mass_kg=1, front_share=1.5), "masses"),
        (MassPart(name="x", mass_kg=0, front_share=0.5), "masses"),
    ],
)
def test_loads_that_cannot_be_are_named(part: MassPart, path: str) -> None:
    with pytest.raises(FieldError) as caught:
        loaded((part,))
    assert caught.value.path == path
