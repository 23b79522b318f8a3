"""The demo's bedding: a plan half driven, one proved by a log, one overheated; by the same actions as anybody's."""

from __future__ import annotations

import datetime as dt
from typing import Any

import numpy as np

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.bed.actions.keep_plan import keep_plan
from thermaxis.apps.bed.actions.results import keep_proof, look_at_ring
from thermaxis.apps.bed.actions.run import Said, say_run, start_run
from thermaxis.apps.bed.models import BeddingRun
from thermaxis.apps.bed.running import pyrometer_of
from thermaxis.apps.fitted.models import BeddingResult
from thermaxis.apps.garage.models import Machine, RecordedRun
from thermaxis.apps.solving.bedding import rows_from
from thermaxis.core.planning.bedding.run import Event
from thermaxis.core.planning.bedding.series import duty_of
from thermaxis.core.planning.bedding.setting import Road
from thermaxis.core.planning.duty.duties import as_trace
from thermaxis.core.planning.duty.recorded import Handling, Recording, clean

# The stand-in car of the demo, and the noise of its logger.
SEED, LOGGER_HZ, LOGGER_NOISE_MPS = 690, 10.0, 0.15
READ_AFTER_S, BROKEN_OFF_S = 18.0, 1200.0


def load_bedding(machine: Machine, scope: Scope, row: dict[str, Any], today: dt.date) -> None:
    """What the demo says of a machine's bedding."""
    if "run" in row:
        _half_driven(machine, scope, row["run"])
    if "log" in row:
        _logged(machine, scope, row["log"], today)
    for look in row.get("looks", []):
        look_at_ring(scope, machine, look["axle"], look["look"], today - dt.timedelta(days=look["days"]))


def _half_driven(machine: Machine, scope: Scope, row: dict[str, Any]) -> None:
    """A run as far as it went, each braking as planned, with a reading of the stand-in car."""
    road = Road(top_speed_mps=row["top_speed_kmh"] / 3.6, hard_g=row["hard_g"])
    record = keep_plan(scope, machine, row["school"], road)
    run = start_run(scope, record, "demo")
    BeddingRun.objects.filter(pk=run.pk).update(seed=SEED)
    run.refresh_from_db()
    # It was broken off some time ago.
    lasted = sum(step["item"]["time_s"] for step in record.plan["steps"][: row["done"]])
    BeddingRun.objects.filter(pk=run.pk).update(started_at=run.started_at - dt.timedelta(seconds=lasted + BROKEN_OFF_S))
    at = 0.0
    for place, step in enumerate(record.plan["steps"][: row["done"]]):
        at += step["item"]["time_s"]
        done = at - step["item"]["then_s"]
        say_run(scope, run, [Said(token=f"demo-{place}", event=Event(kind="done", at_s=done))])
        if place + 1 in row["read_after"]:
            speed = step["item"]["then_mps"]
            value = pyrometer_of(run).read_C("front", READ_AFTER_S, speed)
            reading = Event(
                kind="reading", at_s=done + READ_AFTER_S, value_C=value, since_s=READ_AFTER_S, moving_mps=speed
            )
            say_run(scope, run, [Said(token=f"demo-{place}-read", event=reading)])


def _logged(machine: Machine, scope: Scope, row: dict[str, Any], today: dt.date) -> None:
    """A bedding drive as a logger saw it, kept as what bedded these pads in the day after they were put on."""
    road = Road(top_speed_mps=row["top_speed_kmh"] / 3.6, hard_g=row["hard_g"])
    record = keep_plan(scope, machine, row["school"], road)
    drive = as_trace(duty_of(rows_from(record.plan["rows"])))
    t = np.arange(0.0, drive.t_s[-1], 1.0 / LOGGER_HZ)
    noise = np.random.default_rng(SEED).normal(0.0, LOGGER_NOISE_MPS, len(t))
    v = np.clip(np.interp(t, drive.t_s, drive.v_mps) + noise, 0.0, None)
    cleaned = clean(Recording(t_s=t, v_mps=v), Handling())
    run = RecordedRun.objects.create(
        workshop=scope.workshop,
        name=row["name"],
        smoothing=cleaned.smoothing,
        summary={"distance_m": cleaned.distance_m},
        trace={"t_s": list(cleaned.duty.t_s), "v_mps": list(cleaned.duty.v_mps), "grade": None},
    )
    on = today - dt.timedelta(days=row["days"])
    keep_proof(scope, machine, run, on)
    BeddingResult.objects.filter(machine=machine, source="log").update(odometer_km=row["km"])
    record.done_on = on
    record.save(update_fields=["done_on"])
