"""Recorded runs: from the bytes of a file to a duty, and what it would do to a machine; nothing here writes."""

from __future__ import annotations

import zlib
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from thermaxis.apps.fitted.standing import standing_or_none
from thermaxis.apps.garage import duty_mapping as duties
from thermaxis.apps.garage.models import Duty, Machine, RecordedRun, RunFile
from thermaxis.apps.solving.in_force import case_now
from thermaxis.apps.solving.mapping import CaseBuilder
from thermaxis.apps.solving.solver import solve
from thermaxis.core.physics.batch import Watch
from thermaxis.core.planning.duty.duties import as_trace
from thermaxis.core.planning.duty.recorded import Cleaned, Handling, clean
from thermaxis.core.results import Result
from thermaxis.devices.run_logger import Delivery, LoggerSettings, StandInLogger
from thermaxis.formats.run_file import Run, read_run
from thermaxis.formats.speed_log import Use
from thermaxis.formats.text import decode

# What was kept when files could be larger is still read.
MOST_KEPT_BYTES = 100_000_000


@dataclass(frozen=True, kw_only=True)
class Read:
    """A run as it was read and cleaned, and the machine's result on it where a machine was named."""

    run: Run
    cleaned: Cleaned
    result: Result | None


def read_recorded(
    content: bytes, uses: Sequence[Use], smoothing: str, machine: Machine | None, watch: Watch | None = None
) -> Read:
    """Read and clean a file, and drive it with the machine's fitted set."""
    run = read_run(decode(content), uses, watch)
    if watch is not None:
        watch(0.85)
    cleaned = clean(run.recording, Handling(smoothing=smoothing))
    if watch is not None:
        watch(0.95)
    result = None
    if machine is not None and (standing := standing_or_none(machine)) is not None:
        result = solve([case_now(standing, CaseBuilder(standing, cleaned.duty))])[0]
    return Read(run=run, cleaned=cleaned, result=result)


def logged_peaks(read: Read) -> dict[str, float]:
    """Greatest value of every other column that was recorded, by its role and unit."""
    units = {"brake_pressure": "Pa"}
    return {f"{role}_{units.get(role, 'C')}": float(column.max()) for role, column in read.run.others.items()}


def temperature_logs(run: RecordedRun) -> dict[str, str]:
    """Temperatures recorded with a kept run, by axle, as logs a calibration takes: seconds and degC, one a second."""
    kept = RunFile.objects.filter(run=run).first()
    if kept is None:
        return {}
    uses = [Use(**use) for use in run.uses]
    if not any(use.role.endswith("_temperature") for use in uses):
        return {}
    read = read_run(decode(zlib.decompress(bytes(kept.content)), MOST_KEPT_BYTES), uses)
    t = read.recording.t_s - read.recording.t_s[0]
    seconds = np.arange(0.0, t[-1], 1.0)
    return {
        role.removesuffix("_temperature"): "\n".join(
            f"{second:.0f},{value:.1f}" for second, value in zip(seconds, np.interp(seconds, t, column), strict=True)
        )
        for role, column in read.others.items()
        if role.endswith("_temperature")
    }


def summary_of(read: Read) -> dict[str, float]:
    """What is kept beside a run, for the day someone asks what was done to it."""
    found = read.cleaned
    return {
        "rows": read.run.rows,
        "bad": len(read.run.bad),
        "rate_Hz": found.rate_Hz,
        "noise_mps": found.noise_mps,
        "spikes": found.spikes,
        "gaps": found.gaps,
        "gap_s": found.gap_s,
        "standing_s": found.standing_s,
        "distance_m": found.distance_m,
        "brakings": len(found.brakings),
        "laps": len(found.laps),
        **logged_peaks(read),
    }


def log_a_run(machine: Machine, duty: Duty, settings: LoggerSettings, kind: str, seed: int) -> Delivery:
    """Have the stand-in logger record the machine on a duty."""
    facts = duties.duty_facts(machine, duty)
    loop = 1000.0 * facts.lap_km if facts.lap_km else 1300.0
    return StandInLogger(as_trace(facts.duty), settings, seed=seed, kind=kind, loop_m=loop).deliver()
