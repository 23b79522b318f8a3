"""What one runs before each commit: style, types, and the tests nearest to what changed since the last commit.

Nearest: the changed tests themselves, tests that import a changed module or one that imports it, the API's tests of a
changed room. The whole is `make test`.
"""

from __future__ import annotations

import ast
import subprocess
import sys
import time
from collections.abc import Sequence
from pathlib import Path

import grimp

ROOT = Path(__file__).parents[1]
SRC, WEB = "src/thermaxis/", "web/src/"
# The API is asked by addresses: no import tells which of its tests ask a room.
OF_ROOM = {
    "accounts": ("signing_in", "people"),
    "log": ("log", "who_may"),
    "catalogue": ("catalogue",),
    "garage": ("machines", "duties"),
    "fitted": ("fit", "endpoints"),
    "season": ("season", "calendar"),
    "solving": ("choosing", "estimates"),
    "machine": ("machines",),
    "duty": ("duties",),
    "inspect": ("inspections",),
    "choose": ("choosing", "decisions"),
    "fit": ("fit",),
    "job": ("jobs", "job_closing"),
    "bed": ("bedding",),
    "life": ("season",),
    "logbook": ("log",),
    "workshop": ("planner", "held"),
    "people": ("people",),
    "safekeeping": ("safekeeping",),
}
ALWAYS = ("tests/test_house.py", "tests/api/test_who_may.py")


def changed() -> list[str]:
    """Files that differ from the last commit, new ones included."""
    said = [
        subprocess.run(["git", *command], cwd=ROOT, capture_output=True, text=True, check=True).stdout.splitlines()
        for command in (["diff", "--name-only", "HEAD"], ["ls-files", "--others", "--exclude-standard"])
    ]
    return [name for name in dict.fromkeys([*said[0], *said[1]]) if (ROOT / name).is_file()]


def module_of(path: str) -> str:
    """A file of ours as a module."""
    return path.removeprefix("src/").removesuffix(".py").replace("/", ".").removesuffix(".__init__")


def near(modules: Sequence[str]) -> set[str]:
    """Changed modules, and those that import one of them."""
    graph = grimp.build_graph("thermaxis", cache_dir=None)
    there = [module for module in modules if module in graph.modules]
    return {*there, *(user for module in there for user in graph.find_modules_that_directly_import(module))}


def imported_by(test: Path) -> set[str]:
    """Modules of ours a test imports, names taken from a package among them."""
    found = set()
    for node in ast.walk(ast.parse(test.read_text("utf-8"))):
        if isinstance(node, ast.ImportFrom) and node.module:
            found |= {node.module, *(f"{node.module}.{entry.name}" for entry in node.names)}
        elif isinstance(node, ast.Import):
            found |= {entry.name for entry in node.names}
    return found


def tests_of(files: Sequence[str]) -> list[str]:
    """The tests nearest to changed files, without those in a browser."""
    python = [name for name in files if name.startswith(SRC) and name.endswith(".py")]
    found = {name for name in files if name.startswith("tests/") and Path(name).name.startswith("test_")}
    if python:
        close = near([module_of(name) for name in python])
        found |= {
            test.relative_to(ROOT).as_posix()
            for test in (ROOT / "tests").rglob("test_*.py")
            if close & imported_by(test)
        }
        rooms = {name.split("/")[3] for name in python if name.startswith(f"{SRC}apps/")}
        found |= {f"tests/api/test_{name}.py" for room in rooms for name in OF_ROOM.get(room, ())}
        found |= set(ALWAYS)
    return sorted(name for name in found if "/browser/" not in name and "/attack/" not in name)


def main() -> int:
    """Run what is nearest, in order, until something fails."""
    began, files = time.monotonic(), changed()
    python = [name for name in files if name.endswith(".py")]
    page = [name for name in files if name.startswith(WEB) and name.endswith((".ts", ".tsx"))]
    bin_ = ROOT / ".venv" / "bin"
    steps: list[tuple[list[str], Path]] = [([sys.executable, "tools/prose.py"], ROOT)]
    if python:
        steps += [
            ([str(bin_ / "ruff"), "check", *python], ROOT),
            ([str(bin_ / "ruff"), "format", "--check", *python], ROOT),
        ]
        steps += [([str(bin_ / "mypy")], ROOT), ([str(bin_ / "lint-imports")], ROOT)]
    if page:
        names = [name.removeprefix("web/") for name in page]
        steps += [(["npx", "biome", "check", *names], ROOT / "web"), (["npx", "tsc", "--noEmit"], ROOT / "web")]
        steps += [(["npx", "vitest", "related", "--run", *names], ROOT / "web")]
    tests = tests_of(files)
    if tests:
        print("\n".join(tests))
        steps += [([sys.executable, "-m", "pytest", "-q", "-x", "-n", "2", *tests], ROOT)]
    for command, place in steps:
        if subprocess.run(command, cwd=place, check=False).returncode != 0:
            return 1
    print(f"{len(files)} changed files, {len(tests)} test files, {time.monotonic() - began:.0f} s")
    return 0


if __name__ == "__main__":
    sys.exit(main())
