"""The address people use for this server, as its settings say it: what a request calls the server is anybody's word."""

from __future__ import annotations

from django.conf import settings


def public_address() -> str:
    """What links in mails and pages begin with, a slash at its end."""
    return f"{settings.PUBLIC_ADDRESS.rstrip('/')}/"
