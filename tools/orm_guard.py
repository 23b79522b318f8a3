"""No key of a request reaches the ORM: refuse `**mapping` and `*names` in calls that make lookups or columns of names.

A keyword of `filter` is a path through the whole database (`workshop__members__password__regex`), so a mapping that
comes from outside must never be unpacked into one. Allowed is what can be read at the call itself: keywords spelled
out, and `**{name: ... for name in CONSTANT}` over a constant in capitals. Run by `make lint`.
"""

from __future__ import annotations

import ast
import sys
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).parents[1]
ROOMS = ("src/thermaxis/apps", "src/thermaxis/api", "src/thermaxis/config")
# Reads the package's own demo data and nothing else.
EXEMPT = ("apps/workshop/actions/load_demo.py",)
LOOKUPS = frozenset(
    {
        "filter",
        "exclude",
        "get",
        "get_or_create",
        "update",
        "update_or_create",
        "create",
        "aggregate",
        "annotate",
        "alias",
        "complex_filter",
        "Q",
        "get_object_or_404",
        "get_list_or_404",
        "earliest",
        "latest",
    }
)
NAMES = frozenset(
    {"order_by", "values", "values_list", "only", "defer", "distinct", "dates", "extra", "raw", "select_related"}
)


def faults(source: str) -> Iterator[tuple[int, str]]:
    """Line and words of every call in a module that unpacks names nobody can read there."""
    tree = ast.parse(source)
    models = set(_imported_models(tree))
    for node in ast.walk(tree):
        if not isinstance(node, ast.Call):
            continue
        name = node.func.attr if isinstance(node.func, ast.Attribute) else getattr(node.func, "id", "")
        row = name in models or (isinstance(node.func, ast.Attribute) and _is_models(node.func.value))
        if name in LOOKUPS or row:
            for keyword in node.keywords:
                if keyword.arg is None and not _over_constant(keyword.value):
                    yield node.lineno, f"{name}(**{ast.unparse(keyword.value)})"
        if name in NAMES:
            for argument in node.args:
                if isinstance(argument, ast.Starred) and not _readable(argument.value):
                    yield node.lineno, f"{name}(*{ast.unparse(argument.value)})"


def _imported_models(tree: ast.Module) -> Iterator[str]:
    for node in ast.walk(tree):
        if isinstance(node, ast.ImportFrom) and (node.module or "").endswith(".models"):
            yield from (alias.asname or alias.name for alias in node.names)


def _is_models(value: ast.expr) -> bool:
    return isinstance(value, ast.Name) and value.id == "models"


def _over_constant(value: ast.expr) -> bool:
    """Whether a mapping's keys can be read where it is unpacked: spelled out, or over a constant in capitals."""
    if isinstance(value, ast.Dict):
        return all(isinstance(key, ast.Constant) for key in value.keys)
    if not isinstance(value, ast.DictComp) or len(value.generators) != 1 or not isinstance(value.key, ast.Name):
        return False
    return _constant(value.generators[0].iter)


def _constant(value: ast.expr) -> bool:
    name = value.attr if isinstance(value, ast.Attribute) else getattr(value, "id", "")
    return bool(name) and name.isupper()


def _readable(value: ast.expr) -> bool:
    """Whether names are a constant in capitals, or made of one and of text."""
    if isinstance(value, ast.GeneratorExp) and len(value.generators) == 1:
        return _constant(value.generators[0].iter)
    return _constant(value)


def main() -> int:
    """Print every fault as file:line; 1 where there is one."""
    found = 0
    for room in ROOMS:
        for path in sorted((ROOT / room).rglob("*.py")):
            if {"migrations", "older"} & set(path.parts) or path.as_posix().endswith(EXEMPT):
                continue
            for line, words in faults(path.read_text("utf-8")):
                print(f"{path.relative_to(ROOT)}:{line}: {words}: spell the columns out")
                found += 1
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main())
