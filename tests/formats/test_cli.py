"""`thermaxis solve` as a person runs it."""

from __future__ import annotations

import csv
import json
import subprocess
import sys
from pathlib import Path

import pytest

from tests.cases_data import FOLDER, NAMES, expected
from thermaxis.cli import main
from thermaxis.core.results import HISTORY_FIELDS

FILES = [str(FOLDER / f"{name}.case.json") for name in NAMES]


def test_one_document_per_line_in_the_order_of_the_files(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["solve", *FILES]) == 0
    lines = capsys.readouterr().out.splitlines()
    assert len(lines) == len(FILES)
    for name, line in zip(NAMES, lines, strict=True):
        peak = json.loads(line)["front"]["peak_surface_C"]
        assert peak == pytest.approx(expected(name)["front"]["peak_surface_C"], rel=0.01)


def test_trace_is_the_history_with_its_peak(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    out = tmp_path / "trace.csv"
    assert main(["solve", FILES[0], "--trace", str(out)]) == 0
    document = json.loads(capsys.readouterr().out)
    rows = list(csv.DictReader(out.read_text("utf-8").splitlines()))
    assert tuple(rows[0]) == HISTORY_FIELDS
    assert float(rows[-1]["t_s"]) == pytest.approx(document["duration_s"], rel=1e-5)
    assert max(float(row["front_fluid_C"]) for row in rows) == pytest.approx(
        document["front"]["peak_fluid_C"], abs=0.01
    )


def test_a_broken_file_exits_2_with_one_line_and_solves_nothing(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    bad = tmp_path / "bad.case.json"
    bad.write_text(Path(FILES[0]).read_text("utf-8").replace('"mass_kg": 2480', '"mass_kg": -1'), "utf-8")
    assert main(["solve", FILES[0], str(bad)]) == 2
    captured = capsys.readouterr()
    assert captured.out == ""
    assert captured.err.count("\n") == 1
    assert "'vehicle.mass_kg' must be a number > 0 and <= 60000: -1.0" in captured.err


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (["solve", "nowhere.case.json"], "cannot be read"),
        (["solve", *FILES[:2], "--trace", "x.csv"], "--trace takes one case file"),
        (["solve", FILES[0], "--trace", "/nowhere/x.csv"], "cannot be written"),
    ],
)
def test_other_mistakes_exit_2_too(arguments: list[str], said: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(arguments) == 2
    assert said in capsys.readouterr().err


def test_the_installed_command_runs() -> None:
    command = Path(sys.executable).with_name("thermaxis")
    done = subprocess.run([command, "solve", FILES[2]], capture_output=True, text=True, check=True)
    assert json.loads(done.stdout)["statics"]["decel_g"] == pytest.approx(2.32394446700547, rel=1e-9)
