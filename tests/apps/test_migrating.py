"""Migrations only go forward: nothing is missing among them, and a database of 0.2.0 still arrives here whole."""

from __future__ import annotations

import gzip
import importlib
import json
import os
import sqlite3
import subprocess
import sys
from pathlib import Path

import pytest
from django.core.management import call_command

from thermaxis.apps.safekeeping.database import differing_in, is_behind
from thermaxis.config.older import is_older, move_aside
from thermaxis.core.planning.duty.calibrate import BACKING_PRIOR, AxleFit

ROOT = Path(__file__).parents[2]
# Made by `python -m tests.data.make` with 0.2.0: two machines, what was on them, an inspection, a decision. Never again.
KEPT = ROOT / "tests" / "data" / "database-0.2.0.sql.gz"
EXPECTED = json.loads((ROOT / "tests" / "data" / "database-0.2.0.json").read_text("utf-8"))


@pytest.mark.django_db
def test_no_migration_is_missing() -> None:
    call_command("makemigrations", check=True, dry_run=True, verbosity=0)


def test_a_database_of_0_2_0_is_brought_here_and_says_the_same(tmp_path: Path) -> None:
    database = sqlite3.connect(tmp_path / "thermaxis.sqlite3")
    database.executescript(gzip.decompress(KEPT.read_bytes()).decode("utf-8"))
    database.close()
    environment = {**os.environ, "THERMAXIS_VAR": str(tmp_path), "DJANGO_SETTINGS_MODULE": "thermaxis.config.settings"}

    def run(*arguments: str) -> str:
        done = subprocess.run(
            [sys.executable, *arguments], cwd=ROOT, env=environment, capture_output=True, text=True, timeout=600
        )
        assert done.returncode == 0, done.stderr
        return done.stdout

    run("manage.py", "migrate", "--verbosity", "0")
    found = json.loads(run("-m", "tests.data.told"))
    assert found == EXPECTED
    # Whichever way it came, it is a database like a new one, and nothing is before it.
    assert differing_in(tmp_path / "thermaxis.sqlite3") == []
    assert not is_behind(tmp_path / "thermaxis.sqlite3")
    # What edition 2 asks for and nobody has said is there, marked as an estimate.
    with sqlite3.connect(tmp_path / "thermaxis.sqlite3") as database:
        rows = database.execute("SELECT kind, anti_lock, trailer_mass_kg, estimates FROM garage_machine").fetchall()
        duties = database.execute("SELECT shape, then_s FROM garage_duty").fetchall()
    assert rows
    for kind, _, trailer, estimates in rows:
        assert ("vehicle.anti_lock" in json.loads(estimates)) == (kind != "motorcycle")
        assert ("trailer.hitch_overhang_m" in json.loads(estimates)) == (trailer is not None)
    assert all(then_s > 0 for shape, then_s in duties if json.loads(shape)["kind"] in ("stops", "week"))


def test_an_older_calibration_keeps_what_it_found_of_the_cooling() -> None:
    to_backing = importlib.import_module("thermaxis.apps.safekeeping.older.fitted.0003_backing_fitted").to_backing
    old = {"cooling": 1.3, "cooling_sigma": 0.05, "pad_heat": 0.9, "pad_heat_sigma": 0.14, "correlation": -0.2}
    fit = AxleFit(**to_backing(old))
    assert (fit.cooling, fit.cooling_sigma, fit.backing) == (1.3, 0.05, 1.0)
    assert fit.backing_sigma == BACKING_PRIOR
    assert to_backing(None) is None


def test_an_unreleased_database_is_moved_aside_and_kept(tmp_path: Path) -> None:
    path = tmp_path / "thermaxis.sqlite3"
    assert move_aside(path) is None
    with sqlite3.connect(path) as database:
        database.execute("CREATE TABLE django_migrations (app TEXT)")
        database.execute("INSERT INTO django_migrations VALUES ('accounts')")
    assert not is_older(path)
    with sqlite3.connect(path) as database:
        database.execute("INSERT INTO django_migrations VALUES ('work')")
    database.close()
    (tmp_path / "thermaxis.sqlite3-wal").touch()
    first = move_aside(path)
    assert first is not None
    assert first.exists()
    assert first.with_name(first.name + "-wal").exists()
    assert not path.exists()
    path.write_bytes(b"no database at all")
    assert move_aside(path) is None
    path.write_bytes(first.read_bytes())
    assert move_aside(path) not in (None, first)
