"""A run as it stands: its events put through the engine, and the car the stand-in pyrometer reads."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from thermaxis.apps.bed.models import BeddingRecord, BeddingRun
from thermaxis.apps.fitted.parts import AXLES
from thermaxis.apps.fitted.standing import Standing as Machined
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.solving.bedding import rows_from, setting_of
from thermaxis.core.errors import SolveError
from thermaxis.core.planning.bedding.run import Event, Standing, driven_stops
from thermaxis.core.planning.bedding.run import standing_of as run_standing
from thermaxis.core.planning.bedding.setting import Road, Setting
from thermaxis.devices.bedding_pyrometer import BeddingPyrometer, StandInBeddingPyrometer


@dataclass(frozen=True, kw_only=True)
class Running:
    """A run with where it stands, and what it was planned for."""

    run: BeddingRun
    setting: Setting
    standing: Standing


def setting_for(record: BeddingRecord) -> Setting:
    """The machine as it stands, with the road the plan was kept for. SolveError where its pads are off."""
    machined = standing_of(record.machine)
    check_on(record, machined)
    road = Road(top_speed_mps=record.order["top_speed_mps"], hard_g=record.order["hard_g"])
    return setting_of(machined, road)


def check_on(record: BeddingRecord, machined: Machined) -> None:
    """SolveError where other pads are on than the plan was kept for."""
    if any(machined.pads(axle).pk != getattr(record, f"{axle}_pads_id") for axle in AXLES):
        raise SolveError("Other pads are on by now: keep a plan for them.")


def events_of(run: BeddingRun) -> list[Event]:
    """What was said of a run, in order."""
    return [
        Event(
            kind=row.kind,
            at_s=row.at_s,
            axle=row.axle,
            value_C=row.value_C,
            since_s=row.since_s,
            moving_mps=row.moving_mps,
        )
        for row in run.events.all()
    ]


def running(run: BeddingRun) -> Running:
    """Where a run stands."""
    record = run.record
    setting = setting_for(record)
    rows = rows_from(record.plan["rows"])
    target = record.plan["steps"][-1]["front_C"]
    return Running(run=run, setting=setting, standing=run_standing(setting, rows, events_of(run), target))


def pyrometer_of(run: BeddingRun) -> BeddingPyrometer:
    """The stand-in, held at a car that is cooled otherwise than anybody knows."""
    rows = rows_from(run.record.plan["rows"])
    setting = setting_for(run.record)
    hidden = float(np.random.default_rng(run.seed).uniform(0.7, 1.4))
    return StandInBeddingPyrometer(setting, driven_stops(setting, rows, events_of(run)), hidden, run.seed)
