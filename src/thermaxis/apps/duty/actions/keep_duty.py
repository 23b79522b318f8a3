"""Add a duty as it was sent, or change one."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from thermaxis.apps.accounts.scope import Scope
from thermaxis.apps.duty.planned import planned
from thermaxis.apps.garage import duty_mapping, querysets
from thermaxis.apps.garage.actions.save_duty import save_duty
from thermaxis.apps.garage.mapping import under
from thermaxis.apps.garage.models import Duty

WORDS = ("name", "use", "note", "events_per_month")


def keep_duty(scope: Scope, duty: Duty | None, fields: Mapping[str, Any], version: int | None = None) -> Duty:
    """Keep a duty from its fields, over an existing one that is still of this version. FieldError names what cannot be.

    Driven once before it is written, by the first machine there is: what cannot be driven is not kept.
    """
    found = planned(scope.workshop, fields)
    machine = querysets.machines(scope.workshop).first()
    if machine is not None:
        with under("shape"):
            duty_mapping.facts_of(machine, found.plan)
    words = {name: fields[name] for name in WORDS}
    return save_duty(
        scope, duty, found.plan, words, circuit=found.circuit, run=found.run, parts=found.parts, version=version
    )
