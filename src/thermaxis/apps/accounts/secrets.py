"""Secrets that are shown once: what is kept of one is a print."""

from __future__ import annotations

import hashlib
import secrets

BYTES = 32


def new_secret(before: str = "") -> str:
    """A secret of 32 random bytes, as an address or a head carries it."""
    return before + secrets.token_urlsafe(BYTES)


def print_of(secret: str) -> str:
    """What is kept of a secret. It is random and long: one plain hash keeps it as well as many would."""
    return hashlib.sha256(secret.encode("utf-8", "surrogatepass")).hexdigest()
