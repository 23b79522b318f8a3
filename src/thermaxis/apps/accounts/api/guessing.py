"""Too many passwords that were wrong, as an answer."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from ninja.errors import HttpError

from thermaxis.apps.accounts.sessions import TooManyAttempts


@contextmanager
def guessing() -> Iterator[None]:
    """Whoever guesses is told to wait."""
    try:
        yield
    except TooManyAttempts:
        raise HttpError(429, "Too many failed attempts: wait a quarter of an hour.") from None
