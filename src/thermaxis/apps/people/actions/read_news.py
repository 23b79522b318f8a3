"""Somebody has read what an upgrade changed."""

from __future__ import annotations

from thermaxis import __version__
from thermaxis.apps.accounts.changes import change
from thermaxis.apps.accounts.models import Membership
from thermaxis.apps.accounts.scope import Scope


def read_news(scope: Scope) -> None:
    """Up to this version; in all of their workshops, as it is one server that was upgraded. No entry of the log."""
    with change():
        Membership.objects.filter(user=scope.user).update(read_news_of=__version__)
