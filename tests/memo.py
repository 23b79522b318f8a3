"""The engine's answers, kept while tests of what lies above it run: the same candidate is not driven twice.

What comes out is what the engine gave for the very same bytes. Tests of the engine itself run without.
"""

from __future__ import annotations

import hashlib
from collections import OrderedDict
from collections.abc import Iterator
from typing import Any
from unittest.mock import patch

import pytest

from thermaxis.core.physics import batch

MOST = 60_000
_known: OrderedDict[bytes, tuple[Any, Any, Any]] = OrderedDict()
_drive: Any = batch.__dict__["run_batch"]


def _remembering(axles: Any, vehicles: Any, *rest: Any) -> None:
    """Each candidate by itself, once in a process."""
    *asked, discs, motion, found_axles, found_runs, found_stops = rest
    shared = hashlib.blake2b(digest_size=16)
    for part in asked:
        shared.update(part.tobytes())
    for i in range(len(vehicles)):
        one = slice(i, i + 1)
        digest = shared.copy()
        digest.update(axles[one].tobytes())
        digest.update(vehicles[one].tobytes())
        kept = _known.get(digest.digest())
        if kept is not None:
            found_axles[one], found_runs[one], found_stops[one] = kept
            continue
        into = found_axles[one], found_runs[one], found_stops[one]
        _drive(axles[one], vehicles[one], *asked, discs, motion, *into)
        _known[digest.digest()] = (into[0].copy(), into[1].copy(), into[2].copy())
        if len(_known) > MOST:
            _known.popitem(last=False)


@pytest.fixture(scope="module", autouse=True)
def engine() -> Iterator[None]:
    """What the engine has answered in this process is not computed again."""
    with patch.object(batch, "run_batch", _remembering):
        yield
