"""What was read and translated last, kept for as long as nobody changes anything in the workshop.

A slider asks about the same machine ten times a second; reading it again each time costs more than simulating it.
"""

from __future__ import annotations

import datetime as dt
import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import Any, TypeVar

from django.db import connection
from django.utils import timezone

from thermaxis.apps.accounts.database import Identity, identity
from thermaxis.apps.accounts.locks import one_at_a_time
from thermaxis.apps.accounts.models import Workshop

Value = TypeVar("Value")
# The workshop's stamp, the file it is in, and the day: fluid ages by itself.
Stamp = tuple[str, Identity, dt.date]
KEPT = 64
_lock = threading.Lock()
_entries: OrderedDict[Hashable, tuple[Stamp, Any]] = OrderedDict()


def kept(workshop: Workshop, key: Hashable, build: Callable[[], Value]) -> Value:
    """What `build` gives, or gave while the workshop was as it is now. The value is shared: nobody may change it.

    Every change gives its workshop another stamp (`log.act`). Inside a transaction nothing is kept: its writes are not
    committed yet, so nobody could see them change.
    """
    if connection.in_atomic_block:
        return build()
    place = (workshop.pk, key)
    stamp = _stamp(workshop)
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


def _stamp(workshop: Workshop) -> Stamp:
    stamp = Workshop.objects.filter(pk=workshop.pk).values_list("stamp", flat=True).first()
    return stamp or "", identity(), timezone.localdate()
