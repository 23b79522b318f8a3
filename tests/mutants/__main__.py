"""`make mutants`: plant each fault in a copy, one at a time, run the tests nearest to it, and name those that pass."""

from __future__ import annotations

import argparse
import datetime as dt
import os
import shlex
import shutil
import subprocess
import sys
import tempfile
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from queue import SimpleQueue

from tests.mutants.planted import FAULTS, Fault
from tests.template import template

ROOT = Path(__file__).parents[2]
COPIED = ("src", "tests", "docs", "tools", "pyproject.toml", "openapi.json", "manage.py")
MOST_SURVIVORS = 2
FAILED = 1


def copy_of(place: Path) -> Path:
    """The project, compiled engine included, where a fault may be planted."""
    for name in COPIED:
        source = ROOT / name
        if source.is_dir():
            shutil.copytree(source, place / name)
        else:
            shutil.copy2(source, place / name)
    (place / "web").symlink_to(ROOT / "web")
    return place


def run(place: Path, tests: str) -> subprocess.CompletedProcess[str]:
    """Run tests in a copy, until the first fails."""
    environment = {**os.environ, "PYTHONPATH": str(place / "src")}
    command = [sys.executable, "-m", "pytest", "-x", "-q", "--no-header", *shlex.split(tests)]
    return subprocess.run(command, cwd=place, env=environment, capture_output=True, text=True, check=False)


def is_found(place: Path, fault: Fault) -> tuple[bool, str]:
    """Whether the tests nearest to a fault fail with it, and what they said; ValueError where it cannot be planted."""
    path = place / "src" / "thermaxis" / fault.file
    sound = path.read_text("utf-8")
    if sound.count(fault.good) != 1:
        raise ValueError(f"{fault.name}: stands {sound.count(fault.good)} times in {fault.file}: {fault.good}")
    path.write_text(sound.replace(fault.good, fault.bad), "utf-8")
    try:
        done = run(place, fault.tests)
    finally:
        path.write_text(sound, "utf-8")
    said = (done.stdout + done.stderr).strip().splitlines()
    if done.returncode not in (0, FAILED):
        raise ValueError(f"{fault.name}: the tests could not be run: {said[-1:]}")
    named = [line for line in said if line.startswith(("FAILED", "ERROR"))]
    return done.returncode == FAILED, (named or said)[-1][:140]


def main() -> int:
    """Plant those whose name has a word, or all; 1 where more survive than may, or sound code fails."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("word", nargs="?", default="")
    word = parser.parse_args().word
    chosen = [fault for fault in FAULTS if word in fault.name]
    with tempfile.TemporaryDirectory() as folder:
        # Made of sound code, once: a copy must not make its own for each fault, and other code may be tested meanwhile.
        made = template("demo", dt.date.today())
        shutil.copytree(made.parent, Path(folder) / "templates")
        os.environ["THERMAXIS_TEMPLATES"] = str(Path(folder) / "templates")
        os.environ["THERMAXIS_TEMPLATE_CODE"] = made.stem.rpartition("-")[2]
        places: SimpleQueue[Path] = SimpleQueue()
        for number in range(os.cpu_count() or 1):
            places.put(copy_of(Path(folder) / str(number)))
        began = time.monotonic()

        def sound(tests: str) -> bool:
            place = places.get()
            done = run(place, tests)
            places.put(place)
            if done.returncode != 0:
                print(f"fails without a fault: {tests}\n{done.stdout[-2000:]}")
            return done.returncode == 0

        def plant(fault: Fault) -> bool:
            place = places.get()
            try:
                found, said = is_found(place, fault)
            finally:
                places.put(place)
            print(f"{'found   ' if found else 'SURVIVED'}  {fault.name}: {said}", flush=True)
            return found

        with ThreadPoolExecutor(places.qsize()) as pool:
            if not all(list(pool.map(sound, dict.fromkeys(fault.tests for fault in chosen)))):
                return 1
            found = list(pool.map(plant, chosen))
    survivors = [fault.name for fault, is_dead in zip(chosen, found, strict=True) if not is_dead]
    print(f"{len(chosen)} faults, {len(survivors)} survived, {time.monotonic() - began:.0f} s: {', '.join(survivors)}")
    return 1 if len(survivors) > MOST_SURVIVORS else 0


if __name__ == "__main__":
    sys.exit(main())
