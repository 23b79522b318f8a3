"""Fit a chosen set to a machine, or take that back."""

from __future__ import annotations

import datetime as dt
import json

from thermaxis import __version__
from thermaxis.apps.accounts.changes import change
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.garage.duty_mapping import duty_facts
from thermaxis.apps.garage.models import Machine
from thermaxis.apps.work import querysets
from thermaxis.apps.work.compute import duty_or_error
from thermaxis.apps.work.mapping import CaseBuilder
from thermaxis.apps.work.models import EarlierMounting, FittedSet
from thermaxis.core.errors import FieldError, SolveError
from thermaxis.formats.case_file import write_case


def fit_set(machine: Machine, workshop: Workshop, key: str, reason: str, on: dt.date) -> FittedSet:
    """Fit the candidate with this key at today's odometer; the set that was on comes off and keeps its history.

    The case it was chosen by and the engine's version are kept with it. FieldError if the machine does not take it.
    """
    with change():
        machine.refresh_from_db()
        chosen = querysets.parts_with(machine, workshop, key)
        if chosen is None:
            raise FieldError("key", key, "a candidate this machine takes")
        duty = duty_or_error(machine)
        facts = duty_facts(machine, duty)
        case = CaseBuilder(machine, facts.duty, facts.conditions).case(chosen)
        take_off(machine, on)
        return FittedSet.objects.create(
            workshop=workshop, machine=machine, front_pad=chosen.front_pad, rear_pad=chosen.rear_pad,
            front_rotor=chosen.front_rotor, rear_rotor=chosen.rear_rotor, duty=duty, fitted_on=on,
            fitted_km=machine.odometer_km, inputs=json.loads(write_case(case)), reason=reason,
            engine_version=__version__,
        )  # fmt: skip


def undo_fit(machine: Machine) -> FittedSet:
    """Take the last fitting back: the set before it is on again. Refused once the new set has history of its own."""
    with change():
        current = querysets.set_in_force(machine)
        before = machine.sets.exclude(removed_on=None).order_by("-removed_on", "-pk").first()
        if current is None or before is None:
            raise SolveError("There is no earlier set to go back to.")
        if has_history(current):
            raise SolveError("This set was bedded or measured: fit the other one instead, so that its history stays.")
        current.delete()
        before.removed_on, before.removed_km = None, None
        before.save(update_fields=["removed_on", "removed_km"])
    return before


def mount_set(machine: Machine, fitted: FittedSet, on: dt.date) -> FittedSet:
    """Put a set of this machine that came off back on: it goes on with its own history and measurements.

    SolveError if it is on already, or its shapes no longer suit the machine's calipers and hubs.
    """
    with change():
        machine.refresh_from_db()
        fitted.refresh_from_db()
        if fitted.removed_on is None:
            raise SolveError("This set is on the machine already.")
        axles = {axle.position: axle for axle in machine.axles.all()}
        for position, axle in axles.items():
            pad, rotor = getattr(fitted, f"{position}_pad"), getattr(fitted, f"{position}_rotor")
            if pad.shape != axle.pad_shape or rotor.mount != axle.rotor_mount:
                raise SolveError(f"The {position} parts of this set do not suit the machine's {position} axle now.")
        take_off(machine, on)
        EarlierMounting.objects.create(
            fitted_set=fitted, mounted_on=fitted.fitted_on, mounted_km=fitted.fitted_km, removed_on=fitted.removed_on,
            removed_km=fitted.fitted_km if fitted.removed_km is None else fitted.removed_km,
        )  # fmt: skip
        fitted.fitted_on, fitted.fitted_km, fitted.removed_on, fitted.removed_km = on, machine.odometer_km, None, None
        fitted.save(update_fields=["fitted_on", "fitted_km", "removed_on", "removed_km"])
    return fitted


def take_off(machine: Machine, on: dt.date) -> None:
    """Take the set off that is on, if there is one: its distance ends here."""
    machine.sets.filter(removed_on=None).update(removed_on=on, removed_km=machine.odometer_km)


def has_history(fitted: FittedSet) -> bool:
    """Whether anything has been measured, inspected or bedded on the set, or it has been off and on again."""
    return any(rows.exists() for rows in (fitted.measurements, fitted.bedding, fitted.inspections, fitted.earlier))
