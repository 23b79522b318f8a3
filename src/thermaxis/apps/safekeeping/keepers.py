"""Who keeps the whole server: a backup holds every workshop's data, and putting one back changes them all."""

from __future__ import annotations

from thermaxis.apps.accounts.errors import NotAllowed
from thermaxis.apps.accounts.models import Membership, Role, Workshop
from thermaxis.apps.accounts.scope import Scope


def keeps_server(scope: Scope) -> bool:
    """Whether a person owns every workshop there is here."""
    owned = Membership.objects.filter(user=scope.user, role=Role.OWNER).values("workshop")
    return not Workshop.objects.exclude(pk__in=owned).exists()


def must_keep_server(scope: Scope) -> None:
    """NotAllowed for who owns some workshops of this server and not all."""
    if not keeps_server(scope):
        raise NotAllowed(
            "This server holds workshops of others too: its backups are made and put back on the server itself, by "
            "whoever runs it. Your own workshop you take out as a file."
        )
