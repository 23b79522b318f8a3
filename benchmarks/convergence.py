"""Errors and observed orders of the engine as steps and cells are refined: the tables of docs/physics.md."""

from __future__ import annotations

import dataclasses
import itertools
import math
from pathlib import Path

from thermaxis.core.physics.batch import DEFAULT_GRID, Grid
from thermaxis.core.physics.simulate import history, simulate_one
from thermaxis.core.records import Case, Stop, StopsDuty
from thermaxis.core.results import HISTORY_FIELDS
from thermaxis.formats.case_file import read_case

CASES = Path(__file__).parents[1] / "tests" / "cases"
FINE = Grid(
    cells=60,
    pad_cells=32,
    widening=1.08,
    first_step_s=0.005,
    braking_step_s=0.02,
    cooling_step_s=0.5,
    growth=1.2,
    braking_share=0.01,
)
SURFACE = HISTORY_FIELDS.index("front_surface_C")


def read(name: str) -> Case:
    """A public case by its name."""
    return read_case((CASES / f"{name}.case.json").read_text("utf-8"))


def even(step: float, cells: int = 12, widening: float | None = None) -> Grid:
    """A grid whose steps are all equal; plain cells where they widen by a factor, else ladders."""
    return Grid(
        cells=cells,
        pad_cells=12 if widening is None else 32,
        widening=widening,
        first_step_s=step,
        braking_step_s=step,
        cooling_step_s=step,
        growth=1.0,
        braking_share=0.0,
    )


def orders(errors: list[float]) -> str:
    """Observed order between each error and the one of half the size before it."""
    found = [math.log2(a / b) for a, b in itertools.pairwise(errors)]
    return ", ".join(f"{order:.2f}" for order in found)


def main() -> None:
    """Print the three tables."""
    case = read("roadster-single-stop")
    stop = Stop(from_mps=40.0, to_mps=10.0, decel_mps2=6.0, then_s=0.0, then_speed_mps=0.0)
    case = dataclasses.replace(case, duty=StopsDuty(kind="stops", stops=(stop,)))
    steps = [1.0, 0.5, 0.25, 0.125, 0.0625]
    truth = history(case, even(0.002))[-1, SURFACE]
    errors = [abs(history(case, even(step))[-1, SURFACE] - truth) for step in steps]
    shown = ", ".join(f"{step:g} s {error:.4f} K" for step, error in zip(steps, errors, strict=True))
    print("time, one stop, front face at its end:", shown)
    print("  observed order:", orders(errors))
    truth = history(case, even(0.02, 64, 1.1))[-1, SURFACE]
    cells = [3, 6, 12, 24]
    errors = [abs(history(case, even(0.02, count, 1.1))[-1, SURFACE] - truth) for count in cells]
    shown = ", ".join(f"{count} cells {error:.4f} K" for count, error in zip(cells, errors, strict=True))
    print("space, the same, plain cells of the ring:", shown)
    print("  observed order:", orders(errors))
    fitted = [3, 6, 12]
    errors = [abs(history(case, even(0.02, count))[-1, SURFACE] - truth) for count in fitted]
    shown = ", ".join(f"{count} cells {error:.4f} K" for count, error in zip(fitted, errors, strict=True))
    print("space, the same, ladders:", shown)
    print("the grid in use against 60 cells and steps a tenth as long, and against half its own steps and cells (K):")
    for path in sorted(CASES.glob("*.case.json")):
        one = read_case(path.read_text("utf-8"))
        used, fine, half = simulate_one(one), simulate_one(one, FINE), simulate_one(one, DEFAULT_GRID.halved())
        row = [
            f"{axle} {getattr(used, axle).peak_surface_C:.2f} "
            f"{getattr(used, axle).peak_surface_C - getattr(fine, axle).peak_surface_C:+.3f} "
            f"{getattr(half, axle).peak_surface_C - getattr(used, axle).peak_surface_C:+.3f}"
            for axle in ("front", "rear")
        ]
        print(f"  {path.name.removesuffix('.case.json'):22}", "  ".join(row))


if __name__ == "__main__":
    main()
