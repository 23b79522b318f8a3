"""The exception tree of the core.

ThermaxisError
├── FieldError        one named field holds a value that is not allowed
├── SolveError        the numbers are allowed, but no solution exists for them
└── Stopped           whoever asked for the work does not want it any more
"""

from __future__ import annotations

from typing import Any

from thermaxis.core.said import Said, verbatim


class ThermaxisError(Exception):
    """Base of every error the core raises on purpose."""


class FieldError(ThermaxisError):
    """A field, by its dotted path, holds a value outside what is allowed; `said` where a reader's units matter."""

    def __init__(self, path: str, value: Any, allowed: str, said: Said | None = None) -> None:
        self.path = path
        self.value = value
        self.allowed = allowed
        self.said = said or verbatim(allowed)
        super().__init__(f"'{path}' must be {allowed}: {value!r}")

    def under(self, parent: str) -> FieldError:
        """Return the same error with `parent` put before its path."""
        joiner = "" if self.path.startswith("[") else "."
        return FieldError(f"{parent}{joiner}{self.path}", self.value, self.allowed, self.said)


class SolveError(ThermaxisError):
    """No solution exists for inputs that are each allowed."""


class Stopped(ThermaxisError):
    """The work was stopped by whoever asked for it; what a watch raises."""
