"""Where a stage stands: what each stage app says of a machine, and the rail shows."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from thermaxis.core.said import Said

StageState = Literal["empty", "started", "done", "attention"]


@dataclass(frozen=True, kw_only=True)
class Stage:
    """State of one stage on the rail, computed from what is there."""

    name: str
    state: StageState
    note: Said | None = None
