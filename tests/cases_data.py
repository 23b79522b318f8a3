"""The public cases and how far a result may be from what the independent fine-grid solver gives."""

from __future__ import annotations

import dataclasses
import json
from pathlib import Path
from typing import Any

from thermaxis.core.physics.warm_up import small_case
from thermaxis.core.records import Case
from thermaxis.formats.case_file import read_case

FOLDER = Path(__file__).parent / "cases"
NAMES = sorted(path.name.removesuffix(".case.json") for path in FOLDER.glob("*.case.json"))


def case_text(name: str) -> str:
    return (FOLDER / f"{name}.case.json").read_text("utf-8")


def load(name: str) -> Case:
    return read_case(case_text(name))


def expected(name: str) -> dict[str, Any]:
    data: dict[str, Any] = json.loads((FOLDER / f"{name}.expected.json").read_text("utf-8"))
    return data


def changed(case: Case, **changes: Any) -> Case:
    """The case with fields replaced by their paths, `__` for the dot: `front__pad__mu=...`."""
    for path, value in changes.items():
        case = _set(case, path.split("__"), value)
    return case


def _set(record: Any, path: list[str], value: Any) -> Any:
    head, *rest = path
    inner = _set(getattr(record, head), rest, value) if rest else value
    return dataclasses.replace(record, **{head: inner})


def plain_case(**changes: Any) -> Case:
    """A small car with constant friction, so that hand calculations stay short."""
    return changed(small_case(), front__pad__mu=((0.0, 0.4),), rear__pad__mu=((0.0, 0.4),), **changes)
