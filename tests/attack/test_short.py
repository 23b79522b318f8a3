"""A short version of the attack, on the application as it is served; the long one is `make attack`."""

from __future__ import annotations

import random
from pathlib import Path

from tests.attack.attack import MOST_MB, attack
from tests.attack.kills import kill_again_and_again
from tests.attack.served import served


def test_a_short_attack_does_no_harm(tmp_path: Path) -> None:
    with served(tmp_path) as server:
        # As many as there are, however long a busy machine takes for them.
        seen, sent, given_away = attack(server, seconds=1e6, each=15, examples=1)
        memory = server.memory_MB()
    assert seen.faults == []
    assert given_away == []
    assert set(sent.values()) == {15}
    assert seen.by_status[404] > 20
    assert memory < MOST_MB


def test_a_few_kills_lose_nothing_that_was_answered(tmp_path: Path) -> None:
    """Two hundred of them: `python -m tests.attack.kills 200`."""
    ledger = kill_again_and_again(tmp_path, 2, random.Random(5))
    assert ledger.wrong == []
    assert ledger.answered > 0
