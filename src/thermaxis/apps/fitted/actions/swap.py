"""A set that was on for one event: put on before it, and what was on before is on again after it."""

from __future__ import annotations

import datetime as dt

from thermaxis.apps.fitted.actions.mount import put_pads_on, read_on
from thermaxis.apps.fitted.models import PadMounting, PadSet
from thermaxis.apps.garage.models import Duty, Machine
from thermaxis.apps.log.models import LogEntry
from thermaxis.core.errors import FieldError, SolveError


def swap_for(
    machine: Machine,
    axle: str,
    pads: PadSet,
    *,
    duty: Duty,
    on: dt.date,
    from_km: float,
    until_km: float,
    back_on: bool,
    entry: LogEntry,
) -> None:
    """Note that a set was on an axle for one event; within an act. FieldError where it was on another machine.

    What was on before comes off when the event begins, and is on again after it where it is `back_on`.
    """
    before = PadMounting.objects.select_related("pad_set", "duty").get(machine=machine, axle=axle, until_on=None)
    if before.pad_set_id == pads.pk:
        return
    if pads.mountings.filter(until_on=None).exists():
        raise FieldError(f"{axle}_pads_id", pads.pk, "a set that is on no other machine or axle")
    # Not before what is on was put on or read: then the road there was driven on it.
    least = max([before.from_km, *(km for _, km in read_on(before))])
    day = max(on, before.from_on)
    start = min(max(from_km, least), until_km)
    put_pads_on(machine, axle, pads, day, duty=duty, entry=entry, km=start)
    if back_on:
        put_pads_on(machine, axle, before.pad_set, day, duty=before.duty, entry=entry, km=until_km)


def swap_back(entry: LogEntry) -> None:
    """Take back what an event's entry put on and off; within an act. SolveError where it was measured since."""
    begun = list(PadMounting.objects.filter(begun_by=entry).order_by("-pk"))
    if any(read_on(row) for row in begun) or any(row.until_on and row.ended_by_id != entry.pk for row in begun):
        raise SolveError("These sets were measured or changed since this event: it stays driven.")
    for row in begun:
        row.delete()
    PadMounting.objects.filter(ended_by=entry).update(until_on=None, until_km=None, ended_by=None)
