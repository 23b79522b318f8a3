"""Fit a chosen set to a machine, or take that back."""

from __future__ import annotations

import datetime as dt
import json

from django.db import transaction

from thermaxis import __version__
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.garage.duty_mapping import duty_facts
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.work import querysets
from thermaxis.apps.work.compute import duty_or_error
from thermaxis.apps.work.mapping import CaseBuilder
from thermaxis.apps.work.models import FittedSet
from thermaxis.core.errors import FieldError, SolveError
from thermaxis.formats.case_file import write_case


def fit_set(machine: Machine, workshop: Workshop, key: str, reason: str, on: dt.date) -> FittedSet:
    """Fit the candidate with this key at today's odometer; the set that was on comes off and keeps its history.

    The case it was chosen by and the engine's version are kept with it. FieldError if the machine does not take it.
    """
    parts = {entry.key: entry for entry in querysets.candidate_parts(machine, workshop)}
    if key not in parts:
        raise FieldError("key", key, "a candidate this machine takes")
    chosen = parts[key]
    duty = duty_or_error(machine)
    facts = duty_facts(machine, duty)
    case = CaseBuilder(machine, facts.duty, facts.conditions).case(chosen)
    with transaction.atomic():
        machine.sets.filter(removed_on=None).update(removed_on=on)
        return FittedSet.objects.create(
            workshop=workshop, machine=machine, front_pad=chosen.front_pad, rear_pad=chosen.rear_pad,
            front_rotor=chosen.front_rotor, rear_rotor=chosen.rear_rotor, duty=duty, fitted_on=on,
            fitted_km=machine.odometer_km, inputs=json.loads(write_case(case)), reason=reason,
            engine_version=__version__,
        )  # fmt: skip


def undo_fit(machine: Machine) -> FittedSet:
    """Take the last fitting back: the set before it is on again. Refused once the new set has history of its own."""
    current = querysets.set_in_force(machine)
    before = machine.sets.exclude(removed_on=None).order_by("-removed_on", "-pk").first()
    if current is None or before is None:
        raise SolveError("There is no earlier set to go back to.")
    if current.measurements.exists() or current.bedding.exists():
        raise SolveError("This set has been bedded or measured: fit the other one instead, so that its history stays.")
    with transaction.atomic():
        current.delete()
        before.removed_on = None
        before.save(update_fields=["removed_on"])
    return before
