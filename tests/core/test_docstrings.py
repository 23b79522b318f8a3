"""The docstring is the product: every public name of the core has one, its examples run, its units are named."""

from __future__ import annotations

import doctest
import importlib
import inspect
import pkgutil
import re
from types import ModuleType
from typing import Any

import pytest

import thermaxis.core

MODULES = [
    importlib.import_module(info.name)
    for info in pkgutil.walk_packages(thermaxis.core.__path__, "thermaxis.core.")
    if not info.ispkg
]
# A possessive is no second: "a rotor's wear".
UNIT = re.compile(
    r"(?<!['’])\b(degC|K|N|Pa|J|W|m|mm|m2|m3|s|kg|g|rad|months|events|percent|share|shares|0 to 1|0 to 100|rows?|record|records)\b"
)
QUANTITY = re.compile(r"_(C|K|N|Pa|J|W|mm|m|m2|s|kg|mps|mps2|months)$")


def public_functions(module: ModuleType) -> list[tuple[str, Any]]:
    """Functions defined in the module itself, compiled ones seen through to their Python source."""
    found = []
    for name, value in vars(module).items():
        plain = inspect.unwrap(getattr(value, "py_func", value)) if callable(value) else value
        if inspect.isfunction(plain) and plain.__module__ == module.__name__ and not name.startswith("_"):
            found.append((name, plain))
    return found


@pytest.mark.parametrize("module", MODULES, ids=lambda module: module.__name__.removeprefix("thermaxis.core."))
def test_every_public_function_is_explained(module: ModuleType) -> None:
    assert module.__doc__, module.__name__
    for name, function in public_functions(module):
        text = inspect.getdoc(function)
        assert text, f"{module.__name__}.{name}"
        assert text[0].isupper(), f"{module.__name__}.{name}"
        assert "." in text, f"{module.__name__}.{name}: a whole sentence"


@pytest.mark.parametrize("module", MODULES, ids=lambda module: module.__name__.removeprefix("thermaxis.core."))
def test_examples_run(module: ModuleType) -> None:
    finder, runner = doctest.DocTestFinder(), doctest.DocTestRunner(verbose=False)
    for _, function in public_functions(module):
        for example in finder.find(function, globs=vars(module) | {"__name__": module.__name__}):
            runner.run(example)
    assert runner.summarize(verbose=False).failed == 0


def test_physics_functions_that_return_one_number_name_its_unit() -> None:
    silent = []
    for module in MODULES:
        if not module.__name__.startswith("thermaxis.core.physics."):
            continue
        for name, function in public_functions(module):
            signature = inspect.signature(function)
            dimensionless = {"blend", "pressure_for_force", "next_step", "rear_pressure"}
            if signature.return_annotation == "float" and name not in dimensionless and not QUANTITY.search(name):
                # A letter of a formula or of an example is no unit.
                text = re.sub(r"`[^`]*`|>>>.*", "", inspect.getdoc(function) or "")
                if not UNIT.search(text) and "coefficient" not in text:
                    silent.append(f"{module.__name__}.{name}")
    assert silent == []
