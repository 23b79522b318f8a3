"""A short version of the attack, on the application as it is served; the long one is `make attack`."""

from __future__ import annotations

import json
import random
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from tests.attack.attack import MOST_MB, attack
from tests.attack.kills import ADA, kill_again_and_again
from tests.attack.served import Person, Seen, fill, served


def test_a_short_attack_does_no_harm(tmp_path: Path) -> None:
    with served(tmp_path) as server:
        # As many as there are, however long a busy machine takes; each operation by itself is in tests/api.
        seen, sent, given_away = attack(server, seconds=1e6, each=5, examples=1, every=6)
        memory = server.memory_MB()
    assert seen.faults == []
    assert given_away == []
    assert set(sent.values()) == {5}
    assert seen.by_status[404] > 20
    assert memory < MOST_MB


def test_a_kill_loses_nothing_that_was_answered(tmp_path: Path) -> None:
    """Two hundred of them: `python -m tests.attack.kills 200`."""
    ledger = kill_again_and_again(tmp_path, 1, random.Random(5))
    assert ledger.wrong == []
    assert ledger.answered > 0


def test_a_restart_in_the_middle_of_a_computation_loses_it_only(tmp_path: Path) -> None:
    fill(tmp_path, ADA)
    ask = json.dumps({"mixed": True, "cooling_factor": 0.9, "air_C": None, "weights": None}).encode()
    with served(tmp_path, filled=True) as server, ThreadPoolExecutor(1) as pool:
        ada = Person(server.port, Seen(), "ada")
        machines = ada.json("GET", "/api/machines")[1]
        path = f"/api/machines/{machines[0]['id']}/candidates"
        status, note = ada.json("POST", "/api/log", {"text": "before the end", "on": time.strftime("%Y-%m-%d")})
        assert status == 201
        computation = pool.submit(ada.twin().send, "POST", path, ask, work="the long one", counted=False)
        while not ada.json("GET", "/api/work/the%20long%20one")[1]["under_way"]:
            assert not computation.done()
        server.process.kill()
        server.process.wait()
        assert computation.result()[0] == 0
        ada.hang_up()
    with served(tmp_path, filled=True) as server:
        ada = Person(server.port, Seen(), "ada")
        assert ada.json("GET", "/api/machines") == (200, machines)
        assert note["id"] in [row["id"] for row in ada.json("GET", "/api/log")[1]["entries"]]
        status, found = ada.json("GET", "/api/safekeeping/doctor")
        assert (status, [row for row in found if row["state"] == "over"]) == (200, [])
        # Nothing of it was kept, and nothing is in its way.
        status, choice = ada.json("POST", path, json.loads(ask))
        assert status == 200
        assert len(choice["ranked"]) > 5
        ada.hang_up()
