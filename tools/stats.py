"""Lines of code (blank lines and comment lines not counted) and the share of tests."""

from __future__ import annotations

import subprocess
from pathlib import Path

ENDINGS = {".py": "#", ".ts": "//", ".tsx": "//", ".css": "/*"}
GENERATED = ("/migrations/", "/safekeeping/older/", "schema.d.ts")


def is_test(path: str) -> bool:
    """Whether a file is part of the tests."""
    return path.startswith("tests/") or ".test." in path


def count(path: str) -> int:
    """Lines of a file that are neither blank nor only a comment."""
    mark = ENDINGS[Path(path).suffix]
    lines = (line.strip() for line in Path(path).read_text("utf-8").splitlines())
    return sum(1 for line in lines if line and not line.startswith(mark))


def main() -> None:
    """Print lines per part, the share of tests, and the longest files."""
    listed = subprocess.run(
        ["git", "ls-files", "-co", "--exclude-standard"], capture_output=True, text=True, check=True
    )
    paths = [
        path
        for path in listed.stdout.split()
        if Path(path).suffix in ENDINGS and not any(part in path for part in GENERATED) and Path(path).exists()
    ]
    code = {path: count(path) for path in paths}
    tests = sum(lines for path, lines in code.items() if is_test(path))
    total = sum(code.values())
    for name in ("src/thermaxis/core", "src/thermaxis", "web/src", "tests", "benchmarks"):
        print(f"{name:20} {sum(lines for path, lines in code.items() if path.startswith(name + '/')):6}")
    print(f"{'all':20} {total:6}\ntests are {100 * tests / total:.1f} % of it")
    for path in sorted(paths, key=lambda entry: -len(Path(entry).read_text("utf-8").splitlines()))[:3]:
        print(f"longest: {len(Path(path).read_text('utf-8').splitlines())} lines in {path}")


if __name__ == "__main__":
    main()
