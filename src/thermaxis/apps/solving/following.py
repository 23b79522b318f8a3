"""A machine of somebody's workshop, solved and kept."""

from __future__ import annotations

from thermaxis.apps.accounts.kept import kept
from thermaxis.apps.accounts.models import Role
from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.fitted.standing import machine_of
from thermaxis.apps.solving.in_force import InForce, in_force


def state_of(scope: Scope, machine_id: int) -> InForce:
    """The machine with what is on it on its duty, solved; kept until something is written. Raises NotThere."""
    # What is kept is kept for everybody: whose it is, is asked first.
    if scope.role == Role.DRIVER:
        machine_of(scope, machine_id)
    return kept(scope.workshop, ("state", machine_id), lambda: in_force(machine_of(scope, machine_id)), machine_id)
