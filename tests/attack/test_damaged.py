"""Damaged files of every kind, a few of each; the long run is `make damaged`."""

from __future__ import annotations

import json
import random
from pathlib import Path
from typing import Any

import pytest

from tests.attack import files
from tests.attack.damaged import clients, rows_of_tables, send_damaged, ways
from thermaxis.apps.accounts.models import Workshop

# A backup holds what is committed.
pytestmark = pytest.mark.django_db(transaction=True)


def test_what_is_whole_is_taken_in_and_what_is_damaged_changes_nothing(
    workshop: Workshop, tmp_path: Path, settings: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    settings.VAR = tmp_path
    kinds = ways(*clients(tmp_path), tmp_path)
    before = rows_of_tables()
    found = send_damaged(kinds, 2 * len(kinds), random.Random(7))
    assert found.wrong == []
    assert sum(count for (_, status), count in found.answers.items() if status >= 400) > len(kinds)
    assert rows_of_tables() == before
    # Refused for their damages, and for nothing else.
    monkeypatch.setattr(files, "mutated", lambda content, dice: content)
    monkeypatch.setattr(files, "nudged", lambda text, dice: text)
    monkeypatch.setattr(files, "mutated_zip", lambda content, dice: content)
    monkeypatch.setattr(files, "mutated_tree", lambda document, dice: json.dumps(document).encode())
    whole = send_damaged(kinds, len(kinds), random.Random(7))
    assert whole.wrong == []
    assert {name: status for name, status in whole.answers if status >= 400} == {}
