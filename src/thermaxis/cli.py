"""The command line of the core: `thermaxis solve`. `config/commands.py` adds what keeps the server."""

from __future__ import annotations

import argparse
import csv
import json
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

from thermaxis import __version__
from thermaxis.core.errors import FieldError

if TYPE_CHECKING:
    from thermaxis.core.records import Case


def main(arguments: Sequence[str] | None = None) -> int:
    """Run `thermaxis solve` alone; return the exit status (0 solved, 2 a file or argument is wrong)."""
    parser, _ = parsers()
    options = parser.parse_args(arguments)
    return run(options)


def parsers() -> tuple[argparse.ArgumentParser, Any]:
    """The command line's parser with `solve` in it, and where others put theirs."""
    parser = argparse.ArgumentParser(
        prog="thermaxis", description="Brake heat, fade and wear, and what keeps the server."
    )
    parser.add_argument("--version", action="version", version=f"thermaxis {__version__}")
    commands = parser.add_subparsers(dest="command", required=True)
    solve = commands.add_parser("solve", help="solve case files, one JSON document per line")
    solve.add_argument("files", nargs="+", type=Path, metavar="FILE.case.json")
    solve.add_argument("--trace", type=Path, metavar="OUT.csv", help="write the time history too (one case only)")
    return parser, commands


def run(options: argparse.Namespace) -> int:
    """What `solve` was asked for."""
    return _solve(options.files, options.trace)


def _solve(files: list[Path], trace: Path | None) -> int:
    # The engine takes seconds to load: whoever makes a backup does not wait for it.
    from thermaxis.core.physics.simulate import simulate_one
    from thermaxis.formats.case_file import read_case, result_document

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
    from thermaxis.core.physics.simulate import history
    from thermaxis.core.results import HISTORY_FIELDS

    with path.open("w", newline="", encoding="utf-8") as file:
        writer = csv.writer(file)
        writer.writerow(HISTORY_FIELDS)
        writer.writerows([f"{value:.6g}" for value in row] for row in history(case).tolist())


def _complain(text: str) -> int:
    print(text, file=sys.stderr)
    return 2


if __name__ == "__main__":
    sys.exit(main())
