"""A bedding run: begun, what the passenger says of it, ended."""

from __future__ import annotations

import secrets
from collections.abc import Sequence
from dataclasses import dataclass

from django.utils import timezone

from thermaxis.apps.accounts.models import Reach
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.bed.actions.results import run_over, told
from thermaxis.apps.bed.models import BeddingRecord, BeddingRun, RunEvent
from thermaxis.apps.bed.running import check_on, running
from thermaxis.apps.fitted.parts import AXLES
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import DRIVERS, Action
from thermaxis.core.errors import FieldError, SolveError
from thermaxis.core.planning.bedding.run import Event

START_RUN = Action("start_run", "Bedding run begun", kind="bedding", roles=DRIVERS, gives_history=True)
SAY_RUN = Action(
    "say_run", "Bedding run goes on", kind="bedding", roles=DRIVERS, keys=Reach.READINGS, nearby=True, quiet=True
)
END_RUN = Action("end_run", "Bedding run ended", kind="bedding", roles=DRIVERS)

MOST_EVENTS = 1000


@dataclass(frozen=True, kw_only=True)
class Said:
    """One event and the token of the device it was said on: said twice it is one."""

    token: str
    event: Event


def start_run(scope: Scope, record: BeddingRecord, token: str) -> BeddingRun:
    """Begin to drive a kept plan; begun again with the same token it is the same run."""
    with act(scope, START_RUN, record) as entry:
        standing = standing_of(record.machine)
        check_on(record, standing)
        run = BeddingRun.objects.filter(record=record, token=token).first()
        if run is not None:
            entry.nothing = True
            return run
        run = BeddingRun.objects.create(
            workshop=scope.workshop,
            record=record,
            token=token,
            started_at=timezone.now(),
            seed=secrets.randbelow(2**31),
        )
        for axle in AXLES:
            told(entry, standing, axle, "begun", "run", standing.day)
        entry.about(run)
    return run


def say_run(scope: Scope, run: BeddingRun, said: Sequence[Said]) -> BeddingRun:
    """Take what was said of a run, in order; what is there already is passed over. SolveError once it has ended."""
    with act(scope, SAY_RUN, run) as entry:
        known = set(run.events.values_list("token", flat=True))
        new = [one for one in said if one.token not in known]
        if not new:
            entry.nothing = True
            return run
        if run.ended_at is not None:
            raise SolveError("This run has ended: what was said after it is not counted.")
        if len(known) + len(new) > MOST_EVENTS:
            raise FieldError("events", len(known) + len(new), f"at most {MOST_EVENTS} of a run")
        for one in {one.token: one for one in new}.values():
            event = one.event
            RunEvent.objects.create(
                run=run,
                token=one.token,
                kind=event.kind,
                at_s=event.at_s,
                axle=event.axle,
                value_C=event.value_C,
                since_s=event.since_s,
                moving_mps=event.moving_mps,
                by=scope.user.get_username(),
            )
        entry.about(run)
    return run


def end_run(scope: Scope, run: BeddingRun) -> BeddingRun:
    """End a run: what it reached is written down of both axles' pads; ending it twice changes nothing."""
    with act(scope, END_RUN, run) as entry:
        if run.ended_at is not None:
            entry.nothing = True
            return run
        found = running(run).standing
        record = run.record
        standing = standing_of(record.machine)
        run.ended_at = timezone.now()
        run.save(update_fields=["ended_at"])
        if found.did:
            run_over(entry, standing, found.words, found.wear_m, standing.day)
            record.done_on = standing.day
            record.save(update_fields=["done_on"])
        entry.changed("ended", False, True)
        entry.about(run)
    return run
