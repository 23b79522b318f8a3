"""Keep set-ups of a machine, put one on it, or take one out of the list."""

from __future__ import annotations

from collections.abc import Mapping

from django.utils import timezone

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.fitted.actions.correct import Value, change_parts, part_values
from thermaxis.apps.fitted.standing import standing_of
from thermaxis.apps.garage.models import Machine, SetUp
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import Action
from thermaxis.apps.log.actions import set_removed
from thermaxis.apps.machine.actions.change_machine import change_machine
from thermaxis.apps.machine.whatif import compare
from thermaxis.apps.solving.in_force import InForce
from thermaxis.core.errors import FieldError, SolveError

KEEP_SET_UP = Action("keep_set_up", "Set-up kept", kind="machine")
USE_SET_UP = Action("use_set_up", "Set-up used", kind="machine")
REMOVE_SET_UP = Action("remove_set_up", "Set-up taken out or brought back", kind="machine")


def keep_set_up(
    scope: Scope, state: InForce, name: str, changes: Mapping[str, float | None], price: float | None
) -> SetUp:
    """Keep a set-up that can be computed: the numbers that differ, by their paths. FieldError names one that cannot."""
    known = {**state.standing.numbers(), **part_values(state.standing)}
    for path, value in changes.items():
        if path not in known:
            raise FieldError(path, value, "one of the machine's numbers or its parts'")
    compare(state, changes, 200.0, 200.0)
    with act(scope, KEEP_SET_UP, state.machine) as entry:
        row = SetUp.objects.create(
            workshop=scope.workshop, machine=state.machine, name=name, changes=dict(changes), price=price
        )
        entry.about(row)
    return row


def use_set_up(scope: Scope, machine: Machine, set_up: SetUp) -> Machine:
    """Put a set-up on the machine; how it stood before is kept as a set-up of its own, so that it can go back."""
    with act(scope, USE_SET_UP, machine, set_up) as entry:
        if set_up.removed_at is not None:
            raise SolveError("This set-up is not in the list any more: it may have been put on already.")
        standing = standing_of(machine)
        known, pieces = standing.numbers(), part_values(standing)
        numbers: dict[str, float | None] = {path: value for path, value in set_up.changes.items() if path in known}
        parts: dict[str, Value] = {path: value for path, value in set_up.changes.items() if path in pieces}
        before = {path: known[path] for path in numbers} | {path: pieces[path] for path in parts}
        if numbers:
            change_machine(scope, machine, numbers)
        if parts:
            change_parts(scope, machine, parts)
        today = timezone.localdate().isoformat()
        row = SetUp.objects.create(
            workshop=scope.workshop,
            machine=machine,
            name=f"Before {set_up.name}, {today}"[:120],
            changes=before,
            # Its parts are on the shelf.
            price=0.0,
        )
        set_removed(scope, REMOVE_SET_UP, set_up, True)
        entry.about(row)
    return machine
