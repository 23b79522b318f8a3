"""Keep set-ups of a machine, put one on it, or take one out of the list."""

from __future__ import annotations

from collections.abc import Mapping

from django.utils import timezone

from thermaxis.apps.accounts.changes import change
from thermaxis.apps.garage.actions.change_machine import change_machine
from thermaxis.apps.garage.mapping import paths
from thermaxis.apps.garage.models import Machine, SetUp
from thermaxis.apps.work.actions.change_parts import Value, change_parts, part_values
from thermaxis.apps.work.compute import InForce, set_or_error
from thermaxis.apps.work.whatif import compare
from thermaxis.core.errors import FieldError, SolveError


def keep_set_up(state: InForce, name: str, changes: Mapping[str, float | None], price: float | None) -> SetUp:
    """Keep a set-up that can be computed: the numbers that differ, by their paths. FieldError names one that cannot."""
    known = {**paths(state.machine), **part_values(state.fitted)}
    for path, value in changes.items():
        if path not in known:
            raise FieldError(path, value, "one of the machine's numbers or its parts'")
    compare(state, changes, 200.0, 200.0)
    with change():
        return SetUp.objects.create(
            workshop=state.machine.workshop, machine=state.machine, name=name, changes=dict(changes), price=price
        )


def use_set_up(machine: Machine, set_up: SetUp) -> Machine:
    """Put a set-up on the machine; how it stood before is kept as a set-up of its own, so that it can go back."""
    with change():
        set_up.refresh_from_db()
        if set_up.removed_at is not None:
            raise SolveError("This set-up is not in the list any more: it may have been put on already.")
        fitted = set_or_error(machine)
        rows, pieces = paths(machine), part_values(fitted)
        numbers: dict[str, float | None] = {path: value for path, value in set_up.changes.items() if path in rows}
        parts: dict[str, Value] = {path: value for path, value in set_up.changes.items() if path in pieces}
        before = {path: getattr(*rows[path]) for path in numbers} | {path: pieces[path] for path in parts}
        if numbers:
            change_machine(machine, numbers)
        if parts:
            change_parts(machine, parts)
        today = timezone.localdate().isoformat()
        SetUp.objects.create(
            workshop=machine.workshop,
            machine=machine,
            name=f"Before {set_up.name}, {today}"[:120],
            changes=before,
            # Its parts are on the shelf.
            price=0.0,
        )
        set_removed(set_up, True)
    return machine


def set_removed(set_up: SetUp, removed: bool) -> SetUp:
    """Take a set-up out of the list, or bring it back."""
    set_up.removed_at = timezone.now() if removed else None
    set_up.save(update_fields=["removed_at"])
    return set_up
