"""What was said of a set's bedding: by hand, by a recorded drive, by the look of the ring."""

from __future__ import annotations

import dataclasses
import datetime as dt
from collections.abc import Mapping

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.bed.content import worn_m
from thermaxis.apps.bed.models import BeddingRecord
from thermaxis.apps.bed.proving import prove_run
from thermaxis.apps.fitted.actions.date_fitting import check_day
from thermaxis.apps.fitted.models import BeddingResult
from thermaxis.apps.fitted.parts import AXLES
from thermaxis.apps.fitted.standing import Standing, standing_of
from thermaxis.apps.garage.models import Machine, RecordedRun
from thermaxis.apps.log.act import Entry, act
from thermaxis.apps.log.action import DRIVERS, Action
from thermaxis.core.errors import FieldError
from thermaxis.core.messages import proof as say
from thermaxis.core.planning.bedding.looks import look_named
from thermaxis.core.planning.bedding.proof import Proof
from thermaxis.core.said import Said

MARK_PLAN_DONE = Action("mark_plan_done", "Bedding done or undone", kind="bedding", roles=DRIVERS, gives_history=True)
KEEP_PROOF = Action("keep_proof", "Bedding proved by a log", kind="bedding", roles=DRIVERS, gives_history=True)
LOOK_AT_RING = Action("look_at_ring", "Look of the rings said", kind="bedding", roles=DRIVERS, gives_history=True)
REMOVE_BEDDING_RESULT = Action(
    "remove_bedding_result", "Bedding result taken out or brought back", kind="bedding", roles=DRIVERS
)


def told(
    entry: Entry,
    standing: Standing,
    axle: str,
    word: str,
    source: str,
    on: dt.date,
    *,
    text: Said | None = None,
    look: str = "",
    wear_m: float = 0.0,
) -> BeddingResult:
    """Write one thing down of the pads that are on an axle, on the rings they run on."""
    row = BeddingResult.objects.create(
        workshop=standing.machine.workshop,
        machine=standing.machine,
        axle=axle,
        pad_set=standing.pads(axle),
        rotor_pair=standing.rotors(axle),
        on=on,
        odometer_km=standing.machine.odometer_km,
        word=word,
        source=source,
        look=look,
        text=dataclasses.asdict(text) if text is not None else None,
        wear_m=wear_m,
    )
    entry.changed(f"{axle}.bedding", None, word)
    entry.about(row, standing.pads(axle))
    return row


def by_hand(scope: Scope, record: BeddingRecord, on: dt.date) -> None:
    """A kept plan was driven as it stands: what it reaches, these pads have reached. Others than its own are left."""
    with act(scope, MARK_PLAN_DONE, record) as entry:
        standing, plan = standing_of(record.machine), record.plan
        for axle in AXLES:
            if standing.pads(axle).pk != getattr(record, f"{axle}_pads_id"):
                continue
            reached = plan["reached"] if axle == "front" else plan["rear_reached"]
            word = "bedded" if reached else "partly"
            told(entry, standing, axle, word, "hand", on, wear_m=worn_m(plan, axle))


def take_back_hand(scope: Scope, record: BeddingRecord) -> None:
    """What ticking a plan off said is not so."""
    if record.done_on is None:
        return
    sets = [record.front_pads_id, record.rear_pads_id]
    with act(scope, MARK_PLAN_DONE, record):
        BeddingResult.objects.there().filter(pad_set_id__in=sets, source="hand", on=record.done_on).delete()


def keep_proof(scope: Scope, machine: Machine, run: RecordedRun, on: dt.date) -> Proof:
    """Take a recorded drive as the bedding of the pads that are on, and keep what it did to each axle."""
    proof = prove_run(standing_of(machine), run)
    with act(scope, KEEP_PROOF, machine) as entry:
        standing = standing_of(machine)
        check_day(standing.day, on)
        for axle in proof.axles:
            told(entry, standing, axle.axle, axle.word, "log", on, text=axle.text, wear_m=proof.wear_m[axle.axle])
    return proof


def look_at_ring(scope: Scope, machine: Machine, axle: str, look: str, on: dt.date) -> BeddingResult:
    """Say what an axle's ring shows after bedding. FieldError for an axle or a look there is not."""
    if axle not in AXLES:
        raise FieldError("axle", axle, "front or rear")
    found = look_named(look)
    with act(scope, LOOK_AT_RING, machine) as entry:
        standing = standing_of(machine)
        check_day(standing.day, on)
        text = say.RING_SAYS(look=found.label[0].lower() + found.label[1:])
        return told(entry, standing, axle, found.verdict, "ring", on, text=text, look=look)


def run_over(
    entry: Entry, standing: Standing, words: Mapping[str, str], wear_m: Mapping[str, float], on: dt.date
) -> None:
    """A run came to its end: what it did to both axles."""
    for axle in AXLES:
        told(entry, standing, axle, words[axle], "run", on, wear_m=wear_m[axle])
