"""What was read and translated last, kept for as long as nobody changes anything it was made of.

A slider asks about the same machine ten times a second; reading it again each time costs more than simulating it.
"""

from __future__ import annotations

import datetime as dt
import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from typing import Any, TypeVar

from django.db import connection
from django.db.models import Subquery
from django.utils import timezone

from thermaxis.apps.accounts.database import Identity, identity
from thermaxis.apps.accounts.locks import one_at_a_time
from thermaxis.apps.accounts.models import MachineStamp, Workshop

Value = TypeVar("Value")
# The workshop's stamp and the machine's, the file they are in, and the day: fluid ages by itself.
Stamp = tuple[str, str, Identity, dt.date]
KEPT = 256
# For what shows something of each.
EVERY_MACHINE = -1
_lock = threading.Lock()
_entries: OrderedDict[Hashable, tuple[Stamp, Any]] = OrderedDict()
_within: ContextVar[dict[Hashable, Any] | None] = ContextVar("within", default=None)


@contextmanager
def kept_within() -> Iterator[None]:
    """A memory for this block alone, for what only reads inside a transaction: nothing changes meanwhile."""
    token = _within.set({})
    try:
        yield
    finally:
        _within.reset(token)


def kept(workshop: Workshop, key: Hashable, build: Callable[[], Value], machine_id: int | None = None) -> Value:
    """What `build` gives, or gave while the workshop was as it is now. The value is shared: nobody may change it.

    Every change that reaches further than one machine gives its workshop another stamp, every other one its machine
    (`log.act`): what shows anything of a machine names it. Inside a transaction nothing is kept: its writes are not
    committed yet, so nobody could see them change.
    """
    place = (workshop.pk, machine_id, key)
    if connection.in_atomic_block:
        within = _within.get()
        if within is None:
            return build()
        if place not in within:
            within[place] = build()
        known: Value = within[place]
        return known
    stamp = _stamp(workshop, machine_id)
    # A page asks several things about one machine at once: the first builds, the others wait for it.
    with one_at_a_time(("kept", place)):
        with _lock:
            found = _entries.get(place)
            if found is not None and found[0] == stamp:
                _entries.move_to_end(place)
                value: Value = found[1]
                return value
        built = build()
        with _lock:
            _entries[place] = (stamp, built)
            while len(_entries) > KEPT:
                _entries.popitem(last=False)
    return built


def _stamp(workshop: Workshop, machine_id: int | None) -> Stamp:
    rows, near = Workshop.objects.filter(pk=workshop.pk), MachineStamp.objects.filter(workshop=workshop)
    if machine_id == EVERY_MACHINE:
        whole = rows.values_list("stamp", flat=True).first() or ""
        own = " ".join(near.order_by("machine_id").values_list("stamp", flat=True))
    else:
        one = near.filter(machine_id=machine_id or 0).values("stamp")
        whole, own = rows.values_list("stamp", Subquery(one)).first() or ("", "")
    return whole, own or "", identity(), timezone.localdate()
