"""Makes the kept database of a version, once, when the version is: `python -m tests.data.make`.

Its workshop is the demo's, with two machines left of five so that it stays small.
"""

from __future__ import annotations

import datetime as dt
import gzip
import json
import os
import sqlite3
import subprocess
import sys
import tempfile
from pathlib import Path

HERE = Path(__file__).parent
KEPT_MACHINES = ("Kit roadster", "Middleweight twin")


def fill() -> None:
    """What somebody had done with it: a part measured, a set fitted, one taken back, a shortlist kept."""
    import django

    django.setup()
    from django.core.management import call_command

    from thermaxis.apps.accounts.scope import scope_of_owner
    from thermaxis.apps.choose.actions.decide import keep_decision
    from thermaxis.apps.choose.actions.fit_set import fit_set, undo_fit
    from thermaxis.apps.fitted.actions.correct import change_parts
    from thermaxis.apps.fitted.models import PadMounting, PadReading, PadSet, RotorMounting, RotorPair, RotorReading
    from thermaxis.apps.fitted.offering import choices_of
    from thermaxis.apps.fitted.standing import standing_of
    from thermaxis.apps.garage.models import Machine
    from thermaxis.apps.inspect.models import Inspection
    from thermaxis.apps.workshop.actions.load_demo import load_demo

    call_command("migrate", verbosity=0)
    today = dt.date.today()
    workshop = load_demo(today)
    scope = scope_of_owner(workshop)
    gone = Machine.objects.exclude(name__in=KEPT_MACHINES)
    for model in (Inspection, PadReading, RotorReading):
        field = "machine__in" if model is Inspection else "mounting__machine__in"
        model._base_manager.filter(**{field: gone}).delete()
    for mounting in (PadMounting, RotorMounting):
        mounting.objects.filter(machine__in=gone).delete()
    PadSet.objects.filter(mountings=None).delete()
    RotorPair.objects.filter(mountings=None).delete()
    gone.delete()
    roadster = Machine.objects.get(name="Kit roadster")
    change_parts(scope, roadster, {"front.rotor.thickness_m": 0.0193})
    on = standing_of(roadster).parts.key.split("-")
    for number, pad in enumerate(list(choices_of(standing_of(roadster)).pads["front"])[1:3]):
        fit_set(scope, roadster, "-".join([str(pad), *on[1:]]), on=today, content={}, title=f"Set {number}")
    undo_fit(scope, roadster)
    keep_decision(scope, roadster, {}, "For later", "a note with μ and °C")


def main() -> int:
    """Write the database as SQL, and what it says."""
    from thermaxis import __version__

    with tempfile.TemporaryDirectory() as place:
        environment = {**os.environ, "THERMAXIS_VAR": place, "DJANGO_SETTINGS_MODULE": "thermaxis.config.settings"}
        subprocess.run([sys.executable, "-c", "from tests.data.make import fill; fill()"], env=environment, check=True)
        said = subprocess.run(
            [sys.executable, "-m", "tests.data.told"], env=environment, check=True, capture_output=True, text=True
        ).stdout
        database = sqlite3.connect(Path(place) / "thermaxis.sqlite3")
        text = "\n".join(database.iterdump())
        database.close()
    (HERE / f"database-{__version__}.sql.gz").write_bytes(gzip.compress(text.encode("utf-8"), 9, mtime=0))
    (HERE / f"database-{__version__}.json").write_text(
        json.dumps(json.loads(said), indent=1, ensure_ascii=False) + "\n"
    )
    return 0


if __name__ == "__main__":
    sys.exit(main())
