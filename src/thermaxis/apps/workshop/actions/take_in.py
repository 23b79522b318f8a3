"""Read a workshop, or a machine with its log, in from a file; hand a machine over."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.garage.models import Machine, Owner
from thermaxis.apps.log.act import act
from thermaxis.apps.log.action import OWNERS, Action
from thermaxis.apps.workshop.portable.coming_in import Numbers, check_document, make_rows
from thermaxis.core.errors import FieldError, SolveError

HAND_OVER = Action("hand_over", "Handed over", kind="machine")
TAKE_IN_MACHINE = Action("take_in_machine", "Machine taken in from another workshop", kind="machine")
TAKE_IN_WORKSHOP = Action("take_in_workshop", "Workshop read in from a file", kind="machine", roles=OWNERS)

Draw = Callable[[Scope, Numbers], None]


def take_in_workshop(scope: Scope, document: Any, draw: Draw) -> int:
    """Read a workshop's file into one that has nothing yet; every row or none. Gives how many.

    Nothing of it stays unless every page can `draw` what came in.
    """
    found = check_document(document, "workshop")
    with act(scope, TAKE_IN_WORKSHOP) as entry:
        if Machine.objects.of(scope.workshop).exists() or Owner.objects.of(scope.workshop).exists():
            raise SolveError("This workshop has machines already: make another one to read a file in.")
        numbers = make_rows(scope, found, merge=False)
        draw(scope, numbers)
        if isinstance(document.get("currency"), str):
            scope.workshop.currency = document["currency"][:4]
            scope.workshop.save(update_fields=["currency"])
        count = sum(map(len, numbers.values()))
        entry.changed("rows", 0, count)
    return count


def take_in_machine(scope: Scope, document: Any, draw: Draw) -> Machine:
    """Read a machine of another workshop in with its log; parts and owners of a name that is here are those here.

    Nothing of it stays unless every page can `draw` what came in.
    """
    found = check_document(document, "machine")
    with act(scope, TAKE_IN_MACHINE) as entry:
        numbers = make_rows(scope, found, merge=True)
        machines = list(numbers[Machine].values())
        if len(machines) != 1:
            raise FieldError("file", f"{len(machines)} machines", "one machine")
        draw(scope, numbers)
        machine = Machine.objects.get(pk=machines[0])
        entry.on(machine)
        entry.about(machine)
    return machine


def hand_over(scope: Scope, machine: Machine, owner: str) -> Machine:
    """Give a machine to another owner of the workshop, with its log. FieldError without a name."""
    with act(scope, HAND_OVER, machine) as entry:
        name = owner.strip()
        if not name or len(name) > 120:
            raise FieldError("owner", owner[:40], "a name, at most 120 characters")
        before = machine.owner.name
        row, _ = Owner.objects.get_or_create(workshop=scope.workshop, name=name)
        machine.owner = row
        machine.save(update_fields=["owner"])
        entry.changed("owner", before, row.name)
        entry.about(machine)
    return machine
