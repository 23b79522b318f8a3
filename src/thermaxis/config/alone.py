"""One server for one folder: what is under way, kept and waited for is known in one process's memory only."""

from __future__ import annotations

import fcntl
import os
from pathlib import Path
from typing import IO

_held: list[IO[str]] = []


def hold(folder: Path) -> bool:
    """Take the folder for this process until it ends, however it ends; False where another one has it."""
    folder.mkdir(parents=True, exist_ok=True)
    file = (folder / "lock").open("a+")
    try:
        fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        file.close()
        return False
    file.truncate(0)
    file.write(str(os.getpid()))
    file.flush()
    _held.append(file)
    return True
