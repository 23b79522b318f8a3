"""Independent: the public cases, solved by another solver on a fine grid, within the stated tolerances."""

from __future__ import annotations

from typing import Any

import pytest

from tests.cases_data import NAMES, expected, load
from thermaxis.core.physics.batch import DEFAULT_GRID
from thermaxis.core.physics.simulate import simulate as simulate_many
from thermaxis.core.physics.simulate import simulate_one
from thermaxis.formats.case_file import result_document

RELATIVE = {"wear": 0.03, "J": 0.005, "s": 0.005}
EXACT = 0.001  # torque, force, pressure, adhesion, shares


def tolerance(field: str, value: float, start_C: float) -> float:
    """Temperatures 1 % of the rise or 1.5 K; energies and times 0.5 %; wear 3 %; statics 0.1 %."""
    if field.endswith("_C"):
        return max(0.01 * abs(value - start_C), 1.5)
    share = 0.03 if "wear" in field else RELATIVE.get(field.rsplit("_", 1)[-1], EXACT)
    return share * abs(value)


def leaves(tree: Any, path: str = "") -> list[tuple[str, float]]:
    if isinstance(tree, dict):
        return [leaf for key, value in tree.items() for leaf in leaves(value, f"{path}.{key}")]
    if isinstance(tree, list):
        return [leaf for i, value in enumerate(tree) for leaf in leaves(value, f"{path}.{i}")]
    return [(path.lstrip("."), float(tree))]


def figures(document: dict[str, Any]) -> list[tuple[str, float]]:
    """The numbers of a result document, its sentences left out."""
    return leaves({key: value for key, value in document.items() if key not in ("warnings", "assumptions")})


@pytest.mark.parametrize("name", NAMES)
def test_public_case_is_matched_field_by_field(name: str) -> None:
    case = load(name)
    document = dict(figures(result_document(simulate_one(case))))
    wanted = leaves(expected(name))
    assert len(wanted) >= 25
    for path, value in wanted:
        allowed = tolerance(path, value, case.environment.air_C)
        assert document[path] == pytest.approx(value, abs=allowed), path


@pytest.mark.parametrize("name", NAMES)
def test_half_the_step_changes_peaks_by_less_than_half_a_kelvin(name: str) -> None:
    case = load(name)
    coarse, fine = simulate_one(case), simulate_one(case, DEFAULT_GRID.halved())
    for axle in ("front", "rear"):
        for field in ("peak_surface_C", "peak_bulk_C", "end_bulk_C", "peak_pad_C", "peak_fluid_C"):
            assert getattr(getattr(fine, axle), field) == pytest.approx(getattr(getattr(coarse, axle), field), abs=0.5)


@pytest.mark.parametrize("name", NAMES)
def test_a_batch_of_one_equals_a_batch_of_many(name: str) -> None:
    case = load(name)
    alone = figures(result_document(simulate_one(case)))
    for result in simulate_many([case] * 5):
        assert figures(result_document(result)) == alone
