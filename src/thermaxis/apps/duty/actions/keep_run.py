"""Keep a recorded run and the duty made of it."""

from __future__ import annotations

import dataclasses
import zlib
from collections.abc import Sequence

from thermaxis.apps.accounts.models import Reach
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.duty.recorded import read_recorded, summary_of
from thermaxis.apps.garage.actions.save_duty import save_duty
from thermaxis.apps.garage.models import Duty, RecordedRun, RunFile
from thermaxis.apps.garage.shapes import Plan, Recorded
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import DRIVERS, Action
from thermaxis.core.physics.batch import Watch
from thermaxis.formats.speed_log import Use

KEEP_RUN = Action("keep_run", "Recorded run kept", kind="duty", roles=DRIVERS, keys=Reach.READINGS)


def keep_run(
    scope: Scope,
    name: str,
    file_name: str,
    content: bytes,
    uses: Sequence[Use],
    smoothing: str,
    watch: Watch | None = None,
) -> Duty:
    """Keep the file as it came, what was made of it, and a duty that drives it; all or none."""
    read = read_recorded(content, uses, smoothing, None, watch)
    trace = read.cleaned.duty
    summary = summary_of(read)
    with act(scope, KEEP_RUN) as entry:
        run = RecordedRun.objects.create(
            workshop=scope.workshop,
            name=name,
            file_name=file_name[:120],
            uses=[dataclasses.asdict(use) for use in uses],
            smoothing=read.cleaned.smoothing,
            summary=summary,
            trace={"t_s": trace.t_s, "v_mps": trace.v_mps, "grade": trace.grade},
        )
        RunFile.objects.create(run=run, content=zlib.compress(content))
        plan = Plan(shape=Recorded(trace=trace), event_km=max(0.1, round(summary["distance_m"] / 1000.0, 2)))
        words = {"name": name, "use": "track", "note": f"recorded: {file_name}"[:240], "events_per_month": 1.0}
        entry.about(run)
        return save_duty(scope, None, plan, words, circuit=None, run=run, parts=[])
