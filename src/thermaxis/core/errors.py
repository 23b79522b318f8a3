"""The exception tree of the core.

ThermaxisError
├── FieldError        one named field holds a value that is not allowed
├── SolveError        the numbers are allowed, but no solution exists for them
└── Stopped           whoever asked for the work does not want it any more
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from thermaxis.core.said import Said, verbatim


@dataclass(frozen=True, kw_only=True)
class Bounds:
    """Between what a number must lie, in the SI unit of its field: who reads it is told in units of their own.

    `above` and `below`: the bound itself is not allowed. `why` says where a bound comes from, where that is no rule of
    the field alone.
    """

    least: float | None = None
    most: float | None = None
    above: bool = False
    below: bool = False
    why: Said | None = None

    def text(self) -> str:
        """The rule in words, e.g. 'a number > 0 and <= 1'."""
        low, high = (">" if self.above else ">="), ("<" if self.below else "<=")
        bounds = [f"{sign} {bound:g}" for sign, bound in ((low, self.least), (high, self.most)) if bound is not None]
        return " ".join(["a number", " and ".join(bounds)]).strip()


class ThermaxisError(Exception):
    """Base of every error the core raises on purpose."""


class FieldError(ThermaxisError):
    """A field, by its dotted path, holds a value outside what is allowed; `said` where a reader's units matter."""

    def __init__(
        self, path: str, value: Any, allowed: str, said: Said | None = None, bounds: Bounds | None = None
    ) -> None:
        self.path = path
        self.value = value
        self.allowed = allowed
        self.said = said or verbatim(allowed)
        self.bounds = bounds
        super().__init__(f"'{path}' must be {allowed}: {value!r}")

    @classmethod
    def outside(cls, path: str, value: Any, bounds: Bounds, reason: str = "") -> FieldError:
        """The error of a number outside its bounds; `reason` ends the sentence for programs."""
        return cls(path, value, bounds.text() + reason, bounds=bounds)

    def under(self, parent: str) -> FieldError:
        """Return the same error with `parent` put before its path."""
        joiner = "" if self.path.startswith("[") else "."
        return FieldError(f"{parent}{joiner}{self.path}", self.value, self.allowed, self.said, self.bounds)


class SolveError(ThermaxisError):
    """No solution exists for inputs that are each allowed."""


class Stopped(ThermaxisError):
    """The work was stopped by whoever asked for it; what a watch raises."""
