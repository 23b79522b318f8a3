"""The command line: `thermaxis solve`."""

from __future__ import annotations

import argparse
import csv
import json
import sys
from collections.abc import Sequence
from pathlib import Path

from thermaxis import __version__
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.simulate import history, simulate_one
from thermaxis.core.records import Case
from thermaxis.core.results import HISTORY_FIELDS
from thermaxis.formats.case_file import read_case, result_document


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the command line; return the exit status (0 solved, 2 a file or argument is wrong)."""
    parser = argparse.ArgumentParser(prog="thermaxis", description="Brake heat, fade and wear from a case file.")
    parser.add_argument("--version", action="version", version=f"thermaxis {__version__}")
    commands = parser.add_subparsers(dest="command", required=True)
    solve = commands.add_parser("solve", help="solve case files, one JSON document per line")
    solve.add_argument("files", nargs="+", type=Path, metavar="FILE.case.json")
    solve.add_argument("--trace", type=Path, metavar="OUT.csv", help="write the time history too (one case only)")
    options = parser.parse_args(arguments)
    return _solve(options.files, options.trace)


def _solve(files: list[Path], trace: Path | None) -> int:
    if trace is not None and len(files) > 1:
        return _complain(f"--trace takes one case file, {len(files)} were given")
    # Every file is read before any is solved: a broken one must not leave half an answer behind.
    cases = []
    for file in files:
        try:
            cases.append(read_case(file.read_text("utf-8")))
        except FieldError as error:
            return _complain(f"{file}: {error}")
        except (OSError, UnicodeDecodeError) as error:
            return _complain(f"{file}: cannot be read: {error}")
    for case in cases:
        print(json.dumps(result_document(simulate_one(case))))
    if trace is not None:
        try:
            _write_trace(cases[0], trace)
        except OSError as error:
            return _complain(f"{trace}: cannot be written: {error}")
    return 0


def _write_trace(case: Case, path: Path) -> None:
    with path.open("w", newline="", encoding="utf-8") as file:
        writer = csv.writer(file)
        writer.writerow(HISTORY_FIELDS)
        writer.writerows([f"{value:.6g}" for value in row] for row in history(case).tolist())


def _complain(text: str) -> int:
    print(text, file=sys.stderr)
    return 2


if __name__ == "__main__":
    sys.exit(main())
